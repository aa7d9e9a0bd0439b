"""What was checked at one station and carries along a quiet stretch to others at which it was not.

A stretch is quiet where current (against its forecast) and depth are alike at both stations and at all between, none of
them lost guidance, and both are read here too. Then what a lift, the null or a look aside showed there holds here.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from vessel.core.judge.measures import MEASURES, Batch
from vessel.core.judge.verdict import PROVED, VERDICTS, judge_codes, outcome_of

Floats = NDArray[np.float64]
CARRIED = ("lift", "peak_null", "neighbour")
"""Rules whose evidence carries; the others are read at every station anyway."""
CARRY_M = 10.0
"""How far it carries at most [m]: as far as marks carry a line from one to the next."""
_ALIKE = 0.10
"""How much current or depth may differ on a quiet stretch, as a logarithm of the ratio."""


def carried(batch: Batch, at_m: Floats) -> dict[str, Floats]:
    """Return by rule from where [m] it is carried to each station (n,), NaN where it is not.

    `at_m` (n,): distances along the line [m], in any order. Only from stations that passed by themselves.
    """
    order = np.argsort(at_m, kind="stable")
    middle = 0.5 * (batch.forecast_a[0] + batch.forecast_a[1])
    with np.errstate(divide="ignore", invalid="ignore"):
        level = np.log(batch.amps / np.where(middle > 0, middle, np.nan))[order]
        depth = np.log(batch.depth_m)[order]
    own, _ = judge_codes(batch)
    passed = np.array([v in PROVED for v in VERDICTS])[np.broadcast_to(own, at_m.shape)][order]
    gone = np.broadcast_to(batch.gone, at_m.shape)[order] > 0
    found, rules = {}, {rule.id: rule for rule in batch.rules}
    for rule_id in CARRIED:
        values = np.broadcast_to(np.asarray(MEASURES[rule_id](batch)), at_m.shape)[order]
        sound = passed & np.array([v == v and outcome_of(rules[rule_id], float(v)) == "pass" for v in values])
        origin = np.full(at_m.shape, np.nan)
        for k in np.flatnonzero(np.isnan(values) & ~np.isnan(level) & ~np.isnan(depth)):
            origin[order[k]] = _nearest(int(k), at_m[order], sound, level, depth, gone)
        found[rule_id] = origin
    return found


def _nearest(
    k: int, at_m: Floats, sound: NDArray[np.bool_], level: Floats, depth: Floats, gone: NDArray[np.bool_]
) -> float:
    """The nearest sound station to either side that a quiet stretch leads to from the `k`-th, by distance."""
    best = np.nan
    for step in (-1, 1):
        j = k
        while 0 <= j < len(at_m) and abs(at_m[j] - at_m[k]) <= CARRY_M and not gone[j]:
            # what was not read there does not disturb the stretch, what was must be alike
            if abs(level[j] - level[k]) > _ALIKE or abs(depth[j] - depth[k]) > _ALIKE:
                break
            if sound[j]:
                if not abs(best - at_m[k]) <= abs(at_m[j] - at_m[k]):
                    best = float(at_m[j])
                break
            j += step
    return best
