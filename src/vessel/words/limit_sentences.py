"""Limits of the model that an answer touches, in words."""

from __future__ import annotations

from vessel.core.signal.circuit.limits import Validity

_PASSIVE = (
    "The {what} terms between some lines are larger here than they can be. Currents that bleed off between those lines "
    "are uncertain."
)
_LIMITS = {
    "depth_against_skin": (
        "The deepest line ({deepest_m:.3g} m) is not shallow against the skin depth ({skin_m:.3g} m). The field of the "
        "current in the soil, which is left out, matters to depths and currents read above it."
    ),
    "spacing_against_skin": (
        "Some lines are {widest_m:.3g} m apart, further than a skin depth ({skin_m:.3g} m). Their coupling is weak and "
        "known only roughly."
    ),
    "displacement_current": (
        "In soil of {resistivity_ohm_m:g} ohm m displacement current is {share:.2g} of conduction current at this "
        "frequency. Resistivity alone no longer describes it."
    ),
    "passive_soil": _PASSIVE.replace("{what}", "soil"),
    "passive_coupling": _PASSIVE.replace("{what}", "coupling"),
}


def limit_text(v: Validity) -> str:
    """Return what a limit means for the answer."""
    return _LIMITS[v.id].format(**v.facts)
