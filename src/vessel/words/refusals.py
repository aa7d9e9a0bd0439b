"""Refusals in words: what is wrong, with its value, and how to put it right; in the user's units.

A template's figures are the refusal's facts. After a colon: how a fact is shown. `length` and `fine` (a depth or an
offset) are in the user's units, `station` to the centimetre; then `hz`, `ma`, `of reading` for a count, or a format of
Python's.
"""

from __future__ import annotations

from string import Formatter
from typing import Any

from vessel.core.base.errors import VesselError
from vessel.core.text.figures import counted, show_hz, show_length, show_ma, show_station
from vessel.core.text.units import FOOT_M, Units
from vessel.words.refused_site import OF_SITE
from vessel.words.refused_work import OF_WORK

HOW_TO_TYPE = {
    "current": "Type milliamps, such as 71.",
    "frequency": "Type hertz or kilohertz, such as 560 or 8.96k.",
    "volts": "Type volts, such as 30.",
    "ohms": "Type ohms, such as 110.",
    "resistivity": "Type ohm metres, such as 60.",
    "inductance": "Type millihenries, such as 50.",
    "bearing": "Type degrees, such as 40.",
    "fall": "Type per cent, such as 1.5, or a ratio, such as 1:80.",
    "signal": "Type the figure on the display, or decibels as 62dB.",
    "profile": "Give offset and signal of each, such as L0.5 62; 0 88; R0.5 60.",
    "neighbours": "Give how far aside, its current and, gain locked, its signal, such as L1.2 9.5 62; R2.0 4.1.",
}
_LENGTH_TYPED = "Type it as 0.58, 58cm, 40in or 3'4."
_PARTS = {"profile": "an offset with its signal", "neighbours": "a neighbour with its current"}

REFUSALS: dict[str, tuple[str, str]] = {**OF_SITE, **OF_WORK}


class _Said(Formatter):
    """Fills templates in one system of units; `unit` is that of a figure out of range."""

    def __init__(self, units: Units, unit: str) -> None:
        self.units, self.unit = units, unit

    def format_field(self, value: Any, spec: str) -> str:
        """Return a fact as its template wants it."""
        if spec in ("length", "fine"):
            return show_length(value, self.units, fine=spec == "fine")
        if spec == "station":
            return show_station(value, self.units)
        if spec == "hz":
            return ", ".join(map(show_hz, value)) if isinstance(value, list) else show_hz(value)
        if spec == "ma":
            return show_ma(value)
        if spec.startswith("of "):
            return counted(value, spec.removeprefix("of "))
        if spec in ("own", "plain"):
            return self._in_range(value, spec == "own")
        return str(super().format_field(value, spec))

    def _in_range(self, value: float, with_unit: bool) -> str:
        """A figure out of range, or an end of its range, with its unit if there is one."""
        if value != value:
            return "not a number"
        feet = self.unit == "m" and self.units == "imperial"
        shown = f"{value / FOOT_M:.3g}" if feet else f"{value:g}"
        unit = "ft" if feet else self.unit
        return f"{shown} {unit}" if with_unit and unit else shown


def refusal(e: VesselError, units: Units | None = None) -> tuple[str, str]:
    """Return what is wrong and how to put it right, in `units` or those the refusal came with."""
    if e.what not in REFUSALS:
        return e.what, e.fix
    quantity = e.facts.get("quantity", "")
    typed = HOW_TO_TYPE.get(quantity, _LENGTH_TYPED)
    facts = {**e.facts, "part": _PARTS.get(quantity, ""), "as_entered": typed}
    say = _Said(units or e.units, e.facts.get("unit", ""))
    message, fix = (say.format(text, **facts) for text in REFUSALS[e.what])
    return message, fix


def sentence(e: VesselError) -> str:
    """Return a refusal as one text."""
    return " ".join(text for text in refusal(e) if text)
