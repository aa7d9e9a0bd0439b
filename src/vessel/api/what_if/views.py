"""Stake advice and what-if."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.plan.views import ForecastView
from vessel.api.site.views import Corner
from vessel.core.model.methods import Method


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
    sound: str


class BondChoice(BaseModel):
    """A bond of the plan that a what-if can remove."""

    index: int
    text: str


class BoardRow(BaseModel):
    """A setup on the board of a what-if; `role` tells the one asked about from those it stands against."""

    key: str
    role: Literal["planned", "asked", "rival"]
    hookup_label: str
    freq_text: str
    output_text: str
    place_text: str
    forecasts: list[ForecastView]


class BoardView(BaseModel):
    """What else could be set up under the same change, and whether that is better."""

    rows: list[BoardRow]
    text: str


class WhatIfView(BaseModel):
    """A setup as planned and as asked, and what the change does.

    `refused`: the stake cannot stand there; `stake_text` alone is only a warning.
    """

    hookup: Method
    title: str
    board: list[BoardRow]
    change_text: str
    stake_text: str
    refused: bool
    here: Corner | None
    stake_at: Corner | None
    bonds: list[BondChoice]
