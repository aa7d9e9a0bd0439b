"""Sentences for a diagnosis, in the user's units."""

from __future__ import annotations

from vessel.core.diagnose.diagnosis import Diagnosis, Hypothesis
from vessel.core.model.readings import Beside, Change
from vessel.core.text.figures import show_hz, show_length
from vessel.core.text.units import Units

CAUSE_TITLE: dict[str, str] = {
    "far_earthed": "Good loop, far end earthed",
    "far_open": "Far end not earthed",
    "poor_stake": "Poor ground stake",
    "bad_clip": "Bad clip contact",
    "break": "Line broken before its end",
    "earth_fault": "Line touches earth on the way",
    "bonded": "Bonded to a line beside it",
}
CAUSE_REMEDY: dict[str, str] = {
    "far_earthed": "Go on with the first sweep.",
    "far_open": "Earth the far end and watch the current jump, or stay at a frequency that leaks to the soil.",
    "poor_stake": "Drive the stake deeper, wet it, or add a second one.",
    "bad_clip": "Transmitter off. Scrape the metal bright and set the clip again.",
    "break": (
        "Hook up from the other end: the break is where both signals stop. Raise the frequency only at low output."
    ),
    "earth_fault": "Trace to where the current drops in one step: the fault is there.",
    "bonded": "Look for the bond and enter it. Sweep a full circle: past the bond both lines carry the signal.",
}
_MENDED_TITLE: dict[str, str] = {
    "far_open": "The far end was open; earthed now",
    "bad_clip": "The clip was bad; cleaned now",
    "poor_stake": "The stake was poor; better now",
    "bonded": "It was bonded to a line beside it; opened now",
}
_MENDED_REMEDY: dict[str, str] = {
    "far_open": "Go on with the first sweep. Take the earth at the far end off again when you leave.",
    "bad_clip": "Go on with the first sweep.",
    "poor_stake": "Go on with the first sweep.",
    "bonded": "Go on with the first sweep. The bond must be closed again when you leave.",
}


def cause_title(h: Hypothesis) -> str:
    """Return what an explanation is, as things stand after what was changed."""
    return _MENDED_TITLE[h.family.id] if h.mended else CAUSE_TITLE[h.family.id]


def cause_remedy(h: Hypothesis) -> str:
    """Return what to do if an explanation is right, as things stand now."""
    return _MENDED_REMEDY[h.family.id] if h.mended else CAUSE_REMEDY[h.family.id]


_ROUGH_M = 10.0


def _quoted(h: Hypothesis) -> str:
    return f"“{cause_title(h).lower()}”"


def _span(low: str, high: str) -> str:
    return low if low == high else f"{low} to {high}"


def _whole(length_m: float, units: Units) -> str:
    """A length that readings tell no finer than to a metre."""
    return show_length(float(round(length_m)) if length_m >= _ROUGH_M else length_m, units)


def explain(h: Hypothesis, *, line_m: float, units: Units) -> str:
    """Return one sentence that says what the hypothesis means here, with its figures."""
    low, high = h.parameter_range
    key = h.family.id
    if key == "far_earthed":
        return f"Current returns through an earth of about {_span(f'{low:.0f}', f'{high:.0f}')} ohm at the far end."
    lengths = _span(_whole(low, units), _whole(high, units))
    if h.mended and key == "far_open":
        return f"Before, the wire carried only what it leaks. Now current returns through about {h.far_ohm:.0f} ohm."
    if h.mended:
        return "What was in the way before is gone: volts and milliamps fit a sound loop now."
    if key == "far_open" and not low * 0.8 < line_m < high * 1.25:
        return (
            f"The wire seems to end about {lengths} along, not at {show_length(line_m, units)} as entered. It is "
            "carrying only the current it leaks to the soil. Correct the length if that is its end."
        )
    if key == "far_open":
        return f"About {lengths} of wire is carrying only the current it leaks to the soil."
    if key == "break":
        return (
            f"The loop looks open about {lengths} along the line, which is {show_length(line_m, units)} long: "
            "past that, no signal from here."
        )
    if key == "earth_fault":
        return f"The metal probably touches earth about {lengths} from here."
    if key == "bonded":
        return f"Much of the current probably goes to {h.best.faults[0].name}, through a bond about {lengths} along."
    if key == "poor_stake":
        return f"The stake takes about {_span(f'{low:.1f}', f'{high:.1f}')} times the resistance this soil should give."
    return f"About {_span(f'{low:.0f}', f'{high:.0f}')} ohm sits in the clip or its contact."


def advice(d: Diagnosis) -> str:
    """Return the one extra reading or change that best separates the two leaders."""
    both = f"{_quoted(d.hypotheses[0])} from {_quoted(d.rival)}"
    if d.next_reading.freq_hz is not None:
        return f"To tell {both}, read volts and milliamps at {show_hz(d.next_reading.freq_hz)}."
    if d.next_reading.beside:
        bonded = next(h for h in (d.hypotheses[0], d.rival) if h.family.id == "bonded")
        return (
            f"To tell {both}, read the current on {bonded.best.faults[0].name} too, along this line. More than a fifth "
            "of this line's: it carries signal. Enter that with the next reading."
        )
    if d.next_reading.look_far:
        return (
            "Check whether the far end is earthed, and enter it. If it is not, the line touches earth on the way: "
            "on the trace the current drops there in one step."
        )
    if d.next_reading.change is None:
        return f"The transmitter cannot tell {both}. Plan for both until the trace shows which it is."
    if d.next_reading.change == "bond":
        bonded = next(h for h in (d.hypotheses[0], d.rival) if h.family.id == "bonded")
        return (
            f"No frequency tells {both}. Transmitter off. If its owner agrees, have the bond to "
            f"{bonded.best.faults[0].name} opened, then read again. Otherwise read each conductor past it: if the "
            "other one carries signal, they are bonded."
        )
    return f"No frequency tells {both}. Transmitter off, {_DO[d.next_reading.change]}, then read again."


_DO: dict[Change, str] = {
    "stake": "wet the stake or drive it deeper",
    "clip": "scrape the metal bright and set the clip again",
    "far": "earth the far end",
    "bond": "have the bond opened",
}
BESIDE_LABEL: dict[Beside, str] = {
    "quiet": "lines beside carry no signal to speak of",
    "carries": "a line beside carries signal",
}
CHANGE_LABEL: dict[Change, str] = {
    "stake": "stake deeper or wetted",
    "clip": "clip cleaned",
    "far": "far end earthed",
    "bond": "bond opened",
}
