"""Where the ground faults of a cable are, by what a frame read along it: places, shares and their ranges.

What a fault, an even leak and the stake put into the ground is linear in their currents, so for given places the
currents are least squares in closed form. Places are found one after the other on a grid, each then moved while the
others stay; how many there are is what the readings pay for (Schwarz's criterion).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.cached import lazy, remembered
from vessel.core.model.fault_walk import REF_GAP_M, FaultWalk, FrameReading
from vessel.core.signal.physics.soil_gradient import gradient, leak_gradient

_MOST = 3
_LEVEL_OFF, _FLOOR = 0.12, 0.03
_GRID_M, _FINE_M = 0.25, 0.05
_STAKE_DEPTH_M = 0.2  # the middle of a driven stake
_WORTH = 12.0  # a further fault explains at least so much more
_ANYWHERE_M = 6.0  # a place that wide open, with no reading that points back at it, is no fault yet
_NEAR_M = 1.2  # two places closer than that are one fault
_CHI95 = 4.0


@dataclass(frozen=True)
class Fault:
    """One fault: `at_m` along the line with its range `pm_m` [m], which holds in 95 %.

    `share`: of the current that the stake returns; None without a reference there. `part`: of what leaves the cable
    at faults. `bracket_m`: between the nearest readings before and after it that point at it [m], None without both.
    """

    at_m: float
    pm_m: float
    share: float | None
    part: float
    bracket_m: float | None


@dataclass(frozen=True)
class FaultFit:
    """The faults by distance, and what does not come of them.

    `leak`: part of the current that leaves evenly along the line. `misfit`: what is not explained, against what
    levels leave open. `at_m`, `level`: the fitted level along the walk (n,), below zero where it points back.
    """

    faults: tuple[Fault, ...]
    leak: float
    misfit: float
    at_m: Floats
    level: Floats


@dataclass(frozen=True)
class _Ground:
    """Readings (n,) as signed levels with their spread, and where they were taken."""

    x: Floats
    y: Floats
    sd: Floats
    walk: FaultWalk
    length_m: float
    depth_m: float

    def column(self, at_m: Floats) -> Floats:
        """What one fault at each of `at_m` (k,) puts at the readings, its return included, (n, k)."""
        own = gradient(self.x[:, None] - at_m[None, :], self.depth_m, self.walk.frame_m)
        return np.asarray(own - self.returned[:, None])

    def leak(self) -> Floats:
        """What an even leak puts there, its return included, (n,)."""
        own = leak_gradient(self.x, self.depth_m, self.walk.frame_m, self.length_m)
        return np.asarray(own - self.returned)

    @lazy
    def returned(self) -> Floats:
        """What one fault's return at the stake puts there, (n,)."""
        return gradient(
            self.x - self.walk.stake_along_m, _STAKE_DEPTH_M, self.walk.frame_m, aside_m=self.walk.stake_away_m
        )


def _ground(readings: Sequence[FrameReading], walk: FaultWalk, length_m: float, depth_m: float) -> _Ground | None:
    levels = [r.level for r in readings if r.level]
    if len(readings) < 3 or not levels:
        return None
    top = max(levels)
    x = np.array([r.distance_m for r in readings])
    y = np.array([r.sign * (0.15 * top if r.level is None else r.level) for r in readings])
    unread = np.array([r.level is None and r.sign != 0 for r in readings])
    sd = np.hypot(np.where(unread, 0.3 * top, _LEVEL_OFF * np.abs(y)), _FLOOR * top)
    return _Ground(x, y, sd, walk, length_m, depth_m)


def _solve(columns: Floats, g: _Ground) -> tuple[Floats, float]:
    """Currents (k,) none of which runs backwards, and what they leave unexplained."""
    a, b = columns / g.sd[:, None], g.y / g.sd
    active = list(range(a.shape[1]))
    currents = np.zeros(a.shape[1])
    while active:
        found = np.linalg.lstsq(a[:, active], b, rcond=None)[0]
        if (found >= 0).all():
            currents[active] = found
            break
        active.pop(int(np.argmin(found)))
    return currents, float(((b - a @ currents) ** 2).sum())


def _best_place(g: _Ground, fixed: Floats, grid: Floats, tried: Floats | None = None) -> tuple[float, float]:
    """The place of one more fault beside what is `fixed` (n, k), and what is left unexplained then.

    `tried`: the columns of the grid, where they are there already.
    """
    a, b = fixed / g.sd[:, None], g.y / g.sd
    q, _ = np.linalg.qr(a) if a.shape[1] else (np.zeros((len(b), 0)), None)
    rest = b - q @ (q.T @ b)
    tried = (g.column(grid) if tried is None else tried) / g.sd[:, None]
    free = tried - q @ (q.T @ tried)
    size = np.maximum((free**2).sum(0), 1e-12)
    along = free.T @ rest
    gain = np.where(along > 0, along**2 / size, 0.0)
    best = int(np.argmax(gain))
    return float(grid[best]), float(rest @ rest - gain[best])


