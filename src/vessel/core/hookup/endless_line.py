"""Readings with the ends of the line undone: as they would be over an endless one."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.hookup.hookup_state import HookupState
from vessel.core.model.kit import Kit
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.signal.receiver.ends_undone import EndsUndone, Flow


def endless(
    setup: Setup, state: HookupState, kit: Kit, readings: Sequence[StationReading]
) -> tuple[tuple[StationReading, ...], Floats]:
    """Return readings as they would be over an endless line.

    Args:
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.
        kit: Transmitter and receiver in use.
        readings: n readings at stations.

    Returns:
        The readings, and how well each depth is known then, as a logarithm, shape (n,).
    """
    if setup.moving or setup.by.between:
        return tuple(readings), np.zeros(len(readings))
    likely = np.array([p.likely for p in state.possible])
    lead_m = setup.position_m if setup.by.connects else None
    flow = Flow(np.array(state.band.distance_m), np.stack(state.levels_a), likely, lead_m)
    return EndsUndone(flow, kit.receiver).readings(readings)
