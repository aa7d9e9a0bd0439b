"""What goes on past a valve whose coil the signal has to go through: whether the signal ends there.

A solenoid is some tens of ohms at low frequency and nearly open above a few kilohertz. So on a valve's own wire high
frequency tapers to nothing at the valve, and low frequency goes on along what the coil is joined to. The coil lies in
series: the current has no step there. In between, coil and wire beyond resonate; how strongly depends on losses in the
coil's iron, which is not known, so no setup near that is offered.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.simulate.forecast import Forecast

_RESONATES = 1.1
ENDS_BELOW = 0.15
"""A valve past which less than this share of the current at the hookup goes on is where the signal ends."""


@dataclass(frozen=True)
class Passed:
    """Share of the hookup's current that goes on past a valve, least and most over the far ends considered."""

    name: str
    at_m: float
    least: float
    most: float

    @property
    def ends(self) -> bool:
        """Whether the signal ends there, which tells where the valve is."""
        return self.most < ENDS_BELOW

    @property
    def resonates(self) -> bool:
        """Whether more would go on past it than is put on: its coil and the wire beyond resonate."""
        return self.most > _RESONATES


def past_valves(forecasts: Sequence[Forecast], setup: Setup, line: Line) -> tuple[Passed, ...]:
    """Return what goes on past each valve on a line whose coil the signal has to go through.

    Args:
        forecasts: What the setup does, for each far end considered.
        setup: Method, place, frequency and output.
        line: The line to locate.

    Returns:
        One for each valve that has stations of the forecast beyond it, by distance.
    """
    found, here = [], setup.position_m
    for valve in line.solenoids:
        shares = []
        for f in forecasts:
            own = np.sign(f.distance_m - here) == np.sign(valve.at_m - here)
            beyond = own & (np.abs(f.distance_m - here) > abs(valve.at_m - here))
            if beyond.any():
                put_on = f.current_a[np.where(own, np.abs(f.distance_m - here), np.inf).argmin()]
                shares.append(float(f.current_a[beyond].max() / max(put_on, 1e-12)))
        if shares:
            found.append(Passed(valve.name, valve.at_m, min(shares), max(shares)))
    return tuple(found)
