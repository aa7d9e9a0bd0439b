"""The verdict on a first sweep: which centre line is the target, which are others, how sure, and what would tell.

Candidates met and crossings expected are matched one to one; what matches nothing is something unknown. The likelihood
of a match falls with the gap in bearing, current, depth and direction (all with broad tails: plans are wrong in ways of
their own). How probable it is that a candidate is the target follows from the best matching with it and without it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import linear_sum_assignment

from vessel.core.base.arrays import Floats
from vessel.core.model.first_sweep import Candidate, OnCircle, turn_deg

Doubt = Literal[
    "air",
    "no_lift",
    "other_nearer",
    "no_current",
    "no_depth",
    "depth",
    "none_met",
    "weak",
    "far_off",
    "short_of_current",
    "direction",
    "louder",
    "alike",
    "alone",
]

BEARING_DEG = 6.0
"""How far off its planned bearing a line usually is on the circle, beyond `LATERAL_M` [deg]."""
LATERAL_M = 1.0
"""How far off its planned route a line usually is [m]."""
CURRENT_NEPER, DEPTH_NEPER = 0.5, 0.3
"""Usual error of a forecast current and depth beyond their range, as a logarithm of the ratio."""
SURE = 0.97
"""A target less probable than this is not sure."""
MAYBE = 0.25
"""A candidate less probable than this is not named at all."""
ALIKE = 0.6
"""Another line with this share of the target's current, met where the target may run, could be the target."""
LEAST_SHARE = 0.4
"""The target carries at least this share of the least current forecast, or the signal went another way."""
DEPTH_SLACK = 1.2
"""A depth outside what is expected by more than this factor is not believable."""
LIFT_SLACK = 0.35
"""A lifted signal that keeps more than this part of what a line's would lose comes through the air."""
_ASTRAY = 2.5  # times the usual error of a bearing: further off, it is not where the plan has it
_ABOUT = 1.5  # times the usual error of a bearing: nearer than this, one centre line may be either of two lines
_UNKNOWN = 5.0  # cost of taking a candidate for a line that is not entered
_MISSED = 3.5  # cost of not having met a line that should be heard clearly
_FAINT = 20.0  # signal to noise below which a line is easily missed
_MOST = 12.0  # no gap in bearing counts more than this: every plan is wrong somewhere
_MOST_READ = 4.5  # a current or depth alone never makes a line found in its place something unknown


@dataclass(frozen=True)
class Role:
    """What a candidate is taken for: `crossing` is its index among those expected, None for something unknown.

    `target_share`: how probable it is that it is the target.
    """

    crossing: int | None
    target_share: float


@dataclass(frozen=True)
class SweepVerdict:
    """Roles of the candidates in their order; `target` is the index of the one taken for the target, None without one.

    `doubts` name what keeps it from being `sure`.
    """

    roles: tuple[Role, ...]
    target: int | None
    doubts: tuple[Doubt, ...]

    @property
    def sure(self) -> bool:
        """Whether the signal is proved to be on the right line, as far as a circle can prove it."""
        return self.target is not None and not self.doubts


UNSWEPT = SweepVerdict((), None, ("none_met",))
"""Nothing met, or not walked yet."""


