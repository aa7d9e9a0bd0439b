"""The rivals of a hookup: worked out from what its readings leave possible, and weighed by its stations."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.cached import remembered
from vessel.core.hookup.hookup_state import HookupState
from vessel.core.hookup.taught import Possible, reading_spread
from vessel.core.judge.across.best_estimate import Estimate
from vessel.core.judge.rivals.all_rivals import rival_explanations
from vessel.core.judge.rivals.chances import Weighed, WeighedPlace
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.likelihood import CurrentDoubt, smooth_doubt
from vessel.core.judge.rivals.rival_kinds import plant_of
from vessel.core.judge.rivals.rival_sites import PLACES, entered_conductors, own_metal
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.judge.rivals.weighing import ByReadings, Circumstances, answered, by_readings
from vessel.core.judge.rivals.worked_out_rivals import Rivals, depths_to_work_out, worked_out
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.opened_bonds import begins_beside, drawn_bonds
from vessel.core.model.readings import StationReading, TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.physics.stake_resistance import stake_ohm
from vessel.core.signal.receiver.plant_noise import noise_along

_STRENGTHS = ((1.0, 0.5), (0.5, 0.25), (2.0, 0.15), (0.0, 0.1))
"""What neighbours may carry against their forecast, and how likely."""


def _entered(p: Possible, soil: Soil, kit: Kit, at_m: Floats) -> Explanation:
    """The line as one explanation of the readings has it."""
    x = p.explained
    circuit = LineCircuit(x.line, soil, freq_hz=x.setup.freq_hz, faults=x.faults)
    (e,) = excite(circuit, x.setup, kit, far_ohms=(x.far_ohm,), at_m=at_m)
    conductors = entered_conductors(x.line, circuit, e.response, at_m, x.line.length_m)
    return Explanation(None, p.likely, conductors, loop_ohm=own_metal(e, x.setup, soil))


def _stronger_or_weaker(e: Explanation) -> list[Explanation]:
    """An explanation whose neighbours carry what is forecast, and half and twice that: soil and their ends decide."""
    c = e.conductors
    if len(c.amps) == 1:
        return [e]
    found = []
    for factor, part in _STRENGTHS:
        amps = c.amps.copy()
        amps[1:] *= factor
        found.append(replace(e, weight=e.weight * part, conductors=replace(c, amps=amps)))
    return found


@remembered(64)
def rivals_of(line: Line, soil: Soil, kit: Kit, setup: Setup, state: HookupState) -> Rivals:
    """Return the line as entered and its rivals under a hookup, worked out once.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.

    Returns:
        All explanations with what each would show.
    """
    at_m = np.linspace(0.0, line.length_m, PLACES)
    entered = [_entered(x, soil, kit, at_m) for p in (*state.possible, *state.doubted) for x in p.also_as_long_as(line)]
    entered = [e for k, each in enumerate(entered) for e in _stronger_or_weaker(replace(each, grid=k))]
    total = sum(e.weight for e in entered)
    entered = [replace(e, weight=e.weight / total) for e in entered]
    every = [*entered, *rival_explanations(line, soil, kit, setup, entered, at_m)]
    return worked_out(every, at_m, depths_to_work_out((line.depth_min_m, line.depth_max_m)), kit.receiver)


def weighed(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    transmitter: Sequence[TransmitterReading],
    readings: Sequence[StationReading],
    *,
    tolerance_m: float,
    evidence: Sequence[Evidence] = (),
    depth_known: Sequence[float] = (),
    swept: StationReading | None = None,
) -> Weighed:
    """Return the rivals of a hookup as its readings, stations and evidence leave them.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.
        transmitter: Readings of the transmitter, in the order they were taken.
        readings: Readings at n stations, in any order, without the return current in the soil.
        tolerance_m: Half-width of the zone round a mark in which the line must lie [m].
        evidence: What shows which line it is.
        depth_known: How well each depth is known, the soil being a guess, as a logarithm, n of them; none: for sure.
        swept: What the first sweep says of lines beside this one (`circle_look`); None: nothing.

    Returns:
        The chance of each explanation and of a wrong mark at each station.
    """
    known = tuple(depth_known) or (0.0,) * len(readings)
    # a crew's own limits change nothing of what could be there
    read = _by_readings(
        line, soil, kit.bare, setup, state, tuple(transmitter), tuple(readings), tolerance_m, known, swept
    )
    return answered(read, evidence)


@remembered(32)  # an answer changes nothing of it
def _by_readings(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    transmitter: tuple[TransmitterReading, ...],
    readings: tuple[StationReading, ...],
    tolerance_m: float,
    depth_known: tuple[float, ...],
    swept: StationReading | None,
) -> ByReadings:
    rivals, at_m = rivals_of(line, soil, kit.quiet, setup, state), np.array([r.distance_m for r in readings])
    last = last_at(transmitter, setup.freq_hz)
    first_loop = rivals.explanations[0].loop_ohm
    if last is not None:
        drive = last.amps
    else:
        loop = None if first_loop is None else first_loop + stake_ohm(setup.stake, soil) + setup.clip_ohm
        drive = output(loop, setup, kit).drive
    under = Circumstances(
        drive,
        (line.depth_min_m, line.depth_max_m),
        tolerance_m,
        kit.frequency(setup.freq_hz).noise_t * noise_along(line, setup.freq_hz, at_m),
        kit.receiver,
        last.ohms if last is not None and setup.by.connects else None,
        stake_ohm(setup.stake, soil) + setup.clip_ohm,
        setup.position_m,
        np.array(depth_known),
        plant_of(line.construction),
        drawn_bonds(line, setup),
        setup.position_m if setup.by.connects else None,
        begins_beside(line, setup),
        None if swept is None else UsedStations.of([swept]),
    )
    return by_readings(rivals, readings, _doubt(state, setup, readings, at_m), under)


def _doubt(state: HookupState, setup: Setup, readings: Sequence[StationReading], at_m: Floats) -> CurrentDoubt:
    family = state.families[0].along(at_m)
    own = reading_spread(state.families[0], readings, hookup_m=setup.position_m)
    return CurrentDoubt(np.vstack([family.slope, smooth_doubt(at_m)]), own)


def weighed_estimate(own: Estimate, placed: WeighedPlace, k: int) -> Estimate:
    """Return the best estimate of one station with every rival and neighbour weighed.

    Args:
        own: The estimate from its own readings.
        placed: Where the line lies at all stations.
        k: Index of the station.

    Returns:
        The estimate; the station's own where nothing was weighed.
    """
    if not np.isfinite(placed.depth_m[k]):
        return own
    return replace(
        own,
        depth_m=float(placed.depth_m[k]),
        depth_pm_m=float(placed.depth_pm_m[k]),
        offset_m=float(placed.offset_m[k]),
        offset_pm_m=None if own.offset_pm_m is None else float(placed.offset_pm_m[k]),
    )
