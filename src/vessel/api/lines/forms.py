"""What the form of a line sends."""

from __future__ import annotations

import math
from dataclasses import asdict
from typing import Annotated, Any, Literal

from pydantic import Field

from vessel.api.form_reading import Form, Id, LongText, NameText, Reader, Typed, need, solenoid_values
from vessel.api.meanwhile import Seen
from vessel.core.base.errors import BadInput
from vessel.core.model.construction import Construction, metal, preset
from vessel.core.model.line import ACCESS_TICKS
from vessel.core.model.line_ends import TYPICAL_FAR_EARTH_OHM
from vessel.core.model.utility import utility
from vessel.core.text.units import Units
from vessel.formats.plan_doc import BURIED, PointKind


class NeighbourForm(Form):
    """What runs beside a line. `of_line` names a line of the job whose make-up is taken instead of a preset's."""

    name: NameText
    preset: Typed
    of_line: Id | None = None
    side: Literal["left", "right"] = "left"
    offset_m: Typed = Field(alias="offset")
    start_m: Typed = Field("", alias="start")
    end_m: Typed = Field("", alias="end")
    depth_m: Typed = Field(alias="depth")
    start_earth_ohm: Typed = Field("", alias="start_earth")
    end_earth_ohm: Typed = Field("", alias="end_earth")
    bond_m: Typed = Field("", alias="bond")

    def values(self, units: Units, construction: dict[str, Any] | None) -> dict[str, Any]:
        """Return stored data; `construction` as another line has it, None for the preset's. Raises `BadInput`."""
        reader = Reader(self, units)
        usual = asdict(metal(self.preset))
        offset = reader.must("offset_m", "distance", "How far off")
        return {
            "name": need(self.name, field="name", name="Name"),
            "preset": self.preset,
            "construction": usual if construction is None else construction,
            "offset_m": offset if self.side == "left" else -offset,
            "start_m": reader.read("start_m", "distance"),
            "end_m": reader.read("end_m", "distance"),
            "depth_m": reader.must("depth_m", "depth", "Depth"),
            "start_earth_ohm": reader.read("start_earth_ohm", "ohms"),
            "end_earth_ohm": reader.read("end_earth_ohm", "ohms"),
            "bond_m": reader.read("bond_m", "distance"),
            "typed": reader.typed,
        }


class PointForm(Form):
    """What stands on a line at a distance from its near end."""

    name: NameText
    kind: PointKind
    at_m: Typed = Field(alias="at")
    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    core_only: bool = False
    earth_ohm: Typed = Field("", alias="earth")
    solenoid_ohm: Typed = Field("", alias="solenoid")
    solenoid_h: Typed = Field("", alias="inductance")

    def values(self, units: Units) -> dict[str, Any]:
        """Return stored data; raises `BadInput`."""
        reader = Reader(self, units)
        earth = reader.read("earth_ohm", "ohms")
        if self.kind in BURIED and earth is None:
            raise BadInput("A buried earth has ohms.", field="earth", fix="Estimate them: 5 to 50 ohm is usual.")
        return {
            "name": need(self.name, field="name", name="Name"),
            "kind": self.kind,
            "at_m": reader.must("at_m", "distance", "Where it stands"),
            **{k: getattr(self, k) for k in ACCESS_TICKS},
            "earth_ohm": earth,
            **solenoid_values(reader, self.kind),
            "typed": reader.typed,
        }


class LineForm(Form):
    """Create or change a line."""

    name: NameText
    utility: Typed
    preset: Typed
    overrides: dict[str, float] = Field(default_factory=dict)
    length_m: Typed = Field(alias="length")
    depth_min_m: Typed = Field(alias="depth_min")
    depth_max_m: Typed = Field(alias="depth_max")
    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    core_only: bool = False
    near_earth_ohm: Typed = Field("", alias="near_earth")
    near_note: LongText = ""
    far_kind: Literal["open", "earthed", "unknown"] = "unknown"
    far_earth_ohm: Typed = Field("", alias="far_earth")
    neighbours: Annotated[list[NeighbourForm], Field(max_length=12)] = Field(default_factory=list)
    points: Annotated[list[PointForm], Field(max_length=60)] = Field(default_factory=list)
    seen: Seen = None

    def values(self, units: Units) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, units)
        utility(self.utility)
        usual = preset(self.preset).construction
        base: dict[str, Any] = {} if usual is None else asdict(usual)
        for key, value in self.overrides.items():
            if key not in base or key == "metal":
                raise BadInput(f"“{key}” is not electrical data of a line.", field=f"construction.{key}")
            if not math.isfinite(value):
                raise BadInput(f"“{key}” is not a number.", field=f"construction.{key}", fix="Type a number.")
            base[key] = value
        if usual is not None:
            Construction(**base)
        far = reader.read("far_earth_ohm", "ohms")
        return {
            "name": need(self.name, field="name", name="Line name"),
            "utility": self.utility,
            "preset": self.preset,
            "construction": base or None,
            "length_m": reader.must("length_m", "distance", "Length"),
            "depth_min_m": reader.must("depth_min_m", "depth", "Least depth"),
            "depth_max_m": reader.must("depth_max_m", "depth", "Greatest depth"),
            "near": {
                **{k: getattr(self, k) for k in ACCESS_TICKS},
                # another construction has no such tick in sight
                "core_only": self.core_only and preset(self.preset).shielded,
                "earth_ohm": reader.read("near_earth_ohm", "ohms"),
            },
            "near_note": self.near_note,
            "far_kind": self.far_kind,
            "far_earth_ohm": TYPICAL_FAR_EARTH_OHM if far is None else far,
            "typed": reader.typed,
        }


class LinePatch(Form):
    """What was seen of a line at its far end."""

    far_kind: Literal["open", "earthed", "unknown"]
