"""A walk with the frame in words: the steps before it, what to expect, each fault, and what to do next."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.hookup.judge_fault import FaultForecast, FaultVerdict, JudgedWalk
from vessel.core.judge.fault.fault_fit import Fault
from vessel.core.judge.station.verdict import Judgement
from vessel.core.model.fault_walk import Across, Arrow, FaultWalk, FrameReading
from vessel.core.text.figures import counted, show_hz, show_length, show_station
from vessel.core.text.units import Units
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.finding_sentences import explain, next_step, within

FAULT_STEP_TEXT: dict[str, str] = {
    "dead": "A LIVE cable kills. The owner's staff isolate it and prove it dead before you touch it.",
    "near_off": "Take the near end off its plant: conductor, sheath and earth hang free.",
    "far_off": "Lift the earth at the far end. An earth there is a perfect fault.",
    "bonds_off": "Lift every bond and earth on the way, with the owner's consent. Note each, to put it back.",
    "stake_off": "Drive the stake well off to the side and beyond the near end. Connect direct.",
    "lowest": "Transmitter at {frequency}, lowest output first. Read volts and milliamps, then the level at the stake.",
}
FAULT_LABEL: dict[FaultVerdict, str] = {"found": "Fault found", "narrow": "Narrow it", "not_proved": "Not proved"}
ARROW_TEXT: dict[Arrow, str] = {"on": "points on", "back": "points back", "null": "nulls"}
ACROSS_TEXT: dict[Across, str] = {
    "": "",
    "null": "nulls across",
    "left": "points left across",
    "right": "points right across",
}
BARE_METAL = (
    "This line's metal lies bare in the soil, so it is earthed all along: a frame finds no fault in it. "
    "Trace it instead."
)
_MUCH_LEAK = 0.3


def fault_step_text(step: str, walk: FaultWalk) -> str:
    """Return a step before the walk."""
    return FAULT_STEP_TEXT[step].replace("{frequency}", show_hz(walk.freq_hz))


def walk_text(walk: FaultWalk, units: Units) -> str:
    """Return a walk in a phrase: `Frame, 560 Hz, connected at 0 m`."""
    return f"Frame, {show_hz(walk.freq_hz)}, connected at {show_length(walk.start_m, units)}"


def fault_forecast_text(f: FaultForecast, walk: FaultWalk) -> str:
    """Return what a usual fault would take, and what the line leaks by itself."""
    of = f"At {show_hz(walk.freq_hz)} a fault of {f.ohm:g} ohm half way along would take {100 * f.share:.0f} %"
    leak = f"{of} of the current. The line itself leaks {100 * f.leak:.0f} % along the way."
    if f.leak < _MUCH_LEAK:
        return leak
    return f"{leak} Faults hide in that: use a lower frequency if the kit has one."


def reading_text(r: FrameReading, units: Units) -> str:
    """Return what the frame showed at a place in one phrase."""
    parts = [f"{show_station(r.distance_m, units)}: {ARROW_TEXT[r.arrow]}"]
    if r.level is not None:
        parts.append(f"level {r.level:.4g}")
    if r.across:
        parts.append(ACROSS_TEXT[r.across])
    return ", ".join(parts)


def fault_text(f: Fault, units: Units) -> str:
    """Return how sure the place of a fault is, and what it takes."""
    takes = "" if f.share is None else f" It takes {100 * min(f.share, 1.0):.0f} % of the current."
    return f"± {show_length(f.pm_m, units, fine=True)}.{takes}"


def fault_headline(j: Judgement, units: Units) -> str:
    """Return the sentence under the verdict on a fault."""
    if j.verdict == "mark":
        return "Every check passed. Expose it only as the owner and local rules allow."
    first = j.deciding[0]
    if first.value is None:  # the next step says what to read
        return f"Not checked yet: {within(CRITERION_WORDS[first.rule.id].title)}."
    return explain(first, units)


def fault_step(j: Judgement) -> str:
    """Return what to do next about a fault."""
    if j.verdict == "mark":
        return "Mark it, have it repaired, then walk the whole route again: a second fault may hide behind it."
    return next_step(j)


def walk_next_text(judged: JudgedWalk, walk: FaultWalk, readings: Sequence[FrameReading], units: Units) -> str:
    """Return what to do next on the walk as a whole."""
    if walk.reference is None:
        return "Read the level at the stake first, and enter it under This walk."
    if not readings:
        return (
            "Walk the route every two to three paces, frame in line with it. Enter which way it points, and the level."
        )
    last = max(readings, key=lambda r: r.distance_m)
    at = show_station(last.distance_m, units)
    count = len(judged.judgements)
    if not count:
        if last.arrow == "on":
            return f"No fault shown up to {at}. Walk on until the frame points back."
        return "No fault shown yet. Take smaller steps where the level rises."
    if last.arrow == "on":
        return f"{counted(count, 'fault')} so far, and at {at} the frame points on: there is another. Walk on."
    return f"{counted(count, 'fault')} on the stretch walked. Walk on to the far end: weaker ones may lie beyond."
