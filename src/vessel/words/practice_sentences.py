"""What the practice yard says: the coach, the transmitter, goals and the debrief."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import replace
from math import inf, isnan

from vessel.core.judge.station.verdict import PROVED
from vessel.core.model.fault_walk import FaultWalk
from vessel.core.model.setup import Setup
from vessel.core.practice.coach import Remark
from vessel.core.practice.debrief import FRAME, Debrief, GoalMet, MarkTruth
from vessel.core.practice.expert import ENOUGH
from vessel.core.practice.random_site import Level
from vessel.core.practice.yard_lesson import Act, Goal, Hint, YardLesson
from vessel.core.signal.circuit.transmitter_output import Output
from vessel.core.text.figures import counted, percent, show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.labels import METHOD_LABEL, VERDICT_LABEL, method_label

LEVEL_LABEL: dict[Level, tuple[str, str]] = {
    "easy": ("Easy", "One line beside, good records."),
    "middle": ("Middle", "Two lines beside, one of them in no record; something hums."),
    "hard": ("Hard", "A bonded line close by, records a metre off, two lines in no record."),
}
PASSIVE_LABEL = "Mains, passive"
ACT_LABEL: dict[Act, str] = {
    "stake_deeper": "Push the stake deeper",
    "clean_clip": "Clean the clip",
    "earth_far": "Earth the far end",
    "open_bonds": "Open the bonds, with consent",
}
ACT_DONE: dict[Act, str] = {
    "stake_deeper": "The stake is twice as deep now.",
    "clean_clip": "The metal is bright and the clip bites.",
    "earth_far": "The far end is earthed now.",
    "open_bonds": "The line is off every other metal now.",
}
_METHOD = defaultdict[str, str](str, {k: v.lower() for k, v in METHOD_LABEL.items()})
_ACT = defaultdict[str, str](str, {str(k): v for k, v in ACT_LABEL.items()})
_REMARKS = {
    "open_steps": "You switched on with a step of the safe order open. On a real line that step protects you.",
    "other_frequency": "The receiver listens to another frequency than the transmitter sends.",
    "close_to_coil": "You are {away} from the transmitter. Here you may hear it through the air.",
    "depth_at_bend": "You read depth at a bend. Read it on the straight, some metres on.",
    "no_lift": "Lift the receiver and read depth again: it must grow by the lift.",
    "against_the_judge": "You marked against the verdict. The debrief will show what came of it.",
    "earths_on": "An earth may still be on: to the frame it is a fault. Lift every earth first.",
    "changed_while_on": "You moved leads with the transmitter on: its volts were on metal in your hands. "
    "Switch it off first.",
    "box_alone": "You look in: nothing else is connected to this line here.",
    "box_shared": "You look in: another conductor is connected to this line here.",
    "moved": "That is another hookup: go through the safe order again, then switch on.",
    "line_mode": "You read depth in line mode. Set sonde mode: a sonde's depth follows another law.",
    "no_nulls": "Find the null on each side of the peak: they prove that this is the head, and how deep it is.",
    "frame_null": "It points neither way. Over a fault it nulls turned across as well; out of reach it shows no level.",
    "frame_turned": "It turned round between these two. Halve the step until you can put your foot on the place.",
    "level_rises": "The level rises: you come closer. Take smaller steps now.",
    "level_falls": "The level falls: what it points to lies further off. Keep to the steps of two to three paces.",
    "well_read": "That reading carries a mark.",
}


def told_random(site: YardLesson, provable: float) -> YardLesson:
    """Return a random site with its words: name, task and the coach's first sentence.

    `provable`: share of the target that somebody who knows the work marks right there.
    """
    limit = (
        ""
        if provable >= ENOUGH
        else f" Not all of it can be proved from here: an expert with this kit marked {percent(provable)} right."
        if provable > 0
        else " It cannot be proved from here: an expert with this kit marked none of it."
    )
    return replace(
        site,
        name=f"Random site {site.name.rpartition(' ')[2]}",
        point="No hints here: plan it, prove it, mark what is proved.",
        task=f"Locate {site.target} and mark it. What you cannot prove you report as not located.{limit}",
        hints=(Hint("started", "Start at the riser. What else comes up beside it?"),),
    )


def old_paint_text(utility: str) -> str:
    """Return what paint of an earlier job says."""
    return f"Old paint of an earlier job: {utility.lower()}"


def remark_text(remark: Remark | None, units: Units) -> str:
    """Return what the coach says, empty for nothing."""
    if remark is None:
        return ""
    if remark.kind == "hint":
        return remark.say
    return _REMARKS[remark.kind].format(away=show_length(remark.value, units))


def happened_text(what: str) -> str:
    """Return what was done, for the timeline."""
    switched = {
        "on": "Transmitter on",
        "off": "Transmitter off",
        "transmitter_moved": "Transmitter moved",
        "stake_moved": "Stake moved",
        "looked": "Looked what else is connected",
    }
    acted = {str(k): v for k, v in ACT_DONE.items()}
    return switched.get(what) or acted.get(what, what)


def hooked_text(setup: Setup) -> str:
    """Return a hookup in short: method, frequency, output."""
    return f"{method_label(setup)}, {show_hz(setup.freq_hz)}, {show_ma(setup.output_a)}"


def walk_hooked_text(walk: FaultWalk) -> str:
    """Return how a walk with the frame is hooked up, in short."""
    return f"Frame walk, direct, {show_hz(walk.freq_hz)}"


def station_happened(distance_m: float, line: str, units: Units) -> str:
    """Return that a station was logged, for the timeline."""
    return f"Station at {show_length(distance_m, units)} of {line}"


def painted_happened(label: str) -> str:
    """Return that a mark was painted, for the timeline."""
    return f"Painted: {label}"


def output_text(output: Output) -> str:
    """Return what the transmitter's own display shows."""
    if output.volts is None or output.amps is None:
        return "Sending. It cannot tell what the line takes."
    limit = {"asked": "", "volts": " At its voltage limit.", "watts": " At its power limit."}[output.limited_by]
    return f"{output.volts:.1f} V, {show_ma(output.amps)}.{limit}"


