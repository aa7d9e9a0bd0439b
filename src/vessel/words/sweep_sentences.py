"""The first sweep in words: where to walk, what each centre line is taken for, what keeps it from being sure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.hookup.expected_sweep import Circle
from vessel.core.judge.sweep_verdict import LEAST_SHARE, Doubt, Role, SweepVerdict
from vessel.core.model.first_sweep import Candidate, Crossing
from vessel.core.text.figures import percent, show_length, show_ma
from vessel.core.text.units import Units


@dataclass(frozen=True)
class Concern:
    """What keeps a sweep from being sure, and what would make it so."""

    text: str
    do: str


_CONCERNS: dict[Doubt, Concern] = {
    "none_met": Concern(
        "No centre line fits this line.",
        "Turn the receiver to the transmitter's frequency, look again where it should cross, then check the circuit.",
    ),
    "air": Concern(
        "Lifted, the signal hardly falls: the receiver hears the transmitter through the air.",
        "Walk a wider circle, or turn the output down, and read again.",
    ),
    "no_lift": Concern(
        "No lift test yet: by induction the receiver may hear the transmitter through the air.",
        "Lock the gain, lift the receiver straight up and enter the signal before and after.",
    ),
    "other_nearer": Concern(
        "Another line of the plan should lie closer to this one, and was not met by itself: the two may be bonded.",
        "Look for a second centre line beside it; part the bond or earth the far end and see whose current follows.",
    ),
    "no_current": Concern("No current was read at it.", "Read it: the target has most current, not most signal."),
    "no_depth": Concern("No depth was read at it.", "Read the depth: it must be one that this line can have."),
    "depth": Concern(
        "Its depth is outside the range entered for this line.",
        "Read the depth again with a lift; if it stays, it may be another line in the same place.",
    ),
    "weak": Concern(
        "It fits the plan, but not clearly better than something else does.",
        "Read current, depth and direction at every centre line, or change the far end and see whose current follows.",
    ),
    "far_off": Concern(
        "It lies far from where the plan has the line.",
        "Follow it some metres and see whether it runs to this line's other access points; correct the plan if so.",
    ),
    "short_of_current": Concern(
        "It carries much less than the transmitter puts out: most of the signal went another way.",
        "Find where the rest goes: sweep again, look for a bond, or hook up elsewhere.",
    ),
    "direction": Concern(
        "Its current runs the wrong way: it may be the way back to the transmitter.",
        "Check the direction again; a returning current is bleed-off or a bond, not the target.",
    ),
    "louder": Concern(
        "Another line carries more current than it.",
        "Do not trace yet: part the bond, move the stake away from that line, or go to a lower frequency.",
    ),
    "alike": Concern(
        "Another centre line where this line may run carries nearly as much.",
        "Lock the gain and compare both, then earth the far end: the target's current rises most.",
    ),
}


def concerns(verdict: SweepVerdict) -> tuple[Concern, ...]:
    """Return what keeps a verdict from being sure, the gravest first."""
    return tuple(_CONCERNS[d] for d in verdict.doubts)


def headline(verdict: SweepVerdict, candidates: Sequence[Candidate]) -> str:
    """Return the verdict in a sentence."""
    if not candidates:
        return "Not swept yet."
    if verdict.target is None:
        return "The target was not met."
    it = candidates[verdict.target]
    what = f"The centre line at {it.bearing_deg:.0f} degrees"
    if verdict.sure:
        return f"{what} is the target."
    likely = "probably" if verdict.roles[verdict.target].target_share > 0.5 else "perhaps"
    return f"{what} is {likely} the target; not proved."


def circle_text(circle: Circle, units: Units, *, drawn: bool) -> str:
    """Return how to walk the circle."""
    radius = show_length(circle.radius_m, units)
    text = f"Walk a full circle {radius} from the hookup, the receiver turned for best response. Log every centre line."
    text += " Bearings run clockwise from north." if drawn else " Bearings run clockwise from the line's own direction."
    if circle.air:
        text += " The transmitter is heard through the air even there: turn the output down."
    if not circle.reaches:
        text += " The line is shorter than a circle clear of the stake: no sweep can prove it well."
    return text


def expected_text(x: Crossing, units: Units) -> str:
    """Return what should be met: `about 40 degrees, 12 mA to 31 mA, 0.6 m to 1.0 m deep`."""
    low, high = (show_ma(a) for a in x.current_a)
    amps = low if low == high else f"{low} to {high}"
    shallow, deep = (show_length(d, units, fine=True) for d in x.depth_m)
    depth = shallow if shallow == deep else f"{shallow} to {deep}"
    way = {1: ", running away", -1: ", coming back", 0: ""}[x.outward]
    return f"about {x.bearing_deg:.0f} degrees, {amps}, {depth} deep{way}"


def role_text(role: Role, candidate: Candidate, expected: Sequence[Crossing], *, chosen: bool) -> str:
    """Return what a centre line is taken for."""
    if role.crossing is None:
        return "A line that is not entered here. Find out what it is before anybody digs."
    x = expected[role.crossing]
    if x.ours:
        probable = "more than 99 %" if role.target_share > 0.99 else percent(role.target_share)
        taken = f"Taken for this line ({probable} probable)."
        return taken if chosen else "May be this line as well."
    if candidate.current_a is not None and candidate.current_a * LEAST_SHARE > x.current_a[1]:
        return f"{x.name}, with far more current than bleed-off explains: bonded, or not what the plan says."
    return f"{x.name}: bleed-off, as forecast."


def proved_text(verdict: SweepVerdict, met: Sequence[Candidate], expected: Sequence[Crossing], units: Units) -> str:
    """Return the figures that decided, empty without a target."""
    if verdict.target is None:
        return ""
    it, role = met[verdict.target], verdict.roles[verdict.target]
    x = next((x for k, x in enumerate(expected) if k == role.crossing), None)
    if x is None:
        return ""
    read = [] if it.current_a is None else [f"reads {show_ma(it.current_a)}"]
    read += [] if it.depth_m is None else [f"{show_length(it.depth_m, units, fine=True)} deep"]
    others = [c.current_a for k, c in enumerate(met) if k != verdict.target and c.current_a is not None]
    against = f" The next loudest reads {show_ma(max(others))}." if others else ""
    return f"It {', '.join(read) or 'was only met'}; expected {expected_text(x, units)}.{against}"
