"""How forms are read: text as typed, understood once by the core.

A field of a form has the name of the core's value it holds, and the name it is sent by as its alias: `depth_min_m` is
sent as `depth_min`. So what the core refuses by its own name reaches the page by the page's name (`sent_as`).
"""

from __future__ import annotations

import math
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from vessel.core.base.errors import BadInput
from vessel.core.text.entry import Quantity, understand
from vessel.core.text.units import Units

Typed = Annotated[str, Field(max_length=200)]
NameText = Annotated[str, Field(max_length=200)]
Id = Annotated[int, Field(ge=0, le=2**53)]
"""A row's number: what JavaScript can say exactly, and far more than there will be."""
LongText = Annotated[str, Field(max_length=4000)]


class Form(BaseModel):
    """Base of all forms."""

    model_config = ConfigDict(extra="forbid", str_strip_whitespace=True)


def sent_as(form: type[BaseModel], field: str) -> str:
    """Return the name a form sends a core's `field` by: its alias, or as it is where the form has no such field."""
    here = form.model_fields.get(field.replace(".", "_"))
    return field if here is None or here.alias is None else here.alias


def need(value: str, *, field: str, name: str) -> str:
    """Return a required text; raise `BadInput` naming the field when it is empty."""
    if not value:
        raise BadInput(f"{name} is empty.", field=field, fix="Fill it in.")
    return value


class Reader:
    """Reads typed fields of one form and keeps the texts as typed."""

    def __init__(self, form: Form, units: Units) -> None:
        self.form, self.units, self.typed = form, units, dict[str, str]()

    def _text(self, name: str) -> tuple[str, str]:
        """Return a field's text and the name it is sent by, and keep what was typed."""
        text, field = getattr(self.form, name), sent_as(type(self.form), name)
        if text:
            self.typed[field] = text
        return text, field

    def read(self, name: str, quantity: Quantity) -> float | None:
        """Return the value of a typed field in SI, None when left empty."""
        text, field = self._text(name)
        return understand(text, quantity=quantity, units=self.units, field=field).value if text else None

    def must(self, name: str, quantity: Quantity, label: str) -> float:
        """Return the value of a required field; refuse an empty one by its `label`."""
        text, field = self._text(name)
        need(text, field=field, name=label)
        value = self.read(name, quantity)
        assert value is not None
        return value

    def many(self, name: str) -> list[float]:
        """Return several currents [A] typed in one field."""
        text, field = self._text(name)
        if not text:
            return []
        return list(understand(text, quantity="currents", units=self.units, field=field).values)

    def beside(self, name: str) -> list[list[float | None]]:
        """Return the (offset [m], current [A], signal) of neighbours typed in one field; None for what was not read."""
        text, field = self._text(name)
        if not text:
            return []
        flat = understand(text, quantity="neighbours", units=self.units, field=field).values
        known = [None if math.isnan(v) else v for v in flat]
        return [known[k : k + 3] for k in range(0, len(known), 3)]

    def pairs(self, name: str) -> list[list[float]]:
        """Return the (offset [m], signal) pairs of readings across a line typed in one field."""
        text, field = self._text(name)
        if not text:
            return []
        found = understand(text, quantity="profile", units=self.units, field=field).values
        return [list(pair) for pair in zip(found[::2], found[1::2], strict=True)]


def solenoid_values(reader: Reader, kind: str) -> dict[str, Any]:
    """Return the ohms and inductance [H] of a valve's coil as an access point or a point on a line has them."""
    if kind != "valve_box":
        return {"solenoid_ohm": None, "solenoid_h": None}
    return {"solenoid_ohm": reader.read("solenoid_ohm", "ohms"), "solenoid_h": reader.read("solenoid_h", "inductance")}
