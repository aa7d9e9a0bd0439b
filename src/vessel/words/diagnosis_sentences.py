"""Sentences for a diagnosis, in the user's units."""

from __future__ import annotations

from vessel.core.diagnose.ranking import Diagnosis, Hypothesis
from vessel.core.model.readings import Change
from vessel.core.text.figures import show_hz, show_length
from vessel.core.text.units import Units


def _span(low: str, high: str) -> str:
    return low if low == high else f"{low} to {high}"


def explain(h: Hypothesis, *, line_m: float, units: Units) -> str:
    """Return one sentence that says what the hypothesis means here, with its figures."""
    low, high = h.parameter_range
    key = h.family.id
    if key == "far_earthed":
        return f"Current returns through an earth of about {_span(f'{low:.0f}', f'{high:.0f}')} ohm at the far end."
    lengths = _span(show_length(low, units), show_length(high, units))
    if key == "far_open":
        return f"About {lengths} of wire is carrying only the current it leaks to the soil."
    if key == "break":
        return (
            f"The loop looks open about {lengths} along the line, which is {show_length(line_m, units)} long: "
            "what lies beyond carries no signal from here."
        )
    if key == "earth_fault":
        return f"The metal seems to reach earth about {lengths} from here."
    if key == "bonded":
        return f"Much of the current seems to go over to {h.best.faults[0].name}, by a bond about {lengths} along."
    if key == "poor_stake":
        return f"The stake takes about {_span(f'{low:.1f}', f'{high:.1f}')} times the resistance this soil should give."
    return f"About {_span(f'{low:.0f}', f'{high:.0f}')} ohm sits in the clip or its contact."


def advice(d: Diagnosis) -> str:
    """Return the one extra reading or change that best separates the two leaders."""
    first, second = d.hypotheses[0].family, d.rival.family
    if d.next_reading.freq_hz is not None:
        return (
            f"To tell “{first.title.lower()}” from “{second.title.lower()}”, read volts and milliamps at "
            f"{show_hz(d.next_reading.freq_hz)}."
        )
    if d.next_reading.change is None and {first.id, second.id} == {"far_earthed", "earth_fault"}:
        return (
            "Look whether the far end is earthed, and enter it. If it is not, the line touches earth on the way: "
            "on the trace the current drops there in one step."
        )
    if d.next_reading.change is None:
        return (
            f"“{first.title}” and “{second.title.lower()}” cannot be told apart from the transmitter: take either for "
            "possible until the trace shows it."
        )
    return (
        f"No frequency tells “{first.title.lower()}” from “{second.title.lower()}”. Transmitter off, "
        f"{_DO[d.next_reading.change]}, then read again."
    )


_DO: dict[Change, str] = {
    "stake": "wet the stake or drive it deeper",
    "clip": "scrape the metal bright and set the clip again",
    "far": "have somebody earth the far end",
}
CHANGE_LABEL: dict[Change, str] = {
    "stake": "stake deeper or wetted",
    "clip": "clip cleaned",
    "far": "far end earthed",
}
