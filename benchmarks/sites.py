"""Sites of any size for the benchmarks: parallel and crossing lines of mixed construction."""

from __future__ import annotations

from importlib.resources import files

import numpy as np

from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.kit import Kit
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Hookup, Site, SiteLine
from vessel.core.model.setup import Stake
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.formats import job_file
from vessel.formats.loaded_job import LoadedJob

MIX = ("tracer_wire", "coated_steel_pipe", "armoured_cable", "tracer_wire", "pair_cable", "bare_copper_service")


def site_of(lines: int, *, length_m: float = 80.0, far: str = "unknown") -> Site:
    """`lines` lines, two in three along east, the others across them; their far ends to be found out."""
    made = []
    for i in range(lines):
        construction = PRESETS[MIX[i % len(MIX)]].construction
        depth = 0.6 + 0.13 * (i % 7) + (0.0 if i % 3 < 2 else 1.1)
        if i % 3 < 2:
            y = 2.5 * i
            route = ((0.0, y, depth), (0.6 * length_m, y, depth), (length_m, y + 0.2 * length_m, depth))
        else:
            x = 5.0 + 4.0 * i
            route = ((x, -0.3 * length_m, depth + 0.07), (x + 3.0, 0.7 * length_m, depth + 0.07))
        made.append(SiteLine(f"L{i}", construction, route, FarEnd("earthed", 25.0), FarEnd(far, 30.0)))
    return Site(Soil(100.0), tuple(made))


def drawn_lines(lines: int, *, length_m: float = 80.0) -> tuple[Line, ...]:
    """The lines of `site_of` as drawn on one plan."""
    drawn = tuple(
        Drawn(
            x.name,
            x.construction,
            tuple((east, north) for east, north, _ in x.route),
            x.route[0][2],
            x.route[0][2] + 0.1,
            x.start,
            x.end,
        )
        for x in site_of(lines, length_m=length_m).lines
    )
    plan = SitePlan(drawn)
    near = AccessPoint(earth_ohm=25.0)
    return tuple(
        Line(d.construction, d.length_m, d.depth_min_m, d.depth_max_m, near, d.end, course=Course(plan, k))
        for k, d in enumerate(drawn)
    )


def hookups_on(site: Site, freq_hz: float) -> list[Hookup]:
    """Direct from a stake to either side, clamp and induction, for every line."""
    found = []
    for line in site.lines:
        x, y, _ = line.route[0]
        heading = 90.0 if line.route[1][0] - x > 10 else 0.0
        place = tuple(float(v) for v in line.places(np.array([10.0]))[0, :2])
        for side in (-7.3, 7.3):
            stake = (x - 1.1, y + side) if heading else (x + side, y - 1.1)
            found.append(Hookup("direct", freq_hz, 0.03, line.name, 0.0, Stake(), stake))
        found.append(Hookup("clamp", freq_hz, 0.03, line.name, 0.5))
        found.append(Hookup("induction", freq_hz, 0.03, line.name, coil_at=place, coil_heading_deg=heading))
    return found


def demo_site() -> tuple[tuple[Line, ...], Soil, Kit]:
    """The lines of the demo's larger job that carry a signal: long ones with many access points, bonds and steel."""
    job = job_file.load((files("vessel.demo") / "ostrel-bay-berth-2.vessel.json").read_text()).job
    loaded = LoadedJob(job)
    return tuple(x.line for x in loaded.drawn if x.has_metal), loaded.soil, loaded.kit
