"""Where stations stand: placed by tapes or by the device on the job's plan."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.requests import REFUSALS, Db, Saving, get, load_line, load_setup, stored
from vessel.api.site.present import site_view
from vessel.api.site.views import SiteView
from vessel.api.stations.station_place_form import PlaceForm, TieForm, point_of
from vessel.api.stations.views import PlaceView
from vessel.core.text.units import FOOT_M
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.formats.projection import tied
from vessel.formats.site_plan_doc import plan_doc
from vessel.store.tables import JobRow

router = APIRouter(prefix="/api", tags=["stations"], responses=REFUSALS)


@router.post("/setups/{setup_id}/place")
def place(setup_id: int, form: PlaceForm, db: Db) -> PlaceView:
    """Say where that is along the hooked-up line, as the distance would be typed; nothing is stored."""
    return _placed(load_setup(db, setup_id).line, form)


@router.post("/lines/{line_id}/place")
def place_on_line(line_id: int, form: PlaceForm, db: Db) -> PlaceView:
    """Say where that is along a line, as the distance would be typed; nothing is stored."""
    return _placed(load_line(db, line_id), form)


def _placed(line: LoadedLine, form: PlaceForm) -> PlaceView:
    along_m, doc = form.placed(line)
    per = 1.0 if line.job.units == "metric" else FOOT_M
    return PlaceView(distance=f"{along_m / per:.2f}", text=doc.text)


@router.post("/jobs/{job_id}/site/tie")
def tie(job_id: int, form: TieForm, db: Saving) -> SiteView:
    """Tie the plan to the earth: the device stands at a known point of it."""
    job = get(db, JobRow, job_id, "job")
    doc = plan_doc(job)
    origin = tied((form.latitude, form.longitude), point_of(doc, form.point, "point"))
    job.site = doc.model_copy(update={"origin": origin}).model_dump(mode="json")
    stored(db)
    return site_view(LoadedJob(job))
