"""What the forms before anything is switched on send."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.api.form_reading import Form, LongText, NameText, Typed
from vessel.core.model.pre_start import Source


class CheckForm(Form):
    """The answer to one check; an empty one takes it back."""

    answer: Literal["", "yes", "no", "not_needed"]
    note: LongText = ""
    technician: NameText = ""


class AmbientForm(Form):
    """What the display shows at one frequency with the transmitter off, here and in a quiet place."""

    freq_hz: float
    here: Typed = ""
    quiet: Typed = ""


class NoiseForm(Form):
    """The noise check as a whole; a frequency left empty was not read."""

    rows: Annotated[list[AmbientForm], Field(max_length=50)]


class HitForm(Form):
    """A passive hit; `place` is east and north on the plan, empty where it is only in words."""

    source: Source
    place: Typed = ""
    note: LongText = ""


class PassiveForm(Form):
    """The passive sweep as a whole."""

    first: bool = False
    second: bool = False
    spacing: Typed = ""
    hits: Annotated[list[HitForm], Field(default_factory=list, max_length=200)]
