"""Fixed lists, kits and how a text was understood."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.formats.kit_doc import ConstructionDoc, KitDoc


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
    construction: ConstructionDoc | None


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
    sense: Literal["above", "below"]
    unit_text: str
    care_typed: str
    hold_typed: str
    own_bounds: str
    edited: Literal["", "stricter", "looser"]
    reason: str
    by: str
    at: str


class Catalogue(BaseModel):
    """Everything fixed that forms choose from."""

    presets: list[PresetView]
    structures: list[PresetView]
    soils: list[SoilView]


class RulesView(BaseModel):
    """The judge's table as the crew of a kit uses it (Vessel's own without one), and its version."""

    kit_id: int | None
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
