"""The stations that represent a line, and how far they are from its ends and hookup."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.line import Line

_NEAR_M = (0.5, 1.5, 2.5, 4.0, 6.0, 9.0, 13.0, 18.0)
_ROUND_ACCESS_M = (1.5, 4.0)
_CLOSEST_M, _MOST_INNER = 1.5, 32  # stations on the way: no closer than anybody takes them, and no more than these


def end_distance(line: Line, hookup_m: Any, at_m: Any) -> Any:
    """Return the distance to the hookup or the nearer end.

    Args:
        line: The line to locate.
        hookup_m: Distance of the hookup along the line [m].
        at_m: Distances along the line, any shape [m].

    Returns:
        Distance, of the same shape [m].
    """
    ends = np.minimum(np.abs(at_m), np.abs(line.length_m - at_m))
    return np.minimum(np.abs(at_m - hookup_m), ends)


def station_grid(length_m: float, access_m: Sequence[float] = ()) -> tuple[Floats, Floats]:
    """Return the stations that represent a line.

    Denser at both ends and round the access points on the way.

    Args:
        length_m: Length of the line [m].
        access_m: Distances of access points along it [m].

    Returns:
        Stations (n,) [m] and the edges (n + 1,) [m] of the stretches they represent.
    """
    near = [d for d in _NEAR_M if d < 0.4 * length_m]
    inner = np.linspace(0, length_m, int(np.clip(length_m / _CLOSEST_M + 2, 4, _MOST_INNER)))[1:-1]
    inner = inner[(inner > max(near)) & (inner < length_m - max(near))]
    round_access = [a + s * d for a in access_m for d in _ROUND_ACCESS_M for s in (-1, 1)]
    extra = [x for x in round_access if max(near) < x < length_m - max(near)]
    points = np.unique(np.concatenate([near, inner, extra, length_m - np.array(near)]))
    edges = np.concatenate([[0.0], 0.5 * (points[1:] + points[:-1]), [length_m]])
    return points, edges
