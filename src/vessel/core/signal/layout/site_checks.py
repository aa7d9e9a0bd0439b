"""What cannot be computed, said before it is tried."""

from __future__ import annotations

from functools import lru_cache
from itertools import combinations

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.model.network import Bond, Hookup, Site, SiteLine
from vessel.core.signal.layout.closest_approach import approaches, bonded_there, closest

STAKE_CLEAR_M = 0.1


def check_site(site: Site) -> None:
    """Check that lines do not lie in each other.

    Args:
        site: Lines, bonds and soil.

    Raises:
        BadInput: If two do; names both and the place.
    """
    _require_apart(tuple(line.bare for line in site.lines if line.construction is not None), site.bonds)


@lru_cache(maxsize=32)
def _require_apart(metal: tuple[SiteLine, ...], bonds: tuple[Bond, ...]) -> None:
    for a, b in combinations(metal, 2):
        if a.construction is None or b.construction is None:
            continue
        reach = a.construction.outer_radius_m + b.construction.outer_radius_m
        for distance, at_a, at_b in approaches(a, b, limit_m=reach * (1 - 1e-9)):
            if not bonded_there(bonds, a, b, at_a, at_b):
                raise BadInput(
                    "lines_overlap", field="route", a=a.name, b=b.name, apart_m=distance, at_m=at_a, needed_m=reach
                )


def check_stake(site: Site, hookup: Hookup) -> None:
    """Check that the stake is clear of every line.

    Args:
        site: Lines, bonds and soil.
        hookup: A hookup placed on the site.

    Raises:
        BadInput: If it would be driven into one, or is where its lead is attached.
    """
    top = np.array([*hookup.stake_at, 0.0])
    rod = (top, top - np.array([0.0, 0.0, hookup.stake.length_m]))
    for line in site.lines:
        radius = 0.05 if line.construction is None else line.construction.outer_radius_m
        for k in range(len(line.route) - 1):
            distance, _, _ = closest(rod, (line.corners_m[k], line.corners_m[k + 1]))
            if distance < radius + STAKE_CLEAR_M:
                raise BadInput("stake_on_line", field="stake_at", name=line.name, off_m=distance)
    access = site.line(hookup.line).places(np.array([hookup.at_m]))[0]
    if np.hypot(*(access[:2] - top[:2])) < 0.5:
        raise BadInput("stake_at_access", field="stake_at")
