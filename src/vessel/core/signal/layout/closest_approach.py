"""Where lines come close to each other."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.network import Bond, SiteLine

_BOND_REACH_M = 1.0


def closest(a: tuple[Floats, Floats], b: tuple[Floats, Floats]) -> tuple[float, float, float]:
    """Return the closest approach of two straight pieces.

    Args:
        a: Start and end of one, each of shape (3,) [m].
        b: Start and end of the other.

    Returns:
        Distance [m], share along the first, share along the second.
    """
    (p, p2), (q, q2) = a, b
    u, v, w = p2 - p, q2 - q, p - q
    uu, uv, vv, uw, vw = u @ u, u @ v, v @ v, u @ w, v @ w
    det = uu * vv - uv * uv
    # pieces that run alike come closest at an end: the determinant does not say at which
    starts = [float((uv * vw - vv * uw) / det)] if det > 1e-12 * uu * vv else [0.0, 1.0]
    found = []
    for start in starts:
        t = np.clip((uv * np.clip(start, 0, 1) + vw) / vv, 0, 1)
        s = np.clip((uv * t - uw) / uu, 0, 1)
        found.append((float(np.linalg.norm(w + s * u - t * v)), float(s), float(t)))
    return min(found)


def approaches(a: SiteLine, b: SiteLine, *, limit_m: float) -> list[tuple[float, float, float]]:
    """Return every pair of legs of two lines that come close.

    Args:
        a: One line.
        b: The other.
        limit_m: How close counts [m].

    Returns:
        Distance, distance along the first and along the second of each pair [m].
    """
    (low_a, high_a), (low_b, high_b) = a.leg_boxes_m, b.leg_boxes_m
    touching = ((low_a[:, None] <= high_b + limit_m) & (low_b <= high_a[:, None] + limit_m)).all(2)
    found = []
    for i, k in zip(*np.nonzero(touching), strict=True):
        d, s, t = closest((a.corners_m[i], a.corners_m[i + 1]), (b.corners_m[k], b.corners_m[k + 1]))
        if d < limit_m:
            da, db = a.corner_distances_m, b.corner_distances_m
            found.append((d, float(da[i] + s * (da[i + 1] - da[i])), float(db[k] + t * (db[k + 1] - db[k]))))
    return found


def bonded_there(bonds: Sequence[Bond], a: SiteLine | Drawn, b: SiteLine | Drawn, at_a: float, at_b: float) -> bool:
    """Return whether two lines may touch at a place, since a bond joins them there.

    Args:
        bonds: Bonds and tees between lines.
        a: One line.
        b: The other.
        at_a: Distance along the first [m].
        at_b: Distance along the second [m].

    Returns:
        True if a bond joins them there.
    """
    here = {a.name: at_a, b.name: at_b}
    return any(
        {bond.a, bond.b} == set(here)
        and abs(bond.a_m - here[bond.a]) < _BOND_REACH_M
        and abs(bond.b_m - here[bond.b]) < _BOND_REACH_M
        for bond in bonds
    )
