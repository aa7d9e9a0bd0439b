"""Station readings that look like a slip of the pen: asked about before they are kept, never corrected."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from statistics import median

import numpy as np

from vessel.core.base.errors import Doubtful
from vessel.core.model.readings import StationReading

_DEEPER = 2.5  # times the depth of the stations before: more than ground does from one station to the next
_STRONGER = 20.0  # times their current
_BEFORE = 5
_SAME_M = 0.05
_TREND = 2  # steps one way more than the other before there is a way to run back on


def slip(r: StationReading, taken: Sequence[StationReading]) -> Doubtful | None:
    """Return the question to ask about a station's readings before keeping them.

    Args:
        r: Readings at one station.
        taken: Stations before it, in the order they were taken.

    Returns:
        The question; None if nothing looks odd.
    """
    return _back(r, taken) or _lift(r) or _depth(r, taken) or _current(r, taken)


def _back(r: StationReading, taken: Sequence[StationReading]) -> Doubtful | None:
    """Whoever goes back once is asked once: further stations on the way back are not."""
    at = [s.distance_m for s in taken]
    ways = [float(np.sign(b - a)) for a, b in pairwise(at)]
    usual = float(np.sign(sum(ways)))
    if abs(sum(ways)) < _TREND or ways[-1] != usual or usual * (r.distance_m - at[-1]) > -_SAME_M:
        return None
    return Doubtful("runs_back", field="distance", here_m=r.distance_m, last_m=at[-1])


def _lift(r: StationReading) -> Doubtful | None:
    if r.depth_m is None or r.depth_lifted_m is None or r.depth_lifted_m >= r.depth_m:
        return None
    return Doubtful("lifted_less", field="depth_lifted", lifted_m=r.depth_lifted_m, ground_m=r.depth_m)


def _depth(r: StationReading, taken: Sequence[StationReading]) -> Doubtful | None:
    before = [s.depth_m for s in taken if s.depth_m is not None][-_BEFORE:]
    if r.depth_m is None or len(before) < 2 or 1 / _DEEPER < r.depth_m / median(before) < _DEEPER:
        return None
    return Doubtful("depth_unlike", field="depth", depth_m=r.depth_m, usual_m=median(before))


def _current(r: StationReading, taken: Sequence[StationReading]) -> Doubtful | None:
    before = [s.current_a for s in taken if s.current_a][-_BEFORE:]
    if not r.current_a or len(before) < 2 or 1 / _STRONGER < r.current_a / median(before) < _STRONGER:
        return None
    return Doubtful("current_unlike", field="currents", amps=r.current_a, usual_a=median(before))
