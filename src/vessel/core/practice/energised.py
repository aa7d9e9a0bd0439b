"""A hookup of the job put on what really lies there: where the clip, the clamp or the coil goes in the ground."""

from __future__ import annotations

from collections.abc import Set
from dataclasses import dataclass, replace

from vessel.core.base.arrays import Floats
from vessel.core.base.errors import BadInput
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Hookup, Site
from vessel.core.model.opened_bonds import AT_BOX_M
from vessel.core.model.setup import Setup
from vessel.core.practice.yard_lesson import Act, YardLesson
from vessel.core.signal.layout.beside_line import off_line
from vessel.core.signal.layout.placed_hookup import hookup_on, square_to
from vessel.core.signal.solved_site import SolvedSite

REACH_M = 1.0
"""Metal further than this from where the plan has it is not at hand there [m]."""
CLEAN_OHM = 0.5
"""A clip on clean metal [ohm]."""
_DEEPER = 2.0


@dataclass(frozen=True)
class PutOn:
    """A hookup as it was made in the yard: the site in the ground, solved, and where the transmitter stands [m]."""

    solved: SolvedSite
    at: tuple[float, float]

    @property
    def through_air(self) -> bool:
        """Whether it is a coil, which can be carried along."""
        return self.solved.hookup.by.through_air


def put_on(lesson: YardLesson, line: Line, name: str, setup: Setup, kit: Kit, acts: Set[Act]) -> PutOn:
    """Return the ground under a hookup.

    Args:
        lesson: The lesson with what lies there.
        line: The line as the job has it, drawn on its plan.
        name: Name of the line it really is; empty: whatever comes up there.
        setup: Method, place, frequency, output and stake of the hookup.
        kit: Transmitter and receiver in use.
        acts: What was done at the hookup since.

    Returns:
        The site solved, and the transmitter's place.

    Raises:
        BadInput: If nothing comes up where the hookup would be.
    """
    here, _ = square_to(line, setup.position_m)
    site = _as_changed(lesson, name, acts)
    hookup = _in_ground(site, hookup_on(line, setup), name, here, lesson, acts)
    return PutOn(SolvedSite(site, hookup, kit), (float(here[0]), float(here[1])))


def alone_at(put: PutOn) -> bool:
    """Return whether nothing else is connected where leads or clamp are.

    Args:
        put: The hookup in the ground.

    Returns:
        False if another line is bonded in the same box.
    """
    hookup = put.solved.hookup
    here = [(name, at_m) for b in put.solved.site.bonds for name, at_m in ((b.a, b.a_m), (b.b, b.b_m))]
    return not any(name == hookup.line and abs(at_m - hookup.at_m) < AT_BOX_M for name, at_m in here)


def _as_changed(lesson: YardLesson, name: str, acts: Set[Act]) -> Site:
    site = lesson.site
    if "open_bonds" in acts:
        site = replace(site, bonds=tuple(b for b in site.bonds if name not in (b.a, b.b)))
    if "earth_far" in acts:
        earthed = FarEnd("earthed", lesson.far_earth_ohm)
        lines = tuple(replace(x, end=earthed) if x.name == name and x.end.kind == "open" else x for x in site.lines)
        site = replace(site, lines=lines)
    return site


def _in_ground(site: Site, drawn: Hookup, name: str, here: Floats, lesson: YardLesson, acts: Set[Act]) -> Hookup:
    if drawn.by.between:
        raise BadInput("yard_no_pair", field="setup_id")
    stake = replace(drawn.stake, measured_ohm=None)
    if "stake_deeper" in acts:
        stake = replace(stake, length_m=_DEEPER * stake.length_m)
    clip = CLEAN_OHM if "clean_clip" in acts else lesson.clip_ohm
    if drawn.by.through_air:
        return replace(drawn, stake=stake)
    near = []
    for x in site.lines:
        along, off, _ = off_line(x, here[None])
        if x.construction is not None and off[0] <= REACH_M and name in ("", x.name):
            near.append((float(off[0]), x.name, float(along[0])))
    if not near:
        raise BadInput("yard_nothing_there", field="position", name=name)
    _, own, at_m = min(near)
    at_m = min(max(at_m, 0.0), site.line(own).length_m)
    return replace(drawn, line=own, at_m=at_m, stake=stake, clip_ohm=clip)
