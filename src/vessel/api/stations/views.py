"""Stations, verdicts, marks, and the printed record."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.entry_views import EntryFieldView
from vessel.api.stations.where_next import Where
from vessel.api.striking import StruckView
from vessel.core.judge.rule import Outcome
from vessel.core.judge.station.verdict import Verdict
from vessel.core.judge.trace.events import EventKind
from vessel.core.text.units import Units


class FindingView(BaseModel):
    """What one rule found."""

    rule_id: str
    title: str
    outcome: Outcome
    sentence: str
    why: str


class BelowView(BaseModel):
    """A line under the profile; `target` is the line itself."""

    name: str
    target: bool
    offset_m: float
    depth_m: float
    current_text: str


class AcrossPoint(BaseModel):
    """A reading across the line: its signal as a share of the field's greatest."""

    offset_m: float
    share: float


class AcrossView(BaseModel):
    """Across the line at one place, forecast or fitted to `points`, left positive; field as a share of its greatest."""

    title: str
    offsets_m: list[float]
    horizontal: list[float]
    vertical: list[float]
    peak_m: float
    null_m: float
    below: list[BelowView]
    points: list[AcrossPoint]
    text: str
    next_step: str


class StationView(BaseModel):
    """A station with its verdict, as a list of thousands can show it."""

    id: int
    distance_m: float
    distance_text: str
    current_a: float | None
    current_text: str
    depth_m: float | None
    depth_text: str
    peak_null_text: str
    neighbour_text: str
    lost: bool
    coil_text: str
    verdict: Verdict
    proved: bool
    headline: str
    note: str
    technician: str
    taken_at: str
    mark_id: int | None


class EstimateView(BaseModel):
    """Where the line most likely is at a station, left of the peak, with ranges that hold in 95 %."""

    offset_m: float
    offset_pm_m: float | None
    depth_m: float
    depth_pm_m: float


class StationPlace(BaseModel):
    """How a station was placed, and what was typed for that. `astray`: far off the line as drawn."""

    by: Literal["tapes", "baseline", "device"]
    text: str
    astray: bool
    typed: dict[str, str]


class PlaceView(BaseModel):
    """Where a place is along the line, as the distance would be typed, and how it was found."""

    distance: str
    text: str


class StationDetail(StationView):
    """One station whole: every finding, what to do next, the texts for its form, and what a mark here would say."""

    typed: dict[str, str]
    place: StationPlace | None
    next_step: str
    next_at: Where
    mark_label: str
    estimate_text: str
    estimate: EstimateView | None
    findings: list[FindingView]
    seen: int
    across: AcrossView | None


class BandView(BaseModel):
    """Expected current along the line."""

    distance_m: list[float]
    low_a: list[float]
    high_a: list[float]


class BesideView(BaseModel):
    """Forecast current on a neighbour along the line: `text` says where it is most."""

    name: str
    side: Literal["left", "right"]
    band: BandView
    text: str


class EventView(BaseModel):
    """Something that happened along a trace: where, what was seen, what to do there."""

    kind: EventKind
    label: str
    at_m: float
    start_m: float
    end_m: float
    text: str
    next_step: str


class TracedEnd(BaseModel):
    """Where the current of a trace tapers to nothing along the line [m], and the range that holds it in 95 %."""

    at_m: float
    low_m: float
    high_m: float


class StationStored(BaseModel):
    """A station is stored on a trace so long that it is judged when it is asked for; `stations`: how many it has."""

    setup_id: int
    stations: int


class TraceView(BaseModel):
    """The trace under one hookup. `fields`: what its stations are asked for.

    `learned`: the forecast as its stations narrow it, None where they do not. `end_text`: where the current tapers to
    nothing, empty where the stations do not show it.

    `points`: what a tape can be held at, none where the line is not drawn; `tied`: the plan's place on earth is known.
    """

    setup_id: int
    line_id: int
    title: str
    length_m: float
    units: Units
    depth_min_m: float
    depth_max_m: float
    criteria_version: str
    band: BandView
    band_text: str
    learned: BandView | None
    learned_text: str
    sweep_text: str
    carried_text: str
    identity_text: str
    beside: list[BesideView]
    next_distance: str
    fields: list[EntryFieldView]
    drawn: bool
    points: list[str]
    tied: bool
    events: list[EventView]
    end: TracedEnd | None
    end_text: str
    end_step: str
    stations: list[StationView]
    struck: list[StruckView]
