"""Potential that current leaking from one place raises in the soil at another.

A point source holds V = rho I / (2 pi r) at the surface; buried, (1/r + 1/r_image) / (4 pi sigma'), damped by
exp(-m r) as the soil's own propagation constant demands (whose line integral is Sunde's K0).
"""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.soil import Soil
from vessel.core.signal.complexes import decayed
from vessel.core.signal.coupling import mean_inverse_distance
from vessel.core.signal.earth_return import EPS0, soil_propagation

Floats = NDArray[np.float64]
Complex = NDArray[np.complex128]

_FLOOR_M = 1e-3


class SoilPaths:
    """Geometry of the way through soil between stretches `a` (k, 2, 3) and `b` (l, 2, 3) [m]; points have no length."""

    def __init__(self, a: Floats, b: Floats, *, wanted: NDArray[np.bool_]) -> None:
        """`wanted` (k, l): the pairs to take; the others have no mutual resistance."""
        i, j = np.nonzero(wanted)
        self.shape, self._i, self._j, self._place = wanted.shape, i, j, np.flatnonzero(wanted)
        la, lb = (np.linalg.norm(c[:, 1] - c[:, 0], axis=1) for c in (a, b))
        longer_a = (la[i] > lb[j])[:, None]
        mid_a, mid_b = a.mean(1), b.mean(1)
        start = np.where(longer_a, a[i, 0], b[j, 0])
        along = np.where(longer_a, (a[:, 1] - a[:, 0])[i], (b[:, 1] - b[:, 0])[j])
        point = np.where(longer_a, mid_b[j], mid_a[i])
        floor = np.full(len(i), _FLOOR_M)
        mirror = point * np.array([1.0, 1.0, -1.0])
        self._inverse = sum(mean_inverse_distance(p, start, along, floor_m=floor) for p in (point, mirror))
        self._apart = np.linalg.norm(mid_a[i] - mid_b[j], axis=1)

    def at(self, soil: Soil, *, freq_hz: float, self_a: Floats, self_b: Floats) -> Complex:
        """Return the mutual resistances (k, l) [ohm], none above what either place holds against remote soil itself.

        `self_a` (k,), `self_b` (l,) [ohm]. An earth of R ohm holds the soil within rho/(2 pi R) at its own potential.
        """
        w = 2 * np.pi * freq_hz
        admittivity = 1 / soil.resistivity_ohm_m + 1j * w * EPS0 * soil.rel_permittivity
        out = np.zeros(self.shape[0] * self.shape[1], dtype=np.complex128)
        size = self._inverse / (4 * np.pi * abs(admittivity))
        size = np.minimum(size, np.minimum(self_a[self._i], self_b[self._j]))
        phase = abs(admittivity) / admittivity
        rate = complex(soil_propagation(soil, freq_hz=freq_hz))
        out[self._place] = size * phase * decayed(rate, self._apart)
        return out.reshape(self.shape)
