"""How each rule's measure is formed from a station's readings and what is known round it."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass

from vessel.core.model.reading import StationReading
from vessel.core.signal.receiver import signal_at

MIN_REPEATS = 3


@dataclass(frozen=True)
class StationContext:
    """What is known besides the readings. SI; None where unknown.

    `forecast_a` (low, high) is the expected current here [A]; `loop_gap` the gap of the nearest explanation of
    the transmitter's ohms; `end_m` distance to hookup or nearer end [m]; `previous` the station before this one
    with the middle of its own forecast [A].
    """

    tx_freq_hz: float
    rx_freq_hz: float | None
    noise_t: float
    low_m: float
    reads_depth: bool
    depth_range_m: tuple[float, float]
    end_m: float
    loop_gap: float | None = None  # NaN: the transmitter cannot tell (induction)
    forecast_a: tuple[float, float] | None = None
    air_share: float | None = None
    previous: tuple[StationReading, float] | None = None


def _depth(r: StationReading, c: StationContext) -> float | None:
    return r.depth_m if c.reads_depth else None


def _frequency(r: StationReading, c: StationContext) -> float | None:
    return None if c.rx_freq_hz is None else abs(c.rx_freq_hz - c.tx_freq_hz) / c.tx_freq_hz


def _signal(r: StationReading, c: StationContext) -> float | None:
    amps, depth = r.current_a, _depth(r, c)
    if amps is None or depth is None:
        return None
    return signal_at(amps, depth_m=depth, low_m=c.low_m) / c.noise_t


def _steady(r: StationReading, c: StationContext) -> float | None:
    if len(r.currents_a) < MIN_REPEATS:
        return None
    return (max(r.currents_a) - min(r.currents_a)) / r.current_a if r.current_a else math.inf


def _current_low(r: StationReading, c: StationContext) -> float | None:
    amps = r.current_a
    return None if amps is None or c.forecast_a is None else amps / max(c.forecast_a[0], 1e-12)


def _current_high(r: StationReading, c: StationContext) -> float | None:
    amps = r.current_a
    return None if amps is None or c.forecast_a is None else amps / max(c.forecast_a[1], 1e-12)


def _lift(r: StationReading, c: StationContext) -> float | None:
    depth = _depth(r, c)
    if depth is None or r.depth_lifted_m is None or r.lift_height_m is None:
        return None
    return abs(r.depth_lifted_m - depth - r.lift_height_m) / r.lift_height_m


def _neighbour(r: StationReading, c: StationContext) -> float | None:
    amps = r.current_a
    if r.neighbour_a is None or amps is None:
        return None
    return r.neighbour_a / amps if amps > 0 else math.inf


def _depth_outside(r: StationReading, c: StationContext) -> float | None:
    depth, (low, high) = _depth(r, c), c.depth_range_m
    if depth is None:
        return None
    return max(0.0, (low - depth) / low, (depth - high) / high)


def _ends(r: StationReading, c: StationContext) -> float | None:
    depth = _depth(r, c) or 0.5 * sum(c.depth_range_m)
    return c.end_m / depth


def _jump(r: StationReading, c: StationContext) -> float | None:
    amps, depth = r.current_a, _depth(r, c)
    if c.previous is None or c.forecast_a is None or not amps or depth is None:
        return None
    before, before_forecast = c.previous
    before_amps = before.current_a
    if not before_amps or before.depth_m is None:
        return None
    expected = max(0.5 * sum(c.forecast_a), 1e-12) / max(before_forecast, 1e-12)
    return min(abs(math.log(amps / before_amps / expected)), abs(math.log(depth / before.depth_m)))


MEASURES: dict[str, Callable[[StationReading, StationContext], float | None]] = {
    "frequency": _frequency,
    "loop": lambda r, c: c.loop_gap,
    "signal": _signal,
    "steady": _steady,
    "current_low": _current_low,
    "current_high": _current_high,
    "lift": _lift,
    "peak_null": lambda r, c: r.peak_null_m,
    "neighbour": _neighbour,
    "depth": _depth_outside,
    "ends": _ends,
    "air": lambda r, c: c.air_share,
    "jump": _jump,
}
