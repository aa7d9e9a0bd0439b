"""How much of a line is marked, doubtful or not located: what its stations and marks stand for, stretch by stretch."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Literal

CoverState = Literal["marked", "doubtful", "missing"]
COVER_STATES: tuple[CoverState, ...] = ("marked", "doubtful", "missing")
"""From the best to the worst."""

MARK_EVERY_M = 10.0
"""Marks further apart than this do not carry the line from one to the other [m]."""


@dataclass(frozen=True)
class Placed:
    """A station at `distance_m` along the line [m]: whether a mark may rest on it, and whether there is one.

    `depth_m`: the depth that the mark says [m], None where it says none.
    """

    distance_m: float
    proved: bool
    marked: bool
    depth_m: float | None = None

    @property
    def state(self) -> CoverState:
        """What it says of the line here: a mark that was not proved leaves it doubtful."""
        return "marked" if self.marked and self.proved else "doubtful"


@dataclass(frozen=True)
class Stretch:
    """A stretch from `start_m` to `end_m` [m] along the line in one state.

    `depths_m`: the least and the greatest depth of the marks on it [m], None where it is not marked or none says one.
    """

    start_m: float
    end_m: float
    state: CoverState
    depths_m: tuple[float, float] | None = None

    @property
    def length_m(self) -> float:
        """Its length [m]."""
        return self.end_m - self.start_m


@dataclass(frozen=True)
class Coverage:
    """Stretches of a line from end to end, and how much of what is `wanted_m` is in each state [m]."""

    stretches: tuple[Stretch, ...]
    wanted_m: float
    marked_m: float
    doubtful_m: float
    missing_m: float


def coverage(
    stations: Sequence[Placed], *, length_m: float, wanted: Sequence[tuple[float, float]], every_m: float = MARK_EVERY_M
) -> Coverage:
    """Return how much of a line is marked, doubtful and not located.

    Between two stations no more than `every_m` apart the line is as the worse of the two; beyond that it is not
    located. An end is carried from the last station over half of that.

    Args:
        stations: Distance, verdict and mark of each station.
        length_m: Length of the line [m].
        wanted: Stretches (from, to) to locate [m].
        every_m: Greatest distance between two stations that count as connected [m].

    Returns:
        Stretches with their states.
    """
    at: dict[float, CoverState] = {}
    for s in stations:
        if 0 <= s.distance_m <= length_m:
            # of several at one place the best counts: it was taken because the others did not do
            at[s.distance_m] = min(at.get(s.distance_m, s.state), s.state, key=COVER_STATES.index)
    known = sorted(at.items())
    pieces: list[Stretch] = []
    for (a, first), (b, second) in pairwise(known):
        state = max(first, second, key=COVER_STATES.index) if b - a <= every_m else "missing"
        pieces.append(Stretch(a, b, state))
    if known:
        (first_m, first), (last_m, last) = known[0], known[-1]
        ends = [
            Stretch(0.0, first_m, first if first_m <= every_m / 2 else "missing"),
            Stretch(last_m, length_m, last if length_m - last_m <= every_m / 2 else "missing"),
        ]
        pieces = [ends[0], *pieces, ends[1]]
    else:
        pieces = [Stretch(0.0, length_m, "missing")]
    joined: list[Stretch] = []
    for p in (p for p in pieces if p.length_m > 0):
        if joined and joined[-1].state == p.state:
            joined[-1] = Stretch(joined[-1].start_m, p.end_m, p.state)
        else:
            joined.append(p)
    marked, doubtful, missing = (
        sum(_overlap(s, w) for s in joined if s.state == state for w in wanted) for state in COVER_STATES
    )
    told = tuple(replace(s, depths_m=_depths(s, stations)) for s in joined)
    return Coverage(told, sum(b - a for a, b in wanted), marked, doubtful, missing)


def _depths(stretch: Stretch, stations: Sequence[Placed]) -> tuple[float, float] | None:
    depths = [
        s.depth_m
        for s in stations
        if s.depth_m is not None and s.state == "marked" and stretch.start_m <= s.distance_m <= stretch.end_m
    ]
    return (min(depths), max(depths)) if stretch.state == "marked" and depths else None


def _overlap(s: Stretch, wanted: tuple[float, float]) -> float:
    return max(0.0, min(s.end_m, wanted[1]) - max(s.start_m, wanted[0]))
