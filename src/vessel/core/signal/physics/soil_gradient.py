"""The voltage that two spikes pick up from current in the soil: a fault, a leaking line, the return at a stake.

A current I at depth h in soil of resistivity rho makes, at a distance r along the ground, the potential
rho I / (2 pi sqrt(r^2 + h^2)): its own and its mirror image's, as high as it is deep [1]. Two spikes L apart along the
route pick up the difference. It is positive where it points on along the route to the current ahead, and changes sign
over it.

[1] E. D. Sunde, Earth Conduction Effects in Transmission Systems, 1949, ch. 2.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from vessel.core.base.arrays import Floats


def gradient(along_m: Any, depth_m: Any, frame_m: float, *, aside_m: Any = 0.0) -> Floats:
    """Return what two spikes pick up from a point current, per rho I / (2 pi) of it.

    Args:
        along_m: From the point to the middle of the spikes, along the route, any shape [m].
        depth_m: Depth of the point, of a shape that fits [m].
        frame_m: Distance between the spikes [m].
        aside_m: How far off the route the point lies [m].

    Returns:
        Difference of the spikes, positive before the point [1/m].
    """
    x, off = np.asarray(along_m, dtype=float), np.asarray(depth_m) ** 2 + np.asarray(aside_m) ** 2
    ahead, behind = x + 0.5 * frame_m, x - 0.5 * frame_m
    return np.asarray(1 / np.sqrt(ahead**2 + off) - 1 / np.sqrt(behind**2 + off))


def leak_gradient(along_m: Any, depth_m: Any, frame_m: float, length_m: float) -> Floats:
    """Return what two spikes pick up from a line that leaks evenly, per rho I / (2 pi) of all it leaks.

    Args:
        along_m: Middle of the spikes, from the near end of the line, any shape [m].
        depth_m: Depth of the line [m].
        frame_m: Distance between the spikes [m].
        length_m: Length of the line [m].

    Returns:
        Difference of the spikes [1/m].
    """
    x, h = np.asarray(along_m, dtype=float), np.asarray(depth_m, dtype=float)

    def potential(at: Floats) -> Floats:
        return np.asarray(np.arcsinh((length_m - at) / h) + np.arcsinh(at / h))

    return np.asarray((potential(x + 0.5 * frame_m) - potential(x - 0.5 * frame_m)) / length_m)


def greatest_gradient(depth_m: float, frame_m: float) -> tuple[float, float]:
    """Return where before a point current the spikes pick up most, and how much.

    For a frame much shorter than the depth that is 0.71 of the depth before it; a longer one moves it little.

    Args:
        depth_m: Depth of the point [m].
        frame_m: Distance between the spikes [m].

    Returns:
        Distance before the point [m], and the difference there per rho I / (2 pi) [1/m].
    """
    x = np.linspace(0.0, 2.0 * depth_m + frame_m, 2001)
    found = gradient(-x, depth_m, frame_m)
    best = int(np.argmax(found))
    return float(x[best]), float(found[best])
