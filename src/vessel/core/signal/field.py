"""Magnetic field phasors: finite straight segments (Biot-Savart) and a magnetic dipole.

Axes: x along the line, y to the left of it, z up, ground at z = 0. The field of the return current spread in
the soil is left out: it is smooth over the width of a trace and small above a line much shallower than a skin depth.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from vessel.core.signal.earth_return import MU0

Floats = NDArray[np.float64]


def segment_fields(points_m: Floats, starts_m: Floats, ends_m: Floats) -> Floats:
    """Return B per ampere (p, s, 3) [T/A] at points (p, 3) of segments from starts to ends (s, 3) [m].

    B = mu0 / (4 pi) (t x r1) / |t x r1|^2 (t.r1/|r1| - t.r2/|r2|); zero on the segment's own axis.
    """
    along = ends_m - starts_m
    t = along / np.linalg.norm(along, axis=1, keepdims=True)
    r1 = points_m[:, None, :] - starts_m[None]
    r2 = points_m[:, None, :] - ends_m[None]
    cross = np.cross(np.broadcast_to(t[None], r1.shape), r1)
    rho2 = np.maximum((cross**2).sum(-1), 1e-12)
    ends = (t * r1).sum(-1) / np.linalg.norm(r1, axis=-1) - (t * r2).sum(-1) / np.linalg.norm(r2, axis=-1)
    return np.asarray(MU0 / (4 * np.pi) * cross * (ends / rho2)[..., None])


def dipole_field(points_m: Floats, *, at_m: Floats, moment_a_m2: Floats) -> Floats:
    """Return B (p, 3) [T] at points (p, 3) of a magnetic dipole at `at_m` (3,) of moment (3,) [A m2]."""
    r = points_m - at_m
    d = np.linalg.norm(r, axis=1, keepdims=True)
    unit = r / d
    return np.asarray(MU0 / (4 * np.pi) * (3 * unit * (unit @ moment_a_m2)[:, None] - moment_a_m2) / d**3)


def coil_emf(
    starts_m: Floats, ends_m: Floats, *, at_m: Floats, moment_a_m2: Floats, freq_hz: float
) -> NDArray[np.complex128]:
    """Return the EMF (s,) [V] that a dipole of moment (3,) [A m2] at (3,) [m] puts in segments (s, 3) [m].

    -jw integral of A.t with A = mu0/(4 pi) m x r / r^3, closed form: r x t is constant along a straight segment.
    """
    along = ends_m - starts_m
    length = np.linalg.norm(along, axis=1)
    t = along / length[:, None]
    r0 = starts_m - at_m
    s0 = (r0 * t).sum(1)
    s1 = s0 + length
    p2 = np.maximum((r0**2).sum(1) - s0**2, 1e-12)
    integral = (s1 / np.sqrt(s1**2 + p2) - s0 / np.sqrt(s0**2 + p2)) / p2
    return np.asarray(-2j * np.pi * freq_hz * MU0 / (4 * np.pi) * (np.cross(r0, t) @ moment_a_m2) * integral)


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
