"""A walk with the frame as the interface gets it."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.entry_views import EntryFieldView
from vessel.api.stations.views import FindingView
from vessel.api.striking import StruckView
from vessel.core.hookup.judge_fault import FaultVerdict
from vessel.core.judge.station.verdict import Verdict
from vessel.core.model.fault_walk import Across, Arrow
from vessel.core.text.units import Units


class FaultStepView(BaseModel):
    """A step before the walk; `protects` a person: nothing comes before it."""

    id: str
    text: str
    protects: bool
    done: bool


class WalkView(BaseModel):
    """A walk: what was set, as it was typed, and the steps before it."""

    id: int
    title: str
    freq: str
    start: str
    volts: str
    milliamps: str
    ohms_text: str
    frame: str
    stake_back: str
    stake_away: str
    reference: str
    steps: list[FaultStepView]
    technician: str
    created_at: str


class FrameReadingView(BaseModel):
    """What the frame showed at a place; `level` below zero where it points back, None where it was not read."""

    id: int
    distance_m: float
    distance_text: str
    arrow: Arrow
    across: Across
    level: float | None
    text: str
    note: str
    technician: str
    taken_at: str
    typed: dict[str, str]


class FaultFound(BaseModel):
    """A ground fault that explains the readings, with the verdict on it and what to do about it."""

    at_m: float
    pm_m: float
    at_text: str
    text: str
    verdict: Verdict
    said: FaultVerdict
    label: str
    headline: str
    next_step: str
    findings: list[FindingView]
    mark_label: str
    mark_id: int | None


class LevelView(BaseModel):
    """The level along the walk that the faults make, below zero where the frame points back."""

    at_m: list[float]
    level: list[float]


class FaultRecord(BaseModel):
    """One walk with its readings and faults, as page and record show it."""

    walk: WalkView
    readings: list[FrameReadingView]
    faults: list[FaultFound]
    fitted: LevelView | None
    next_text: str
    struck: list[StruckView]


class FaultView(BaseModel):
    """The walk with the frame of a line that is in use, None before the first. `refused`: why no fault can be found.

    `expected`: the level over one fault, places from it and levels as shares of the greatest.
    """

    line_id: int
    units: Units
    length_m: float
    refused: str
    forecast_text: str
    usual: str
    usual_frame: str
    expected: LevelView
    fields: list[EntryFieldView]
    shown: FaultRecord | None
    seen: int
