"""Routes as the trade says them: legs walked from a place, or corners, typed as text."""

from __future__ import annotations

import re
from collections.abc import Sequence

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.text.entry import understand
from vessel.core.text.units import FOOT_M, Units

Xy = tuple[float, float]
_POINTS = {name: 22.5 * k for k, name in enumerate(
    ["n", "nne", "ne", "ene", "e", "ese", "se", "sse", "s", "ssw", "sw", "wsw", "w", "wnw", "nw", "nnw"])}  # fmt: skip
_SPLIT = re.compile(r"[;\n]|,?\s*\bthen\b", re.IGNORECASE)
_LEG = re.compile(r"(?P<length>.+?)\s*(?:\bat\b|@|\btowards?\b)\s*(?P<bearing>.+)", re.IGNORECASE)
_PLACE = re.compile(r"(?:from\s+)?\(?\s*(?P<east>[^,()]+?)\s*,\s*(?P<north>[^,()]+?)\s*\)?", re.IGNORECASE)


def understand_route(text: str, *, units: Units, field: str = "route", start: Xy = (0.0, 0.0)) -> tuple[Xy, ...]:
    """Return the corners that a text describes.

    Bare numbers are metres, or feet for imperial units.

    Args:
        text: What was typed.
        units: The user's system of units.
        field: Name of the field a refusal is to name.
        start: Where legs start from: east and north [m].

    Returns:
        East and north of each corner [m].

    Raises:
        BadInput: If a part is not understood; names that part.
    """
    corners: list[Xy] = []
    for part in (p.strip(" ,.\t\r") for p in _SPLIT.split(text)):
        if not part:
            continue
        place, leg = _PLACE.fullmatch(part), _LEG.fullmatch(part)
        if leg:
            if not corners:
                corners.append(start)
            length = understand(leg["length"], quantity="distance", units=units, field=field).value
            turn = np.radians(_bearing(leg["bearing"], field))
            east, north = corners[-1]
            corners.append((float(east + length * np.sin(turn)), float(north + length * np.cos(turn))))
        elif place:
            corners.append(
                (
                    coordinate(place["east"], units=units, field=field),
                    coordinate(place["north"], units=units, field=field),
                )
            )
        else:
            raise BadInput("no_leg", field=field, text=part)
    return tuple(corners)


def understand_place(text: str, *, units: Units, field: str) -> Xy:
    """Return the one place that a text describes.

    Args:
        text: What was typed.
        units: The user's system of units.
        field: Name of the field a refusal is to name.

    Returns:
        East and north [m].

    Raises:
        BadInput: If it is no place or several.
    """
    corners = understand_route(text, units=units, field=field)
    if len(corners) != 1:
        raise BadInput("no_single_place", field=field, text=text)
    return corners[0]


def coordinate(text: str, *, units: Units, field: str) -> float:
    """Return a coordinate, which may lie below zero.

    Args:
        text: What was typed.
        units: The user's system of units.
        field: Name of the field a refusal is to name.

    Returns:
        Coordinate [m].

    Raises:
        BadInput: If it is no length.
    """
    clean = text.strip().replace("−", "-")
    negative = clean.startswith("-")
    value = understand(clean.lstrip("+-").strip(), quantity="distance", units=units, field=field).value
    return -value if negative else value


def _bearing(text: str, field: str) -> float:
    clean = text.strip().lower().replace("°", "").replace("degrees", "").replace("deg", "").strip()
    if clean in _POINTS:
        return _POINTS[clean]
    try:
        value = float(clean)
    except ValueError:
        raise BadInput("no_bearing", field=field, text=text.strip()) from None
    if not 0 <= value <= 360:
        raise BadInput("bearing_out", field=field, degrees=value)
    return value


def show_route(corners: Sequence[Xy], *, units: Units) -> str:
    """Return corners as text that `understand_route` reads back, to the centimetre.

    Args:
        corners: East and north of each corner [m].
        units: The user's system of units.

    Returns:
        The text.
    """
    per = 1.0 if units == "metric" else FOOT_M
    return "; ".join(f"{_trim(x / per)}, {_trim(y / per)}" for x, y in corners)


def _trim(value: float) -> str:
    return f"{round(value, 2) + 0.0:g}" if abs(value) < 1e4 else f"{value:.2f}"
