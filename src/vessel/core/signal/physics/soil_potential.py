"""Potential that current leaking from one place raises in the soil at another.

A point source holds V = rho I / (2 pi r) at the surface; buried, (1/r + 1/r_image) / (4 pi sigma'), damped by
exp(-m r) as the soil's own propagation constant demands (whose line integral is Sunde's K0).

References:
    [1] E. D. Sunde, Earth Conduction Effects in Transmission Systems (Van Nostrand, 1949), chapter 3.
"""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Mask
from vessel.core.base.complex_functions import decayed, parts
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.earth_return import EPS0, soil_propagation
from vessel.core.signal.physics.inductive_coupling import mean_inverse

_FLOOR_M = 1e-3


class SoilPaths:
    """Geometry of the way through soil between stretches `a` (k, 2, 3) and `b` (l, 2, 3) [m]; points have no length."""

    def __init__(self, a: Floats, b: Floats, *, wanted: Mask, either_way: bool = False) -> None:
        """`wanted` (k, l): the pairs to take; the others have no mutual resistance. `either_way`: `a` is `b`."""
        i, j = np.nonzero(wanted)
        self.shape, self._i, self._j = wanted.shape, i, j
        self._places = (np.flatnonzero(wanted), *((j * wanted.shape[1] + i,) if either_way else ()))
        length_a, length_b = (np.linalg.norm(c[:, 1] - c[:, 0], axis=1) for c in (a, b))
        # the longer of two is integrated over, from the middle of the other and from that middle's mirror image
        (start_a, along_a, mid_a), (start_b, along_b, mid_b) = (
            (c[:, 0].T.copy(), (c[:, 1] - c[:, 0]).T.copy(), c.mean(1).T.copy()) for c in (a, b)
        )
        self._inverse, self._apart = np.empty(len(i)), np.empty(len(i))
        for part in parts(len(i)):
            k, m = i[part], j[part]
            longer_a = length_a[k] > length_b[m]
            length = np.maximum(np.maximum(length_a[k], length_b[m]), 1e-9)
            middle_a, middle_b = mid_a[:, k], mid_b[:, m]
            t = np.where(longer_a, along_a[:, k], along_b[:, m]) / length
            start, point = np.where(longer_a, start_a[:, k], start_b[:, m]), np.where(longer_a, middle_b, middle_a)
            x, y, z = point - start
            up = -point[2] - start[2]
            flat, flat2 = x * t[0] + y * t[1], x * x + y * y
            s, mirrored = flat + z * t[2], flat + up * t[2]
            self._inverse[part] = mean_inverse(s, flat2 + z * z - s * s, length, floor_m=_FLOOR_M)
            self._inverse[part] += mean_inverse(mirrored, flat2 + up * up - mirrored**2, length, floor_m=_FLOOR_M)
            self._apart[part] = np.sqrt(((middle_a - middle_b) ** 2).sum(0))

    def at(self, soil: Soil, *, freq_hz: float, self_a: Floats, self_b: Floats) -> Complex:
        """Return the mutual resistances between the stretches.

        Args:
            soil: Homogeneous soil.
            freq_hz: Frequency [Hz].
            self_a: Resistance of each stretch of `a` to remote soil, shape (k,) [ohm].
            self_b: The same for `b`, shape (l,) [ohm].

        Returns:
            Mutual resistances, shape (k, l) [ohm], none above what either place holds against remote soil itself: an
            earth of R ohm holds the soil within rho/(2 pi R) at its own potential.
        """
        w = 2 * np.pi * freq_hz
        admittivity = 1 / soil.resistivity_ohm_m + 1j * w * EPS0 * soil.rel_permittivity
        phase, rate = abs(admittivity) / admittivity, complex(soil_propagation(soil, freq_hz=freq_hz))
        out = np.zeros(self.shape[0] * self.shape[1], dtype=np.complex128)
        for part in parts(len(self._i)):
            size = self._inverse[part] / (4 * np.pi * abs(admittivity))
            np.minimum(size, self_a[self._i[part]], out=size)
            np.minimum(size, self_b[self._j[part]], out=size)
            found = decayed(rate, self._apart[part])
            found *= size
            found *= phase
            for place in self._places:
                out[place[part]] = found
        return out.reshape(self.shape)
