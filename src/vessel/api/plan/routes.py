"""The plan of a line."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.plan.present import plan_rest_view, plan_view
from vessel.api.plan.views import PlanRestView, PlanView
from vessel.api.requests import REFUSALS, Db, load_line

router = APIRouter(prefix="/api", tags=["plan"], responses=REFUSALS)


@router.get("/lines/{line_id}/plan")
def plan(line_id: int, db: Db) -> PlanView:
    """Return the plan: every option, ranked, and the rejected ones with reasons."""
    return plan_view(load_line(db, line_id))


@router.get("/lines/{line_id}/plan/rest")
def plan_rest(line_id: int, db: Db) -> PlanRestView:
    """Return every option of the plan: those that prove something in order, and the rejected ones with why."""
    return plan_rest_view(load_line(db, line_id))
