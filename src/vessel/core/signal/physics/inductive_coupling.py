"""Inductive coupling between branches of different lines: Neumann's double integral with a complex image.

M_ij = (jw mu0 / 4 pi) integral integral (t_i . t_j) (1/r - 1/r') dl dl'; r' runs to a point at the complex vertical
distance of `image_depth`. A line's coupling with itself is in its own earth-return impedance and is left out here.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product
from typing import Any

import numpy as np
from numpy.polynomial.legendre import leggauss

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.base.complex_functions import over_root, parts
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.earth_return import MU0, image_depth

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

    def __init__(self, a: Segments, b: Segments, i: Index, j: Index, *, size: int | None = None) -> None:
        """`i`, `j` (k,): the pairs, indices into `a` and `b`.

        With `size`, `a` being `b`, each pair counts either way, in a matrix of that size.
        """
        self.shape, self._i, self._j = (len(a.start_m), len(b.start_m)) if size is None else (size, size), i, j
        self._places = (i * self.shape[1] + j, *(() if size is None else (j * size + i,)))
        length_a, length_b = (np.linalg.norm(x.along_m, axis=1) for x in (a, b))
        (start_a, along_a), (start_b, along_b) = ((x.start_m.T.copy(), x.along_m.T.copy()) for x in (a, b))
        mid_a, mid_b = start_a + 0.5 * along_a, start_b + 0.5 * along_b
        self._dot, self._direct, self._far2 = (np.empty(len(i)) for _ in range(3))
        close = np.zeros(len(i), dtype=bool)
        for part in parts(len(i)):
            first, second = i[part], j[part]
            dot, flat2, down = (
                along_a[:2, first] * along_b[:2, second],
                (mid_a[:2, first] - mid_b[:2, second]) ** 2,
                mid_a[2, first] - mid_b[2, second],
            )
            self._dot[part] = dot[0] + dot[1] + along_a[2, first] * along_b[2, second]
            self._far2[part] = flat2[0] + flat2[1]
            apart = np.sqrt(self._far2[part] + down * down)
            la, lb = length_a[first], length_b[second]
            parallel = np.abs(self._dot[part]) > 1e-9 * la * lb
            close[part] = parallel & (apart < _CLOSE * np.maximum(la, lb))
            self._direct[part] = self._dot[part] / np.maximum(apart, 1e-9)
        self._close = rows = np.flatnonzero(close)
        for few in np.array_split(rows, max(1, len(rows) // _CHUNK)):
            self._direct[few] = self._dot[few] * _mean_inverse(a, b, i[few], j[few])
        self._depths = -mid_a[2], -mid_b[2]
        # horizontal distances squared at 2 x 2 points of a pair; a single point serves where the pair is far apart
        first, second = i[rows], j[rows]
        points = _IMAGE[0] / 2
        self._near2 = np.empty((len(points) ** 2, len(rows)))
        for k, (p, q) in enumerate(product(points, points)):
            x, y = (mid_a + p * along_a)[:2, first] - (mid_b + q * along_b)[:2, second]
            self._near2[k] = x * x + y * y

    def at(self, soil: Soil, *, freq_hz: float) -> Complex:
        """Return the mutual impedances at one frequency.

        The integral of each pair, with the complex image of the soil.

        Args:
            soil: Soil of the site.
            freq_hz: Signal frequency [Hz].

        Returns:
            Full matrix [ohm], zero where no pair was asked for.
        """
        # an exponential of the sum of depths: of each segment once, then multiplied pair by pair
        first, second, surface = (
            image_depth(soil, freq_hz=freq_hz, depths_m=z) ** 2 for z in (*self._depths, np.zeros(1))
        )
        second = second / surface
        rate = 2j * np.pi * freq_hz * MU0 / (4 * np.pi)
        out = np.zeros(self.shape[0] * self.shape[1], dtype=np.complex128)
        for part in parts(len(self._i)):
            image = over_root(self._far2[part] + first[self._i[part]] * second[self._j[part]])
            image *= -rate * self._dot[part]
            image += rate * self._direct[part]
            for place in self._places:
                out[place[part]] = image
        if len(close := self._close):
            image = over_root(self._near2 + first[self._i[close]] * second[self._j[close]]).mean(0)
            for place in self._places:
                out[place[close]] = rate * (self._direct[close] - self._dot[close] * image)
        return out.reshape(self.shape)


def between_lines(segments: Segments, line: Index, *, size: int) -> Coupling:
    """Return the coupling of all segments of different lines.

    Args:
        segments: s straight pieces of conductor.
        line: Line of each of k segments, shape (k,).
        size: Size of the matrix.

    Returns:
        The pairs and their integrals.
    """
    i, j = np.triu_indices(len(line), 1)
    other = line[i] != line[j]
    return Coupling(segments, segments, i[other], j[other], size=size)


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
    """Return the mean of 1/r from points over segments.

    Args:
        points_m: Points, shape (k, 3) [m].
        start_m: Starts of the segments, shape (k, 3) [m].
        along_m: Their vectors, shape (k, 3) [m].
        floor_m: Least distance to their axis, shape (k,) [m].

    Returns:
        Mean, shape (k,) [1/m].
    """
    length = np.maximum(np.linalg.norm(along_m, axis=1), 1e-9)
    t = along_m / length[:, None]
    r0 = points_m - start_m
    s = (r0 * t).sum(1)
    return mean_inverse(s, (r0**2).sum(1) - s**2, length, floor_m=floor_m)


def mean_inverse(s: Floats, off2: Floats, length_m: Floats, *, floor_m: Any) -> Floats:
    """Return the mean of 1/r from points along segments and off their axis.

    No closer to it than `floor_m` [m].

    Args:
        s: Distance along the axis from the start, shape (k,) [m].
        off2: Square of the distance off the axis, shape (k,) [m2].
        length_m: Lengths of the segments, shape (k,) [m].
        floor_m: Least distance to the axis [m].

    Returns:
        Mean, shape (k,) [1/m].
    """
    rho = np.maximum(np.sqrt(np.maximum(off2, 0.0)), floor_m)
    return np.asarray((np.arcsinh((length_m - s) / rho) + np.arcsinh(s / rho)) / length_m)
