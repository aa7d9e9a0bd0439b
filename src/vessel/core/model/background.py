"""A scanned plan or a photo under the site plan: two points known on both give its scale, its turn and its place.

A picture point `p` lies `x` pixels right and `y` down from its top left corner. With the ground as complex numbers,
east + i north, and the picture as x - i y, a drawing to scale is

    ground = shift + k picture,  k = (ground2 - ground1) / (picture2 - picture1)

where |k| is metres a pixel and arg k how far the picture is turned anticlockwise from north up.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import FURTHEST_M, Xy

LEAST_APART_PX = 20.0
"""Points closer than that in the picture give no scale worth having [px]: a tap is some pixels wrong."""
LEAST_APART_M = 1.0
"""The same on the ground [m]."""


@dataclass(frozen=True)
class Pinned:
    """A point of the picture, right and down from its top left corner [px], and its place on the ground [m]."""

    px: Xy
    at: Xy


@dataclass(frozen=True)
class PictureOnGround:
    """A picture laid on the ground.

    Attributes:
        metres_per_px: Its scale [m].
        turned_deg: How far it is turned anticlockwise from north up [degrees], -180 to 180.
        size_m: Its width and height on the ground [m].
        corners: East and north of its top left, top right and bottom left corner [m].
    """

    metres_per_px: float
    turned_deg: float
    size_m: Xy
    corners: tuple[Xy, Xy, Xy]


def laid(first: Pinned, second: Pinned, *, size_px: tuple[int, int]) -> PictureOnGround:
    """Return where a picture lies on the ground.

    Args:
        first: A point known in the picture and on the ground.
        second: Another one; the further apart, the better the scale.
        size_px: Width and height of the picture [px].

    Returns:
        The picture on the ground.

    Raises:
        BadInput: If the points are too close to each other, outside the picture, or put it off any site.
    """
    width, height = size_px
    for k, pin in enumerate((first, second), 1):
        if not (0 <= pin.px[0] <= width and 0 <= pin.px[1] <= height):
            raise BadInput("point_off_picture", field=_FIELDS[k - 1], number=k)
    in_picture = _picture(second.px) - _picture(first.px)
    on_ground = complex(*second.at) - complex(*first.at)
    if abs(in_picture) < LEAST_APART_PX:
        raise BadInput("points_close_in_picture", field="second", least_px=LEAST_APART_PX)
    if abs(on_ground) < LEAST_APART_M:
        raise BadInput("points_close_on_ground", field="second.at", apart_m=abs(on_ground), least_m=LEAST_APART_M)
    ratio = on_ground / in_picture
    shift = complex(*first.at) - ratio * _picture(first.px)
    corners = [shift + ratio * _picture(px) for px in ((0.0, 0.0), (width, 0.0), (0.0, height), (width, height))]
    if max(abs(c.real) for c in corners) > FURTHEST_M or max(abs(c.imag) for c in corners) > FURTHEST_M:
        raise BadInput("picture_off_site", field="second.at", width_m=width * abs(ratio), furthest_m=FURTHEST_M)
    top_left, top_right, bottom_left = ((c.real, c.imag) for c in corners[:3])
    return PictureOnGround(
        metres_per_px=abs(ratio),
        turned_deg=math.degrees(math.atan2(ratio.imag, ratio.real)),
        size_m=(width * abs(ratio), height * abs(ratio)),
        corners=(top_left, top_right, bottom_left),
    )


_FIELDS = ("first", "second")


def _picture(px: Xy) -> complex:
    return complex(px[0], -px[1])
