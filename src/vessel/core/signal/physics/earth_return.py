"""Soil as conductor: propagation constant, skin depth and earth-return impedance of a buried wire.

The current of a buried line returns through the soil, spread as wide as the skin depth lets it. That path gives the
line its external inductance and a resistance of pi^2 f 1e-7 ohm a metre.

References:
    [1] O. Saad, G. Gaba and M. Giroux, "A closed-form approximation for ground return impedance of underground cables",
        IEEE Transactions on Power Delivery 11 (1996) 1536-1545.
    [2] L. M. Wedepohl and D. J. Wilcox, "Transient analysis of underground power-transmission systems", Proceedings
        of the IEE 120 (1973) 253-260.
"""

from __future__ import annotations

import numpy as np
from scipy.special import kv

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.soil import Soil

MU0 = 4e-7 * np.pi
EPS0 = 8.8541878128e-12


def soil_propagation(soil: Soil, *, freq_hz: float) -> complex:
    """Return the propagation constant of soil.

    Args:
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].

    Returns:
        m = sqrt(jw mu0 (1/rho + jw eps0 eps_r)) [1/m].
    """
    w = 2 * np.pi * freq_hz
    return complex(np.sqrt(1j * w * MU0 * (1 / soil.resistivity_ohm_m + 1j * w * EPS0 * soil.rel_permittivity)))


def skin_depth(soil: Soil, *, freq_hz: float) -> float:
    """Return the skin depth of soil in which conduction outweighs displacement.

    Args:
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].

    Returns:
        sqrt(2 rho / (w mu0)) [m].
    """
    return float(np.sqrt(2 * soil.resistivity_ohm_m / (2 * np.pi * freq_hz * MU0)))


def earth_return_impedance(soil: Soil, *, freq_hz: float, outer_radius_m: float, depth_m: float) -> complex:
    """Return the earth-return impedance of a buried wire.

    Args:
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].
        outer_radius_m: Radius b over the insulation [m].
        depth_m: Depth h of the wire's centre [m].

    Returns:
        Z_g = (jw mu0 / 2 pi) [K0(m b) + 2 / (4 + m^2 b^2) exp(-2 h m)] [ohm/m], after [1]; its small-argument limit
        is [2].
    """
    m = soil_propagation(soil, freq_hz=freq_hz)
    b = outer_radius_m
    w = 2 * np.pi * freq_hz
    bracket = kv(0, m * b) + 2 / (4 + (m * b) ** 2) * np.exp(-2 * depth_m * m)
    return complex(1j * w * MU0 / (2 * np.pi) * bracket)


def image_depth(soil: Soil, *, freq_hz: float, depths_m: Floats) -> Complex:
    """Return the complex vertical distance to the image of a buried current, seen from another.

    Args:
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].
        depths_m: Sums of two depths z + z', shape (k,) [m]; heights count as negative depths.

    Returns:
        (2/m) exp(1/2 - gamma_E) exp(-(2/3) m (z + z')), shape (k,) [m]: fitted so that long parallel wires have the
        mutual impedance of [2].
    """
    m = soil_propagation(soil, freq_hz=freq_hz)
    return np.asarray(2 / m * np.exp(0.5 - np.euler_gamma) * np.exp(-2 / 3 * m * depths_m))
