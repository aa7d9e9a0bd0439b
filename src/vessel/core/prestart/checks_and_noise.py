"""What is asked before anything is switched on, whether it is answered, and what noise and passive hits mean."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.model.drawn_line import Drawn, Xy
from vessel.core.model.kit import Kit
from vessel.core.model.pre_start import Ambient, Check, Hit, PassiveSweep, Source
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
    """A passive hit against the plan: what is drawn close by, `off_m` [m] away.

    `near`: what may make the signal by itself, None: nothing explains the hit. `beside`: what is drawn as close and
    makes no such signal, where nothing explains it.
    """

    hit: Hit
    near: str | None
    off_m: float
    beside: str | None = None


def against_plan(passive: PassiveSweep, plan: SitePlan | None, *, live: Collection[str] = ()) -> tuple[Met, ...]:
    """Compare the hits of a passive sweep with the plan.

    Args:
        passive: The sweep.
        plan: The site plan, if there is one.
        live: Names of the drawn lines that carry mains current by themselves.

    Returns:
        Each hit with the drawn thing nearest to it, if that is close enough, and may make what was heard.
    """
    found = []
    for hit in passive.hits:
        at, drawn = hit.at, () if plan is None else plan.drawn
        if at is None or not drawn:
            found.append(Met(hit, None, 0.0))
            continue
        close = sorted((d.nearest(at)[1], d.name, _makes(d, hit.source, live)) for d in drawn)
        near = next(((off, name) for off, name, makes in close if makes and off <= _EXPLAINS_M), None)
        off, name, _ = close[0]
        beside = name if near is None and off <= _EXPLAINS_M else None
        found.append(Met(hit, None if near is None else near[1], off if near is None else near[0], beside))
    return tuple(found)


def _makes(d: Drawn, source: Source, live: Collection[str]) -> bool:
    """Whether a drawn thing may make a passive signal by itself: stray current on other metal explains nothing."""
    metal = d.construction
    if metal is None:
        return False
    if source == "mains":
        return d.name in live
    # any long metal takes in radio; a rectifier's ripple runs on the steel it protects
    return source == "radio" or (metal.metal == "tube" and metal.rel_permeability > 1)


def unexplained_m(met: Sequence[Met], places: Sequence[Xy], *, tolerance_m: float) -> tuple[float, ...]:
    """Return how near the zone of a mark a passive hit lies that nothing drawn explains.

    Args:
        met: Hits against the plan.
        places: East and north of n marks [m].
        tolerance_m: Half-width of the zone round a mark [m].

    Returns:
        Distance from each zone to the nearest such hit, 0 inside it [m]; NaN where there is none on the plan.
    """
    hits = np.array([m.hit.at for m in met if m.near is None and m.hit.at is not None], dtype=float).reshape(-1, 2)
    if not len(hits):
        return (float("nan"),) * len(places)
    off = np.linalg.norm(np.asarray(places, dtype=float).reshape(-1, 1, 2) - hits, axis=2).min(1)
    return tuple(np.maximum(off - tolerance_m, 0.0).tolist())
