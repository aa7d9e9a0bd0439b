"""Where the ground stake can go: every spot the lead reaches, what speaks against it, and the best of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.ground import Drawn
from vessel.core.model.line import Line
from vessel.core.signal.layout import off_line, square_to

Floats = NDArray[np.float64]
Against = Literal["over_line", "by_steel", "lead_crosses", "hard", "along_walk"]

OVER_M = 1.0
"""A stake closer to a line than this might be driven into it [m]."""
STEEL_M = 3.0
"""Bare metal closer than this takes the stake's current straight out of the soil [m]."""
ALONG_DEG = 45.0
"""A lead at less than this to the run lies where the trace will be walked."""
_SHARES = (1.0, 0.75, 0.5)  # of the lead
_TURNS = 24
_ENOUGH_M = 10.0  # clearance beyond this gains nothing more


@dataclass(frozen=True)
class Spot:
    """A place for the stake, `away_m` from the hookup [m], the lead at `angle_deg` to the line's run (0 to 90).

    `against`: what rules it out, with the name of what is in the way; None: it will do. `clear_m` to the nearest
    other thing drawn [m], None if nothing else is.
    """

    at: tuple[float, float]
    away_m: float
    angle_deg: float
    side: Literal["left", "right"]
    against: Against | None
    what: str
    clear_m: float | None
    nearest: str

    @property
    def cost(self) -> float:
        """Less is better: far from everything else, square to the line, a long lead."""
        clear = _ENOUGH_M if self.clear_m is None else min(self.clear_m, _ENOUGH_M)
        return (90 - self.angle_deg) / 30 - clear - 0.5 * self.away_m


def spots(line: Line, *, at_m: float, lead_m: float) -> tuple[Spot, ...]:
    """Return the spots round a hookup `at_m` along a line [m] within a lead of `lead_m` [m], the best first.

    Those that something speaks against come last. Empty for a line that is not drawn.
    """
    if line.course is None:
        return ()
    here, left = square_to(line, at_m)
    run = np.array([left[1], -left[0]])
    turns = 2 * np.pi * np.arange(_TURNS) / _TURNS
    unit = np.cos(turns)[:, None] * left + np.sin(turns)[:, None] * run
    found = []
    for share in _SHARES:
        away = share * lead_m
        for u in unit:
            angle = float(np.degrees(np.arccos(min(1.0, abs(float(u @ run))))))
            found.append(_spot(line, here, here + away * u, angle, "left" if u @ left > 0 else "right"))
    return tuple(sorted(found, key=lambda s: (s.against is not None, s.cost)))


def _spot(line: Line, here: Floats, at: Floats, angle: float, side: Literal["left", "right"]) -> Spot:
    if line.course is None:
        raise AssertionError("only a drawn line has spots")
    plan, own = line.course.plan, line.course.own
    others = [d for i, d in enumerate(plan.drawn) if i != own]
    clear = [(float(off_line(d, at[None])[1][0]), d) for d in others]
    nearest, by = min(clear, key=lambda c: c[0], default=(None, None))
    against, what = _against(line.course.drawn, here, at, angle, clear)
    for area in plan.hard:
        if against is None and area.holds(at[None])[0]:
            against, what = "hard", area.name
    away = float(np.hypot(*(at - here)))
    name = "" if by is None else by.name
    return Spot((float(at[0]), float(at[1])), away, angle, side, against, what, nearest, name)


def _against(
    own: Drawn, here: Floats, at: Floats, angle: float, clear: list[tuple[float, Drawn]]
) -> tuple[Against | None, str]:
    if off_line(own, at[None])[1][0] < OVER_M:
        return "over_line", own.name
    for off, d in clear:
        if off < OVER_M:
            return "over_line", d.name
    for off, d in clear:
        if off < STEEL_M and d.construction is not None and (d.construction.bare or d.construction.coating_s_m2 > 0.01):
            return "by_steel", d.name
    for _, d in clear:
        if d.construction is not None and _crosses(here, at, d):
            return "lead_crosses", d.name
    return ("along_walk", own.name) if angle < ALONG_DEG else (None, "")


def _crosses(a: Floats, b: Floats, d: Drawn) -> bool:
    """Whether the straight lead from `a` to `b` crosses `d` on the ground, other than where it starts."""
    p, q = d.corners_m[:-1], d.corners_m[1:]

    def side(u: Floats, v: Floats, w: Floats) -> Floats:
        return np.asarray((v[..., 0] - u[..., 0]) * (w[..., 1] - u[..., 1])
                          - (v[..., 1] - u[..., 1]) * (w[..., 0] - u[..., 0]))  # fmt: skip

    start = a + 0.02 * (b - a)
    apart = side(start, b, p) * side(start, b, q) < 0
    return bool((apart & (side(p, q, start) * side(p, q, b) < 0)).any())


def best_spots(line: Line, *, at_m: float, lead_m: float) -> tuple[Spot, ...]:
    """Return the best spot on each side of the line, better side first; the least bad if nothing will do."""
    every = spots(line, at_m=at_m, lead_m=lead_m)
    good = [s for s in every if s.against is None]
    if not good:
        # a stake is never proposed into a line or through a surface, whatever is left
        return tuple(s for s in every if s.against not in ("over_line", "hard"))[:1]
    return tuple(next(s for s in good if s.side == side) for side in dict.fromkeys(s.side for s in good))
