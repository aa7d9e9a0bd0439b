"""The ground of a hookup with one conductor more, and the currents of everything near the line there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.base.errors import BadInput
from vessel.core.judge.rivals.explanations import Conductors
from vessel.core.model.construction import Construction
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.network import Hookup, Site, SiteLine
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.line_circuit import LineCircuit
from vessel.core.signal.circuit.ports import Response
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.circuit.sources import Excitation
from vessel.core.signal.layout.beside_line import look_aside
from vessel.core.signal.layout.line_on_site import target_of
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.physics.stake_resistance import stake_ohm

PLACES = 17
"""Places along the line at which explanations are worked out."""
NEAR_M = 4.0
"""Another line further off than this neither bends the field here nor is met when looking aside [m]."""
_RIVAL = "rival"
_REFINE = 0.7  # a rival need not be known to a per cent


@dataclass(frozen=True)
class Ground:
    """What the rivals of one hookup have in common.

    `site` has metal only on the line and on what is bonded to it; currents are asked for at `at_m` (n,) [m].
    """

    line: Line
    soil: Soil
    kit: Kit
    setup: Setup
    site: Site
    at_m: Floats

    @property
    def own(self) -> int:
        """Index of the line on the site."""
        return target_of(self.line)

    @property
    def target(self) -> SiteLine:
        """The line as it lies on the site."""
        return self.site.lines[self.own]

    @property
    def hookups(self) -> tuple[Hookup, ...]:
        """The setup placed on the site; with moving induction the coil as it stands for each of `at_m`."""
        if not self.setup.moving:
            return (hookup_on(self.line, self.setup),)
        return tuple(hookup_on(self.line, self.setup.standing(x)) for x in self.at_m.tolist())

    @property
    def far_cases(self) -> tuple[float | None, ...]:
        """Earth resistance of each far end it may have [ohm]; None for open."""
        return tuple(ohm for _, ohm in self.line.far_cases())


def bonded_only(line: Line, site: Site) -> Site:
    """Return a site in which only the line and what is bonded to it have metal.

    Args:
        line: The line to locate.
        site: Lines, bonds and soil.

    Returns:
        The same lines, in the same order.
    """
    own = site.lines[target_of(line)]
    kept = {own.name, *(name for b in site.bonds for name in (b.a, b.b) if own.name in (b.a, b.b))}
    lines = tuple(x if x.name in kept else replace(x, construction=None) for x in site.lines)
    return replace(site, lines=lines, bonds=tuple(b for b in site.bonds if {b.a, b.b} <= kept))


def entered_conductors(
    line: Line, circuit: LineCircuit, response: Response, at_m: Floats, length_m: float | None = None
) -> Conductors:
    """Return the currents of a line and of what runs near it, as a solved circuit has them.

    Args:
        line: The line to locate.
        circuit: Its circuit.
        response: The circuit as it is driven.
        at_m: Places along the line, shape (n,) [m].
        length_m: How far the line carries signal [m]; None: as far as it goes.

    Returns:
        The line first, then its neighbours.
    """
    solved, site = circuit.site_circuit, circuit.mesh.site
    ends = solved.ends(response)
    reach = min(site.lines[circuit.target].length_m, length_m or np.inf)
    on = np.clip(at_m, 0.0, reach)
    on_line = response.at_own(solved.current_in(ends, solved.inside_of([(circuit.target, on)])))
    own = np.where(at_m <= reach, on_line, 0.0)
    amps, offsets, depths = [own], [np.zeros(len(at_m))], [np.nan]
    here, run = site.lines[circuit.target].places(on)[:, :2], site.lines[circuit.target].headings(on)
    left = np.column_stack([-run[:, 1], run[:, 0]])
    for aside in look_aside(line, site, on):
        other = site.lines[aside.beside.index]
        at = other.places(aside.along_m)
        off = ((at[:, :2] - here) * left).sum(1)
        near = aside.met & (np.abs(off) < NEAR_M)
        if not near.any():
            continue
        turn = (other.headings(aside.along_m) * run).sum(1)  # one that crosses shows less across it
        current = response.at_own(solved.current_in(ends, solved.inside_of([(aside.beside.index, aside.along_m)])))
        amps.append(np.where(near, current * turn, 0.0))
        offsets.append(np.where(near, off, NEAR_M))
        depths.append(float(-at[near, 2].mean()))
    return Conductors(np.array(amps), np.array(offsets), np.array(depths), np.ones(len(amps)))


def own_metal(e: Excitation, setup: Setup, soil: Soil) -> complex | None:
    """Return what the transmitter sees without stake and clip.

    Args:
        e: The site as it is driven.
        setup: Method, place, frequency and output.
        soil: Soil of the site.

    Returns:
        The loop's impedance [ohm]; None where the transmitter cannot tell.
    """
    if e.load_ohm is None or not setup.by.connects:
        return None
    return e.load_ohm - stake_ohm(setup.stake, soil) - setup.clip_ohm


def beside_path(path: Floats, offset_m: float, before_m: float, past_m: float) -> Floats:
    """Return a path beside a path, mitred.

    Args:
        path: Corners, shape (k, 2) [m].
        offset_m: How far to the left [m].
        before_m: How far it goes on before its start [m].
        past_m: How far it goes on past its end [m].

    Returns:
        Corners, shape (k, 2) [m].
    """
    run = np.diff(path, axis=0)
    run /= np.linalg.norm(run, axis=1, keepdims=True)
    normal = np.column_stack([-run[:, 1], run[:, 0]])
    before, after = np.vstack([normal[:1], normal]), np.vstack([normal, normal[-1:]])
    middle = before + after
    middle /= np.maximum((middle * before).sum(1, keepdims=True), 0.4)
    beside = path + offset_m * middle
    beside[0] -= before_m * run[0]
    beside[-1] += past_m * run[-1]
    return np.asarray(beside)


def with_rivals(
    g: Ground,
    paths: Sequence[Floats],
    make: Construction,
    *,
    own_m: Sequence[float] = (),
    ends: tuple[FarEnd, FarEnd] = (OPEN_END, OPEN_END),
) -> LineCircuit | None:
    """Return the circuit of the site with more lines.

    Args:
        g: What the rivals of the hookup have in common.
        paths: Corners of each of those lines, shape (k, 2) [m].
        make: What they are made of.
        own_m: Places along the line to locate that need a node [m].
        ends: How those lines end.

    Returns:
        The circuit, those lines its last; None where there is no room for them.
    """
    depth = g.line.depth_m(deepest=False)
    routes = [tuple((float(x), float(y), depth) for x, y in path) for path in paths]
    try:
        rivals = [SiteLine(f"{_RIVAL} {k}", make, route, *ends) for k, route in enumerate(routes)]
        site = replace(g.site, lines=(*g.site.lines, *rivals))
        access = {g.own: [g.setup.position_m, *own_m]}
        mesh = lay_mesh(site, top_hz=g.setup.freq_hz, access=access, refine=_REFINE, graded=False)
        circuit = SiteCircuit(SiteGeometry(mesh), freq_hz=g.setup.freq_hz)
    except BadInput:
        return None
    return LineCircuit(g.line, g.soil, freq_hz=g.setup.freq_hz, circuit=circuit)


def in_soil(on: LineCircuit, factor: float) -> LineCircuit:
    """Return the same ground in wetter or drier soil.

    Args:
        on: The circuit of a line and its rival.
        factor: Times the resistivity.

    Returns:
        The circuit.
    """
    if factor == 1.0:
        return on
    soil = on.soil.times(factor)
    circuit = SiteCircuit(on.site_circuit.geometry, freq_hz=on.freq_hz, soil=soil)
    return LineCircuit(on.line, soil, freq_hz=on.freq_hz, circuit=circuit)


class RivalsBeside:
    """The line and its rivals on a circuit, where they run beside one another; looked up once for every case.

    `offsets_m` of the rivals, left of the line [m]; they are the circuit's last lines, in that order.
    """

    def __init__(self, g: Ground, on: LineCircuit, offsets_m: Sequence[float]) -> None:
        self._g, self._on = g, on
        count = len(on.mesh.site.lines)
        rivals = range(count - len(offsets_m), count)
        found = [_along(on, rival, g.at_m, g.own) for rival in rivals]
        self._there = [there for there, _ in found]
        # where one has ended it is out of the way
        self._offsets = [np.where(there, off, off + 1.0) for there, off in zip(self._there, offsets_m, strict=True)]
        places = [(g.own, g.at_m), *((rival, along) for rival, (_, along) in zip(rivals, found, strict=True))]
        self._inside = on.site_circuit.inside_of(places)

    def conductors(self, response: Response) -> Conductors:
        """Return the line and the rivals, as a solved circuit has them.

        Args:
            response: The circuit as it is driven.

        Returns:
            The line first, the rivals last.
        """
        solved, n = self._on.site_circuit, len(self._g.at_m)
        found = solved.current_in(solved.ends(response), self._inside)
        amps = response.at_own(found.reshape(*found.shape[:-1], -1, n))
        c = Conductors(amps[:1], np.zeros((1, n)), np.array([np.nan]), np.ones(1))
        for there, offset_m, rival in zip(self._there, self._offsets, amps[1:], strict=True):
            c = c.followed_by(np.where(there, rival, 0.0), offset_m)
        return c


def _along(on: LineCircuit, rival: int, at_m: Floats, own: int) -> tuple[Mask, Floats]:
    """Where another line is beside places (n,) of the line [m]: whether at all, and the distance along it [m]."""
    line, target = on.mesh.site.lines[rival], on.mesh.site.lines[own]
    here, run = target.places(at_m)[:, :2], target.headings(at_m)
    start, end = line.corners_m[0, :2], line.corners_m[-1, :2]
    past = ((here - start) * run).sum(1) >= -0.5
    short = ((end - here) * run).sum(1) >= -0.5
    grid = np.linspace(0.0, line.length_m, max(2, int(line.length_m / 0.5)))
    on_rival = line.places(grid)[:, :2]
    ahead = np.abs(((on_rival[None] - here[:, None]) * run[:, None]).sum(-1))
    return past & short, grid[ahead.argmin(1)]
