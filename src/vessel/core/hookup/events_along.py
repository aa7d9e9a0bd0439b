"""What happened along the stations of a hookup, held against its forecast."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.hookup.endless_line import endless
from vessel.core.hookup.hookup_state import HookupState
from vessel.core.judge.trace.events import Event, Taken, events
from vessel.core.model.kit import Kit
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.receiver.return_undone import undoing

_PLACE_DOUBT = 0.1
"""How far off a forecast may be along the line, as a share of the way from the hookup."""


def events_along(
    soil: Soil, kit: Kit, setup: Setup, state: HookupState, readings: Sequence[StationReading]
) -> tuple[Event, ...]:
    """Return what happened along the stations of one hookup.

    The stations are held against the likeliest forecast.

    Args:
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.
        readings: Readings at stations, in any order.

    Returns:
        Events by distance.
    """
    free = undoing(setup, soil, kit.receiver)
    readings, _ = endless(setup, state, kit, free.readings(readings))
    at_m = np.array([r.distance_m for r in readings])
    off = _PLACE_DOUBT * np.abs(at_m - setup.position_m)
    here, near, far = (state.likely.along(at_m + d)[0] for d in (0.0, -off, off))
    doubt = 0.5 * np.abs(np.log(np.maximum(near, 1e-6) / np.maximum(far, 1e-6)))
    taken = [_taken(r, float(a), float(d)) for r, a, d in zip(readings, here, doubt, strict=True)]
    return events(taken, hookup_m=setup.position_m)


def _taken(r: StationReading, forecast_a: float, doubt: float) -> Taken:
    back = r.direction == "towards"
    return Taken(r.distance_m, r.current_a or None, r.depth_m, forecast_a, r.current_off, doubt, r.lost, back)
