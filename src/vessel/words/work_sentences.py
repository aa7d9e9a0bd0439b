"""The order of work in words: what each setup does, what to rule out first, and what to do where nothing reaches."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.plan.frequency_order import School
from vessel.core.plan.option_order import pick
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.plan.work_order import Order, Remaining, Visit
from vessel.core.simulate.forecast import Moving
from vessel.core.simulate.hookup_places import NEAR_END
from vessel.core.text.figures import counted, percent, show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.labels import METHOD_LABEL, method_label

OTHERWISE = (
    "Report it as not located until you find it another way: a rod or sonde inside it if it is hollow, the owner's "
    "records and staff, or careful digging by hand at its ends."
)
EARTHING = "Earth it only with the owner's consent and on metal proved dead, and take the earth off again afterwards."
_WORTH_SAYING_M = 0.5
_INSULATES_OHM = 100.0
SCHOOL_FAILS = 0.9
"""A school's pick that proves less than this share of what the best setup does will not do."""


def total_text(setups: int, proved_m: float, wanted_m: float, walked_m: float, units: Units) -> str:
    """Return what the whole order of work is worth: `8 setups make 417 m of 515 m markable. You walk 321 m.`"""
    total = f"{counted(setups, 'setup')} {'makes' if setups == 1 else 'make'} {show_length(proved_m, units)} of "
    total += f"{show_length(wanted_m, units)} markable."
    return f"{total} You walk {show_length(walked_m, units)} between them." if walked_m else total


def nothing_text(line: Line, name: str) -> str:
    """Return what to do where no setup that stands still would prove a stretch worth walking."""
    c = line.construction
    if c.joint_spacing_m > 0 and c.joint_ohm > _INSULATES_OHM:
        return (
            f"The joints of {name} insulate: next to no signal passes one. If its owner agrees, have the joints "
            "between two access points bridged, and enter 1 ohm a joint. Otherwise report it as not located."
        )
    return (
        f"With this kit, no stretch of {name} would be markable. Use another access point, or report the line as not "
        "located. “Rejected” lists the reasons."
    )


def place_text(option: Option, units: Units) -> str:
    """Return where a setup is made: `Clamp at Pedestal 3, 62 m along`."""
    s = option.setup
    at = "" if s.position_m == 0 else f", {show_length(s.position_m, units)} along"
    if s.by.through_air:
        return f"Induction against {option.access}{at}" if option.access else f"Induction{at}"
    return (
        f"{METHOD_LABEL[s.method]} at the {NEAR_END}{at}"
        if option.access == NEAR_END
        else (f"{METHOD_LABEL[s.method]} at {option.access}{at}")
    )


def setup_words(setup: Setup) -> str:
    """Return frequency and output: `8.96 kHz, 60 mA`."""
    return f"{show_hz(setup.freq_hz)}, {show_ma(setup.output_a)}"


def setup_text(setup: Setup, units: Units) -> str:
    """Return a setup in one phrase: `Direct connection, 35.84 kHz, 30 mA`."""
    apart = "" if setup.apart_m is None else f", {show_length(setup.apart_m, units)} apart"
    return f"{method_label(setup)}, {setup_words(setup)}{apart}"


def moving_text(m: Moving, best_m: float, units: Units) -> str:
    """Return what moving induction is worth beside the best setup that stands still, and how it is done."""
    apart, reach, still = (show_length(float(round(v)), units) for v in (m.apart_m, m.proved_m, best_m))
    good = f", {show_length(m.plain_m, units)} of it plainly" if m.plain_m >= _WORTH_SAYING_M else " with care"
    return (
        f"Two people: the transmitter goes {apart} behind the receiver. Then marks can rest on {reach}{good}; "
        f"with a transmitter that stands, on {still}."
    )


def stretch_text(stretches: Sequence[tuple[float, float]], units: Units) -> str:
    """Return stretches of a line: `0 m to 42 m and 60 m to 88 m`."""
    each = [f"{show_length(a, units)} to {show_length(b, units)}" for a, b in stretches]
    return " and ".join([", ".join(each[:-1]), each[-1]] if len(each) > 2 else each)


def rule_out_text(visit: Visit, number: int, order: Order, names: Sequence[str]) -> list[str]:
    """Return what takes signal from a visit's line, and whether it is known by then. `number` counts from 0."""
    first = {names[v.line]: k for k, v in reversed(list(enumerate(order.visits)))}
    found = []
    for name in visit.rule_out:
        if name not in first:
            found.append(f"{name} takes signal and is not in this order of work. Find it first.")
        elif first[name] < number:
            found.append(f"{name} takes signal. You will have traced it by then (step {first[name] + 1}).")
        else:
            found.append(
                f"{name} takes signal and comes later (step {first[name] + 1}). Check for it at every station."
            )
    return found


def remaining_text(r: Remaining, units: Units, *, whole: bool) -> str:
    """Return what no setup proves and what to do about it."""
    where = "any of it" if whole else stretch_text(r.stretches, units)
    text = f"No setup proves {where}. "
    if r.if_earthed is not None and r.earthed_m >= _WORTH_SAYING_M:
        much = show_length(r.earthed_m, units)
        text += f"With its far end earthed, {_setup_text(r.if_earthed, units)} would prove {much} of it. {EARTHING} "
    m = r.moving
    if m is not None and m.proved_m > 0:
        text += (
            f"Moving induction would prove {show_length(m.proved_m, units)}: two people, transmitter "
            f"{show_length(m.apart_m, units)} behind the receiver, {show_hz(m.freq_hz)}, {show_ma(m.output_a)}. "
        )
    return text + OTHERWISE


def if_earthed_text(plan: Plan, units: Units) -> str:
    """Return what having the far end earthed is worth; empty where it would gain nothing to speak of."""
    o = plan.if_earthed
    if o is None:
        return ""
    best = plan.ranked[0] if plan.ranked else None
    what = "this setup" if o is best else _setup_text(o, units)
    then, now = show_length(o.earthed_m, units), show_length(best.proved_m if best else 0.0, units)
    return f"Then {what} would make {then} markable instead of {now}. {EARTHING}"


def _setup_text(o: Option, units: Units) -> str:
    place = place_text(o, units)
    return f"{place[0].lower()}{place[1:]}, {setup_words(o.setup)}"


def school_text(plan: Plan, school: School, units: Units) -> tuple[str, bool]:
    """Return what a school's own pick costs against the best setup, and whether it will do."""
    own, best = pick(plan.ranked, school, plan.wanted_m), plan.ranked[0] if plan.ranked else None
    if own is None or best is None:
        return "No setup works.", False
    reach = show_length(own.proved_m, units)
    bleed = f", bleed-off up to {percent(own.bleed_share)}" if own.bleed_share >= 0.005 else ""
    text = f"{METHOD_LABEL[own.setup.method]}, {setup_words(own.setup)}: {reach} markable{bleed}"
    if own.proved_m < SCHOOL_FAILS * best.proved_m:
        lost = show_length(best.proved_m - own.proved_m, units)
        return f"{text}. Not enough: {lost} less than the best setup.", False
    return f"{text}.", True
