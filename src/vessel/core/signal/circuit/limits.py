"""Where the model reaches its limits, flagged on the answer."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from vessel.core.model.network import Site
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.physics.earth_return import EPS0, skin_depth

_GIVES_BACK = 1e-3  # of the terms' own resistance


@dataclass(frozen=True)
class Validity:
    """A limit of the model that this answer touches: `id`, the `facts` behind it, the figure against its bound."""

    id: str
    facts: Mapping[str, float]
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
                {"deepest_m": deepest, "skin_m": skin},
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
                {"widest_m": widest, "skin_m": skin},
                widest / skin,
                1.0,
            )
        )
    wet = 2 * np.pi * freq_hz * EPS0 * site.soil.rel_permittivity * site.soil.resistivity_ohm_m
    if wet > 0.3:
        flags.append(
            Validity(
                "displacement_current",
                {"resistivity_ohm_m": site.soil.resistivity_ohm_m, "share": float(wet)},
                float(wet),
                0.3,
            )
        )
    return flags


def overlapping_earths(circuit: SiteCircuit) -> list[Validity]:
    """Return a flag if two earths lie closer than their own size.

    An earth of R ohm is as wide as a half sphere of rho/(2 pi R). Nearer than that the model holds both at one
    potential, which is a guess.

    Args:
        circuit: The site's circuit at one frequency.

    Returns:
        The flag for the pair that overlaps most, or nothing.
    """
    mesh = circuit.mesh
    earths = np.flatnonzero(~np.isnan(mesh.earth_ohm))
    size = circuit.soil.resistivity_ohm_m / (2 * np.pi * mesh.earth_ohm[earths])
    at = mesh.nodes_m[earths]
    worst: tuple[float, float, float] | None = None
    for a, b in combinations(range(len(earths)), 2):
        wide, apart = float(max(size[a], size[b])), float(np.linalg.norm(at[a] - at[b]))
        if apart < wide and (worst is None or wide / max(apart, 1e-3) > worst[0]):
            worst = wide / max(apart, 1e-3), apart, wide
    if worst is None:
        return []
    return [Validity("earths_overlap", {"apart_m": worst[1], "size_m": worst[2]}, worst[0], 1.0)]


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
                    {},
                    share,
                    _GIVES_BACK,
                )
            )
    return flags
