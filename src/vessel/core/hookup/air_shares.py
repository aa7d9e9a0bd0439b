"""The transmitter's own field at stations, against the line's."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.solved_together import cases_of, solve_together
from vessel.core.simulate.solved_world import World


def air_shares(
    line: Line, soil: Soil, kit: Kit, setup: Setup, distances_m: Sequence[float]
) -> list[float] | list[None]:
    """Return the transmitter's own field at stations, against the line's.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        distances_m: Distances of n stations along the line [m].

    Returns:
        One share for each station with induction; None for each with any other method.
    """
    if not setup.by.through_air or not distances_m:
        return [None] * len(distances_m)
    stations = np.clip(np.asarray(distances_m, dtype=float), 0.1, line.length_m)
    world = World([line], soil, kit, freqs_hz=(setup.freq_hz,), extra=((line, setup.position_m, None),))
    sim = Simulator(line, world, stations_m=stations)
    if not setup.moving:
        return [float(worst) for worst in cases_of(sim, [setup]).air_share[0].max(0)]
    carried = [setup.standing(x) for x in stations.tolist()]
    (solved,) = solve_together([sim], [carried])
    found = sim.carried([(carried, solved)], np.arange(len(stations)))
    return [float(worst) for worst in found.air_share.max(1)]
