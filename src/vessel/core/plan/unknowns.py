"""What is not known of a line, how much each could change a setup, and which is worth finding out first."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_option import Option
from vessel.core.plan.what_if import what_if
from vessel.core.simulate.soil_range import soils_expected

UnknownName = Literal["far_end", "soil", "depth"]


@dataclass(frozen=True)
class Unknown:
    """One unknown with the least and the greatest length markable over its range [m], and what each case is."""

    name: UnknownName
    least_m: float
    most_m: float
    least_case: str
    most_case: str

    @property
    def spread_m(self) -> float:
        """How much it can change [m]."""
        return self.most_m - self.least_m


def unknowns(
    lines: Sequence[Line], own: int, soil: Soil, kit: Kit, setup: Setup, *, measured: bool
) -> tuple[Unknown, ...]:
    """Return the unknowns of a line under a setup, the one that matters most first.

    Args:
        lines: Lines that share one site plan.
        own: Index of the line in question among `lines`.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.

    Returns:
        Each with what the setup proves at both ends of its range.
    """
    line = lines[own]
    cases: dict[UnknownName, list[tuple[str, Option]]] = {}
    if line.far.kind == "unknown":
        ends: tuple[FarEnd, ...] = (FarEnd("open"), FarEnd("earthed"))
        cases["far_end"] = [(e.kind, what_if(lines, own, soil, kit, setup, far=e)) for e in ends]
    soils = soils_expected(soil, measured=measured)
    cases["soil"] = [(f"{s.resistivity_ohm_m:.0f} ohm m", what_if(lines, own, s, kit, setup)) for s in soils]
    if line.depth_max_m > 1.01 * line.depth_min_m:
        shallow = [replace(x, depth_max_m=x.depth_min_m) if k == own else x for k, x in enumerate(lines)]
        cases["depth"] = [
            ("deepest", what_if(lines, own, soil, kit, setup)),
            ("shallowest", what_if(shallow, own, soil, kit, setup)),
        ]
    found = []
    for name, each in cases.items():
        ordered = sorted(each, key=lambda c: c[1].proved_m)
        (worst, low), (best, high) = ordered[0], ordered[-1]
        found.append(Unknown(name, low.proved_m, high.proved_m, worst, best))
    return tuple(sorted(found, key=lambda u: -u.spread_m))
