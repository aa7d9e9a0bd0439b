"""Texts as typed, given back to forms. After a change of units a bare number would mean something else, so it is
given back with its unit instead."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Any

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.model.entry_fields import EntryField
from vessel.core.text.entry import Quantity, understand
from vessel.core.text.units import Units

_LENGTHS = ("distance", "depth", "offset")


def length_typed(text: str | None, value_m: float, *, quantity: Quantity, units: Units) -> str:
    """Return `text` if it still means `value_m` [m] in `units`, else the value with its unit."""
    if text:
        try:
            if math.isclose(understand(text, quantity=quantity, units=units).value, value_m, rel_tol=1e-6):
                return text
        except BadInput:
            pass  # typed when another unit system made it plain
    return f"{value_m:g}m"


def entry_typed(row: Any, fields: Sequence[EntryField], units: Units) -> dict[str, str]:
    """Return the texts of an entry (a row) for its form, by the table of its fields."""
    typed = dict(row.typed)
    for f in fields:
        value = getattr(row, f.column)
        if f.shape == "choice":
            typed[f.id] = next(sent for sent, kept in f.choices if kept == value)
        elif f.quantity in _LENGTHS and value is not None:
            typed[f.id] = length_typed(typed.get(f.id), value, quantity=f.quantity, units=units)
        elif f.shape in _LISTS and value and f.quantity is not None:
            typed[f.id] = _list_typed(typed.get(f.id, ""), f.quantity, value, _LISTS[f.shape](value), units)
    return typed


def _pairs_typed(values: Sequence[Sequence[float]]) -> str:
    return "; ".join(f"{_side(at)} {signal:g}" for at, signal in values)


def _beside_typed(values: Sequence[Sequence[float | None]]) -> str:
    return "; ".join(
        " ".join([_side(at or 0.0), "-" if amps is None else f"{amps:g}A", *([] if b is None else [f"{b:g}"])])
        for at, amps, b in values
    )


_LISTS: dict[str, Callable[[Any], str]] = {"pairs": _pairs_typed, "beside": _beside_typed}


def _side(offset_m: float) -> str:
    return f"{'L' if offset_m > 0 else 'R'}{abs(offset_m):g}m"


def _list_typed(
    text: str, quantity: Quantity, values: Sequence[Sequence[float | None]], told: str, units: Units
) -> str:
    """What is beside or across the line as typed, or as `told` where the text would now mean something else."""
    flat = [math.nan if v is None else v for each in values for v in each]
    try:
        now = understand(text, quantity=quantity, units=units).values
        if np.shape(now) == np.shape(flat) and np.allclose(now, flat, rtol=1e-6, atol=0.0, equal_nan=True):
            return text
    except BadInput:
        pass
    return told
