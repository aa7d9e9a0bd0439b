"""Where on a line each hookup could be made, and what rules a place out before anything is computed."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.base.errors import BadInput
from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.methods import METHOD_TABLE, METHODS, HookupMethod, Method
from vessel.core.simulate.stake_spots import best_spots

NEAR_END = "near end"
_CLAMP_OFF_M = 0.5  # a clamp sits this far from the earth bonded at an access point
_AT_ACCESS_M = 1.0
_COIL_OFF_M = 10.0
_COIL_EVERY_M = 40.0
_MOST_COILS = 5


@dataclass(frozen=True)
class Place:
    """A hookup's place: `position_m` along the line [m], at the access point called `access`; its stake's spot.

    `disturbs`: what is connected to there is in service.
    """

    method: Method
    position_m: float
    access: str
    stake_at: tuple[float, float] | None = None
    stake_away_m: float | None = None
    disturbs: bool = False

    @property
    def by(self) -> HookupMethod:
        """What its method does and needs."""
        return METHOD_TABLE[self.method]


def access_points(line: Line) -> tuple[tuple[str, float, AccessPoint], ...]:
    """Return the access points of a line, the near end first.

    Args:
        line: The line to locate.

    Returns:
        Name, distance along the line [m] and what it is like.
    """
    further = ((a.name, a.at_m, a.point) for a in line.accesses if a.point.reached and 0 <= a.at_m <= line.length_m)
    return ((NEAR_END, 0.0, line.near), *further)


def safety_rejection(method: Method, point: AccessPoint, kit: Kit) -> str | None:
    """Return why safety rules out a hookup at an access point.

    Args:
        method: How the signal is put on.
        point: The access point.
        kit: Transmitter and receiver in use.

    Returns:
        The reason; None if there is none.
    """
    by = METHOD_TABLE[method]
    if by.touches and point.live:
        return "live"
    if by.touches and not point.bare_metal:
        return "no_metal"
    if METHOD_TABLE[method].connects and point.core_only:
        return "core_only"
    if METHOD_TABLE[method].encloses:
        if kit.clamp is None:
            return "no_clamp"
        if point.cased:
            return "cased"
    if METHOD_TABLE[method].through_air and kit.coil is None:
        return "no_coil"
    return None


def require_pair(line: Line, method: Method) -> None:
    """Check that a line has the two conductors that a hookup on a pair needs.

    Args:
        line: The line to locate.
        method: How the signal is put on.

    Raises:
        BadInput: If it has not.
    """
    if METHOD_TABLE[method].between and not line.paired:
        raise BadInput("line_without_pair", field="hookup")


def nearest_access(line: Line, at_m: float) -> tuple[str, float, AccessPoint]:
    """Return the access point nearest to a place.

    Args:
        line: The line to locate.
        at_m: Distance along the line [m].

    Returns:
        Its name, distance along the line [m] and what it is like.
    """
    return min(access_points(line), key=lambda a: abs(a[1] - at_m))


def access_at(line: Line, at_m: float) -> AccessPoint:
    """Return the access point at a place.

    Args:
        line: The line to locate.
        at_m: Distance along the line [m].

    Returns:
        What it is like.

    Raises:
        BadInput: If there is none there.
    """
    name, where, point = nearest_access(line, at_m)
    if abs(where - at_m) > _AT_ACCESS_M:
        raise BadInput("no_access_there", field="position", at_m=at_m, name=name, nearest_m=where)
    return point


def kit_rejection(method: Method, frequency: Frequency, kit: Kit) -> str | None:
    """Return why the kit rules out a method at a frequency, at any output.

    Args:
        method: How the signal is put on.
        frequency: The kit's entry.
        kit: Transmitter and receiver in use.

    Returns:
        The reason; None if there is none.
    """
    tool = kit.tool_for(method)
    if tool is not None and frequency.freq_hz < tool.min_freq_hz:
        return "too_low_for_tool"
    # no depth, no proof: what cannot be marked by need not be computed
    return None if frequency.reads_depth else "no_depth"


def places(line: Line, kit: Kit) -> tuple[tuple[Place, str | None], ...]:
    """Return every place for a hookup.

    Args:
        line: The line to locate.
        kit: Transmitter and receiver in use.

    Returns:
        Each with why safety or the kit rules it out, None if nothing does.
    """
    found: list[tuple[Place, str | None]] = []
    for name, at, point in access_points(line):
        why = safety_rejection("direct", point, kit)
        if why is None and line.course is not None:
            for s in best_spots(line, at_m=at, lead_m=kit.lead_m):
                found.append((Place("direct", at, name, s.at, s.away_m, disturbs=point.in_service), None))
        else:
            found.append((Place("direct", at, name, disturbs=point.in_service), why))
    for name, at, point in access_points(line):
        why = safety_rejection("clamp", point, kit)
        found += [(Place("clamp", c, name), why) for c in _clamps(line, at)]
    why = safety_rejection("induction", line.near, kit)
    found += [(Place("induction", at, name), why) for at, name in _coils(line)]
    return tuple(sorted(found, key=lambda f: (METHODS.index(f[0].method), f[0].position_m)))


def _clamps(line: Line, at_m: float) -> list[float]:
    """Both sides of an access point, so that a bonded earth there can be passed; one side at an end."""
    off = min(_CLAMP_OFF_M, 0.25 * line.length_m)
    return [c for c in (at_m - off, at_m + off) if 0 < c < line.length_m]


def column_at(line: Line, at_m: float) -> str:
    """Return the name of the metal column that a transmitter is laid against.

    Args:
        line: The line to locate.
        at_m: Distance of the transmitter along the line [m].

    Returns:
        Its name; empty where there is none.
    """
    return next((a.name for a in line.accesses if a.column and abs(a.at_m - at_m) <= _AT_ACCESS_M), "")


def _coils(line: Line) -> list[tuple[float, str]]:
    """Near the start and, on a long line, on along it to near the end; against metal columns bonded to it."""
    bonded = [(a.at_m, a.name) for a in line.accesses if a.column and a.point.earth_ohm is not None]
    inner = [c for c in bonded if _AT_ACCESS_M < c[0] < line.length_m - _AT_ACCESS_M]
    first = min(_COIL_OFF_M, 0.25 * line.length_m)
    if inner:
        kept = {round(x) for x in np.linspace(0, len(inner) - 1, _MOST_COILS)}
        return [(first, ""), *(inner[k] for k in sorted(kept))]
    span = line.length_m - 2 * first
    count = min(_MOST_COILS, 1 + int(span / _COIL_EVERY_M))
    spread = np.linspace(first, line.length_m - first, count).tolist() if count > 1 else [first]
    return [(x, "") for x in spread]
