"""The criteria as the interface gets them."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel


class RuleView(BaseModel):
    """One rule of the judge."""

    id: str
    title: str
    measures: str
    bounds: str
    when_missing: str
    why: str
    next_step: str
    sense: Literal["above", "below"]
    unit_text: str
    care_typed: str
    hold_typed: str
    own_bounds: str
    fixed: bool
    edited: Literal["", "stricter", "looser"]
    reason: str
    by: str
    at: str


class PriorView(BaseModel):
    """How likely a rival is before anything is read, by kind of plant, and why."""

    kind: str
    title: str
    wire_text: str
    cable_text: str
    pipe_text: str
    why: str


class RulesView(BaseModel):
    """The judge's table as the crew of a kit uses it (Vessel's own without one), its version, the priors of rivals.

    `sonde`: what the stops of a sonde run are judged by beside what stations are; `faults`: what ground faults are.
    """

    kit_id: int | None
    criteria_version: str
    rules: list[RuleView]
    sonde: list[RuleView]
    faults: list[RuleView]
    priors: list[PriorView]
