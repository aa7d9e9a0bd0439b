"""Limits of the model that an answer touches, in words."""

from __future__ import annotations

from vessel.core.signal.circuit.limits import Validity

_PASSIVE = (
    "The {what} terms between some lines are larger here than they can be. Currents that bleed off between those lines "
    "are uncertain."
)
_LIMITS = {
    "depth_against_skin": (
        "The deepest line ({deepest_m:.3g} m) is not shallow against the skin depth ({skin_m:.3g} m). The current in "
        "the soil takes a good part of its field. Within a skin depth of bends and ends that part is rough."
    ),
    "spacing_against_skin": (
        "Some lines are {widest_m:.3g} m apart, further than a skin depth ({skin_m:.3g} m). Their coupling is weak and "
        "known only roughly."
    ),
    "displacement_current": (
        "In soil of {resistivity_ohm_m:g} ohm m displacement current is {share:.2g} of conduction current at this "
        "frequency. Resistivity alone no longer describes it."
    ),
    "earths_overlap": (
        "Two earths are {apart_m:.3g} m apart, and the larger is some {size_m:.3g} m wide. Earths that overlap share "
        "the soil between them in a way the model only guesses."
    ),
    "passive_soil": _PASSIVE.replace("{what}", "soil"),
    "passive_coupling": _PASSIVE.replace("{what}", "coupling"),
}


def limit_text(v: Validity) -> str:
    """Return what a limit means for the answer."""
    return _LIMITS[v.id].format(**v.facts)
