"""What is asked before anything is switched on, whether it is answered, and what noise and passive hits mean."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from vessel.core.base.errors import BadInput
from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.model.kit import Kit
from vessel.core.model.pre_start import SOURCE_LABEL, Ambient, Check, Hit, PassiveSweep
from vessel.core.model.site_plan import SitePlan
from vessel.core.signal.receiver.instrument import current_for
from vessel.core.text.figures import show_hz, show_length
from vessel.core.text.units import Units

Group = Literal["safety", "function"]
State = Literal["open", "stop", "answered"]
Noisiness = Literal["quiet", "restless", "noisy", "unknown"]


@dataclass(frozen=True)
class Item:
    """One check: what must be so, why, and what to do where it is not."""

    id: str
    group: Group
    text: str
    why: str
    otherwise: str


ITEMS: tuple[Item, ...] = (
    Item(
        "notice",
        "safety",
        "A dig notice exists for this dig and has not run out",
        "Owners mark, or say that they have nothing here, only where they were told.",
        "Do not start. File the notice and wait for the answers.",
    ),
    Item(
        "others",
        "safety",
        "Every owner that takes no part in the notice system was asked as well",
        "Private and site-owned lines are on nobody's list.",
        "Ask the landowner, the site's staff and the neighbours, and enter what they say.",
    ),
    Item(
        "walked",
        "safety",
        "The site was walked: meters, risers, valves, pedestals, columns, manholes, patches, old paint",
        "Each is a way to a line, or a sign of one that nobody named.",
        "Walk it, and put on the plan what you find.",
    ),
    Item(
        "steel",
        "safety",
        "Steel buildings, fences, sheet piles and overhead lines are noted",
        "They take signal, and overhead lines can kill whoever lifts a pole or a lead.",
        "Note them on the plan; keep stake and leads away from them.",
    ),
    Item(
        "hazards",
        "safety",
        "Hazards are dealt with: open pits, manholes, smell of gas, water, slips, dogs",
        "Eyes are on the ground and the display, not on the way.",
        "Do not start there. Nobody enters a manhole or pit except by its owner's rules.",
    ),
    Item(
        "traffic",
        "safety",
        "Traffic and machines are kept off where people will walk; everybody can be seen",
        "Most harm to locating crews is done by vehicles.",
        "Do not start. Set out the traffic control that the local rules ask for.",
    ),
    Item(
        "struck",
        "safety",
        "Everybody knows whom to call and what to do if a line is struck",
        "The first minute decides.",
        "Agree on it now: who calls, where to go, where the valves and switches are.",
    ),
    Item(
        "batteries",
        "function",
        "Batteries of both units are good",
        "A transmitter on its last charge drops its output without a word.",
        "Change or charge them.",
    ),
    Item(
        "leads",
        "function",
        "Leads, clips, stake and clamp jaws are whole and clean",
        "A broken lead looks like a broken line.",
        "Change what is damaged; never use a lead with bare places.",
    ),
    Item(
        "output",
        "function",
        "Leads shorted, or the clamp closed on its lead: the transmitter shows full output",
        "It proves the transmitter and its leads before the ground comes into it.",
        "Change lead by lead; if it stays so the transmitter needs repair and is not used.",
    ),
    Item(
        "hears",
        "function",
        "Receiver beside the transmitter on the same frequency hears it, and loses it on another",
        "A receiver set to another frequency hears nothing: the commonest wasted half hour.",
        "Set both to the same frequency; if it stays silent this pair is not used.",
    ),
)
"""The sheet, in the order in which it is gone through."""

_EXPLAINS_M = 1.5  # a passive peak lies no further from the line that makes it
_QUIET, _NOISY = 2.0, 5.0
_TYPICAL_DEPTH_M = 1.0
_AVOID = 3  # frequencies named at most


@dataclass(frozen=True)
class Readiness:
    """Whether the sheet is answered: `stop` where an answer is no; never a permission to dig."""

    state: State
    answered: int
    asked: int
    headline: str
    advice: str


def require_known(check: Check) -> None:
    """Refuse an answer to a check that is not on the sheet."""
    if check.id not in {i.id for i in ITEMS}:
        raise BadInput(f"“{check.id}” is not on the sheet.", field="id", fix="Load the sheet again.")


def readiness(checks: Sequence[Check]) -> Readiness:
    """Return whether work may be started as far as the sheet goes, and what to do next."""
    given = {c.id: c.answer for c in checks}
    answered = sum(1 for i in ITEMS if i.id in given)
    refused = [i for i in ITEMS if given.get(i.id) == "no"]
    missing = [i for i in ITEMS if i.id not in given]
    if refused:
        count = "One answer is" if len(refused) == 1 else f"{len(refused)} answers are"
        return Readiness("stop", answered, len(ITEMS), f"{count} no: do not start like this.", refused[0].otherwise)
    if missing:
        rest = f"{len(missing)} of {len(ITEMS)} are not answered."
        return Readiness("open", answered, len(ITEMS), rest, f"Next: {missing[0].text}.")
    return Readiness(
        "answered",
        answered,
        len(ITEMS),
        "The sheet is answered.",
        "It is a record, no permission to dig: local rules and the lines' owners decide.",
    )


@dataclass(frozen=True)
class FrequencyNoise:
    """Noise of one frequency on this site: `times` the quiet level, `noise_t` [T], and the current it asks for [A].

    `least_a`: below it a line a metre down gives neither depth nor current that could be marked from.
    """

    freq_hz: float
    times: float | None
    noise_t: float
    least_a: float
    noisiness: Noisiness


def kit_here(kit: Kit, ambients: Sequence[Ambient]) -> Kit:
    """Return `kit` with the noise that was read on site; a frequency that was not read keeps the kit's own."""
    times = {a.freq_hz: a.times for a in ambients if a.times is not None}
    if not times:
        return kit
    here = (replace(f, noise_t=f.noise_t * (times.get(f.freq_hz) or 1.0)) for f in kit.frequencies)
    return replace(kit, frequencies=tuple(here))


