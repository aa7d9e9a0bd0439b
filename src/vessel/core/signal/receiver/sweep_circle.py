"""Where routes meet a circle on the ground."""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Floats


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
