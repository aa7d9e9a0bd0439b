"""Readings of a frame that look like a slip: asked about before they are kept, never corrected."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

from vessel.core.base.errors import Doubtful
from vessel.core.model.fault_walk import FrameReading

_PACE_M = 0.8
_FAR_M = 4.0  # further from any other reading than a level reaches
_LOUDER = 2.0


def frame_slip(r: FrameReading, taken: Sequence[FrameReading]) -> Doubtful | None:
    """Return the question to ask about a reading of the frame before keeping it.

    Args:
        r: The reading.
        taken: Those of the walk before it.

    Returns:
        The question; None if nothing looks odd.
    """
    return _flips(r, taken) or _null_with_level(r) or _louder(r, taken)


def _flips(r: FrameReading, taken: Sequence[FrameReading]) -> Doubtful | None:
    near = sorted(
        (t for t in (*taken, r) if t.sign and abs(t.distance_m - r.distance_m) <= _PACE_M), key=lambda t: t.distance_m
    )
    turns = [(a, b) for a, b in pairwise(near) if a.sign != b.sign]
    if r.sign and len(turns) > 1:
        return Doubtful("flips_twice", field="arrow", start_m=near[0].distance_m, end_m=near[-1].distance_m)
    return None


def _null_with_level(r: FrameReading) -> Doubtful | None:
    if r.arrow == "null" and r.level:
        return Doubtful("null_with_level", field="level", level=r.level)
    return None


def _louder(r: FrameReading, taken: Sequence[FrameReading]) -> Doubtful | None:
    """The loudest of all with nothing near it that rises: a level typed wrong, or a place."""
    levels = [t.level for t in taken if t.level]
    if not r.level or len(levels) < 4 or r.level < _LOUDER * max(levels):
        return None
    if any(abs(t.distance_m - r.distance_m) <= _FAR_M for t in taken):
        return None
    return Doubtful("louder_alone", field="level", level=r.level, most=max(levels))
