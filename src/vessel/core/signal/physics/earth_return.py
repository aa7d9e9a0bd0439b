"""Soil as conductor: propagation constant, skin depth and earth-return impedance of a buried wire."""

from __future__ import annotations

import numpy as np
from scipy.special import kv

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.soil import Soil

MU0 = 4e-7 * np.pi
EPS0 = 8.8541878128e-12


def soil_propagation(soil: Soil, *, freq_hz: float) -> complex:
    """Return m = sqrt(jw mu0 (1/rho + jw eps0 eps_r)) [1/m] at `freq_hz` [Hz]."""
    w = 2 * np.pi * freq_hz
    return complex(np.sqrt(1j * w * MU0 * (1 / soil.resistivity_ohm_m + 1j * w * EPS0 * soil.rel_permittivity)))


def skin_depth(soil: Soil, *, freq_hz: float) -> float:
    """Return the skin depth sqrt(2 rho / (w mu0)) [m] of good-conducting soil at `freq_hz` [Hz]."""
    return float(np.sqrt(2 * soil.resistivity_ohm_m / (2 * np.pi * freq_hz * MU0)))


def earth_return_impedance(soil: Soil, *, freq_hz: float, outer_radius_m: float, depth_m: float) -> complex:
    """Return the earth-return impedance [ohm/m] of a wire at `depth_m` [m], radius over insulation [m].

    Z_g = (jw mu0 / 2 pi) [K0(m b) + 2 / (4 + m^2 b^2) exp(-2 h m)]; Saad, Gaba and Giroux (1996), whose
    small-argument limit is Wedepohl and Wilcox (1973).
    """
    m = soil_propagation(soil, freq_hz=freq_hz)
    b = outer_radius_m
    w = 2 * np.pi * freq_hz
    bracket = kv(0, m * b) + 2 / (4 + (m * b) ** 2) * np.exp(-2 * depth_m * m)
    return complex(1j * w * MU0 / (2 * np.pi) * bracket)


def mutual_earth_return(soil: Soil, *, freq_hz: float, spacing_m: float, depths_m: float, across_m: float) -> complex:
    """Return the mutual earth-return impedance [ohm/m] of two long parallel wires.

    Z_m = (jw mu0 / 2 pi) [K0(m D) + 2 / (4 + m^2 x^2) exp(-m (h1 + h2))]; Saad, Gaba and Giroux (1996). `spacing_m`
    is the direct distance D, `across_m` its horizontal part x, `depths_m` the sum of the depths h1 + h2 [m].
    """
    m = soil_propagation(soil, freq_hz=freq_hz)
    bracket = kv(0, m * spacing_m) + 2 / (4 + (m * across_m) ** 2) * np.exp(-m * depths_m)
    return complex(1j * 2 * np.pi * freq_hz * MU0 / (2 * np.pi) * bracket)


def image_depth(soil: Soil, *, freq_hz: float, depths_m: Floats) -> Complex:
    """Return the complex vertical distance (k,) [m] to the image of a buried current seen from another.

    (2/m) exp(1/2 - gamma_E) exp(-(2/3) m (z + z')), `depths_m` = z + z' (k,) [m]; fitted so that long parallel wires
    give the mutual impedance of Wedepohl and Wilcox (1973). Heights count as negative depths.
    """
    m = soil_propagation(soil, freq_hz=freq_hz)
    return np.asarray(2 / m * np.exp(0.5 - np.euler_gamma) * np.exp(-2 / 3 * m * depths_m))
