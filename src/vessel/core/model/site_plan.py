"""The site plan: what is drawn where, what a stake cannot be driven into, and where the dig will be.

East and north in metres from the plan's own origin.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Area, Drawn, left_of
from vessel.core.model.hum import Humming
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond


@dataclass(frozen=True)
class SitePlan:
    """Everything drawn (names are unique), what is bonded, hard surfaces, the dig area if there is one, what hums."""

    drawn: tuple[Drawn, ...]
    bonds: tuple[Bond, ...] = ()
    hard: tuple[Area, ...] = ()
    dig: Area | None = None
    humming: tuple[Humming, ...] = ()

    def __post_init__(self) -> None:
        names = [d.name for d in self.drawn]
        for i, name in enumerate(names):
            if name in names[:i]:
                raise BadInput("thing_name_twice", field="name", name=name)
        lengths = {d.name: d.length_m for d in self.drawn}
        for bond in self.bonds:
            for name, at_m in ((bond.a, bond.a_m), (bond.b, bond.b_m)):
                if name not in lengths or not 0 <= at_m <= lengths[name]:
                    raise BadInput("bond_off_route", field="bonds", at_m=at_m, name=name)


@dataclass(frozen=True)
class Course:
    """Where a line runs: it is the `own`-th thing drawn on `plan`."""

    plan: SitePlan
    own: int

    @property
    def drawn(self) -> Drawn:
        """The line as drawn."""
        return self.plan.drawn[self.own]


def beside(line: Drawn, n: Neighbour, *, unlike: Sequence[str] = ()) -> tuple[Drawn, Bond | None]:
    """Return what runs beside a line as a thing on the plan.

    Its corners keep the entered distance off every leg (mitred).

    Args:
        line: The line as drawn.
        n: The neighbour as entered.
        unlike: Names it must not have.

    Returns:
        The neighbour as drawn, and its bond to the line if there is one.
    """
    inner = [float(s) for s in line.corner_distances_m if n.start_m + 0.5 < s < n.end_m - 0.5]
    at = np.array([n.start_m, *inner, n.end_m])
    before, after = (left_of(line, at + side) for side in (-0.01, 0.01))
    half = before + after
    # at a right-about turn the mitre would be infinite: there the offset is kept square to the first leg
    scale = 2 / np.maximum((half**2).sum(1), 0.2)
    corners = line.places(at) + n.offset_m * scale[:, None] * half
    name = f"{n.name} beside {line.name}"
    name += f" ({n.offset_m:g} m)" if name in unlike else ""
    start, end = (OPEN_END if ohm is None else FarEnd("earthed", ohm) for ohm in (n.start_earth_ohm, n.end_earth_ohm))
    route = tuple((float(x), float(y)) for x, y in corners)
    told = Drawn(name, n.construction, route, n.depth_m, n.depth_m, start, end)
    if n.bond_m is None:
        return told, None
    place = line.places(np.array([n.bond_m]))[0]
    return told, Bond(line.name, n.bond_m, name, told.nearest((float(place[0]), float(place[1])))[0])
