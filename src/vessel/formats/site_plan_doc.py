"""From a job (document or row) to the core's site plan, and each line's place on it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np

from vessel.core.model.construction import Construction, metal, preset
from vessel.core.model.drawn_line import SNAP_M, Area, Drawn, length_m, nearest_on
from vessel.core.model.hum import HUMS, Humming
from vessel.core.model.line import ACCESS_TICKS, USUAL_SOLENOID, Access, AccessPoint, Solenoid
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.neighbour import Neighbour, stretch
from vessel.core.model.network import Bond
from vessel.core.model.site_plan import SitePlan, beside
from vessel.formats.job_file import NearDoc, NeighbourDoc, PointDoc
from vessel.formats.kit_doc import ConstructionDoc
from vessel.formats.plan_doc import BURIED, COLUMNS, AccessDoc, SitePlanDoc, StructureDoc, tuples


def plan_doc(job: Any) -> SitePlanDoc:
    """Return what is on the plan of a job other than its lines."""
    return job.site if isinstance(job.site, SitePlanDoc) else SitePlanDoc.model_validate(job.site)


def metal_of(line: Any) -> Construction | None:
    """Return the construction of a document or row, None without metal."""
    if line.construction is None:
        return None
    return Construction(**ConstructionDoc.model_validate(line.construction).model_dump())


def drawn_lines(job: Any) -> list[Any]:
    """Return the lines of a job that have a route and were not removed."""
    return [line for line in job.lines if line.route and line.deleted_at is None]


def route_length_m(line: Any) -> float:
    """Return the length [m] of a drawn line."""
    return length_m(tuples(line.route))


def names_of(job: Any) -> list[str]:
    """Return a name for each drawn line that no other thing on the plan has."""
    found: list[str] = []
    for line in drawn_lines(job):
        found.append(_unlike(line.name, found))
    return found


def _unlike(name: str, taken: list[str]) -> str:
    candidate, k = name, 2
    while candidate in taken:
        candidate, k = f"{name} ({k})", k + 1
    return candidate


def neighbour_of(data: Any, *, length_m: float) -> Neighbour:
    """Return a neighbour of a line of `length_m` [m] from its document or its stored data."""
    doc = NeighbourDoc.model_validate(data)
    start, end = stretch(doc.start_m, doc.end_m, length_m=length_m)
    return Neighbour(
        doc.name,
        Construction(**doc.construction.model_dump()),
        doc.offset_m,
        start,
        end,
        doc.depth_m,
        doc.start_earth_ohm,
        doc.end_earth_ohm,
        doc.bond_m,
    )


def _drawn(line: Any, name: str, access: Sequence[AccessDoc]) -> Drawn:
    route = Drawn(name, metal_of(line), tuples(line.route), line.depth_min_m, line.depth_max_m)
    near = NearDoc.model_validate(line.near)
    start = OPEN_END if near.earth_ohm is None else FarEnd("earthed", near.earth_ohm)
    on_it = (*accesses_on(route, access, coils=preset(line.preset).controlled), *points_of(line))
    earths = tuple((a.at_m, a.point.earth_ohm) for a in on_it if a.point.earth_ohm is not None)
    coils = tuple((a.at_m, a.solenoid.ohm, a.solenoid.henry) for a in on_it if a.solenoid is not None)
    end = FarEnd(line.far_kind, line.far_earth_ohm)
    low, high = line.depth_min_m, line.depth_max_m
    return Drawn(name, route.construction, route.corners, low, high, start, end, earths, coils)


def points_of(line: Any) -> tuple[Access, ...]:
    """Return what was entered on a line (document or row) by its distance, in order."""
    found = [point_of(data) for data in line.points]
    return tuple(sorted(found, key=lambda f: f.at_m))


def point_of(data: Any) -> Access:
    """Return what stands on a line from its document or its stored data."""
    doc = PointDoc.model_validate(data)
    return _access(doc, doc.at_m, coils=True)


def _access(doc: PointDoc | AccessDoc, at_m: float, *, coils: bool) -> Access:
    coil = None
    if coils and doc.solenoid_ohm is not None:
        coil = Solenoid(doc.solenoid_ohm, USUAL_SOLENOID.henry if doc.solenoid_h is None else doc.solenoid_h)
    return Access(doc.name, at_m, _reached_at(doc), doc.kind in COLUMNS, coil, HUMS.get(doc.kind))


def _reached_at(doc: PointDoc | AccessDoc) -> AccessPoint:
    ticks = {k: getattr(doc, k) for k in ACCESS_TICKS}
    return AccessPoint(**ticks, earth_ohm=doc.earth_ohm, reached=doc.kind not in BURIED)


def accesses_on(route: Drawn, access: Sequence[AccessDoc], *, coils: bool) -> tuple[Access, ...]:
    """Return the access points that a route passes, in order; that of its near end is the line's own.

    `coils`: its wires go through the valves there.
    """
    found = [_access(a, at_m, coils=coils) for a, at_m in _passed(route, access) if at_m > SNAP_M]
    return tuple(sorted(found, key=lambda f: f.at_m))


def live_at_start(route: Drawn, access: Sequence[AccessDoc]) -> bool:
    """Return whether an access point at the near end is said to be live."""
    return any(a.live and at_m <= SNAP_M for a, at_m in _passed(route, access))


def _passed(route: Drawn, access: Sequence[AccessDoc]) -> list[tuple[AccessDoc, float]]:
    """The access points that a route passes, each with how far along it [m] it stands."""
    if not access:
        return []
    along, off, _ = nearest_on(route.corners_m, route.corner_distances_m, np.array([a.at[:2] for a in access]))
    return [(a, float(at)) for a, at, away in zip(access, along, off, strict=True) if away <= SNAP_M]


def dig_area(doc: SitePlanDoc) -> Area | None:
    """Return the dig area of a plan, None where none is drawn."""
    return Area("Dig area", tuples(doc.dig)) if doc.dig else None


def site_plan_of(job: Any, doc: SitePlanDoc) -> SitePlan | None:
    """Return the plan of a job, its drawn lines first and in order; None where nothing is drawn.

    `doc` is what is on it other than lines.
    """
    lines = drawn_lines(job)
    if not lines:
        return None
    drawn = [_drawn(line, name, doc.access) for line, name in zip(lines, names_of(job), strict=True)]
    told: list[Drawn] = []
    bonds: list[Bond] = []
    for line, own in zip(lines, list(drawn), strict=True):
        for n in line.neighbours:
            taken = [d.name for d in (*drawn, *told)]
            thing, bond = beside(own, neighbour_of(n, length_m=own.length_m), unlike=taken)
            told.append(thing)
            bonds += [] if bond is None else [bond]
    structures: list[Drawn] = []
    for s in doc.structures:
        taken = [d.name for d in (*drawn, *told, *structures)]
        structures.append(_structure(s, _unlike(s.name, taken)))
    lengths = {d.name: d.length_m for d in (*drawn, *told, *structures)}
    # a bond to something that was removed waits until it is back
    kept = [Bond(b.a, b.a_m, b.b, b.b_m, b.ohm) for b in doc.bonds if {b.a, b.b} <= set(lengths)]
    hard = tuple(Area(a.name, tuples(a.corners)) for a in doc.hard)
    hums = tuple(Humming(a.name, (a.at[0], a.at[1]), HUMS[a.kind]) for a in doc.access if a.kind in HUMS)
    return SitePlan((*drawn, *told, *structures), (*bonds, *kept), hard, dig_area(doc), hums)


def _structure(s: StructureDoc, name: str) -> Drawn:
    made_of, start, end = metal(s.preset), _earth(s.start_earth_ohm), _earth(s.end_earth_ohm)
    return Drawn(name, made_of, tuples(s.corners), s.depth_m, s.depth_m, start, end)


def _earth(ohm: float | None) -> FarEnd:
    return OPEN_END if ohm is None else FarEnd("earthed", ohm)
