"""The picture under a site plan."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.formats.background_doc import Fade

Corner = tuple[float, float]


class PinView(BaseModel):
    """A point of the picture [px, right and down], and where it is on the site, as typed."""

    x: float
    y: float
    at: str


class BackgroundView(BaseModel):
    """A scanned plan or photo; `corners`: its top left, top right and bottom left, null until it is placed."""

    id: int
    name: str
    path: str
    width_px: int
    height_px: int
    fade: Fade
    pins: list[PinView]
    corners: tuple[Corner, Corner, Corner] | None
    text: str
