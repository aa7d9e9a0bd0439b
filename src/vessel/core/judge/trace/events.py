"""What happened along a trace: change points of current and depth together, with guidance and direction.

Current is taken against its forecast, so that what is known of the line is no event. A step is looked for in both
series at once by optimal partitioning of piecewise constant means (Jackson et al. 2005), and named by which of the
two moved.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Floats

EventKind = Literal["bend", "lost", "drop", "rise", "depth", "jump", "end", "returns"]

_CURRENT_SPREAD, _DEPTH_SPREAD = 0.05, 0.035  # of the logarithm, where the readings themselves are steadier
_LEAST_CURRENT, _LEAST_DEPTH = 0.22, 0.13  # steps smaller than these have too many harmless causes
_WITH_DEPTH = 0.1  # a depth change leaves the current alone: with one, less is enough to think of another line
_CLEARLY = 3.0
_SHORTEST = 2  # stations in a stretch: a single odd one is a bad reading, or stands beside what happened
_LOCAL = 4  # stations to either side that a step is measured from
_NOTHING_LEFT = 0.2
_CAME_BACK = 0.4
_FAR_BACK = 60  # a stretch longer than so many stations is cut anyway: its cost grows with its length


@dataclass(frozen=True)
class Taken:
    """One station of a trace: readings and the middle of the forecast there, SI; None where not taken.

    `spread`: standard deviation of the current, and by it of the depth, against itself; `doubt`: that of the forecast.
    `lost`: guidance was gone. `towards`: the current ran back towards the hookup.
    """

    distance_m: float
    current_a: float | None
    depth_m: float | None
    forecast_a: float
    spread: float = 0.0
    doubt: float = 0.0
    lost: bool = False
    towards: bool = False


@dataclass(frozen=True)
class Event:
    """Something that happened between `start_m` and `end_m` [m], with the ratios of current and depth across it."""

    kind: EventKind
    start_m: float
    end_m: float
    current_ratio: float | None = None
    depth_ratio: float | None = None

    @property
    def at_m(self) -> float:
        """The middle of where it may be [m]."""
        return 0.5 * (self.start_m + self.end_m)


def events(stations: Sequence[Taken], *, hookup_m: float) -> tuple[Event, ...]:
    """Return what happened along a trace.

    Both ways from a hookup that is along the line.

    Args:
        stations: Readings and verdict of each station, by distance.
        hookup_m: Distance of the hookup along the line [m].

    Returns:
        Events by distance.
    """
    ordered = sorted(stations, key=lambda s: s.distance_m)
    beyond = [s for s in ordered if s.distance_m >= hookup_m]
    before = [s for s in reversed(ordered) if s.distance_m < hookup_m]
    found = [e for side in (beyond, before) for e in _one_way(side)]
    return tuple(sorted(found, key=lambda e: e.at_m))


def _one_way(stations: Sequence[Taken]) -> list[Event]:
    """Events on one side of the hookup, walking away from it."""
    found = _returns(stations) + _lost(stations)
    known = [(e.start_m, e.end_m) for e in found]
    for e in _steps([s for s in stations if not s.lost]):
        # where guidance was lost the step across is part of that
        if not any(a < e.end_m and e.start_m < b for a, b in known):
            found.append(e)
    return found


def _span(a: Taken, b: Taken) -> tuple[float, float]:
    return min(a.distance_m, b.distance_m), max(a.distance_m, b.distance_m)


def _returns(stations: Sequence[Taken]) -> list[Event]:
    for k, s in enumerate(stations):
        if s.towards:
            return [Event("returns", *_span(stations[max(k - 1, 0)], s))]
    return []


def _lost(stations: Sequence[Taken]) -> list[Event]:
    """Guidance lost: a bend where the current is there again behind it, an end where next to nothing is."""
    found = []
    for k, s in enumerate(stations):
        if not s.lost or (k > 0 and stations[k - 1].lost):
            continue
        before = next((x for x in reversed(stations[:k]) if x.current_a and not x.lost), None)
        after = next((x for x in stations[k:] if x.current_a and not x.lost), None)
        span = _span(before or s, after or s)
        if before is None or after is None:
            found.append(Event("lost", *span))
            continue
        ratio = float(np.exp(_level(after) - _level(before)))
        kind: EventKind = "bend" if ratio > _CAME_BACK else "end" if ratio < _NOTHING_LEFT else "lost"
        found.append(Event(kind, *span, ratio))
    return found


def _level(s: Taken) -> float:
    """Logarithm of the current against its forecast."""
    return float(np.log(max(s.current_a or 0.0, 1e-6) / max(s.forecast_a, 1e-6)))


def _steps(stations: Sequence[Taken]) -> list[Event]:
    used = [s for s in stations if s.current_a is not None and s.depth_m is not None]
    if len(used) < 2 * _SHORTEST:
        return []
    x = np.array([s.distance_m for s in used])
    level = _without_drift(x, np.array([_level(s) for s in used]))
    depth = np.log(np.array([s.depth_m for s in used], dtype=float))
    restless = np.array([s.spread for s in used])
    # the current is restless because the depth it is computed from is noisy
    sigma = (
        np.sqrt(_CURRENT_SPREAD**2 + restless**2 + np.array([s.doubt for s in used]) ** 2),
        np.hypot(_DEPTH_SPREAD, 2 * restless),
    )
    scaled = np.stack([level / sigma[0], depth / sigma[1]])
    edges = [0, *_change_points(scaled), len(used)]
    stretches = [(a, b) for a, b in pairwise(edges) if b - a >= _SHORTEST]
    found = []
    for (a, k), (j, b) in pairwise(stretches):
        before, after = slice(max(a, k - _LOCAL), k), slice(j, min(b, j + _LOCAL))
        dc, clear_c = _step(level, sigma[0], before, after)
        dd, clear_d = _step(depth, sigma[1], before, after)
        deep = clear_d and abs(dd) > _LEAST_DEPTH
        current = clear_c and abs(dc) > (_WITH_DEPTH if deep else _LEAST_CURRENT)
        if not (current or deep):
            continue
        gone = dc < np.log(_NOTHING_LEFT) and b == len(used)
        kind: EventKind = (
            "end" if gone else "jump" if current and deep else "depth" if deep else "drop" if dc < 0 else "rise"
        )
        found.append(Event(kind, *_span(used[k - 1], used[j]), float(np.exp(dc)), float(np.exp(dd))))
    return found


def _without_drift(x_m: Floats, level: Floats) -> Floats:
    """Take out what changes evenly all along: a forecast a little off is no event."""
    steps = np.abs(np.diff(x_m))
    slopes = np.diff(level)[steps > 0] / steps[steps > 0]
    return level - np.median(slopes) * np.abs(x_m - x_m[0]) if len(slopes) else level


def _step(values: Floats, sigma: Floats, before: slice, after: slice) -> tuple[float, bool]:
    """The step of medians across a change point and whether it is clear of the readings' own spread."""
    step = float(np.median(values[after]) - np.median(values[before]))
    spread = np.sqrt(sum(float(np.mean(sigma[s] ** 2)) / len(values[s]) for s in (before, after)))
    return step, abs(step) > _CLEARLY * float(spread)


def _change_points(scaled: Floats) -> list[int]:
    """Indices at which both series (2, n), in standard deviations, split best into stretches of one mean each."""
    n = scaled.shape[1]
    penalty = 8.0 + 4.0 * np.log(n)
    sums = np.concatenate([np.zeros((2, 1)), scaled.cumsum(1)], axis=1)
    squares = np.concatenate([[0.0], (scaled**2).sum(0).cumsum()])
    best = np.full(n + 1, np.inf)
    best[0], came = -penalty, np.zeros(n + 1, dtype=np.intp)
    for end in range(1, n + 1):
        starts = np.arange(max(0, end - _FAR_BACK), end)
        inside = (
            squares[end] - squares[starts] - ((sums[:, end : end + 1] - sums[:, starts]) ** 2).sum(0) / (end - starts)
        )
        total = best[starts] + inside + penalty
        k = int(total.argmin())
        best[end], came[end] = total[k], starts[k]
    found, end = list[int](), int(n)
    while end > 0:
        end = int(came[end])
        if end > 0:
            found.append(end)
    return found[::-1]