def goal_text(goal: Goal, units: Units) -> str:
    """Return what a goal asks."""
    said: dict[str, str] = {
        "no_wrong_mark": "No mark that is wrong",
        "marked": f"At least {percent(goal.low)} of the line marked right",
        "none_marked": "No mark on this line: report it as not located",
        "frequency": f"Marks made at {_band(goal)}",
        "method": f"Marks made by {_METHOD.get(goal.what, '')}",
        "acted": _ACT[goal.what],
        "read_at": f"Transmitter read at {_band(goal)}",
        "lifted": "The lift read at every mark",
        "null_read": "Peak and null read at every mark",
        "stood_off": f"No mark within {show_length(goal.low, units)} of the transmitter",
        "setups": f"At least {counted(round(goal.low), 'hookup')}",
        "swept": f"At least {counted(round(goal.low), 'centre line')} logged on the first sweep",
        "heard": f"{counted(round(goal.low), 'line')} in no record met by hits of the passive sweep",
        "fault_at": f"The fault marked within {show_length(goal.high, units)}",
    }
    return said[goal.kind]


def _band(goal: Goal) -> str:
    if goal.high > 1e6:
        return f"{show_hz(goal.low)} or more"
    return f"{show_hz(goal.high)} or less" if goal.low <= 0 else f"{show_hz(goal.low)} to {show_hz(goal.high)}"


def reached_text(met: GoalMet, units: Units) -> str:
    """Return what was reached of a goal, empty where the goal says it."""
    value, kind = met.value, met.goal.kind
    if isnan(value):
        return "no fault marked" if kind == "fault_at" else "no mark on the line"
    return {
        "no_wrong_mark": counted(round(value), "wrong mark"),
        "marked": percent(value),
        "none_marked": counted(round(value), "mark"),
        "frequency": show_hz(value) if value > 0 else "",
        "stood_off": "" if value == inf else show_length(value, units),
        "setups": counted(round(value), "hookup") if value < inf else "",
        "swept": counted(round(value), "centre line") if value < inf else "",
        "heard": counted(max(round(value), 0), "line"),
        "fault_at": f"{show_length(value, units, fine=True)} off" if value < inf else "there is no fault",
    }.get(kind, "")


def headline_text(found: Debrief) -> str:
    """Return how it went in one sentence."""
    marks, strikes = len(found.marks), found.strikes
    if strikes:
        return f"{strikes} of your {counted(marks, 'mark')} would have been a strike. See below what would have told."
    if not marks:
        return "You painted nothing." + (" That was right here." if found.passed else "")
    right = sum(m.right for m in found.marks)
    if right == marks:
        return f"All {counted(marks, 'mark')} right." if marks > 1 else "Your mark is right."
    return f"{right} of {counted(marks, 'mark')} right. The rest would not have been a strike."


def mark_text(m: MarkTruth, units: Units) -> str:
    """Return how one mark stands against the ground."""
    if m.mark.method == FRAME:
        return (
            f"{show_length(m.aside_m, units, fine=True)} from the fault." if m.aside_m < inf else "No fault is there."
        )
    said = [f"{show_length(m.aside_m, units, fine=True)} beside the line"]
    if m.depth_off is None:
        said.append("no depth written")
    else:
        off = "to the centimetre" if abs(m.depth_off) < 0.01 else f"{percent(abs(m.depth_off))} {_too(m.depth_off)}"
        said.append(f"depth {off}; it is {show_length(m.true_depth_m, units, fine=True)}")
    return ", ".join(said) + "."


def _too(off: float) -> str:
    return "too deep" if off > 0 else "too shallow"


def why_text(m: MarkTruth) -> str:
    """Return what would have told, where a mark is wrong; else empty."""
    if m.right:
        return ""
    over = f" The paint is over {m.beside}." if m.beside != m.mark.line else ""
    if m.mark.verdict not in PROVED:
        return f"The verdict was {VERDICT_LABEL[m.mark.verdict]}, and you marked it anyway.{over}"
    if over:
        return over.strip()
    if m.mark.verdict == "mark_with_care":
        return "The verdict asked for care: read it again some metres on before you write a depth."
    return "The readings looked right and were not. Look at what runs or bends close by."
