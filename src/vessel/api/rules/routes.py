"""The judge's table, and a crew's own limits in it."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter
from pydantic import Field

from vessel.api.consequences import Consequences, consequences, jobs_read_with
from vessel.api.form_reading import need
from vessel.api.requests import REFUSALS, Db, Saving, get
from vessel.api.rules.forms import BoundForm
from vessel.api.rules.present import rules_view
from vessel.api.rules.views import RulesView
from vessel.core.base.errors import NotFound
from vessel.core.judge.station.criteria import BY_ID
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_of
from vessel.formats.kit_doc import BoundDoc, KitDoc
from vessel.store.database import now
from vessel.store.journal import signed_by
from vessel.store.tables import KitRow
from vessel.words.finding_sentences import understand_bound

router = APIRouter(prefix="/api", tags=["rules"], responses=REFUSALS)


@router.get("/rules")
def rules(db: Db, units: Units = "metric", kit_id: Annotated[int | None, Field(ge=1)] = None) -> RulesView:
    """Return the judge's table with its limits in words, as the crew of a kit uses it where one is named."""
    return rules_view(None if kit_id is None else get(db, KitRow, kit_id, "kit"), units)


@router.put("/kits/{kit_id}/bounds/{rule_id}")
def change_bounds(kit_id: int, rule_id: str, form: BoundForm, db: Saving) -> RulesView:
    """Give one rule a crew's own limits; marks on record keep the limits they were made by."""
    row = get(db, KitRow, kit_id, "kit")
    _store(row, rule_id, _bound(db, rule_id, form))
    return rules_view(row, form.units)


@router.post("/kits/{kit_id}/bounds/{rule_id}/consequences")
def consequences_of_bounds(kit_id: int, rule_id: str, form: BoundForm, db: Db) -> Consequences:
    """Return which verdicts other limits would alter, in every job that uses the kit; nothing is stored."""
    get(db, KitRow, kit_id, "kit")
    bound = _bound(db, rule_id, form)
    return consequences(db, jobs_read_with(db, kit_id), lambda job: _store(job.kit, rule_id, bound))


def _bound(db: Db, rule_id: str, form: BoundForm) -> BoundDoc:
    rule = BY_ID.get(rule_id)
    if rule is None:
        raise NotFound(f"The judge has no rule “{rule_id}”.", fix="Choose one of its table.")
    care, hold = (understand_bound(rule, getattr(form, k), form.units, field=k) for k in ("care", "hold"))
    return BoundDoc(
        rule=rule_id,
        care=care,
        hold=hold,
        reason=need(form.reason, field="reason", name="The reason"),
        by=form.technician or signed_by(db),
        at=now(),
    )


@router.delete("/kits/{kit_id}/bounds/{rule_id}")
def own_bounds(kit_id: int, rule_id: str, db: Saving, units: Units = "metric") -> RulesView:
    """Go back to Vessel's own limits of one rule."""
    row = get(db, KitRow, kit_id, "kit")
    _store(row, rule_id, None)
    return rules_view(row, units)


def _store(row: KitRow, rule_id: str, bound: BoundDoc | None) -> None:
    kit = KitDoc.model_validate(row.data)
    others = [b for b in kit.bounds if b.rule != rule_id]
    changed = kit.model_copy(update={"bounds": others if bound is None else [*others, bound]})
    kit_of(changed)
    row.data = changed.model_dump()
