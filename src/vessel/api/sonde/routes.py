"""Sonde runs: started, their stops entered, corrected, struck out and marked."""

from __future__ import annotations

from fastapi import APIRouter, Depends

from vessel.api.consequences import Consequences, consequences
from vessel.api.marks.forms import MarkForm
from vessel.api.marks.making import require_reason, stop_snapshot
from vessel.api.marks.present import mark_view
from vessel.api.marks.views import MarkView
from vessel.api.meanwhile import require_unchanged, seen_of
from vessel.api.on_the_line import refuse_far_beyond, require_on_line, require_steps
from vessel.api.requests import REFUSALS, Created, Db, Saving, load_line, load_run, load_stop, stored
from vessel.api.sonde.forms import RunForm, StepsForm, StopForm
from vessel.api.sonde.present import sonde_view, stop_detail, stop_label
from vessel.api.sonde.views import SondeView, StopDetail
from vessel.api.special_answers import stop_judgement
from vessel.api.striking import Why, restore, strike
from vessel.core.base.errors import Conflict
from vessel.core.judge.sonde.sonde_slips import sonde_slip
from vessel.core.model.sonde import SONDE_STEPS
from vessel.core.text.figures import show_station
from vessel.formats.adapters import sonde_run_of, stop_of
from vessel.formats.loaded_job import LoadedLine
from vessel.formats.loaded_sonde import LoadedRun, LoadedStop
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.special_tables import SondeRunRow, StopRow
from vessel.store.tables import JobRow, MarkRow

SAME_STOP_M = 0.05
router = APIRouter(prefix="/api", tags=["sonde"], responses=REFUSALS)


def _shown(db: Db, line: LoadedLine) -> SondeView:
    return sonde_view(line, seen=seen_of(db, line.job.row.id))


@router.get("/lines/{line_id}/sonde")
def sonde(line_id: int, db: Db) -> SondeView:
    """Return the sonde run of a line, or what to expect of one."""
    return _shown(db, load_line(db, line_id))


@router.post("/lines/{line_id}/sonde-runs", status_code=201)
def start_run(line_id: int, form: RunForm, db: Saving) -> Created:
    """Start a sonde run; earlier ones stay on record with their stops."""
    line = load_line(db, line_id)
    row = SondeRunRow(
        **form.values(line.job.units),
        steps_done=[],
        line_id=line.row.id,
        technician=entered_by(db, form.technician, line.job.row),
        created_at=now(),
    )
    _require_run(line, row)
    db.add(row)
    db.flush()
    return Created(id=row.id)


def _require_run(line: LoadedLine, row: SondeRunRow) -> None:
    """Refuse a run that cannot be on this line."""
    sonde_run_of(row)
    require_on_line(line, row.start_m, field="start_m", doing="Put the sonde in")


@router.put("/sonde-runs/{run_id}")
def change_run(run_id: int, form: RunForm, db: Saving) -> SondeView:
    """Correct what was set for a run, or enter its function check."""
    run = load_run(db, run_id)
    require_unchanged(db, run.job.row, form.seen, kind="sonde_runs", entry=run_id, apart_from=("steps_done",))
    with db.no_autoflush:
        for key, value in form.values(run.job.units).items():
            setattr(run.row, key, value)
        _require_run(run.line, run.row)
    stored(db)
    return _shown(db, load_line(db, run.row.line_id))


@router.post("/sonde-runs/{run_id}/consequences")
def consequences_of_run(run_id: int, form: RunForm, db: Db) -> Consequences:
    """Return which verdicts a correction of a run would alter; nothing is stored."""
    run = load_run(db, run_id)
    values = form.values(run.job.units)

    def change(job: JobRow) -> None:
        row = next(r for line in job.lines for r in line.sonde_runs if r.id == run_id)
        for key, value in values.items():
            setattr(row, key, value)
        _require_run(run.line, row)

    return consequences(db, [run.job.row.id], change)


@router.patch("/sonde-runs/{run_id}")
def tick_steps(run_id: int, form: StepsForm, db: Saving) -> SondeView:
    """Tick the steps before the rod goes in; nothing comes before the first, which protects."""
    run = load_run(db, run_id)
    require_steps(form.steps_done, SONDE_STEPS)
    run.row.steps_done = form.steps_done
    stored(db)
    return _shown(db, run.line)


