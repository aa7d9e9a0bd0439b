"""Forms of what is entered: their fields are those of the tables in `core.model.entry_fields`."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, ClassVar, Literal

from pydantic import Field, create_model

from vessel.api.form_reading import Form, LongText, NameText, Reader, Typed
from vessel.core.model.entry_fields import EntryField
from vessel.core.text.units import Units

_LONG = ("pairs", "beside")


class EntryForm(Form):
    """Base of forms made from a table of fields."""

    fields: ClassVar[Sequence[EntryField]] = ()
    note: LongText = ""
    technician: NameText = ""

    def read(self, units: Units) -> tuple[dict[str, Any], dict[str, str]]:
        """Return the values by column and the texts as typed; raises `BadInput` naming the field."""
        reader = Reader(self, units)
        found = {f.column: _value(reader, f) for f in self.fields}
        for f in self.fields:
            f.check_value(found[f.column])
        return found, reader.typed

    def values(self, units: Units) -> dict[str, Any]:
        """Return what is stored of the form; raises `BadInput`."""
        found, typed = self.read(units)
        return {**found, "note": self.note, "typed": typed}


def entry_form(name: str, fields: Sequence[EntryField], doc: str) -> Any:
    """Return the form of a table of fields."""
    made: dict[str, Any] = {f.column: _field(f) for f in fields}
    form = create_model(name, __base__=EntryForm, __doc__=doc, __module__=__name__, **made)
    form.fields = fields
    return form


def _field(f: EntryField) -> Any:
    if f.shape == "choice":
        return Literal[tuple(sent for sent, _ in f.choices)], Field(f.choices[0][0], alias=f.id)
    if f.shape == "tick":
        return bool, Field(False, alias=f.id)
    return LongText if f.shape in _LONG else Typed, Field(... if f.required else "", alias=f.id)


def _value(reader: Reader, f: EntryField) -> Any:
    sent = getattr(reader.form, f.column)
    if f.shape == "choice":
        return dict(f.choices)[sent]
    if f.shape == "tick":
        return sent
    if f.shape == "numbers":
        return reader.many(f.column)
    if f.shape == "pairs":
        return reader.pairs(f.column)
    if f.shape == "beside":
        return reader.beside(f.column)
    assert f.quantity is not None
    return reader.must(f.column, f.quantity, f.name) if f.required else reader.read(f.column, f.quantity)
