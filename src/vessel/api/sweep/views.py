"""The first sweep of a hookup."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.choices import ChoiceView
from vessel.api.striking import StruckView


class ExpectedView(BaseModel):
    """A line that should be met on the circle: `share` of the greatest current expected of any."""

    name: str
    ours: bool
    bearing_deg: float
    share: float
    text: str


class CandidateView(BaseModel):
    """A centre line met, and what it is taken for. `typed`: the texts for its form; `share` of the greatest current."""

    id: int
    bearing_deg: float
    role: Literal["target", "beside", "unknown", "maybe"]
    share: float
    title: str
    readings_text: str
    role_text: str
    note: str
    technician: str
    taken_at: str
    typed: dict[str, str]


class ConcernView(BaseModel):
    """What keeps the target from being sure, and what would make it so."""

    text: str
    do: str


class SweepView(BaseModel):
    """The first sweep: circle to walk, what should be met, what was, and the verdict.

    `ways`: round the hookup of a line that is not drawn, each by its bearing; none where bearings count from north.
    """

    setup_id: int
    line_id: int
    state: Literal["not_swept", "sure", "doubt", "not_met"]
    headline: str
    reason: str
    concerns: list[ConcernView]
    circle_text: str
    from_north: bool
    ways: list[ChoiceView]
    told_beside: bool
    expected: list[ExpectedView]
    candidates: list[CandidateView]
    struck: list[StruckView]
