"""The printed record of a job."""

from __future__ import annotations

from fastapi import APIRouter
from fastapi.responses import Response

from vessel.api.history.present import corrections_of
from vessel.api.record.found_rows import found_rows, origin_of
from vessel.api.record.present import record_view
from vessel.api.record.views import RecordView
from vessel.api.requests import REFUSALS, Db, load_job
from vessel.formats.found_file import as_csv, as_geojson

router = APIRouter(prefix="/api", tags=["record"], responses=REFUSALS)


@router.get("/jobs/{job_id}/record")
def record(job_id: int, db: Db) -> RecordView:
    """Return everything the printable page needs."""
    job = load_job(db, job_id)
    return record_view(job, corrections_of(db, job.row))


@router.get("/jobs/{job_id}/found.csv", response_class=Response)
def found_csv(job_id: int, db: Db) -> Response:
    """Return marks, stations and stretches of every line as CSV."""
    job = load_job(db, job_id)
    return _file(as_csv(found_rows(job), origin_of(job)), "text/csv; charset=utf-8", f"job-{job_id}-found.csv")


@router.get("/jobs/{job_id}/found.geojson", response_class=Response)
def found_geojson(job_id: int, db: Db) -> Response:
    """Return marks, stations, stretches and tolerance zones of the drawn lines as GeoJSON."""
    job = load_job(db, job_id)
    return _file(as_geojson(found_rows(job), origin_of(job)), "application/geo+json", f"job-{job_id}-found.geojson")


def _file(text: str, media_type: str, name: str) -> Response:
    return Response(text, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{name}"'})
