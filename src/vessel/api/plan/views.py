"""The plan of a line."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.core.judge.rule import Outcome
from vessel.core.judge.station.verdict import Verdict
from vessel.core.model.methods import Method
from vessel.core.plan.plan_option import Proves


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


class FactView(BaseModel):
    """A figure of a setup in words."""

    label: str
    text: str


class OptionView(BaseModel):
    """One setup of the plan."""

    key: str
    hookup: Method
    hookup_label: str
    freq_hz: float
    freq_text: str
    output_a: float
    output_text: str
    place_text: str
    position_m: float
    stake_at: tuple[float, float] | None
    proves: Proves
    proves_text: str
    reason: str
    cautions: list[str]
    facts: list[FactView]
    against_best: str
    forecasts: list[ForecastView]
    best_of_kind: bool
    rejected: str | None


class LandmarkView(BaseModel):
    """What stands along a line: a bend, an access point, a bond, a buried earth."""

    at_m: float
    kind: Literal["bend", "access", "bond", "earth"]
    text: str


class IfEarthedView(BaseModel):
    """The setup to use once the far end is earthed, and what that is worth."""

    key: str
    text: str


class MovingView(BaseModel):
    """Moving induction of a line: what it takes to hook up like that, and what it is worth."""

    hookup: Method
    freq_hz: float
    output_a: float
    position_m: float
    apart_m: float
    title: str
    text: str


class PlanView(BaseModel):
    """The plan of one line: the options to look at first, best first, and how many more there are.

    `options`: the best of each hookup and frequency, of each hookup and place, and the one for an earthed far end.
    `nothing_text`: what to do where none proves a stretch worth walking.
    """

    line_id: int
    length_m: float
    soil_ohm_m: float
    landmarks: list[LandmarkView]
    far_cases: list[str]
    noise_margin: float
    options: list[OptionView]
    ranked_count: int
    rejected_count: int
    if_earthed: IfEarthedView | None
    moving: MovingView | None
    no_signal: str | None
    nothing_text: str


class PairView(BaseModel):
    """Both leads on two conductors of a line: a way to look for it, which nothing is marked by."""

    hookup: Method
    title: str
    text: str
    freq_hz: float
    output_a: float
    position_m: float


class PlanRestView(BaseModel):
    """Every option of a plan that proves something, best first, and every rejected one; `pair` where it has two."""

    options: list[OptionView]
    rejected: list[OptionView]
    pair: PairView | None
