"""Jobs and lines."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.catalogue.views import UtilityView
from vessel.api.literals import StepName
from vessel.core.judge.trace.coverage import CoverState
from vessel.formats.kit_doc import ConstructionDoc
from vessel.formats.plan_doc import PointKind


class CoverLength(BaseModel):
    """How much of what is wanted of a line is in one state."""

    state: CoverState
    text: str


class CoverStretch(BaseModel):
    """A stretch of a line: marked, doubtful, or not located; `depth_text`: how deep its marks say it is."""

    start_m: float
    end_m: float
    state: CoverState
    text: str
    depth_text: str


class CoverView(BaseModel):
    """How far a line is marked."""

    length_m: float
    wanted_text: str
    lengths: list[CoverLength]
    stretches: list[CoverStretch]


class LineState(BaseModel):
    """A line on the job's list: what it is, where it stands, what to do next.

    `steps`: its way from plan to mark; `hollow`: a sonde can be pushed through it.
    """

    id: int
    name: str
    utility: UtilityView
    preset: str
    preset_label: str
    length_m: float
    length_text: str
    depth_text: str
    far_text: str
    near_text: str
    beside_text: str
    points_text: str
    step: StepName
    steps: list[StepName]
    hollow: bool
    setup_id: int | None
    setup_text: str | None
    stations: int
    marks: int
    cover: CoverView
    next_text: str


class NeighbourTyped(BaseModel):
    """What runs beside a line, as typed; also how a line of the job would be entered beside another."""

    name: str
    preset: str
    of_line: int | None = None
    side: Literal["left", "right"]
    offset: str
    start: str
    end: str
    depth: str
    start_earth: str
    end_earth: str
    bond: str


class PointTyped(BaseModel):
    """What stands on a line, as typed."""

    name: str
    kind: PointKind
    at: str
    bare_metal: bool
    live: bool
    in_service: bool
    cased: bool
    core_only: bool
    earth: str
    solenoid: str
    inductance: str


class LineDetail(BaseModel):
    """A line as typed, for its form."""

    id: int
    job_id: int
    name: str
    utility: str
    preset: str
    construction: ConstructionDoc | None
    length: str
    depth_min: str
    depth_max: str
    bare_metal: bool
    live: bool
    in_service: bool
    cased: bool
    core_only: bool
    near_earth: str
    near_note: str
    far_kind: Literal["open", "earthed", "unknown"]
    far_earth: str
    neighbours: list[NeighbourTyped]
    points: list[PointTyped]
    seen: int
