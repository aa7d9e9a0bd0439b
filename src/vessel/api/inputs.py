"""What forms send: text as typed, understood once by the core. Field names are the form's field names."""

from __future__ import annotations

import math
from dataclasses import asdict
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from vessel.core.base.errors import BadInput
from vessel.core.model.construction import Construction, metal, preset
from vessel.core.model.line_ends import TYPICAL_FAR_EARTH_OHM
from vessel.core.model.setup import Setup, Stake, usual_stake
from vessel.core.model.utility import utility
from vessel.core.text.entry import Quantity, understand
from vessel.core.text.route_text import understand_place
from vessel.core.text.units import Units
from vessel.formats.kit_doc import KitDoc

Typed = Annotated[str, Field(max_length=200)]
NameText = Annotated[str, Field(max_length=200)]
LongText = Annotated[str, Field(max_length=4000)]


class Form(BaseModel):
    """Base of all forms."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


def need(value: str, *, field: str, name: str) -> str:
    """Return a required text; raise `BadInput` naming the field when it is empty."""
    if not value:
        raise BadInput(f"{name} is empty.", field=field, fix="Fill it in.")
    return value


class Reader:
    """Reads typed fields of one form and keeps the texts as typed."""

    def __init__(self, form: Form, units: Units) -> None:
        self.form, self.units, self.typed = form, units, dict[str, str]()

    def read(self, field: str, quantity: Quantity) -> float | None:
        """Return the value of a typed field in SI, None when left empty."""
        text = getattr(self.form, field)
        if not text:
            return None
        self.typed[field] = text
        return understand(text, quantity=quantity, units=self.units, field=field).value

    def must(self, field: str, quantity: Quantity, name: str) -> float:
        """Return the value of a required field."""
        need(getattr(self.form, field), field=field, name=name)
        value = self.read(field, quantity)
        assert value is not None
        return value

    def many(self, field: str) -> list[float]:
        """Return several currents [A] typed in one field."""
        text = getattr(self.form, field)
        if not text:
            return []
        self.typed[field] = text
        return list(understand(text, quantity="currents", units=self.units, field=field).values)

    def beside(self, field: str) -> list[list[float | None]]:
        """Return the (offset [m], current [A], signal) of neighbours typed in one field; None for what was not read."""
        text = getattr(self.form, field)
        if not text:
            return []
        self.typed[field] = text
        flat = understand(text, quantity="neighbours", units=self.units, field=field).values
        known = [None if math.isnan(v) else v for v in flat]
        return [known[k : k + 3] for k in range(0, len(known), 3)]

    def pairs(self, field: str) -> list[list[float]]:
        """Return the (offset [m], signal) pairs of readings across a line typed in one field."""
        text = getattr(self.form, field)
        if not text:
            return []
        self.typed[field] = text
        found = understand(text, quantity="profile", units=self.units, field=field).values
        return [list(pair) for pair in zip(found[::2], found[1::2], strict=True)]


class JobForm(Form):
    """Create or change a job."""

    name: NameText
    dig: LongText = ""
    due_at: Typed = ""
    units: Units = "metric"
    soil_kind: Typed = "loam"
    soil_resistivity: Typed = ""
    technician: NameText
    kit_id: int | None = None

    def values(self) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, self.units)
        if self.due_at:
            try:
                datetime.fromisoformat(self.due_at)
            except ValueError as e:
                raise BadInput(
                    f"“{self.due_at}” is not a date and time.", field="due_at", fix="Write it as 2026-11-30T08:00."
                ) from e
        return {
            "name": need(self.name, field="name", name="Job name"),
            "dig": self.dig,
            "due_at": self.due_at or None,
            "units": self.units,
            "soil_kind": self.soil_kind,
            "soil_resistivity_ohm_m": reader.read("soil_resistivity", "resistivity"),
            "technician": need(self.technician, field="technician", name="Technician"),
            "typed": reader.typed,
        }


class NeighbourForm(Form):
    """What runs beside a line. `of_line` names a line of the job whose make-up is taken instead of a preset's."""

    name: NameText
    preset: Typed
    of_line: int | None = None
    side: Literal["left", "right"] = "left"
    offset: Typed
    start: Typed = ""
    end: Typed = ""
    depth: Typed
    start_earth: Typed = ""
    end_earth: Typed = ""
    bond: Typed = ""

    def values(self, units: Units, construction: dict[str, Any] | None) -> dict[str, Any]:
        """Return stored data; `construction` as another line has it, None for the preset's. Raises `BadInput`."""
        reader = Reader(self, units)
        usual = asdict(metal(self.preset))
        offset = reader.must("offset", "distance", "How far off")
        return {
            "name": need(self.name, field="name", name="Name"),
            "preset": self.preset,
            "construction": usual if construction is None else construction,
            "offset_m": offset if self.side == "left" else -offset,
            "start_m": reader.read("start", "distance"),
            "end_m": reader.read("end", "distance"),
            "depth_m": reader.must("depth", "depth", "Depth"),
            "start_earth_ohm": reader.read("start_earth", "ohms"),
            "end_earth_ohm": reader.read("end_earth", "ohms"),
            "bond_m": reader.read("bond", "distance"),
            "typed": reader.typed,
        }