def judge_sweep(
    candidates: Sequence[Candidate],
    expected: Sequence[OnCircle],
    *,
    radius_m: float,
    induction: bool = False,
    low_m: float = 0.0,
) -> SweepVerdict:
    """Judge the candidates of a first sweep.

    Args:
        candidates: Centre lines logged on the circle.
        expected: Lines expected on it.
        radius_m: Radius of the circle [m].
        induction: Whether the signal is induced; a lift test is asked for then.
        low_m: Height of the receiver's lower coil above the ground [m].

    Returns:
        Which candidate is the target, the doubts and what would settle them.
    """
    if not candidates:
        return UNSWEPT
    cost = _costs(candidates, expected, radius_m)
    _, matched = _best(cost, len(candidates))
    roles = []
    ours = [k for k, x in enumerate(expected) if x.ours]
    for i in range(len(candidates)):
        with_it = _forced(cost, len(candidates), i, ours, allowed=True)
        without = _forced(cost, len(candidates), i, ours, allowed=False)
        share = 1 / (1 + np.exp(np.clip(with_it - without, -50, 50)))
        roles.append(Role(matched[i], float(share)))
    target = max(range(len(candidates)), key=lambda i: roles[i].target_share)
    if roles[target].target_share < MAYBE:
        return SweepVerdict(tuple(roles), None, ("none_met",))
    doubts = _doubts(candidates, expected, roles, target, radius_m, low_m)
    return SweepVerdict(tuple(roles), target, (*_air(candidates[target], induction), *doubts))


def _costs(candidates: Sequence[Candidate], expected: Sequence[OnCircle], radius_m: float) -> Floats:
    """Costs (c, x + c + x) of matching each candidate; columns past the crossings take it for something unknown.

    The last x rows leave a crossing unmet.
    """
    c, x = len(candidates), len(expected)
    table = np.full((c + x, x + c), 1e6)
    for i, candidate in enumerate(candidates):
        for k, crossing in enumerate(expected):
            table[i, k] = match_cost(candidate, crossing, radius_m)
        table[i, x + i] = _UNKNOWN
    for k, crossing in enumerate(expected):
        table[c + k, k] = _MISSED * min(crossing.clear / _FAINT, 1.0)
    table[c:, x:] = 0.0
    return table


def spread_deg(radius_m: float) -> float:
    """Return the usual error of a planned bearing on the circle.

    Args:
        radius_m: Radius of the circle [m].

    Returns:
        Standard deviation [deg].
    """
    return float(np.hypot(BEARING_DEG, np.degrees(np.arctan2(LATERAL_M, radius_m))))


def match_cost(candidate: Candidate, crossing: OnCircle, radius_m: float) -> float:
    """Return how badly a candidate fits an expected line.

    Args:
        candidate: A centre line logged on the circle.
        crossing: A line expected on it.
        radius_m: Radius of the circle [m].

    Returns:
        Cost; 0 for a perfect fit.
    """
    cost = min(0.5 * (turn_deg(candidate.bearing_deg, crossing.bearing_deg) / spread_deg(radius_m)) ** 2, _MOST)
    cost += _outside(candidate.current_a, crossing.current_a, CURRENT_NEPER)
    cost += _outside(candidate.depth_m, crossing.depth_m, DEPTH_NEPER)
    if candidate.direction and crossing.outward:
        cost += 0.0 if candidate.direction == crossing.outward else 3.0
    return cost


def _outside(value: float | None, of: tuple[float, float], neper: float) -> float:
    if value is None:
        return 0.0
    low, high = max(of[0], 1e-9), max(of[1], 1e-9)
    gap = max(np.log(low / max(value, 1e-9)), np.log(max(value, 1e-9) / high), 0.0)
    return float(min(0.5 * (gap / neper) ** 2, _MOST_READ))


def _best(table: Floats, count: int) -> tuple[float, list[int | None]]:
    rows, columns = linear_sum_assignment(table)
    known = table.shape[1] - count
    return float(table[rows, columns].sum()), [int(k) if k < known else None for k in columns[:count]]


def _forced(table: Floats, count: int, i: int, ours: Sequence[int], *, allowed: bool) -> float:
    """Cost of the best matching in which candidate `i` is the target, or is not."""
    held = table.copy()
    mine = np.isin(np.arange(table.shape[1]), ours)
    held[i, ~mine if allowed else mine] = 1e6
    return _best(held, count)[0]


