"""A job as the interface gets it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.catalogue.views import UtilityView
from vessel.api.lines.views import LineState
from vessel.core.text.units import Units


class JobView(BaseModel):
    """A job with its lines."""

    id: int
    name: str
    dig: str
    due_at: str | None
    units: Units
    soil_kind: str
    soil_text: str
    soil_resistivity_typed: str
    technician: str
    kit_id: int
    kit_name: str
    before_state: Literal["open", "stop", "answered"]
    before_text: str
    mark_every_text: str
    utilities: list[UtilityView]
    lines: list[LineState]
    seen: int


class LineStanding(BaseModel):
    """How a line stands by the judge: stations that are not proved, and the marks it still lacks."""

    id: int
    held: int
    due: list[str]


class StandingView(BaseModel):
    """How a job stands by the judge; `crossings`: where depths read on two lines cannot both be true."""

    crossings: list[str]
    lines: list[LineStanding]


class JobListed(BaseModel):
    """A job on the list of jobs."""

    id: int
    name: str
    dig: str
    due_at: str | None
    technician: str
    lines: int
    marks: int


class JobsView(BaseModel):
    """A page of the list of jobs, the newest first; `more`: there are older ones."""

    jobs: list[JobListed]
    more: bool
