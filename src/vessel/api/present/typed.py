"""Texts as typed, given back to forms. After a change of units a bare number would mean something else, so it is
given back with its unit instead."""

from __future__ import annotations

import math

from vessel.core.model.entry import Quantity, Units, understand
from vessel.core.model.errors import BadInput
from vessel.store.tables import StationRow

_STATION: dict[str, tuple[str, Quantity]] = {
    "distance": ("distance_m", "distance"),
    "depth": ("depth_m", "depth"),
    "lift_height": ("lift_height_m", "offset"),
    "depth_lifted": ("depth_lifted_m", "depth"),
    "peak_null": ("peak_null_m", "offset"),
}


def length_typed(text: str | None, value_m: float, *, quantity: Quantity, units: Units) -> str:
    """Return `text` if it still means `value_m` [m] in `units`, else the value with its unit."""
    if text:
        try:
            if math.isclose(understand(text, quantity=quantity, units=units).value, value_m, rel_tol=1e-6):
                return text
        except BadInput:
            pass  # typed when another unit system made it plain
    return f"{value_m:g}m"


def station_typed(s: StationRow, units: Units) -> dict[str, str]:
    """Return the texts of a station for its form."""
    typed = dict(s.typed) | {"direction": s.direction}
    for field, (column, quantity) in _STATION.items():
        value = getattr(s, column)
        if value is not None:
            typed[field] = length_typed(typed.get(field), value, quantity=quantity, units=units)
    return typed
