"""Whether a sonde and a trace of the rod or the pipe's own metal say the same depth where both were read."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

_NEAR_M = 1.5
_TRACE_OFF, _LEAST_M = 0.08, 0.05  # how well a traced depth is known: of the depth, and at least [m]


@dataclass(frozen=True)
class Agreement:
    """At `at_m` along the line [m] the sonde says `sonde_m`, the trace `trace_m` deep [m]; `agrees`: within ranges."""

    at_m: float
    sonde_m: float
    trace_m: float
    agrees: bool


def agreements(
    heads: Sequence[tuple[float, float, float]], stations: Sequence[tuple[float, float]]
) -> tuple[Agreement, ...]:
    """Compare the depths of a sonde with those of a trace of the same line.

    Args:
        heads: Place, depth and its range [m] of each head that a mark may rest on.
        stations: Place and depth [m] of each station that passed.

    Returns:
        One for each head with a station near by.
    """
    found = []
    for x, depth, pm in heads:
        near = min(stations, key=lambda s: abs(s[0] - x), default=None)
        if near is None or abs(near[0] - x) > _NEAR_M:
            continue
        allowed = float(np.hypot(pm, _TRACE_OFF * near[1])) + _LEAST_M
        found.append(Agreement(x, depth, near[1], abs(near[1] - depth) <= allowed))
    return tuple(found)
