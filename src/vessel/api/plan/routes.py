"""The plan of a line."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.plan.present import plan_view
from vessel.api.plan.views import PlanView
from vessel.api.requests import REFUSALS, Db, get
from vessel.store.tables import LineRow

router = APIRouter(prefix="/api", tags=["plan"], responses=REFUSALS)


@router.get("/lines/{line_id}/plan")
def plan(line_id: int, db: Db) -> PlanView:
    """Return the plan: every option, ranked, and the rejected ones with reasons."""
    return plan_view(get(db, LineRow, line_id, "line"))
