"""Lines of a job: create, change, remove and restore; plan; hookups; marks."""

from __future__ import annotations

from typing import Any, cast

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.form_reading import sent_as
from vessel.api.lines.forms import LineForm, LinePatch, NeighbourForm, PointForm
from vessel.api.lines.present import line_detail
from vessel.api.lines.views import LineDetail
from vessel.api.meanwhile import require_unchanged, seen_of
from vessel.api.requests import REFUSALS, Created, Db, Saving, get
from vessel.api.striking import Why
from vessel.core.base.errors import VesselError
from vessel.core.hookup.transmitter_forecast import require_sound
from vessel.core.model.line import require_access
from vessel.core.text.units import Units
from vessel.formats.adapters import setup_of
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.site_plan_doc import neighbour_of, point_of, route_length_m
from vessel.store.database import now
from vessel.store.journal import because
from vessel.store.tables import JobRow, LineRow

router = APIRouter(prefix="/api", tags=["lines"], responses=REFUSALS)


def _checked(row: LineRow, form: LineForm, job: JobRow) -> LineRow:
    units = cast(Units, job.units)
    for key, value in form.values(units).items():
        setattr(row, key, value)
    row.neighbours, row.points = [], []
    if row.route:
        row.length_m = route_length_m(row)
    _sound(row, job)
    row.neighbours = [_neighbour(n, k, job, row.length_m) for k, n in enumerate(form.neighbours)]
    _sound(row, job)
    row.points = [_point(p, k, job, row.length_m) for k, p in enumerate(form.points)]
    _sound(row, job)
    return row


def _sound(row: LineRow, job: JobRow) -> None:
    """Refuse a line that could not be computed."""
    loaded = LoadedJob(job).line(row)
    if loaded.has_metal:
        require_sound(loaded.line, loaded.job.soil)


def _neighbour(form: NeighbourForm, k: int, job: JobRow, length_m: float) -> dict[str, Any]:
    """Return the stored data of the k-th neighbour; refusals name it."""
    try:
        other = next((x for x in job.lines if x.id == form.of_line and x.preset == form.preset), None)
        data = form.values(cast(Units, job.units), None if other is None else other.construction)
        neighbour_of(data, length_m=length_m)
    except VesselError as e:
        e.field = f"neighbours.{k}.{sent_as(NeighbourForm, e.field)}"
        raise
    return data


def _point(form: PointForm, k: int, job: JobRow, length_m: float) -> dict[str, Any]:
    """Return the stored data of the k-th thing on the line; refusals name it."""
    try:
        data = form.values(cast(Units, job.units))
        require_access(point_of(data), length_m=length_m)
    except VesselError as e:
        e.field = f"points.{k}.{sent_as(PointForm, e.field)}"
        raise
    return data


@router.post("/jobs/{job_id}/lines", status_code=201)
def create_line(job_id: int, form: LineForm, db: Saving) -> Created:
    """Add a line to a job."""
    job = get(db, JobRow, job_id, "job")
    row = _checked(LineRow(created_at=now()), form, job)
    row.job_id = job.id
    db.add(row)
    db.flush()
    return Created(id=row.id)


@router.get("/lines/{line_id}")
def line(line_id: int, db: Db) -> LineDetail:
    """Return a line as typed."""
    row = get(db, LineRow, line_id, "line")
    return line_detail(row, seen_of(db, row.job_id))


@router.put("/lines/{line_id}", status_code=204)
def change_line(line_id: int, form: LineForm, db: Saving) -> None:
    """Change a line; hookups and stations stay and are judged anew."""
    row = get(db, LineRow, line_id, "line")
    require_unchanged(db, row.job, form.seen, kind="lines", entry=line_id, apart_from=("route",))
    with db.no_autoflush:
        _change(row, form)


@router.patch("/lines/{line_id}", status_code=204)
def enter_far_end(line_id: int, form: LinePatch, db: Saving) -> None:
    """Enter what was seen at the far end of a line; hookups and stations stay and are judged anew."""
    get(db, LineRow, line_id, "line").far_kind = form.far_kind


@router.post("/lines/{line_id}/far-end/consequences")
def consequences_of_far_end(line_id: int, form: LinePatch, db: Db) -> Consequences:
    """Return which verdicts it would alter to enter what was seen at the far end; nothing is stored."""

    def change(job: JobRow) -> None:
        next(x for x in job.lines if x.id == line_id).far_kind = form.far_kind

    return consequences(db, [get(db, LineRow, line_id, "line").job_id], change)


def _change(row: LineRow, form: LineForm) -> None:
    _checked(row, form, row.job)
    for setup in row.setups:
        setup_of(setup).require_on(row.length_m)


@router.post("/lines/{line_id}/consequences")
def consequences_of_line(line_id: int, form: LineForm, db: Db) -> Consequences:
    """Return which verdicts the change of a line would alter; nothing is stored."""

    def change(job: JobRow) -> None:
        require_unchanged(db, job, form.seen, kind="lines", entry=line_id, apart_from=("route",))
        _change(next(x for x in job.lines if x.id == line_id), form)

    return consequences(db, [get(db, LineRow, line_id, "line").job_id], change)


@router.delete("/lines/{line_id}", status_code=204)
def remove_line(line_id: int, db: Saving, why: Why = "") -> None:
    """Remove a line from the job; it can be restored. The reason is in its history."""
    because(db, why.strip())
    get(db, LineRow, line_id, "line").deleted_at = now()


@router.post("/lines/{line_id}/restore", status_code=204)
def restore_line(line_id: int, db: Saving) -> None:
    """Undo the removal of a line."""
    get(db, LineRow, line_id, "line", removed=True).deleted_at = None
