"""How forms are read: text as typed, understood once by the core. Field names are the form's field names."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field

from vessel.core.base.errors import BadInput
from vessel.core.text.entry import Quantity, understand
from vessel.core.text.units import Units

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
