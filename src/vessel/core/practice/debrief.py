"""How an attempt went: every mark held against what lies there, and the goals of the lesson."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.judge.station.verdict import PROVED, Verdict
from vessel.core.judge.trace.coverage import Placed, coverage
from vessel.core.model.drawn_line import Area, Drawn, Xy, nearest_on
from vessel.core.model.network import SiteLine
from vessel.core.practice.yard_lesson import Act, Goal, YardLesson

_HIT_M = 1.5  # a hit this close has met a line
DEPTH_SHARE = 0.1
"""A depth further off than this share of the true one is wrong."""
FRAME = "frame"
"""Method of a mark at a ground fault."""
FAULT_WITHIN_M, FAULT_SHARE = 0.5, 0.02
"""How far from a ground fault its mark may be [m], or as a share of the way to it."""


@dataclass(frozen=True)
class Painted:
    """A mark as it was made: for which line, where (east, north [m]), the depth written [m] and how it came about.

    `method`: of the hookup, or "sonde", or "frame" for a ground fault. `verdict`: the judge's; `number`: of the mark on
    record. `lifted`, `null_read`: whether the station has them.
    `coil_m`: how far from the transmitter's coil [m], None for other methods.
    """

    number: int
    line: str
    at: Xy
    depth_m: float | None
    verdict: Verdict
    method: str
    freq_hz: float
    lifted: bool = False
    null_read: bool = False
    coil_m: float | None = None


@dataclass(frozen=True)
class Attempt:
    """What was done in an attempt: marks that stand, hookups made, transmitter readings, centre lines, acts.

    `hits`: where the passive sweep heard something (east, north [m]).
    """

    marks: tuple[Painted, ...]
    setups: int
    readings_hz: tuple[float, ...]
    swept: int
    acts: frozenset[Act]
    hits: tuple[Xy, ...] = ()


@dataclass(frozen=True)
class MarkTruth:
    """A mark against the ground: how far aside of its line it stands [m], and its depth against the true one.

    `depth_off`: share by which the written depth is off, above zero where it is too deep; None: none written.
    `beside`: the conductor that lies nearest to the paint. `strike`: who digs by this mark hits something.
    """

    mark: Painted
    aside_m: float
    true_depth_m: float
    depth_off: float | None
    beside: str
    right: bool
    strike: bool
    heeded: bool


@dataclass(frozen=True)
class GoalMet:
    """A goal, whether it was met, and what was reached."""

    goal: Goal
    met: bool
    value: float


@dataclass(frozen=True)
class Debrief:
    """How it went: marks against the ground, goals, whether the lesson is passed, and a score from 0 to 100."""

    marks: tuple[MarkTruth, ...]
    goals: tuple[GoalMet, ...]
    passed: bool
    score: int

    @property
    def strikes(self) -> int:
        """How many marks would have been a strike."""
        return sum(m.strike for m in self.marks)


def debrief(lesson: YardLesson, attempt: Attempt, *, tolerance_m: float) -> Debrief:
    """Return how an attempt went.

    Args:
        lesson: The lesson with what lies there.
        attempt: What was done.
        tolerance_m: Half-width of the zone round a mark in which the line must lie [m].

    Returns:
        Marks, goals and score.
    """
    marks = tuple(_against(lesson, m, tolerance_m) for m in attempt.marks)
    goals = tuple(_goal(lesson, g, attempt, marks) for g in lesson.goals)
    passed = all(g.met for g in goals)
    share = sum(g.met for g in goals) / max(len(goals), 1)
    strikes = sum(m.strike for m in marks)
    return Debrief(marks, goals, passed, 100 if passed else round(100 * share / (2 if strikes else 1)))


def _against(lesson: YardLesson, mark: Painted, tolerance_m: float) -> MarkTruth:
    if mark.method == FRAME:
        return _fault_against(lesson, mark)
    # the site, not the lesson's own routes: where two would lie in each other one passes under
    aside, depth = _aside_and_depth(lesson.site.line(mark.line), mark.at)
    off = None if mark.depth_m is None else mark.depth_m / depth - 1
    beside = min(lesson.lines, key=lambda x: _aside_and_depth(x.site_line, mark.at)[0])
    misplaced = aside > tolerance_m
    wrong_depth = off is not None and abs(off) > DEPTH_SHARE
    # a depth written too deep lets the bucket go on until it meets the line
    strike = misplaced or (off is not None and off > DEPTH_SHARE)
    return MarkTruth(
        mark,
        aside,
        depth,
        off,
        beside.name,
        right=not misplaced and not wrong_depth,
        strike=strike,
        heeded=mark.verdict in PROVED,
    )


def _fault_against(lesson: YardLesson, mark: Painted) -> MarkTruth:
    """A marked fault against the nearest one there is: no line is hit by it, but somebody digs for nothing."""
    line = lesson.site.line(mark.line)
    _, depth = _aside_and_depth(line, mark.at)
    at_m = float(nearest_on(line.corners_m, line.corner_distances_m, np.array([mark.at]))[0][0])
    off = [abs(f.at_m - at_m) for f in line.features if f.kind == "fault"]
    aside = min(off, default=float("inf"))
    right = aside <= max(FAULT_WITHIN_M, FAULT_SHARE * at_m)
    return MarkTruth(mark, aside, depth, None, mark.line, right, strike=False, heeded=mark.verdict in PROVED)


def _aside_and_depth(line: SiteLine, at: Xy) -> tuple[float, float]:
    """How far from a place a line lies on the ground, and how deep it is there [m]."""
    _, off, point = nearest_on(line.corners_m, line.corner_distances_m, np.array([at]))
    return float(off[0]), -float(point[0, 2])


def marked_share(lesson: YardLesson, marks: Sequence[MarkTruth]) -> float:
    """Return how much of what is to be located is marked right.

    Args:
        lesson: The lesson.
        marks: Marks against the ground.

    Returns:
        Share of the target's stretches in the dig area, or of all of it.
    """
    line = lesson.laid(lesson.target)
    drawn = Drawn(line.name, None, tuple((x, y) for x, y, _ in line.route), 1.0, 1.0)
    area = Area("Dig area", lesson.dig) if lesson.dig else None
    wanted = drawn.wanted_m(area, drawn.length_m)
    mine = [m for m in marks if m.mark.line == line.name and m.mark.method != FRAME]
    placed = [Placed(drawn.nearest(m.mark.at)[0], m.right, True) for m in mine]
    found = coverage(sorted(placed, key=lambda p: p.distance_m), length_m=drawn.length_m, wanted=wanted)
    return found.marked_m / max(found.wanted_m, 1e-9)


def _heard(lesson: YardLesson, _: Goal, a: Attempt, __: Sequence[MarkTruth]) -> float:
    """How many lines that no record has were met by a hit, less the hits that met nothing."""
    unknown = [x for x in lesson.lines if not x.known]
    met = {x.name for x in unknown for at in a.hits if _aside_and_depth(x.site_line, at)[0] <= _HIT_M}
    empty = [at for at in a.hits if min(_aside_and_depth(x.site_line, at)[0] for x in lesson.lines) > _HIT_M]
    return float(len(met) - len(empty))


_Measure = Callable[[YardLesson, Goal, Attempt, Sequence[MarkTruth]], float]


def _no_wrong_mark(_: YardLesson, __: Goal, ___: Attempt, marks: Sequence[MarkTruth]) -> float:
    return float(sum(not m.right for m in marks))


def _marked(lesson: YardLesson, _: Goal, __: Attempt, marks: Sequence[MarkTruth]) -> float:
    return marked_share(lesson, marks)


def _none_marked(lesson: YardLesson, _: Goal, a: Attempt, __: Sequence[MarkTruth]) -> float:
    return float(sum(m.line == lesson.target for m in a.marks))


def _fault_at(_: YardLesson, __: Goal, ___: Attempt, marks: Sequence[MarkTruth]) -> float:
    """How far off the best of the marked faults is [m]; NaN, which meets no goal, without any."""
    return min((m.aside_m for m in marks if m.mark.method == FRAME), default=float("nan"))


def _of_marks(measure: Callable[[Painted], float], *, worst: Callable[[Sequence[float]], float]) -> _Measure:
    """The worst of the marks by a measure; NaN, which meets no goal, without any."""

    def measured(lesson: YardLesson, _: Goal, a: Attempt, __: Sequence[MarkTruth]) -> float:
        found = [measure(m) for m in a.marks if m.line == lesson.target]
        return worst(found) if found else float("nan")

    return measured


def _by_method(lesson: YardLesson, goal: Goal, a: Attempt, _: Sequence[MarkTruth]) -> float:
    found = [m.method == goal.what for m in a.marks if m.line == lesson.target]
    return sum(found) / len(found) if found else float("nan")


def _frequency(lesson: YardLesson, goal: Goal, a: Attempt, _: Sequence[MarkTruth]) -> float:
    """The frequency of the marks: one outside the goal's band, if any is."""
    found = [m.freq_hz for m in a.marks if m.line == lesson.target]
    outside = [hz for hz in found if not goal.low <= hz <= goal.high]
    return (outside or found or [float("nan")])[0]


