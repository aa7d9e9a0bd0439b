"""What would help: every remedy tried on the line as today's readings explain it, and what each would gain."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.diagnose.circuit import USUALLY_LEFT
from vessel.core.diagnose.hypotheses import FAMILIES
from vessel.core.diagnose.hypotheses import Family as Cause
from vessel.core.diagnose.learning import Lesson
from vessel.core.judge.verdict import PROVED
from vessel.core.model.ends import FarEnd
from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import METHODS, Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.explained import Explained
from vessel.core.plan.forecast import Forecast
from vessel.core.plan.learned import as_left
from vessel.core.plan.options import base_setup, setup_at
from vessel.core.plan.places import Place, kit_rejection, places
from vessel.core.plan.rated import ratings
from vessel.core.plan.simulate import Simulator
from vessel.core.plan.state import HookupState
from vessel.core.plan.what_if import without_bonds
from vessel.core.plan.world import World
from vessel.core.signal.stake import stake_ohm

RemedyKind = Literal["output", "frequency", "stake", "clip", "far", "spot", "access", "method", "unbond"]
_TROUBLE: tuple[RemedyKind, ...] = ("output", "frequency", "clip", "stake", "spot", "far", "unbond", "access", "method")
_CLEAN_CLIP_OHM = 0.5
_SAME_PLACE_M = 0.5
_RIVALS = 0.2  # an explanation this likely, against the leader, has its say in what helps
WORTH = 0.03
"""A remedy is worth its trouble if it proves this share more of what is wanted."""


@dataclass(frozen=True)
class Outcome:
    """What a setup does under one explanation, the worst of the far ends still possible counting.

    `proved_m`: length wanted that is Mark or Mark with care [m]; `plain_m`: Mark; `bleed_share`: greatest share of
    the line's current on a line beside. `forecast`: that of the first far end.
    """

    proved_m: float
    plain_m: float
    bleed_share: float
    forecast: Forecast


@dataclass(frozen=True)
class Remedy:
    """One thing to do: `setup` as it would stand, the name of what it concerns, the outcome by explanation."""

    kind: RemedyKind
    setup: Setup
    name: str
    then: tuple[Outcome, ...]


@dataclass(frozen=True)
class Remedies:
    """The setup as it stands `now`, what would gain something, best first, and what was tried and would not.

    `assumed`: the explanations reckoned with, likeliest first, as (title, probability among them); one without a
    title where the transmitter tells nothing.
    """

    wanted_m: float
    now: tuple[Outcome, ...]
    helping: tuple[Remedy, ...]
    useless: tuple[Remedy, ...]
    assumed: tuple[tuple[str, float], ...]

    def proved_m(self, outcomes: Sequence[Outcome]) -> float:
        """Return the length [m] to be expected proved: each explanation counts as far as it is likely."""
        return sum(p * o.proved_m for (_, p), o in zip(self.assumed, outcomes, strict=True))

    @property
    def most_m(self) -> float:
        """The most [m] that can be expected proved from here, as it stands or by the best that was tried."""
        return max(self.proved_m(o) for o in [self.now, *(r.then for r in self.helping)])


def remedies(
    lines: Sequence[Line],
    own: int,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    taught: Lesson | None = None,
) -> Remedies:
    """Return what would help on the `own`-th of `lines`, under its explanations that are still likely.

    What stations `taught` is in them: how likely each is now, soil, far end and coating.
    """
    leaders = _leaders(state, taught, lines[own], setup, soil)
    cases = [_Case(lines, own, kit, setup, x) for x in leaders]
    each = [case.tried() for case in cases]
    # what only one explanation allows is not offered
    common = [key for key in each[0] if all(key in other for other in each)]
    found = [Remedy(*key, tuple(_outcome(tried[key]) for tried in each)) for key in common]

    likely = np.array([x.likely for x in leaders])
    titles = ["" if x.cause is None else x.cause.title for x in leaders]
    assumed = tuple(zip(titles, (likely / likely.sum()).tolist(), strict=True))
    wanted_m = sum(b - a for a, b in lines[own].wanted_m)
    result = Remedies(wanted_m, tuple(_outcome(case.now()) for case in cases), (), (), assumed)
    best, now_m = _best_of_kind(found, result), result.proved_m(result.now)
    helping = [r for r in best if result.proved_m(r.then) - now_m >= WORTH * wanted_m]
    return replace(result, helping=tuple(helping), useless=tuple(r for r in best if r not in helping))


@dataclass(frozen=True)
class _Leader:
    """An explanation reckoned with; without a cause the line is as told, its far end whichever it may be."""

    cause: Cause | None
    explained: Explained
    soil: Soil
    likely: float


def _leaders(state: HookupState, taught: Lesson | None, line: Line, setup: Setup, soil: Soil) -> list[_Leader]:
    if taught is not None and taught.narrows:
        found = []
        for left in taught.left:
            p = state.possible[left.index]
            end = FAMILIES["far_open" if p.explained.far_ohm is None else "far_earthed"]
            found.append(_Leader(p.cause or end, *as_left(p, left, soil), left.likely))
    elif not state.causes:
        return [_Leader(None, Explained(line, setup, None), soil, 1.0)]
    else:
        found = [_Leader(p.cause, p.explained, soil, p.likely) for p in state.causes]
    return [x for x in found[:2] if x.likely >= _RIVALS * found[0].likely]


def _outcome(forecasts: Sequence[Forecast]) -> Outcome:
    return Outcome(
        min(f.length_m(*PROVED) for f in forecasts),
        min(f.length_m("mark") for f in forecasts),
        max(float(f.bleed_shares.max(initial=0.0)) for f in forecasts),
        forecasts[0],
    )


def _best_of_kind(found: Sequence[Remedy], of: Remedies) -> list[Remedy]:
    """The best of each kind and place, best first: proved, Mark, bleed-off (to 5 %), then the least trouble."""
    whole, likely = max(of.wanted_m, 1e-9), [p for _, p in of.assumed]

    def key(r: Remedy) -> tuple[float, ...]:
        plain_m = sum(p * o.plain_m for p, o in zip(likely, r.then, strict=True))
        bleed = max(o.bleed_share for o in r.then)
        return (
            -round(50 * of.proved_m(r.then) / whole),
            -round(50 * plain_m / whole),
            round(20 * min(bleed, 10.0)),
            _TROUBLE.index(r.kind),
            r.setup.output_a,
        )

    best: dict[tuple[str, str, str], Remedy] = {}
    for r in sorted(found, key=key):
        best.setdefault((r.kind, r.setup.method, r.name), r)
    return list(best.values())


_Key = tuple[RemedyKind, Setup, str]


class _Case:
    """One line of a site under one explanation of its hookup."""

    def __init__(
        self,
        lines: Sequence[Line],
        own: int,
        kit: Kit,
        setup: Setup,
        leader: _Leader,
    ) -> None:
        told, x = lines[own], leader.explained
        # that an open wire seems a little long or short is no more than its fit
        line = replace(told, construction=x.line.construction)
        if leader.cause is not None:
            end = FarEnd("open", told.far.earth_ohm) if x.far_ohm is None else FarEnd("earthed", x.far_ohm)
            line = replace(line, far=end)
        self.reaches_far = leader.cause is None or leader.cause.id != "break"
        self.setup, self.fitted, self.soil, self.kit = setup, x.setup, leader.soil, kit
        self.line, self.own, self.faults = line, own, x.faults
        self.lines = [line if k == own else other for k, other in enumerate(lines)]
        self.sim = self._on(self.lines, line)

    def _on(self, lines: Sequence[Line], line: Line, *, freqs_hz: Sequence[float] = ()) -> Simulator:
        together = lines if line.course is not None else [line]
        extra = [(line, self.setup.position_m, self.setup.stake_at), *((line, f.at_m, None) for f in self.faults)]
        return Simulator(line, World(together, self.soil, self.kit, freqs_hz=freqs_hz, extra=extra), faults=self.faults)

    def now(self) -> tuple[Forecast, ...]:
        """Return what the setup does as it stands."""
        return self._rated(self.sim, self.fitted)

    def _rated(self, sim: Simulator, setup: Setup) -> tuple[Forecast, ...]:
        return ratings(sim, [setup], [setup.output_a]).forecasts(0, 0)

    def tried(self) -> dict[_Key, tuple[Forecast, ...]]:
        """Return what every remedy would do: what is changed at this hookup, then every other setup."""
        found: dict[_Key, tuple[Forecast, ...]] = {}
        if self.setup.method == "direct":
            stake = replace(self.fitted.stake, measured_ohm=USUALLY_LEFT * stake_ohm(self.fitted.stake, self.soil))
            found["stake", self.setup, ""] = self._rated(self.sim, replace(self.fitted, stake=stake))
            clean = replace(self.fitted, clip_ohm=min(_CLEAN_CLIP_OHM, self.fitted.clip_ohm))
            found["clip", self.setup, ""] = self._rated(self.sim, clean)
        if self.setup.method != "induction":
            open_end = self.line.far.kind != "earthed" and self.reaches_far
            earthed = self.sim.with_far(FarEnd("earthed")) if open_end else self.sim
            found["far", self.setup, ""] = self._rated(earthed, self.fitted)
        found |= self._unbonded()
        for f in self.kit.frequencies:
            found |= self._setups(f)
        return found

    def _unbonded(self) -> dict[_Key, tuple[Forecast, ...]]:
        found: dict[_Key, tuple[Forecast, ...]] = {}
        for name, lines in _apart(self.lines, self.own):
            apart = self._on(lines, lines[self.own], freqs_hz=(self.setup.freq_hz,))
            found["unbond", self.setup, name] = self._rated(apart, self.fitted)
        return found

    def _setups(self, frequency: Frequency) -> dict[_Key, tuple[Forecast, ...]]:
        """Every setup at one frequency, at every output step: first as it stands, then at every other place."""
        at, steps = frequency.freq_hz, sorted(self.kit.outputs_a)
        tried: list[tuple[RemedyKind, Setup, Setup, str]] = []
        if kit_rejection(self.setup.method, frequency, self.kit) is None:
            kind: RemedyKind = "output" if at == self.setup.freq_hz else "frequency"
            tried.append((kind, replace(self.setup, freq_hz=at), replace(self.fitted, freq_hz=at), ""))
        for place, unsafe in places(self.line, self.kit):
            if unsafe is None and kit_rejection(place.method, frequency, self.kit) is None and not self._here(place):
                setup = setup_at(place, base_setup(self.kit), at)
                tried.append((self._kind(place), setup, setup, place.access))
        tried.sort(key=lambda t: METHODS.index(t[1].method))
        if not tried:
            return {}
        rated = ratings(self.sim, [fitted for _, _, fitted, _ in tried], steps)
        return {
            (kind, replace(setup, output_a=amps), name): rated.forecasts(h, o)
            for h, (kind, setup, _, name) in enumerate(tried)
            for o, amps in enumerate(steps)
            if (kind, amps) != ("output", self.setup.output_a)
        }

    def _here(self, place: Place) -> bool:
        s = self.setup
        same = place.method == s.method and abs(place.position_m - s.position_m) < _SAME_PLACE_M
        if not same or place.stake_at is None or s.stake_at is None:
            return same
        return float(np.hypot(*(np.subtract(place.stake_at, s.stake_at)))) < _SAME_PLACE_M

    def _kind(self, place: Place) -> RemedyKind:
        if place.method != self.setup.method:
            return "method"
        near = abs(place.position_m - self.setup.position_m) < _SAME_PLACE_M
        return "spot" if near and place.method == "direct" else "access"


def _apart(lines: Sequence[Line], own: int) -> list[tuple[str, tuple[Line, ...]]]:
    """Each neighbour bonded to the `own`-th line, and the lines without that bond."""
    line = lines[own]
    if line.course is None:
        told = [(n.name, replace(n, bond_m=None)) for n in line.neighbours if n.bond_m is not None]
        found = []
        for name, free in told:
            others = tuple(free if n.name == name else n for n in line.neighbours)
            found.append((name, (*lines[:own], replace(line, neighbours=others), *lines[own + 1 :])))
        return found
    name = line.course.drawn.name
    return [
        (b.b if b.a == name else b.a, without_bonds(lines, [k]))
        for k, b in enumerate(line.course.plan.bonds)
        if name in (b.a, b.b)
    ]
