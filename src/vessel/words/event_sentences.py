"""What happened along a trace and which marks are due, in words: what was seen, and what to do there."""

from __future__ import annotations

from vessel.core.judge.trace.coverage import MARK_EVERY_M
from vessel.core.judge.trace.events import Event, EventKind
from vessel.core.judge.trace.marks_due import Due, DueKind
from vessel.core.judge.trace.taper import TaperedEnd
from vessel.core.model.line import Line
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units

EVENT_LABEL: dict[EventKind, str] = {
    "bend": "Bend",
    "lost": "Signal gone",
    "drop": "Current drops",
    "rise": "Current rises",
    "depth": "Depth change",
    "jump": "Another line",
    "end": "Signal ends",
    "returns": "Runs back",
}
EVENT_STEP: dict[EventKind, str] = {
    "bend": "Find the corner from both sides and mark it. Take no depth there.",
    "lost": "Walk a circle to find it again: it bends, ends or is broken here. Take no depth.",
    "drop": "A tee, an earth or a coating fault: sweep a full circle there before you go on.",
    "rise": "Current cannot grow by itself. Look for a line that joins or runs beside.",
    "depth": "Mark the depth change and confirm it by lifting. Check both sides: another line can look the same.",
    "jump": "Go back to the last station that passed and follow the line again in short steps.",
    "end": "The line's end, a break, or the signal left it. Sweep a circle there, or come from the other side.",
    "returns": "The current comes back through another line: find where it goes over.",
}


_WHOLE = 0.85
_NEAR_M, _LOOSE_M = 1.0, 2.0


def _times(ratio: float) -> str:
    return f"{100 * ratio:.0f}\u00a0%"


def event_text(e: Event, units: Units) -> str:
    """Return what was seen and where: `Between 63 m and 68 m the current falls to 35 % of what it was.`"""
    a, b = show_length(e.start_m, units), show_length(e.end_m, units)
    where = f"Near {a}" if a == b else f"Between {a} and {b}"
    again = "the current" if (e.current_ratio or 0.0) > _WHOLE else f"{_times(e.current_ratio or 0.0)} of the current"
    current = "" if e.current_ratio is None else _times(e.current_ratio)
    depth = "" if e.depth_ratio is None else _times(e.depth_ratio)
    return {
        "bend": f"{where} guidance was lost. Past it, {again} is back.",
        "lost": f"{where} signal and guidance were gone.",
        "drop": f"{where} the current falls in one step to {current} of what it was; the depth does not.",
        "rise": f"{where} the current rises to {current} of what it was.",
        "depth": f"{where} the depth goes to {depth} of what it was; the current is steady.",
        "jump": f"{where} depth and current both jump, to {depth} and {current} of what they were.",
        "end": f"{where} the signal ends: {current or 'nothing'} of the current is left past it.",
        "returns": f"{where} the current turns back towards the hookup.",
    }[e.kind]


def tapered_text(end: TaperedEnd, line: Line, units: Units, *, rod: bool) -> tuple[str, str]:
    """Return where the stations say that the wire ends, or its valve or a `rod`'s head is, and what to do."""
    at, low, high = (show_length(m, units) for m in (end.at_m, end.low_m, end.high_m))
    where = f"{at} along, between {low} and {high}"
    if line.solenoids:
        text = f"The current falls as on a wire that ends at a valve, or is cut, {where}."
        if end.high_m - end.low_m > _LOOSE_M:
            return text, "Read the trace at a higher frequency too: it places the valve closer."
        return text, "Look for the valve box there."
    if rod:
        text = f"The current falls as on a rod whose head is {where}."
        return (
            text,
            "Compare that with the rod that is out: if the rod is longer, the head turned a corner.",
        )
    text = f"The current falls as on a wire that ends {where}."
    if abs(end.at_m - line.length_m) <= max(_NEAR_M, end.high_m - end.low_m):
        return text, "That is the end as entered, and it is open."
    return text, "The wire ends or is cut there. Mark no further before you know which."


DUE_TEXT: dict[DueKind, str] = {
    "bend": "Bend {at}: mark the corner itself, found from both sides.",
    "tee": "Tee or bond {at}: mark where the other line leaves.",
    "end": "End {at}: mark it; write no depth if none is reliable.",
    "depth": "Depth change {at}: mark it with both depths.",
    "gap": "{at} without a mark: one is due at least every {every}.",
}


def due_text(d: Due, units: Units) -> str:
    """Return what mark is due and where: `Bend at 70 m: mark the corner itself, found from both sides.`"""
    a, b = show_length(d.start_m, units), show_length(d.end_m, units)
    at = f"at {a}" if a == b else f"{a} to {b}" if d.kind == "gap" else f"between {a} and {b}"
    return DUE_TEXT[d.kind].format(at=at, every=show_length(MARK_EVERY_M, units))


def contradiction_text(a: str, b: str, at_m: float, depths_m: tuple[float, float], units: Units) -> str:
    """Return what two depths say where lines `a` and `b` cross, if they cannot both be right."""
    first, second = (show_length(d, units, fine=True) for d in depths_m)
    return (
        f"{a} and {b} cross {show_length(at_m, units)} along {a}, read at {first} and {second}: "
        "both cannot be right. One of the two depths, or one of the two lines, is wrong."
    )
