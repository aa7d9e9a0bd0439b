"""How loud plant makes the noise at a receiver, by distance and frequency."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.hum import Hum
from vessel.core.model.line import Line

_PLACES = 201


def noise_times(hums: Iterable[tuple[Hum, Floats]], freq_hz: float, count: int) -> Floats:
    """Return how many times the quiet level the noise is at several places.

    Args:
        hums: What hums, each with its distance from the places, shape (n,) [m].
        freq_hz: The frequency that is listened to [Hz].
        count: How many places: n.

    Returns:
        Factors from 1 on, shape (n,).

    Notes:
        Each adds `times min(1, upto / f) / (1 + (d / reach)^2)` at d from it: the field of unequal currents in
        conductors close together falls as the square of the distance, harmonics of rectified or saturated currents
        about as 1/f.
    """
    total = np.ones(count)
    for hum, away_m in hums:
        total += hum.times * min(1.0, hum.upto_hz / freq_hz) / (1 + (away_m / hum.reach_m) ** 2)
    return total


def noise_along(line: Line, freq_hz: float, at_m: Floats) -> Floats:
    """Return how many times the quiet level the noise is along a line.

    Args:
        line: The line to locate; what hums is known on its plan, else of the access points on it alone.
        freq_hz: The frequency that is listened to [Hz].
        at_m: Distances along it, shape (n,) [m].

    Returns:
        Factors from 1 on, shape (n,).
    """
    at_m = np.asarray(at_m, dtype=np.float64)
    hums = [(a.hum, np.abs(at_m - a.at_m)) for a in line.accesses if a.hum is not None]
    if line.course is not None and line.course.plan.humming:
        places = line.course.drawn.places(at_m)
        on_it = {a.name for a in line.accesses if a.hum is not None}
        hums += [
            (each.hum, np.hypot(*(places - np.asarray(each.at)).T))
            for each in line.course.plan.humming
            if each.name not in on_it
        ]
    return noise_times(hums, freq_hz, len(at_m))


@dataclass(frozen=True)
class Loudest:
    """Where along a line plant makes the noise loudest: `times` the quiet level at `at_m` [m], near `name`."""

    name: str
    at_m: float
    times: float


def loudest_along(line: Line, freq_hz: float) -> Loudest | None:
    """Return where plant makes the noise along a line loudest.

    Args:
        line: The line to locate.
        freq_hz: The frequency that is listened to [Hz].

    Returns:
        The place; None if nothing hums near it.
    """
    at_m = np.linspace(0.0, line.length_m, _PLACES)
    times = noise_along(line, freq_hz, at_m)
    k = int(times.argmax())
    if times[k] <= 1.0:
        return None
    on_it = [(abs(a.at_m - at_m[k]), a.name) for a in line.accesses if a.hum is not None]
    if line.course is not None:
        place = line.course.drawn.places(at_m[k : k + 1])[0]
        on_it += [(float(np.hypot(*(place - np.asarray(h.at)))), h.name) for h in line.course.plan.humming]
    return Loudest(min(on_it)[1], float(at_m[k]), float(times[k]))
