"""Bonds at the ends of a line: which are entered, and the line as it is with some of them open."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import replace

from vessel.core.model.identity import LineEnd
from vessel.core.model.line import Line
from vessel.core.model.network import Bond
from vessel.core.model.setup import Setup
from vessel.core.model.site_plan import Course

AT_BOX_M = 3.0
"""What is nearer than this to a box is in it [m]."""


def box_m(setup: Setup) -> float:
    """Return where the box is that one looks into.

    Args:
        setup: Method and place.

    Returns:
        Distance along the line: of the hookup; by coil where the line begins [m].
    """
    return 0.0 if setup.by.through_air else setup.position_m


def drawn_bonds(line: Line, setup: Setup) -> frozenset[LineEnd]:
    """Return at which ends of a line a bond to something else is entered.

    Args:
        line: The line to locate.
        setup: Method and place.

    Returns:
        Where it is hooked up, where else it ends, both or neither.
    """
    told = [n.bond_m for n in line.neighbours if n.bond_m is not None]
    drawn = [] if line.course is None else [_on_it(line, bond) for bond in line.course.plan.bonds]
    return _ends(line, setup, [at for at in (*told, *drawn) if at is not None])


def begins_beside(line: Line, setup: Setup) -> frozenset[LineEnd]:
    """Return at which ends of a line something that is entered beside it begins or ends.

    Args:
        line: The line to locate.
        setup: Method and place.

    Returns:
        Where it is hooked up, where else it ends, both or neither.
    """
    found = [at for n in line.neighbours for at in (n.start_m, n.end_m)]
    found += [] if line.course is None else _drawn_ends(line.course)
    boxes = (0.0, box_m(setup), line.length_m)
    return _ends(line, setup, [at for at in found if any(abs(at - box) < AT_BOX_M for box in boxes)])


def _drawn_ends(course: Course) -> list[float]:
    """Where along a line others drawn on the plan begin or end within reach of it [m]."""
    others = (d for k, d in enumerate(course.plan.drawn) if k != course.own)
    ends = [course.drawn.nearest(corner) for d in others for corner in (d.corners[0], d.corners[-1])]
    return [along for along, away in ends if away < AT_BOX_M]


def with_bonds_open(line: Line, setup: Setup, opened: Collection[LineEnd]) -> Line:
    """Return a line as it is while bonds at its ends are kept open.

    Args:
        line: The line to locate.
        setup: Method and place.
        opened: The ends at which nothing else is connected.

    Returns:
        The line without the bonds that are entered there; the line itself if there are none.
    """
    if not drawn_bonds(line, setup).intersection(opened):
        return line

    def open_at(at_m: float | None) -> bool:
        return at_m is not None and _end(line, setup, at_m) in opened

    told = tuple(replace(n, bond_m=None) if open_at(n.bond_m) else n for n in line.neighbours)
    if line.course is None:
        return replace(line, neighbours=told)
    plan = line.course.plan
    kept = tuple(bond for bond in plan.bonds if not open_at(_on_it(line, bond)))
    return replace(line, neighbours=told, course=replace(line.course, plan=replace(plan, bonds=kept)))


def _on_it(line: Line, bond: Bond) -> float | None:
    """Where a bond of the plan sits on the line [m]; None if it is not on it."""
    own = line.course.drawn.name if line.course is not None else ""
    return {bond.a: bond.a_m, bond.b: bond.b_m}.get(own)


def _ends(line: Line, setup: Setup, places_m: Iterable[float]) -> frozenset[LineEnd]:
    """The ends of the line that places [m] belong to."""
    ends = (_end(line, setup, at) for at in places_m)
    return frozenset(end for end in ends if end is not None)


def _end(line: Line, setup: Setup, at_m: float) -> LineEnd | None:
    """The end of the line that a place belongs to, None if it is on the way [m]."""
    if abs(at_m - box_m(setup)) < AT_BOX_M:
        return "here"
    return None if AT_BOX_M < at_m < line.length_m - AT_BOX_M else "far"
