"""What stands along a line and helps to know where one is: bends, access points, bonds."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from vessel.core.model.line import Line

BEND_DEG = 15.0
"""A route that turns by less is followed without noticing."""


@dataclass(frozen=True)
class Landmark:
    """Something `at_m` along a line [m]; `name` as the crew calls it, empty for a bend, which turns by `turn_deg`."""

    at_m: float
    kind: Literal["bend", "access", "bond", "earth"]
    name: str = ""
    turn_deg: float = 0.0


def landmarks(line: Line) -> tuple[Landmark, ...]:
    """Return what is along a line between its ends.

    Args:
        line: The line to locate.

    Returns:
        Bends, access points, bonds and buried earths, by distance.
    """
    found = [Landmark(a.at_m, "access" if a.point.reached else "earth", a.name) for a in line.accesses]
    if line.course is not None:
        drawn = line.course.drawn
        headings = np.arctan2(*np.diff(drawn.corners_m, axis=0).T)
        turns = np.degrees(np.abs((np.diff(headings) + np.pi) % (2 * np.pi) - np.pi))
        bends = zip(drawn.corner_distances_m[1:-1], turns, strict=True)
        found += [Landmark(float(at), "bend", turn_deg=float(turn)) for at, turn in bends if turn > BEND_DEG]
        for b in line.course.plan.bonds:
            mine = [(b.a_m, b.b)] if b.a == drawn.name else [(b.b_m, b.a)] if b.b == drawn.name else []
            found += [Landmark(at, "bond", f"bond to {other}") for at, other in mine]
    else:
        found += [Landmark(n.bond_m, "bond", f"bond to {n.name}") for n in line.neighbours if n.bond_m is not None]
    return tuple(sorted((f for f in found if 0 < f.at_m < line.length_m), key=lambda f: f.at_m))
