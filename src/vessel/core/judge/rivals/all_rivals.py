"""The rivals of a hookup: those solved as sites, and those that the line as entered makes by itself, all weighted."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import replace

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.rival_kinds import RIVALS, Plant, plant_of
from vessel.core.judge.rivals.rival_solutions import solved_rivals
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil

_GOES_ON_AT = tuple(float(x) for x in np.linspace(0.02, 0.96, 24))
_ANY_CURRENT, _LIKELIEST = 0.5, 5
_MOVED = (0.4, 0.65, 1.5)
_SUNK = (0.6, 1.0, 1.7)
_GRIDS = 1000  # more than ways in which the line may be as entered


def rival_explanations(
    line: Line, soil: Soil, kit: Kit, setup: Setup, entered: Sequence[Explanation], at_m: Floats
) -> list[Explanation]:
    """Return the rivals of a hookup.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        entered: The line as entered, in each way the readings leave possible.
        at_m: Places along the line, shape (n,) [m].

    Returns:
        Rivals on both sides of the line, weighted by how likely each is before any reading.
    """
    unknown = Explanation("nothing_known", 1.0, entered[0].conductors, like_entered=True, anything=True)
    if setup.by.between:  # what runs there and back in one cable goes onto no other line
        return _weighted([unknown], plant_of(line.construction))
    found = [*_known(entered), *_going_on(line, setup, entered)]
    solved = solved_rivals(line, soil, kit, setup, tuple(at_m.tolist()))
    found += [e.beside(entered[0].conductors) for e in solved]
    found.append(unknown)
    return _weighted(found, plant_of(line.construction))


def _weighted(found: Sequence[Explanation], plant: Plant) -> list[Explanation]:
    """Every kind's weights made to sum to its prior, each rival on both sides of the line."""
    every: list[Explanation] = []
    for kind in dict.fromkeys(e.kind for e in found):
        if kind is None:
            continue
        own = [e for e in found if e.kind == kind]
        scale = RIVALS[kind].prior[plant] / sum(e.weight for e in own)
        for e in own:
            if not e.rivals:
                every.append(replace(e, weight=e.weight * scale))
                continue
            if len(e.conductors.amps) == 1 + len(e.rivals):  # with nothing else near it both sides read alike
                every.append(replace(e, weight=e.weight * scale, either_side=True))
                continue
            half = replace(e, weight=0.5 * e.weight * scale)
            every += [half, replace(half, conductors=e.conductors.mirrored(e.rivals))]
    return every


def _known(entered: Sequence[Explanation]) -> Iterator[Explanation]:
    """Lines entered beside it: nearer, further, deeper or shallower than entered, or followed in its stead."""
    for e in _likeliest(entered):
        c = e.conductors
        for k in range(1, len(c.amps)):
            for moved in _MOVED:
                for sunk in _SUNK:
                    offset, depth = c.offset_m.copy(), c.depth_m.copy()
                    offset[k] *= moved
                    depth[k] *= sunk
                    where = replace(c, offset_m=offset, depth_m=depth)
                    of_m, grid = float(offset[k].mean()), _GRIDS * k + e.grid
                    yield replace(e, kind="known_moved", conductors=where, of_m=of_m, grid=grid)
            yield replace(e, kind="known_followed", follows=k, of_m=float(c.offset_m[k].mean()), grid=-1)


def _likeliest(entered: Sequence[Explanation]) -> list[Explanation]:
    return sorted(entered, key=lambda e: -e.weight)[:_LIKELIEST]


def _going_on(line: Line, setup: Setup, entered: Sequence[Explanation]) -> Iterator[Explanation]:
    """Another line is followed from some place on: one that carries all the current, or one that carries anything.

    Nothing read over the ground can tell the first from the line as entered, however that is explained.
    """
    for share in _GOES_ON_AT:
        at_m = share * line.length_m
        all_of_it = Explanation(
            "goes_on", 1.0, entered[0].conductors, of_m=at_m, like_entered=True, back=at_m < setup.position_m
        )
        yield from (all_of_it, replace(all_of_it, weight=_ANY_CURRENT, anything=True))