_MEASURES: dict[str, _Measure] = {
    "no_wrong_mark": _no_wrong_mark,
    "marked": _marked,
    "none_marked": _none_marked,
    "frequency": _frequency,
    "method": _by_method,
    "acted": lambda _, goal, a, __: float(goal.what in a.acts),
    "read_at": lambda _, goal, a, __: float(sum(goal.low <= hz <= goal.high for hz in a.readings_hz)),
    "lifted": _of_marks(lambda m: float(m.lifted), worst=min),
    "null_read": _of_marks(lambda m: float(m.null_read), worst=min),
    "stood_off": _of_marks(lambda m: float("inf") if m.coil_m is None else m.coil_m, worst=min),
    "setups": lambda _, __, a, ___: float(a.setups),
    "heard": _heard,
    "fault_at": _fault_at,
    "swept": lambda _, __, a, ___: float(a.swept),
}
_NONE_ALLOWED = ("no_wrong_mark", "none_marked")
_AT_LEAST_ONE = ("acted", "read_at", "lifted", "null_read", "method")


def _goal(lesson: YardLesson, goal: Goal, attempt: Attempt, marks: Sequence[MarkTruth]) -> GoalMet:
    value = _MEASURES[goal.kind](lesson, goal, attempt, marks)
    if goal.kind in _NONE_ALLOWED:
        met = value == 0
    elif goal.kind in _AT_LEAST_ONE:
        met = value >= 1
    else:
        met = goal.low <= value <= goal.high
    return GoalMet(goal, met, value)
