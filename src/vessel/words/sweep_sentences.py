"""The first sweep in words: where to walk, what each centre line is taken for, what keeps it from being sure."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.hookup.expected_sweep import Circle
from vessel.core.judge.sweep_verdict import LEAST_SHARE, Doubt, Role, SweepVerdict
from vessel.core.model.first_sweep import Candidate, OnCircle
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
        "The signal hardly falls when lifted: the receiver hears the transmitter through the air.",
        "Walk a wider circle, or turn the output down, and read again.",
    ),
    "no_lift": Concern(
        "No lift test yet. With induction the receiver may hear the transmitter through the air.",
        "Lock the gain, lift the receiver straight up and enter the signal before and after.",
    ),
    "other_nearer": Concern(
        "The plan has another line closer to this bearing, and you logged only one. The two may be bonded.",
        "Look for a second centre line. Have the bond opened or earth the far end: see which current changes.",
    ),
    "no_current": Concern(
        "No current was read at it.", "Read it. The target has the most current, not the strongest signal."
    ),
    "no_depth": Concern("No depth was read at it.", "Read the depth. It must be within this line's range."),
    "depth": Concern(
        "Its depth is outside the range entered for this line.",
        "Read the depth again with a lift. If it stays the same, this may be another line.",
    ),
    "weak": Concern(
        "It fits the plan, but another explanation fits nearly as well.",
        "Read current, depth and direction at every centre line, or change the far end: see which current changes.",
    ),
    "far_off": Concern(
        "It lies far from where the plan has the line.",
        "Follow it a few metres. If it runs to this line's other access points, correct the plan.",
    ),
    "short_of_current": Concern(
        "It carries much less than the transmitter supplies. Most of the signal goes another way.",
        "Find where the rest goes: sweep again, look for a bond, or hook up elsewhere.",
    ),
    "direction": Concern(
        "Its current runs the wrong way. It may be the return path to the transmitter.",
        "Check the direction again; a returning current is bleed-off or a bond, not the target.",
    ),
    "louder": Concern(
        "Another line carries more current than it.",
        "Do not trace yet. Have the bond opened, move the stake away from that line, or use a lower frequency.",
    ),
    "alike": Concern(
        "Another centre line where this line may run carries nearly as much.",
        "Lock the gain and compare both, then earth the far end: the target's current rises most.",
    ),
    "alone": Concern(
        "You logged one centre line, and another line should cross about there too.",
        "Walk the whole circle and log the others too. What you can name cannot be mistaken for this line.",
    ),
}


def concerns(verdict: SweepVerdict) -> tuple[Concern, ...]:
    """Return what keeps a verdict from being sure, the gravest first."""
    return tuple(_CONCERNS[d] for d in verdict.doubts)


WAYS: dict[int, str] = {
    0: "where this line should run",
    45: "half right of this line",
    90: "square to the right",
    135: "back and to the right",
    180: "straight back",
    225: "back and to the left",
    270: "square to the left",
    315: "half left of this line",
}
"""Ways round the hookup of a line that is not drawn, by bearing from the line's own run [deg]."""


def way(bearing_deg: float, seen: str = "", *, drawn: bool) -> str:
    """Return which way a centre line is: by bearing where the line is drawn, else against the line, by what is seen."""
    if drawn:
        return f"at {bearing_deg:.0f} degrees"
    found = WAYS[round(bearing_deg / 45) % 8 * 45]
    return f"{found} ({seen.strip()})" if seen.strip() else found


def headline(verdict: SweepVerdict, candidates: Sequence[Candidate], *, drawn: bool) -> str:
    """Return the verdict in a sentence."""
    if not candidates:
        return "Not swept yet."
    if verdict.target is None:
        return "You logged no centre line that fits the target."
    it = candidates[verdict.target]
    what = f"The centre line {way(it.bearing_deg, it.seen, drawn=drawn)}"
    if verdict.sure:
        return f"{what} is the target."
    likely = "probably" if verdict.roles[verdict.target].target_share > 0.5 else "perhaps"
    return f"{what} is {likely} the target; not proved."