class LineForm(Form):
    """Create or change a line."""

    name: NameText
    utility: Typed
    preset: Typed
    overrides: dict[str, float] = {}
    length: Typed
    depth_min: Typed
    depth_max: Typed
    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    near_earth: Typed = ""
    near_note: LongText = ""
    far_kind: Literal["open", "earthed", "unknown"] = "unknown"
    far_earth: Typed = ""
    neighbours: Annotated[list[NeighbourForm], Field(max_length=12)] = []

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
        far = reader.read("far_earth", "ohms")
        return {
            "name": need(self.name, field="name", name="Line name"),
            "utility": self.utility,
            "preset": self.preset,
            "construction": base or None,
            "length_m": reader.must("length", "distance", "Length"),
            "depth_min_m": reader.must("depth_min", "depth", "Least depth"),
            "depth_max_m": reader.must("depth_max", "depth", "Greatest depth"),
            "near": {
                "bare_metal": self.bare_metal,
                "live": self.live,
                "in_service": self.in_service,
                "cased": self.cased,
                "earth_ohm": reader.read("near_earth", "ohms"),
            },
            "near_note": self.near_note,
            "far_kind": self.far_kind,
            "far_earth_ohm": TYPICAL_FAR_EARTH_OHM if far is None else far,
            "typed": reader.typed,
        }


class SetupForm(Form):
    """Start a hookup of a line."""

    hookup: Literal["direct", "clamp", "induction"]
    freq: Typed
    output: Typed
    rx_freq: Typed = ""
    position: Typed = ""
    stake_away: Typed = ""
    stake_at: Typed = ""
    stake: Typed = ""
    clip: Typed = ""
    technician: NameText = ""

    def values(self, units: Units, *, lead_m: float) -> dict[str, Any]:
        """Return column values; the stake stands as far off as usual or as the lead [m] allows. Raises `BadInput`."""
        reader = Reader(self, units)
        away, clip = reader.read("stake_away", "distance"), reader.read("clip", "ohms")
        return {
            "hookup": self.hookup,
            "freq_hz": reader.must("freq", "frequency", "Frequency"),
            "output_a": reader.must("output", "current", "Output"),
            "rx_freq_hz": reader.read("rx_freq", "frequency"),
            "position_m": reader.read("position", "distance") or 0.0,
            "stake_away_m": usual_stake(lead_m).away_m if away is None else away,
            "stake_at": self._stake_at(units),
            "stake_ohm": reader.read("stake", "ohms"),
            "clip_ohm": Setup("direct", 1e3, 1e-3).clip_ohm if clip is None else clip,
        }

    def _stake_at(self, units: Units) -> list[float] | None:
        if not self.stake_at:
            return None
        return list(understand_place(self.stake_at, units=units, field="stake_at"))


class SetupPatch(Form):
    """What can still change on a running hookup."""

    rx_freq: Typed | None = None
    stake_away: Typed | None = None
    stake: Typed | None = None
    steps_done: list[str] | None = None

    def values(self, units: Units) -> dict[str, Any]:
        """Return the columns that were sent; an empty text clears an optional one."""
        reader, found = Reader(self, units), dict[str, Any]()
        if self.rx_freq is not None:
            found["rx_freq_hz"] = reader.read("rx_freq", "frequency")
        if self.stake_away is not None:
            found["stake_away_m"] = reader.read("stake_away", "distance") or Stake().away_m
        if self.stake is not None:
            found["stake_ohm"] = reader.read("stake", "ohms")
        if self.steps_done is not None:
            found["steps_done"] = self.steps_done
        return found


class ReadingForm(Form):
    """Transmitter volts and milliamps. `insist`: keep a reading that cannot be; it is not reckoned with."""

    volts: Typed
    milliamps: Typed
    freq: Typed = ""
    change: Literal["", "stake", "clip", "far"] = ""
    note: LongText = ""
    technician: NameText = ""
    insist: bool = False


class CandidateForm(Form):
    """A centre line met on the first sweep; `direction`: away from the hookup, towards it, or not told."""

    bearing: Typed
    current: Typed = ""
    depth: Typed = ""
    signal: Typed = ""
    signal_lifted: Typed = ""
    lift_height: Typed = ""
    direction: Literal["", "away", "towards"] = ""
    note: LongText = ""
    technician: NameText = ""

    def values(self, units: Units) -> dict[str, Any]:
        """Return column values; raises `BadInput`."""
        reader = Reader(self, units)
        return {
            "bearing_deg": reader.must("bearing", "bearing", "Bearing") % 360.0,
            "current_a": reader.read("current", "current"),
            "depth_m": reader.read("depth", "depth"),
            "signal": reader.read("signal", "signal"),
            "signal_lifted": reader.read("signal_lifted", "signal"),
            "lift_m": reader.read("lift_height", "offset"),
            "direction": {"away": 1, "towards": -1, "": 0}[self.direction],
            "note": self.note,
            "typed": reader.typed,
        }


class ImportForm(Form):
    """The text of a job file."""

    text: Annotated[str, Field(max_length=20_000_000)]


class KitForm(Form):
    """A kit as the user entered it."""

    kit: KitDoc
