"""Jobs: list, create, change, remove and restore, export and import, record."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import Response
from sqlalchemy import select

from vessel.api.consequences import Consequences, consequences
from vessel.api.form_reading import Id
from vessel.api.jobs import transfer
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text
from vessel.api.jobs.forms import ImportForm, JobForm
from vessel.api.jobs.listing import Standing, jobs_page
from vessel.api.jobs.present import job_view, standing_view
from vessel.api.jobs.views import JobsView, JobView, StandingView
from vessel.api.lines.present import beside_choices
from vessel.api.lines.views import NeighbourTyped
from vessel.api.meanwhile import require_unchanged, seen_of
from vessel.api.requests import REFUSALS, Created, Db, Saving, get, load_job, stored
from vessel.api.striking import Why
from vessel.core.base.errors import BadInput
from vessel.core.model.soil import Soil
from vessel.core.prestart.checks_and_noise import kit_here
from vessel.formats import job_file
from vessel.formats.adapters import kit_of
from vessel.formats.before_doc import ambients_of, before_doc
from vessel.formats.loaded_job import LoadedJob
from vessel.store.database import now
from vessel.store.journal import because
from vessel.store.server_tables import ExerciseRow
from vessel.store.tables import JobRow, KitRow

router = APIRouter(prefix="/api/jobs", tags=["jobs"], responses=REFUSALS)


def _apply(db: Db, job: JobRow, form: JobForm) -> None:
    values = form.values()
    Soil.of_kind(values["soil_kind"], values["soil_resistivity_ohm_m"])
    kit = db.get(KitRow, form.kit_id) if form.kit_id else db.scalars(select(KitRow).order_by(KitRow.id)).first()
    if kit is None or (kit.deleted_at is not None and kit.id != job.kit_id):
        raise BadInput("That kit does not exist.", field="kit_id", fix="Choose one of the list.")
    core_kit = kit_of(kit.data)
    if job.before is not None:  # a new job has nothing yet
        kit_here(core_kit, ambients_of(before_doc(job)))
    for line in job.lines:
        for setup in line.setups:
            core_kit.require(setup.hookup, setup.freq_hz)
    for key, value in values.items():
        setattr(job, key, value)
    job.kit = kit


@router.get("")
def jobs(
    db: Db,
    before: Annotated[Id | None, Query(description="only jobs older than this one")] = None,
    limit: Annotated[int, Query(ge=1, le=200)] = 50,
    words: Annotated[str, Query(max_length=200, description="each found in the job or the name of a line")] = "",
    standing: Standing = "all",
) -> JobsView:
    """Return a page of the jobs, newest first, each with how it stands and a sketch of what is drawn."""
    return jobs_page(db, words=words, standing=standing, before=before, limit=limit)


@router.post("/demo", status_code=201)
def add_demo_jobs(db: Saving) -> Created:
    """Add fresh copies of the demo jobs; return the first of them."""
    first, *_ = [transfer.import_job(db, job_file.load(demo_text(name))) for name in DEMO_JOBS]
    return Created(id=first.id)


@router.post("", status_code=201)
def create_job(form: JobForm, db: Saving) -> Created:
    """Create a job."""
    job = JobRow(created_at=now())
    _apply(db, job, form)
    db.add(job)
    db.flush()
    return Created(id=job.id)


@router.get("/{job_id}/beside")
def beside(job_id: int, db: Db) -> list[NeighbourTyped]:
    """Return the job's lines as each would be entered beside another."""
    return beside_choices(load_job(db, job_id))


@router.post("/import", status_code=201)
def import_job(form: ImportForm, db: Saving) -> Created:
    """Import a job file as a new job."""
    job = transfer.import_job(db, job_file.load(form.text))
    return Created(id=job.id)


@router.get("/{job_id}")
def job(job_id: int, db: Db) -> JobView:
    """Return a job with its lines."""
    return job_view(load_job(db, job_id), seen=seen_of(db, job_id), practice=_practised(db, job_id))


@router.get("/{job_id}/standing")
def standing(job_id: int, db: Db) -> StandingView:
    """Return how a job stands by the judge: what is not proved, what is due, what contradicts itself."""
    return standing_view(load_job(db, job_id))


@router.put("/{job_id}")
def change_job(job_id: int, form: JobForm, db: Saving) -> JobView:
    """Change a job."""
    row = get(db, JobRow, job_id, "job")
    _unchanged(db, row, form)
    _apply(db, row, form)
    stored(db)
    return job_view(LoadedJob(row), seen=seen_of(db, job_id), practice=_practised(db, job_id))


def _practised(db: Db, job_id: int) -> bool:
    return db.scalar(select(ExerciseRow.id).where(ExerciseRow.job_id == job_id)) is not None


def _unchanged(db: Db, job: JobRow, form: JobForm) -> None:
    """Refuse to overwrite what others changed of a job's own form, whatever they did to the rest of it."""
    apart = ("site", "before", "marking")
    require_unchanged(db, job, form.seen, kind="jobs", entry=job.id, apart_from=apart)


@router.post("/{job_id}/consequences")
def consequences_of_job(job_id: int, form: JobForm, db: Db) -> Consequences:
    """Return which verdicts the change of a job would alter, as another soil or kit does; nothing is stored."""

    def change(job: JobRow) -> None:
        _unchanged(db, job, form)
        _apply(db, job, form)

    return consequences(db, [job_id], change)


@router.delete("/{job_id}", status_code=204)
def remove_job(job_id: int, db: Saving, why: Why = "") -> None:
    """Remove a job from the list; it can be restored. The reason is in its history."""
    because(db, why.strip())
    get(db, JobRow, job_id, "job").deleted_at = now()


@router.post("/{job_id}/restore", status_code=204)
def restore_job(job_id: int, db: Saving) -> None:
    """Undo the removal of a job."""
    get(db, JobRow, job_id, "job", removed=True).deleted_at = None


@router.get("/{job_id}/export", response_class=Response)
def export_job(job_id: int, db: Db) -> Response:
    """Return the whole job as a job file."""
    row = get(db, JobRow, job_id, "job")
    name = "".join(c if c.isalnum() and c.isascii() else "-" for c in row.name).strip("-").lower() or "job"
    return Response(
        job_file.dump(transfer.export_job(row)),
        media_type="application/json",
        headers={"Content-Disposition": f'attachment; filename="{name}.vessel.json"'},
    )
