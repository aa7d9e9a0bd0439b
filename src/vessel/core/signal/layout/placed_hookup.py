"""A setup in the line's own terms, placed on the site: the stake beside the line, the coil over it."""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.drawn_line import left_of
from vessel.core.model.line import Line
from vessel.core.model.network import Hookup
from vessel.core.model.setup import Setup
from vessel.core.signal.layout.beside_line import off_line
from vessel.core.signal.layout.line_on_site import target_name


def square_to(line: Line, at_m: float) -> tuple[Floats, Floats]:
    """Return a place on a line and the direction square to it.

    Args:
        line: The line to locate.
        at_m: Distance along the line [m].

    Returns:
        The place (2,) [m] and the unit vector (2,) to the left.
    """
    if line.course is None:
        return np.array([at_m, 0.0]), np.array([0.0, 1.0])
    at = np.array([at_m])
    return line.course.drawn.places(at)[0], left_of(line.course.drawn, at)[0]


def stake_side(line: Line, setup: Setup) -> int:
    """Return the side for the stake: away from what runs beside the hookup.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.

    Returns:
        +1 for left, -1 for right; left if both are equal.
    """
    here, left = square_to(line, setup.position_m)

    def clearance(side: int) -> float:
        at = (here + side * setup.stake.away_m * left)[None]
        if line.course is None:
            return min(
                (float(np.hypot(n.offset_m - at[0, 1], max(n.start_m, -n.end_m, 0.0))) for n in line.neighbours),
                default=np.inf,
            )
        others = (d for i, d in enumerate(line.course.plan.drawn) if i != line.course.own)
        return min((float(off_line(d, at)[1][0]) for d in others), default=np.inf)

    return 1 if clearance(1) >= clearance(-1) else -1


def hookup_on(line: Line, setup: Setup) -> Hookup:
    """Return a setup placed on the site of a line.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.

    Returns:
        The stake off its connection, clamp or coil along the line.
    """
    here, left = square_to(line, setup.position_m)
    stake = (0.0, 0.0)
    if setup.by.connects and line.course is not None and setup.stake_at is not None:
        stake = setup.stake_at
    elif setup.by.connects:  # a place on the plan means nothing for a line that was taken off it
        east, north = here + stake_side(line, setup) * setup.stake.away_m * left
        stake = float(east), float(north)
    return Hookup(
        setup.method,
        setup.freq_hz,
        setup.output_a,
        target_name(line),
        0.0 if setup.by.through_air else setup.position_m,
        setup.stake,
        stake,
        setup.clip_ohm,
        coil_at=(float(here[0]), float(here[1])),
        # the line runs to the right of its left-hand normal
        coil_heading_deg=float(np.degrees(np.arctan2(left[1], -left[0]))),
    )
