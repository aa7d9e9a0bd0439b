"""The plan of a whole site: every line that shares a plan rated on one solved site."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.plan.cores import shared_out
from vessel.core.plan.forecast import Moving
from vessel.core.plan.moving import moving_induction
from vessel.core.plan.options import Plan, gathered, options_of, rated_at, tried_at
from vessel.core.plan.places import places
from vessel.core.plan.rated import Ratings
from vessel.core.plan.rivals import soils_expected
from vessel.core.plan.school import School
from vessel.core.plan.sequence import missing_m
from vessel.core.plan.simulate import Simulator
from vessel.core.plan.soils import InSoils, in_soils, robust
from vessel.core.plan.world import World

_WORTH_MOVING = 0.1  # of a line not proved: then moving induction is tried as well


def plan_lines(
    lines: Sequence[Line], soil: Soil, kit: Kit, *, school: School = "lowest", measured: bool = False
) -> tuple[Plan, ...]:
    """Return the plan of each line. Drawn lines must share their plan; those only told are planned one by one.

    `measured`: the soil's resistivity was, so it varies less than a typical value may.
    """
    wet, _, dry = soils_expected(soil, measured=measured)
    rated = shared_out(partial(_rated, tuple(lines), soil, (wet, dry), kit, school), range(len(lines)))
    return tuple(
        replace(robust(_plan(line, kit, school, by_frequency), lengths_m), moving=moving)
        for line, (by_frequency, lengths_m, moving) in zip(lines, rated, strict=True)
    )


Rated = tuple[dict[float, Ratings | None], InSoils, Moving | None]
"""One line: what every setup tried does, by frequency [Hz], some in other soil, and what moving induction would."""


def _rated(
    lines: tuple[Line, ...], soil: Soil, others: Sequence[Soil], kit: Kit, school: School, which: Sequence[int]
) -> list[Rated]:
    """Rate some of `lines`, all of them there."""
    sims = _simulators(lines, which, soil, kit)
    tried = [[tried_at(places(sim.line, kit), f, kit) for sim in sims] for f in kit.frequencies]
    at = [rated_at(sims, each) for each in tried]
    rated = [{f.freq_hz: each[k] for f, each in zip(kit.frequencies, at, strict=True)} for k in range(len(sims))]
    plans = [_plan(sim.line, kit, school, each) for sim, each in zip(sims, rated, strict=True)]
    wanting = [k for k, plan in enumerate(plans) if missing_m(plan) > _WORTH_MOVING * plan.wanted_m]
    moving = dict(zip(wanting, moving_induction([sims[k] for k in wanting]), strict=True))
    lengths_m = in_soils(sims, plans, others)
    return [(each, lengths_m[k], moving.get(k)) for k, each in enumerate(rated)]


def _simulators(lines: Sequence[Line], which: Sequence[int], soil: Soil, kit: Kit) -> list[Simulator]:
    drawn = [line for line in lines if line.course is not None]
    shared = World(drawn, soil, kit) if any(lines[k].course is not None for k in which) else None
    return [
        Simulator(lines[k], World([lines[k]], soil, kit) if lines[k].course is None or shared is None else shared)
        for k in which
    ]


def _plan(line: Line, kit: Kit, school: School, by_frequency: dict[float, Ratings | None]) -> Plan:
    where = places(line, kit)
    options = [o for f in kit.frequencies for o in options_of(tried_at(where, f, kit), by_frequency[f.freq_hz], kit)]
    return gathered(options, wanted_m=sum(b - a for a, b in line.wanted_m), school=school)
