"""What the form of the local rule sends."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from vessel.api.form_reading import Form, NameText, Typed


class LookForm(Form):
    """How one kind of line is marked."""

    colour: NameText
    hex: Typed
    letter: Typed
    pattern: Typed


class MarkingForm(Form):
    """The whole local rule: every kind given, the tolerance zone to either side, which rule it follows."""

    looks: Annotated[dict[str, LookForm], Field(max_length=40)]
    tolerance: Typed
    source: NameText = ""
    technician: NameText = ""
