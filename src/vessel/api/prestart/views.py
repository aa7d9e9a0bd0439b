"""What is done before anything is switched on."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.choices import ChoiceView
from vessel.api.site.views import Corner


class CheckView(BaseModel):
    """One check of the sheet with its answer; empty while there is none."""

    id: str
    text: str
    why: str
    otherwise: str
    answer: Literal["", "yes", "no", "not_needed"]
    note: str
    by: str
    answered_at: str


class CheckGroupView(BaseModel):
    """Checks that are gone through together."""

    id: str
    title: str
    checks: list[CheckView]


class NoiseView(BaseModel):
    """One frequency: what was typed, what it means, and how noisy it is here."""

    freq_hz: float
    freq_text: str
    here: str
    quiet: str
    noisiness: Literal["quiet", "restless", "noisy", "unknown"]
    text: str


class HitLine(BaseModel):
    """The line that a passive hit may be, as its form begins; mains current is taken for a live cable."""

    name: str
    utility: str
    preset: str
    live: bool
    bare_metal: bool
    near_note: str


class HitView(BaseModel):
    """A passive hit: as typed, what it is, and whether something drawn explains it; `line`: what is known of one."""

    source: Literal["mains", "radio", "rectifier"]
    place: str
    note: str
    text: str
    explained: bool
    line: HitLine


class StripView(BaseModel):
    """One strip of the grid (east and north [m]): whether it is walked, is the next to walk, and who walked it."""

    id: str
    start: Corner
    end: Corner
    walked: bool
    next: bool
    text: str


class WayView(BaseModel):
    """One way of the grid; without strips only its tick."""

    id: Literal["A", "B"]
    label: str
    done: bool
    count_text: str
    strips: list[StripView]


class GridView(BaseModel):
    """The grid of the passive sweep on the plan: both ways, and the strip to walk next.

    `next_id` is empty where nothing is left, or where there are no strips; `lacks` then says what they need.
    `usual_spacing`: the distance between walks that is offered where none is set, empty where it would not help.
    """

    ways: list[WayView]
    next_id: str
    next_text: str
    next_how: str
    lacks: str
    usual_spacing: str


class PassiveView(BaseModel):
    """The passive sweep; `points`: what a hit's place can be given from; `caution`: what its signal never says."""

    spacing: str
    grid: GridView
    headline: str
    advice: str
    caution: str
    sources: list[ChoiceView]
    points: list[str]
    hits: list[HitView]


class BeforeView(BaseModel):
    """Everything before, and whether the sheet is answered."""

    state: Literal["open", "stop", "answered"]
    headline: str
    advice: str
    groups: list[CheckGroupView]
    noise: list[NoiseView]
    noise_text: str
    passive: PassiveView
