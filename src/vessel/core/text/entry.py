"""Entry as the trade says it: text typed in the field, understood once, shown back.

Every quantity has a natural bare-number reading; where a bare number could be two things it is refused with
both spellings rather than guessed.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from vessel.core.base.errors import BadInput
from vessel.core.text.figures import show_hz, show_length, show_station
from vessel.core.text.units import FOOT_M, INCH_M, Units

Quantity = Literal[
    "distance",
    "depth",
    "offset",
    "current",
    "currents",
    "frequency",
    "volts",
    "ohms",
    "resistivity",
    "bearing",
    "signal",
    "profile",
    "neighbours",
]


_NUMBER = r"(\d+(?:\.\d*)?|\.\d+)(?:[eE]([+-]?\d+))?"
_LENGTH_UNITS = {
    "mm": 1e-3,
    "cm": 1e-2,
    "m": 1.0,
    "km": 1e3,
    "in": INCH_M,
    '"': INCH_M,
    "ft": FOOT_M,
    "'": FOOT_M,
}
_SUFFIXES: dict[str, dict[str, float]] = {
    "current": {"": 1e-3, "ma": 1e-3, "a": 1.0, "ua": 1e-6, "µa": 1e-6},
    "frequency": {"": 1.0, "hz": 1.0, "k": 1e3, "khz": 1e3},
    "volts": {"": 1.0, "v": 1.0, "mv": 1e-3},
    "ohms": {"": 1.0, "ohm": 1.0, "ohms": 1.0, "r": 1.0, "k": 1e3, "kohm": 1e3},
    "resistivity": {"": 1.0, "ohmm": 1.0},
    "bearing": {"": 1.0, "deg": 1.0, "degrees": 1.0, "°": 1.0},
    "signal": {"": 1.0, "%": 1.0, "db": 1.0},
}


@dataclass(frozen=True)
class Understood:
    """What a typed text means: `values` in SI, and `shown` in words with units."""

    values: tuple[float, ...]
    shown: str

    @property
    def value(self) -> float:
        """The single value in SI units."""
        return self.values[0]


def understand(text: str, *, quantity: Quantity, units: Units = "metric", field: str = "value") -> Understood:
    """Return what a text means as a quantity.

    Args:
        text: What was typed.
        quantity: What it should be.
        units: The user's system of units.
        field: Name of the field a refusal is to name.

    Returns:
        The value in SI units, and how it is shown.

    Raises:
        BadInput: If it cannot be read or is out of reason; names the field and the fix.
    """
    clean = text.strip().lower().replace("′", "'").replace("’", "'").replace("″", '"').replace("”", '"')
    if not clean:
        raise BadInput("Nothing entered.", field=field, fix="Type a value.")
    if quantity == "currents":
        parts = [p for p in re.split(r"[\s;/]+", clean) if p]
        each = [understand(p, quantity="current", units=units, field=field).value for p in parts]
        return Understood(tuple(each), ", ".join(f"{a * 1e3:.4g}" for a in each) + " mA")
    if quantity == "profile":
        return _profile(clean, units, field)
    if quantity == "neighbours":
        return _neighbours(clean, units, field)
    if "," in clean:
        raise BadInput(
            f"“{text.strip()}” has a comma.", field=field, fix=f"Write the decimal point: {clean.replace(',', '.')}."
        )
    if clean.startswith("-"):
        raise BadInput(f"“{text.strip()}” is below zero.", field=field, fix="Enter it without the minus sign.")
    if quantity in ("distance", "depth", "offset"):
        value = _length(clean, quantity, units, field)
        shown = show_station(value, units) if quantity == "distance" else show_length(value, units, fine=True)
        return Understood((value,), shown)
    return _suffixed(clean, quantity, field)


def _number(clean: str, field: str, hint: str) -> tuple[float, str]:
    match = re.match(_NUMBER, clean)
    if match is None:
        raise BadInput(f"“{clean}” is not a number.", field=field, fix=hint)
    return float(match.group(0)), clean[match.end() :].strip()


def _suffixed(clean: str, quantity: str, field: str) -> Understood:
    hints = {
        "current": "Type milliamps, such as 71.",
        "frequency": "Type hertz or kilohertz, such as 560 or 8.96k.",
        "volts": "Type volts, such as 30.",
        "ohms": "Type ohms, such as 110.",
        "resistivity": "Type ohm metres, such as 60.",
        "bearing": "Type degrees, such as 40.",
        "signal": "Type the figure on the display, or decibels as 62dB.",
    }
    number, rest = _number(clean, field, hints[quantity])
    rest = rest.replace(" ", "").replace("ω", "ohm").replace("Ω", "ohm").replace("·", "")
    factor = _SUFFIXES[quantity].get(rest)
    if factor is None:
        raise BadInput(f"“{rest}” is not a unit for this field.", field=field, fix=hints[quantity])
    if quantity == "bearing" and number > 360:
        raise BadInput(f"A bearing of {number:g} degrees.", field=field, fix="Give it between 0 and 360.")
    # signals are only compared with each other, so decibels become a ratio
    value = 10 ** (number / 20) if rest == "db" else number * factor
    shown = {
        "current": f"{value * 1e3:.4g} mA",
        "frequency": show_hz(value),
        "volts": f"{value:g} V",
        "ohms": f"{value:g} ohm",
        "resistivity": f"{value:g} ohm m",
        "bearing": f"{value:g} degrees",
        "signal": f"{number:g} dB" if rest == "db" else f"{value:g}",
    }[quantity]
    return Understood((value,), shown)


_ASIDE = re.compile(r"([lr+-]?)\s*(\S+?)\s*([lr]?)\s+(\S+)(?:\s+(\S+))?")
_NOT_READ = ("-", "–", "?")


def _aside(part: str, units: Units, field: str, *, says: str, fix: str) -> tuple[float, str, str | None]:
    """An offset [m], positive to the left, and the one or two texts that follow it."""
    match = _ASIDE.fullmatch(part)
    if match is None or (match.group(1) and match.group(3)):
        raise BadInput(f"“{part}” is not {says}.", field=field, fix=fix)
    size = _length(match.group(2), "offset", units, field)
    right = (match.group(1) or match.group(3)) in ("", "+", "r")
    return -size if right and size else size, match.group(4), match.group(5)


def _to_side(offset_m: float, units: Units) -> str:
    return f"{show_length(abs(offset_m), units, fine=True)} {'left' if offset_m > 0 else 'right'}"


def _parts(clean: str) -> list[str]:
    return [p.strip() for p in re.split(r"[;,\n]+", clean) if p.strip()]


def _profile(clean: str, units: Units, field: str) -> Understood:
    """Readings across a line: pairs of offset and signal; the values alternate, offsets positive to the left."""
    hint = "Give offset and signal of each, such as L0.5 62; 0 88; R0.5 60."
    values: list[float] = []
    for part in _parts(clean):
        says = "an offset with its signal"
        offset, signal, more = _aside(part, units, field, says=says, fix=hint)
        if more is not None:
            raise BadInput(f"“{part}” is not {says}.", field=field, fix=hint)
        values += [offset, understand(signal, quantity="signal", units=units, field=field).value]
    offsets = values[::2]
    ends = [_to_side(x, units) for x in (max(offsets), min(offsets))]
    return Understood(tuple(values), f"{len(offsets)} readings from {ends[0]} to {ends[1]}")


def _neighbours(clean: str, units: Units, field: str) -> Understood:
    """Neighbours met beside a station: offset, current, signal of each in turn; NaN for what was not read."""
    hint = "Give how far aside, its current and, gain locked, its signal, such as L1.2 9.5 62; R2.0 4.1."
    values: list[float] = []
    shown = []
    for part in _parts(clean):
        offset, current, signal = _aside(part, units, field, says="a neighbour with its current", fix=hint)
        if offset == 0:
            raise BadInput(f"“{part}” says no side and no way.", field=field, fix=hint)
        both: tuple[tuple[str | None, Quantity], ...] = ((current, "current"), (signal, "signal"))
        read = [
            None if text is None or text in _NOT_READ else understand(text, quantity=q, units=units, field=field)
            for text, q in both
        ]
        values += [offset, *(float("nan") if r is None else r.value for r in read)]
        told = [f"{word}{r.shown}" for r, word in zip(read, ("", "signal "), strict=True) if r is not None]
        shown.append(" ".join([_to_side(offset, units), *(["with", " and ".join(told)] if told else [])]))
    return Understood(tuple(values), "; ".join(shown))


def _length(clean: str, quantity: str, units: Units, field: str) -> float:
    hint = "Type it as 0.58, 58cm, 40in or 3'4."
    feet_inches = re.fullmatch(rf"(\d+)\s*(?:'|ft)\s*(?:{_NUMBER})\s*(?:\"|in)?", clean)
    if feet_inches:
        inches = float(feet_inches.group(2))
        if inches >= 12:
            raise BadInput(f"“{clean}”: {inches:g} inches is a foot or more.", field=field, fix=hint)
        return int(feet_inches.group(1)) * FOOT_M + inches * INCH_M
    number, rest = _number(clean, field, hint)
    if rest:
        factor = _LENGTH_UNITS.get(rest)
        if factor is None:
            raise BadInput(f"“{rest}” is not a unit of length.", field=field, fix=hint)
        return number * factor
    if quantity == "distance":
        return number * (1.0 if units == "metric" else FOOT_M)
    return _bare_depth(number, "." in clean, units, field)


def _bare_depth(number: float, has_point: bool, units: Units, field: str) -> float:
    """A bare number in a depth field: whole numbers can be centimetres or inches, so the doubtful ones are refused."""
    if units == "imperial":
        return number * INCH_M
    if has_point or number == 0 or number <= 3:
        return number
    if number < 10:
        raise BadInput(
            f"“{number:g}” could be {number:g} m or {number:g} cm.",
            field=field,
            fix=f"Type {number:g}m or {number:g}cm.",
        )
    return number * 1e-2
