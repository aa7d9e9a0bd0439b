"""Walks with the frame as views."""

from __future__ import annotations

from typing import Any

from vessel.api.entry_views import field_views
from vessel.api.fault.views import (
    FaultFound,
    FaultRecord,
    FaultStepView,
    FaultView,
    FrameReadingView,
    LevelView,
    WalkView,
)
from vessel.api.retyped_text import entry_typed, length_typed
from vessel.api.special_answers import (
    fault_forecast_of,
    judged_walk,
    marked_fault,
)
from vessel.api.stations.present import findings_view
from vessel.api.striking import struck
from vessel.core.hookup.judge_fault import bare_metal, fault_verdict, level_over
from vessel.core.judge.fault.fault_fit import Fault
from vessel.core.judge.station.verdict import Judgement
from vessel.core.model.fault_walk import FAULT_STEPS, FaultWalk
from vessel.core.model.special_fields import FRAME_FIELDS
from vessel.core.text.figures import show_hz, show_length, show_ohms, show_station
from vessel.formats.adapters import frame_reading_of
from vessel.formats.loaded_job import LoadedLine
from vessel.formats.loaded_walk import LoadedWalk
from vessel.words.fault_sentences import (
    BARE_METAL,
    FAULT_LABEL,
    fault_forecast_text,
    fault_headline,
    fault_step,
    fault_step_text,
    fault_text,
    reading_text,
    walk_next_text,
    walk_text,
)
from vessel.words.sonde_sentences import NO_METAL_FOR_SONDE


def fault_label(walk: LoadedWalk, fault: Fault, j: Judgement) -> str:
    """Return what to paint at a fault: the line's letter, that it is a fault, how far it is, and doubt."""
    at = show_station(round(fault.at_m, 1), walk.job.units)
    doubt = "" if fault_verdict(j) == "found" else " NOT PROVED"
    return f"{walk.line.utility.letter} FAULT {at}{doubt}"


def _fault(walk: LoadedWalk, fault: Fault, j: Judgement) -> FaultFound:
    units, said, mark = walk.job.units, fault_verdict(j), marked_fault(walk, fault.at_m)
    return FaultFound(
        at_m=fault.at_m,
        pm_m=fault.pm_m,
        at_text=show_station(round(fault.at_m, 2), units),
        text=fault_text(fault, units),
        verdict=j.verdict,
        said=said,
        label=FAULT_LABEL[said],
        headline=fault_headline(j, units),
        next_step=fault_step(j),
        findings=findings_view(j, units),
        mark_label=fault_label(walk, fault, j),
        mark_id=None if mark is None else mark.id,
    )


def _walk(walk: LoadedWalk) -> WalkView:
    row, units, typed = walk.row, walk.job.units, walk.row.typed

    def length(name: str, value_m: float) -> str:
        return length_typed(typed.get(name), value_m, quantity="distance", units=units)

    ohms = walk.walk.ohms
    return WalkView(
        id=row.id,
        title=walk_text(walk.walk, units),
        freq=show_hz(row.freq_hz),
        start=length("start", row.start_m),
        volts="" if row.volts is None else f"{row.volts:g}",
        milliamps="" if row.amps is None else f"{1e3 * row.amps:g}",
        ohms_text="" if ohms is None else show_ohms(ohms),
        frame=length_typed(typed.get("frame"), row.frame_m, quantity="offset", units=units),
        stake_back=length("stake_back", -row.stake_along_m),
        stake_away=length("stake_away", row.stake_away_m),
        reference="" if row.reference is None else f"{row.reference:g}",
        steps=[
            FaultStepView(
                id=s, text=fault_step_text(s, walk.walk), protects=s == FAULT_STEPS[0], done=s in row.steps_done
            )
            for s in FAULT_STEPS
        ],
        technician=row.technician,
        created_at=row.created_at,
    )


def _reading(row: Any, walk: LoadedWalk) -> FrameReadingView:
    units, read = walk.job.units, frame_reading_of(row)
    return FrameReadingView(
        id=row.id,
        distance_m=row.distance_m,
        distance_text=show_station(row.distance_m, units),
        arrow=read.arrow,
        across=read.across,
        level=None if read.level is None else read.sign * read.level,
        text=reading_text(read, units),
        note=row.note,
        technician=row.technician,
        taken_at=row.taken_at,
        typed=entry_typed(row, FRAME_FIELDS, units),
    )


def fault_record(walk: LoadedWalk) -> FaultRecord:
    """Return one walk with its readings and faults."""
    judged, units = judged_walk(walk), walk.job.units
    faults = () if judged.fit is None else judged.fit.faults
    fitted = None
    if judged.fit is not None and faults:
        fitted = LevelView(at_m=judged.fit.at_m.tolist(), level=judged.fit.level.tolist())
    return FaultRecord(
        walk=_walk(walk),
        readings=[_reading(r, walk) for r in walk.live_readings],
        faults=[_fault(walk, f, j) for f, j in zip(faults, judged.judgements, strict=True)],
        fitted=fitted,
        next_text=walk_next_text(judged, walk.walk, walk.readings, units),
        struck=struck(walk.row.readings, lambda r: reading_text(frame_reading_of(r), units)),
    )


def _expected(line: LoadedLine, walk: FaultWalk) -> LevelView:
    at_m, level = level_over(0.5 * (line.row.depth_min_m + line.row.depth_max_m), walk.frame_m)
    return LevelView(at_m=at_m.tolist(), level=level.tolist())


def refused_text(line: LoadedLine) -> str:
    """Return why no ground fault can be found on a line, empty where one can."""
    if not line.has_metal:
        return NO_METAL_FOR_SONDE.format(name=line.row.name)
    return BARE_METAL if bare_metal(line.line) else ""


def fault_view(line: LoadedLine, *, seen: int) -> FaultView:
    """Return the walk with the frame of a line that is in use; `seen`: the newest change of its job."""
    walk, refused = line.walk_in_use, refused_text(line)
    kit = line.job.kit
    asked = FaultWalk(kit.lowest_hz, frame_m=kit.frame_m) if walk is None else walk.walk
    return FaultView(
        line_id=line.row.id,
        units=line.job.units,
        length_m=line.row.length_m,
        refused=refused,
        forecast_text="" if refused else fault_forecast_text(fault_forecast_of(line, asked), asked),
        usual=show_hz(kit.lowest_hz),
        usual_frame=show_length(kit.frame_m, line.job.units, fine=True),
        expected=_expected(line, asked),
        fields=field_views(FRAME_FIELDS, line.job.units),
        shown=None if walk is None else fault_record(walk),
        seen=seen,
    )
