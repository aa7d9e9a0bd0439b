"""Sonde runs and walks with the frame as the job file keeps them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal, TypeAlias

from vessel.core.model.special_fields import FRAME_FIELDS, STOP_FIELDS
from vessel.formats.document import Doc, Number, Text
from vessel.formats.entry_docs import with_fields
from vessel.formats.mark_doc import MarkDoc


class _StopBase(Doc):
    """What was read at one stop of a sonde run.

    Main peak and nulls are distances along the line [m], `rod_m` the rod out since the mouth of the pipe; signals at
    one gain. `off_m` [m] to `side`: the peak beside the line as drawn.
    """

    note: Text
    typed: dict[str, str]
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    struck_by: Text | None = None
    struck_why: Text | None = None
    marks: list[MarkDoc]


class _FrameBase(Doc):
    """What the frame showed at a place: which way it pointed in line with the route, and turned across it."""

    note: Text
    typed: dict[str, str]
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    struck_by: Text | None = None
    struck_why: Text | None = None


if TYPE_CHECKING:
    StopDoc: TypeAlias = _StopBase
    FrameDoc: TypeAlias = _FrameBase
else:
    StopDoc = with_fields(_StopBase, STOP_FIELDS, "StopDoc")
    FrameDoc = with_fields(_FrameBase, FRAME_FIELDS, "FrameDoc")


class SondeRunDoc(Doc):
    """One run of a sonde put into the line at `start_m` [m] and pushed on or back along it, with its stops.

    `check_m`, `check_signal`: the function check out of the ground. `fall`: the fall the pipe should have [m/m].
    """

    freq_hz: Number
    start_m: Number
    way: Literal["on", "back"]
    check_m: Number | None
    check_signal: Number | None
    fall: Number | None
    steps_done: list[str]
    typed: dict[str, str]
    technician: Text
    created_at: Text
    stops: list[StopDoc]


class FaultWalkDoc(Doc):
    """One walk with a two-spike frame: signal put on at `start_m` [m], the loop, the stake and the level there.

    `stake_along_m` along the line, below zero beyond its near end; `marks` stand at the faults found.
    """

    freq_hz: Number
    start_m: Number
    volts: Number | None
    amps: Number | None
    frame_m: Number
    stake_along_m: Number
    stake_away_m: Number
    reference: Number | None
    steps_done: list[str]
    typed: dict[str, str]
    technician: Text
    created_at: Text
    readings: list[FrameDoc]
    marks: list[MarkDoc]
