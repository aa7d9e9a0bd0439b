"""In which order to do the lines of a site, with how many setups each, and what to do where no setup reaches."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.model.line import Line
from vessel.core.model.methods import METHODS
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.simulate.forecast import Moving

MOST_SETUPS = 6
"""Setups proposed for one line at most."""
_GAIN_M = 3.0
_BY_EYE_M = 5.0
_GAIN_SHARE = 0.05
_WHOLE = 0.9  # of a line: more than this proved and the line counts as done


@dataclass(frozen=True, eq=False)
class Visit:
    """One setup of a line in the order of work: `stretches` (from, to) [m] that it is the first to prove.

    `walk_m`: from where the setup before ended [m], None where a line is not drawn. `rule_out`: lines that take so much
    of the signal that they must be known before this one can be told from them.
    """

    line: int
    option: Option
    stretches: tuple[tuple[float, float], ...]
    proved_m: float
    walk_m: float | None
    rule_out: tuple[str, ...]


@dataclass(frozen=True, eq=False)
class Remaining:
    """What no setup proves of a line: `stretches` (from, to) [m].

    `moving`: what moving induction would do there. `if_earthed`: the setup to use once the far end is earthed, and
    `earthed_m` [m] what it would prove of these stretches then.
    """

    line: int
    stretches: tuple[tuple[float, float], ...]
    missing_m: float
    moving: Moving | None
    if_earthed: Option | None
    earthed_m: float


@dataclass(frozen=True, eq=False)
class Order:
    """The order of work."""

    visits: tuple[Visit, ...]
    remaining: tuple[Remaining, ...]


def proved_by(option: Option) -> Mask:
    """Return the stations an option proves for every far end considered.

    Args:
        option: The option.

    Returns:
        Which stations, shape (n,).
    """
    return np.zeros(0, dtype=bool) if option.rating is None else option.rating.proved


def setups_for(plan: Plan) -> list[tuple[Option, Mask]]:
    """Return the setups that together prove most of a line.

    Args:
        plan: The plan of one line.

    Returns:
        Option and the stations (n,) it adds, best first.
    """
    if not plan.ranked:
        return []
    weights = plan.ranked[0].forecasts[0].wanted_m
    masks = [proved_by(o) for o in plan.ranked]
    have = np.zeros(len(weights), dtype=bool)
    found: list[tuple[Option, Mask]] = []
    least = max(_GAIN_M, _GAIN_SHARE * plan.wanted_m)
    while len(found) < MOST_SETUPS:
        gains = [float(weights[m & ~have].sum()) for m in masks]
        # the first setup is the plan's own choice; later ones only have to reach what is missing
        k = 0 if not found else int(np.argmax(np.round(gains, 6)))
        if gains[k] < (min(least, 0.5) if not found else least):
            break
        found.append((plan.ranked[k], masks[k] & ~have))
        have |= masks[k]
    return found


def stretches(mask: Mask, edges_m: Floats, wanted_m: Floats) -> tuple[tuple[float, float], ...]:
    """Return the stretches of some stations that are to be located.

    Args:
        mask: Which stations, shape (n,).
        edges_m: Edges of the stretches the stations represent, shape (n + 1,) [m].
        wanted_m: Length to locate at each station, shape (n,) [m].

    Returns:
        From and to of each stretch [m].
    """
    found: list[tuple[float, float]] = []
    for k in np.flatnonzero(mask & (wanted_m > 0)):
        a, b = float(edges_m[k]), float(edges_m[k + 1])
        if found and abs(found[-1][1] - a) < 1e-9:
            found[-1] = (found[-1][0], b)
        else:
            found.append((a, b))
    return tuple(found)


def in_sequence(lines: Sequence[Line], plans: Sequence[Plan]) -> Order:
    """Return the order of work.

    What is proved most surely comes first, then the shortest way to walk.

    Args:
        lines: Lines that share one site plan.
        plans: One for each line.

    Returns:
        Visits in order, and each line's rest.
    """
    chosen = [setups_for(plan) for plan in plans]
    visits: list[Visit] = []
    here: Floats | None = None
    todo = [k for k, each in enumerate(chosen) if each]
    while todo:
        k = min(todo, key=lambda i: (_tier(plans[i], chosen[i]), _walk(here, lines[i], chosen[i][0][0]) or 0.0, i))
        todo.remove(k)
        for option, adds in chosen[k]:
            f = option.forecasts[0]
            new = stretches(adds, f.edges_m, f.wanted_m)
            walk = _walk(here, lines[k], option)
            visits.append(Visit(k, option, new, float(f.wanted_m[adds].sum()), walk, _loud(option)))
            here = _ends(lines[k], new) if new else here
    remaining = []
    for k, plan in enumerate(plans):
        left = _left(plan, chosen[k], lines[k], k)
        remaining += [left] if left is not None else []
    return Order(tuple(visits), tuple(remaining))


def missing_m(plan: Plan) -> float:
    """Return the length that no proposed setup proves.

    Args:
        plan: The plan of one line.

    Returns:
        Length to locate [m].
    """
    return plan.wanted_m - sum(float(o.forecasts[0].wanted_m[m].sum()) for o, m in setups_for(plan))


def _left(plan: Plan, chosen: list[tuple[Option, Mask]], line: Line, k: int) -> Remaining | None:
    if not chosen:
        return _remaining(plan, k, line.wanted_m, plan.wanted_m, None) if plan.wanted_m > 0 else None
    f = chosen[0][0].forecasts[0]
    have = np.any([m for _, m in chosen], axis=0)
    # the last metres before an end or a hookup are found by eye and probe: no depth is trusted there
    seen = [0.0, line.length_m, *(o.setup.position_m for o, _ in chosen)]
    left = [
        (a, b)
        for a, b in stretches(~have, f.edges_m, f.wanted_m)
        if b - a > _BY_EYE_M or not any(a - _BY_EYE_M <= s <= b + _BY_EYE_M for s in seen)
    ]
    return _remaining(plan, k, tuple(left), sum(b - a for a, b in left), have) if left else None


def _remaining(
    plan: Plan, k: int, left: tuple[tuple[float, float], ...], missing_m: float, have: Mask | None
) -> Remaining:
    """What is left of a line, of which the stations `have` (n,) are proved, and what an earth would prove of it."""
    then, earthed_m = plan.if_earthed, 0.0
    if then is not None and then.rating is not None:
        more = then.rating.proved_earthed if have is None else then.rating.proved_earthed & ~have
        earthed_m = min(float(then.rating.of.wanted_m[more].sum()), missing_m)
    return Remaining(k, left, missing_m, plan.moving, then, earthed_m)


def _tier(plan: Plan, chosen: list[tuple[Option, Mask]]) -> int:
    """Sure lines first, so that they are known when the doubtful ones are traced; within that by hookup."""
    weights = chosen[0][0].forecasts[0].wanted_m
    share = sum(float(weights[m].sum()) for _, m in chosen) / max(plan.wanted_m, 1e-9)
    return METHODS.index(chosen[0][0].setup.method) + (0 if share >= _WHOLE else len(METHODS))


def _place(line: Line, at_m: float) -> Floats | None:
    return None if line.course is None else line.course.drawn.places(np.array([at_m]))[0]


def _walk(here: Floats | None, line: Line, option: Option) -> float | None:
    there = _place(line, option.setup.position_m)
    return None if here is None or there is None else float(np.hypot(*(there - here)))


def _ends(line: Line, done: tuple[tuple[float, float], ...]) -> Floats | None:
    return _place(line, done[-1][1])


def _loud(option: Option) -> tuple[str, ...]:
    """Lines beside that take more than the judge lets pass, the loudest first."""
    most: dict[str, float] = {}
    for f in option.forecasts:
        for b in f.bleed_off:
            most[b.name] = max(most.get(b.name, 0.0), b.share)
    loud = [n for n, share in most.items() if option.loud(share)]
    return tuple(sorted(loud, key=lambda n: -most[n]))
