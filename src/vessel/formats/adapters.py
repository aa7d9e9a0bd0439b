"""From documents or database rows (same field names) to the core's model objects, with its checks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields as dataclass_fields
from dataclasses import replace
from typing import Any, cast

from vessel.core.base.errors import BadInput
from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.model.construction import preset
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.entry_fields import (
    CANDIDATE_FIELDS,
    STATION_FIELDS,
)
from vessel.core.model.fault_walk import FaultWalk, FrameReading
from vessel.core.model.first_sweep import Candidate
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import Bound, Clamp, Coil, Frequency, Kit, Receiver
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import Change, NeighbourReading, StationReading, TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.sonde import SondeRun, SondeStop
from vessel.core.model.special_fields import (
    FRAME_FIELDS,
    STOP_FIELDS,
)
from vessel.core.model.station_place import TAPE_M, on_line
from vessel.core.model.utility import utility
from vessel.formats.job_file import NearDoc
from vessel.formats.kit_doc import KitDoc
from vessel.formats.plan_doc import AccessDoc
from vessel.formats.site_plan_doc import (
    accesses_on,
    live_at_start,
    metal_of,
    neighbour_of,
    points_of,
)

_READ = {f.name for f in dataclass_fields(StationReading)}
_MET = {f.name for f in dataclass_fields(Candidate)}


def kit_of(data: Any) -> Kit:
    """Return the kit of a document or of its stored data."""
    doc = data if isinstance(data, KitDoc) else KitDoc.model_validate(data)
    d = doc.model_dump()
    bounds = tuple(Bound(**b) for b in d["bounds"])
    rules_of(bounds)
    return Kit(
        **{
            k: d[k]
            for k in ("name", "volts_max", "battery_wh", "idle_w", "efficiency", "lead_m", "sonde_hz", "frame_m")
        },
        frequencies=tuple(Frequency(**f) for f in d["frequencies"]),
        outputs_a=tuple(d["outputs_a"]),
        clamp=None if d["clamp"] is None else Clamp(**d["clamp"]),
        coil=None if d["coil"] is None else Coil(**d["coil"]),
        receiver=Receiver(**d["receiver"]),
        bounds=bounds,
    )


def line_of(line: Any, plan: SitePlan | None, own: int | None, access: Sequence[AccessDoc]) -> Line:
    """Return a line (document or row); raise `BadInput` for one without metal, which carries no signal.

    `own`: which of the lines drawn on `plan` it is, None where it is not drawn; `access`: the plan's access points.
    """
    metal, near = metal_of(line), AccessPoint(**NearDoc.model_validate(line.near).model_dump())
    if metal is None:
        raise BadInput(
            f"{line.name} has no metal: no signal can be put on it.",
            field="preset",
            fix="Use a rod or a sonde inside it, ask its owner, or dig by hand; until then it is not located.",
        )
    course = None if own is None or plan is None else Course(plan, own)
    told = () if course else tuple(neighbour_of(n, length_m=line.length_m) for n in line.neighbours)
    if course is not None and live_at_start(course.drawn, access):
        near = replace(near, live=True)
    drawn = () if course is None else accesses_on(course.drawn, access, coils=preset(line.preset).controlled)
    accesses = tuple(sorted((*drawn, *points_of(line)), key=lambda a: a.at_m))
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
        preset(line.preset).controlled,
        preset(line.preset).pairs and not metal.bare,
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
        setup.apart_m,
    )


def reading_of(r: Any) -> TransmitterReading:
    """Return the transmitter reading of a document or row, what was done to the hookup before it left out."""
    return TransmitterReading(r.volts, r.amps, r.freq_hz, beside=r.beside)


def first_counted(live: Sequence[Any]) -> int:
    """Return the index of the first reading of a hookup (documents or rows) that counts: the last to start again."""
    return max((k for k, r in enumerate(live) if r.anew), default=0)


def readings_of(live: Sequence[Any], setup: Setup, kit: Kit) -> tuple[TransmitterReading, ...]:
    """Return readings of a hookup (documents or rows) that count, in the order they were taken.

    A change holds for all that follow, also past a new start. What cannot be is left out, whoever insisted on
    keeping it.
    """
    found, made = list[TransmitterReading](), set[Change]()
    start = first_counted(live)
    for k, r in enumerate(live):
        made |= {cast(Change, r.change)} if r.change else set()
        reading = replace(reading_of(r), changes=tuple(sorted(made)))
        if k >= start and doubt(reading, setup, kit) is None:
            found.append(reading)
    return tuple(found)


def station_of(s: Any) -> StationReading:
    """Return the station reading of a document or row: the fields of the table that rules read."""
    found = {f.column: getattr(s, f.column) for f in STATION_FIELDS if f.column in _READ}
    return StationReading(
        **{
            **found,
            "currents_a": tuple(s.currents_a),
            "profile": tuple((offset_m, signal) for offset_m, signal in s.profile),
            "neighbours": tuple(NeighbourReading(*n) for n in s.neighbours),
        }
    )


def placed_off(drawn: Drawn, place: Any) -> tuple[float, float]:
    """Return how far left of a drawn line a station was placed, and how well that is known [m]; of document or row."""
    told = place if isinstance(place, dict) else vars(place)
    east, north = told["at"]
    return on_line(drawn, (float(east), float(north)))[1], float(told["pm_m"] or TAPE_M)


def candidate_of(c: Any) -> Candidate:
    """Return a centre line of the first sweep, of a document or row."""
    return Candidate(**{f.column: getattr(c, f.column) for f in CANDIDATE_FIELDS if f.column in _MET}, seen=c.note)


def evidence_of(e: Any) -> Evidence:
    """Return a piece of evidence of identity, of a document or row."""
    return Evidence(e.kind, e.answer, e.at_m, e.own_a, e.other_a, earlier=bool(e.earlier), depth_m=e.depth_m)


def sonde_run_of(r: Any) -> SondeRun:
    """Return a sonde run, of a document or row."""
    return SondeRun(r.freq_hz, r.start_m, r.way, r.check_m, r.check_signal, r.fall)


def stop_of(s: Any) -> SondeStop:
    """Return what was read at a stop of a sonde run, of a document or row."""
    return SondeStop(**{f.column: getattr(s, f.column) for f in STOP_FIELDS})


def fault_walk_of(w: Any) -> FaultWalk:
    """Return a walk with the frame, of a document or row."""
    told = ("freq_hz", "start_m", "volts", "amps", "frame_m", "stake_along_m", "stake_away_m", "reference")
    return FaultWalk(**{k: getattr(w, k) for k in told}, done=tuple(w.steps_done))


def frame_reading_of(r: Any) -> FrameReading:
    """Return what the frame showed at a place, of a document or row."""
    return FrameReading(**{f.column: getattr(r, f.column) for f in FRAME_FIELDS})
