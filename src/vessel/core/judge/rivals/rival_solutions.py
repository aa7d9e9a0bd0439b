"""The rivals of a hookup, each solved as a site: the line as entered with one conductor or one connection more."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from vessel.core.base.cached import remembered
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.rival_kinds import SAME_TRENCH_M, RivalId
from vessel.core.judge.rivals.rival_sites import (
    Ground,
    RivalsBeside,
    beside_path,
    bonded_only,
    in_soil,
    own_metal,
    with_rivals,
)
from vessel.core.model.construction import Construction, metal
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Hookup
from vessel.core.model.opened_bonds import AT_BOX_M, box_m
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit
from vessel.core.signal.circuit.ports import Port
from vessel.core.signal.circuit.sources import Excitation, Joined, excite, excite_carried
from vessel.core.signal.layout.line_on_site import lay_out

_TWIN_M = (0.4, 0.75, 1.3, 2.2)  # a fit goes on from these
_SAME_TRENCH, _UNDER, _OVER = 0.6, 1.4, 0.7  # one above the other: how often, against aside; how deep, against the line
_BARE_M, _BARE_SHARE = (0.7, 1.4), 0.3
_EITHER_SIDE_M = (0.6, 1.2)
_BARE_SOILS = (0.4, 1.0, 2.5)  # times the soil's resistivity: it decides what bare metal loses, and is a guess mostly
_PARALLEL_M = (0.6, 1.3, 2.4)
_RETURNS = (0.35, 0.7)  # how much of the current comes home through another line
_LEAVES_AT = (0.05, 0.2, 0.4, 0.65)
_LEAVES_DEG = 20.0
_BROKEN_M = (1.0, 5.0, 20.0)
_BROKEN_NEAR = 0.5  # how often what lies beside a break is bonded at the hookup only, against both ends
_BOND_OHM, _EARTH_OHM, _GOOD_EARTH_OHM = 0.02, 20.0, 6.0
_RUNS_ON_M = 25.0
_SAME_BOXES = 3.0  # what is not bonded and ends at the same boxes, against a bonded one: as likely as what runs on
_SELDOM = 3e-3  # a line that much quieter than the one beside it is not followed
_COIL_AT = (0.0, 0.5, 1.0)  # between the line and the other one


@remembered(64)  # what the transmitter shows changes nothing of it
def solved_rivals(line: Line, soil: Soil, kit: Kit, setup: Setup, at_m: tuple[float, ...]) -> tuple[Explanation, ...]:
    """Return the rivals of a hookup that are solved as sites, with nothing else beside the line.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        at_m: Places along the line [m].

    Returns:
        The line first in each, then its rivals.
    """
    g = Ground(line, soil, kit, setup, bonded_only(line, lay_out(line, soil)), np.array(at_m))
    make = line.construction
    close = list(_twins(g, _TWIN_M[0], make, 1 / len(_TWIN_M)))
    found = [*close, *_one_above_the_other(close, _TWIN_M[0])]
    for offset in _TWIN_M[1:]:
        found += _twins(g, offset, make, 1 / len(_TWIN_M))
    bare, each = metal("bare_copper_service"), _BARE_SHARE / len(_BARE_M) / len(_BARE_SOILS)
    for offset in _BARE_M:
        found += _twins(g, offset, bare, each, _BARE_SOILS)
    for offset in _EITHER_SIDE_M:
        found += _twins_on_both_sides(g, offset, 0.3 / len(_EITHER_SIDE_M))
    apart = list(_parallel(g, _PARALLEL_M[0], make, 1.0))
    found += [*apart, *_one_above_the_other(apart, _PARALLEL_M[0])]
    for offset in _PARALLEL_M[1:]:
        found += _parallel(g, offset, make, 1.0)
    for offset in _BARE_M:
        found += _parallel(g, offset, bare, 2 * _BARE_SHARE / len(_BARE_SOILS), _BARE_SOILS)
    if not setup.by.through_air:
        for at in (share * line.length_m for share in _LEAVES_AT):
            found += _leaving(g, at) if at > setup.position_m else []
    return tuple(found)


def _twins_on_both_sides(g: Ground, offset: float, weight: float) -> Iterator[Explanation]:
    """Two lines of the same make from the same box, one on either side, bonded at both ends or at the far end only."""
    paths = [beside_path(g.target.corners_m[:, :2].copy(), side * offset, 0.0, 0.0) for side in (1.0, -1.0)]
    on = with_rivals(g, paths, g.line.construction, own_m=[0.0, g.target.length_m])
    if on is None:
        return
    solved, mesh = on.site_circuit, on.mesh
    rivals = [len(mesh.site.lines) - 2, len(mesh.site.lines) - 1]
    near, far, starts = (list[tuple[Port, complex]]() for _ in range(3))
    for rival in rivals:
        first, last = mesh.node_at(rival, 0.0), mesh.node_at(rival, mesh.site.lines[rival].length_m)
        near.append((solved.between(mesh.node_at(g.own, 0.0), first), complex(_BOND_OHM)))
        far.append((solved.between(mesh.node_at(g.own, g.target.length_m), last), complex(_BOND_OHM)))
        starts.append((solved.between(first, None), complex(_EARTH_OHM)))
    both, only_far = _seen_at(g, near=True, far=True), _seen_at(g, far=True)
    cases: list[tuple[RivalId, Joined, _Seen]] = []
    for ohm in g.far_cases:
        joined = on.joined_far(ohm)
        cases.append(("twin_both", (*joined, *near, *far), both))
        cases += [("twin_far", (*joined, *far, *earthed), only_far) for earthed in (starts, ())]
    beside = RivalsBeside(g, on, (offset, -offset))
    for (kind, _, seen), e in zip(cases, _driven(g, on, g.hookups, [c[1] for c in cases]), strict=True):
        c, loop = beside.conductors(e.response), own_metal(e, g.setup, g.soil)
        first = len(c.amps) - 2
        share = 1.0 if kind == "twin_both" else 0.5
        for follows, part in ((0, 0.6), (first, 0.2), (first + 1, 0.2)):
            yield Explanation(kind, share * weight * part, c, follows, *seen, loop, (first, first + 1), offset)


_Seen = tuple[bool, bool]
"""Whether a bond is seen in the box where the line is hooked up, and in one where else it ends."""


def _seen_at(g: Ground, *, near: bool = False, far: bool = False) -> _Seen:
    """Where bonds at the start of the line and at its far end are seen; by coil one looks in where it begins."""
    here_m = box_m(g.setup)
    at_start, at_far = here_m < AT_BOX_M, here_m > g.target.length_m - AT_BOX_M
    here, elsewhere = (near and at_start) or (far and at_far), (near and not at_start) or (far and not at_far)
    return here, elsewhere


def _driven(g: Ground, on: LineCircuit, hookups: Sequence[Hookup], variants: Sequence[Joined]) -> list[Excitation]:
    if g.setup.moving:
        return excite_carried(on.site_circuit, hookups, g.kit, variants=variants)
    return excite(on.site_circuit, hookups[0], g.kit, variants=variants)


def _explained(
    g: Ground,
    beside: RivalsBeside,
    e: Excitation,
    kind: RivalId,
    offset_m: float,
    weight: float,
    seen: _Seen = (False, False),
) -> Iterator[Explanation]:
    """The rival followed, and the line followed beside the rival, each by how loud it is."""
    c = beside.conductors(e.response)
    k = len(c.amps) - 1
    loud = np.abs(c.amps[[0, k]]).mean(1) ** 6
    share = loud / max(float(loud.sum()), 1e-300)
    for follows, part in ((0, share[0]), (k, share[1])):
        if part > _SELDOM:
            loop = own_metal(e, g.setup, g.soil)
            yield Explanation(kind, weight * float(part), c, follows, *seen, loop, (k,), offset_m)


def _twins(
    g: Ground, offset: float, make: Construction, weight: float, soils: Sequence[float] = (1.0,)
) -> Iterator[Explanation]:
    """A second line from the same box: bonded near, far, at both ends, at none, or the target broken beside it."""
    path = beside_path(g.target.corners_m[:, :2].copy(), offset, 0.0, 0.0)
    broken = [g.setup.position_m + b for b in _BROKEN_M if g.setup.position_m + b < g.target.length_m - 1.0]
    on = with_rivals(g, [path], make, own_m=[0.0, g.target.length_m, *broken])
    if on is None:
        return
    for factor in soils:
        yield from _twins_in(g, in_soil(on, factor), offset, weight, broken, bare=make.bare)


def _ends_of_its_own(start: Joined, end: Joined) -> list[tuple[Joined, float]]:
    """How a line ends that shares boxes with the line and is bonded in neither, each with its weight."""
    return [(start, 0.4 * _SAME_BOXES), (end, 0.4 * _SAME_BOXES), ((), 0.2 * _SAME_BOXES)]


def _one_above_the_other(beside: Sequence[Explanation], offset: float) -> Iterator[Explanation]:
    """The same lines in one trench: what they carry is about what those carry that run close beside."""
    for e in beside:
        (k,), c = e.rivals, e.conductors
        for ratio in (_UNDER, _OVER):
            depth, offsets = c.depth_ratio.copy(), c.offset_m.copy()
            depth[k], offsets[k] = ratio, np.where(offsets[k] == offset, SAME_TRENCH_M, offsets[k])
            lies = replace(c, offset_m=offsets, depth_ratio=depth)
            yield replace(e, weight=e.weight * _SAME_TRENCH / 2, conductors=lies, of_m=SAME_TRENCH_M)


def _twins_in(
    g: Ground, on: LineCircuit, offset: float, weight: float, broken: Sequence[float], *, bare: bool
) -> Iterator[Explanation]:
    target = g.target
    solved, mesh, rival = on.site_circuit, on.mesh, len(on.mesh.site.lines) - 1
    length = mesh.site.lines[rival].length_m
    near = solved.between(mesh.node_at(g.own, 0.0), mesh.node_at(rival, 0.0)), complex(_BOND_OHM)
    far = solved.between(mesh.node_at(g.own, target.length_m), mesh.node_at(rival, length)), complex(_BOND_OHM)
    start = solved.between(mesh.node_at(rival, 0.0), None), complex(_EARTH_OHM)
    end = solved.between(mesh.node_at(rival, length), None), complex(_EARTH_OHM)
    both, only_near, only_far = _seen_at(g, near=True, far=True), _seen_at(g, near=True), _seen_at(g, far=True)
    cases: list[tuple[RivalId, Joined, _Seen, float]] = []
    for ohm in g.far_cases:
        joined, part = on.joined_far(ohm), 1 / len(g.far_cases)
        cases += [
            ("twin_both", (*joined, near, far), both, part),
            ("twin_near", (*joined, near, end), only_near, 0.7 * part),
            ("twin_near", (*joined, near), only_near, 0.3 * part),
            ("twin_far", (*joined, far, start), only_far, 0.7 * part),
            ("twin_far", (*joined, far), only_far, 0.3 * part),
        ]
        if not bare:  # to the soil along all its length it matters little how it ends
            cases += [
                ("parallel", (*joined, *ends), (False, False), p * part)
                for ends, p in _ends_of_its_own((start,), (end,))
            ]
        for b in broken:
            gap = solved.inside(mesh.branch_at(g.own, b)), complex(np.inf)
            cases.append(("broken", (*joined, near, far, gap), both, part))
            if b == broken[0]:
                cases.append(("broken", (*joined, near, end, gap), only_near, _BROKEN_NEAR * part))
    if g.setup.by.through_air:
        cases = [c for c in cases if c[0] != "broken"]
    beside = RivalsBeside(g, on, (offset,))
    for (kind, _, seen, part), e in zip(cases, _driven(g, on, g.hookups, [c[1] for c in cases]), strict=True):
        yield from _explained(g, beside, e, kind, offset, weight * part, seen)


def _parallel(
    g: Ground, offset: float, make: Construction, weight: float, soils: Sequence[float] = (1.0,)
) -> Iterator[Explanation]:
    """A line of its own beside it, earthed at both ends; by coil, the coil over it or between the two as well."""
    path = beside_path(g.target.corners_m[:, :2].copy(), offset, _RUNS_ON_M, _RUNS_ON_M)
    earthed = FarEnd("earthed", _EARTH_OHM)
    on = with_rivals(g, [path], make, ends=(earthed, earthed))
    if on is None:
        return
    for factor in soils:
        yield from _parallel_in(g, in_soil(on, factor), offset, weight)


def _parallel_in(g: Ground, on: LineCircuit, offset: float, weight: float) -> Iterator[Explanation]:
    variants = [on.joined_far(ohm) for ohm in g.far_cases]
    beside = RivalsBeside(g, on, (offset,))
    kind: RivalId = "coil" if g.setup.by.through_air else "parallel"
    for moved in _COIL_AT if g.setup.by.through_air else (0.0,):
        every = _driven(g, on, [_aside(h, moved * offset) for h in g.hookups], variants)
        for e in every:
            yield from _explained(g, beside, e, kind, offset, weight)
    if g.setup.by.connects:
        home = _driven(g, on, [_returned(g, on)], variants)
        staked, returned = ([beside.conductors(e.response) for e in each] for each in (every, home))
        for one, other in zip(staked, returned, strict=True):
            for share in _RETURNS:
                c = replace(one, amps=(1 - share) * one.amps + share * other.amps)
                yield Explanation("returns", weight, c, rivals=(len(c.amps) - 1,), of_m=offset)


def _returned(g: Ground, on: LineCircuit) -> Hookup:
    """The transmitter between the line and the other one, where that is nearest: the stake touches it."""
    rival = on.mesh.site.lines[-1]
    (hookup,) = g.hookups
    here = g.target.places(np.array([hookup.at_m]))[0, :2]
    grid = np.linspace(0.0, rival.length_m, max(2, int(rival.length_m / 0.5)))
    nearest = float(grid[np.linalg.norm(rival.places(grid)[:, :2] - here, axis=1).argmin()])
    return replace(hookup, method="pair", other=rival.name, other_m=nearest)


def _aside(hookup: Hookup, off_m: float) -> Hookup:
    """The coil set so far to the left [m]."""
    turn = np.radians(hookup.coil_heading_deg)
    left = np.array([-np.cos(turn), np.sin(turn)])
    x, y = np.array(hookup.coil_at) + off_m * left
    return replace(hookup, coil_at=(float(x), float(y)))


def _leaving(g: Ground, at_m: float) -> list[Explanation]:
    """A line bonded to it on the way, ahead of the hookup, that leaves at an angle and is followed for good."""
    target = g.target
    here, run = target.places(np.array([at_m]))[0, :2], target.headings(np.array([at_m]))[0]
    turn = np.radians(_LEAVES_DEG)
    way = np.array([run[0] * np.cos(turn) - run[1] * np.sin(turn), run[0] * np.sin(turn) + run[1] * np.cos(turn)])
    first = here + 0.3 * np.array([-run[1], run[0]])
    length = max(target.length_m - at_m, 10.0)
    path = np.stack([first, first + length * way])
    on = with_rivals(g, [path], g.line.construction, own_m=[at_m])
    if on is None:
        return []
    solved, mesh, rival = on.site_circuit, on.mesh, len(on.mesh.site.lines) - 1
    tee = solved.between(mesh.node_at(g.own, at_m), mesh.node_at(rival, 0.0)), complex(_BOND_OHM)
    end = solved.between(mesh.node_at(rival, mesh.site.lines[rival].length_m), None), complex(_GOOD_EARTH_OHM)
    variants: list[Joined] = [(*on.joined_far(ohm), tee, *more) for ohm in g.far_cases for more in ((end,), ())]
    past = g.at_m - at_m
    offsets = np.where(past > 0, 0.3 + past * np.tan(turn), 0.0)
    found, own = [], RivalsBeside(g, on, ())
    for e in _driven(g, on, g.hookups, variants):
        c = own.conductors(e.response)
        k, along = len(c.amps), np.clip(past / np.cos(turn), 0.0, mesh.site.lines[rival].length_m)
        amps = solved.current_in(solved.ends(e.response), solved.inside_of([(rival, along)]))
        # until it leaves it is the line itself that is followed
        c = c.followed_by(np.where(past > 0, amps, 0.0), offsets)
        found.append(Explanation("leaves", 1.0, c, k, loop_ohm=own_metal(e, g.setup, g.soil), rivals=(k,), of_m=at_m))
    return found
