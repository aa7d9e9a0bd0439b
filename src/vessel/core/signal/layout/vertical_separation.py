"""Lines drawn through each other: where depths are known only as ranges, one is taken to pass under the other."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.drawn_line import nearest_on
from vessel.core.model.network import Bond, SiteLine, Xyd
from vessel.core.signal.layout.closest_approach import approaches, bonded_there

CLEAR_M = 0.15
"""Soil left between two lines that are taken to pass each other [m]."""
_RAMP_M = 0.5  # a line goes down and up again within this length
_STEP_M, _COARSE = 0.1, 20
_SAME_M = 0.06
_PASSES = 3


@dataclass(frozen=True)
class Dip:
    """`line` is taken to pass under `other` from `start_m` to `end_m` along it, at `depth_m` [m]."""

    line: str
    other: str
    start_m: float
    end_m: float
    depth_m: float


def separate(lines: Sequence[SiteLine], bonds: Sequence[Bond]) -> tuple[list[SiteLine], list[Dip]]:
    """Separate overlapping lines vertically, the deeper one moved down.

    Lines may touch where a bond joins them. The last answers are kept: every line of a plan asks how all of it lies.

    Args:
        lines: Lines of a site.
        bonds: Bonds and tees between lines.

    Returns:
        The lines, and each place where one was moved.
    """
    lie, dips = _passing(tuple(line.bare for line in lines), tuple(bonds))
    return [_moved(line, there.route) for line, there in zip(lines, lie, strict=True)], [*dips]


@lru_cache(maxsize=1024)
def _moved(line: SiteLine, route: tuple[Xyd, ...]) -> SiteLine:
    return line if line.route == route else replace(line, route=route)


@lru_cache(maxsize=32)
def _passing(lines: tuple[SiteLine, ...], bonds: tuple[Bond, ...]) -> tuple[tuple[SiteLine, ...], tuple[Dip, ...]]:
    """Lines without their ends as they pass each other, and each place where one was moved."""
    found = {line.name: line for line in lines}
    # shallow ones keep their place; names settle ties, so that the order of drawing does not matter
    order = sorted(lines, key=lambda x: (max(d for _, _, d in x.route), x.name))
    dips: list[Dip] = []
    for k, line in enumerate(order):
        if line.construction is None:
            continue
        for again in range(_PASSES + len(order)):  # passing under one may bring it into the next
            under = [d for above in order[:k] for d in _dips(found[line.name], found[above.name], bonds)]
            if not under:
                break
            if again >= _PASSES:  # among ramps of others there is no way that passes each by itself
                under = [_all_along(d, found[d.line], found[d.other]) for d in under]
            found[line.name] = _lowered(found[line.name], under)
            dips += under
    return tuple(found[line.name] for line in lines), tuple(dips)


def _dips(line: SiteLine, above: SiteLine, bonds: Sequence[Bond]) -> list[Dip]:
    if line.construction is None or above.construction is None:
        return []
    need = _need(line, above)
    found: list[Dip] = []
    for _, at, at_above in approaches(line, above, limit_m=need * (1 - 1e-6)):
        if bonded_there(bonds, line, above, at, at_above):
            continue
        # at a corner the legs on both sides of it come close
        ends = line.corner_distances_m
        for leg in np.flatnonzero((ends[:-1] <= at + _SAME_M) & (at - _SAME_M <= ends[1:])):
            dip = _dip(line, above, need, (float(ends[leg]), float(ends[leg + 1])))
            if dip is not None and dip not in found:
                found.append(dip)
    return found


def _need(*lines: SiteLine) -> float:
    """How far apart [m] two lines are to lie, middle to middle."""
    return CLEAR_M + sum(x.construction.outer_radius_m for x in lines if x.construction is not None)


def _dip(line: SiteLine, above: SiteLine, need: float, leg: tuple[float, float]) -> Dip | None:
    """Where a leg of `line` has to pass under `above`, `need` [m] clear of it; None where it does not."""
    a, b = leg
    s = _near(line, above, need, np.linspace(a, b, max(2, int((b - a) / _STEP_M))))
    places = line.places(s)
    _, off, nearest = nearest_on(above.corners_m, above.corner_distances_m, places[:, :2])
    depth = -nearest[:, 2]
    close = np.flatnonzero((off < need) & (np.abs(depth + places[:, 2]) < need))
    if not len(close):
        return None
    lowest = float(depth[close].max()) + need * 1.001
    return Dip(line.name, above.name, float(s[close[0]]), float(s[close[-1]]), lowest)


def _near(line: SiteLine, above: SiteLine, need: float, s: Floats) -> Floats:
    """Of distances along a leg those that may be within `need` [m] of another line, as seen from above."""
    some = s[::_COARSE]
    _, off, _ = nearest_on(above.corners_m, above.corner_distances_m, line.places(some)[:, :2])
    # on a straight leg nothing comes closer than it is walked
    may = off < need + _COARSE * (s[1] - s[0])
    return np.asarray(s[np.repeat(may, _COARSE)[: len(s)]])


def _all_along(dip: Dip, line: SiteLine, other: SiteLine) -> Dip:
    """The same line under the deepest of the other, from end to end."""
    lowest = float(-other.corners_m[:, 2].min()) + 1.001 * _need(line, other)
    return replace(dip, start_m=0.0, end_m=line.length_m, depth_m=lowest)


def _lowered(line: SiteLine, under: Sequence[Dip]) -> SiteLine:
    at = [float(s) for s in line.corner_distances_m]
    legs = np.linalg.norm(np.diff(line.corners_m[:, :2], axis=0), axis=1)
    # how far apart corners are counts as seen from above: a ramp between two may be levelled later
    level = np.concatenate([[0.0], np.cumsum(legs)])

    def apart(s: float) -> float:
        return float(
            np.abs(np.interp(s, line.corner_distances_m, level) - np.interp(at, line.corner_distances_m, level)).min()
        )

    for d in under:
        for s in (d.start_m - _RAMP_M, d.start_m, d.end_m, d.end_m + _RAMP_M):
            # a corner, or a ramp of another dip, that is as good as there serves
            if 0 < s < line.length_m and apart(s) > _SAME_M:
                at.append(float(s))
    along = np.array(sorted(at))
    places = line.places(along)
    depth = -places[:, 2]
    for d in under:
        within = (along >= d.start_m - _SAME_M) & (along <= d.end_m + _SAME_M)
        depth[within] = np.maximum(depth[within], d.depth_m)
    route = tuple((float(x), float(y), float(z)) for (x, y, _), z in zip(places, depth, strict=True))
    return replace(line, route=route)
