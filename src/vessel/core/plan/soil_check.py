"""A plan that holds in the real soil: its best setups rated in the wettest and driest soil to expect."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.close_setups import CLEARLY, rivals
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.simulate.currents import Currents
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.ratings import ratings
from vessel.core.simulate.solved_together import currents_together

InSoils = dict[Setup, tuple[float, ...]]
"""Length to be located [m] that setups prove in each of several soils."""


def in_soils(sims: Sequence[Simulator], plans: Sequence[Plan], soils: Sequence[Soil]) -> list[InSoils]:
    """Return what the first setup of each line's plan proves in other soils.

    If it falls short in one of them, its rivals are rated there too.

    Args:
        sims: Simulators of the lines, of one kit.
        plans: One for each line.
        soils: Soils to try.

    Returns:
        One for each line.
    """
    there = [_elsewhere(sims, soil) for soil in soils]
    firsts = [[plan.ranked[0].setup] if plan.ranked else [] for plan in plans]
    found = _proved(there, firsts)
    short = [
        [o.setup for o in rivals(plan, plan.ranked[0].setup)] if _falls_short(plan, lengths) else []
        for plan, lengths in zip(plans, found, strict=True)
    ]
    return [first | more for first, more in zip(found, _proved(there, short), strict=True)]


def _falls_short(plan: Plan, lengths: InSoils) -> bool:
    if not plan.ranked:
        return False
    first = plan.ranked[0]
    return min(lengths[first.setup]) < first.proved_m - CLEARLY * plan.wanted_m


def _elsewhere(sims: Sequence[Simulator], soil: Soil) -> list[Simulator]:
    worlds = {id(sim.world): sim.world.in_soil(soil) for sim in sims}
    return [sim.in_world(worlds[id(sim.world)]) for sim in sims]


def _proved(there: Sequence[Sequence[Simulator]], setups: Sequence[Sequence[Setup]]) -> list[InSoils]:
    """What each line's setups prove in each soil [m]: those of one frequency solved together, each line judged once."""
    currents: list[list[Currents]] = [[] for _ in setups]
    for sims in there:
        for freq in sorted({s.freq_hz for each in setups for s in each}):
            # sorted by hookup, so that those alike are solved together
            at = [sorted((s for s in each if s.freq_hz == freq), key=lambda s: s.method) for each in setups]
            for found, each in zip(currents, currents_together(sims, at), strict=True):
                found += each
    return [_lengths(sim, each) for sim, each in zip(there[0], currents, strict=True)]


def _lengths(sim: Simulator, currents: Sequence[Currents]) -> InSoils:
    if not currents:
        return {}
    found: InSoils = {}
    cases = sim.read(currents)
    steps = sorted({s.output_a for s in cases.currents.setups})
    rated = ratings(sim, cases, steps)
    for h, s in enumerate(cases.currents.setups):
        found[s] = (*found.get(s, ()), rated.of(h, steps.index(s.output_a)).proved_m)
    return found


def robust(plan: Plan, lengths_m: InSoils) -> Plan:
    """Return a plan led by the setup that proves most over the soils expected.

    What counts is the mean of the assumed soil, the wettest and the driest; the leader changes only if the gain is
    clear.

    Args:
        plan: The plan of one line.
        lengths_m: What the setups prove in those soils.

    Returns:
        The plan.
    """
    told = [replace(o, in_soils_m=lengths_m.get(o.setup)) for o in plan.ranked]
    rated = [o for o in told if o.in_soils_m is not None]
    if not rated:
        return plan
    # the first of those that stand alike: the order of the plan decides
    best = max(rated, key=lambda o: (round(_mean_m(o) / max(CLEARLY * plan.wanted_m, 1e-9)), -told.index(o)))
    if _mean_m(best) - _mean_m(told[0]) < CLEARLY * plan.wanted_m:
        best = told[0]
    ranked = (best, *(o for o in told if o is not best))
    return replace(plan, ranked=ranked, instead_of=None if best is told[0] else told[0])


def _mean_m(o: Option) -> float:
    lengths = (o.proved_m, *(o.in_soils_m or ()))
    return sum(lengths) / len(lengths)
