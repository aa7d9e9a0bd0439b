"""What the stops of a sonde run show together: where the head turned a corner, and how the pipe falls."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.judge.sonde.sonde_fit import LIKELY
from vessel.core.judge.sonde.sonde_measures import SondeBatch, ground_gained, rod_spare

_LEAST_M = 2.0  # a shorter way tells no fall


@dataclass(frozen=True)
class Corner:
    """Between `start_m` and `end_m` along the line [m], `rod_m` of rod gained only `ground_m` of ground [m]."""

    start_m: float
    end_m: float
    rod_m: float
    ground_m: float


@dataclass(frozen=True)
class Fall:
    """How the pipe falls the way the rod went [m/m], below zero where it rises; `pm` holds in 95 %.

    `between_m`: from where to where along the line [m]; `count`: how many stops tell it. The ground is taken as level.
    """

    fall: float
    pm: float
    between_m: tuple[float, float]
    count: int


def corners(b: SondeBatch) -> tuple[Corner, ...]:
    """Return where more rod went in than ground was gained: beyond what the rule `rod_spare` lets pass.

    Args:
        b: Stops of one run.

    Returns:
        One for each such step.
    """
    (rod, ground), spare = ground_gained(b), rod_spare(b)
    lets_pass = next(rule.care for rule in b.rules if rule.id == "rod_spare")
    found, before = [], b.run.start_m
    for k, stop in enumerate(b.stops):
        if lets_pass is not None and spare[k] > lets_pass:
            found.append(Corner(before, stop.distance_m, float(rod[k]), float(ground[k])))
        if stop.rod_m is not None:
            before = stop.distance_m
    return tuple(found)


def fall_of(b: SondeBatch, proved: Sequence[bool]) -> Fall | None:
    """Return how the pipe falls, by the stops a mark may rest on: weighted least squares of depth along the run.

    Args:
        b: Stops of one run.
        proved: Which of them a mark may rest on.

    Returns:
        The fall; None with fewer than two such stops, or all close together.
    """
    known = [f for f, sure in zip(b.fits, proved, strict=True) if f is not None and sure]
    if len(known) < 2:
        return None
    x = np.array([f.x_m for f in known]) * b.run.forward
    depth, sd = np.array([f.depth_m for f in known]), np.array([f.depth_pm_m for f in known]) / LIKELY
    if np.ptp(x) < _LEAST_M:
        return None
    w = 1 / sd**2
    aside = x - w @ x / w.sum()
    spread = float(w @ aside**2)
    slope = float(w @ (aside * depth)) / spread
    ends = sorted((float(f.x_m) for f in known), key=lambda at: at)
    return Fall(slope, LIKELY / float(np.sqrt(spread)), (ends[0], ends[-1]), len(known))
