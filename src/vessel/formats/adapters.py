"""From documents or database rows (same field names) to the core's model objects, with its checks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, cast

from vessel.core.base.errors import BadInput
from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.hookup.transmitter_forecast import require_sound
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.model.construction import preset
from vessel.core.model.first_sweep import Candidate, Direction
from vessel.core.model.kit import Bound, Clamp, Coil, Frequency, Kit, Receiver
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import Change, Heading, NeighbourReading, StationReading, TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site_plan import SitePlan
from vessel.core.model.soil import Soil
from vessel.core.model.utility import utility
from vessel.core.prestart.checks_and_noise import kit_here
from vessel.formats.before_doc import ambients_of, before_doc, checks_of, passive_of
from vessel.formats.job_file import NearDoc
from vessel.formats.kit_doc import KitDoc
from vessel.formats.marking_doc import marking_of
from vessel.formats.site_plan import (
    accesses_on,
    course_of,
    live_at_start,
    metal_of,
    neighbour_of,
    plan_doc,
    site_plan_of,
)


def kit_of(data: Any) -> Kit:
    """Return the kit of a document or of its stored data."""
    doc = data if isinstance(data, KitDoc) else KitDoc.model_validate(data)
    d = doc.model_dump()
    bounds = tuple(Bound(**b) for b in d["bounds"])
    rules_of(bounds)
    return Kit(
        **{k: d[k] for k in ("name", "volts_max", "battery_wh", "idle_w", "efficiency", "lead_m")},
        frequencies=tuple(Frequency(**f) for f in d["frequencies"]),
        outputs_a=tuple(d["outputs_a"]),
        clamp=None if d["clamp"] is None else Clamp(**d["clamp"]),
        coil=None if d["coil"] is None else Coil(**d["coil"]),
        receiver=Receiver(**d["receiver"]),
        bounds=bounds,
    )


def kit_on(job: Any) -> Kit:
    """Return the kit of a job (document or row) with the noise that was read on its site."""
    kit = kit_of(getattr(job.kit, "data", job.kit))
    return kit_here(kit, ambients_of(before_doc(job)))


def soil_of(job: Any) -> Soil:
    """Return the soil of a job."""
    return Soil.of_kind(job.soil_kind, job.soil_resistivity_ohm_m)


def soil_measured(job: Any) -> bool:
    """Return whether the resistivity of a job's soil was measured, not taken from its kind."""
    return job.soil_resistivity_ohm_m is not None


def line_of(line: Any, job: Any) -> Line:
    """Return a line (document or row) of a job; raise `BadInput` for one without metal, which carries no signal."""
    return lines_of([line], job)[0]


def lines_of(lines: Sequence[Any], job: Any) -> tuple[Line, ...]:
    """Return lines of one job, as `line_of` does; its plan is read once for all of them."""
    plan = site_plan_of(job) if any(line.route for line in lines) else None
    return tuple(_line(line, job, plan) for line in lines)


def _line(line: Any, job: Any, plan: SitePlan | None) -> Line:
    metal, near = metal_of(line), AccessPoint(**NearDoc.model_validate(line.near).model_dump())
    if metal is None:
        raise BadInput(
            f"{line.name} has no metal: no signal can be put on it.",
            field="preset",
            fix="Use a rod or a sonde inside it, ask its owner, or dig by hand; until then it is not located.",
        )
    course = course_of(line, job, plan)
    told = () if course else tuple(neighbour_of(n, length_m=line.length_m) for n in line.neighbours)
    access = plan_doc(job).access
    if course is not None and live_at_start(course.drawn, access):
        near = replace(near, live=True)
    accesses = () if course is None else accesses_on(course.drawn, access)
    if utility(line.utility).carries_mains and (near.live or any(a.point.live for a in accesses)):
        near = replace(near, live=True)
        accesses = tuple(replace(a, point=replace(a.point, live=True)) for a in accesses)
    return Line(
        metal,
        line.length_m if course is None else course.drawn.length_m,
        line.depth_min_m,
        line.depth_max_m,
        near,
        FarEnd(line.far_kind, line.far_earth_ohm),
        told,
        accesses,
        course,
    )


def setup_of(setup: Any) -> Setup:
    """Return the setup of a document or row."""
    return Setup(
        setup.hookup,
        setup.freq_hz,
        setup.output_a,
        Stake(away_m=setup.stake_away_m, measured_ohm=setup.stake_ohm),
        setup.clip_ohm,
        setup.position_m,
        None if setup.stake_at is None else (setup.stake_at[0], setup.stake_at[1]),
    )


def reading_of(r: Any) -> TransmitterReading:
    """Return the transmitter reading of a document or row, what was done to the hookup before it left out."""
    return TransmitterReading(r.volts, r.amps, r.freq_hz)


def readings_of(setup: Any, kit: Kit) -> tuple[TransmitterReading, ...]:
    """Return the standing readings of a hookup (document or row) in the order they were taken.

    A change holds for all that follow. What cannot be is left out, whoever insisted on keeping it.
    """
    found, made, as_set = list[TransmitterReading](), set[Change](), setup_of(setup)
    for r in setup.readings:
        if r.deleted_at is not None:
            continue
        made |= {cast(Change, r.change)} if r.change else set()
        reading = replace(reading_of(r), changes=tuple(sorted(made)))
        if doubt(reading, as_set, kit) is None:
            found.append(reading)
    return tuple(found)


def station_of(s: Any) -> StationReading:
    """Return the station reading of a document or row."""
    return StationReading(
        s.distance_m,
        tuple(s.currents_a),
        s.depth_m,
        s.lift_height_m,
        s.depth_lifted_m,
        s.peak_null_m,
        s.neighbour_a,
        cast(Heading, s.direction),
        s.lost,
        tuple((offset_m, signal) for offset_m, signal in s.profile),
        s.signal,
        tuple(NeighbourReading(*n) for n in s.neighbours),
    )


def candidate_of(c: Any) -> Candidate:
    """Return a centre line of the first sweep, of a document or row."""
    direction = cast(Direction, c.direction)
    return Candidate(c.bearing_deg, c.current_a, c.depth_m, c.signal, direction, c.signal_lifted, c.lift_m)


def check(job: Any) -> None:
    """Build every model object of a job once, so that a value out of range is refused before anything is stored."""
    kit = kit_on(job)
    before = before_doc(job)
    checks_of(before)
    passive_of(before)
    soil = soil_of(job)
    site_plan_of(job)
    marking_of(job)
    for line in lines_of([x for x in job.lines if metal_of(x) is not None], job):
        require_sound(line, soil)
    for line in job.lines:
        utility(line.utility)
        preset(line.preset)
        for n in line.neighbours:
            preset(n.preset)
        for setup in line.setups:
            setup_of(setup).require_on(line.length_m)
            kit.require(setup.hookup, setup.freq_hz, at="kit")
            for r in setup.readings:
                reading_of(r)
            for c in setup.candidates:
                candidate_of(c)
            for s in setup.stations:
                station_of(s)