def _doubts(
    candidates: Sequence[Candidate],
    expected: Sequence[OnCircle],
    roles: Sequence[Role],
    target: int,
    radius_m: float,
    low_m: float,
) -> tuple[Doubt, ...]:
    found: list[Doubt] = []
    it, role = candidates[target], roles[target]
    ours = [x for x in expected if x.ours]
    crossing = expected[role.crossing] if role.crossing is not None else ours[0]
    if _other_nearer(it, crossing, expected, {r.crossing for r in roles}, spread_deg(radius_m)):
        found.append("other_nearer")
    if it.current_a is None:
        found.append("no_current")
    if it.depth_m is None:
        found.append("no_depth")
    if it.depth_m is not None and _outside(it.depth_m, crossing.depth_m, 1.0) > 0.5 * np.log(DEPTH_SLACK) ** 2:
        found.append("depth")
    if role.target_share < SURE:
        found.append("weak")
    if turn_deg(it.bearing_deg, crossing.bearing_deg) > _ASTRAY * spread_deg(radius_m):
        found.append("far_off")
    if it.current_a is not None and it.current_a < LEAST_SHARE * crossing.current_a[0]:
        found.append("short_of_current")
    if it.direction and crossing.outward and it.direction != crossing.outward:
        found.append("direction")
    others = [o for o, r in zip(candidates, roles, strict=True) if o is not it and not _is_ours(r.crossing, expected)]
    usual_m = float(np.mean(crossing.depth_m))
    carry = [(o, carries(o, it, usual_m=usual_m, low_m=low_m)) for o in others]
    if any(times is not None and times > 1 for _, times in carry):
        found.append("louder")
    in_reach = _ASTRAY * spread_deg(radius_m)
    if any(t is not None and t > ALIKE and turn_deg(o.bearing_deg, crossing.bearing_deg) < in_reach for o, t in carry):
        found.append("alike")
    if len(candidates) == 1 and any(
        not x.ours and turn_deg(it.bearing_deg, x.bearing_deg) < _ABOUT * spread_deg(radius_m) for x in expected
    ):
        found.append("alone")
    return tuple(found)


def carries(other: Candidate, it: Candidate, *, usual_m: float, low_m: float) -> float | None:
    """Return how many times as much current one candidate carries as another.

    By the currents shown and by the signals at locked gain, which fall with the distance; the greater of both.

    Args:
        other: One candidate.
        it: The other one.
        usual_m: Depth of a candidate whose depth was not read [m].
        low_m: Height of the receiver's lower coil above the ground [m].

    Returns:
        Ratio; None where nothing tells.
    """
    found = []
    if other.current_a is not None and it.current_a:
        found.append(other.current_a / it.current_a)
    if other.signal is not None and it.signal:
        away, own = ((usual_m if c.depth_m is None else c.depth_m) + low_m for c in (other, it))
        found.append(other.signal * away / (it.signal * own))
    return max(found, default=None)


def _air(it: Candidate, induction: bool) -> tuple[Doubt, ...]:
    """The lift test: above a line the signal falls as 1/distance, through the air it hardly does."""
    if it.signal_lifted is None or not it.signal or not it.lift_m:
        return ("no_lift",) if induction else ()
    if it.depth_m is None:
        return ()  # how far it should fall is not known; that the depth is wanting is said already
    of_a_line = it.depth_m / (it.depth_m + it.lift_m)
    return ("air",) if it.signal_lifted / it.signal > of_a_line + LIFT_SLACK * (1 - of_a_line) else ()


def _other_nearer(
    it: Candidate, crossing: OnCircle, expected: Sequence[OnCircle], met: set[int | None], spread: float
) -> bool:
    """Whether a line that was not met should lie clearly closer: bonded, it may carry the signal instead."""
    gap = turn_deg(it.bearing_deg, crossing.bearing_deg)
    gaps = [turn_deg(it.bearing_deg, x.bearing_deg) for k, x in enumerate(expected) if not x.ours and k not in met]
    return any(g < spread and g + 0.7 * spread < gap for g in gaps)


def _is_ours(crossing: int | None, expected: Sequence[OnCircle]) -> bool:
    return crossing is not None and expected[crossing].ours
