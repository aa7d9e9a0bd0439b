"""What runs beside a line, and where a look aside from its stations meets it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.model.drawn_line import Drawn, nearest_on
from vessel.core.model.line import Line
from vessel.core.model.network import Site, SiteLine
from vessel.core.model.vicinity import vicinity
from vessel.core.signal.layout.line_on_site import target_of

LOOK_ASIDE_M = 15.0
"""How far to either side of the line other lines are looked for when a station is taken [m]."""
_PAST_END_M = 2.0


@dataclass(frozen=True)
class Beside:
    """Another line of the site, near enough to be met when looking aside: its name and index.

    `offset_m`: how far to the left it runs, right below zero, where it is nearest [m]; `follows`: told as parallel.
    """

    name: str
    index: int
    offset_m: float
    follows: bool


@lru_cache(maxsize=64)  # asked for with every option of a plan
def lines_beside(line: Line) -> tuple[Beside, ...]:
    """Return the neighbours of a line.

    Args:
        line: The line to locate.

    Returns:
        What is entered beside it, or drawn within `LOOK_ASIDE_M` of it, and carries signal there: on a large plan only
        what runs closest does (`vicinity`).
    """
    if line.course is None:
        return tuple(Beside(n.name, 1 + k, n.offset_m, True) for k, n in enumerate(line.neighbours))
    own, found = line.course.drawn, []
    near = vicinity(line.course.plan, line.course.own)
    along = own.places(np.linspace(0, own.length_m, max(2, int(own.length_m))))
    for i, d in enumerate(line.course.plan.drawn):
        if i == line.course.own or i not in near or d.construction is None:
            continue
        _, off, at = off_line(d, along)
        k = int(off.argmin())
        if off[k] < LOOK_ASIDE_M:
            aside = at[k] - along[k]
            run = along[min(k + 1, len(along) - 1)] - along[max(k - 1, 0)]
            left = run[0] * aside[1] - run[1] * aside[0] >= 0
            found.append(Beside(d.name, i, float(off[k] if left else -off[k]), False))
    return tuple(found)


@dataclass(frozen=True, eq=False)
class Aside:
    """A look aside from stations (n,): where along another line it is met (n,) [m], and whether it is (n,)."""

    beside: Beside
    along_m: Floats
    met: Mask


def look_aside(line: Line, site: Site, x_m: Floats) -> tuple[Aside, ...]:
    """Return how each neighbour is met from the stations of a line.

    It is not met where it has ended, or where it runs further off than a look aside goes.

    Args:
        line: The line to locate.
        site: Lines, bonds and soil.
        x_m: Distances of the stations along the line, shape (n,) [m].

    Returns:
        One for each neighbour.
    """
    own, found = site.lines[target_of(line)], []
    here, run = own.places(x_m)[:, :2], own.headings(x_m)
    for b in lines_beside(line):
        other = site.lines[b.index]
        along, off, at = off_line(other, here)
        past = np.abs(((at - here) * run).sum(1))
        ended = ((along <= 0) | (along >= other.length_m - 1e-6)) & (past > 1e-6)
        # what was entered beside a straight line is looked for however far off it is
        met = ~ended if b.follows else (off < LOOK_ASIDE_M) & (~ended | (past < _PAST_END_M))
        found.append(Aside(b, along, met))
    return tuple(found)


def off_line(d: Drawn | SiteLine, places_m: Floats) -> tuple[Floats, Floats, Floats]:
    """Return the point of a line nearest to each place.

    Args:
        d: The line.
        places_m: Places, shape (n, 2) [m].

    Returns:
        Distance along (n,), distance off (n,) and the point (n, 2) [m].
    """
    return nearest_on(d.corners_m[:, :2], d.corner_distances_m, places_m)
