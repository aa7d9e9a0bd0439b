"""Where routes meet a circle on the ground, and the horizontal field all round it."""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.magnetic_field import axis_fields

_AXES = (np.array([1.0, 0.0, 0.0]), np.array([0.0, 1.0, 0.0]))


def met_by(corners_m: Floats, centre_m: Floats, radius_m: float) -> Floats:
    """Return where a route meets the circle.

    Args:
        corners_m: Corners of the route, shape (k, 2) [m].
        centre_m: Centre of the circle, shape (2,) [m].
        radius_m: Its radius [m].

    Returns:
        Distances along the route [m].
    """
    start, run = corners_m[:-1] - centre_m, np.diff(corners_m, axis=0)
    lengths = np.hypot(*run.T)
    before = np.concatenate([[0.0], np.cumsum(lengths)[:-1]])
    a, b, c = (run * run).sum(1), 2 * (start * run).sum(1), (start * start).sum(1) - radius_m**2
    inside = b * b - 4 * a * c
    root = np.sqrt(np.maximum(inside, 0.0))
    found = []
    for share in ((-b - root) / (2 * a), (-b + root) / (2 * a)):
        on = (inside > 0) & (share >= 0) & (share <= 1)
        found.append((before + share * lengths)[on])
    return np.unique(np.round(np.concatenate(found), 6))


def on_circle(centre_m: Floats, radius_m: float, bearings_deg: Floats, *, zero: Floats) -> Floats:
    """Return places on the circle.

    Args:
        centre_m: Centre, shape (2,) [m].
        radius_m: Radius [m].
        bearings_deg: Bearings clockwise from `zero`, shape (n,) [deg].
        zero: Unit vector of bearing 0, shape (2,).

    Returns:
        Places, shape (n, 2) [m].
    """
    turn = np.radians(bearings_deg)[:, None]
    right = np.array([zero[1], -zero[0]])
    return np.asarray(centre_m + radius_m * (np.cos(turn) * zero + np.sin(turn) * right))


def bearing_of(places_m: Floats, centre_m: Floats, *, zero: Floats) -> Floats:
    """Return the bearings of places: the reverse of `on_circle`.

    Args:
        places_m: Places, shape (n, 2) [m].
        centre_m: Centre, shape (2,) [m].
        zero: Unit vector of bearing 0, shape (2,).

    Returns:
        Bearings, 0 to 360, shape (n,) [deg].
    """
    off = places_m - centre_m
    right = np.array([zero[1], -zero[0]])
    return np.asarray(np.degrees(np.arctan2(off @ right, off @ zero)) % 360.0)


def horizontal_field(points_m: Floats, segments: Segments, into: Complex, out: Complex) -> Complex:
    """Return the horizontal field phasor of a site's currents.

    Args:
        points_m: Points, shape (n, 3) [m].
        segments: s straight pieces of conductor.
        into: Currents at the segments' starts, shape (s,) [A].
        out: Currents at their ends, shape (s,) [A].

    Returns:
        East and north, shape (n, 2) [T].
    """
    axes = [np.tile(axis, (len(points_m), 1)) for axis in _AXES]
    each = axis_fields(points_m, axes, segments.start_m, segments.end_m)
    return np.column_stack([at_start @ into + at_end @ out for at_start, at_end in each])


def turned_for_best(field_t: Complex) -> tuple[Floats, Floats]:
    """Return the strongest response of coils turned in the horizontal.

    The major half-axis of the ellipse that the phasors draw; the heading lies to the right of the coils' axis.

    Args:
        field_t: Horizontal field phasors, shape (n, 2) [T].

    Returns:
        Response (n,) [T] and the heading (n, 2) that gives it.
    """
    x, y = field_t[:, 0], field_t[:, 1]
    sum2, difference2 = np.abs(x) ** 2 + np.abs(y) ** 2, np.abs(x) ** 2 - np.abs(y) ** 2
    both = 2 * (x * np.conj(y)).real
    turn = 0.5 * np.arctan2(both, difference2)
    strongest = np.sqrt(0.5 * (sum2 + np.hypot(difference2, both)))
    return strongest, np.column_stack([np.sin(turn), -np.cos(turn)])
