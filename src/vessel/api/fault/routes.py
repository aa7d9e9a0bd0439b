"""Walks with the frame: started, read, corrected, struck out; the faults they find marked."""

from __future__ import annotations

from fastapi import APIRouter, Depends

from vessel.api.consequences import Consequences, consequences
from vessel.api.fault.forms import FaultMarkForm, FaultStepsForm, FrameForm, WalkForm
from vessel.api.fault.present import fault_label, fault_view, refused_text
from vessel.api.fault.views import FaultView
from vessel.api.marks.making import fault_snapshot, require_reason
from vessel.api.marks.present import mark_view
from vessel.api.marks.views import MarkView
from vessel.api.meanwhile import require_unchanged, seen_of
from vessel.api.on_the_line import refuse_far_beyond, require_on_line, require_steps
from vessel.api.requests import REFUSALS, Created, Db, Saving, get, load_line, load_walk, stored
from vessel.api.special_answers import fault_near, marked_fault
from vessel.api.striking import Why, restore, strike
from vessel.core.base.errors import Conflict
from vessel.core.hookup.judge_fault import fault_verdict
from vessel.core.judge.fault.fault_slips import frame_slip
from vessel.core.model.fault_walk import FAULT_STEPS
from vessel.core.text.figures import show_length
from vessel.formats.adapters import fault_walk_of, frame_reading_of
from vessel.formats.loaded_job import LoadedLine
from vessel.formats.loaded_walk import LoadedWalk
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.special_tables import FaultWalkRow, FrameReadingRow
from vessel.store.tables import JobRow, MarkRow
from vessel.words.fault_sentences import FAULT_LABEL

router = APIRouter(prefix="/api", tags=["faults"], responses=REFUSALS)


def _shown(db: Db, line: LoadedLine) -> FaultView:
    return fault_view(line, seen=seen_of(db, line.job.row.id))


@router.get("/lines/{line_id}/fault")
def fault(line_id: int, db: Db) -> FaultView:
    """Return the walk with the frame of a line, or what to expect of one."""
    return _shown(db, load_line(db, line_id))


@router.post("/lines/{line_id}/fault-walks", status_code=201)
def start_walk(line_id: int, form: WalkForm, db: Saving) -> Created:
    """Start a walk with the frame; earlier ones stay on record with their readings."""
    line = load_line(db, line_id)
    why = refused_text(line)
    if why:
        raise Conflict(why, field="line")
    row = FaultWalkRow(
        **form.values(line.job.units, usual_m=line.job.kit.frame_m),
        steps_done=[],
        line_id=line.row.id,
        technician=entered_by(db, form.technician, line.job.row),
        created_at=now(),
    )
    _require_walk(line, row)
    db.add(row)
    db.flush()
    return Created(id=row.id)


def _require_walk(line: LoadedLine, row: FaultWalkRow) -> None:
    """Refuse a walk that cannot be on this line."""
    fault_walk_of(row)
    require_on_line(line, row.start_m, field="start_m", doing="Connect")


@router.put("/fault-walks/{walk_id}")
def change_walk(walk_id: int, form: WalkForm, db: Saving) -> FaultView:
    """Correct what was set for a walk, or enter the loop and the level at the stake."""
    walk = load_walk(db, walk_id)
    require_unchanged(db, walk.job.row, form.seen, kind="fault_walks", entry=walk_id, apart_from=("steps_done",))
    with db.no_autoflush:
        for key, value in form.values(walk.job.units, usual_m=walk.job.kit.frame_m).items():
            setattr(walk.row, key, value)
        _require_walk(walk.line, walk.row)
    stored(db)
    return _shown(db, load_line(db, walk.row.line_id))


@router.post("/fault-walks/{walk_id}/consequences")
def consequences_of_walk(walk_id: int, form: WalkForm, db: Db) -> Consequences:
    """Return which faults that are marked a correction of a walk would leave unproved; nothing is stored."""
    walk = load_walk(db, walk_id)
    values = form.values(walk.job.units, usual_m=walk.job.kit.frame_m)

    def change(job: JobRow) -> None:
        row = next(w for line in job.lines for w in line.fault_walks if w.id == walk_id)
        for key, value in values.items():
            setattr(row, key, value)
        _require_walk(walk.line, row)

    return consequences(db, [walk.job.row.id], change)


