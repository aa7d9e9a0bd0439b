"""What would help: every remedy tried on the line as today's readings explain it, and what each would gain."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.diagnose.hypotheses import FAMILIES
from vessel.core.diagnose.site_learning import Lesson
from vessel.core.hookup.explained_setup import Explained
from vessel.core.hookup.hookup_state import HookupState
from vessel.core.hookup.taught import as_left
from vessel.core.judge.station.verdict import PROVED
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.remedies.trials import Case, Key, Leader, RemedyKind
from vessel.core.simulate.forecast import Forecast

_TROUBLE: tuple[RemedyKind, ...] = ("output", "frequency", "clip", "stake", "spot", "far", "unbond", "access", "method")
_RIVALS = 0.2  # an explanation this likely, against the leader, has its say in what helps
ENOUGH = 0.95
"""Of what is wanted: nothing more is needed then."""
_PAIRS = 2
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
    """One thing to do: `setup` as it would stand, the name of what it concerns, the outcome by explanation.

    `also`: two things: what `kind` says to the hookup as it stands, then `setup` with another frequency or output.
    """

    kind: RemedyKind
    setup: Setup
    name: str
    then: tuple[Outcome, ...]
    also: bool = False


@dataclass(frozen=True)
class Remedies:
    """The setup as it stands `now`, what would gain something, best first, and what was tried and would not.

    `assumed`: the explanations considered, likeliest first, as (cause id, probability among them); one without a
    title where the transmitter tells nothing.
    """

    wanted_m: float
    now: tuple[Outcome, ...]
    helping: tuple[Remedy, ...]
    useless: tuple[Remedy, ...]
    assumed: tuple[tuple[str, float], ...]

    def proved_m(self, outcomes: Sequence[Outcome]) -> float:
        """Return the length to expect proved.

        Args:
            outcomes: One for each explanation.

        Returns:
            Mean over the explanations, weighed by how likely each is [m].
        """
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
    """Return what would help on a line, under its explanations that are still likely.

    What stations `taught` is in them: how likely each is now, soil, far end and coating.

    Args:
        lines: Lines that share one site plan.
        own: Index of the line in question among `lines`.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        state: What the readings leave possible at the hookup.
        taught: What stations that passed teach, if any.

    Returns:
        Remedies, most helpful first, with what the transmitter should show then.
    """
    leaders = _leaders(state, taught, lines[own], setup, soil)
    cases = [Case(lines, own, kit, setup, x) for x in leaders]
    found = _remedies([case.tried() for case in cases])
    likely = np.array([x.likely for x in leaders])
    titles = ["" if x.cause is None else x.cause.id for x in leaders]
    assumed = tuple(zip(titles, (likely / likely.sum()).tolist(), strict=True))
    wanted_m = sum(b - a for a, b in lines[own].wanted_m)
    result = Remedies(wanted_m, tuple(_outcome(case.now()) for case in cases), (), (), assumed)
    best, now_m = _best_of_kind(found, result), result.proved_m(result.now)
    helping = [r for r in best if result.proved_m(r.then) - now_m >= WORTH * wanted_m]
    result = replace(result, helping=tuple(helping), useless=tuple(r for r in best if r not in helping))
    if result.most_m >= ENOUGH * wanted_m:
        return result
    # where no single step gets there, two may; they are worth their trouble only if both are needed
    pairs = _best_of_kind(_remedies([case.together() for case in cases], also=True), result)
    needed = [r for r in pairs if result.proved_m(r.then) - result.most_m >= WORTH * wanted_m]
    return replace(result, helping=(*needed[:_PAIRS], *result.helping))


def _remedies(each: Sequence[Mapping[Key, Sequence[Forecast]]], *, also: bool = False) -> list[Remedy]:
    """What was tried under every explanation; what only one of them allows is not offered."""
    common = [key for key in each[0] if all(key in other for other in each)]
    return [Remedy(*key, tuple(_outcome(tried[key]) for tried in each), also) for key in common]


def _leaders(state: HookupState, taught: Lesson | None, line: Line, setup: Setup, soil: Soil) -> list[Leader]:
    if taught is not None and taught.narrows:
        found = []
        for left in taught.left:
            p = state.possible[left.index]
            end = FAMILIES["far_open" if p.explained.far_ohm is None else "far_earthed"]
            found.append(Leader(p.cause or end, *as_left(p, left, soil), left.likely))
    elif not state.causes:
        return [Leader(None, Explained(line, setup, None), soil, 1.0)]
    else:
        found = [Leader(p.cause, p.explained, soil, p.likely) for p in state.causes]
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
