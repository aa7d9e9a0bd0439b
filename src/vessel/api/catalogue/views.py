"""Fixed lists, kits and how a text was understood."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.formats.kit_doc import ConstructionDoc


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


class Catalogue(BaseModel):
    """Everything fixed that forms choose from."""

    presets: list[PresetView]
    structures: list[PresetView]
    soils: list[SoilView]


class Understanding(BaseModel):
    """How a typed text was understood."""

    ok: bool
    shown: str
    fix: str
