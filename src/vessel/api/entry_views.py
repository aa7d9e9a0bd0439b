"""Fields of an entry as the interface's form gets them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from types import MappingProxyType

from pydantic import BaseModel

from vessel.api.choices import ChoiceView
from vessel.core.model.entry_fields import EntryField, Shape
from vessel.core.text.entry import Quantity
from vessel.core.text.units import Units
from vessel.words.entry_labels import choice_label, hint_of, label_of


class EntryFieldView(BaseModel):
    """One field: see `core.model.entry_fields`. `more`: folded away as further evidence."""

    id: str
    label: str
    hint: str
    shape: Shape
    quantity: Quantity | None
    choices: list[ChoiceView]
    required: bool
    tapped: bool
    more: bool


def field_views(
    fields: Sequence[EntryField], units: Units, *, labels: Mapping[str, str] = MappingProxyType({})
) -> list[EntryFieldView]:
    """Return the fields of a form, labelled, with examples in the user's units; `labels`: its own, by column."""
    return [
        EntryFieldView(
            id=f.id,
            label=label_of(f, labels),
            hint=hint_of(f, units),
            shape=f.shape,
            quantity=f.quantity,
            choices=[ChoiceView(id=sent, label=choice_label(sent)) for sent, _ in f.choices],
            required=f.required,
            tapped=f.tapped,
            more=f.more,
        )
        for f in fields
    ]
