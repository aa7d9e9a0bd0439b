"""What is done before anything is switched on: the sheet, the noise, the passive sweep."""

from __future__ import annotations

from collections.abc import Sequence
from typing import cast

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.form_reading import Reader
from vessel.api.prestart.forms import AmbientForm, CheckForm, NoiseForm, PassiveForm, StripForm
from vessel.api.prestart.grid_view import walk_of
from vessel.api.prestart.present import before_view
from vessel.api.prestart.views import BeforeView
from vessel.api.requests import REFUSALS, Db, Saving, get, load_job, stored
from vessel.core.base.errors import BadInput, VesselError
from vessel.core.model.pre_start import Ambient, Check, Hit
from vessel.core.prestart.checks_and_noise import kit_here, require_known
from vessel.core.prestart.grid_walk import WAYS, Strip, WayId, strips_over, walked
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_of
from vessel.formats.before_doc import (
    MOST_WALKED,
    AmbientDoc,
    BeforeDoc,
    CheckDoc,
    HitDoc,
    PassiveDoc,
    WalkedDoc,
    before_doc,
    passive_of,
)
from vessel.formats.loaded_job import LoadedJob
from vessel.formats.site_plan_doc import dig_area, plan_doc
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


@router.put("/passive/ways/{way}")
def walk_way(job_id: int, way: WayId, form: StripForm, db: Saving) -> BeforeView:
    """Say that one way of the grid is walked as a whole, or take that back with every strip of it."""
    job = get(db, JobRow, job_id, "job")
    doc, walk = before_doc(job), walk_of(LoadedJob(job))
    if not form.walked:
        _unwalk(doc, [s for s in walk.strips if s.way == way])
        _tick(doc, way, walked=False)
    elif walk.strips:  # strip by strip: a larger dig area is not walked by a tick of the smaller one
        _add(doc, walk.left(way), entered_by(db, form.technician, job))
    else:
        _tick(doc, way, walked=True)
    return _saved(job, doc, db)


@router.put("/passive/strips/{strip_id}")
def walk_strip(job_id: int, strip_id: str, form: StripForm, db: Saving) -> BeforeView:
    """Say that one strip of the grid is walked, or take that back."""
    job = get(db, JobRow, job_id, "job")
    doc, walk = before_doc(job), walk_of(LoadedJob(job))
    strip = walk.strip(strip_id)
    by = entered_by(db, form.technician, job)
    if not form.walked:
        if walk.whole[WAYS.index(strip.way)]:  # ticked as a whole: all others of it stay walked
            _tick(doc, strip.way, walked=False)
            _add(doc, walk.left(strip.way), by)
        _unwalk(doc, [strip])
    elif walk.by[walk.strips.index(strip)] is None:
        _add(doc, [strip], by)
    return _saved(job, doc, db)


def _add(doc: BeforeDoc, strips: Sequence[Strip], by: str) -> None:
    if len(doc.passive.walked) + len(strips) > MOST_WALKED:
        fix = "Set the earlier distance between walks and take its strips back."
        raise BadInput(f"{MOST_WALKED} walks are on record already.", field="strip_id", fix=fix)
    doc.passive.walked += [WalkedDoc(start=s.start, end=s.end, technician=by, walked_at=now()) for s in strips]


def _tick(doc: BeforeDoc, way: WayId, *, walked: bool) -> None:
    setattr(doc.passive, {"A": "first", "B": "second"}[way], walked)


def _unwalk(doc: BeforeDoc, strips: Sequence[Strip]) -> None:
    """Leave out every walk that covers one of the strips."""
    p, spacing = doc.passive, doc.passive.spacing_m or 0.0
    covers = [any(by is not None for by in walked(strips, [(w.start, w.end)], spacing)) for w in p.walked]
    p.walked = [w for w, covered in zip(p.walked, covers, strict=True) if not covered]


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
    was = doc.passive
    doc.passive = PassiveDoc(first=was.first, second=was.second, spacing_m=spacing, hits=hits, walked=was.walked)
    area = dig_area(plan)
    if spacing is not None and spacing != was.spacing_m and area is not None:
        strips_over(area, spacing)
    passive_of(doc)
    return doc


def _saved(job: JobRow, doc: BeforeDoc, db: Db) -> BeforeView:
    job.before = doc.model_dump(mode="json")
    stored(db)
    return before_view(LoadedJob(job))
