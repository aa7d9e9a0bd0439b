"""What the coach notices in what was just done, by the rules of the work; it never says where the line is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot
from typing import Literal

from vessel.core.judge.station.verdict import PROVED, Verdict
from vessel.core.model.drawn_line import Xy
from vessel.core.model.fault_walk import FrameReading
from vessel.core.model.setup import Setup
from vessel.core.model.sonde import SondeStop
from vessel.core.practice.yard_lesson import Hint, Moment, YardLesson

RemarkKind = Literal[
    "hint",
    "open_steps",
    "other_frequency",
    "close_to_coil",
    "depth_at_bend",
    "no_lift",
    "against_the_judge",
    "changed_while_on",
    "box_alone",
    "box_shared",
    "moved",
    "earths_on",
    "well_read",
    "line_mode",
    "no_nulls",
    "frame_null",
    "frame_turned",
    "level_rises",
    "level_falls",
]
_BEND_M, _CLOSE_M = 1.5, 5.0
_RISES = 1.2  # a level greater than the one before by less than that may be the hand


@dataclass(frozen=True)
class Remark:
    """One sentence of the coach: its kind, its figure where it has one, and a lesson's own words for a hint."""

    kind: RemarkKind
    value: float = 0.0
    say: str = ""


def hint(lesson: YardLesson, after: Moment, only: str = "") -> Remark | None:
    """Return a lesson's own hint.

    Args:
        lesson: The lesson.
        after: What was just done.
        only: Verdict, method or act it was.

    Returns:
        The first that fits, a narrow one before a wide one; None without any.
    """
    fitting: Sequence[Hint] = [h for h in lesson.hints if h.after == after and h.only in ("", only)]
    best = max(fitting, key=lambda h: bool(h.only), default=None)
    return None if best is None else Remark("hint", say=best.say)


def on_switching(guards_open: int) -> Remark | None:
    """Return what is to be said of switching on.

    Args:
        guards_open: Steps of the safe order that protect a person and are not ticked.

    Returns:
        The remark, if any.
    """
    return Remark("open_steps", float(guards_open)) if guards_open else None


def on_log(
    setup: Setup, coil_at: Xy, *, at: Xy, bends: Sequence[Xy], has_depth: bool, lifted: bool, verdict: Verdict
) -> Remark | None:
    """Return what is to be said of a station.

    Args:
        setup: The hookup it was read under.
        coil_at: Where the transmitter stands [m].
        at: Where it was read [m].
        bends: Corners of the line by the records [m].
        has_depth: Whether a depth was read there.
        lifted: Whether the lift was read.
        verdict: The judge's.

    Returns:
        The remark that matters most, if any.
    """
    away = hypot(at[0] - coil_at[0], at[1] - coil_at[1])
    if setup.by.through_air and away < _CLOSE_M:
        return Remark("close_to_coil", away)
    if has_depth and any(hypot(at[0] - x, at[1] - y) < _BEND_M for x, y in bends):
        return Remark("depth_at_bend")
    if has_depth and not lifted:
        return Remark("no_lift")
    return Remark("well_read") if verdict in PROVED else None


def on_mark(verdict: Verdict) -> Remark | None:
    """Return what is to be said of a mark.

    Args:
        verdict: The judge's, where it stands.

    Returns:
        The remark, if any.
    """
    return None if verdict in PROVED else Remark("against_the_judge")


def on_stop(read: SondeStop, verdict: Verdict) -> Remark | None:
    """Return what is to be said of a stop of a sonde run.

    Args:
        read: What was read there.
        verdict: The judge's.

    Returns:
        The remark that matters most, if any.
    """
    if read.mode == "line":
        return Remark("line_mode")
    if read.null_before_m is None or read.null_after_m is None:
        return Remark("no_nulls")
    return Remark("well_read") if verdict in PROVED else None


def on_frame(newest: FrameReading, before: FrameReading | None) -> Remark | None:
    """Return what is to be said of a reading of the frame.

    Args:
        newest: The reading just taken.
        before: The one taken before it, None for the first.

    Returns:
        The remark that matters most, if any.
    """
    if newest.sign == 0:
        return Remark("frame_null")
    if before is None:
        return None
    if before.sign == -newest.sign:
        return Remark("frame_turned")
    if newest.level is None or before.level is None:
        return None
    if newest.level > _RISES * before.level:
        return Remark("level_rises")
    return Remark("level_falls") if before.level > _RISES * newest.level else None
