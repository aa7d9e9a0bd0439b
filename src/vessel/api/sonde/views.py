"""A sonde run as the interface gets it."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.entry_views import EntryFieldView
from vessel.api.stations.views import FindingView
from vessel.api.striking import StruckView
from vessel.core.judge.station.verdict import Verdict
from vessel.core.model.sonde import Way
from vessel.core.text.units import Units


class SondeStepView(BaseModel):
    """A step before the rod goes in; `protects` a person: nothing comes before it."""

    id: str
    text: str
    protects: bool
    done: bool


class RunView(BaseModel):
    """A run: what was set, as it was typed, and the steps before it."""

    id: int
    title: str
    freq: str
    start: str
    way: Way
    check_at: str
    check_signal: str
    fall: str
    check_text: str
    start_m: float
    steps: list[SondeStepView]
    technician: str
    created_at: str


class StopView(BaseModel):
    """A stop with its verdict; `x_m` and `head_m`: where the head lies along the line and how deep, with ranges.

    `paint_text`: where a mark goes, over the head where that is proved; `mark_label`: what to paint there.
    """

    id: int
    distance_m: float
    distance_text: str
    rod_text: str
    depth_text: str
    x_m: float | None
    head_m: float | None
    head_pm_m: float | None
    tilt_deg: float
    verdict: Verdict
    proved: bool
    headline: str
    technician: str
    taken_at: str
    mark_id: int | None
    paint_text: str
    mark_label: str


class GhostView(BaseModel):
    """A ghost peak: where along the line, and how strong against the main peak."""

    at_m: float
    level: float


class OverView(BaseModel):
    """The signal along the ground over a head, as a share of its greatest; what was read, as places along the line."""

    at_m: list[float]
    level: list[float]
    head_at_m: float
    head_m: float
    tilt_deg: float
    peak_m: float
    nulls_m: list[float]
    ghosts: list[GhostView]


class StopDetail(StopView):
    """One stop whole: every finding, what to do next, the texts for its form, and what a mark here would say."""

    typed: dict[str, str]
    note: str
    next_step: str
    head_text: str
    read_text: str
    findings: list[FindingView]
    over: OverView | None
    seen: int


class StopRecord(StopView):
    """A stop as the record prints it: what was read, and where the head lies by that."""

    read_text: str
    head_text: str
    note: str


class SondeRecord(BaseModel):
    """One sonde run as the record prints it."""

    run: RunView
    depth_min_m: float
    depth_max_m: float
    stops: list[StopRecord]
    corners: list[str]
    agreement: list[str]
    fall_text: str
    struck: list[StruckView]


class SondeView(BaseModel):
    """The sonde run of a line that is in use, None before the first. `fields`: what its stops are asked for.

    `usual`: what a sonde is usually set to; `expected`: the signal over a level head in the middle of the expected
    depths, places from the head.
    """

    line_id: int
    units: Units
    length_m: float
    depth_min_m: float
    depth_max_m: float
    run: RunView | None
    usual: str
    forecast_text: str
    shield_text: str
    expected: OverView
    fields: list[EntryFieldView]
    stops: list[StopView]
    corners: list[str]
    agreement: list[str]
    rod_text: str
    corner_step: str
    fall_text: str
    next_text: str
    struck: list[StruckView]
    seen: int
