"""How far ahead of the last station a hookup can be proved, and what stands in the way after that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.judge.station.verdict import PROVED, Verdict
from vessel.core.model.line import Line
from vessel.core.simulate.forecast import Forecast, Zone

_NOTHING_M = 0.5


@dataclass(frozen=True)
class Ahead:
    """What is still wanted beyond the last station that passed: from `from_m` to `end_m` along the line [m].

    `astray_m`: a station further on did not pass, the furthest. Either way round along the line.
    `left_m`: wanted length there; `proved_m`: of it what can be expected proved; `until_m`: how far without a gap;
    `obstacle`: the rule that holds back what comes next, None where nothing does.
    """

    from_m: float
    end_m: float
    left_m: float
    proved_m: float
    until_m: float
    obstacle: str | None
    astray_m: float | None


def ahead(
    line: Line, forecast: Forecast, stations: Sequence[tuple[float, Verdict]], *, hookup_m: float
) -> Ahead | None:
    """Return how far the hookup still proves past the last station that passed.

    Args:
        line: The line to locate.
        forecast: Forecast of this setup along the line.
        stations: Distance [m] and verdict of each station.
        hookup_m: Distance of the hookup along the line [m].

    Returns:
        What lies ahead of the passed station furthest from the hookup; None if nothing wanted is left.
    """

    def furthest(of: list[float]) -> float:
        return max(of, key=lambda s: abs(s - hookup_m), default=hookup_m)

    from_m = furthest([s for s, verdict in stations if verdict in PROVED])
    last_m = furthest([s for s, _ in stations])
    astray_m = last_m if abs(last_m - hookup_m) > abs(from_m - hookup_m) else None
    back = from_m < hookup_m
    parts = [_shared(a, b, 0.0, from_m) if back else _shared(a, b, from_m, line.length_m) for a, b in line.wanted_m]
    parts = [(a, b) for a, b in parts if b - a > _NOTHING_M]
    if not parts:
        return None
    end_m = min(a for a, _ in parts) if back else max(b for _, b in parts)
    zones = list(reversed(forecast.zones)) if back else list(forecast.zones)
    there = [(z, sum(max(0.0, min(b, z.end_m) - max(a, z.start_m)) for a, b in parts)) for z in zones]
    proved_m = sum(length for z, length in there if z.verdict in PROVED)
    held = next((z for z, length in there if z.verdict not in PROVED and length > _NOTHING_M), None)
    until_m = end_m if held is None else _reached(held, from_m, back=back)
    return Ahead(
        from_m, end_m, sum(b - a for a, b in parts), proved_m, until_m, held.rule_id if held else None, astray_m
    )


def _shared(a: float, b: float, start: float, end: float) -> tuple[float, float]:
    return max(a, start), min(b, end)


def _reached(held: Zone, from_m: float, *, back: bool) -> float:
    return min(held.end_m, from_m) if back else max(held.start_m, from_m)
