"""The local rule of marking."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.catalogue.views import UtilityView


class LookView(BaseModel):
    """One kind of line as the job marks it, and as the usual table does; `own`: they differ."""

    id: str
    label: str
    now: UtilityView
    usual: UtilityView
    own: bool


class MarkingView(BaseModel):
    """A job's local rule: every kind of line, the tolerance zone, what may be chosen, and who changed it last."""

    job_id: int
    looks: list[LookView]
    patterns: list[str]
    tolerance_typed: str
    tolerance_text: str
    usual_tolerance_text: str
    source: str
    by: str
    at: str
