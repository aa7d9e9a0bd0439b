"""How each rule's measure is formed from readings and what is known round them, for many stations at once.

A measure is NaN where what it needs was not taken; what does not apply is said beside it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from vessel.core.base.arrays import Floats, Index
from vessel.core.judge.across.cross_section import placed_across
from vessel.core.judge.across.symmetry import asymmetry
from vessel.core.judge.station.criteria import RULES, Rule
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading
from vessel.core.signal.physics.magnetic_field import depth_spread
from vessel.core.signal.receiver.instrument import signal_at

MIN_REPEATS = 3


@dataclass(frozen=True)
class StationContext:
    """What is known apart from the readings. SI; None where unknown.

    `forecast_a` (low, high) is the expected current here [A]; `loop_gap` the gap of the nearest explanation of
    the transmitter's ohms; `end_m` distance to hookup or nearer end [m], `turn_m` to the nearest bend or tee and
    `crossing_m` to the nearest line that crosses, None where there is none; `previous` the station
    before this one with the middle of its own forecast [A].
    """

    tx_freq_hz: float
    rx_freq_hz: float | None
    noise_t: float
    receiver: Receiver
    reads_depth: bool
    depth_range_m: tuple[float, float]
    end_m: float
    loop_gap: float | None = None  # NaN: the transmitter cannot tell (induction)
    forecast_a: tuple[float, float] | None = None
    air_share: float | None = None
    turn_m: float | None = None
    crossing_m: float | None = None
    previous: tuple[StationReading, float] | None = None


@dataclass(frozen=True)
class Batch:
    """Stations (n,) with their readings and circumstances, SI; NaN where not taken or unknown.

    What is the same for all may be a plain number. `spread` is that of the repeated currents against their median,
    NaN with too few. `loop_silent`: the transmitter cannot tell. `before_*`: the station before and its forecast.
    `signal` with the gain locked, `louder` that of the loudest neighbour against it; `lopsided`, `misfit` and
    `placed_m` are of the readings across the line.
    `narrowed_a`: the forecast as stations before narrowed it, where they did. `rules`: the table they are judged by.
    """

    amps: Any
    spread: Any
    depth_m: Any
    lift_m: Any
    lifted_m: Any
    peak_null_m: Any
    neighbour_a: Any
    freq_gap: Any
    noise_t: Any
    receiver: Receiver
    depth_range_m: tuple[float, float]
    end_m: Any
    loop_gap: Any
    loop_silent: bool
    forecast_a: tuple[Any, Any]
    air_share: Any
    turn_m: Any = float("nan")
    crossing_m: Any = float("nan")
    before_a: Any = float("nan")
    before_depth_m: Any = float("nan")
    before_forecast_a: Any = float("nan")
    points_back: Any = float("nan")
    gone: Any = 0.0
    narrowed_a: tuple[Any, Any] | None = None
    signal: Any = float("nan")
    before_signal: Any = float("nan")
    louder: Any = float("nan")
    lopsided: Any = float("nan")
    misfit: Any = float("nan")
    placed_m: Any = float("nan")
    rules: tuple[Rule, ...] = RULES

    @classmethod
    def of(
        cls,
        readings: Sequence[StationReading],
        contexts: Sequence[StationContext],
        *,
        rules: Sequence[Rule] = RULES,
    ) -> Batch:
        """Return stations (n,) of one trace: kit, expected depths and frequencies are those of the first."""
        c = contexts[0]
        forecasts = [x.forecast_a or (None, None) for x in contexts]
        before = [x.previous or (None, None) for x in contexts]
        previous = [r for r, _ in before]
        fitted = [_fitted(r, c.noise_t, c.receiver) for r in readings]
        return cls(
            amps=_known(r.current_a for r in readings),
            spread=_known(_spread(r) for r in readings),
            depth_m=_known(r.depth_m if c.reads_depth else None for r in readings),
            lift_m=_known(r.lift_height_m for r in readings),
            lifted_m=_known(r.depth_lifted_m for r in readings),
            peak_null_m=_known(r.peak_null_m for r in readings),
            neighbour_a=_known(r.best_neighbour_a for r in readings),
            freq_gap=_known(
                None if x.rx_freq_hz is None else abs(x.rx_freq_hz - x.tx_freq_hz) / x.tx_freq_hz for x in contexts
            ),
            noise_t=c.noise_t,
            receiver=c.receiver,
            depth_range_m=c.depth_range_m,
            end_m=_known(x.end_m for x in contexts),
            loop_gap=_known(x.loop_gap for x in contexts),
            loop_silent=c.loop_gap is not None and bool(np.isnan(c.loop_gap)),
            forecast_a=(_known(low for low, _ in forecasts), _known(high for _, high in forecasts)),
            air_share=_known(x.air_share for x in contexts),
            turn_m=_known(x.turn_m for x in contexts),
            crossing_m=_known(x.crossing_m for x in contexts),
            before_a=_known(None if r is None else r.current_a for r in previous),
            before_depth_m=_known(None if r is None else r.depth_m for r in previous),
            before_forecast_a=_known(middle for _, middle in before),
            points_back=_known({"": None, "away": 0.0, "towards": 1.0}[r.direction] for r in readings),
            gone=np.array([float(r.lost) for r in readings]),
            signal=_known(r.signal for r in readings),
            before_signal=_known(None if r is None else r.signal for r in previous),
            louder=_known(r.loudest_neighbour for r in readings),
            lopsided=_known(asymmetry(r.profile) if r.profile else None for r in readings),
            misfit=_known(misfit for misfit, _ in fitted),
            placed_m=_known(placed_m for _, placed_m in fitted),
            rules=tuple(rules),
        )

    @property
    def expected_a(self) -> tuple[Any, Any]:
        """The narrowest forecast there is (low, high) [A]."""
        return self.forecast_a if self.narrowed_a is None else self.narrowed_a

    def after(self, before: Index) -> Batch:
        """Return the same stations, each with the station `before` it (n,), -1 for none."""
        known = before >= 0

        def of(values: Any) -> Floats:
            return np.where(known, np.asarray(values)[before], np.nan)

        middle = 0.5 * (self.forecast_a[0] + self.forecast_a[1])
        return replace(
            self,
            before_a=of(self.amps),
            before_depth_m=of(self.depth_m),
            before_signal=of(self.signal),
            before_forecast_a=of(middle),
        )


def _fitted(r: StationReading, noise_t: float, receiver: Receiver) -> tuple[float | None, float | None]:
    """Misfit of the readings across, and how far from the peak they put the line beyond their uncertainty [m].

    None without any, and where they tell no place.
    """
    found = placed_across(r, noise_t=noise_t, receiver=receiver) if r.profile else None
    if found is None or not found.places:
        return None if found is None else found.fit.misfit, None
    first = found.fit.conductors[0]
    return found.fit.misfit, max(abs(first.offset_m) - first.offset_pm_m, 0.0)


def _spread(r: StationReading) -> float | None:
    amps = r.current_a
    if len(r.currents_a) < MIN_REPEATS or amps is None:
        return None
    return (max(r.currents_a) - min(r.currents_a)) / amps if amps else float("inf")


def _known(values: Iterable[float | None]) -> Floats:
    return np.array([np.nan if v is None else v for v in values], dtype=float)


def _share(part: Any, of: Any) -> Any:
    """`part` against `of`, beyond measure where there is none; NaN stays."""
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        return np.where(np.asarray(of) == 0, np.where(np.isnan(part), np.nan, np.inf), part / of)


def _depth_outside(b: Batch) -> Any:
    low, high = b.depth_range_m
    return np.maximum(np.maximum(0.0, (low - b.depth_m) / low), (b.depth_m - high) / high)


def _signal(b: Batch) -> Any:
    return signal_at(b.amps, depth_m=b.depth_m, low_m=b.receiver.low_m) / b.noise_t


def _lift_error(b: Batch) -> Any:
    return np.abs(b.lifted_m - b.depth_m - b.lift_m)


def _beyond_noise(b: Batch) -> Any:
    """What the noise in two depths does not explain of the lift's error; a lift takes the receiver off the field."""
    r, share = b.receiver, 1 / np.maximum(_signal(b), 1e-9)
    lifted = share * (b.depth_m + b.lift_m + r.low_m) / (b.depth_m + r.low_m)
    noise = np.hypot(
        depth_spread(b.depth_m, share, low_m=r.low_m, separation_m=r.separation_m),
        depth_spread(b.depth_m + b.lift_m, lifted, low_m=r.low_m, separation_m=r.separation_m),
    )
    return np.maximum(_lift_error(b) - noise, 0.0) / b.lift_m