def circle_text(circle: Circle, units: Units, *, drawn: bool) -> str:
    """Return how to walk the circle."""
    radius = show_length(circle.radius_m, units)
    text = f"Walk a full circle {radius} from the hookup, the receiver turned for best response. Log every centre line."
    text += " Bearings run clockwise from north." if drawn else " Say which way each is, and what you see there."
    if circle.air:
        text += " Even there you hear the transmitter through the air: turn the output down."
    if not circle.reaches:
        text += " The line is shorter than a circle clear of the stake, so no sweep proves it well."
    return text


def expected_text(x: OnCircle, units: Units, *, drawn: bool) -> str:
    """Return what should be met: `about 40 degrees, 12 mA to 31 mA, 0.6 m to 1.0 m deep`."""
    low, high = (show_ma(a) for a in x.current_a)
    amps = low if low == high else f"{low} to {high}"
    shallow, deep = (show_length(d, units, fine=True) for d in x.depth_m)
    depth = shallow if shallow == deep else f"{shallow} to {deep}"
    runs = {1: ", running away", -1: ", coming back", 0: ""}[x.outward]
    where = f"about {x.bearing_deg:.0f} degrees" if drawn else way(x.bearing_deg, drawn=False)
    return f"{where}, {amps}, {depth} deep{runs}"


def role_text(role: Role, candidate: Candidate, expected: Sequence[OnCircle], *, chosen: bool) -> str:
    """Return what a centre line is taken for."""
    if role.crossing is None:
        return "A line that is not entered here. Find out what it is before anyone digs."
    x = expected[role.crossing]
    if x.ours:
        probable = "more than 99 %" if role.target_share > 0.99 else percent(role.target_share)
        taken = f"Taken for this line ({probable} probable)."
        return taken if chosen else "It may also be this line."
    if candidate.current_a is not None and candidate.current_a * LEAST_SHARE > x.current_a[1]:
        return f"{x.name}, with far more current than bleed-off explains. It is bonded, or the plan is wrong."
    return f"{x.name}: bleed-off, as forecast."


def proved_text(
    verdict: SweepVerdict, met: Sequence[Candidate], expected: Sequence[OnCircle], units: Units, *, drawn: bool
) -> str:
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
    expects = expected_text(x, units, drawn=drawn)
    return f"It {', '.join(read) or 'was logged without a reading'}; expected {expects}.{against}"


def centre_line_text(bearing_deg: float, line: str) -> str:
    """Return a centre line by its bearing round a line's hookup."""
    return f"Centre line at {bearing_deg:.0f} degrees round the hookup of {line}"


def readings_text(c: Candidate, units: Units) -> str:
    """Return what was read at a centre line: `27.4 mA, 0.78 m deep, running away`."""
    parts = [] if c.current_a is None else [show_ma(c.current_a)]
    parts += [] if c.depth_m is None else [f"{show_length(c.depth_m, units, fine=True)} deep"]
    parts += [] if c.signal is None else [f"signal {c.signal:.4g}"]
    if c.signal_lifted is not None and c.lift_m is not None:
        parts.append(f"{c.signal_lifted:.4g} lifted {show_length(c.lift_m, units, fine=True)}")
    parts += {1: ["running away"], -1: ["coming back"], 0: []}[c.direction]
    return ", ".join(parts) or "nothing read yet"


def warning_text(verdict: SweepVerdict, candidates: Sequence[Candidate], *, drawn: bool) -> str:
    """Return what the first sweep leaves in doubt; empty once the signal is proved to be on the line."""
    if not candidates:
        return "No first sweep on record: nothing proves yet that the signal is on this line."
    return (
        "" if verdict.sure else f"First sweep: {headline(verdict, candidates, drawn=drawn)} {concerns(verdict)[0].text}"
    )
