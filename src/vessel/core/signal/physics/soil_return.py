"""The field above ground of the current that returns through the soil under a long buried line.

A line's current comes back spread in the soil, and takes part of the line's field away: to first order (2/3)|m| d of
it at a depth d. The whole field of a long line at depth h, read at height z and offset x, is [1, 2]

    Bx = (mu0 I/pi) integral_0^inf lambda/(u + lambda) exp(-lambda z - u h) cos(lambda x) d lambda,
    u = sqrt(lambda^2 + m^2), Bz with sin(lambda x);

without soil (m = 0) it is Biot and Savart's. The difference depends on |m| h, |m| x and |m| z alone and is tabulated
once. Displacement currents in the soil are left out of it: they turn m by a few degrees where it is small anyway.

References:
    [1] F. Pollaczek, "Ueber das Feld einer unendlich langen wechselstromdurchflossenen Einfachleitung", Elektrische
        Nachrichtentechnik 3 (1926) 339-359.
    [2] J. R. Wait, "Electromagnetic Waves in Stratified Media", Pergamon Press (1962).
"""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import numpy as np
from numpy.polynomial.legendre import leggauss
from scipy.ndimage import map_coordinates

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.earth_return import soil_propagation

DEEPEST = 2.5
"""Greatest |m| h the table holds; deeper lines are taken to lie there."""
_WIDEST, _HIGHEST = 6.0, 1.5
_SHAPE = (56, 56, 16)
_PANELS = (0.0, 0.02, 0.2, 1.0, 3.0, 8.0, 16.0, 24.0, 32.0, 40.0, 60.0, 90.0, 140.0, 220.0)


def soil_per_m(soil: Soil, *, freq_hz: float) -> float:
    """Return how soon a soil's return current matters.

    Args:
        soil: Homogeneous soil.
        freq_hz: Signal frequency [Hz].

    Returns:
        |m| [1/m], the root of two over the skin depth.
    """
    return float(abs(soil_propagation(soil, freq_hz=freq_hz)))


def soil_return(per_m: float, depth_m: Any, offset_m: Any, height_m: Any) -> tuple[Complex, Complex]:
    """Return what the return current of a long line adds to its field.

    Args:
        per_m: |m| of the soil [1/m].
        depth_m: Depth of the line, any shape [m].
        offset_m: Where it is read, left of the line [m].
        height_m: Height above ground [m].

    Returns:
        Horizontal and vertical part, of the broadcast shape, in units of mu0 I / (2 pi) [1/m]: to be added to
        (h + z)/r^2 and x/r^2. For a current of phase 0.
    """
    depth, offset, height = np.broadcast_arrays(depth_m, offset_m, height_m)
    places = [
        np.sqrt(np.clip(per_m * np.abs(value) / most, 0.0, 1.0)) * (count - 1)
        for value, most, count in zip((depth, offset, height), (DEEPEST, _WIDEST, _HIGHEST), _SHAPE, strict=True)
    ]
    flat = [each.reshape(-1) for each in places]
    horizontal, vertical = (
        per_m * (map_coordinates(t[0], flat, order=1) + 1j * map_coordinates(t[1], flat, order=1)).reshape(depth.shape)
        for t in _table()
    )
    return horizontal, vertical * np.sign(offset)


@lru_cache(maxsize=1)
def _table() -> tuple[tuple[Floats, Floats], tuple[Floats, Floats]]:
    """Real and imaginary part of both differences over the roots of |m| h, |m| x and |m| z, in units of |m|."""
    h, x, z = (
        most * np.linspace(0.0, 1.0, count) ** 2
        for most, count in zip((DEEPEST, _WIDEST, _HIGHEST), _SHAPE, strict=True)
    )
    node, weight = leggauss(60)
    edges = np.array(_PANELS)
    half = 0.5 * np.diff(edges)[:, None]
    t = (half * node + 0.5 * (edges[1:] + edges[:-1])[:, None]).reshape(-1)
    u = np.sqrt(t * t + 1j)
    down = 2 * t / (u + t) * np.exp(-u * h[:, None]) - np.exp(-t * h[:, None])
    up = np.exp(-t * z[:, None])
    found = []
    for wave in (np.cos(t * x[:, None]), np.sin(t * x[:, None])):
        across = (half * weight).reshape(-1) * wave
        values = np.stack([(part * up) @ across.T for part in down]).swapaxes(1, 2)
        found.append((np.ascontiguousarray(values.real), np.ascontiguousarray(values.imag)))
    return found[0], found[1]
