"""Stations of one trace as arrays: what their measures are formed from."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np

from vessel.core.base.arrays import Floats, Index
from vessel.core.judge.across.cross_section import placed_across
from vessel.core.judge.across.symmetry import asymmetry
from vessel.core.judge.rule import Outcome, Rule
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading

MIN_REPEATS = 3
_UNLIKELY = 0.03  # a chance of a wrong mark up to which what is weighed with it holds no station


@dataclass(frozen=True)
class StationContext:
    """What is known apart from the readings. SI; None where unknown.

    `forecast_a` (low, high) is the expected current here [A]; `loop_gap` the gap of the nearest explanation of
    the transmitter's ohms; `end_m` distance to hookup or nearer end [m], `turn_m` to the nearest bend or tee and
    `crossing_m` to the nearest line that crosses, None where there is none; `previous` the station
    before this one with the middle of its own forecast [A]. `wrong`: chance that a mark would be wrong, every rival
    weighed, `aside`: that its place would be; `unshown`: 1 where nothing speaks for the line yet, else 0; `surplus`:
    the current against the most that the transmitter can put there; `passive_m`, `between`: as in `Batch`.
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
    wrong: float | None = None
    aside: float | None = None
    unshown: float | None = None
    surplus: float | None = None
    passive_m: float | None = None
    between: float = 0.0


@dataclass(frozen=True)
class Batch:
    """Stations (n,) with their readings and circumstances, SI; NaN where not taken or unknown.

    What is the same for all may be a plain number. `spread` is that of the repeated currents against their median,
    NaN with too few. `loop_silent`: the transmitter cannot tell. `before_*`: the station before and its forecast.
    `signal` with the gain locked, `louder` that of the loudest neighbour against it; `lopsided`, `misfit` and
    `placed_m` are of the readings across the line.
    `wrong`, `aside`, `unshown` and `surplus` as in `StationContext`. `narrowed_a`: the forecast as stations before
    narrowed it, where they did. `lift_left`, `gap_left_m`, `lopsided_left`, `misfit_left`: what the explanations of the
    site leave of lift (against its height), null and readings across, where they were weighed; `pull`: the current
    shown against the line's own, by the plan's lines. `passive_m`: from the zone of a mark here to the nearest passive
    hit that nothing drawn explains. `between`: 1 where both leads are on one cable, else 0. `rules`: the table they are
    judged by; `softened` as in `Judgeable`.
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
    rules: tuple[Rule, ...]
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
    wrong: Any = float("nan")
    aside: Any = float("nan")
    unshown: Any = float("nan")
    surplus: Any = float("nan")
    lift_left: Any = float("nan")
    lift_along: Any = float("nan")
    gap_left_m: Any = float("nan")
    lopsided_left: Any = float("nan")
    misfit_left: Any = float("nan")
    pull: Any = float("nan")
    passive_m: Any = float("nan")
    between: Any = 0.0
    softened: Mapping[str, Outcome] = field(default_factory=dict)

    @property
    def settled(self) -> Any:
        """Where a wrong mark is unlikely with all of it weighed, shape (n,)."""
        return np.less_equal(self.wrong, _UNLIKELY)

    @property
    def count(self) -> int:
        """How many stations there are."""
        return len(self.amps)

    def silent(self, rule_id: str) -> bool:
        """Return whether a rule does not apply to how the signal is put on.

        Args:
            rule_id: Id of the rule.

        Returns:
            True if it does not apply.
        """
        return rule_id == "loop" and self.loop_silent

    @classmethod
    def of(
        cls,
        readings: Sequence[StationReading],
        contexts: Sequence[StationContext],
        *,
        rules: Sequence[Rule],
    ) -> Batch:
        """Return stations of one trace as arrays.

        Kit, expected depths and frequencies are those of the first.

        Args:
            readings: Readings of n stations.
            contexts: What each is judged against.
            rules: The criteria to judge by.

        Returns:
            The batch.
        """
        c, previous = contexts[0], [r for r, _ in (x.previous or (None, None) for x in contexts)]
        return cls(
            noise_t=c.noise_t,
            receiver=c.receiver,
            depth_range_m=c.depth_range_m,
            loop_silent=c.loop_gap is not None and bool(np.isnan(c.loop_gap)),
            rules=tuple(rules),
            **_read(readings, c),
            **_read_before(previous),
            **_against(contexts),
        )

    @property
    def expected_a(self) -> tuple[Any, Any]:
        """The narrowest forecast there is (low, high) [A]."""
        return self.forecast_a if self.narrowed_a is None else self.narrowed_a

    def after(self, before: Index) -> Batch:
        """Return the same stations, each with the one before it.

        Args:
            before: Index of the station before, shape (n,); -1 for none.

        Returns:
            The batch.
        """
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


def _read(readings: Sequence[StationReading], c: StationContext) -> dict[str, Any]:
    """What was read at each station, by the batch's names."""
    fitted = [_fitted(r, c.noise_t, c.receiver) for r in readings]
    return {
        "amps": _known(r.current_a for r in readings),
        "spread": _known(_spread(r) for r in readings),
        "depth_m": _known(r.depth_m if c.reads_depth else None for r in readings),
        "lift_m": _known(r.lift_height_m for r in readings),
        "lifted_m": _known(r.depth_lifted_m for r in readings),
        "peak_null_m": _known(r.peak_null_m for r in readings),
        "neighbour_a": _known(r.best_neighbour_a for r in readings),
        "points_back": _known({"": None, "away": 0.0, "towards": 1.0}[r.direction] for r in readings),
        "gone": np.array([float(r.lost) for r in readings]),
        "signal": _known(r.signal for r in readings),
        "louder": _known(r.loudest_neighbour for r in readings),
        "lopsided": _known(asymmetry(r.profile) if r.profile else None for r in readings),
        "misfit": _known(misfit for misfit, _ in fitted),
        "placed_m": _known(placed_m for _, placed_m in fitted),
    }


