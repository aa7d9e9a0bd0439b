"""The field across the line at one place, as the hookup is understood: peak, null, and the lines below that make it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput
from vessel.core.hookup.explained_setup import Explained, explained
from vessel.core.hookup.hookup_state import HookupState
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.sources import coil_geometry, stake_lead
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.beside_line import LOOK_ASIDE_M, Beside, look_aside, off_line
from vessel.core.signal.receiver.field_at_coils import ReceiverGeometry
from vessel.core.signal.receiver.field_gains import OwnField

REACH = 3.0
"""How far to either side, in greatest depths of the line; at least 2 m."""


@dataclass(frozen=True)
class Below:
    """A line under the profile: `offset_m` [m], left positive; `depth_m` [m]; its current there [A]; None: the line."""

    name: str | None
    offset_m: float
    depth_m: float
    current_a: float


@dataclass(frozen=True)
class Across:
    """Forecast across the line at `at_m` [m] along it: magnitudes (n,) [T] at `offsets_m` (n,), left positive.

    `peak_m`, `null_m`: where across the line each lies.
    """

    at_m: float
    offsets_m: Floats
    horizontal_t: Floats
    vertical_t: Floats
    peak_m: float
    null_m: float
    below: tuple[Below, ...]


def across(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    readings: Sequence[TransmitterReading],
    *,
    at_m: float,
) -> Across:
    """Return the forecast across the line at one distance.

    It follows the likeliest explanation of the readings, or the first far end if there is none.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.
        readings: Readings of the transmitter, in the order they were taken.
        at_m: Distance along the line [m].

    Returns:
        Fields across, peak, null and the conductors below.

    Raises:
        BadInput: If the place lies beyond the line.
    """
    if not 0 <= at_m <= line.length_m:
        raise BadInput("beyond_line", field="at_m", at_m=at_m, length_m=line.length_m)
    setup = setup.standing(at_m)
    x = Explained(line, setup, line.far_cases(between=setup.by.between)[0][1])
    if state.diagnosis is not None:
        x = explained(state.diagnosis.hypotheses[0], line, soil, setup, readings[-1].changes if readings else ())
    circuit = LineCircuit(x.line, soil, freq_hz=setup.freq_hz, faults=x.faults)
    site = circuit.site_circuit
    e = excite(circuit, x.setup, kit, far_ohms=(x.far_ohm,))[0]
    shown = last_at(readings, setup.freq_hz)
    drive = shown.amps if shown is not None and setup.by.connects else output(e.load_ohm, setup, kit).drive
    reach, place = max(2.0, REACH * line.depth_max_m), np.array([at_m])
    own_line = site.site.lines[circuit.target]
    here, run = own_line.places(place), own_line.headings(place)
    geometry = _square_to(circuit, here, run, reach, kit)
    lead_or_coil = _lead_or_coil(geometry, circuit, setup, kit)
    returning = geometry.returning(soil, setup.freq_hz)
    field = geometry.unit_field(*site.ends(e.response), lead_or_coil, returning)
    own = Below(None, 0.0, float(-here[0, 2]), float(circuit.current_at(e.response, place)[0]) * drive)
    asides = look_aside(circuit.line, site.site, place)
    beside = circuit.currents_beside(site.ends(e.response), asides, 1)[:, 0] * drive
    return Across(
        at_m,
        geometry.offsets_m[0],
        np.abs(field.across_t[0][0]) * drive,
        np.abs(field.across_t[1][0]) * drive,
        float(field.peak_m[0]),
        float(field.null_m[0]),
        (own, *_beside(circuit, here[0], run[0], [a.beside for a in asides], beside, reach)),
    )


def _square_to(circuit: LineCircuit, here: Floats, run: Floats, reach_m: float, kit: Kit) -> ReceiverGeometry:
    """The receiver carried across the line at a place."""
    return ReceiverGeometry(
        circuit.site_circuit.geometry.segments,
        at_m=here[:, :2],
        headings=run,
        depths_m=-here[:, 2],
        receiver=kit.receiver,
        offsets_m=np.linspace(-reach_m, reach_m, 161)[None],
    )


def _lead_or_coil(
    geometry: ReceiverGeometry, circuit: LineCircuit, setup: Setup, kit: Kit
) -> tuple[OwnField, float] | None:
    """The field of what the transmitter is hooked up with, where it has one of its own."""
    hookup = circuit.hookup(setup)
    if setup.by.connects:
        return geometry.lead(stake_lead(circuit.site_circuit, hookup)), 1.0
    return (geometry.coil(*coil_geometry(hookup, kit)), 1.0) if setup.by.through_air else None


def _beside(
    circuit: LineCircuit, here: Floats, run: Floats, others: Sequence[Beside], amps: Floats, reach_m: float
) -> list[Below]:
    """The other lines where they are nearest, those that the picture can show or a look aside would meet."""
    found = []
    for other, a in zip(others, amps, strict=True):
        line = circuit.mesh.site.lines[other.index]
        along, off, at = off_line(line, here[None, :2])
        if circuit.line.course is not None and off[0] > max(reach_m, LOOK_ASIDE_M):
            continue
        left = float((at[0] - here[:2]) @ np.array([-run[1], run[0]]))
        found.append(Below(other.name, left, float(-line.places(along)[0, 2]), float(a)))
    return found
