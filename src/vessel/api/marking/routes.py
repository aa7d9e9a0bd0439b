"""The local rule of marking of a job."""

from __future__ import annotations

from typing import cast

from fastapi import APIRouter

from vessel.api.form_reading import Reader
from vessel.api.marking.forms import MarkingForm
from vessel.api.marking.present import marking_view
from vessel.api.marking.views import MarkingView
from vessel.api.requests import REFUSALS, Db, Saving, get, load_job, stored
from vessel.core.model.marking import Look
from vessel.core.model.utility import UTILITIES
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.marking_doc import LookDoc, MarkingDoc, told_marking
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import JobRow

router = APIRouter(prefix="/api/jobs/{job_id}/marking", tags=["marking"], responses=REFUSALS)


@router.get("")
def marking(job_id: int, db: Db) -> MarkingView:
    """Return how a job marks every kind of line."""
    return marking_view(load_job(db, job_id))


@router.put("")
def change_marking(job_id: int, form: MarkingForm, db: Saving) -> MarkingView:
    """Save the local rule as a whole; marks on record keep the colour and label they were made with."""
    job = get(db, JobRow, job_id, "job")
    told = {key: LookDoc(**{**f.model_dump(), "hex": f.hex.lower()}) for key, f in form.looks.items()}
    own = {k: d for k, d in told.items() if k not in UTILITIES or d.model_dump() != vars(Look.of(UTILITIES[k]))}
    tolerance_m = Reader(form, cast(Units, job.units)).must("tolerance", "depth", "The tolerance zone")
    doc = MarkingDoc(
        looks=own,
        tolerance_m=tolerance_m,
        source=form.source,
        by=entered_by(db, form.technician, job),
        at=now(),
    )
    told_marking(doc)
    job.marking = doc.model_dump(mode="json")
    stored(db)
    return marking_view(LoadedJob(job))
