"""The printed record of a job."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.history.present import corrections_of
from vessel.api.record.present import record_view
from vessel.api.record.views import RecordView
from vessel.api.requests import REFUSALS, Db, load_job

router = APIRouter(prefix="/api", tags=["record"], responses=REFUSALS)


@router.get("/jobs/{job_id}/record")
def record(job_id: int, db: Db) -> RecordView:
    """Return everything the printable page needs."""
    job = load_job(db, job_id)
    return record_view(job, corrections_of(db, job.row))