@router.post("/sonde-runs/{run_id}/stops", status_code=201)
def add_stop(run_id: int, form: StopForm, db: Saving) -> SondeView:
    """Add a stop; its verdict comes back with the run."""
    run = load_run(db, run_id)
    row = StopRow(**form.values(run.job.units), technician=entered_by(db, form.technician, run.job.row), taken_at=now())
    _require_stop(run, row, insist=form.insist)
    run.row.stops.append(row)
    stored(db)
    return _shown(db, run.line)


def _require_stop(run: LoadedRun, row: StopRow, *, insist: bool) -> None:
    """Refuse a stop that cannot be, or where there is one already; ask about what looks like a slip."""
    read, units = stop_of(row), run.job.units
    others = [s for s in run.stops if s.row is not row]
    refuse_far_beyond(run.line, read.distance_m)
    for s in others:
        if abs(s.row.distance_m - read.distance_m) < SAME_STOP_M:
            raise Conflict(
                f"There is a stop at {show_station(s.row.distance_m, units)} already.",
                field="distance",
                fix="Open that one and correct it, or enter another distance.",
            )
    asked = None if insist else sonde_slip(read, run.run, [s.reading for s in others])
    if asked is not None:
        raise asked


def _unmarked(stop: LoadedStop, doing: str) -> None:
    if stop.mark:
        raise Conflict(
            f"This stop carries a mark, so it cannot be {doing}.",
            field="stop",
            fix="Withdraw the mark first; it stays on record.",
        )


@router.get("/stops/{stop_id}")
def stop(stop_id: int, db: Db) -> StopDetail:
    """Return one stop with every finding."""
    found = load_stop(db, stop_id)
    return stop_detail(found, seen=seen_of(db, found.run.job.row.id))


@router.put("/stops/{stop_id}")
def change_stop(stop_id: int, form: StopForm, db: Saving) -> SondeView:
    """Correct a stop in place."""
    found = load_stop(db, stop_id)
    _unmarked(found, "changed")
    require_unchanged(db, found.run.job.row, form.seen, kind="sonde_stops", entry=stop_id)
    with db.no_autoflush:
        for key, value in form.values(found.run.job.units).items():
            setattr(found.row, key, value)
        _require_stop(found.run, found.row, insist=form.insist)
    stored(db)
    return _shown(db, load_line(db, found.run.row.line_id))


@router.delete("/stops/{stop_id}", status_code=204)
def strike_stop(stop_id: int, db: Saving, why: Why = "") -> None:
    """Strike a stop out: it counts no more, stays on record with the reason, and can be restored."""
    found = load_stop(db, stop_id)
    _unmarked(found, "struck out")
    strike(db, found.row, why)


@router.post("/stops/{stop_id}/restore", status_code=204)
def restore_stop(stop_id: int, db: Saving) -> None:
    """Let a stop that was struck out count again."""
    found = load_stop(db, stop_id, removed=True)
    _require_stop(found.run, found.row, insist=True)
    restore(found.row)


def _fitted_first(stop_id: int, db: Db) -> None:
    """Fit before the write lock is taken: under it the answer is only looked up."""
    stop_judgement(load_stop(db, stop_id))


@router.post("/stops/{stop_id}/marks", status_code=201, dependencies=[Depends(_fitted_first)])
def mark_stop(stop_id: int, form: MarkForm, db: Saving) -> MarkView:
    """Mark a stop. One that did not pass needs a written reason, kept and shown with the mark."""
    found = load_stop(db, stop_id)
    line = found.run.line
    if found.mark:
        raise Conflict("This stop is marked already.", field="stop", fix="Withdraw that mark first.")
    j = stop_judgement(found)
    require_reason(j, form.reason)
    painted = form.painted_off_m(line.job.units)
    made = MarkRow(
        label=stop_label(found, painted),
        colour=line.utility.colour,
        verdict=j.verdict,
        criteria_version=j.criteria_version,
        reason=form.reason,
        painted_off_m=painted,
        snapshot=stop_snapshot(found, j),
        technician=entered_by(db, form.technician, line.job.row),
        marked_at=now(),
    )
    found.row.marks.append(made)
    stored(db)
    return mark_view(made, line)
