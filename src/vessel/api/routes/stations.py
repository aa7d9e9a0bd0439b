"""Stations and marks."""

from __future__ import annotations

from typing import cast

from fastapi import APIRouter

from vessel.api import views
from vessel.api.compute import estimate_of, judgement_of, standing_mark
from vessel.api.inputs import need
from vessel.api.present.marks import mark_view, snapshot
from vessel.api.present.trace import station_detail, trace_view
from vessel.api.routes import REFUSALS, Db, get
from vessel.api.routes.hookups import ask_about_slips, check_station, refuse_twice
from vessel.api.station_inputs import MarkForm, PlacedStationForm, WithdrawForm
from vessel.core.base.errors import BadInput, Conflict
from vessel.core.judge.station.verdict import PROVED, VERDICT_LABEL
from vessel.core.model.station_place import way_back
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units
from vessel.formats.marking_doc import utility_of
from vessel.formats.to_core import line_of
from vessel.store.database import now
from vessel.store.tables import MarkRow, StationRow

router = APIRouter(prefix="/api", tags=["stations"], responses=REFUSALS)


def _unmarked(row: StationRow, doing: str) -> None:
    if standing_mark(row):
        raise Conflict(
            f"This station carries a mark, so it cannot be {doing}.",
            field="station",
            fix="Withdraw the mark first; it stays on record.",
        )


@router.get("/stations/{station_id}")
def station(station_id: int, db: Db) -> views.StationDetail:
    """Return one station with every finding."""
    return station_detail(get(db, StationRow, station_id, "station"))


@router.put("/stations/{station_id}")
def change_station(station_id: int, form: PlacedStationForm, db: Db) -> views.TraceView:
    """Correct a station in place."""
    row = get(db, StationRow, station_id, "station")
    _unmarked(row, "changed")
    values = form.on(row.setup.line)
    with db.no_autoflush:
        for key, value in values.items():
            setattr(row, key, value)
        check_station(row.setup, row)
        refuse_twice(row.setup, row)
        if not form.insist:
            ask_about_slips(row.setup, row)
    db.flush()
    return trace_view(row.setup)


@router.delete("/stations/{station_id}", status_code=204)
def remove_station(station_id: int, db: Db) -> None:
    """Remove a station; it can be restored."""
    row = get(db, StationRow, station_id, "station")
    _unmarked(row, "removed")
    row.deleted_at = now()


@router.post("/stations/{station_id}/restore", status_code=204)
def restore_station(station_id: int, db: Db) -> None:
    """Undo the removal of a station."""
    row = get(db, StationRow, station_id, "station", removed=True)
    refuse_twice(row.setup, row)
    row.deleted_at = None


def _way_back(s: StationRow, painted_off_m: float) -> str:
    """What paint beside the line says of the way to it: by the compass where the line is drawn."""
    course = line_of(s.setup.line, s.setup.line.job).course
    if course is None:
        return f"{'RIGHT' if painted_off_m > 0 else 'LEFT'} FROM NEAR END"
    return f"TO {way_back(course.drawn, s.distance_m, painted_off_m)}"


@router.post("/stations/{station_id}/marks", status_code=201)
def mark(station_id: int, form: MarkForm, db: Db) -> views.MarkView:
    """Mark a station. One that did not pass needs a written reason, kept and shown with the mark."""
    row = get(db, StationRow, station_id, "station")
    if standing_mark(row):
        raise Conflict("This station is marked already.", field="station", fix="Withdraw that mark first.")
    j = judgement_of(row)
    if j.verdict not in PROVED and len(form.reason) < 10:
        raise BadInput(
            f"The verdict here is {VERDICT_LABEL[j.verdict]}: a mark needs a written reason.",
            field="reason",
            fix="Say in a sentence why it is marked all the same.",
        )
    line = row.setup.line
    u, units = utility_of(line), cast(Units, line.job.units)
    painted = form.painted_off_m(units)
    best = estimate_of(row) if j.verdict in PROVED else None
    deep = row.depth_m if best is None else best.depth_m
    depth = "" if deep is None else f" {show_length(deep, units, fine=True)}"
    beside = "" if painted is None else f" LINE {show_length(abs(painted), units, fine=True)} {_way_back(row, painted)}"
    doubt = "" if j.verdict in PROVED else " NOT PROVED"
    made = MarkRow(
        label=f"{u.letter}{depth}{beside}{doubt}",
        colour=u.colour,
        verdict=j.verdict,
        criteria_version=j.criteria_version,
        reason=form.reason,
        painted_off_m=painted,
        snapshot=snapshot(row, j),
        technician=form.technician or line.job.technician,
        marked_at=now(),
    )
    row.marks.append(made)
    db.flush()
    return mark_view(made)


@router.post("/marks/{mark_id}/withdraw")
def withdraw(mark_id: int, form: WithdrawForm, db: Db) -> views.MarkView:
    """Withdraw a mark with a reason; the entry stays on record."""
    row = get(db, MarkRow, mark_id, "mark")
    if row.withdrawn_at is not None:
        raise Conflict("This mark was withdrawn already.", field="mark")
    row.withdrawn_reason = need(form.reason, field="reason", name="The reason")
    row.withdrawn_by = form.technician or row.station.setup.line.job.technician
    row.withdrawn_at = now()
    return mark_view(row)
