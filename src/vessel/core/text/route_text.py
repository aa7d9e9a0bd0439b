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


_COMPASS = re.compile(r"(?P<length>.+?)\s*\b(?P<way>east|west|north|south|e|w|n|s)", re.IGNORECASE)
_AXES = {"e": ("east", 1.0), "w": ("east", -1.0), "n": ("north", 1.0), "s": ("north", -1.0)}


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
            corners.append(_place(place["east"], place["north"], units=units, field=field))
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


def _place(first: str, second: str, *, units: Units, field: str) -> Xy:
    """East and north: `12.5 E, 3 S`, `3 S, 12.5 E` or `12.5, -3`."""
    found: dict[str, float] = {}
    for text, usual in ((first, "east"), (second, "north")):
        said = _COMPASS.fullmatch(text.strip())
        axis, sign = _AXES[said["way"][0].lower()] if said else (usual, 1.0)
        found[axis] = sign * coordinate(said["length"] if said else text, units=units, field=field)
    if len(found) < 2:
        raise BadInput("place_one_way", field=field, text=f"{first}, {second}")
    return found["east"], found["north"]


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
    """Return corners as text that `understand_route` reads back, to the centimetre: `12.5 E, 3 S; 0 E, 0 N`.

    Args:
        corners: East and north of each corner [m].
        units: The user's system of units.

    Returns:
        The text.
    """
    per = 1.0 if units == "metric" else FOOT_M
    return "; ".join(f"{_way(x / per, 'E', 'W')}, {_way(y / per, 'N', 'S')}" for x, y in corners)


def _way(value: float, ahead: str, back: str) -> str:
    text = _trim(abs(value))
    return f"{text} {back if value < 0 and text != '0' else ahead}"


def _trim(value: float) -> str:
    return f"{round(value, 2) + 0.0:g}" if abs(value) < 1e4 else f"{value:.2f}"
