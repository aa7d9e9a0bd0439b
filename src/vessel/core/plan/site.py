"""The plan of a whole site: every line that shares a plan rated on one solved site."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.plan.cores import side_by_side
from vessel.core.plan.moving import moving_induction
from vessel.core.plan.options import Plan, at_frequency, base_setup, gathered
from vessel.core.plan.places import places
from vessel.core.plan.school import School
from vessel.core.plan.sequence import missing_m
from vessel.core.plan.simulate import Simulator
from vessel.core.plan.world import World

_WORTH_MOVING = 0.1  # of a line not proved: then moving induction is tried as well


def plan_lines(lines: Sequence[Line], soil: Soil, kit: Kit, *, school: School = "lowest") -> tuple[Plan, ...]:
    """Return the plan of each line. Drawn lines must share their plan; those only told are planned one by one."""
    sims = _simulators(lines, soil, kit)
    plans = _rated(sims, kit, school)

    wanting = [k for k, plan in enumerate(plans) if missing_m(plan) > _WORTH_MOVING * plan.wanted_m]
    for k, moving in zip(wanting, moving_induction([sims[k] for k in wanting]), strict=True):
        plans[k] = replace(plans[k], moving=moving)
    return tuple(plans)


def _simulators(lines: Sequence[Line], soil: Soil, kit: Kit) -> list[Simulator]:
    drawn = [line for line in lines if line.course is not None]
    shared = World(drawn, soil, kit) if drawn else None
    return [
        Simulator(line, World([line], soil, kit) if line.course is None or shared is None else shared) for line in lines
    ]


def _rated(sims: Sequence[Simulator], kit: Kit, school: School) -> list[Plan]:
    found = [places(sim.line, kit) for sim in sims]
    base = base_setup(kit)

    side_by_side(lambda sim: sim.geometry.prepare(), sims)
    # the highest first: there most hookups work, so there is most to rate
    order = sorted(kit.frequencies, key=lambda f: -f.freq_hz)
    rated = side_by_side(lambda f: at_frequency(sims, found, f, base), order)
    by_frequency = {f.freq_hz: each for f, each in zip(order, rated, strict=True)}
    return [
        gathered(
            [o for f in kit.frequencies for o in by_frequency[f.freq_hz][k]],
            wanted_m=float(sim.wanted_m.sum()),
            school=school,
        )
        for k, sim in enumerate(sims)
    ]
