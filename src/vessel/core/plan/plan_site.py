"""The plan of a whole site: every line that shares a plan rated on one solved site."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import partial

from vessel.core.base.parallel import shared_out
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.model.vicinity import share_one
from vessel.core.plan.earthing import with_if_earthed
from vessel.core.plan.frequency_order import School
from vessel.core.plan.moving_induction import moving_induction
from vessel.core.plan.option_order import gathered
from vessel.core.plan.options import all_options
from vessel.core.plan.plan_option import Plan
from vessel.core.plan.soil_check import in_soils, robust
from vessel.core.plan.work_order import missing_m
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.soil_range import soils_expected
from vessel.core.simulate.solved_world import World

_WORTH_MOVING = 0.1  # of a line not proved: then moving induction is tried as well


def plan_lines(
    lines: Sequence[Line], soil: Soil, kit: Kit, *, school: School = "lowest", measured: bool = False
) -> tuple[Plan, ...]:
    """Return the plan of each line.

    Args:
        lines: Drawn lines must share their plan; lines without a drawing are planned one by one.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        school: The crew's frequency approach.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.

    Returns:
        One plan for each line.
    """
    wet, _, dry = soils_expected(soil, measured=measured)
    return tuple(shared_out(partial(_planned, tuple(lines), soil, (wet, dry), kit, school), range(len(lines))))


def _planned(
    lines: tuple[Line, ...], soil: Soil, others: Sequence[Soil], kit: Kit, school: School, which: Sequence[int]
) -> list[Plan]:
    """Plan some of `lines`, all of them there; the first setups are looked at in `others` as well."""
    sims = _simulators(lines, which, soil, kit)
    plans = [
        gathered(found, wanted_m=sum(b - a for a, b in sim.line.wanted_m), school=school)
        for sim, found in zip(sims, all_options([sim.also_earthed() for sim in sims], kit), strict=True)
    ]
    wanting = [k for k, plan in enumerate(plans) if missing_m(plan) > _WORTH_MOVING * plan.wanted_m]
    moving = dict(zip(wanting, moving_induction([sims[k] for k in wanting]), strict=True))
    lengths_m = in_soils(sims, plans, others)
    return [
        replace(with_if_earthed(robust(plan, each), sim.line, school=school), moving=moving.get(k))
        for k, (sim, plan, each) in enumerate(zip(sims, plans, lengths_m, strict=True))
    ]


def _simulators(lines: Sequence[Line], which: Sequence[int], soil: Soil, kit: Kit) -> list[Simulator]:
    courses = [line.course for line in lines if line.course is not None]
    alone = not courses or not share_one(courses[0].plan)
    drawn = [line for line in lines if line.course is not None]
    shared = World(drawn, soil, kit) if not alone and any(lines[k].course is not None for k in which) else None
    return [
        Simulator(lines[k], World([lines[k]], soil, kit) if lines[k].course is None or shared is None else shared)
        for k in which
    ]
