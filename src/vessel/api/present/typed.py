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
    if s.profile:
        typed["profile"] = _profile_typed(typed.get("profile", ""), s.profile, units)
    return typed


def _profile_typed(text: str, profile: list[list[float]], units: Units) -> str:
    """Readings across the line as typed, or with their units where the text would now mean something else."""
    flat = [v for pair in profile for v in pair]
    try:
        now = understand(text, quantity="profile", units=units).values
        if len(now) == len(flat) and all(math.isclose(a, b, rel_tol=1e-6) for a, b in zip(now, flat, strict=True)):
            return text
    except BadInput:
        pass
    return "; ".join(f"{'L' if at > 0 else 'R'}{abs(at):g}m {signal:g}" for at, signal in profile)
