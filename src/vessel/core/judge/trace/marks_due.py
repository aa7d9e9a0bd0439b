"""Which marks a line still lacks: one at every bend, tee, end and depth change, and none too far from the next."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

from vessel.core.judge.trace.coverage import MARK_EVERY_M
from vessel.core.judge.trace.events import Event, EventKind

DueKind = Literal["bend", "tee", "end", "depth", "gap"]
AT_PLACE_M = 1.5
"""A mark this close counts as standing at a place [m]."""
_OF_EVENT: dict[EventKind, DueKind] = {"bend": "bend", "lost": "bend", "drop": "tee", "depth": "depth", "end": "end"}


@dataclass(frozen=True)
class Due:
    """A mark that is due between `start_m` and `end_m` along the line [m]; a place where both are alike."""

    kind: DueKind
    start_m: float
    end_m: float


@dataclass(frozen=True)
class Places:
    """Where a line of `length_m` [m] is known to bend and to be joined (n,) [m], and what is `wanted` of it [m]."""

    length_m: float
    wanted: Sequence[tuple[float, float]]
    bends_m: Sequence[float] = ()
    tees_m: Sequence[float] = ()


def marks_due(
    marks_m: Sequence[float], places: Places, events: Sequence[Event] = (), *, every_m: float = MARK_EVERY_M
) -> tuple[Due, ...]:
    """Return the marks still due on a line.

    Only within what is to be located; each edge of it needs a mark within half of `every_m`.

    Args:
        marks_m: Distances of the marks on record [m].
        places: Ends, bends, tees, depth changes and stretches of the line.
        events: What was found along the trace.
        every_m: Greatest distance between two marks [m].

    Returns:
        Marks due, by distance.
    """
    found = [Due("bend", x, x) for x in places.bends_m] + [Due("tee", x, x) for x in places.tees_m]
    found += [Due("end", x, x) for x in (0.0, places.length_m)]
    for e in events:
        kind = _OF_EVENT.get(e.kind)
        # what is drawn there already is not due twice
        if kind is not None and not any(d.kind == kind and _meets(d, e.start_m, e.end_m) for d in found):
            found.append(Due(kind, e.start_m, e.end_m))
    due = [
        d
        for d in found
        if any(a <= d.end_m and d.start_m <= b for a, b in places.wanted)
        and not any(_meets(d, at, at) for at in marks_m)
    ]
    for a, b in places.wanted:
        inside = [x for x in sorted(marks_m) if a <= x <= b]
        for start, end in pairwise([a, *inside, b]):
            edge = start == a or end == b
            if end - start > (every_m / 2 if edge and inside else every_m):
                due.append(Due("gap", start, end))
    return tuple(sorted(due, key=lambda d: (d.start_m, d.kind)))


def _meets(d: Due, start_m: float, end_m: float) -> bool:
    return d.start_m - AT_PLACE_M <= end_m and start_m <= d.end_m + AT_PLACE_M
