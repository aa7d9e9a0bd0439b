"""A site cut into branches: fine where the field or the current changes, coarse elsewhere."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations, pairwise

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.network import Site, SiteLine
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.mesh import Mesh
from vessel.core.signal.layout.closest_approach import approaches
from vessel.core.signal.physics.earth_return import image_depth
from vessel.core.signal.physics.line_parameters import line_params

MAX_BRANCHES = 400
"""Cap on the branches of one line; sections are exact for a uniform piece, so long quiet stretches may be coarse."""
GROWTH = 0.8
"""How fast steps grow with the distance from there."""
FINEST_M = 0.4
"""Step at bonds, ends and hookups [m]."""
CROSSING_M = 3.0
"""Lines that pass closer than this are meshed finely there."""
MAX_JOINTS = 150
"""Joints of a line meshed one by one; beyond, several share a branch."""
_JOINT_M = 0.02
_ROD_M = 0.3  # middle of a bonded earth rod below ground


def divide(length_m: float, *, must: Sequence[float], fine: Sequence[float], base_m: float, refine: float) -> Floats:
    """Divide a line into steps.

    Steps are at most `base_m`, graded down to `FINEST_M` at every `fine`, all divided by `refine`. Far from every
    `fine` they may grow with the distance: a signal that dies within `base_m` is gone by then.

    Args:
        length_m: Length of the line [m].
        must: Distances that need a node [m].
        fine: Distances near which steps are fine [m].
        base_m: Greatest step [m].
        refine: Divisor of every step.

    Returns:
        Node positions from 0 to `length_m`, shape (n,) [m].
    """
    corners = np.unique(np.concatenate([[0.0, length_m], np.clip(np.asarray(must, dtype=float), 0, length_m)]))
    corners = corners[np.concatenate([[True], np.diff(corners) > 1e-6])]
    places = [np.linspace(a, b, max(5, min(400, int(2 * (b - a))))) for a, b in pairwise(corners)]
    along = np.concatenate(places)
    near = _away_from(along, np.asarray(fine, dtype=float))
    step = np.minimum(np.maximum(base_m, 0.05 * near), np.minimum(FINEST_M, base_m) + GROWTH * near)
    density = refine / np.maximum(step, length_m / MAX_BRANCHES)
    grown = 0.5 * (density[1:] + density[:-1]) * np.diff(along)
    pieces, first = [corners[:1]], 0
    for s in places:
        count = np.concatenate([[0.0], np.cumsum(grown[first : first + len(s) - 1])])
        n = max(1, int(np.ceil(float(count[-1]) - 0.05)))
        pieces.append(np.interp(np.arange(1, n + 1) * count[-1] / n, count, s))
        first += len(s)
    return np.concatenate(pieces)


def _away_from(along: Floats, places: Floats) -> Floats:
    """Distance (n,) [m] from each place `along` to the nearest of `places`."""
    known = np.concatenate([[-np.inf], np.sort(places), [np.inf]])
    k = np.searchsorted(known, along)
    return np.asarray(np.minimum(along - known[k - 1], known[k] - along))


def base_step(line: SiteLine, soil: Soil, *, freq_hz: float) -> float:
    """Return the greatest step on a line.

    Args:
        line: A line of the site.
        soil: Soil of the site.
        freq_hz: Signal frequency [Hz].

    Returns:
        A part of its length, of 1/|gamma| and of the soil's image depth, whichever is least [m].
    """
    if line.construction is None:
        return line.length_m
    depth = float(-line.corners_m[:, 2].mean())
    gamma = abs(line_params(line.construction, soil, freq_hz=freq_hz, depth_m=depth).gamma)
    image = float(np.abs(image_depth(soil, freq_hz=freq_hz, depths_m=np.array(2 * depth))))
    # bare metal trades current with the soil all along, so what neighbours and earths raise there must be followed
    coarsest = min(line.length_m / 32, 5.0) if line.construction.bare else min(line.length_m / 12, 12.0)
    return float(min(coarsest, 0.3 / gamma, image))


def lay_mesh(
    site: Site,
    *,
    top_hz: float,
    access: Mapping[int, Sequence[float]] | None = None,
    attend: Sequence[tuple[float, float]] = (),
    refine: float = 1.0,
    graded: bool = True,
) -> Mesh:
    """Return the mesh of a site.

    Lines without metal are left out.

    Args:
        site: Lines, bonds and soil.
        top_hz: Highest frequency it must be fine enough for [Hz].
        access: By line: distances that need a node (hookups) [m].
        attend: Places on the ground near which the mesh is fine (stake, coil) [m].
        refine: Divisor of every step.
        graded: Whether steps get finer at `access`.

    Returns:
        The mesh.
    """
    build = _Builder(site)
    attended, crossings = [*attend, *_earths(site)], _crossings(site)
    for i, line in enumerate(site.lines):
        if line.construction is None:
            continue
        wanted = list((access or {}).get(i, ()))
        bonds = [at for b in site.bonds for name, at in ((b.a, b.a_m), (b.b, b.b_m)) if name == line.name]
        must = [*line.corner_distances_m, *wanted, *bonds, *(f.at_m for f in line.features), *_joints(line)]
        fine = [
            0.0,
            line.length_m,
            *(wanted if graded else ()),
            *bonds,
            *(f.at_m for f in line.features),
            *_nearest(line, attended),
            *crossings[i],
        ]
        base = base_step(line, site.soil, freq_hz=top_hz)
        build.add_line(i, divide(line.length_m, must=must, fine=fine, base_m=base, refine=refine))
    return build.finish()


def _joints(line: SiteLine) -> list[float]:
    """Both sides of every joint [m], so that each sits in a short branch of its own; none if too many."""
    c = line.construction
    if c is None or c.joint_spacing_m <= 0 or line.length_m / c.joint_spacing_m > MAX_JOINTS:
        return []
    joints = np.arange(1.0, line.length_m / c.joint_spacing_m) * c.joint_spacing_m
    return [float(x + side) for x in joints for side in (-_JOINT_M, _JOINT_M)]


def _earths(site: Site) -> list[tuple[float, float]]:
    """Where current enters the soil at a point: earthed ends, anodes, faults."""
    found = []
    for line in site.lines:
        ends = ((line.start, 0.0), (line.end, line.length_m))
        places = [s for end, s in ends if end.kind != "open"]
        places += [f.at_m for f in line.features if f.kind in ("earth", "fault")]
        found += [(float(x), float(y)) for x, y, _ in line.places(np.array(places, dtype=float))]
    return found


def _crossings(site: Site) -> dict[int, list[float]]:
    """Where each line [m] passes within `CROSSING_M` of another, other than beside it."""
    found: dict[int, list[float]] = {i: [] for i in range(len(site.lines))}
    for (i, a), (k, b) in combinations(enumerate(site.lines), 2):
        if a.construction is None or b.construction is None:
            continue
        for _, at_a, at_b in approaches(a, b, limit_m=CROSSING_M):
            headings = [line.headings(np.array([at]))[0] for line, at in ((a, at_a), (b, at_b))]
            if abs(float(headings[0] @ headings[1])) < 0.95:
                found[i].append(at_a)
                found[k].append(at_b)
    return found


def _nearest(line: SiteLine, places: Sequence[tuple[float, float]]) -> list[float]:
    """Distances along `line` [m] closest to each place within 20 m of it."""
    if not places:
        return []
    s = np.linspace(0, line.length_m, min(2000, 2 + int(line.length_m)))
    x, y = (np.subtract.outer(at, own) for at, own in zip(np.asarray(places).T, line.places(s).T, strict=False))
    away = np.hypot(x, y)
    return [float(at) for at in s[away.argmin(1)][away.min(1) < 20.0]]


class _Builder:
    def __init__(self, site: Site) -> None:
        self.site = site
        self.nodes: list[Floats] = []
        self.cells: list[Floats] = []
        self.owner: list[int] = []
        self.earth: list[float] = []
        self.branches: list[tuple[int, int]] = []
        self.along: list[tuple[int, float, float]] = []
        self.at: dict[int, tuple[Floats, int]] = {}
        self.far: dict[tuple[int, str], tuple[int, int]] = {}

    def add_line(self, i: int, s: Floats) -> None:
        places = self.site.lines[i].places(s)
        first = len(self.nodes)
        mids = 0.5 * (places[1:] + places[:-1])
        edges = np.concatenate([places[:1], mids, places[-1:]])
        self.nodes.extend(places)
        self.cells.extend(np.stack([edges[:-1], edges[1:]], axis=1))
        self.owner.extend([i] * len(s))
        self.earth.extend([float("nan")] * len(s))
        self.branches.extend(pairwise(range(first, first + len(s))))
        self.along.extend((i, a, b) for a, b in pairwise(s.tolist()))
        self.at[i] = (s, first)

    def _node(self, place: Floats, cell: Floats, owner: int, ohm: float) -> int:
        self.nodes.append(place)
        self.cells.append(cell)
        self.owner.append(owner)
        self.earth.append(ohm)
        return len(self.nodes) - 1

    def _metal_node(self, i: int, at_m: float) -> int:
        s, first = self.at[i]
        return first + int(np.abs(s - at_m).argmin())

    def _earth(self, node: int, ohm: float) -> int:
        place = self.nodes[node].copy()
        place[2] = -_ROD_M
        return self._node(place, np.stack([place, place]), -1, ohm)

    def finish(self) -> Mesh:
        links: list[tuple[int, int, float]] = []
        series: list[tuple[int, int, int]] = []
        s_start = [a for _, a, _ in self.along]
        for i, line in enumerate(self.site.lines):
            if line.construction is None:
                continue
            for name, end, at in (("start", line.start, 0.0), ("end", line.end, line.length_m)):
                node = self._metal_node(i, at)
                earth = self._earth(node, end.earth_ohm)
                self.far[i, name] = (node, earth)
                if end.kind == "earthed":
                    links.append((node, earth, 0.0))
            for k, f in enumerate(line.features):
                node = self._metal_node(i, f.at_m)
                if f.kind in ("earth", "fault"):
                    links.append((node, self._earth(node, f.ohm), 0.0))
                else:
                    own = [b for b, (j, _, _) in enumerate(self.along) if j == i]
                    branch = max((b for b in own if s_start[b] <= f.at_m + 1e-6), default=own[0])
                    series.append((branch, i, k))
        for b in self.site.bonds:
            a, c = self.site.index(b.a), self.site.index(b.b)
            if a in self.at and c in self.at:
                links.append((self._metal_node(a, b.a_m), self._metal_node(c, b.b_m), b.ohm))
        ends = self.branches + [(a, c) for a, c, _ in links]
        return Mesh(
            site=self.site,
            nodes_m=np.array(self.nodes).reshape(-1, 3),
            start=np.array([a for a, _ in ends], dtype=np.intp),
            end=np.array([c for _, c in ends], dtype=np.intp),
            line=np.array([i for i, _, _ in self.along], dtype=np.intp),
            s_start=np.array(s_start),
            s_end=np.array([c for _, _, c in self.along]),
            cells_m=np.array(self.cells).reshape(-1, 2, 3),
            owner=np.array(self.owner, dtype=np.intp),
            earth_ohm=np.array(self.earth),
            link_ohm=np.array([ohm for _, _, ohm in links]),
            features=tuple(series),
            far=self.far,
        )
