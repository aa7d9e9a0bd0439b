"""Inductive coupling between branches of different lines: Neumann's double integral with a complex image.

M_ij = (jw mu0 / 4 pi) integral integral (t_i . t_j) (1/r - 1/r') dl dl'; r' runs to a point at the complex vertical
distance of `image_depth`. A line's coupling with itself is in its own earth-return impedance and is left out here.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.polynomial.legendre import leggauss
from numpy.typing import NDArray

from vessel.core.model.soil import Soil
from vessel.core.signal.complexes import over_root
from vessel.core.signal.earth_return import MU0, image_depth

Floats = NDArray[np.float64]
Complex = NDArray[np.complex128]
Index = NDArray[np.intp]

_CLOSE = 3.0  # pairs nearer than this many of their longer branch are integrated, others taken at their middles
_FINE = leggauss(12)
_IMAGE = leggauss(2)
_CHUNK = 40_000


@dataclass(frozen=True)
class Segments:
    """Straight pieces of conductor: `start_m`, `end_m` (k, 3) [m], z up; `radius_m` (k,) over the insulation."""

    start_m: Floats
    end_m: Floats
    radius_m: Floats

    @property
    def along_m(self) -> Floats:
        """Vectors (k, 3) [m] from start to end."""
        return self.end_m - self.start_m


class Coupling:
    """Mutual impedance between pairs of segments; the geometry is integrated once for every frequency."""

    def __init__(self, a: Segments, b: Segments, i: Index, j: Index) -> None:
        """`i`, `j` (k,): the pairs, indices into `a` and `b`."""
        self.shape, self._i, self._j = (len(a.start_m), len(b.start_m)), i, j
        self._place = i * self.shape[1] + j
        ta, tb = a.along_m[i], b.along_m[j]
        dot = (ta * tb).sum(1)
        la, lb = np.linalg.norm(ta, axis=1), np.linalg.norm(tb, axis=1)
        mid_a, mid_b = a.start_m[i] + 0.5 * ta, b.start_m[j] + 0.5 * tb
        apart = np.linalg.norm(mid_a - mid_b, axis=1)
        parallel = np.abs(dot) > 1e-9 * la * lb
        close = parallel & (apart < _CLOSE * np.maximum(la, lb))
        direct = dot / np.maximum(apart, 1e-9)
        rows = np.flatnonzero(close)
        for part in np.array_split(rows, max(1, len(rows) // _CHUNK)):
            direct[part] = dot[part] * _mean_inverse(a, b, i[part], j[part])
        self._direct, self._dot = direct, dot
        self._depths = tuple(-(s.start_m + 0.5 * s.along_m)[:, 2] for s in (a, b))
        # horizontal distances squared at 2 x 2 points of a pair; a single point serves where the pair is far apart
        flat = np.array([1.0, 1.0, 0.0])
        points = _IMAGE[0] / 2
        self._close = rows
        self._far2 = ((mid_a - mid_b) * flat) ** 2 @ np.ones(3)
        self._near2 = np.stack(
            [
                (((mid_a + p * ta)[rows] - (mid_b + q * tb)[rows]) * flat) ** 2 @ np.ones(3)
                for p in points
                for q in points
            ]
        )

    def at(self, soil: Soil, *, freq_hz: float) -> Complex:
        """Return the mutual impedances as a full matrix [ohm], zero where no pair was asked."""
        # an exponential of the sum of depths: of each segment once, then multiplied pair by pair
        first, second, surface = (
            image_depth(soil, freq_hz=freq_hz, depths_m=z) ** 2 for z in (*self._depths, np.zeros(1))
        )
        x2 = first[self._i] * (second / surface)[self._j]
        image = over_root(self._far2 + x2)
        if len(self._close):
            image[self._close] = over_root(self._near2 + x2[self._close]).mean(0)
        out = np.zeros(self.shape[0] * self.shape[1], dtype=np.complex128)
        out[self._place] = 1j * 2 * np.pi * freq_hz * MU0 / (4 * np.pi) * (self._direct - self._dot * image)
        return out.reshape(self.shape)


def between_lines(segments: Segments, line: Index) -> Coupling:
    """Return the coupling (upper triangle) of all segments that belong to different lines (k,)."""
    i, j = np.triu_indices(len(line), 1)
    other = line[i] != line[j]
    return Coupling(segments, segments, i[other], j[other])


def _mean_inverse(a: Segments, b: Segments, i: Index, j: Index) -> Floats:
    """Mean of 1/r over both segments of each pair: closed form along the longer, Gauss along the shorter."""
    swap = np.linalg.norm(a.along_m[i], axis=1) > np.linalg.norm(b.along_m[j], axis=1)
    first, second = (a.start_m[i], a.along_m[i]), (b.start_m[j], b.along_m[j])
    pick = swap[:, None]
    short_start, short_along = (np.where(pick, s, f) for f, s in zip(first, second, strict=True))
    long_start, long_along = (np.where(pick, f, s) for f, s in zip(first, second, strict=True))
    floor = np.maximum(a.radius_m[i], b.radius_m[j])
    total = np.zeros(len(i))
    for x, weight in zip(*_FINE, strict=True):
        points = short_start + 0.5 * (x + 1) * short_along
        total += 0.5 * weight * mean_inverse_distance(points, long_start, long_along, floor_m=floor)
    return total


def mean_inverse_distance(points_m: Floats, start_m: Floats, along_m: Floats, *, floor_m: Floats) -> Floats:
    """Return the mean of 1/r [1/m] from points (k, 3) over segments (k, 3), no closer to their axis than `floor_m`."""
    length = np.maximum(np.linalg.norm(along_m, axis=1), 1e-9)
    t = along_m / length[:, None]
    r0 = points_m - start_m
    s = (r0 * t).sum(1)
    rho = np.maximum(np.sqrt(np.maximum((r0**2).sum(1) - s**2, 0.0)), floor_m)
    return np.asarray((np.arcsinh((length - s) / rho) + np.arcsinh(s / rho)) / length)
