"""The plan of a whole site: every line that shares a plan rated on one solved site, frequencies side by side."""

from __future__ import annotations

from collections.abc import Sequence
from concurrent.futures import ThreadPoolExecutor

from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.plan.options import Option, Plan, at_frequency, base_setup, gathered
from vessel.core.plan.places import places
from vessel.core.plan.school import School
from vessel.core.plan.simulate import Simulator
from vessel.core.plan.world import World

WORKERS = 2


def plan_lines(lines: Sequence[Line], soil: Soil, kit: Kit, *, school: School = "lowest") -> tuple[Plan, ...]:
    """Return the plan of each line. Drawn lines must share their plan; those only told are planned one by one."""
    drawn = [line for line in lines if line.course is not None]
    worlds = {id(line): World([line], soil, kit) for line in lines if line.course is None}
    if drawn:
        shared = World(drawn, soil, kit)
        worlds |= {id(line): shared for line in drawn}
    sims = [Simulator(line, worlds[id(line)]) for line in lines]
    found = [places(line, kit) for line in lines]
    base = base_setup(kit)

    def run(frequency: Frequency) -> list[list[Option]]:
        return [at_frequency(sim, each, frequency, base) for sim, each in zip(sims, found, strict=True)]

    # the longest first: where every hookup works there is most to rate
    order = sorted(kit.frequencies, key=lambda f: -f.freq_hz)
    with ThreadPoolExecutor(WORKERS) as pool:
        list(pool.map(lambda sim: sim.geometry.prepare(), sims))
        by_frequency = dict(zip((f.freq_hz for f in order), pool.map(run, order), strict=True))
    return tuple(
        gathered(
            [o for f in kit.frequencies for o in by_frequency[f.freq_hz][k]],
            wanted_m=float(sim.wanted_m.sum()),
            school=school,
        )
        for k, sim in enumerate(sims)
    )
