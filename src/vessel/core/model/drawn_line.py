"""A line and an area as drawn on a plan: corners, distances along, places and directions.

East and north in metres from the plan's own origin.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely

from vessel.core.base.arrays import Floats, Mask
from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.construction import Construction
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.network import MAX_LEGS, MIN_LEG_M

Xy = tuple[float, float]
FURTHEST_M = 20_000.0
"""Nothing on a plan may lie further than this from its origin [m]: it would be another coordinate system."""
SNAP_M = 1.0
"""A line that passes an access point closer than this can be reached there [m]."""
_THERE_M = 0.005
_STEP_M = 0.25  # how finely a line is cut by an area's edge


def check_corners(corners: Sequence[Xy], *, what: str, field: str, least: int = 2) -> None:
    """Check corners of a route or outline.

    Args:
        corners: East and north of each corner [m].
        what: What they belong to, for the message.
        field: Name of the field a refusal is to name.
        least: Least number of corners.

    Raises:
        BadInput: If there are too few or too many, one is no place, or one is far outside any site.
    """
    if not least <= len(corners) <= MAX_LEGS + 1:
        raise BadInput("corner_count", field=field, name=what, count=len(corners), least=least, most=MAX_LEGS + 1)
    at = np.asarray(corners, dtype=float)
    if not np.isfinite(at).all() or np.abs(at).max() > FURTHEST_M:
        raise BadInput("outside_site", field=field, name=what, furthest_m=FURTHEST_M)
    short = np.flatnonzero(np.hypot(*np.diff(at, axis=0).T) < MIN_LEG_M)
    if len(short):
        raise BadInput("leg_without_length", field=field, leg=short[0] + 1, name=what, least_m=MIN_LEG_M)


def length_m(corners: Sequence[Xy]) -> float:
    """Return the length of a route.

    Args:
        corners: East and north of each corner [m].

    Returns:
        Length [m].
    """
    return float(np.hypot(*np.diff(np.asarray(corners, dtype=float).reshape(-1, 2), axis=0).T).sum())


def nearest_on(corners_m: Floats, along_m: Floats, places_m: Floats) -> tuple[Floats, Floats, Floats]:
    """Return the point of a route nearest to each of several places.

    Only east and north count for what is near.

    Args:
        corners_m: Corners of the route, shape (k, d) [m].
        along_m: Distance of each corner along it, shape (k,) [m].
        places_m: Places, shape (n, 2) [m].

    Returns:
        Distance along (n,), distance off on the ground (n,) and the point (n, d) [m].
    """
    route, places = shapely.linestrings(corners_m[:, :2]), shapely.points(places_m)
    flat_m = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(corners_m[:, :2], axis=0).T))])
    at = shapely.line_locate_point(route, places)
    nearest = np.stack([np.interp(at, flat_m, each) for each in corners_m.T], axis=1)
    return np.interp(at, flat_m, along_m), shapely.distance(route, places), nearest


def snapped(corners: Sequence[Xy], points: Sequence[tuple[str, Xy]]) -> tuple[tuple[Xy, ...], list[str]]:
    """Return corners moved onto named points that are close.

    Args:
        corners: East and north of each corner [m].
        points: Name and place of each point [m].

    Returns:
        The corners, those within `SNAP_M` moved, and the names of the points they moved to.
    """
    found, names = list[Xy](), list[str]()
    for corner in corners:
        name, at = min(points, key=lambda p: np.hypot(*np.subtract(p[1], corner)), default=("", corner))
        off = float(np.hypot(*np.subtract(at, corner)))
        # a point that has its corner already keeps that one
        if _THERE_M < off <= SNAP_M and at not in found:
            found.append(at)
            names.append(name)
        else:
            found.append(corner)
    return tuple(found), names


@dataclass(frozen=True)
class Area:
    """A patch of ground inside its `corners`; `name` says what it is."""

    name: str
    corners: tuple[Xy, ...]

    def __post_init__(self) -> None:
        check_corners(self.corners, what=self.name, field="corners", least=3)

    def holds(self, places_m: Floats) -> Mask:
        """Return which places lie inside.

        Args:
            places_m: Places, shape (n, 2) [m].

        Returns:
            Which lie inside or on the outline, shape (n,).
        """
        return np.asarray(shapely.intersects_xy(self._outline, places_m[:, 0], places_m[:, 1]))

    @cached_property
    def _outline(self) -> shapely.Polygon:
        outline = shapely.Polygon(self.corners)
        shapely.prepare(outline)
        return outline


@dataclass(frozen=True)
class Drawn:
    """A line, or a structure that takes signal, along `corners` [m], `depth_min_m` to `depth_max_m` deep [m].

    `construction` None: no metal. `earths`: (distance along it [m], resistance [ohm]) of earths bonded on the way.
    `solenoids`: (distance [m], resistance [ohm], inductance [H]) of coils that its current goes through.
    """

    name: str
    construction: Construction | None
    corners: tuple[Xy, ...]
    depth_min_m: float
    depth_max_m: float
    start: FarEnd = OPEN_END
    end: FarEnd = OPEN_END
    earths: tuple[tuple[float, float], ...] = ()
    solenoids: tuple[tuple[float, float, float], ...] = ()

    def __post_init__(self) -> None:
        check_corners(self.corners, what=self.name, field="route")
        for depth in (self.depth_min_m, self.depth_max_m):
            require_range(depth, low=0.05, high=15.0, field="depth_m", name=f"Depth of {self.name}", unit="m")
        for at_m, _ in self.earths:
            require_range(at_m, low=0, high=self.length_m, field="earths", name="Place of an earth", unit="m")

    @cached_property
    def corners_m(self) -> Floats:
        """Corners (k, 2) [m]."""
        return np.asarray(self.corners, dtype=float)

    @cached_property
    def corner_distances_m(self) -> Floats:
        """Distance of each corner along it (k,) [m]."""
        return np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(self.corners_m, axis=0).T))])

    @property
    def length_m(self) -> float:
        """Length on the ground [m]."""
        return float(self.corner_distances_m[-1])

    def depth_m(self, *, deepest: bool) -> float:
        """Return the depth to compute with.

        Args:
            deepest: Whether to take the greatest expected depth; otherwise the middle.

        Returns:
            Depth [m].
        """
        return self.depth_max_m if deepest else 0.5 * (self.depth_min_m + self.depth_max_m)

    def wanted_m(self, area: Area | None, length_m: float) -> tuple[tuple[float, float], ...]:
        """Return the stretches to be located: those in the dig area; the whole line without one.

        Args:
            area: The dig area.
            length_m: Length of the line [m], which may end before its route does.

        Returns:
            From and to of each [m].
        """
        if area is None:
            return ((0.0, length_m),)
        return tuple((a, min(b, length_m)) for a, b in self.inside(area) if a < length_m)

    def places(self, distances_m: Floats) -> Floats:
        """Return places along the route.

        Args:
            distances_m: Distances along it, shape (n,) [m]; beyond an end its leg goes on straight.

        Returns:
            Places, shape (n, 2) [m].
        """
        s, c = np.asarray(distances_m, dtype=float), self.corner_distances_m
        leg = np.clip(np.searchsorted(c, s, side="right") - 1, 0, len(c) - 2)
        share = (s - c[leg]) / (c[leg + 1] - c[leg])
        return np.asarray(self.corners_m[leg] + share[:, None] * (self.corners_m[leg + 1] - self.corners_m[leg]))

    def nearest(self, place: Xy) -> tuple[float, float]:
        """Return the point of the route nearest to a place.

        Args:
            place: East and north [m].

        Returns:
            Distance along the route and distance off it [m].
        """
        along, off, _ = nearest_on(self.corners_m, self.corner_distances_m, np.array([place]))
        return float(along[0]), float(off[0])

    def upto(self, length_m: float) -> tuple[Xy, ...]:
        """Return the first part of the route.

        Args:
            length_m: Its length [m]; past the end the last leg goes on straight.

        Returns:
            Its corners [m].
        """
        kept = [i for i, s in enumerate(self.corner_distances_m[:-1]) if s < length_m - MIN_LEG_M]
        end = self.places(np.array([length_m]))[0]
        return (*(self.corners[i] for i in kept), (float(end[0]), float(end[1])))

    def between(self, from_m: float, to_m: float) -> tuple[Xy, ...]:
        """Return a stretch of the route.

        Args:
            from_m: Distance where it begins [m].
            to_m: Distance where it ends [m].

        Returns:
            Its corners [m].
        """
        inner = [s for s in self.corner_distances_m if from_m < s < to_m]
        return tuple((float(x), float(y)) for x, y in self.places(np.array([from_m, *inner, to_m])))

    def inside(self, area: Area) -> tuple[tuple[float, float], ...]:
        """Return the stretches of the route inside an area.

        Args:
            area: A patch of ground.

        Returns:
            From and to of each stretch [m].
        """
        n = max(2, int(np.ceil(self.length_m / _STEP_M)))
        edges = np.linspace(0, self.length_m, n + 1)
        held = np.concatenate([[False], area.holds(self.places(0.5 * (edges[1:] + edges[:-1]))), [False]])
        turns = np.flatnonzero(held[1:] != held[:-1])
        return tuple((float(edges[a]), float(edges[b])) for a, b in zip(turns[::2], turns[1::2], strict=True))


def left_of(route: Drawn, at_m: Floats) -> Floats:
    """Return the direction to the left of a route.

    Args:
        route: The route.
        at_m: Distances along it, shape (n,) [m].

    Returns:
        Unit vectors to the left of the leg that runs on from each, shape (n, 2).
    """
    legs = np.diff(route.corners_m, axis=0)
    unit = legs / np.hypot(*legs.T)[:, None]
    leg = np.clip(np.searchsorted(route.corner_distances_m, at_m, side="right") - 1, 0, len(legs) - 1)
    return np.column_stack([-unit[leg, 1], unit[leg, 0]])
