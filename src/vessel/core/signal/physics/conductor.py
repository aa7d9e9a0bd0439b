"""Internal impedance of a conductor: solid wire, tube, copper-clad wire.

The current of a conductor crowds to its surface as the frequency rises; what is left of the cross-section sets
resistance and internal inductance. All Bessel functions are exponentially scaled, so thick steel at high frequency
does not overflow.

References:
    [1] S. A. Schelkunoff, "The electromagnetic theory of coaxial transmission lines and cylindrical shields", Bell
        System Technical Journal 13 (1934) 532-579.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from scipy.special import ive, kve

from vessel.core.model.construction import Construction
from vessel.core.signal.physics.earth_return import MU0


def metal_propagation(*, freq_hz: float, conductivity_s_m: float, rel_permeability: float) -> complex:
    """Return the propagation constant of a metal.

    Args:
        freq_hz: Frequency [Hz].
        conductivity_s_m: Conductivity [S/m].
        rel_permeability: Relative permeability [-].

    Returns:
        m = sqrt(jw mu sigma) [1/m].
    """
    return complex(np.sqrt(2j * np.pi * freq_hz * MU0 * rel_permeability * conductivity_s_m))


def solid_wire(*, freq_hz: float, radius_m: float, conductivity_s_m: float, rel_permeability: float) -> complex:
    """Return the internal impedance of a solid round wire.

    Args:
        freq_hz: Frequency [Hz].
        radius_m: Radius a of the metal [m].
        conductivity_s_m: Conductivity sigma [S/m].
        rel_permeability: Relative permeability [-].

    Returns:
        Z = m I0(ma) / (2 pi a sigma I1(ma)) [ohm/m], eq. 74 of [1].
    """
    m = metal_propagation(freq_hz=freq_hz, conductivity_s_m=conductivity_s_m, rel_permeability=rel_permeability)
    ratio = ive(0, m * radius_m) / ive(1, m * radius_m)
    return complex(m / (2 * np.pi * radius_m * conductivity_s_m) * ratio)


def tube_surfaces(
    *, freq_hz: float, inner_m: float, outer_m: float, conductivity_s_m: float, rel_permeability: float
) -> tuple[complex, complex, complex]:
    """Return the surface impedances of a tube, and the transfer impedance between its surfaces.

    Args:
        freq_hz: Frequency [Hz].
        inner_m: Inner radius [m].
        outer_m: Outer radius [m].
        conductivity_s_m: Conductivity [S/m].
        rel_permeability: Relative permeability [-].

    Returns:
        Outer surface, inner surface and transfer impedance [ohm/m], eq. 75 to 82 of [1].

    Notes:
        Each product of Bessel functions is divided by exp(Re(m outer) - m inner) before it is formed.
    """
    m = metal_propagation(freq_hz=freq_hz, conductivity_s_m=conductivity_s_m, rel_permeability=rel_permeability)
    a, b = m * inner_m, m * outer_m
    # ive carries exp(-Re), kve carries exp(+z): I(b) K(a) keeps exactly exp(Re b - a), K(b) I(a) this times it
    decay = np.exp(a.real - b.real + a - b)
    i0b_k1a, i1b_k1a = ive(0, b) * kve(1, a), ive(1, b) * kve(1, a)
    k0b_i1a, k1b_i1a = kve(0, b) * ive(1, a) * decay, kve(1, b) * ive(1, a) * decay
    i0a_k1b, k0a_i1b = ive(0, a) * kve(1, b) * decay, kve(0, a) * ive(1, b)
    d = i1b_k1a - k1b_i1a
    outer = m / (2 * np.pi * outer_m * conductivity_s_m) * (i0b_k1a + k0b_i1a) / d
    inner = m / (2 * np.pi * inner_m * conductivity_s_m) * (i0a_k1b + k0a_i1b) / d
    transfer = np.exp(a - b.real) / (2 * np.pi * inner_m * outer_m * conductivity_s_m) / d
    return complex(outer), complex(inner), complex(transfer)


@lru_cache(maxsize=1024)  # it is asked for in every soil, and of lines that are made alike
def internal_impedance(c: Construction, *, freq_hz: float) -> complex:
    """Return the internal impedance of a construction, its current returning outside.

    Args:
        c: Solid, tube, or a solid core under a skin of another metal.
        freq_hz: Frequency [Hz].

    Returns:
        Impedance [ohm/m]; of clad wire Z_outer - Z_transfer^2 / (Z_inner + Z_core), two layers in contact [1].
    """
    if c.metal == "solid":
        return solid_wire(
            freq_hz=freq_hz,
            radius_m=c.radius_m,
            conductivity_s_m=c.conductivity_s_m,
            rel_permeability=c.rel_permeability,
        )
    inner_m = max(c.radius_m - c.wall_m, 1e-6)
    outer, inner, transfer = tube_surfaces(
        freq_hz=freq_hz,
        inner_m=inner_m,
        outer_m=c.radius_m,
        conductivity_s_m=c.conductivity_s_m,
        rel_permeability=c.rel_permeability,
    )
    if c.metal == "tube":
        return outer
    core = solid_wire(
        freq_hz=freq_hz,
        radius_m=inner_m,
        conductivity_s_m=c.core_conductivity_s_m,
        rel_permeability=c.core_rel_permeability,
    )
    # two coaxial layers in contact: the skin's inner surface is loaded by the core
    return outer - transfer**2 / (inner + core)