def _in_depths(b: Batch, distance_m: Any) -> Any:
    return distance_m / np.where(np.isnan(b.depth_m), 0.5 * sum(b.depth_range_m), b.depth_m)


def _jump(b: Batch) -> Any:
    expected = np.maximum(0.5 * (b.forecast_a[0] + b.forecast_a[1]), 1e-12) / np.maximum(b.before_forecast_a, 1e-12)
    with np.errstate(divide="ignore", invalid="ignore"):
        current = np.abs(np.log(b.amps / b.before_a / expected))
        depth = np.abs(np.log(b.depth_m / b.before_depth_m))
    # a current of none is no jump to be measured: other rules hold it
    return np.where((b.amps > 0) & (b.before_a > 0), np.minimum(current, depth), np.nan)


def _gain(b: Batch) -> Any:
    """The signal's change against what current and depth make of it, at one gain."""
    if np.isnan(b.signal).all():
        return np.nan
    now, before = (
        signal_at(amps, depth_m=depth, low_m=b.receiver.low_m)
        for amps, depth in ((b.amps, b.depth_m), (b.before_a, b.before_depth_m))
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        off = np.abs(np.log(b.signal / b.before_signal * before / now))
    return np.where(np.isfinite(off), off, np.nan)


MEASURES: dict[str, Callable[[Batch], Any]] = {
    "frequency": lambda b: b.freq_gap,
    "loop": lambda b: b.loop_gap,
    "guidance": lambda b: b.gone,
    "signal": _signal,
    "steady": lambda b: b.spread,
    "told": lambda b: _share(b.forecast_a[0], b.forecast_a[1]),
    "current_low": lambda b: b.amps / np.maximum(b.expected_a[0], 1e-12),
    "current_high": lambda b: b.amps / np.maximum(b.expected_a[1], 1e-12),
    "lift": lambda b: _lift_error(b) / b.lift_m,
    "lift_sure": _beyond_noise,
    "peak_null": lambda b: b.peak_null_m,
    "neighbour": lambda b: _share(b.neighbour_a, b.amps),
    "louder": lambda b: b.louder,
    "direction": lambda b: b.points_back,
    "symmetry": lambda b: b.lopsided,
    "explained": lambda b: b.misfit,
    "placed": lambda b: b.placed_m,
    "depth": _depth_outside,
    "ends": lambda b: _in_depths(b, b.end_m),
    "turns": lambda b: _in_depths(b, b.turn_m),
    "crossings": lambda b: _in_depths(b, b.crossing_m),
    "air": lambda b: b.air_share,
    "jump": _jump,
    "gain": _gain,
}


def not_applicable(rule_id: str, b: Batch) -> bool:
    """Return whether a rule does not apply to how the signal is put on."""
    return rule_id == "loop" and b.loop_silent