@router.patch("/fault-walks/{walk_id}")
def tick_fault_steps(walk_id: int, form: FaultStepsForm, db: Saving) -> FaultView:
    """Tick the steps before the walk; nothing comes before the first, which protects."""
    walk = load_walk(db, walk_id)
    require_steps(form.steps_done, FAULT_STEPS)
    walk.row.steps_done = form.steps_done
    stored(db)
    return _shown(db, load_line(db, walk.row.line_id))


@router.post("/fault-walks/{walk_id}/readings", status_code=201)
def add_frame_reading(walk_id: int, form: FrameForm, db: Saving) -> FaultView:
    """Add what the frame showed at a place; the faults come back with the walk."""
    walk = load_walk(db, walk_id)
    row = FrameReadingRow(
        **form.values(walk.job.units), technician=entered_by(db, form.technician, walk.job.row), taken_at=now()
    )
    _require_reading(walk, row, insist=form.insist)
    walk.row.readings.append(row)
    stored(db)
    return _shown(db, load_line(db, walk.row.line_id))


def _require_reading(walk: LoadedWalk, row: FrameReadingRow, *, insist: bool) -> None:
    """Refuse a reading that cannot be, and ask about what looks like a slip."""
    read = frame_reading_of(row)
    refuse_far_beyond(walk.line, read.distance_m)
    others = [frame_reading_of(r) for r in walk.live_readings if r is not row]
    asked = None if insist else frame_slip(read, others)
    if asked is not None:
        raise asked


@router.put("/frame-readings/{reading_id}")
def change_frame_reading(reading_id: int, form: FrameForm, db: Saving) -> FaultView:
    """Correct what the frame showed at a place."""
    row = get(db, FrameReadingRow, reading_id, "reading")
    walk = load_walk(db, row.walk_id)
    require_unchanged(db, walk.job.row, form.seen, kind="frame_readings", entry=reading_id)
    with db.no_autoflush:
        for key, value in form.values(walk.job.units).items():
            setattr(row, key, value)
        _require_reading(walk, row, insist=form.insist)
    stored(db)
    return _shown(db, load_line(db, walk.row.line_id))


@router.delete("/frame-readings/{reading_id}", status_code=204)
def strike_frame_reading(reading_id: int, db: Saving, why: Why = "") -> None:
    """Strike a reading out: it counts no more, stays on record with the reason, and can be restored."""
    strike(db, get(db, FrameReadingRow, reading_id, "reading"), why)


@router.post("/frame-readings/{reading_id}/restore", status_code=204)
def restore_frame_reading(reading_id: int, db: Saving) -> None:
    """Let a reading that was struck out count again."""
    restore(get(db, FrameReadingRow, reading_id, "reading", removed=True))


def _fitted_first(walk_id: int, form: FaultMarkForm, db: Db) -> None:
    """Fit before the write lock is taken: under it the answer is only looked up."""
    fault_near(load_walk(db, walk_id), form.at_m)


@router.post("/fault-walks/{walk_id}/marks", status_code=201, dependencies=[Depends(_fitted_first)])
def mark_fault(walk_id: int, form: FaultMarkForm, db: Saving) -> MarkView:
    """Mark a ground fault. One that is not found for sure needs a written reason, kept and shown with the mark."""
    walk = load_walk(db, walk_id)
    near = fault_near(walk, form.at_m)
    if near is None:
        raise Conflict(
            f"No fault is shown at {show_length(form.at_m, walk.job.units)} any more.",
            field="at_m",
            fix="Look at the walk again: readings have changed.",
        )
    found, j = near
    if marked_fault(walk, found.at_m) is not None:
        raise Conflict("This fault is marked already.", field="at_m", fix="Withdraw that mark first.")
    require_reason(j, form.reason, FAULT_LABEL[fault_verdict(j)])
    made = MarkRow(
        label=fault_label(walk, found, j),
        colour=walk.line.utility.colour,
        verdict=j.verdict,
        criteria_version=j.criteria_version,
        reason=form.reason,
        painted_off_m=None,
        snapshot=fault_snapshot(walk, found, j),
        technician=entered_by(db, form.technician, walk.job.row),
        marked_at=now(),
    )
    walk.row.marks.append(made)
    stored(db)
    return mark_view(made, walk.line)
