"""The picture under a site plan in words."""

from __future__ import annotations

from vessel.core.model.background import PictureOnGround
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units

_STRAIGHT_DEG = 0.5


def laid_text(found: PictureOnGround, units: Units) -> str:
    """Return how large a picture is on the ground and how it is turned."""
    wide, high = (show_length(v, units) for v in found.size_m)
    turned = f"{abs(found.turned_deg):.0f}° {'left' if found.turned_deg > 0 else 'right'}"
    way = "north is up" if abs(found.turned_deg) < _STRAIGHT_DEG else f"turned {turned}"
    return f"{wide} by {high} on the ground, {way}. One pixel is {show_length(found.metres_per_px, units, fine=True)}."
