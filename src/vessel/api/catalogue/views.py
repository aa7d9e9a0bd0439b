"""Fixed lists, kits and how a text was understood."""

from __future__ import annotations

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
    """A construction preset; `shielded`: it has a centre conductor inside what carries the signal."""

    id: str
    label: str
    note: str
    construction: ConstructionDoc | None
    shielded: bool


class SoilView(BaseModel):
    """A kind of soil."""

    id: str
    label: str
    resistivity_ohm_m: float


class PointKindView(BaseModel):
    """Something that may stand on a line; `buried`: out of reach."""

    id: str
    label: str
    buried: bool


class Catalogue(BaseModel):
    """Everything fixed that forms choose from; `kits`: three sizes to start from."""

    presets: list[PresetView]
    structures: list[PresetView]
    soils: list[SoilView]
    points: list[PointKindView]
    kits: list[KitDoc]


class Understanding(BaseModel):
    """How a typed text was understood."""

    ok: bool
    shown: str
    fix: str
