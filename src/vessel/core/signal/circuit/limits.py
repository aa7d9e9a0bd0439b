"""Where the model reaches its limits, flagged on the answer."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from vessel.core.model.network import Site
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.physics.earth_return import EPS0, skin_depth

_GIVES_BACK = 1e-3  # of the terms' own resistance


@dataclass(frozen=True)
class Validity:
    """A limit of the model that this answer touches: `id`, a sentence, and the figure against its bound."""

    id: str
    sentence: str
    value: float
    bound: float


def validity(site: Site, *, freq_hz: float) -> list[Validity]:
    """Return the limits of the model that an answer touches.

    Args:
        site: Lines, bonds and soil.
        freq_hz: Signal frequency [Hz].

    Returns:
        Limits, worst first.
    """
    skin = skin_depth(site.soil, freq_hz=freq_hz)
    flags = []
    deepest = max(float(-line.corners_m[:, 2].min()) for line in site.lines)
    if deepest > 0.2 * skin:
        flags.append(
            Validity(
                "depth_against_skin",
                f"The deepest line ({deepest:.3g} m) is not shallow against the skin depth ({skin:.3g} m): the field "
                "of the current in the soil, which is left out, matters to depths and currents read above it.",
                deepest / skin,
                0.2,
            )
        )
    widest = 0.0
    for a, b in combinations(site.lines, 2):
        lo_a, hi_a = a.corners_m[:, :2].min(0), a.corners_m[:, :2].max(0)
        lo_b, hi_b = b.corners_m[:, :2].min(0), b.corners_m[:, :2].max(0)
        widest = max(widest, float(np.hypot(*np.maximum(0.0, np.maximum(lo_a - hi_b, lo_b - hi_a)))))
    if widest > skin:
        flags.append(
            Validity(
                "spacing_against_skin",
                f"Some lines are {widest:.3g} m apart, further than a skin depth ({skin:.3g} m): their coupling is "
                "weak and known only roughly.",
                widest / skin,
                1.0,
            )
        )
    wet = 2 * np.pi * freq_hz * EPS0 * site.soil.rel_permittivity * site.soil.resistivity_ohm_m
    if wet > 0.3:
        flags.append(
            Validity(
                "displacement_current",
                f"In soil of {site.soil.resistivity_ohm_m:g} ohm m displacement current is {wet:.2g} of conduction "
                "current at this frequency: resistivity alone no longer describes it.",
                float(wet),
                0.3,
            )
        )
    return flags


def passivity(circuit: SiteCircuit) -> list[Validity]:
    """Return a flag if approximate mutual terms would let the site give back power.

    Args:
        circuit: The site's circuit at one frequency.

    Returns:
        The flag, or nothing.
    """
    flags = []
    for name, matrix in (("soil", circuit.potentials), ("coupling", circuit.series)):
        real = 0.5 * (matrix + matrix.conj().T).real
        own = np.diag(real)
        kept = np.flatnonzero(own > 0)
        scaled = real[np.ix_(kept, kept)] / np.sqrt(np.outer(own[kept], own[kept]))
        share = float(-np.linalg.eigvalsh(scaled)[0])
        if share > _GIVES_BACK:
            flags.append(
                Validity(
                    f"passive_{name}",
                    f"The {name} terms between some lines are larger here than they can be; currents that bleed off "
                    "between those lines are uncertain.",
                    share,
                    _GIVES_BACK,
                )
            )
    return flags
