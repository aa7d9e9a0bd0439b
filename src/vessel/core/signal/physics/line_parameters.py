"""Series impedance and shunt admittance per metre of a buried line.

The current of a line falls because each metre has a series impedance (metal, insulation's inductance, earth return)
and a shunt admittance (leakage and capacitance of the covering, in series with the soil).

References:
    [1] E. D. Sunde, Earth Conduction Effects in Transmission Systems (Van Nostrand, 1949), chapters 4 and 5.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.model.construction import Construction
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.conductor import internal_impedance
from vessel.core.signal.physics.earth_return import EPS0, MU0, earth_return_impedance, soil_propagation


@dataclass(frozen=True)
class LineParams:
    """`z` [ohm/m], `y` [S/m] of a line at one frequency; soil part of the shunt path is `y_soil` [S/m]."""

    z: complex
    y: complex
    y_soil: complex

    @property
    def gamma(self) -> complex:
        """Propagation constant sqrt(z y) [1/m]."""
        return complex(np.sqrt(self.z * self.y))

    @property
    def zc(self) -> complex:
        """Characteristic impedance sqrt(z / y) [ohm]."""
        return complex(np.sqrt(self.z / self.y))


def line_params(c: Construction, soil: Soil, *, freq_hz: float, depth_m: float) -> LineParams:
    """Return the per-metre properties of a line.

    Args:
        c: Its construction; radius a of the metal, b over the insulation.
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].
        depth_m: Depth of its centre [m].

    Returns:
        Z' = Z_int + (jw mu0 / 2 pi) ln(b/a) + Z_g [ohm/m] and Y' = (1/Y_ins + 1/Y_g)^-1 [S/m] with Y_g = m^2/Z_g,
        after [1]; bare metal has Y' = Y_g. Joints are not in it: they are lumped.
    """
    w = 2 * np.pi * freq_hz
    z_g = earth_return_impedance(soil, freq_hz=freq_hz, outer_radius_m=c.outer_radius_m, depth_m=depth_m)
    y_soil = soil_propagation(soil, freq_hz=freq_hz) ** 2 / z_g
    z = internal_impedance(c, freq_hz=freq_hz) + z_g
    if c.bare:
        return LineParams(z, y_soil, y_soil)
    log_ba = np.log(c.outer_radius_m / c.radius_m)
    z += 1j * w * MU0 / (2 * np.pi) * log_ba
    leak = c.coating_s_m2 * 2 * np.pi * c.outer_radius_m
    y_ins = leak + 1j * w * 2 * np.pi * EPS0 * c.insulation_eps_r / log_ba
    return LineParams(complex(z), complex(1 / (1 / y_ins + 1 / y_soil)), y_soil)
