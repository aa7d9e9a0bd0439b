"""Jobs and lines."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.views.catalogue import UtilityView
from vessel.api.views.kinds import StepName, Units
from vessel.core.judge.trace.coverage import CoverState
from vessel.formats.kit_doc import ConstructionDoc


class CoverLength(BaseModel):
    """How much of what is wanted of a line is in one state."""

    state: CoverState
    text: str


class CoverStretch(BaseModel):
    """A stretch of a line: marked, doubtful, or not located."""

    start_m: float
    end_m: float
    state: CoverState
    text: str


class CoverView(BaseModel):
    """How far a line is marked."""

    length_m: float
    wanted_text: str
    lengths: list[CoverLength]
    stretches: list[CoverStretch]


class LineState(BaseModel):
    """A line on the job's list: what it is, where it stands, what to do next."""

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
    step: StepName
    setup_id: int | None
    setup_text: str | None
    stations: int
    marks: int
    held: int
    cover: CoverView
    due: list[str]
    next_text: str


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
    crossings: list[str]
    mark_every_text: str
    utilities: list[UtilityView]
    lines: list[LineState]


class JobRow(BaseModel):
    """A job on the list of jobs."""

    id: int
    name: str
    dig: str
    due_at: str | None
    technician: str
    lines: int
    marks: int


class NeighbourTyped(BaseModel):
    """What runs beside a line, as typed; also how a line of the job would be told beside another."""

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
    near_earth: str
    near_note: str
    far_kind: Literal["open", "earthed", "unknown"]
    far_earth: str
    neighbours: list[NeighbourTyped]


class Created(BaseModel):
    """The id of a new thing."""

    id: int
