"""Stake advice and what-if."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.views.kinds import Hookup
from vessel.api.views.plan import ForecastView
from vessel.api.views.site import Corner


class SpotView(BaseModel):
    """A place the stake lead reaches: whether it will do, and why."""

    at: Corner
    ok: bool
    best: bool
    text: str


class SpotsView(BaseModel):
    """The places round a hookup; `here` is the hookup."""

    here: Corner
    spots: list[SpotView]
    advice: str


class UnknownsView(BaseModel):
    """What is not known of a line, what each could change, and what to find out first."""

    find_out: str
    each: list[str]


class BondChoice(BaseModel):
    """A bond of the plan that can be thought away."""

    index: int
    text: str


class WhatIfView(BaseModel):
    """A setup as planned and as asked, and what the change does."""

    hookup: Hookup
    title: str
    planned: list[ForecastView]
    asked: list[ForecastView]
    change_text: str
    stake_text: str
    here: Corner | None
    stake_at: Corner | None
    bonds: list[BondChoice]
