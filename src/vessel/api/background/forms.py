"""A picture under the site plan as its forms send it: the file as base64, and its two points as tapped and typed."""

from __future__ import annotations

import binascii
from base64 import b64decode
from typing import Annotated

from pydantic import Field

from vessel.api.form_reading import Form, NameText, Typed, need
from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Xy
from vessel.core.text.route_text import understand_place
from vessel.formats.background_doc import Fade
from vessel.formats.loaded_job import LoadedJob

Pixels = Annotated[float, Field(ge=0, le=20_000)]


class PictureForm(Form):
    """A scanned plan or a photo."""

    name: NameText = ""
    image: Annotated[str, Field(max_length=24_000_000, description="the PNG or JPEG file as base64")]
    technician: Typed = ""

    def data(self) -> bytes:
        """Return the file."""
        try:
            return b64decode(need(self.image, field="image", name="The picture"), validate=True)
        except (binascii.Error, ValueError) as e:
            raise BadInput("The picture did not arrive whole.", field="image", fix="Choose the file again.") from e


class PinForm(Form):
    """A point of the picture [px, right and down], and where it is on the site."""

    x: Pixels
    y: Pixels
    at: Typed


class PlacingForm(Form):
    """Two points known in the picture and on the site, and how strongly the picture is drawn."""

    first: PinForm
    second: PinForm
    fade: Fade = "half"

    def pins(self, job: LoadedJob) -> list[list[float]]:
        """Return both points: pixels right and down, metres east and north."""
        found = [
            (pin, _place(pin.at, field=f"{name}.at", job=job))
            for name, pin in (("first", self.first), ("second", self.second))
        ]
        return [[pin.x, pin.y, *at] for pin, at in found]

    def typed(self) -> dict[str, str]:
        """Return where the points are, as typed."""
        return {"first": self.first.at, "second": self.second.at}


class FadeForm(Form):
    """How strongly the picture is drawn."""

    fade: Fade


def _place(text: str, *, field: str, job: LoadedJob) -> Xy:
    """Return the place that is typed: an access point's name, or east and north."""
    need(text, field=field, name="The place of this point")
    named = {a.name.casefold(): a.at for a in job.drawing.access}
    if text.casefold() in named:
        return named[text.casefold()]
    return understand_place(text, units=job.units, field=field)
