"""A job as the interface gets it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.catalogue.views import UtilityView
from vessel.api.lines.views import LineState
from vessel.core.text.units import Units


class JobView(BaseModel):
    """A job with its lines; `tied`: its plan has a place on earth; `practice`: an exercise of the practice yard."""

    id: int
    name: str
    dig: str
    address: str
    notice: str
    client: str
    contact: str
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
    tied: bool
    practice: bool
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


class SketchedLine(BaseModel):
    """A drawn line on a job's thumbnail: corners, east and north [m], in its marking colour."""

    corners: list[list[float]]
    hex: str


class JobListed(BaseModel):
    """A job on the list of jobs; `with_marks`: lines with a standing mark; `overdue`: due before now."""

    id: int
    name: str
    dig: str
    address: str
    notice: str
    due_at: str | None
    overdue: bool
    technician: str
    lines: int
    with_marks: int
    marks: int
    sketch: list[SketchedLine]


class JobsView(BaseModel):
    """A page of the list of jobs, the newest first; `more`: there are older ones."""

    jobs: list[JobListed]
    more: bool
