"""What was checked at one station and carries along a quiet stretch to others at which it was not.

A stretch is quiet where current (against its forecast) and depth are alike at both stations and at all between, none of
them lost guidance, and both are read here too. Then what a lift, the null or a look aside showed there holds here.
"""

from __future__ import annotations

from functools import cache

import numpy as np

from vessel.core.base.arrays import Floats, Index, Mask
from vessel.core.judge.station.batch import Batch
from vessel.core.judge.station.verdict import PROVED, VERDICTS, judge_codes, passing

CARRIED = ("lift", "peak_null", "neighbour")
"""Rules whose evidence carries; the others are read at every station anyway."""
CARRY_M = 10.0
"""How far it carries at most [m]: as far as marks carry a line from one to the next."""
_ALIKE = 0.10
"""How much current or depth may differ on a quiet stretch, as a logarithm of the ratio."""


def carried(batch: Batch, at_m: Floats) -> dict[str, Floats]:
    """Return the station from which evidence is carried to each other one.

    Only stations that passed by themselves hand on evidence.

    Args:
        batch: Stations of one trace: n of them.
        at_m: Distances along the line in any order, shape (n,) [m].

    Returns:
        By rule: the distance it is carried from, shape (n,) [m]; NaN if it is not.
    """
    order = np.argsort(at_m, kind="stable")
    middle = 0.5 * (batch.forecast_a[0] + batch.forecast_a[1])
    with np.errstate(divide="ignore", invalid="ignore"):
        level = np.log(batch.amps / np.where(middle > 0, middle, np.nan))[order]
        depth = np.log(batch.depth_m)[order]
    own, _ = judge_codes(batch)
    passed = np.array([v in PROVED for v in VERDICTS])[np.broadcast_to(own, at_m.shape)][order]
    gone = np.broadcast_to(batch.gone, at_m.shape)[order] > 0
    found, rules, here = {}, {rule.id: rule for rule in batch.rules}, at_m[order]

    @cache  # what was left out at a station is mostly left out together
    def quiet(k: int, j: int) -> bool:
        return _quiet(k, j, level, depth, gone)

    for rule_id in CARRIED:
        values = np.broadcast_to(np.asarray(rules[rule_id].measure(batch)), at_m.shape)[order]
        sound = np.flatnonzero(passing(rules[rule_id], values) & passed)
        origin = np.full(at_m.shape, np.nan)
        for k in np.flatnonzero(np.isnan(values) & ~np.isnan(level) & ~np.isnan(depth)):
            nearest = [j for j in _beside(int(k), sound, here) if quiet(int(k), j)]
            if nearest:
                origin[order[k]] = here[min(nearest, key=lambda j: abs(here[j] - here[k]))]
        found[rule_id] = origin
    return found


def _beside(k: int, sound: Index, at_m: Floats) -> list[int]:
    """The sound stations next to the `k`-th on either side, by distance, that are near enough."""
    after = int(np.searchsorted(sound, k))
    around = sound[max(after - 1, 0) : after + 1]
    return [int(j) for j in around if abs(at_m[j] - at_m[k]) <= CARRY_M]


def _quiet(k: int, j: int, level: Floats, depth: Floats, gone: Mask) -> bool:
    """Whether current and depth are alike from one station to the other; what was not read disturbs nothing."""
    between = slice(min(j, k), max(j, k) + 1)
    apart = np.fmax(np.abs(level[between] - level[k]), np.abs(depth[between] - depth[k]))
    return not (gone[between].any() or (apart > _ALIKE).any())
