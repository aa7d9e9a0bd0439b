"""Where the ground stake can go: every spot the lead reaches, what speaks against it, and the best of them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.line import Line
from vessel.core.model.site_plan import SitePlan
from vessel.core.signal.layout.beside_line import off_line
from vessel.core.signal.layout.placed_hookup import square_to

Against = Literal["over_line", "by_steel", "lead_crosses", "hard", "along_walk"]

OVER_M = 1.0
"""A stake closer to a line than this might be driven into it [m]."""
STEEL_M = 3.0
"""Bare metal closer than this takes the stake's current straight out of the soil [m]."""
ALONG_DEG = 45.0
"""A lead at less than this to the run lies where the trace will be walked."""
_LEAKY_S_M2 = 0.01  # a coating that leaks this much is as good as none
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


@lru_cache(maxsize=256)
def spots(line: Line, *, at_m: float, lead_m: float) -> tuple[Spot, ...]:
    """Return the spots for the stake round a hookup.

    Those that something speaks against come last. Empty for a line that is not drawn.

    Args:
        line: The line to locate.
        at_m: Distance of the hookup along the line [m].
        lead_m: Length of the lead [m].

    Returns:
        Spots, the best first, those with something against them last; none if the line is not drawn.
    """
    if line.course is None:
        return ()
    here, left = square_to(line, at_m)
    run = np.array([left[1], -left[0]])
    turns = 2 * np.pi * np.arange(_TURNS) / _TURNS
    unit = np.cos(turns)[:, None] * left + np.sin(turns)[:, None] * run
    at = np.concatenate([here + share * lead_m * unit for share in _SHARES])
    return tuple(sorted(_spots(line, at_m, at), key=lambda s: (s.against is not None, s.cost)))


def spot_at(line: Line, *, at_m: float, stake_at: tuple[float, float]) -> Spot | None:
    """Return what there is to say about one spot for the stake.

    Args:
        line: The line to locate.
        at_m: Distance of the hookup along the line [m].
        stake_at: East and north of the stake [m].

    Returns:
        The spot; None if the line is not drawn.
    """
    return None if line.course is None else _spots(line, at_m, np.array([stake_at]))[0]


def _spots(line: Line, at_m: float, at: Floats) -> list[Spot]:
    """The places `at` (n, 2) [m] as spots, in their order."""
    if line.course is None:
        raise AssertionError("only a drawn line has spots")
    plan, own = line.course.plan, line.course.own
    here, left = square_to(line, at_m)
    away = np.hypot(*(at - here).T)
    unit = (at - here) / np.maximum(away, 1e-9)[:, None]
    angle = 90 - np.degrees(np.arcsin(np.clip(np.abs(unit @ np.array([left[1], -left[0]])), 0, 1)))
    against = _against(plan, own, here, at, angle)
    others = [d for i, d in enumerate(plan.drawn) if i != own]
    clear = np.array([off_line(d, at)[1] for d in others]).reshape(len(others), len(at))
    found = []
    for k, (x, y) in enumerate(at):
        nearest = int(clear[:, k].argmin()) if others else None
        found.append(
            Spot(
                (float(x), float(y)),
                float(away[k]),
                float(angle[k]),
                "left" if unit[k] @ left > 0 else "right",
                *against[k],
                None if nearest is None else float(clear[nearest, k]),
                "" if nearest is None else others[nearest].name,
            )
        )
    return found


def _against(plan: SitePlan, own: int, here: Floats, at: Floats, angle: Floats) -> list[tuple[Against | None, str]]:
    """What rules out each place `at` (n, 2) [m] for a lead from `here`, the gravest reason first."""
    off = [off_line(d, at)[1] for d in plan.drawn]
    checks: list[tuple[Mask, Against, str]] = []
    checks += [(o < OVER_M, "over_line", d.name) for o, d in zip(off, plan.drawn, strict=True)]
    checks += [(area.holds(at), "hard", area.name) for area in plan.hard]
    for i, (o, d) in enumerate(zip(off, plan.drawn, strict=True)):
        if i == own or d.construction is None:
            continue
        if d.construction.bare or d.construction.coating_s_m2 > _LEAKY_S_M2:
            checks.append((o < STEEL_M, "by_steel", d.name))
        checks.append((_crossed(here, at, d), "lead_crosses", d.name))
    checks.append((angle < ALONG_DEG, "along_walk", plan.drawn[own].name))
    return [next(((why, name) for hit, why, name in checks if hit[k]), (None, "")) for k in range(len(at))]


def _crossed(here: Floats, at: Floats, d: Drawn) -> Mask:
    """Which straight leads from `here` to each of `at` (n, 2) cross `d` on the ground, other than where they start."""
    p, q = d.corners_m[None, :-1], d.corners_m[None, 1:]
    ends = at[:, None]
    start = here + 0.02 * (ends - here)

    def side(u: Floats, v: Floats, w: Floats) -> Floats:
        along, aside = v - u, w - u
        return np.asarray(along[..., 0] * aside[..., 1] - along[..., 1] * aside[..., 0])

    apart = side(start, ends, p) * side(start, ends, q) < 0
    return np.asarray((apart & (side(p, q, start) * side(p, q, ends) < 0)).any(1))


def best_spots(line: Line, *, at_m: float, lead_m: float) -> tuple[Spot, ...]:
    """Return the best spot on each side of the line.

    Args:
        line: The line to locate.
        at_m: Distance of the hookup along the line [m].
        lead_m: Length of the lead [m].

    Returns:
        Better side first; the least bad one if nothing will do.
    """
    every = spots(line, at_m=at_m, lead_m=lead_m)
    good = [s for s in every if s.against is None]
    if not good:
        # a stake is never proposed into a line or through a surface, even if no spot is left
        return tuple(s for s in every if s.against not in ("over_line", "hard"))[:1]
    return tuple(next(s for s in good if s.side == side) for side in dict.fromkeys(s.side for s in good))
