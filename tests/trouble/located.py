"""Lines near the marks as hookups of their own find them: entered beside the line, or drawn on a plan with it."""

from dataclasses import replace

import numpy as np

from tests.trouble.grounds import TARGET
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.site_plan import Course, SitePlan, beside
from vessel.core.signal.layout.placed_hookup import hookup_on


def teed_off(ground, wire):
    """Whether a wire begins on the line, on the way: it has no end of its own to hook up, nor is it known of."""
    length = ground.wire(TARGET).length_m
    return any(
        i == TARGET and 1.5 < at < length - 1.5 and j == wire.name and to < 1.5 for i, at, j, to, _ in ground.bonds
    )


def by_themselves(w):
    """Lines near the marks that can be told from the line, and those that a hookup of their own lights up alone."""
    ground = w.truth.ground
    bonded = {name for i, _, j, _, _ in ground.bonds for name in (i, j)}
    others = [x for x in ground.wires if x.name != TARGET and not teed_off(ground, x)]
    near = [x for x in others if x.nearest(w.marks)[1].min() <= 2.6]
    return near, [x for x in near if x.name not in bonded]


def located_beside(w, line, setup, seed):
    """Line and setup with the neighbours as hookups of their own found them, what nobody had entered among them.

    What does not run straight along the line is drawn on a plan, and then everything is.
    """
    rng = np.random.default_rng([seed, 13])
    told, drawn = {n.name: n for n in line.neighbours}, []
    for wire in by_themselves(w)[1]:
        off, deep = rng.normal(0, 0.05), np.exp(rng.normal(0, 0.04))
        if np.ptp(wire.path[:, 1]) < 0.5:
            told[wire.name] = beside_line(w.truth, wire, float(wire.path[0, 1] + off), float(-wire.path[0, 2] * deep))
        else:
            told.pop(wire.name, None)
            drawn.append(as_found(w.truth, wire, off, deep))
    if not drawn:
        return replace(line, neighbours=tuple(told.values())), setup
    return on_plan(line, told.values(), drawn), replace(setup, stake_at=hookup_on(line, setup).stake_at)


def beside_line(truth, wire, off, depth):
    """A line that was found beside; what was entered of it stays, but for where it lies."""
    off = float(np.copysign(max(abs(off), 0.05), off))  # the least the form takes
    known = next((n for n in truth.line.neighbours if n.name == wire.name), None)
    if known is not None:
        return replace(known, offset_m=off, depth_m=depth)
    stretch = wire.path[0, 0], wire.path[-1, 0]
    return Neighbour(wire.name, make_told(truth, wire), off, *stretch, depth, *ends_told(truth, wire))


def as_found(truth, wire, off, deep):
    """A line that was found crossing or changing sides, as it is drawn."""
    left = np.roll(wire.heading(wire.run), 1, axis=1) * [-1, 1]
    corners = wire.path[:, :2] + off * left
    depths = -wire.path[:, 2] * deep
    ends = [OPEN_END if ohm is None else FarEnd("earthed", ohm) for ohm in ends_told(truth, wire)]
    route = tuple((float(x), float(y)) for x, y in corners)
    return Drawn(wire.name, make_told(truth, wire), route, float(depths.min()), float(depths.max()), *ends)


def on_plan(line, told, drawn):
    """The line on a plan with what runs beside it and what was found otherwise."""
    ends = OPEN_END if line.near.earth_ohm is None else FarEnd("earthed", line.near.earth_ohm), line.far
    route = (0.0, 0.0), (line.length_m, 0.0)
    own = Drawn(TARGET, line.construction, route, line.depth_min_m, line.depth_max_m, *ends)
    beside_it = [beside(own, n) for n in told]
    bonds = tuple(bond for _, bond in beside_it if bond is not None)
    plan = SitePlan((own, *(d for d, _ in beside_it), *drawn), bonds)
    return replace(line, neighbours=(), course=Course(plan, 0))


def make_told(truth, wire):
    """What a line is made of: seen in a box, or not known."""
    seen = wire.name in {name for name, _ in truth.taken_off}
    return truth.line.construction if seen and not wire.bare else PRESETS["bare_copper_service"].construction


def ends_told(truth, wire):
    """How it ends: open where its bond is kept open, earthed somehow elsewhere [ohm]."""
    return tuple(None if (wire.name, end) in truth.taken_off else 20.0 for end in ("here", "far"))