def _read_before(previous: Sequence[StationReading | None]) -> dict[str, Any]:
    """What was read at the station before each, by the batch's names."""
    return {
        "before_a": _known(None if r is None else r.current_a for r in previous),
        "before_depth_m": _known(None if r is None else r.depth_m for r in previous),
        "before_signal": _known(None if r is None else r.signal for r in previous),
    }


def _against(contexts: Sequence[StationContext]) -> dict[str, Any]:
    """What each station is judged against, by the batch's names."""
    forecasts = [x.forecast_a or (None, None) for x in contexts]
    same = (
        "end_m",
        "loop_gap",
        "air_share",
        "turn_m",
        "crossing_m",
        "wrong",
        "aside",
        "unshown",
        "surplus",
        "passive_m",
        "between",
    )
    return {
        **{name: _known(getattr(x, name) for x in contexts) for name in same},
        "freq_gap": _known(
            None if x.rx_freq_hz is None else abs(x.rx_freq_hz - x.tx_freq_hz) / x.tx_freq_hz for x in contexts
        ),
        "forecast_a": (_known(low for low, _ in forecasts), _known(high for _, high in forecasts)),
        "before_forecast_a": _known((x.previous or (None, None))[1] for x in contexts),
    }


def _fitted(r: StationReading, noise_t: float, receiver: Receiver) -> tuple[float | None, float | None]:
    """Misfit of the readings across, and how far from the peak they put the line beyond their uncertainty [m].

    None without any, and where they tell no place.
    """
    found = placed_across(r, noise_t=noise_t, receiver=receiver) if r.profile else None
    if found is None or not found.places:
        return None if found is None else found.misfit, None
    first = found.fit.conductors[0]
    return found.misfit, max(abs(first.offset_m) - first.offset_pm_m, 0.0)


def _spread(r: StationReading) -> float | None:
    amps = r.current_a
    if len(r.currents_a) < MIN_REPEATS or amps is None:
        return None
    return (max(r.currents_a) - min(r.currents_a)) / amps if amps else float("inf")


def _known(values: Iterable[float | None]) -> Floats:
    return np.array([np.nan if v is None else v for v in values], dtype=float)
