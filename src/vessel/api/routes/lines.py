"""Lines of a job: create, change, remove and restore; plan; hookups; marks."""

from __future__ import annotations

from typing import Any, cast

from fastapi import APIRouter

from vessel.api import views
from vessel.api.errors import form_field
from vessel.api.inputs import LineForm, NeighbourForm, SetupForm
from vessel.api.present.job import line_detail
from vessel.api.present.marks import marks_of
from vessel.api.present.plan import plan_view
from vessel.api.routes import REFUSALS, Db, get
from vessel.core.base.errors import Conflict, VesselError
from vessel.core.hookup.transmitter_forecast import require_clear_stake, require_place, require_sound, stake_away_m
from vessel.core.simulate.hookup_places import access_at, nearest_access, safety_rejection
from vessel.core.text.units import Units
from vessel.formats.site_plan import neighbour_of, route_length_m
from vessel.formats.to_core import kit_on, line_of, setup_of, soil_of
from vessel.store.database import now
from vessel.store.tables import JobRow, LineRow, SetupRow
from vessel.words.option_sentences import REJECTED

router = APIRouter(prefix="/api", tags=["lines"], responses=REFUSALS)


def _checked(row: LineRow, form: LineForm, job: JobRow) -> LineRow:
    units = cast(Units, job.units)
    for key, value in form.values(units).items():
        setattr(row, key, value)
    row.neighbours = []
    if row.route:
        row.length_m = route_length_m(row)
    if row.construction is not None:
        line_of(row, job)
    row.neighbours = [_neighbour(n, k, job, row.length_m) for k, n in enumerate(form.neighbours)]
    if row.construction is not None:
        require_sound(line_of(row, job), soil_of(job))
    return row


def _neighbour(form: NeighbourForm, k: int, job: JobRow, length_m: float) -> dict[str, Any]:
    """Return the stored data of the k-th neighbour; refusals name it."""
    try:
        other = next((x for x in job.lines if x.id == form.of_line and x.preset == form.preset), None)
        data = form.values(cast(Units, job.units), None if other is None else other.construction)
        neighbour_of(data, length_m=length_m)
    except VesselError as e:
        e.field = f"neighbours.{k}.{form_field(e.field)}"
        raise
    return data


@router.post("/jobs/{job_id}/lines", status_code=201)
def create_line(job_id: int, form: LineForm, db: Db) -> views.Created:
    """Add a line to a job."""
    job = get(db, JobRow, job_id, "job")
    row = _checked(LineRow(created_at=now()), form, job)
    row.job_id = job.id
    db.add(row)
    db.flush()
    return views.Created(id=row.id)


@router.get("/lines/{line_id}")
def line(line_id: int, db: Db) -> views.LineDetail:
    """Return a line as typed."""
    return line_detail(get(db, LineRow, line_id, "line"))


@router.put("/lines/{line_id}", status_code=204)
def change_line(line_id: int, form: LineForm, db: Db) -> None:
    """Change a line; hookups and stations stay and are judged anew."""
    row = get(db, LineRow, line_id, "line")
    with db.no_autoflush:
        _checked(row, form, row.job)
        for setup in row.setups:
            setup_of(setup).require_on(row.length_m)


@router.delete("/lines/{line_id}", status_code=204)
def remove_line(line_id: int, db: Db) -> None:
    """Remove a line from the job; it can be restored."""
    get(db, LineRow, line_id, "line").deleted_at = now()


@router.post("/lines/{line_id}/restore", status_code=204)
def restore_line(line_id: int, db: Db) -> None:
    """Undo the removal of a line."""
    get(db, LineRow, line_id, "line", removed=True).deleted_at = None


@router.get("/lines/{line_id}/plan")
def plan(line_id: int, db: Db) -> views.PlanView:
    """Return the plan: every option, ranked, and the rejected ones with reasons."""
    return plan_view(get(db, LineRow, line_id, "line"))


@router.post("/lines/{line_id}/setups", status_code=201)
def create_setup(line_id: int, form: SetupForm, db: Db) -> views.Created:
    """Start a hookup; earlier ones stay on record with their readings."""
    row = get(db, LineRow, line_id, "line")
    kit = kit_on(row.job)
    values = form.values(cast(Units, row.job.units), lead_m=kit.lead_m)
    setup = SetupRow(
        **values, line_id=row.id, steps_done=[], technician=form.technician or row.job.technician, created_at=now()
    )
    setup_of(setup).require_on(row.length_m)
    if setup.stake_at is not None:
        setup.stake_away_m = stake_away_m(line_of(row, row.job), setup_of(setup))
        require_place(line_of(row, row.job), setup_of(setup))
    require_clear_stake(line_of(row, row.job), soil_of(row.job), setup_of(setup))
    frequency = kit.frequency(setup_of(setup).freq_hz)
    setup.freq_hz = frequency.freq_hz
    kit.require_lead(setup.stake_away_m)
    if setup.rx_freq_hz is not None:
        setup.rx_freq_hz = kit.frequency(setup.rx_freq_hz, at="rx_freq").freq_hz
    core_line, core_setup = line_of(row, row.job), setup_of(setup)
    at = core_setup.position_m
    point = access_at(core_line, at) if core_setup.method == "direct" else nearest_access(core_line, at)[2]
    why = safety_rejection(core_setup.method, point, kit)
    if why is not None:
        raise Conflict(REJECTED[why], field="hookup", fix="Choose another hookup.")
    db.add(setup)
    db.flush()
    return views.Created(id=setup.id)


@router.get("/lines/{line_id}/marks")
def marks(line_id: int, db: Db) -> list[views.MarkView]:
    """Return all marks of a line, withdrawn ones included."""
    return marks_of(get(db, LineRow, line_id, "line").setups)
