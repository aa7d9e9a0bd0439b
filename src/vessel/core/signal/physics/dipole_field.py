"""The field of a sonde: a magnetic dipole along a pipe, as a receiver on the ground meets it.

Lengths along the pipe are in depths h below the receiver's lower coil, from the point over the sonde, growing the way
its front end points. With the front end `tilt` up, and u = x / h, the field along the pipe is

    Bx ~ (cos(tilt) (2 u^2 - 1) + 3 u sin(tilt)) / (u^2 + 1)^(5/2),

the field of a dipole in free space [1]; soil takes nothing of it at the frequencies and depths of sondes. A metal pipe
round the sonde shields it as a long tube shields a field along it [2].

[1] J. D. Jackson, Classical Electrodynamics, 3rd ed., 1999, eq. 5.56.
[2] H. Kaden, Wirbelströme und Schirmung in der Nachrichtentechnik, 2nd ed., 1959, ch. C.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.construction import Construction
from vessel.core.signal.physics.earth_return import MU0


def along_field(u: Any, tilt: Any) -> Any:
    """Return the field along the pipe over a sonde, in units of mu0 m / (4 pi h^3).

    Args:
        u: Way along the pipe from the point over the sonde, any shape [depths].
        tilt: How far its front end points up [rad].

    Returns:
        Field, of the shape of `u` and `tilt` together.
    """
    u = np.asarray(u, dtype=float)
    return (np.cos(tilt) * (2 * u * u - 1) + 3 * u * np.sin(tilt)) / (u * u + 1) ** 2.5


def across_field(u: Any) -> Any:
    """Return the field along the pipe beside a level sonde, in units of mu0 m / (4 pi h^3).

    Args:
        u: Way square off the pipe, any shape [depths].

    Returns:
        Field, of the same shape.
    """
    return -1.0 / (np.asarray(u, dtype=float) ** 2 + 1) ** 1.5


@dataclass(frozen=True)
class DipoleShape:
    """Where the field along the pipe has its peaks and nulls over a sonde, in depths from the point over it.

    `peak`: the main peak; `null_before`, `null_after`: the nulls behind and ahead of it; `ghost_before`, `ghost_after`:
    the ghost peaks beyond them, as shares of the main peak, which stand at `behind` and `ahead`.
    """

    peak: float
    null_before: float
    null_after: float
    ghost_before: float
    ghost_after: float
    behind: float
    ahead: float


def dipole_shape(tilt: float) -> DipoleShape:
    """Return peaks and nulls over a sonde: the roots of the field along the pipe and of its slope.

    Args:
        tilt: How far its front end points up [rad], within 60 degrees.

    Returns:
        Their places and levels.
    """
    t = np.tan(tilt)
    root = np.sqrt(9 * t * t + 8)
    behind, over, ahead = np.sort(np.roots([2.0, 4.0 * t, -3.0, -t]).real)
    main = abs(along_field(over, tilt))
    return DipoleShape(
        float(over),
        float((-3 * t - root) / 4),
        float((-3 * t + root) / 4),
        float(abs(along_field(behind, tilt)) / main),
        float(abs(along_field(ahead, tilt)) / main),
        float(behind),
        float(ahead),
    )


def sonde_depth(low: Any, high: Any, *, separation_m: float) -> Any:
    """Return the depth that a receiver in sonde mode works out of its two coils: the cube law.

    Args:
        low: Field at the lower coil.
        high: Field at the upper coil, in the same unit.
        separation_m: Distance between the coils [m].

    Returns:
        Depth below the lower coil [m].
    """
    return separation_m / (np.cbrt(np.asarray(low) / np.asarray(high)) - 1)


def read_in_line_mode(h_m: Any, *, separation_m: float) -> Any:
    """Return what a receiver left in line mode makes of a sonde: it takes the cube law for that of a long line.

    Args:
        h_m: Depth of the sonde below the lower coil, any shape [m].
        separation_m: Distance between the coils [m].

    Returns:
        Depth below the lower coil that it shows, of the same shape [m].
    """
    return separation_m / ((1 + separation_m / np.asarray(h_m, dtype=float)) ** 3 - 1)


def meant_in_line_mode(shown_m: Any, *, separation_m: float) -> Any:
    """Return the depth of a sonde that a receiver left in line mode shows so.

    Args:
        shown_m: Depth below the lower coil that it shows, any shape [m].
        separation_m: Distance between the coils [m].

    Returns:
        Depth of the sonde below the lower coil, of the same shape [m].
    """
    return separation_m / (np.cbrt(separation_m / np.asarray(shown_m, dtype=float) + 1) - 1)


def through_pipe(c: Construction | None, freq_hz: Any) -> Floats:
    """Return how much of a sonde's field comes out of the pipe it lies in.

    A tube of radius a and wall d lets through 1 / |cosh(k d) + k a sinh(k d) / (2 mu_r)| of a field along it,
    k = (1 + j) / skin depth.

    Args:
        c: What the pipe is made of; None for a pipe without metal.
        freq_hz: Frequency of the sonde, any shape [Hz].

    Returns:
        Share, of the shape of `freq_hz`; 1 where the pipe has no metal wall.
    """
    f = np.asarray(freq_hz, dtype=float)
    if c is None or c.metal != "tube":
        return np.ones(f.shape)
    k = (1 + 1j) * np.sqrt(np.pi * f * MU0 * c.rel_permeability * c.conductivity_s_m)
    kd = np.minimum(np.abs(k) * c.wall_m, 400.0) * np.exp(0.25j * np.pi)  # beyond that nothing comes out
    wall = np.cosh(kd) + kd / c.wall_m * c.radius_m * np.sinh(kd) / (2 * c.rel_permeability)
    return np.asarray(1.0 / np.abs(wall))
