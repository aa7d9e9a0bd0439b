"""A line among what runs beside it, laid out as a site.

A line with a course lies where the site plan has it. One that is only entered runs east from the origin; left of it is
north.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from vessel.core.model.drawn_line import Drawn
from vessel.core.model.line import Line
from vessel.core.model.line_ends import OPEN_END, FarEnd, FarEndKind
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond, Feature, Site, SiteLine
from vessel.core.model.site_plan import SitePlan
from vessel.core.model.soil import Soil
from vessel.core.model.vicinity import vicinity
from vessel.core.signal.layout.site_checks import check_site
from vessel.core.signal.layout.vertical_separation import Dip, separate

TARGET_NAME = "target"
BOND_AT_END_M = 0.5
"""What joins the line no further past its end than this joins it at its end: lengths are not measured better [m]."""
_AT_EARTH_M = 0.3  # an earth bonded closer to an end than this is the end's own


@dataclass(frozen=True)
class LineFault:
    """Something wrong at `at_m` [m]: a break (huge series resistance), or `ohm` [ohm] to earth or to other metal.

    A bond joins the line called `name`, at index `to` of the site, at `to_m` along it [m].
    """

    kind: Literal["break", "earth_fault", "bond"]
    at_m: float
    ohm: float = 0.0
    to: int = -1
    to_m: float = 0.0
    name: str = ""


def target_of(line: Line) -> int:
    """Return the index of the line itself among the lines of its site.

    Args:
        line: The line to locate.

    Returns:
        The index.
    """
    return 0 if line.course is None else line.course.own


def target_name(line: Line) -> str:
    """Return the name of the line itself on its site.

    Args:
        line: The line to locate.

    Returns:
        The name.
    """
    return TARGET_NAME if line.course is None else line.course.drawn.name


def lay_out(line: Line, soil: Soil, *, deepest: bool = False, faults: Sequence[LineFault] = ()) -> Site:
    """Return the site of a line.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        deepest: Whether every depth is the greatest expected; otherwise the middle.
        faults: Faults to put on the line.

    Returns:
        The site.
    """
    target = _target(line, _path(line), deepest=deepest, faults=faults)
    if line.course is not None:
        plan = line.course.plan
        joined = _bonds(faults, [d.name for d in plan.drawn], target.name)
        plan = replace(plan, bonds=(*plan.bonds, *joined)) if joined else plan
        return drawn_site(plan, soil, {line.course.own: target}, deepest=deepest)
    beside = [_told(line, n, k) for k, n in enumerate(line.neighbours)]
    joined = _bonds(faults, [target.name, *(b.name for b, _ in beside)], target.name)
    bonds = (*(bond for _, bond in beside if bond is not None), *joined)
    site = Site(soil, (target, *(b for b, _ in beside)), bonds)
    check_site(site)
    return site


def _bonds(faults: Sequence[LineFault], names: Sequence[str], own: str) -> tuple[Bond, ...]:
    return tuple(Bond(own, f.at_m, names[f.to], f.to_m, f.ohm) for f in faults if f.kind == "bond")


def drawn_site(plan: SitePlan, soil: Soil, targets: dict[int, SiteLine], *, deepest: bool) -> Site:
    """Return the site of a plan with lines in place of what is drawn.

    An end that is not known counts as earthed: that takes more signal from a neighbour. On a large plan what is far
    from `targets` carries no signal (`vicinity`). The last sites are kept, since every place a stake is dragged to
    asks for one.

    Args:
        plan: The site plan.
        soil: Soil of the site.
        targets: By index of a drawn line: what to use in its place.
        deepest: Whether every depth is the greatest expected; otherwise the middle.

    Returns:
        The site.
    """
    return _laid_apart(plan, soil, tuple(sorted(targets.items(), key=lambda t: t[0])), deepest)


@lru_cache(maxsize=32)
def _laid_apart(plan: SitePlan, soil: Soil, targets: tuple[tuple[int, SiteLine], ...], deepest: bool) -> Site:
    given = dict(targets)
    lines = [given.get(i) or _as_drawn(d, deepest=deepest) for i, d in enumerate(plan.drawn)]
    lengths = {line.name: line.length_m for line in lines}
    bonds = tuple(b for b in plan.bonds if b.a_m <= lengths[b.a] and b.b_m <= lengths[b.b])
    apart, _ = separate(lines, bonds)
    site = Site(soil, tuple(apart), bonds)
    check_site(site)
    near = frozenset[int]().union(*(vicinity(plan, own) for own in given))
    return site if not given or len(near) == len(site.lines) else _without_far(site, near)


def _without_far(site: Site, near: frozenset[int]) -> Site:
    """The site where only lines `near`, by index, carry signal."""
    lines = tuple(x if k in near else x.silent for k, x in enumerate(site.lines))
    carrying = {x.name for x in lines if x.construction is not None}
    return replace(site, lines=lines, bonds=tuple(b for b in site.bonds if {b.a, b.b} <= carrying))


def assumed(plan: SitePlan) -> list[Dip]:
    """Return where one thing on a plan is assumed to pass under another.

    With every depth in the middle of what is expected.

    Args:
        plan: The site plan.

    Returns:
        One for each place.
    """
    _, dips = separate([_as_drawn(d, deepest=False) for d in plan.drawn], plan.bonds)
    return dips


def as_target(line: Line, *, deepest: bool) -> SiteLine:
    """Return the line itself as it lies on its site.

    Its far end is earthed unless it is known to be open, so that each of several lines that share a site meets the
    others as `lay_out` would have them.

    Args:
        line: The line to locate.
        deepest: Whether its depth is the greatest expected; otherwise the middle.

    Returns:
        The line.
    """
    found = _target(line, _path(line), deepest=deepest, faults=())
    kind: FarEndKind = "open" if line.far.kind == "open" else "earthed"
    return replace(found, end=FarEnd(kind, line.far.earth_ohm))


def _path(line: Line) -> tuple[tuple[float, float], ...]:
    return ((0.0, 0.0), (line.length_m, 0.0)) if line.course is None else line.course.drawn.upto(line.length_m)


def _target(line: Line, path: Sequence[tuple[float, float]], *, deepest: bool, faults: Sequence[LineFault]) -> SiteLine:
    features = [Feature("break" if f.kind == "break" else "fault", f.at_m, f.ohm) for f in faults if f.kind != "bond"]
    bonded = [(a.at_m, a.point.earth_ohm) for a in line.accesses if a.point.earth_ohm is not None]
    features += _earths(bonded, line.length_m)
    coils = [(a.at_m, a.solenoid.ohm, a.solenoid.henry) for a in line.accesses if a.solenoid is not None]
    features += _solenoids(coils, line.length_m)
    depth = line.depth_m(deepest=deepest)
    return SiteLine(
        target_name(line),
        line.construction,
        tuple((x, y, depth) for x, y in path),
        _end(line.near.earth_ohm),
        FarEnd("unknown", line.far.earth_ohm),
        tuple(features),
    )


@lru_cache(maxsize=1024)  # every line of a plan asks for all the others
def _as_drawn(d: Drawn, *, deepest: bool) -> SiteLine:
    depth = d.depth_m(deepest=deepest)
    ends = [FarEnd("earthed", e.earth_ohm) if e.kind == "unknown" else e for e in (d.start, d.end)]
    route = tuple((x, y, depth) for x, y in d.corners)
    on_it = [*_earths(d.earths, d.length_m), *_solenoids(d.solenoids, d.length_m)]
    return SiteLine(d.name, d.construction, route, ends[0], ends[1], tuple(on_it))


def _solenoids(coils: Sequence[tuple[float, float, float]], length_m: float) -> list[Feature]:
    """Coils in series on the way; past one at an end there is nothing."""
    inside = [c for c in coils if _AT_EARTH_M < c[0] < length_m - _AT_EARTH_M]
    return [Feature("solenoid", at, ohm, henry=henry) for at, ohm, henry in inside]


def _earths(bonded: Sequence[tuple[float, float]], length_m: float) -> list[Feature]:
    """Earths bonded on the way; one at an end belongs to the end."""
    return [Feature("earth", at, ohm) for at, ohm in bonded if _AT_EARTH_M < at < length_m - _AT_EARTH_M]


def _end(ohm: float | None) -> FarEnd:
    return OPEN_END if ohm is None else FarEnd("earthed", ohm)


def _told(line: Line, n: Neighbour, k: int) -> tuple[SiteLine, Bond | None]:
    name = f"{k + 1} {n.name}"  # neighbours may share a name
    route = ((n.start_m, n.offset_m, n.depth_m), (n.end_m, n.offset_m, n.depth_m))
    beside = SiteLine(name, n.construction, route, _end(n.start_earth_ohm), _end(n.end_earth_ohm))
    # where the line is thought to end sooner, what joins it further on is not there
    if n.bond_m is None or not 0 <= n.bond_m <= line.length_m + BOND_AT_END_M:
        return beside, None
    return beside, Bond(TARGET_NAME, min(n.bond_m, line.length_m), name, n.bond_m - n.start_m)
