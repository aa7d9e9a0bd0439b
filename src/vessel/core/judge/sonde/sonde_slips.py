"""Readings over a sonde that look like a slip: asked about before they are kept, never corrected."""

from __future__ import annotations

from collections.abc import Sequence

from vessel.core.base.errors import Doubtful
from vessel.core.model.sonde import SondeRun, SondeStop

_ROD_GIVES = 1.05  # rod against ground: what the counter leaves open


def sonde_slip(stop: SondeStop, run: SondeRun, taken: Sequence[SondeStop]) -> Doubtful | None:
    """Return the question to ask about a stop before keeping it.

    Args:
        stop: What was read there.
        run: The run.
        taken: Stops of the run before it.

    Returns:
        The question; None if nothing looks odd.
    """
    return _nulls(stop) or _lifted(stop) or _ghosts(stop) or _rod(stop, run, taken)


def _nulls(s: SondeStop) -> Doubtful | None:
    if s.null_before_m is not None and s.null_before_m >= s.distance_m:
        return Doubtful("null_not_before", field="null_before", null_m=s.null_before_m, peak_m=s.distance_m)
    if s.null_after_m is not None and s.null_after_m <= s.distance_m:
        return Doubtful("null_not_after", field="null_after", null_m=s.null_after_m, peak_m=s.distance_m)
    return None


def _lifted(s: SondeStop) -> Doubtful | None:
    if s.depth_m is None or s.depth_lifted_m is None or s.depth_lifted_m >= s.depth_m:
        return None
    return Doubtful("lifted_less", field="depth_lifted", lifted_m=s.depth_lifted_m, ground_m=s.depth_m)


def _ghosts(s: SondeStop) -> Doubtful | None:
    for field in ("ghost_before", "ghost_after"):
        level = getattr(s, field)
        if level is not None and s.signal is not None and level >= s.signal:
            return Doubtful("ghost_over_peak", field=field, ghost=level, peak=s.signal)
    return None


def _rod(s: SondeStop, run: SondeRun, taken: Sequence[SondeStop]) -> Doubtful | None:
    if s.rod_m is None:
        return None
    walked = abs(s.distance_m - run.start_m)
    for t in taken:
        if t.rod_m is None:
            continue
        rod, ground = abs(s.rod_m - t.rod_m), abs(s.distance_m - t.distance_m)
        if ground > rod * _ROD_GIVES + 0.5:
            return Doubtful("rod_short", field="rod", rod_m=rod, ground_m=ground)
    if walked > s.rod_m * _ROD_GIVES + 0.5:
        return Doubtful("rod_short", field="rod", rod_m=s.rod_m, ground_m=walked)
    return None