def _placed(g: _Ground, count: int, grid: Floats, columns: Floats) -> tuple[list[float], Floats, float]:
    """The places of `count` faults, the currents of leak and faults, and what is left unexplained."""
    leak = g.leak()[:, None]
    places: list[float] = []
    for _ in range(count):
        fixed = np.hstack([leak, g.column(np.array(places))]) if places else leak
        places.append(_best_place(g, fixed, grid, columns)[0])
    for step in (_GRID_M, _FINE_M, _FINE_M):
        for k in range(count):
            others = np.array(places[:k] + places[k + 1 :])
            fixed = np.hstack([leak, g.column(others)]) if len(others) else leak
            near = np.arange(places[k] - 1.0, places[k] + 1.0, step)
            places[k] = (_best_place(g, fixed, grid, columns) if step == _GRID_M else _best_place(g, fixed, near))[0]
    currents, left = _solve(np.hstack([leak, g.column(np.array(places))]) if places else leak, g)
    return places, currents, left


def _range(g: _Ground, places: list[float], k: int, left: float) -> float:
    """Half the stretch in which one fault may lie while the others stay [m]."""
    others = np.array(places[:k] + places[k + 1 :])
    leak = g.leak()[:, None]
    fixed = np.hstack([leak, g.column(others)]) if len(others) else leak
    scale = max(1.0, left / max(len(g.x) - 2 * len(places) - 1, 1))
    for half in np.concatenate([np.arange(0.05, 1.0, 0.05), np.arange(1.0, _ANYWHERE_M, 0.25)]):
        beyond = [_best_place(g, fixed, np.array([places[k] + side * half]))[1] for side in (-1, 1)]
        if min(beyond) - left > _CHI95 * scale:
            return float(half)
    return _ANYWHERE_M


@remembered(256)
def fit_faults(
    readings: tuple[FrameReading, ...], walk: FaultWalk, *, length_m: float, depth_range_m: tuple[float, float]
) -> FaultFit | None:
    """Return the ground faults that explain what a frame read.

    Args:
        readings: What it showed, in any order.
        walk: How the walk was made.
        length_m: Length of the line [m].
        depth_range_m: Expected depth of the line [m].

    Returns:
        The fit; None with fewer than three readings or without any level.
    """
    taken = sorted(readings, key=lambda r: r.distance_m)
    best: tuple[float, _Ground, list[float], Floats, float] | None = None
    for depth_m in np.linspace(0.85 * depth_range_m[0], 1.15 * depth_range_m[1], 4):
        g = _ground(taken, walk, length_m, float(depth_m))
        if g is None:
            return None
        grid = np.arange(max(g.x[0] - 1.0, 0.0), min(g.x[-1] + 1.0, length_m) + _GRID_M, _GRID_M)
        before, columns = np.inf, g.column(grid)
        for count in range(_MOST + 1):
            places, currents, left = _placed(g, count, grid, columns)
            if count and (before - left < _WORTH or _too_close(places) or (currents[1:] <= 0).any()):
                break
            before = left
            score = left + 2 * count * float(np.log(len(g.x)))
            if best is None or score < best[0]:
                best = (score, g, places, currents, left)
    assert best is not None
    return _told(taken, *best[1:])


def _too_close(places: list[float]) -> bool:
    at = np.sort(places)
    return bool(len(at) > 1 and np.diff(at).min() < _NEAR_M)


def _told(taken: Sequence[FrameReading], g: _Ground, places: list[float], currents: Floats, left: float) -> FaultFit:
    leak, own = float(currents[0]), currents[1:]
    whole = float(currents.sum()) or 1.0
    faults = [
        Fault(
            at_m=at,
            pm_m=_range(g, places, k, left),
            share=_share(float(own[k]), whole, g.walk),
            part=float(own[k]) / whole,
            bracket_m=_bracket(taken, at),
        )
        for k, at in enumerate(places)
    ]
    at_m = np.arange(g.x[0], g.x[-1] + 0.05, max((g.x[-1] - g.x[0]) / 600, 0.05))
    along = _Ground(at_m, at_m, at_m, g.walk, g.length_m, g.depth_m)
    level = along.leak() * leak + (along.column(np.array(places)) @ own if places else 0.0)
    return FaultFit(
        tuple(sorted((f for f in faults if f.bracket_m is not None or f.pm_m < _ANYWHERE_M), key=lambda f: f.at_m)),
        leak / whole,
        float(np.sqrt(left / max(len(g.x) - 2 * len(places) - 1, 1))),
        at_m,
        np.asarray(level),
    )


def _share(current: float, whole: float, walk: FaultWalk) -> float | None:
    """A fault's current against all that the stake returns, which is no less than what was found to leave."""
    if walk.reference is None:
        return None
    near, far = REF_GAP_M, REF_GAP_M + walk.frame_m
    at_stake = 1 / np.hypot(near, _STAKE_DEPTH_M) - 1 / np.hypot(far, _STAKE_DEPTH_M)
    return float(current / max(walk.reference / at_stake, whole))


def _bracket(taken: Sequence[FrameReading], at_m: float) -> float | None:
    before = [r.distance_m for r in taken if r.sign > 0 and r.distance_m < at_m + 0.3]
    after = [r.distance_m for r in taken if r.sign < 0 and r.distance_m > at_m - 0.3]
    return max(after[0] - before[-1], 0.0) if before and after else None
