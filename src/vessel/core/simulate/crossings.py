"""Where lines of a plan cross, and whether the depths read on them can both be true."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np

from vessel.core.model.drawn_line import Drawn
from vessel.core.model.network import Bond
from vessel.core.signal.layout.closest_approach import bonded_there, closest

_READ_WITHIN_M = 6.0
"""A depth read further from the crossing than this says nothing about it [m]."""
_LEAST_SOIL_M = 0.1


@dataclass(frozen=True)
class Crossing:
    """Two lines (numbers among those drawn) that cross, where along each [m], and the depth read near there [m]."""

    first: int
    second: int
    first_m: float
    second_m: float
    first_depth_m: float | None
    second_depth_m: float | None

    @property
    def both_read(self) -> bool:
        """Whether a depth was read near it on both lines."""
        return self.first_depth_m is not None and self.second_depth_m is not None

    @property
    def contradicts(self) -> bool:
        """Whether both depths were read and put the two lines into each other."""
        a, b = self.first_depth_m, self.second_depth_m
        return a is not None and b is not None and abs(a - b) < _LEAST_SOIL_M


def crossings(
    drawn: Sequence[Drawn], depths: Mapping[int, Sequence[tuple[float, float]]], bonds: Sequence[Bond] = ()
) -> tuple[Crossing, ...]:
    """Return the places where lines cross.

    Lines that a bond or a tee joins meet there and do not cross.

    Args:
        drawn: Lines as drawn.
        depths: By index of a line: distance along it and depth read there [m].
        bonds: Bonds and tees between lines.

    Returns:
        Crossings with both depths.
    """
    found = []
    for (i, a), (k, b) in combinations(enumerate(drawn), 2):
        for at_a, at_b in _crossing_places(a, b):
            if bonded_there(bonds, a, b, at_a, at_b):
                continue
            found.append(with_depths(Crossing(i, k, at_a, at_b, None, None), depths))
    return tuple(found)


def with_depths(c: Crossing, depths: Mapping[int, Sequence[tuple[float, float]]]) -> Crossing:
    """Return a crossing with the depths read near it.

    Args:
        c: The crossing.
        depths: By index of a line: distance along it and depth read there [m].

    Returns:
        The same place with both depths, None where none was read near it.
    """
    first, second = _near(depths.get(c.first, ()), c.first_m), _near(depths.get(c.second, ()), c.second_m)
    return replace(c, first_depth_m=first, second_depth_m=second)


def _crossing_places(a: Drawn, b: Drawn) -> list[tuple[float, float]]:
    """Distances along both [m] at which their routes cross in plan."""
    found: list[tuple[float, float]] = []
    for i in range(len(a.corners) - 1):
        for k in range(len(b.corners) - 1):
            legs = [(np.array(d.corners[n]), np.array(d.corners[n + 1])) for d, n in ((a, i), (b, k))]
            apart, s, t = closest(*legs)
            if apart < 1e-6:
                at = [
                    float(d.corner_distances_m[n] + share * np.linalg.norm(leg[1] - leg[0]))
                    for d, n, share, leg in zip((a, b), (i, k), (s, t), legs, strict=True)
                ]
                # a corner on the other line is met by both of its legs
                if not any(abs(at[0] - x) < 1e-6 for x, _ in found):
                    found.append((at[0], at[1]))
    return found


def _near(read: Sequence[tuple[float, float]], at_m: float) -> float | None:
    within = [(abs(x - at_m), depth) for x, depth in read if abs(x - at_m) <= _READ_WITHIN_M]
    return min(within)[1] if within else None
