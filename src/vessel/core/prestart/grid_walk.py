"""The grid of the passive sweep as strips over the dig area: which are walked, and which comes next.

One pass misses a line that runs along the walk. So the area is walked along its longer side and again across it: the
receiver, held the way one walks, is then turned by 90 degrees.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import shapely

from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Area, Xy
from vessel.core.model.pre_start import Leg, PassiveSweep

WayId = Literal["A", "B"]
WAYS: tuple[WayId, ...] = ("A", "B")
"""Along the longer side of the area, and across it."""
USUAL_SPACING_M = 2.0
"""Distance between walks that is offered where none was chosen [m]."""
MOST_STRIPS = 200
_SAME = 0.3  # what was walked counts for a strip as far aside as this share of the distance between walks


@dataclass(frozen=True)
class Strip:
    """One walk of the grid: `way` and number, from `start` to `end` (east, north [m])."""

    way: WayId
    number: int
    start: Xy
    end: Xy

    @property
    def id(self) -> str:
        """Its name on the plan, such as `A3`."""
        return f"{self.way}{self.number}"

    @property
    def leg(self) -> Leg:
        """Where it starts and ends [m]."""
        return self.start, self.end

    @property
    def length_m(self) -> float:
        """How long the walk is [m]."""
        return float(np.hypot(*np.subtract(self.end, self.start)))


def strips_over(area: Area, spacing_m: float) -> tuple[Strip, ...]:
    """Lay the strips of both ways over an area, each way evenly and no further apart than asked.

    Args:
        area: The dig area.
        spacing_m: Greatest distance between walks [m].

    Returns:
        The strips in the order in which they are walked: there and back, first along the longer side.

    Raises:
        BadInput: If that would be more strips than anyone walks.
    """
    outline = shapely.Polygon(area.corners)
    box = np.asarray(shapely.oriented_envelope(outline).exterior.coords)[:-1]
    sides = np.diff(box[:3], axis=0)
    lengths = np.hypot(*sides.T)
    long = int(np.argmax(lengths))
    counts = [max(1, int(np.ceil(lengths[1 - k] / spacing_m - 1e-9))) for k in (long, 1 - long)]
    if sum(counts) > MOST_STRIPS:
        least = float(lengths.sum() / (MOST_STRIPS - len(WAYS)))
        raise BadInput("strips_too_many", field="spacing", count=sum(counts), least_m=np.ceil(10 * least) / 10)
    middle = box.mean(axis=0)
    found: list[Strip] = []
    for way, k, count in zip(WAYS, (long, 1 - long), counts, strict=True):
        along, aside = (_forward(sides[i] / lengths[i]) for i in (k, 1 - k))
        found += _one_way(way, outline, (middle, along, aside), (float(lengths[k]), float(lengths[1 - k])), count)
    return tuple(found)


def _forward(way: Floats) -> Floats:
    """The direction turned to the east, or north: the same grid whichever corner was drawn first."""
    return way if (round(float(way[0]), 6), float(way[1])) > (0.0, 0.0) else -way


def _one_way(
    way: WayId, outline: shapely.Polygon, axes: tuple[Floats, Floats, Floats], size: tuple[float, float], count: int
) -> Iterable[Strip]:
    middle, along, aside = axes
    length, width = size
    number = 0
    for off in ((np.arange(count) + 0.5) / count - 0.5) * width:
        ends = [middle + off * aside + t * length * along for t in (-0.6, 0.6)]
        inside = shapely.get_coordinates(shapely.intersection(outline, shapely.linestrings(ends)))
        if len(inside) < 2:
            continue
        at = np.sort(inside @ along)[[0, -1]] - float((middle + off * aside) @ along)
        start, end = (middle + off * aside + t * along for t in (at if number % 2 == 0 else at[::-1]))
        number += 1
        yield Strip(way, number, (float(start[0]), float(start[1])), (float(end[0]), float(end[1])))


def walked(strips: Sequence[Strip], legs: Sequence[Leg], spacing_m: float) -> tuple[int | None, ...]:
    """Return which walk covers each strip: from end to end, and hardly aside.

    After the area or the spacing is changed only what was really walked still counts.

    Args:
        strips: The strips.
        legs: What was walked, from and to [m].
        spacing_m: Distance between walks [m].

    Returns:
        For each strip the index of a walk that covers it; None: not walked.
    """
    if not legs or not strips:
        return (None,) * len(strips)
    lines = shapely.linestrings(np.asarray(legs, dtype=float))
    ends = shapely.points(np.asarray([s.leg for s in strips], dtype=float))
    off = shapely.distance(ends[:, :, None], lines).max(axis=1)
    best = off.argmin(axis=1)
    return tuple(int(k) if off[i, k] <= _SAME * spacing_m else None for i, k in enumerate(best))


@dataclass(frozen=True)
class GridWalk:
    """How far the grid is walked: `by` for each strip the index of the walk that covers it, None: not walked.

    Without strips (no dig area, or no distance between walks) only what was ticked as a whole counts.
    """

    strips: tuple[Strip, ...]
    by: tuple[int | None, ...]
    whole: tuple[bool, bool]

    def done(self, way: WayId) -> bool:
        """Return whether one way is walked: ticked as a whole, or strip by strip.

        Args:
            way: The way.

        Returns:
            True if nothing of it is left.
        """
        return self.whole[WAYS.index(way)] or (bool(self.strips) and not self.left(way))

    def left(self, way: WayId) -> tuple[Strip, ...]:
        """Return the strips of one way that no walk covers.

        Args:
            way: The way.

        Returns:
            Strips in order.
        """
        return tuple(s for s, by in zip(self.strips, self.by, strict=True) if s.way == way and by is None)

    def strip(self, strip_id: str) -> Strip:
        """Return a strip by its name.

        Args:
            strip_id: Its name, such as `A3`.

        Returns:
            The strip.

        Raises:
            BadInput: If there are no strips, or none of that name.
        """
        if not self.strips:
            raise BadInput("no_strips", field="spacing")
        found = next((s for s in self.strips if s.id == strip_id), None)
        if found is None:
            raise BadInput("no_such_strip", field="strip_id", name=strip_id)
        return found

    @property
    def next(self) -> Strip | None:
        """The strip to walk next; None: both ways are walked, or there are no strips."""
        left = (s for s, by in zip(self.strips, self.by, strict=True) if by is None and not self.done(s.way))
        return next(left, None)


def grid_walk(passive: PassiveSweep, area: Area | None) -> GridWalk:
    """Return how far the grid of a passive sweep is walked.

    Args:
        passive: The sweep.
        area: The dig area, if one is drawn.

    Returns:
        The strips and what is walked of them.
    """
    strips: tuple[Strip, ...] = ()
    if area is not None and passive.spacing_m is not None:
        try:
            strips = strips_over(area, passive.spacing_m)
        except BadInput:  # the area was drawn larger since: refused where the spacing is set
            strips = ()
    return GridWalk(strips, walked(strips, passive.walked, passive.spacing_m or 0.0), (passive.first, passive.second))
