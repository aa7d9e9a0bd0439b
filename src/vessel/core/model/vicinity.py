"""Which of many lines on a plan a line is computed with.

A site circuit grows with the square of what is in it. On a large plan a line is computed with what it is bonded to and
with what runs closest to it; what lies further off takes little of its signal and is left out.
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np
import shapely

from vessel.core.model.drawn_line import Drawn
from vessel.core.model.site_plan import SitePlan

MOST_TOGETHER = 24
"""Things of metal that one circuit holds at most."""
MOST_SHARING = 16
"""Things of metal up to which all lines of a plan are planned in one circuit: beyond, that takes over a gigabyte."""
MOST_DRAWN = 60
"""Lines and structures that one plan holds: every one more is laid clear of all others."""
_MOST_BONDED = 16
_EVERY_M, _CLOSE_M = 2.0, 1.0


def share_one(plan: SitePlan) -> bool:
    """Return whether all lines of a plan are planned in one circuit.

    Args:
        plan: The site plan.

    Returns:
        True unless there is too much metal on it: then each line has a circuit of its own.
    """
    return _metal(plan) <= MOST_SHARING


def all_in_one(plan: SitePlan) -> bool:
    """Return whether a line is computed with everything on its plan.

    Args:
        plan: The site plan.

    Returns:
        True unless there is more metal on it than one circuit holds.
    """
    return _metal(plan) <= MOST_TOGETHER


def _metal(plan: SitePlan) -> int:
    return sum(d.construction is not None for d in plan.drawn)


@lru_cache(maxsize=256)
def vicinity(plan: SitePlan, own: int) -> frozenset[int]:
    """Return what a line is computed with: what it is bonded to, and what runs closest to any of those.

    Closeness is the mean over a line of 1 / (1 + d / 1 m)^2, d the distance from there: what runs along it counts for
    more than what crosses it.

    Args:
        plan: The site plan.
        own: Index of the line among what is drawn.

    Returns:
        Indices of what is drawn, itself among them.
    """
    everything = range(len(plan.drawn))
    if all_in_one(plan):
        return frozenset(everything)
    found = _bonded(plan, own)[:_MOST_BONDED]
    points = [_along(plan.drawn[k]) for k in found]
    others = [k for k in everything if k not in found and plan.drawn[k].construction is not None]
    close = [max(_closeness(each, plan.drawn[k]) for each in points) for k in others]
    nearest = [others[k] for k in np.argsort(close, kind="stable")[::-1]]
    return frozenset([*found, *nearest[: MOST_TOGETHER - len(found)]])


def _along(d: Drawn) -> Any:
    return shapely.points(d.places(np.arange(0.0, d.length_m + _EVERY_M, _EVERY_M).clip(max=d.length_m)))


def _closeness(points: Any, other: Drawn) -> float:
    off_m = shapely.distance(points, shapely.linestrings(other.corners_m))
    return float(np.mean((1 + off_m / _CLOSE_M) ** -2))


def _bonded(plan: SitePlan, own: int) -> list[int]:
    """The line and what it is bonded to, directly first."""
    index = {d.name: k for k, d in enumerate(plan.drawn)}
    found = [own]
    for k in found:  # grows while it is walked
        here = plan.drawn[k].name
        for bond in plan.bonds:
            if here in (bond.a, bond.b):
                other = index[bond.b if bond.a == here else bond.a]
                if other not in found:
                    found.append(other)
    return found
