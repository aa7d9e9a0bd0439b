"""What is done before anything is switched on: the sheet, the noise, the passive sweep."""

from __future__ import annotations

from typing import cast

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.form_reading import Reader
from vessel.api.prestart.forms import AmbientForm, CheckForm, NoiseForm, PassiveForm
from vessel.api.prestart.present import before_view
from vessel.api.prestart.views import BeforeView
from vessel.api.requests import REFUSALS, Db, Saving, get, load_job, stored
from vessel.core.base.errors import VesselError
from vessel.core.model.pre_start import Ambient, Check, Hit
from vessel.core.prestart.checks_and_noise import kit_here, require_known
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_of
from vessel.formats.before_doc import AmbientDoc, BeforeDoc, CheckDoc, HitDoc, PassiveDoc, before_doc, passive_of
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.site_plan_doc import plan_doc
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import JobRow

router = APIRouter(prefix="/api/jobs/{job_id}/before", tags=["before"], responses=REFUSALS)


@router.get("")
def before(job_id: int, db: Db) -> BeforeView:
    """Return everything that is done before anything is switched on."""
    return before_view(load_job(db, job_id))


@router.put("/checks/{check_id}")
def answer(job_id: int, check_id: str, form: CheckForm, db: Saving) -> BeforeView:
    """Answer one check, or take the answer back."""
    job = get(db, JobRow, job_id, "job")
    doc = before_doc(job)
    doc.checks = [c for c in doc.checks if c.id != check_id]
    if form.answer:
        require_known(Check(check_id, form.answer, form.note))
        by = entered_by(db, form.technician, job)
        doc.checks.append(CheckDoc(id=check_id, answer=form.answer, note=form.note, technician=by, answered_at=now()))
    return _saved(job, doc, db)


@router.put("/noise")
def noise(job_id: int, form: NoiseForm, db: Saving) -> BeforeView:
    """Save the noise check as a whole; nothing is stored if a row is refused."""
    job = get(db, JobRow, job_id, "job")
    return _saved(job, _measured(job, form), db)


@router.post("/noise/consequences")
def consequences_of_noise(job_id: int, form: NoiseForm, db: Db) -> Consequences:
    """Return which verdicts the noise check would alter; nothing is stored."""
    get(db, JobRow, job_id, "job")
    return consequences(db, [job_id], lambda job: setattr(job, "before", _measured(job, form).model_dump(mode="json")))


def _measured(job: JobRow, form: NoiseForm) -> BeforeDoc:
    doc, kit = before_doc(job), kit_of(job.kit.data)
    read = []
    for k, row in enumerate(form.rows):
        reader = Reader(row, cast(Units, job.units))
        try:
            freq = kit.frequency(row.freq_hz).freq_hz
            if not row.here and not row.quiet:
                continue
            here, quiet = reader.must("here", "signal", "The level here"), reader.read("quiet", "signal")
            kit_here(kit, [Ambient(freq, here, quiet)])
        except VesselError as e:
            e.field = f"rows.{k}.{e.field if e.field in AmbientForm.model_fields else 'here'}"
            raise
        read.append(AmbientDoc(freq_hz=freq, here=here, quiet=quiet, typed=reader.typed))
    # what was read with another kit stays on record
    mine = {f.freq_hz for f in kit.frequencies}
    doc.noise = [*(a for a in doc.noise if a.freq_hz not in mine), *read]
    return doc


@router.put("/passive")
def passive(job_id: int, form: PassiveForm, db: Saving) -> BeforeView:
    """Save the passive sweep as a whole; nothing is stored if a hit is refused."""
    job = get(db, JobRow, job_id, "job")
    return _saved(job, _swept(job, form), db)


@router.post("/passive/consequences")
def consequences_of_passive(job_id: int, form: PassiveForm, db: Db) -> Consequences:
    """Return which verdicts the passive sweep would alter; nothing is stored."""
    get(db, JobRow, job_id, "job")
    return consequences(db, [job_id], lambda job: setattr(job, "before", _swept(job, form).model_dump(mode="json")))


def _swept(job: JobRow, form: PassiveForm) -> BeforeDoc:
    doc, units = before_doc(job), cast(Units, job.units)
    plan, hits = plan_doc(job), []
    for k, hit in enumerate(form.hits):
        try:
            made = Hit(hit.source, hit.at(plan, units), hit.note)
        except VesselError as e:
            e.field = f"hits.{k}.{'place' if e.field == 'at' else e.field}"
            raise
        hits.append(HitDoc(source=made.source, at=made.at, note=made.note))
    spacing = Reader(form, units).read("spacing", "distance")
    doc.passive = PassiveDoc(first=form.first, second=form.second, spacing_m=spacing, hits=hits)
    passive_of(doc)
    return doc


def _saved(job: JobRow, doc: BeforeDoc, db: Db) -> BeforeView:
    job.before = doc.model_dump(mode="json")
    stored(db)
    return before_view(LoadedJob(job))
