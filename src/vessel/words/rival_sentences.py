"""The rivals that are still possible, in words: what each is, why it is weighed, and its chance."""

from __future__ import annotations

from vessel.core.judge.rivals.rival_kinds import SAME_TRENCH_M, RivalId
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units

_RIVALS: dict[RivalId, str] = {
    "twin_both": "another line bonded to this one at both ends, {aside}",
    "twin_near": "another line bonded to this one at the hookup, {aside}",
    "twin_far": "another line bonded to this one at the far end, {aside}",
    "parallel": "this line and one that was not entered, {aside}",
    "leaves": "a branch that leaves this line about {length} along",
    "goes_on": "another line that goes on where this one ends or turns off",
    "broken": "a bonded line {aside}, beside a break in this one",
    "known_moved": "this line and a neighbour that does not lie where it was entered",
    "known_followed": "a neighbour in place of this line",
    "coil": "another line under or near the coil, {aside}",
    "returns": "this line and one {aside} that carries the current back",
    "nothing_known": "something that is not on this list",
}
RIVAL_TITLE: dict[RivalId, str] = {
    "twin_both": "Bonded at both ends",
    "twin_near": "Bonded at the hookup",
    "twin_far": "Bonded at the far end",
    "parallel": "Line not entered",
    "leaves": "Branch followed",
    "goes_on": "Another line goes on",
    "broken": "Broken beside a bonded line",
    "known_moved": "Neighbour elsewhere",
    "known_followed": "Neighbour followed",
    "coil": "Coil on another line",
    "returns": "Return through another line",
    "nothing_known": "None of these",
}
RIVAL_REASON: dict[RivalId, str] = {
    "twin_both": "Cables that leave one cabinet are bonded twins until shown otherwise. Single wires seldom are.",
    "twin_near": "What shares a bar or a box shares the signal.",
    "twin_far": "Lines that end in the same box may be bonded there, out of sight of the hookup.",
    "parallel": "Records leave lines out. One that runs along picks up signal without touching.",
    "leaves": "Tees and laterals leave at a shallow angle, and the trace follows the louder side.",
    "goes_on": "A line that ends early or turns off may hand its signal to another one.",
    "broken": "A broken line is silent, and what is bonded to it takes all the signal.",
    "known_moved": "A neighbour drawn from records is often half a metre off, or deeper.",
    "known_followed": "Where a neighbour carries more than the line, the loudest peak is its own.",
    "coil": "A coil drives everything under it, and most what lies closest.",
    "returns": "A stake beside other metal sends the current home through it.",
    "nothing_known": "No list is complete.",
}


def rival_text(kind: RivalId, of_m: float, units: Units) -> str:
    """Return what a rival is, as a phrase; one in the same trench has no place aside to speak of."""
    length = show_length(abs(of_m), units)
    aside = "in the same trench" if in_same_trench(of_m) else f"about {length} aside"
    return _RIVALS[kind].format(length=length, aside=aside)


def in_same_trench(of_m: float) -> bool:
    """Return whether a rival that far aside [m] lies in the line's own trench."""
    return abs(of_m) <= SAME_TRENCH_M


def chance_text(chance: float) -> str:
    """Return a chance as it is said."""
    if chance >= 0.995:
        return "over 99\u00a0%"
    return "under 0.1\u00a0%" if chance < 0.001 else f"{100 * chance:.2g}\u00a0%"
