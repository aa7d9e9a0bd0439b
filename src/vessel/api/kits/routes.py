"""Kits: the sample and the user's own."""

from __future__ import annotations

from fastapi import APIRouter
from sqlalchemy import func, select

from vessel.api.consequences import Consequences, consequences, jobs_read_with
from vessel.api.kits.forms import KitForm
from vessel.api.kits.views import KitView
from vessel.api.requests import REFUSALS, Created, Db, Saving, get
from vessel.api.striking import Why
from vessel.core.base.errors import Conflict
from vessel.formats.adapters import kit_of
from vessel.formats.kit_doc import KitDoc
from vessel.store.database import now
from vessel.store.journal import because
from vessel.store.tables import JobRow, KitRow, LineRow, SetupRow

router = APIRouter(prefix="/api/kits", tags=["kits"], responses=REFUSALS)


def _view(db: Db, row: KitRow) -> KitView:
    jobs = db.scalar(select(func.count()).where(JobRow.kit_id == row.id, JobRow.deleted_at.is_(None)))
    return KitView(id=row.id, kit=KitDoc.model_validate(row.data), in_use=jobs or 0)


@router.get("")
def kits(db: Db) -> list[KitView]:
    """Return all kits."""
    return [_view(db, k) for k in db.scalars(select(KitRow).where(KitRow.deleted_at.is_(None)).order_by(KitRow.id))]


@router.post("", status_code=201)
def create_kit(form: KitForm, db: Saving) -> Created:
    """Add a kit."""
    kit_of(form.kit)
    row = KitRow(name=form.kit.name, data=form.kit.model_dump())
    db.add(row)
    db.flush()
    return Created(id=row.id)


@router.put("/{kit_id}")
def change_kit(kit_id: int, form: KitForm, db: Saving) -> KitView:
    """Change a kit; frequencies that hookups on record use must stay."""
    row = get(db, KitRow, kit_id, "kit")
    _require_used(db, kit_id, form)
    row.name, row.data = form.kit.name, form.kit.model_dump()
    return _view(db, row)


@router.post("/{kit_id}/consequences")
def consequences_of_kit(kit_id: int, form: KitForm, db: Db) -> Consequences:
    """Return which verdicts other figures of a kit would alter, in every job that uses it; nothing is stored."""
    get(db, KitRow, kit_id, "kit")
    _require_used(db, kit_id, form)
    return consequences(db, jobs_read_with(db, kit_id), lambda job: setattr(job.kit, "data", form.kit.model_dump()))


def _require_used(db: Db, kit_id: int, form: KitForm) -> None:
    """Refuse a kit without a frequency that hookups on record use."""
    kit = kit_of(form.kit)
    used = select(SetupRow.hookup, SetupRow.freq_hz).join(LineRow).join(JobRow).where(JobRow.kit_id == kit_id)
    for hookup, freq in db.execute(used.distinct()):
        kit.require(hookup, freq, at="frequencies")


@router.delete("/{kit_id}", status_code=204)
def remove_kit(kit_id: int, db: Saving, why: Why = "") -> None:
    """Remove a kit that no job uses; it can be restored. The reason is in its history."""
    because(db, why.strip())
    row = get(db, KitRow, kit_id, "kit")
    if _view(db, row).in_use:
        raise Conflict("A job uses this kit.", field="kit", fix="Give those jobs another kit first.")
    row.deleted_at = now()


@router.post("/{kit_id}/restore", status_code=204)
def restore_kit(kit_id: int, db: Saving) -> None:
    """Undo the removal of a kit."""
    get(db, KitRow, kit_id, "kit", removed=True).deleted_at = None
