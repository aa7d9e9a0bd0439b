"""Station readings that look like a slip of the pen: asked about before they are kept, never corrected."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from statistics import median

import numpy as np

from vessel.core.base.errors import Doubtful
from vessel.core.model.readings import StationReading
from vessel.core.text.figures import show_length, show_station
from vessel.core.text.units import Units

_DEEPER = 2.5  # times the depth of the stations before: more than ground does from one station to the next
_STRONGER = 20.0  # times their current
_BEFORE = 5
_SAME_M = 0.05
_TREND = 2  # steps one way more than the other before there is a way to run back on


def slip(r: StationReading, taken: Sequence[StationReading], units: Units) -> Doubtful | None:
    """Return the question to ask about a station's readings before keeping them.

    `taken`: the stations before it in the order in which they were taken.

    Args:
        r: Readings at one station.
        taken: Stations before it, in the order they were taken.
        units: The user's system of units.

    Returns:
        The question; None if nothing looks odd.
    """
    return _back(r, taken, units) or _lift(r, units) or _depth(r, taken, units) or _current(r, taken)


def _back(r: StationReading, taken: Sequence[StationReading], units: Units) -> Doubtful | None:
    """Whoever goes back once is asked once: further stations on the way back are not."""
    at = [s.distance_m for s in taken]
    ways = [float(np.sign(b - a)) for a, b in pairwise(at)]
    usual = float(np.sign(sum(ways)))
    if abs(sum(ways)) < _TREND or ways[-1] != usual or usual * (r.distance_m - at[-1]) > -_SAME_M:
        return None
    here, last = (show_station(x, units) for x in (r.distance_m, at[-1]))
    return Doubtful(
        f"{here} runs back: the last station was at {last}. Is it really there?",
        field="distance",
        fix="Correct the distance, or keep it if you went back.",
    )


def _lift(r: StationReading, units: Units) -> Doubtful | None:
    if r.depth_m is None or r.depth_lifted_m is None or r.depth_lifted_m >= r.depth_m:
        return None
    lifted, ground = (show_length(x, units, fine=True) for x in (r.depth_lifted_m, r.depth_m))
    return Doubtful(
        f"Lifted it reads {lifted}, less than the {ground} on the ground. Are the two swapped?",
        field="depth_lifted",
        fix="Correct them, or keep them if the display showed that.",
    )


def _depth(r: StationReading, taken: Sequence[StationReading], units: Units) -> Doubtful | None:
    before = [s.depth_m for s in taken if s.depth_m is not None][-_BEFORE:]
    if r.depth_m is None or len(before) < 2 or 1 / _DEEPER < r.depth_m / median(before) < _DEEPER:
        return None
    here, usual = (show_length(x, units, fine=True) for x in (r.depth_m, median(before)))
    return Doubtful(
        f"{here} deep, where the stations before read about {usual}. Is that the right unit?",
        field="depth",
        fix="Correct it, with its unit, or keep it if the display showed that.",
    )


def _current(r: StationReading, taken: Sequence[StationReading]) -> Doubtful | None:
    before = [s.current_a for s in taken if s.current_a][-_BEFORE:]
    if not r.current_a or len(before) < 2 or 1 / _STRONGER < r.current_a / median(before) < _STRONGER:
        return None
    return Doubtful(
        f"{r.current_a * 1e3:.4g} mA, where the stations before read about {median(before) * 1e3:.3g} mA. "
        "Is that the right unit?",
        field="currents",
        fix="Correct it, with its unit, or keep it if the display showed that.",
    )
