"""The history of a job and of any of its entries."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query

from vessel.api.form_reading import Id
from vessel.api.history.present import history_view
from vessel.api.history.views import HistoryView, Kind
from vessel.api.requests import REFUSALS, Db, get
from vessel.store.tables import JobRow

router = APIRouter(prefix="/api/jobs/{job_id}/history", tags=["history"], responses=REFUSALS)


@router.get("")
def history(
    job_id: int,
    db: Db,
    kind: Annotated[Kind | None, Query(description="only of entries of this table")] = None,
    entry: Annotated[Id | None, Query(description="only of the entry of this id")] = None,
    before: Annotated[Id | None, Query(description="only changes older than this one")] = None,
    limit: Annotated[int, Query(ge=1, le=500)] = 100,
) -> HistoryView:
    """Return what was changed on a job, newest first: who, when, what, and why."""
    job = get(db, JobRow, job_id, "job")
    return history_view(db, job, kind=kind, entry=entry, before=before, limit=limit)
