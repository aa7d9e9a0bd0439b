"""What would help, in words: each remedy's gain, what the transmitter should show then, what to watch."""

from __future__ import annotations

from vessel.core.remedies.moving_remedies import MovingRemedies
from vessel.core.remedies.remedy_search import ENOUGH, Outcome, Remedies, Remedy
from vessel.core.simulate.forecast import Moving
from vessel.core.simulate.hookup_places import NEAR_END
from vessel.core.text.figures import show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.diagnosis_sentences import CAUSE_TITLE
from vessel.words.labels import METHOD_LABEL
from vessel.words.work_sentences import OTHERWISE, setup_words

_ROUGH_M = 10.0
_DO = {
    "stake": "Drive the stake deeper, wet it, or add a second one",
    "clip": "Clean the metal and set the clip again",
    "far": "Earth the far end",
}
_OFF = "Transmitter off before a lead, the stake or the clamp is touched."
_CAUTION = {
    "stake": _OFF,
    "clip": _OFF,
    "far": "Only for staff allowed to work there. Never on a live conductor.",
    "unbond": "Bonds protect people. Only the owner's staff may open one, and they put it back.",
}


def _name(cause: str) -> str:
    return CAUSE_TITLE.get(cause, "")


def title(r: Remedy, units: Units) -> str:
    """Return what to do: `Earth the far end`, `Clamp at Pedestal 3: 8.96 kHz, 60 mA`."""
    s = r.setup
    if r.kind in _DO:
        return f"{_DO[r.kind]}, then go to {setup_words(s)}" if r.also else _DO[r.kind]
    if r.kind == "unbond":
        return f"Have the bond to {r.name} opened"
    if r.kind == "output":
        return f"Ask for {show_ma(s.output_a)}"
    if r.kind == "frequency":
        return f"Go to {show_hz(s.freq_hz)}, {show_ma(s.output_a)}"
    if r.kind == "spot":
        return f"Stake on another spot, {show_length(s.stake.away_m, units)} off: {setup_words(s)}"
    where = f"{show_length(s.position_m, units)} along"
    at = f", {where}" if not r.name else f" at the {NEAR_END}" if r.name == NEAR_END else f" at {r.name}, {where}"
    return f"{METHOD_LABEL[s.method]}{at}: {setup_words(s)}"


def caution(r: Remedy) -> str:
    """Return what to watch with a remedy; empty where the safe order of a new hookup says it."""
    return _CAUTION.get(r.kind, "")


def _about(length_m: float, units: Units) -> str:
    """A forecast length: no finer than it is known."""
    return show_length(float(round(length_m)) if length_m >= _ROUGH_M else length_m, units)


def _from_to(now: Outcome, then: Outcome, units: Units) -> str:
    return f"{_about(now.proved_m, units)} → {_about(then.proved_m, units)}"


def gain_text(r: Remedy, of: Remedies, units: Units) -> str:
    """Return what a remedy would change: `12 m → 62 m of 80 m can be proved`, for each explanation still likely."""
    whole = _about(of.wanted_m, units)
    each = [_from_to(a, b, units) for a, b in zip(of.now, r.then, strict=True)]
    if len(each) == 1:
        return f"{each[0]} of {whole} markable."
    by = [f"{text} if it is “{_name(name).lower()}”" for text, (name, _) in zip(each, of.assumed, strict=True)]
    return f"Markable of {whole}: {', '.join(by)}."


def expect_text(r: Remedy) -> str:
    """Return what the transmitter should show then if the likeliest explanation is right; empty if it cannot tell."""
    out = r.then[0].forecast.output
    if out.volts is None or out.amps is None:
        return ""
    return f"The transmitter should then show about {out.volts:.1f} V, {show_ma(out.amps)}."


def headline(of: Remedies, units: Units) -> str:
    """Return how the hookup stands and whether anything that was tried reaches what is wanted."""
    now_m, whole = of.proved_m(of.now), _about(of.wanted_m, units)
    stands = f"With this hookup, expect about {_about(now_m, units)} of {whole} to be markable."
    if now_m >= ENOUGH * of.wanted_m:
        return f"{stands} Nothing else is needed yet."
    if not of.helping:
        left = OTHERWISE[0].lower() + OTHERWISE[1:]
        return f"{stands} No change gains more. For the rest: {left}"
    if of.most_m < ENOUGH * of.wanted_m:
        most = _about(of.most_m, units)
        return f"{stands} One or two changes get no further than about {most}. Part of the line will stay not located."
    return stands


def moving_title(m: Moving, units: Units) -> str:
    """Return another way to walk with moving induction: `Go to 8.96 kHz, 12 m apart`."""
    return f"Go to {show_hz(m.freq_hz)}, {show_length(m.apart_m, units)} apart"


def moving_gain(m: Moving, of: MovingRemedies, units: Units) -> str:
    """Return what it would change: `310 m → 720 m of 900 m markable.`"""
    then, whole = _about(m.proved_m, units), _about(of.wanted_m, units)
    return f"{_about(of.now.proved_m, units)} → {then} of {whole} markable."


def moving_headline(of: MovingRemedies, units: Units) -> str:
    """Return how moving induction stands and whether another way to walk it gains something."""
    now_m, whole = of.now.proved_m, _about(of.wanted_m, units)
    stands = f"Walked this way, expect about {_about(now_m, units)} of {whole} to be markable."
    if now_m >= ENOUGH * of.wanted_m:
        return f"{stands} Nothing else is needed yet."
    if of.helping:
        return stands
    return f"{stands} No other frequency or distance apart gains more. The plan shows setups that stand still."
