"""Texts as typed, given back to forms. After a change of units a bare number would mean something else, so it is
given back with its unit instead."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.text.entry import Quantity, understand
from vessel.core.text.units import Units
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
        told = "; ".join(f"{_side(at)} {signal:g}" for at, signal in s.profile)
        typed["profile"] = _list_typed(typed.get("profile", ""), "profile", s.profile, told, units)
    if s.neighbours:
        told = "; ".join(
            " ".join([_side(at or 0.0), "-" if amps is None else f"{amps:g}A", *([] if b is None else [f"{b:g}"])])
            for at, amps, b in s.neighbours
        )
        typed["neighbours"] = _list_typed(typed.get("neighbours", ""), "neighbours", s.neighbours, told, units)
    return typed


def _side(offset_m: float) -> str:
    return f"{'L' if offset_m > 0 else 'R'}{abs(offset_m):g}m"


def _list_typed(
    text: str, quantity: Quantity, values: Sequence[Sequence[float | None]], told: str, units: Units
) -> str:
    """What stands beside or across the line as typed, or as `told` where the text would now mean something else."""
    flat = [math.nan if v is None else v for each in values for v in each]
    try:
        now = understand(text, quantity=quantity, units=units).values
        if np.shape(now) == np.shape(flat) and np.allclose(now, flat, rtol=1e-6, atol=0.0, equal_nan=True):
            return text
    except BadInput:
        pass
    return told
