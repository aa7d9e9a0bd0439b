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
    "inductance",
    "bearing",
    "signal",
    "profile",
    "neighbours",
    "fall",
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
    "inductance": {"": 1e-3, "mh": 1e-3, "h": 1.0},
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
        raise BadInput("nothing_entered", field=field)
    if quantity == "currents":
        parts = [p for p in re.split(r"[\s;/]+", clean) if p]
        each = [understand(p, quantity="current", units=units, field=field).value for p in parts]
        return Understood(tuple(each), ", ".join(f"{a * 1e3:.4g}" for a in each) + " mA")
    if quantity == "profile":
        return _profile(clean, units, field)
    if quantity == "neighbours":
        return _neighbours(clean, units, field)
    if "," in clean:
        raise BadInput("has_comma", field=field, text=text.strip(), point=clean.replace(",", "."))
    # decibels below their zero are a signal like any other
    if clean.startswith("-") and not (quantity == "signal" and clean.endswith("db")):
        raise BadInput("below_zero", field=field, text=text.strip())
    if quantity in ("distance", "depth", "offset"):
        value = _length(clean, quantity, units, field)
        shown = show_station(value, units) if quantity == "distance" else show_length(value, units, fine=True)
        return Understood((value,), shown)
    return _fall(clean, field) if quantity == "fall" else _suffixed(clean, quantity, field)


def _fall(clean: str, field: str) -> Understood:
    """A fall in per cent, or as `1:80` [m/m]."""
    as_ratio = re.fullmatch(rf"1\s*(?::|in)\s*{_NUMBER}", clean)
    if as_ratio is not None:
        run = float(as_ratio.group(1))
        value = 1 / run if run else 0.0
    else:
        number, rest = _number(clean, field, "fall")
        if rest not in ("", "%"):
            raise BadInput("no_such_unit", field=field, text=rest, quantity="fall")
        value = number / 100
    return Understood((value,), f"{100 * value:.3g} %")


def _number(clean: str, field: str, quantity: str) -> tuple[float, str]:
    match = re.match(_NUMBER, clean)
    if match is None:
        raise BadInput("no_number", field=field, text=clean, quantity=quantity)
    return float(match.group(0)), clean[match.end() :].strip()


def _suffixed(clean: str, quantity: str, field: str) -> Understood:
    number, rest = _number(clean.removeprefix("-"), field, quantity)
    number = -number if clean.startswith("-") else number
    rest = rest.replace(" ", "").replace("ω", "ohm").replace("Ω", "ohm").replace("·", "")
    factor = _SUFFIXES[quantity].get(rest)
    if factor is None:
        raise BadInput("no_such_unit", field=field, text=rest, quantity=quantity)
    if quantity == "bearing" and number > 360:
        raise BadInput("bearing_out", field=field, degrees=number)
    # signals are only compared with each other, so decibels become a ratio
    value = 10 ** (number / 20) if rest == "db" else number * factor
    shown = {
        "current": f"{value * 1e3:.4g} mA",
        "frequency": show_hz(value),
        "volts": f"{value:g} V",
        "ohms": f"{value:g} ohm",
        "resistivity": f"{value:g} ohm m",
        "inductance": f"{value * 1e3:.4g} mH",
        "bearing": f"{value:g} degrees",
        "signal": f"{number:g} dB" if rest == "db" else f"{value:g}",
    }[quantity]
    return Understood((value,), shown)


_ASIDE = re.compile(r"([lr+-]?)\s*(\S+?)\s*([lr]?)\s+(\S+)(?:\s+(\S+))?")
_NOT_READ = ("-", "–", "?")


def _aside(part: str, units: Units, field: str, *, quantity: Quantity) -> tuple[float, str, str | None]:
    """An offset [m], positive to the left, and the one or two texts that follow it."""
    match = _ASIDE.fullmatch(part)
    if match is None or (match.group(1) and match.group(3)):
        raise BadInput("no_such_part", field=field, text=part, quantity=quantity)
    size = _length(match.group(2), "offset", units, field)
    right = (match.group(1) or match.group(3)) in ("", "+", "r")
    return -size if right and size else size, match.group(4), match.group(5)


def _to_side(offset_m: float, units: Units) -> str:
    return f"{show_length(abs(offset_m), units, fine=True)} {'left' if offset_m > 0 else 'right'}"


def _parts(clean: str) -> list[str]:
    return [p.strip() for p in re.split(r"[;,\n]+", clean) if p.strip()]


def _profile(clean: str, units: Units, field: str) -> Understood:
    """Readings across a line: pairs of offset and signal; the values alternate, offsets positive to the left."""
    values: list[float] = []
    for part in _parts(clean):
        offset, signal, more = _aside(part, units, field, quantity="profile")
        if more is not None:
            raise BadInput("no_such_part", field=field, text=part, quantity="profile")
        values += [offset, understand(signal, quantity="signal", units=units, field=field).value]
    offsets = values[::2]
    ends = [_to_side(x, units) for x in (max(offsets), min(offsets))]
    return Understood(tuple(values), f"{len(offsets)} readings from {ends[0]} to {ends[1]}")


def _neighbours(clean: str, units: Units, field: str) -> Understood:
    """Neighbours met beside a station: offset, current, signal of each in turn; NaN for what was not read."""
    values: list[float] = []
    shown = []
    for part in _parts(clean):
        offset, current, signal = _aside(part, units, field, quantity="neighbours")
        if offset == 0:
            raise BadInput("no_side", field=field, text=part, quantity="neighbours")
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
    feet_inches = re.fullmatch(rf"(\d+)\s*(?:'|ft)\s*(?:{_NUMBER})\s*(?:\"|in)?", clean)
    if feet_inches:
        inches = float(feet_inches.group(2))
        if inches >= 12:
            raise BadInput("too_many_inches", field=field, text=clean, inches=inches, quantity="distance")
        return int(feet_inches.group(1)) * FOOT_M + inches * INCH_M
    number, rest = _number(clean, field, "distance")
    if rest:
        factor = _LENGTH_UNITS.get(rest)
        if factor is None:
            raise BadInput("no_length_unit", field=field, text=rest, quantity="distance")
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
        raise BadInput("metres_or_centimetres", field=field, value=number)
    return number * 1e-2
