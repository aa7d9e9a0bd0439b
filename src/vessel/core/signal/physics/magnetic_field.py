"""Magnetic field phasors: finite straight segments (Biot-Savart) and a magnetic dipole.

Axes: x east, y north, z up, ground at z = 0. The field of the return current spread in the soil is `soil_return`'s.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.earth_return import MU0, image_depth, soil_propagation


def axis_fields(
    points_m: Floats, axes: Sequence[Floats], starts_m: Floats, ends_m: Floats
) -> list[tuple[Floats, Floats]]:
    """Return the field of segments along given axes, per ampere at each of their ends.

    The current runs linearly from start to end: mu0 / (4 pi) (t x r1) integral I(s) ds / r^3 in closed form.

    Args:
        points_m: Points, shape (p, 3) [m].
        axes: Unit vectors, each of shape (p, 3).
        starts_m: Starts of the segments, shape (s, 3) [m].
        ends_m: Ends of the segments, shape (s, 3) [m].

    Returns:
        For each axis: per ampere at start and per ampere at end, each of shape (p, s) [T/A].
    """
    length = np.linalg.norm(ends_m - starts_m, axis=1)
    t = (ends_m - starts_m) / length[:, None]
    # from the middle of the places, so that what is bilinear in both can be a matrix product and keep its digits
    middle = points_m.mean(0)
    q = starts_m - middle
    known = t, length, (q * t).sum(1), q, (q * q).sum(1), np.hstack([t, _cross(t, q)]).T
    found = [(np.empty((len(points_m), len(length))), np.empty((len(points_m), len(length)))) for _ in axes]
    step = max(1, _CHUNK // max(1, len(length)))
    for k in range(0, len(points_m), step):
        rows = slice(k, k + step)
        part = _axis_fields(points_m[rows] - middle, [axis[rows] for axis in axes], *known)
        for (at_start, at_end), each in zip(found, part, strict=True):
            at_start[rows], at_end[rows] = each
    return found


_CHUNK = 16_000  # pairs worked on together: few enough that what is in between stays in the processor's cache


def _axis_fields(
    p: Floats, axes: Sequence[Floats], t: Floats, length: Floats, qt: Floats, q: Floats, q2: Floats, levers: Floats
) -> list[tuple[Floats, Floats]]:
    # s: how far along the segment the point stands; rho: how far off its axis. Worked out in place, for every array in
    # between has to come from and go to memory
    s = p @ t.T
    s -= qt
    inverse1 = s * s
    rho2 = p @ (-2 * q.T)
    rho2 += q2
    rho2 += (p * p).sum(1)[:, None]
    rho2 -= inverse1
    np.maximum(rho2, 1e-12, out=rho2)
    ahead = length - s
    inverse2 = ahead * ahead
    for each in (inverse1, inverse2):
        each += rho2
        np.sqrt(each, out=each)
        np.reciprocal(each, out=each)
    ahead *= inverse2
    at_end = s * inverse1
    flat = ahead
    flat += at_end
    flat /= rho2
    np.multiply(s, flat, out=at_end)
    at_end += inverse1
    at_end -= inverse2
    at_end /= length
    at_start = flat
    at_start -= at_end
    found = []
    for axis in axes:
        lever = MU0 / (4 * np.pi) * np.hstack([_cross(p, axis), -axis]) @ levers  # axis . (t x r1)
        found.append((lever * at_start, lever * at_end))
    return found


def _cross(a: Floats, b: Floats) -> Floats:
    """Vector products (n, 3); NumPy's own spends longer on checking small arrays than on them."""
    (ax, ay, az), (bx, by, bz) = a.T, b.T
    return np.column_stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx])


def dipole_field(points_m: Floats, *, at_m: Floats, moment_a_m2: Floats) -> Floats:
    """Return the field of a magnetic dipole.

    Args:
        points_m: Field points, shape (..., 3) [m].
        at_m: Place of the dipole, shape (..., 3) [m].
        moment_a_m2: Its moment, shape (..., 3) [A m2].

    Returns:
        B = (mu0 / 4 pi) (3 (m . r) r / r^5 - m / r^3), shape (..., 3) [T].
    """
    r = points_m - at_m
    d2 = (r * r).sum(-1, keepdims=True)
    along = (r * moment_a_m2).sum(-1, keepdims=True)
    return np.asarray(MU0 / (4 * np.pi) * (3 * r * along / d2 - moment_a_m2) / (d2 * np.sqrt(d2)))


