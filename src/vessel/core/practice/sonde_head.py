"""A sonde pushed through a drain: where its head lies, and its field at a receiver's coils."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.kit import SONDE_HZ
from vessel.core.model.network import SiteLine
from vessel.core.signal.physics.dipole_field import through_pipe
from vessel.core.signal.physics.magnetic_field import dipole_field
from vessel.core.signal.receiver.field_gains import across_of
from vessel.core.signal.spot_field import SpotField

MOMENT_A_M2 = 0.5
"""Its magnetic moment [A m2]."""
_HEAD_M = 0.3  # the head is so long: in a bend it lies across the corner
_UP = np.array([0.0, 0.0, 1.0])


@dataclass(frozen=True)
class SondeHead:
    """Where the head lies (east, north, up [m]) and which way its front end points; `through`: what the pipe lets out.

    `at_end`: the rod went no further.
    """

    at: tuple[float, float, float]
    axis: tuple[float, float, float]
    through: float
    at_end: bool


def head_in(line: SiteLine, rod_m: float) -> SondeHead:
    """Return where the head lies in a drain.

    Args:
        line: The drain; the rod goes in at its start.
        rod_m: Rod out since the head left the mouth of the pipe [m].

    Returns:
        The head.
    """
    out_m, half = min(rod_m, line.length_m), 0.5 * _HEAD_M
    behind, ahead = line.places(np.clip([out_m - half, out_m + half], 0.0, line.length_m))
    axis = (ahead - behind) / max(float(np.linalg.norm(ahead - behind)), 1e-9)
    middle = 0.5 * (ahead + behind)
    through = float(through_pipe(line.construction, SONDE_HZ))
    return SondeHead(
        (float(middle[0]), float(middle[1]), float(middle[2])),
        (float(axis[0]), float(axis[1]), float(axis[2])),
        through,
        rod_m >= line.length_m,
    )


def head_field(head: SondeHead, at_m: Floats, headings: Floats, heights_m: Floats) -> SpotField:
    """Return the head's field at a receiver's coils.

    Args:
        head: Where it lies.
        at_m: Places, shape (n, 2) [m].
        headings: Directions the receiver faces, unit vectors, shape (n, 2).
        heights_m: Heights of the lower and the upper coil and of both lifted, shape (4,) [m].

    Returns:
        The field.
    """
    moment, side = MOMENT_A_M2 * head.through * np.asarray(head.axis), across_of(headings)
    across, up = [], []
    for height in heights_m:
        field = dipole_field(
            np.column_stack([at_m, np.full(len(at_m), height)]), at_m=np.asarray(head.at), moment_a_m2=moment
        )
        across.append((field * side).sum(1).astype(complex))
        up.append((field @ _UP).astype(complex))
    low, high, lifted_low, lifted_high = across
    return SpotField(low, high, lifted_low, lifted_high, up[0])
