"""What a receiver hears without a transmitter: mains' current on the lines that carry some."""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.practice.yard_lesson import YardLesson
from vessel.core.signal.physics.magnetic_field import axis_fields
from vessel.core.signal.receiver.field_gains import across_of
from vessel.core.signal.spot_field import SpotField, no_field

PASSIVE_HZ = 0.0
"""The receiver's setting for mains, in place of a frequency."""
NOISE_T = 2e-10
"""What a receiver's own band round the mains leaves of noise, rms [T]."""
_UP = np.array([0.0, 0.0, 1.0])


def passive_field(lesson: YardLesson, at_m: Floats, headings: Floats, heights_m: Floats) -> SpotField:
    """Return the field of the mains' current at a receiver's coils.

    Args:
        lesson: The lesson with what lies there.
        at_m: Places, shape (n, 2) [m].
        headings: Directions the receiver faces, unit vectors, shape (n, 2).
        heights_m: Heights of the lower and the upper coil and of both lifted, shape (4,) [m].

    Returns:
        The field, of a current that is the same all along each line.
    """
    n, carrying = len(at_m), [line for line in lesson.lines if line.mains_a]
    if not carrying:
        return no_field(n)
    corners = [line.site_line.corners_m for line in carrying]
    starts, ends = np.concatenate([c[:-1] for c in corners]), np.concatenate([c[1:] for c in corners])
    amps = np.repeat([line.mains_a for line in carrying], [len(c) - 1 for c in corners])
    side, found = across_of(headings), []
    for height in heights_m:
        points = np.column_stack([at_m, np.full(n, height)])
        across, up = axis_fields(points, [side, np.tile(_UP, (n, 1))], starts, ends)
        found.append(((across[0] + across[1]) @ amps, (up[0] + up[1]) @ amps))
    low, high, lifted_low, lifted_high = (each[0].astype(complex) for each in found)
    return SpotField(low, high, lifted_low, lifted_high, found[0][1].astype(complex))