class CoilReach:
    """What the shape of a site makes of dipoles at `at_m` (k, 3) [m], moments along the unit vectors `axis` (k, 3).

    Worked out once for every frequency and soil; `starts_m`, `ends_m` (s, 3) [m] are the segments they reach.
    """

    def __init__(self, starts_m: Floats, ends_m: Floats, *, at_m: Floats, axis: Floats) -> None:
        along = ends_m - starts_m
        self._length = np.linalg.norm(along, axis=1)
        tx, ty, tz = (along / self._length[:, None]).T
        x, y, z = np.moveaxis(starts_m - at_m[:, None], -1, 0)
        ax, ay, az = axis.T[..., None]
        lx, ly, self._upright = ty * az - tz * ay, tz * ax - tx * az, tx * ay - ty * ax  # t x axis
        self._q0, self._level = x * tx + y * ty, x * lx + y * ly
        flat2 = x * x + y * y
        self._q2 = flat2 - self._q0**2
        s0 = self._q0 + z * tz
        p2 = np.maximum(flat2 + z * z - s0 * s0, 1e-12)
        self._free = (self._level + z * self._upright) * _cubed(s0, self._length, p2)
        # coils are carried at one height: what depends on it alone is worked out once
        heights = at_m[:1, 2] if np.ptp(at_m[:, 2]) == 0 else at_m[:, 2]
        self._depths = -(0.5 * (starts_m + ends_m)[:, 2] + heights[:, None])

    def emf(self, moment_a_m2: float, *, freq_hz: float, soil: Soil | None = None) -> Complex:
        """Return the EMF of coils of one moment.

        Args:
            moment_a_m2: Size of the moment [A m2].
            freq_hz: Signal frequency [Hz].
            soil: Soil with its complex image; None: free space.

        Returns:
            EMF, shape (k, s) [V], as `coil_emf` gives it.
        """
        total = self._free.astype(np.complex128)
        if soil is not None:
            m = soil_propagation(soil, freq_hz=freq_hz)
            image2 = image_depth(soil, freq_hz=freq_hz, depths_m=self._depths) ** 2
            # the image's depth follows the source's height: d(-1/r')/dz = (2/3) m image^2 / r'^3
            gradient = 2 / 3 * m * image2 * self._upright - self._level
            total += gradient * _cubed(self._q0, self._length, self._q2 + image2)
        return np.asarray(-2j * np.pi * freq_hz * MU0 / (4 * np.pi) * moment_a_m2 * total)


def coil_emf(
    starts_m: Floats, ends_m: Floats, *, at_m: Floats, moment_a_m2: Floats, freq_hz: float, soil: Soil | None = None
) -> Complex:
    """Return the EMF that a dipole puts in segments.

    -jw integral of A.t with A = mu0/(4 pi) m x grad(1/r - 1/r'), gradient at the source. 1/r in closed form: r x t is
    constant along a straight segment. With soil, r' runs to the complex image of `image_depth`.

    Args:
        starts_m: Starts of the segments, shape (s, 3) [m].
        ends_m: Ends of the segments, shape (s, 3) [m].
        at_m: Place of the dipole, shape (3,) [m].
        moment_a_m2: Its moment, shape (3,) [A m2].
        freq_hz: Signal frequency [Hz].
        soil: Soil with its complex image; None: free space.

    Returns:
        EMF, shape (s,) [V].
    """
    size = float(np.linalg.norm(moment_a_m2))
    reach = CoilReach(starts_m, ends_m, at_m=at_m[None], axis=moment_a_m2[None] / size)
    return np.asarray(reach.emf(size, freq_hz=freq_hz, soil=soil)[0])


def _cubed(s0: Floats, length: Floats, p2: Any) -> Any:
    """Integral of ds / (s^2 + p2)^(3/2) from s0 over `length`."""
    s1 = s0 + length
    return (s1 / np.sqrt(s1**2 + p2) - s0 / np.sqrt(s0**2 + p2)) / p2


def electronic_depth(b_low: Floats, b_high: Floats, *, low_m: float, separation_m: float) -> Floats:
    """Return the depth that two coils show.

    separation / (B_low/B_high - 1) - height of the low coil.

    Args:
        b_low: Field at the lower coil, any shape [T].
        b_high: Field at the upper coil [T].
        low_m: Height of the lower coil [m].
        separation_m: Distance between the coils [m].

    Returns:
        Depth below ground [m]; NaN if the upper coil reads as much as the lower or more: no line below explains that.
    """
    ratio = np.asarray(b_low) / np.asarray(b_high)
    with np.errstate(divide="ignore", invalid="ignore"):
        depth = np.where(ratio > 1 + 1e-9, separation_m / (ratio - 1) - low_m, np.nan)
    return np.asarray(np.where(depth > 0, depth, np.nan))


def depth_spread(depth_m: Any, noise_share: Any, *, low_m: float, separation_m: float) -> Any:
    """Return the spread of one electronic depth when each coil is noisy.

    Only what is in phase with the field moves its magnitude, hence the root of two; the upper coil has the same noise
    on a weaker field.

    Args:
        depth_m: Depth, any shape [m].
        noise_share: Rms noise against the field at the lower coil.
        low_m: Height of the lower coil [m].
        separation_m: Distance between the coils [m].

    Returns:
        Standard deviation [m].
    """
    above = depth_m + low_m
    ratio = (above + separation_m) / above
    return above**2 / separation_m * ratio * np.sqrt(1 + ratio**2) * noise_share / np.sqrt(2)