def noise_here(kit: Kit, ambients: Sequence[Ambient]) -> tuple[FrequencyNoise, ...]:
    """Return what each frequency of `kit` has to be heard above."""
    known = {a.freq_hz: a.times for a in ambients}
    found = []
    for f in kit_here(kit, ambients).frequencies:
        times = known.get(f.freq_hz)
        how: Noisiness = "unknown" if times is None else "quiet" if times <= _QUIET else "restless"
        if times is not None and times > _NOISY:
            how = "noisy"
        least = current_for(
            (rule_of(kit, "signal").hold or 0.0) * f.noise_t, depth_m=_TYPICAL_DEPTH_M, low_m=kit.receiver.low_m
        )
        found.append(FrequencyNoise(f.freq_hz, times, f.noise_t, least, how))
    return tuple(found)


def noise_advice(found: Sequence[FrequencyNoise]) -> str:
    """Return what the noise means for the choice of frequency."""
    read = [f for f in found if f.times is not None]
    if not read:
        return "Not read yet: the plan reckons with the kit's own noise. Transmitter off, read every frequency."
    noisy = sorted((f for f in read if f.noisiness == "noisy"), key=lambda f: -(f.times or 0.0))
    rest = len(found) - len(read)
    parts = []
    if noisy:
        parts.append(f"Noisy here: {', '.join(show_hz(f.freq_hz) for f in noisy[:_AVOID])}.")
    parts.append("The plan and the judge reckon with what was read.")
    if rest:
        parts.append(f"{rest} {'frequency keeps' if rest == 1 else 'frequencies keep'} the kit's own noise.")
    return " ".join(parts)


@dataclass(frozen=True)
class Met:
    """A passive hit against the plan: `near` is what is drawn close by, `off_m` [m] away; None: nothing explains it."""

    hit: Hit
    near: str | None
    off_m: float

    def text(self, units: Units) -> str:
        """Return what it says, and what it does not."""
        what = SOURCE_LABEL[self.hit.source]
        if self.hit.at is None:
            return f"{what}: something is here. It has no place on the plan, so it is compared with nothing."
        if self.near is None:
            return (
                f"{what}: something is here that is not drawn. Find out what it is, and enter it, before the lines "
                "near it are marked."
            )
        off = show_length(self.off_m, units)
        return f"{what}: something is here, {off} from where {self.near} is drawn. It may be that or another line."


def against_plan(passive: PassiveSweep, plan: SitePlan | None) -> tuple[Met, ...]:
    """Return each hit with the thing drawn nearest to it, if that is close enough to explain it."""
    found = []
    for hit in passive.hits:
        near: tuple[float, str | None] = (0.0, None)
        if hit.at is not None and plan is not None and plan.drawn:
            at = hit.at
            near = min(((d.nearest(at)[1], d.name) for d in plan.drawn), key=lambda n: n[0])
        if near[1] is not None and near[0] > _EXPLAINS_M:
            near = (near[0], None)
        found.append(Met(hit, near[1], near[0]))
    return tuple(found)


def passive_text(passive: PassiveSweep, met: Sequence[Met]) -> tuple[str, str]:
    """Return what the passive sweep says so far, and what to do next."""
    unexplained = sum(1 for m in met if m.near is None and m.hit.at is not None)
    told = sum(1 for m in met if m.hit.at is None)
    if not passive.first and not passive.second:
        return (
            "Not walked yet.",
            "Receiver alone, transmitter off: walk a grid, then the same with the receiver turned.",
        )
    if not (passive.first and passive.second):
        return (
            "Walked one way only.",
            "A line that runs along your walk is missed on one pass: walk again, the receiver turned 90 degrees.",
        )
    if unexplained:
        what = "hit that nothing drawn explains" if unexplained == 1 else "hits that nothing drawn explains"
        return f"Walked both ways, {unexplained} {what}.", "Find out what is there before the lines near it are marked."
    if told:
        what = "one hit is told in words only" if told == 1 else f"{told} hits are told in words only"
        return f"Walked both ways; {what}.", "Without a place it is compared with nothing: trace what is there."
    if met:
        return "Walked both ways; every hit lies by something drawn.", "It may still be another line: trace it."
    return "Walked both ways, nothing met.", "That proves nothing: many lines carry no passive signal."
