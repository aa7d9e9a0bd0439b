"""Where a station is on the plan: by two tapes, square off a baseline, or at a given place.

Left and right of a way from one point to another are as seen when walking it.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Drawn, Xy

Side = Literal["left", "right"]
TAPE_M = 0.05
"""What a tape over rough ground leaves uncertain [m]."""
FAR_OFF_M = 15.0
"""A place further off a line as drawn than this is a slip, not a station [m]."""
MOST_OFFSET_M = 15.0
"""Paint further off a line than this is not measured back [m]."""
_ASTRAY_M = 2.0
_SLACK_M = 0.15  # tapes that miss each other by less are taken to meet between their points
_APART_M = 0.5
COMPASS = ("N", "NE", "E", "SE", "S", "SW", "W", "NW")
"""Eight compass points, clockwise from north."""


@dataclass(frozen=True)
class Fix:
    """A place on the plan and how far off it may be [m]."""

    at: Xy
    pm_m: float


def by_tapes(a: Xy, b: Xy, *, from_a_m: float, from_b_m: float, side: Side) -> Fix:
    """Return the place that two tapes fix.

    Args:
        a: East and north of the first point [m].
        b: East and north of the second point [m].
        from_a_m: Distance from the first [m].
        from_b_m: Distance from the second [m].
        side: Side of the way from the first to the second.

    Returns:
        The place and its range.

    Raises:
        BadInput: If the tapes do not meet.
    """
    base = _base(a, b)
    along = (base**2 + from_a_m**2 - from_b_m**2) / (2 * base)
    square = from_a_m**2 - along**2
    if square < 0:
        together = from_a_m + from_b_m < base
        missing = base - from_a_m - from_b_m if together else abs(from_a_m - from_b_m) - base
        if missing > _SLACK_M:
            raise BadInput(
                "tapes_too_short" if together else "tapes_too_unlike",
                field="second_tape",
                missing_m=missing,
                apart_m=base,
            )
    off = sqrt(max(square, 0.0))
    # tapes that meet flat tell little across them: the sine of the angle between them
    sine = base * off / max(from_a_m * from_b_m, 1e-9)
    pm_m = TAPE_M / max(sine, TAPE_M / max(from_a_m, from_b_m, TAPE_M))
    return Fix(_from(a, b, along, off if side == "left" else -off), pm_m)


def by_baseline(a: Xy, b: Xy, *, along_m: float, off_m: float, side: Side) -> Fix:
    """Return the place that is so far along a baseline and so far off it.

    Args:
        a: East and north of the point measured from [m].
        b: East and north of the point measured towards [m].
        along_m: Distance along the baseline [m].
        off_m: Distance square off it [m].
        side: Side of the way from the first to the second.

    Returns:
        The place and its range.

    Raises:
        BadInput: If the two points are the same.
    """
    _base(a, b)
    return Fix(_from(a, b, along_m, off_m if side == "left" else -off_m), TAPE_M + 0.02 * off_m)  # squared by eye


def on_line(drawn: Drawn, at: Xy) -> tuple[float, float]:
    """Return where a place is, seen from a line.

    Args:
        drawn: A line as drawn on the plan.
        at: East and north [m].

    Returns:
        Distance along the line, and distance to the left of it, below zero to the right [m].
    """
    along, off = drawn.nearest(at)
    x, y = _run(drawn, along)
    here = drawn.places(np.array([along]))[0]
    return along, off if x * (at[1] - here[1]) - y * (at[0] - here[0]) >= 0 else -off


def astray(off_m: float, pm_m: float) -> bool:
    """Return whether a place puts line or drawing in doubt.

    Args:
        off_m: Distance off the line as drawn [m].
        pm_m: How well the place is known [m].

    Returns:
        True if it does.
    """
    return abs(off_m) > _ASTRAY_M + pm_m


def painted_at(drawn: Drawn, distance_m: float, at: Xy | None, painted_off_m: float) -> Xy:
    """Return where the paint of a mark is.

    Args:
        drawn: A line as drawn on the plan.
        distance_m: Distance of the station along the line [m].
        at: East and north of the station if it was placed [m]; None: on the line as drawn.
        painted_off_m: Distance of the paint to the left of it, below zero to the right [m].

    Returns:
        East and north [m].
    """
    x, y = drawn.places(np.array([distance_m]))[0] if at is None else at
    run_x, run_y = _run(drawn, distance_m)
    return float(x - painted_off_m * run_y), float(y + painted_off_m * run_x)


def way_back(drawn: Drawn, distance_m: float, painted_off_m: float) -> str:
    """Return the compass point from the paint back to the line.

    Args:
        drawn: A line as drawn on the plan.
        distance_m: Distance of the station along the line [m].
        painted_off_m: Distance of the paint to the left of it, below zero to the right [m].

    Returns:
        One of eight compass points.
    """
    x, y = np.sign(painted_off_m) * _run(drawn, distance_m)
    # a quarter turn to the right of the way along, from paint on its left
    bearing = np.degrees(np.arctan2(y, -x)) % 360
    return COMPASS[int(np.round(bearing / 45)) % 8]


def beyond(point: Xy, away_m: float, towards: str) -> Xy:
    """Return the place so far from a point in one direction.

    Args:
        point: East and north [m].
        away_m: Distance [m].
        towards: One of eight compass points.

    Returns:
        East and north [m].

    Raises:
        BadInput: If it is no compass point.
    """
    if towards not in COMPASS:
        raise BadInput("no_compass_point", field="towards", text=towards)
    turn = np.pi / 4 * COMPASS.index(towards)
    return float(point[0] + away_m * np.sin(turn)), float(point[1] + away_m * np.cos(turn))


def _run(drawn: Drawn, distance_m: float) -> Floats:
    """Direction (2,) in which a line runs there."""
    ahead, back = drawn.places(np.array([distance_m + 0.1, distance_m - 0.1]))
    return np.asarray((ahead - back) / np.linalg.norm(ahead - back))


def _base(a: Xy, b: Xy) -> float:
    base = hypot(b[0] - a[0], b[1] - a[1])
    if base < _APART_M:
        raise BadInput("points_the_same", field="second_at")
    return base


def _from(a: Xy, b: Xy, along_m: float, left_m: float) -> Xy:
    base = hypot(b[0] - a[0], b[1] - a[1])
    x, y = (b[0] - a[0]) / base, (b[1] - a[1]) / base
    return a[0] + along_m * x - left_m * y, a[1] + along_m * y + left_m * x
