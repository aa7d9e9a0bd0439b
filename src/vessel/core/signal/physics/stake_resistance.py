"""The ground stake and its lead.

References:
    [1] H. B. Dwight, "Calculation of resistances to ground", Transactions of the AIEE 55 (1936) 1319-1328.
"""

from __future__ import annotations

import numpy as np

from vessel.core.model.construction import COPPER_S_M, Construction
from vessel.core.model.setup import Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.line_parameters import line_params

_LEAD = Construction("solid", 0.8e-3, COPPER_S_M, insulation_m=1.0e-3)
_LEAD_HEIGHT_M = 0.01  # the lead lies on the grass; the buried-wire formula at vanishing depth


def driven_rod_ohm(soil: Soil, *, length_m: float, radius_m: float) -> float:
    """Return the resistance to remote earth of a vertical rod.

    Args:
        soil: Homogeneous soil.
        length_m: Length L in the ground [m].
        radius_m: Radius r [m].

    Returns:
        R = rho / (2 pi L) (ln(4 L / r) - 1) [ohm], after [1].
    """
    rho = soil.resistivity_ohm_m
    return float(rho / (2 * np.pi * length_m) * (np.log(4 * length_m / radius_m) - 1))


def stake_ohm(stake: Stake, soil: Soil) -> float:
    """Return the stake's resistance to remote earth.

    Args:
        stake: Its rods, and what was measured.
        soil: Homogeneous soil.

    Returns:
        The measured resistance if there is one, else that of its rods in parallel, well apart [ohm].
    """
    if stake.measured_ohm is not None:
        return stake.measured_ohm
    return driven_rod_ohm(soil, length_m=stake.length_m, radius_m=stake.radius_m) / stake.rods


def lead_impedance(soil: Soil, *, freq_hz: float, length_m: float) -> complex:
    """Return the series impedance of a stake lead lying on the ground.

    Args:
        soil: Homogeneous soil.
        freq_hz: Frequency [Hz].
        length_m: Length of the lead [m].

    Returns:
        Impedance [ohm]: the buried wire's formula at vanishing depth.
    """
    return line_params(_LEAD, soil, freq_hz=freq_hz, depth_m=_LEAD_HEIGHT_M).z * length_m
