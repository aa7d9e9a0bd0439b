"""What is asked before anything is switched on, whether it is answered, and what noise and passive hits mean."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from vessel.core.base.errors import BadInput
from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.model.kit import Kit
from vessel.core.model.pre_start import Ambient, Check, Hit, PassiveSweep
from vessel.core.model.site_plan import SitePlan
from vessel.core.signal.receiver.instrument import current_for

Group = Literal["safety", "function"]
State = Literal["open", "stop", "answered"]
Noisiness = Literal["quiet", "restless", "noisy", "unknown"]


@dataclass(frozen=True)
class Item:
    """One check of the sheet; its words are in `words.prestart_sentences`."""

    id: str
    group: Group


ITEMS: tuple[Item, ...] = (
    *(Item(name, "safety") for name in ("notice", "others", "walked", "steel", "hazards", "traffic", "struck")),
    *(Item(name, "function") for name in ("batteries", "leads", "output", "hears")),
)
"""The sheet, in the order in which it is gone through."""

_EXPLAINS_M = 1.5  # a passive peak lies no further from the line that makes it
_QUIET, _NOISY = 2.0, 5.0
_TYPICAL_DEPTH_M = 1.0


@dataclass(frozen=True)
class Readiness:
    """Whether the sheet is answered: `stop` where an answer is no; never a permission to dig.

    `refused`, `missing`: ids of the checks answered no, and of those not answered.
    """

    state: State
    answered: int
    asked: int
    refused: tuple[str, ...]
    missing: tuple[str, ...]


def require_known(check: Check) -> None:
    """Check that an answer belongs to a check on the sheet.

    Args:
        check: The answer.

    Raises:
        BadInput: If there is no such check.
    """
    if check.id not in {i.id for i in ITEMS}:
        raise BadInput("no_such_check", field="id", name=check.id)


def readiness(checks: Sequence[Check]) -> Readiness:
    """Return whether the sheet lets work start.

    Args:
        checks: Answers given so far.

    Returns:
        The state, and the checks that hold it.
    """
    given = {c.id: c.answer for c in checks}
    refused = tuple(i.id for i in ITEMS if given.get(i.id) == "no")
    missing = tuple(i.id for i in ITEMS if i.id not in given)
    state: State = "stop" if refused else "open" if missing else "answered"
    return Readiness(state, len(ITEMS) - len(missing), len(ITEMS), refused, missing)


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
    """Return the kit with the noise read on site.

    Args:
        kit: Transmitter and receiver in use.
        ambients: Noise read, by frequency; a frequency not read keeps the kit's own.

    Returns:
        The kit.
    """
    times = {a.freq_hz: a.times for a in ambients if a.times is not None}
    if not times:
        return kit
    here = (replace(f, noise_t=f.noise_t * (times.get(f.freq_hz) or 1.0)) for f in kit.frequencies)
    return replace(kit, frequencies=tuple(here))


def noise_here(kit: Kit, ambients: Sequence[Ambient]) -> tuple[FrequencyNoise, ...]:
    """Return the noise at each frequency of the kit.

    Args:
        kit: Transmitter and receiver in use.
        ambients: Noise read, by frequency.

    Returns:
        One for each frequency.
    """
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


@dataclass(frozen=True)
class Met:
    """A passive hit against the plan: `near` is what is drawn close by, `off_m` [m] away; None: nothing explains it."""

    hit: Hit
    near: str | None
    off_m: float


def against_plan(passive: PassiveSweep, plan: SitePlan | None) -> tuple[Met, ...]:
    """Compare the hits of a passive sweep with the plan.

    Args:
        passive: The sweep.
        plan: The site plan, if there is one.

    Returns:
        Each hit with the drawn thing nearest to it, if that is close enough to explain it.
    """
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
