"""Magnetic field phasors: finite straight segments (Biot-Savart) and a magnetic dipole.

Axes: x east, y north, z up, ground at z = 0. The field of the return current spread in the soil is left out: it is
smooth over the width of a trace and small above a line much shallower than a skin depth.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.soil import Soil
from vessel.core.signal.earth_return import MU0, image_depth, soil_propagation

Floats = NDArray[np.float64]


def axis_fields(
    points_m: Floats, axes: Sequence[Floats], starts_m: Floats, ends_m: Floats
) -> list[tuple[Floats, Floats]]:
    """Return B along each of `axes` (p, 3) at points (p, 3) per ampere at start and per ampere at end of each segment.

    Both are (p, s) [T/A]; the current runs linearly from start to end (s, 3) [m]:
    mu0 / (4 pi) (t x r1) integral I(s) ds / r^3 in closed form.
    """
    along = ends_m - starts_m
    length = np.linalg.norm(along, axis=1)
    tx, ty, tz = (along / length[:, None]).T
    dx, dy, dz = (points_m[:, None, k] - starts_m[None, :, k] for k in range(3))
    # s: how far along the segment the point stands; rho: how far off its axis
    s = dx * tx + dy * ty + dz * tz
    rho2 = np.maximum(dx**2 + dy**2 + dz**2 - s**2, 1e-12)
    ahead = length - s
    inverse1, inverse2 = 1 / np.sqrt(rho2 + s**2), 1 / np.sqrt(rho2 + ahead**2)
    flat = (ahead * inverse2 + s * inverse1) / rho2
    at_end = (inverse1 - inverse2 + s * flat) / length
    at_start = flat - at_end
    found = []
    for axis in axes:
        ax, ay, az = MU0 / (4 * np.pi) * axis.T[..., None]
        lever = (ay * tz - az * ty) * dx + (az * tx - ax * tz) * dy + (ax * ty - ay * tx) * dz  # axis . (t x r1)
        found.append((lever * at_start, lever * at_end))
    return found


def dipole_field(points_m: Floats, *, at_m: Floats, moment_a_m2: Floats) -> Floats:
    """Return B (p, 3) [T] at points (p, 3) of a magnetic dipole at `at_m` (3,) of moment (3,) [A m2]."""
    r = points_m - at_m
    d = np.linalg.norm(r, axis=1, keepdims=True)
    unit = r / d
    return np.asarray(MU0 / (4 * np.pi) * (3 * unit * (unit @ moment_a_m2)[:, None] - moment_a_m2) / d**3)


def coil_emf(
    starts_m: Floats, ends_m: Floats, *, at_m: Floats, moment_a_m2: Floats, freq_hz: float, soil: Soil | None = None
) -> NDArray[np.complex128]:
    """Return the EMF (s,) [V] that a dipole of moment (3,) [A m2] at (3,) [m] puts in segments (s, 3) [m].

    -jw integral of A.t with A = mu0/(4 pi) m x grad(1/r - 1/r'), gradient at the source. 1/r in closed form: r x t is
    constant along a straight segment. With `soil`, r' runs to the complex image of `image_depth`; without, free space.
    """
    along = ends_m - starts_m
    length = np.linalg.norm(along, axis=1)
    t = along / length[:, None]
    r0 = starts_m - at_m
    s0 = (r0 * t).sum(1)
    p2 = np.maximum((r0**2).sum(1) - s0**2, 1e-12)
    total = (np.cross(r0, t) @ moment_a_m2) * _cubed(s0, length, p2)
    if soil is not None:
        m = soil_propagation(soil, freq_hz=freq_hz)
        depths = -(0.5 * (starts_m + ends_m)[:, 2] + at_m[2])
        image = image_depth(soil, freq_hz=freq_hz, depths_m=depths)
        flat = r0 * np.array([1.0, 1.0, 0.0])
        q0 = (flat * t).sum(1)
        q2 = (flat**2).sum(1) - q0**2 + image**2
        # the image's depth follows the source's height: d(-1/r')/dz = (2/3) m image^2 / r'^3
        gradient = -flat + (2 / 3 * m * image**2)[:, None] * np.array([0.0, 0.0, 1.0])
        total = total + (np.cross(gradient, t) @ moment_a_m2) * _cubed(q0, length, q2)
    return np.asarray(-2j * np.pi * freq_hz * MU0 / (4 * np.pi) * total)


def _cubed(s0: Floats, length: Floats, p2: Any) -> Any:
    """Integral of ds / (s^2 + p2)^(3/2) from s0 over `length`."""
    s1 = s0 + length
    return (s1 / np.sqrt(s1**2 + p2) - s0 / np.sqrt(s0**2 + p2)) / p2


def electronic_depth(b_low: Floats, b_high: Floats, *, low_m: float, separation_m: float) -> Floats:
    """Return depth below ground [m] from the two coils: separation / (B_low/B_high - 1) - height of the low coil.

    NaN where the upper coil reads as much as the lower or more: no line below explains that.
    """
    ratio = np.asarray(b_low) / np.asarray(b_high)
    with np.errstate(divide="ignore", invalid="ignore"):
        depth = np.where(ratio > 1 + 1e-9, separation_m / (ratio - 1) - low_m, np.nan)
    return np.asarray(np.where(depth > 0, depth, np.nan))


def triangulation_depth(*, offset_m: float, tilt_deg: float = 45.0) -> float:
    """Return depth of a line [m] below the coil from the offset [m] at which a coil tilted by `tilt_deg` nulls."""
    return float(offset_m / np.tan(np.radians(tilt_deg)))


def sonde_depth(*, null_separation_m: float) -> float:
    """Return depth of a sonde [m] from the distance between its two nulls along the pipe: separation / sqrt(2)."""
    return float(null_separation_m / np.sqrt(2))
