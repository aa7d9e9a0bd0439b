"""What the first sweep says of lines beside the one that is followed: a look aside on the circle."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.hookup.expected_sweep import Circle
from vessel.core.judge.rivals.rival_sites import NEAR_M
from vessel.core.model.first_sweep import Candidate, turn_deg
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading
from vessel.core.signal.receiver.sweep_circle import bearing_of, met_by

_ITS_OWN_DEG = 60.0  # further off than this the centre line followed is not where the line leaves the circle


def circle_look(line: Line, circle: Circle, met: Sequence[Candidate], target: int | None) -> StationReading | None:
    """Return the centre line that was taken for the line, as a station on the circle with a look aside.

    Whoever walked the circle logged what crosses it: where nothing else was logged near, nothing is there.

    Args:
        line: The line to locate.
        circle: The circle that was walked.
        met: Centre lines logged on it.
        target: Which of them was taken for the line; None: none.

    Returns:
        Its place along the line, current, depth and the most current of another beside it; None where the sweep does
        not tell.
    """
    own = None if target is None else met[target]
    at_m = None if own is None else _along_m(line, circle, own.bearing_deg)
    if own is None or own.current_a is None or at_m is None:
        return None
    beside = [c.current_a for k, c in enumerate(met) if k != target and _apart_m(circle, c, own) < NEAR_M]
    if None in beside:  # met, and not read
        return None
    most = max((amps for amps in beside if amps is not None), default=0.0)
    depth = line.mid_depth_m if own.depth_m is None else own.depth_m
    return StationReading(at_m, (own.current_a,), depth, neighbour_a=most)


def _along_m(line: Line, circle: Circle, bearing_deg: float) -> float | None:
    """Where along the line it leaves the circle nearest to a bearing [m]; None where it does not that way."""
    drawn = line.course.drawn if line.course is not None else None
    route = np.array([(0.0, 0.0), (line.length_m, 0.0)]) if drawn is None else drawn.corners_m
    along = met_by(route, circle.centre_m, circle.radius_m)
    if not len(along):
        return None
    places = np.column_stack([along, np.zeros(len(along))]) if drawn is None else drawn.places(along)
    bearings = bearing_of(places, circle.centre_m, zero=circle.zero).tolist()
    at_m, off = min(zip(along.tolist(), (turn_deg(b, bearing_deg) for b in bearings), strict=True), key=lambda x: x[1])
    return float(at_m) if off < _ITS_OWN_DEG else None


def _apart_m(circle: Circle, a: Candidate, b: Candidate) -> float:
    """How far apart two centre lines cross the circle [m]."""
    return float(2 * circle.radius_m * np.sin(np.radians(turn_deg(a.bearing_deg, b.bearing_deg)) / 2))
