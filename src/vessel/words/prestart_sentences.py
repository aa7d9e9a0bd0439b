"""Before anything is switched on, in words: the sheet, the noise, the passive sweep."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.model.pre_start import Source
from vessel.core.prestart.checks_and_noise import FrequencyNoise, Group, Met, Readiness
from vessel.core.prestart.grid_walk import GridWalk
from vessel.core.text.figures import counted, show_hz, show_length
from vessel.core.text.units import Units

_AVOID = 3  # frequencies named at most
GROUP_TITLE: dict[Group, str] = {"safety": "Safety sheet", "function": "Function check"}
SOURCE_LABEL: dict[Source, str] = {
    "mains": "Mains current",
    "radio": "Re-radiated radio",
    "rectifier": "Rectifier ripple",
}


@dataclass(frozen=True)
class CheckWords:
    """One check of the sheet: what must be so, why, and what to do if it is not."""

    text: str
    why: str
    otherwise: str


CHECK_WORDS: dict[str, CheckWords] = {
    "notice": CheckWords(
        "A dig notice exists for this dig and is still valid",
        "Owners mark only where they are asked to.",
        "Do not start. File the notice and wait for the answers.",
    ),
    "others": CheckWords(
        "Owners outside the notice system were contacted",
        "Private and site-owned lines are on no list.",
        "Ask the landowner, the site's staff and the neighbours, and enter what they say.",
    ),
    "walked": CheckWords(
        "You walked the site: meters, risers, valves, pedestals, columns, manholes, patches, old paint",
        "Each is a way to a line, or a sign of one that is on no drawing.",
        "Walk it, and put on the plan what you find.",
    ),
    "steel": CheckWords(
        "Steel buildings, fences, sheet piles and overhead lines are noted",
        "They take signal. Overhead lines kill: keep poles and leads down.",
        "Note them on the plan. Keep stake and leads away from them.",
    ),
    "hazards": CheckWords(
        "Hazards are dealt with: open pits, manholes, smell of gas, water, slips, dogs",
        "You will be watching the display, not your step.",
        "Do not start there. Enter a manhole or pit only by its owner's rules.",
    ),
    "traffic": CheckWords(
        "Traffic and machines are kept out of the walking area; everyone can be seen",
        "Vehicles cause most injuries to locating crews.",
        "Do not start. Set out the traffic control that the local rules ask for.",
    ),
    "struck": CheckWords(
        "Everyone knows whom to call and what to do if a line is struck",
        "The first minute decides.",
        "Agree on it now: who calls, where to go, where the valves and switches are.",
    ),
    "batteries": CheckWords(
        "Batteries of both units are good",
        "A transmitter on its last charge drops its output without warning.",
        "Change or charge them.",
    ),
    "leads": CheckWords(
        "Leads, clips, stake and clamp jaws are whole and clean",
        "A broken lead looks like a broken line.",
        "Change what is damaged. Never use a lead with bare places.",
    ),
    "output": CheckWords(
        "With leads shorted, or the clamp closed on its lead, the transmitter shows full output",
        "This proves the transmitter and its leads on their own.",
        "Change lead by lead. If the output stays low, the transmitter needs repair: do not use it.",
    ),
    "hears": CheckWords(
        "Beside the transmitter on the same frequency the receiver hears it, and on another it does not",
        "A receiver on another frequency hears nothing: the most common wasted half hour.",
        "Set both to the same frequency. If it stays silent, do not use this pair.",
    ),
}


def readiness_text(r: Readiness) -> tuple[str, str]:
    """Return how far the sheet is, and what to do next."""
    if r.refused:
        count = "one safety question is" if len(r.refused) == 1 else f"{len(r.refused)} safety questions are"
        return f"Stop: {count} answered “No”.", CHECK_WORDS[r.refused[0]].otherwise
    if r.missing:
        return f"{len(r.missing)} of {r.asked} are not answered.", f"Next: {CHECK_WORDS[r.missing[0]].text}."
    return (
        "The sheet is answered.",
        "This is a record, not permission to dig. Local rules and the lines' owners decide.",
    )


def noise_advice(found: Sequence[FrequencyNoise]) -> str:
    """Return what the noise means for the choice of frequency."""
    read = [f for f in found if f.times is not None]
    if not read:
        return "Not measured yet: the plan uses the noise figures of your kit. Transmitter off, read every frequency."
    noisy = sorted((f for f in read if f.noisiness == "noisy"), key=lambda f: -(f.times or 0.0))
    rest = len(found) - len(read)
    parts = [f"Noisy here: {', '.join(show_hz(f.freq_hz) for f in noisy[:_AVOID])}."] if noisy else []
    parts.append("Plan and verdicts use the noise you measured.")
    if rest:
        parts.append(f"{counted(rest, 'frequency', 'frequencies')} not measured: there the kit's figures are used.")
    return " ".join(parts)


def noise_text(f: FrequencyNoise, least: str, *, typed: bool) -> str:
    """Return what one frequency's noise asks for; `least`: the current a line 1 m deep then needs, written out."""
    if f.times is not None:
        return f"{f.times:.1f} times the quiet level: a line 1 m deep needs {least}"
    if typed:
        return f"Saved but not used: enter the quiet level too. At the kit's noise, a line 1 m deep needs {least}"
    return f"Not measured yet. At the kit's noise, a line 1 m deep needs {least}"


def hit_text(m: Met, units: Units) -> str:
    """Return what a passive hit says, and what it does not."""
    what = f"{SOURCE_LABEL[m.hit.source]}: something is here"
    if m.hit.at is None:
        return f"{what}. Not placed on the plan, so not checked against it."
    if m.beside is not None:
        carries = f"{show_length(m.off_m, units)} off, {m.beside} is drawn, which carries none by itself"
        return f"{what} that is not drawn. {carries}. Find out what it is before you mark {m.beside} here."
    if m.near is None:
        return f"{what} that is not drawn. Find out what it is and enter it before you mark the lines near it."
    return f"{what}, {show_length(m.off_m, units)} from where {m.near} is drawn. It may be that or another line."


PASSIVE_CAUTION = "A hit says that something is here, never which line. Never trust a passive depth."


def passive_text(walk: GridWalk, met: Sequence[Met]) -> tuple[str, str]:
    """Return what the passive sweep says so far, and what to do next."""
    first, second = walk.done("A"), walk.done("B")
    left = sum(by is None and not walk.done(s.way) for s, by in zip(walk.strips, walk.by, strict=True))
    unexplained = sum(1 for m in met if m.near is None and m.hit.at is not None)
    unplaced = sum(1 for m in met if m.hit.at is None)
    if left and left < len(walk.strips):
        return f"{counted(left, 'strip')} of {len(walk.strips)} left to walk.", "Transmitter off. Log every hit."
    if not first and not second:
        return "Not walked yet.", "Transmitter off: walk a grid, then walk it again with the receiver turned."
    if not (first and second):
        return "Walked one way only.", "Walk again, receiver turned 90 degrees: one pass misses lines along your walk."
    if unexplained:
        hits = f"{unexplained} {'hit' if unexplained == 1 else 'hits'} that no drawn line explains"
        return f"Walked both ways, {hits}.", "Find out what is there before you mark the lines near it."
    if unplaced:
        hits = f"{counted(unplaced, 'hit')} without a place"
        return f"Walked both ways, {hits}.", "Place it on the plan to check it against the lines, or trace it."
    if met:
        return "Walked both ways; every hit is near a drawn line.", "It may still be another line: trace it."
    return "Walked both ways, no hits.", "That proves nothing: many lines carry no passive signal."
