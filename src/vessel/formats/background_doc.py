"""The background of a site plan as the job file keeps it: the picture itself, and the two points that place it."""

from __future__ import annotations

from base64 import b64decode, b64encode
from typing import Annotated, Literal, Protocol

from pydantic import BeforeValidator, Field, PlainSerializer, WithJsonSchema

from vessel.core.model.background import PictureOnGround, Pinned, laid
from vessel.formats.document import Doc, Name, Number, Text
from vessel.formats.pictures import Media, checked_picture

_MOST = 12_000_000
Fade = Literal["faint", "half", "full"]


def _bytes(value: object) -> object:
    return b64decode(value, validate=True) if isinstance(value, str) else value


Base64 = Annotated[
    bytes,
    BeforeValidator(_bytes),
    Field(max_length=_MOST),
    PlainSerializer(lambda data: b64encode(data).decode("ascii"), when_used="json"),
    WithJsonSchema({"type": "string", "contentEncoding": "base64"}),
]
Pin = Annotated[list[Number], Field(min_length=4, max_length=4)]


class BackgroundDoc(Doc):
    """A picture under the site plan (since 1.9).

    `pins`: pixels right and down from its top left corner, then metres east and north, of two points.
    """

    name: Name
    media: Media
    width_px: Annotated[int, Field(gt=0, le=20_000)]
    height_px: Annotated[int, Field(gt=0, le=20_000)]
    image: Base64
    pins: Annotated[list[Pin], Field(max_length=2)]
    fade: Fade
    typed: dict[str, str]
    note: Text
    technician: Text
    taken_at: Text
    deleted_at: None = None
    struck_by: None = None
    struck_why: None = None


class TwoPointed(Protocol):
    """What a document of a background and its row have in common."""

    pins: list[list[float]]
    width_px: int
    height_px: int


def laid_out(row: TwoPointed) -> PictureOnGround | None:
    """Return where a picture lies, None before it is placed; raise `BadInput` where its points place it nowhere."""
    if not row.pins:
        return None
    first, second = (Pinned((x, y), (east, north)) for x, y, east, north in row.pins)
    return laid(first, second, size_px=(row.width_px, row.height_px))


def check_background(doc: BackgroundDoc) -> None:
    """Refuse a background of a file that is no picture, or lies nowhere."""
    checked_picture(doc.image, doc.media, (doc.width_px, doc.height_px))
    laid_out(doc)
