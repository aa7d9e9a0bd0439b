"""A hookup: safe order, loop, readings, explanations."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.striking import StruckView
from vessel.core.hookup.continuity import ContinuityState
from vessel.core.hookup.loop_verdict import LoopState
from vessel.core.model.identity import Answer, EvidenceId
from vessel.core.model.methods import Method
from vessel.core.remedies.trials import RemedyKind


class StepAnswer(BaseModel):
    """One answer to tap."""

    answer: Answer
    label: str


class StepQuestion(BaseModel):
    """What a step asks: the answers, which one was given, and the id under which it can be taken back."""

    kind: EvidenceId
    answers: list[StepAnswer]
    given: Answer | None
    evidence_id: int | None


class StepView(BaseModel):
    """One step of the safe order: ticked, or answered where it `asks` something."""

    id: str
    text: str
    protects: bool
    part: str
    done: bool
    asks: StepQuestion | None


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
    """A transmitter reading; `anew`: what is known of the loop starts with it; `counts`: none after it does."""

    id: int
    volts_text: str
    amps_text: str
    ohms_text: str
    freq_text: str
    change_text: str
    beside_text: str
    doubt_text: str
    anew: bool
    counts: bool
    note: str
    technician: str
    taken_at: str


class HypothesisView(BaseModel):
    """An explanation of the transmitter readings; `mended`: what it says was wrong is put right since."""

    cause: str
    mended: bool
    title: str
    sentence: str
    remedy: str
    share_text: str
    share: float


class ContinuityView(BaseModel):
    """The proof at low frequency: at which, how it stands, and in words."""

    freq_hz: float
    freq_text: str
    state: ContinuityState
    text: str


class CauseView(BaseModel):
    """One explanation and how likely it is."""

    title: str
    share_text: str


class PreviewView(BaseModel):
    """What a reading would say if it were entered; it is not stored. `doubt_text`: why it cannot be."""

    state: LoopState
    headline: str
    advice: str
    doubt_text: str
    causes: list[CauseView]


class HookupView(BaseModel):
    """A hookup: setup, safe order, forecast, readings, diagnosis."""

    id: int
    line_id: int
    hookup: Method
    hookup_label: str
    title: str
    freq_hz: float
    freq_text: str
    output_text: str
    rx_freq_hz: float | None
    rx_freq_text: str
    stake_text: str
    stake_side: Literal["left", "right"]
    stake_away_text: str
    stake_ohm_typed: str
    stake_away_typed: str
    position_text: str
    technician: str
    created_at: str
    steps: list[StepView]
    forecasts: list[LoopView]
    readings: list[ReadingView]
    struck: list[StruckView]
    state: LoopState
    headline: str
    advice: str
    asks_far: bool
    asks_beside: bool
    explained: LoopView | None
    continuity: ContinuityView | None
    hypotheses: list[HypothesisView]


class RemedyView(BaseModel):
    """One thing that would help: what it would gain, what the transmitter should show then, the setup it makes.

    `also`: what `kind` says is done first, then the setup is changed. `apart_m`: with moving induction.
    """

    kind: RemedyKind
    also: bool
    title: str
    gain_text: str
    expect_text: str
    caution: str
    hookup: Method
    freq_hz: float
    output_a: float
    position_m: float
    stake_at: tuple[float, float] | None
    apart_m: float | None


class RemediesView(BaseModel):
    """How a hookup stands, what lies ahead of its last station, what would help, best first, and what would not."""

    headline: str
    ahead_text: str
    helping: list[RemedyView]
    useless: list[str]
