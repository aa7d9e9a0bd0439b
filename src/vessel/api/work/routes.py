"""The order of work on a site."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.requests import REFUSALS, Db, load_job
from vessel.api.work.present import work_view
from vessel.api.work.views import WorkView

router = APIRouter(prefix="/api", tags=["work"], responses=REFUSALS)


@router.get("/jobs/{job_id}/site/work")
def work(job_id: int, db: Db) -> WorkView:
    """Return the order of work: setups of all lines, what each proves, and what none does."""
    return work_view(load_job(db, job_id))
