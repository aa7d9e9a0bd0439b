"""Marks: made on a station, withdrawn with a reason."""

from __future__ import annotations

from fastapi import APIRouter, Depends

from vessel.api.form_reading import need
from vessel.api.job_answers import judgement_of
from vessel.api.mark_labels import label_of
from vessel.api.marks.forms import MarkForm, WithdrawForm
from vessel.api.marks.making import require_reason
from vessel.api.marks.present import mark_view, marks_of, snapshot
from vessel.api.marks.views import MarkView
from vessel.api.requests import REFUSALS, Db, Saving, get, load_line, load_station, stored
from vessel.core.base.errors import Conflict
from vessel.formats.loaded_job import LoadedJob
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import MarkRow

router = APIRouter(prefix="/api", tags=["marks"], responses=REFUSALS)


def _judged_first(station_id: int, db: Db) -> None:
    """Judge before the write lock is taken: under it the answer is only looked up."""
    judgement_of(load_station(db, station_id))


@router.post("/stations/{station_id}/marks", status_code=201, dependencies=[Depends(_judged_first)])
def mark(station_id: int, form: MarkForm, db: Saving) -> MarkView:
    """Mark a station. One that did not pass needs a written reason, kept and shown with the mark."""
    station = load_station(db, station_id)
    row, line = station.row, station.setup.line
    if station.mark:
        raise Conflict("This station is marked already.", field="station", fix="Withdraw that mark first.")
    j = judgement_of(station)
    require_reason(j, form.reason)
    u, painted = line.utility, form.painted_off_m(line.job.units)
    made = MarkRow(
        label=label_of(station, j, painted),
        colour=u.colour,
        verdict=j.verdict,
        criteria_version=j.criteria_version,
        reason=form.reason,
        painted_off_m=painted,
        snapshot=snapshot(station, j),
        technician=entered_by(db, form.technician, line.job.row),
        marked_at=now(),
    )
    row.marks.append(made)
    stored(db)
    return mark_view(made, line)


@router.post("/marks/{mark_id}/withdraw")
def withdraw(mark_id: int, form: WithdrawForm, db: Saving) -> MarkView:
    """Withdraw a mark with a reason; the entry stays on record."""
    row = get(db, MarkRow, mark_id, "mark")
    if row.withdrawn_at is not None:
        raise Conflict("This mark was withdrawn already.", field="mark")
    row.withdrawn_reason = need(form.reason, field="reason", name="The reason")
    row.withdrawn_by = entered_by(db, form.technician, row.line.job)
    row.withdrawn_at = now()
    stored(db)
    line = row.line
    return mark_view(row, LoadedJob(line.job).line(line))


@router.get("/lines/{line_id}/marks")
def marks(line_id: int, db: Db) -> list[MarkView]:
    """Return all marks of a line, withdrawn ones included."""
    return marks_of(load_line(db, line_id))
