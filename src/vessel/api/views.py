"""What the interface gets: figures in SI for pictures, and texts with units in the user's system."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.formats.kit_doc import ConstructionDoc, KitDoc

Verdict = Literal["mark", "mark_with_care", "hold", "need_more"]
StepName = Literal["plan", "hookup", "trace", "mark"]
Outcome = Literal["pass", "care", "hold", "need", "skip"]
Hookup = Literal["direct", "clamp", "induction"]
Units = Literal["metric", "imperial"]


class UtilityView(BaseModel):
    """Marking colour, letter and pattern."""

    id: str
    label: str
    colour: str
    hex: str
    letter: str
    pattern: str


class PresetView(BaseModel):
    """A construction preset."""

    id: str
    label: str
    note: str
    construction: ConstructionDoc


class SoilView(BaseModel):
    """A kind of soil."""

    id: str
    label: str
    resistivity_ohm_m: float


class RuleView(BaseModel):
    """One rule of the judge."""

    id: str
    title: str
    measures: str
    bounds: str
    when_missing: str
    why: str
    next_step: str


class Catalogue(BaseModel):
    """Everything fixed that forms choose from."""

    utilities: list[UtilityView]
    presets: list[PresetView]
    structures: list[PresetView]
    soils: list[SoilView]


class RulesView(BaseModel):
    """The judge's table and its version."""

    criteria_version: str
    rules: list[RuleView]


class Understanding(BaseModel):
    """How a typed text was understood."""

    ok: bool
    shown: str
    fix: str


class KitView(BaseModel):
    """A kit on the list."""

    id: int
    kit: KitDoc
    in_use: int


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
    construction: ConstructionDoc
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


class ZoneView(BaseModel):
    """A stretch of the line with one verdict."""

    start_m: float
    end_m: float
    verdict: Verdict
    why: str


class BleedOffView(BaseModel):
    """What a neighbour takes under an option: `share` of the line's own current there, and what the judge says."""

    name: str
    share: float
    outcome: Outcome
    text: str


class ForecastView(BaseModel):
    """One far-end case of an option."""

    far_case: str
    transmitter_text: str
    end_text: str
    marked_text: str
    zones: list[ZoneView]
    bleed_off: list[BleedOffView]


class OptionView(BaseModel):
    """One setup of the plan."""

    key: str
    hookup: Hookup
    hookup_label: str
    freq_hz: float
    freq_text: str
    output_a: float
    output_text: str
    position_m: float
    reason: str
    cautions: list[str]
    forecasts: list[ForecastView]
    best_of_kind: bool
    rejected: str | None


class PlanView(BaseModel):
    """The plan of one line: ranked options, best first, and the rejected ones."""

    line_id: int
    length_m: float
    far_cases: list[str]
    noise_margin: float
    options: list[OptionView]
    rejected: list[OptionView]


class StepView(BaseModel):
    """One step of the safe order."""

    id: str
    text: str
    protects: bool
    done: bool


class ShareView(BaseModel):
    """A part of the loop and its share of the volts."""

    label: str
    volts: float
    text: str


class LoopView(BaseModel):
    """A loop: forecast of one far-end case, or as explained by the leading hypothesis."""

    title: str
    text: str
    limit_text: str
    shares: list[ShareView]


class ReadingView(BaseModel):
    """A transmitter reading."""

    id: int
    volts_text: str
    amps_text: str
    ohms_text: str
    freq_text: str
    note: str
    technician: str
    taken_at: str


class HypothesisView(BaseModel):
    """An explanation of the transmitter readings."""

    title: str
    sentence: str
    remedy: str
    share_text: str
    share: float


class HookupView(BaseModel):
    """A hookup: setup, safe order, forecast, readings, diagnosis."""

    id: int
    line_id: int
    hookup: Hookup
    hookup_label: str
    title: str
    freq_hz: float
    freq_text: str
    output_text: str
    rx_freq_hz: float | None
    rx_freq_text: str
    stake_text: str
    stake_ohm_typed: str
    stake_away_typed: str
    position_text: str
    technician: str
    created_at: str
    steps: list[StepView]
    forecasts: list[LoopView]
    readings: list[ReadingView]
    state: Literal["not_read", "as_forecast", "different", "unexplained", "cannot_tell"]
    headline: str
    advice: str
    explained: LoopView | None
    hypotheses: list[HypothesisView]


class FindingView(BaseModel):
    """What one rule found."""

    rule_id: str
    title: str
    outcome: Outcome
    sentence: str
    why: str


class MarkView(BaseModel):
    """A mark on the ground."""

    id: int
    station_id: int
    distance_m: float
    distance_text: str
    label: str
    colour: str
    hex: str
    verdict: Verdict
    verdict_label: str
    proved: bool
    criteria_version: str
    headline: str
    reason: str
    setup_text: str
    readings_text: str
    technician: str
    marked_at: str
    withdrawn_at: str | None
    withdrawn_by: str | None
    withdrawn_reason: str | None


class StationView(BaseModel):
    """A station with its verdict."""

    id: int
    distance_m: float
    distance_text: str
    current_a: float | None
    current_text: str
    depth_m: float | None
    depth_text: str
    peak_null_text: str
    neighbour_text: str
    note: str
    technician: str
    taken_at: str
    typed: dict[str, str]
    verdict: Verdict
    verdict_label: str
    proved: bool
    headline: str
    next_step: str
    findings: list[FindingView]
    mark_id: int | None


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


class TraceView(BaseModel):
    """The trace under one hookup."""

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
    beside: list[BesideView]
    next_distance: str
    stations: list[StationView]


class LineRecord(BaseModel):
    """A line on the printed record."""

    line: LineState
    hookups: list[HookupView]
    traces: list[TraceView]
    marks: list[MarkView]


class RecordView(BaseModel):
    """The printable page of a job."""

    job: JobView
    printed_at: str
    lines: list[LineRecord]


class Created(BaseModel):
    """The id of a new thing."""

    id: int
