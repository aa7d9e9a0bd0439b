"""Simulated traces along one line, rated by the judge: the planner's only measure of an option."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Codes, Complex, Floats, Index, Mask
from vessel.core.base.cached import lazy
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.judge.station.verdict import VERDICTS, also_judged, judge_codes
from vessel.core.model.kit import Kit
from vessel.core.model.setup import Setup
from vessel.core.signal.circuit.transmitter_output import coil_share, drives, output
from vessel.core.signal.receiver.plant_noise import noise_along
from vessel.core.simulate.currents import Cases
from vessel.core.simulate.forecast import PROVED_CODES, Forecast
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.simulated_trace import NOISE_MARGIN, read_off, simulated
from vessel.core.simulate.station_grid import end_distance

_WORTH, _WORTH_M = 0.03, (2.0, 6.0)  # a shorter stretch is not worth a setup: part of what is wanted, within [m]


@dataclass(frozen=True, eq=False)
class Ratings:
    """Simulated traces of a line's hookups (h), every output step (o), far end (c) and station (n), judged.

    Plain arrays, so that they pass quickly from one process to another: see `Forecast` for what they hold. `loads_ohm`
    (h, c): what the transmitter drives into, NaN for induction; `drive` (h, o, c). The first `told` of the far ends are
    those the line may have; what a setup proves it proves whichever of them it has.
    """

    freqs_hz: tuple[float, ...]
    kit: Kit
    far_cases: tuple[str, ...]
    told: int
    beside: tuple[str, ...]
    stations_m: Floats
    edges_m: Floats
    wanted_m: Floats
    outputs_a: tuple[float, ...]
    loads_ohm: Complex
    drive: Floats
    current_a: Floats
    beside_a: Floats
    codes: Codes
    decided_by: Index
    peak_null_m: Floats

    def of(self, h: int, o: int) -> Rating:
        """Return the rating of one hookup at one output step.

        Args:
            h: Index of the hookup.
            o: Index of the output step.

        Returns:
            The rating.
        """
        return Rating(self, h, o)

    @lazy
    def lengths_m(self) -> Floats:
        """Return the length to locate by verdict.

        Returns:
            Length, shape (h, o, c, 4) [m].
        """
        return np.stack([(self.codes == k) @ self.wanted_m for k in range(len(VERDICTS))], axis=-1)

    @lazy
    def loudest(self) -> Index:
        """Return the station where each neighbour takes most, where the line is to be located.

        Returns:
            Station, shape (h, c, k).
        """
        counted = (self.wanted_m > 0) | ~(self.wanted_m > 0).any()
        return np.asarray(np.where(counted, self.beside_a, -1.0).argmax(-1))

    @lazy
    def worst_m(self) -> Floats:
        """Return the length that is Mark, and Mark or Mark with care, for every far end considered.

        Returns:
            Length, shape (h, o, 2) [m].
        """
        lengths_m = self.lengths_m[:, :, : self.told]
        proved = lengths_m[..., PROVED_CODES].sum(-1).min(-1)
        return np.stack([lengths_m[..., VERDICTS.index("mark")].min(-1), proved], axis=-1)

    @property
    def earthed(self) -> int | None:
        """Which of the far ends is the earthed one, None where that was not rated."""
        return self.far_cases.index("earthed") if "earthed" in self.far_cases else None

    @lazy
    def earthed_m(self) -> Floats:
        """Return the length that is Mark with the far end earthed.

        Returns:
            Length, shape (h, o) [m]; NaN if that was not rated.
        """
        if self.earthed is None:
            return np.full(self.lengths_m.shape[:2], np.nan)
        return np.asarray(self.lengths_m[:, :, self.earthed, VERDICTS.index("mark")])

    @lazy
    def useful(self) -> Mask:
        """Return whether a stretch worth walking is Mark or Mark with care with any far end.

        Returns:
            Shape (h, o).
        """
        proved_m = self.lengths_m[:, :, : self.told, PROVED_CODES].sum(3)
        return np.asarray((proved_m >= self.worth_m).any(2))

    @lazy
    def worth_m(self) -> float:
        """Return the least length that is worth a setup.

        Returns:
            Length [m].
        """
        wanted_m = float(np.sum(self.wanted_m))
        return max(min(float(np.clip(_WORTH * wanted_m, *_WORTH_M)), 0.5 * wanted_m), 1e-9)

    @lazy
    def bleed_share(self) -> Floats:
        """Return the greatest share of the line's own current that a neighbour takes.

        Returns:
            Share, shape (h,).
        """
        if not self.beside:
            return np.zeros(len(self.codes))
        taken = np.take_along_axis(self.beside_a, self.loudest[..., None], -1)[..., 0]
        own = np.take_along_axis(self.current_a, self.loudest, -1)
        return np.asarray((taken / np.maximum(own, 1e-12))[:, : self.told].max((1, 2)))

    def forecasts(self, h: int, o: int) -> tuple[Forecast, ...]:
        """Return the forecasts of one hookup at one output step.

        Args:
            h: Index of the hookup.
            o: Index of the output step.

        Returns:
            One for each far end.
        """
        at = Setup("direct", self.freqs_hz[h], self.outputs_a[o])
        found = []
        for c, name in enumerate(self.far_cases[: self.told]):
            load, drive = complex(self.loads_ohm[h, c]), float(self.drive[h, o, c])
            found.append(
                Forecast(
                    name,
                    output(None if np.isnan(load) else load, at, self.kit),
                    self.stations_m,
                    self.edges_m,
                    self.current_a[h, c] * drive,
                    self.beside,
                    self.beside_a[h, c] * drive,
                    self.loudest[h, c],
                    self.codes[h, o, c],
                    self.decided_by[h, o, c],
                    self.lengths_m[h, o, c],
                    self.peak_null_m[h, c],
                    self.wanted_m,
                )
            )
        return tuple(found)


@dataclass(frozen=True, eq=False)
class Rating:
    """What one setup would do: a hookup of `Ratings` at one output step."""

    of: Ratings
    hookup: int
    step: int

    @lazy
    def forecasts(self) -> tuple[Forecast, ...]:
        """Return the forecast of each far-end case.

        Returns:
            Forecasts.
        """
        return self.of.forecasts(self.hookup, self.step)

    @property
    def proved_m(self) -> float:
        """Length to be located [m] that is **Mark** for every far end considered."""
        return float(self.of.worst_m[self.hookup, self.step, 0])

    @property
    def usable_m(self) -> float:
        """Length to be located [m] that is Mark or Mark with care for every far end considered."""
        return float(self.of.worst_m[self.hookup, self.step, 1])

    @property
    def earthed_m(self) -> float:
        """Length to be located [m] that is **Mark** with the far end earthed, NaN where that was not rated."""
        return float(self.of.earthed_m[self.hookup, self.step])

    @property
    def proved(self) -> Mask:
        """Which stations (n,) a mark may rest on for every far end considered."""
        return np.asarray(PROVED_CODES[self.of.codes[self.hookup, self.step, : self.of.told]].all(0))

    @property
    def proved_earthed(self) -> Mask:
        """Which stations (n,) a mark may rest on with the far end earthed; none where that was not rated."""
        if self.of.earthed is None:
            return np.zeros(len(self.of.stations_m), dtype=bool)
        return np.asarray(PROVED_CODES[self.of.codes[self.hookup, self.step, self.of.earthed]])

    @property
    def bleed_share(self) -> float:
        """Greatest share of the line's own current that a neighbour takes."""
        return float(self.of.bleed_share[self.hookup])


def ratings(sim: Simulator, cases: Cases, outputs_a: Sequence[float]) -> Ratings:
    """Rate what hookups do at every output step and far end.

    Rated station by station by the judge; the simulated trace carries the forecast's noise margin.

    Args:
        sim: Simulator of the line.
        cases: What the receiver reads.
        outputs_a: Output steps [A].

    Returns:
        The ratings.
    """
    traces = _Traces(sim, cases, outputs_a)
    codes, decided_by = traces.judge()
    peak_null_m = np.full(cases.currents.current_a.shape, np.nan)
    # where nothing would be proved even with peak and null together, they are not computed
    proved = np.any(PROVED_CODES[codes], axis=(1, 2))
    hopeful, stations = (np.flatnonzero(proved.any(axis)) for axis in (1, 0))
    if len(hopeful):
        looked = sim.peak_null(cases.currents, hopeful, stations)
        peak_null_m[hopeful] = np.where(proved[hopeful, None], looked, np.nan)
        codes, decided_by = also_judged(
            "peak_null", peak_null_m[:, None], codes, decided_by, rules=rules_of(sim.kit.bounds)
        )
    return Ratings(
        tuple(s.freq_hz for s in cases.currents.setups),
        sim.kit,
        cases.far_cases,
        cases.told,
        tuple(a.beside.name for a in sim.asides),
        sim.stations_m,
        sim.edges_m,
        sim.wanted_m,
        tuple(outputs_a),
        cases.currents.loads_ohm,
        traces.drive[..., 0],
        cases.currents.current_a,
        cases.currents.beside_a,
        codes,
        decided_by,
        peak_null_m,
    )


class _Traces:
    """Simulated traces of hookups (h) at output steps (o) for each far end (c) and station (n), not yet judged."""

    def __init__(self, sim: Simulator, cases: Cases, outputs_a: Sequence[float]) -> None:
        self.sim, self.cases = sim, cases
        setups, loads = cases.currents.setups, cases.currents.loads_ohm[:, None]
        used = [sim.kit.frequency(s.freq_hz) for s in setups]
        self.noise_t, self.reads_depth, watts = (
            np.array(each)[:, None, None]
            for each in zip(*((f.noise_t, f.reads_depth, f.watts) for f in used), strict=True)
        )
        hum = np.stack([noise_along(sim.line, s.freq_hz, sim.stations_m) for s in setups])
        self.hum = hum if (hum > 1.0).any() else hum[:, :1]
        steps = np.array(outputs_a, dtype=float)[:, None]
        by_ports = np.minimum.reduce(drives(loads, steps, watts=watts, kit=sim.kit))
        self.drive = np.where(np.isnan(loads), coil_share(steps, sim.kit), by_ports)[..., None]
        self.between = np.array([float(s.by.between) for s in setups])[:, None, None, None]
        self.end_m = np.stack([end_distance(sim.line, s.position_m, sim.stations_m) for s in setups])

    def judge(self) -> tuple[Codes, Index]:
        """Return verdict and deciding rule (h, o, c, n), with peak and null together everywhere."""
        sim, cases, currents = self.sim, self.cases, self.cases.currents
        noise_t = NOISE_MARGIN * self.noise_t[..., None] * self.hum[:, None, None]
        batch = simulated(
            read_off(cases.over_t[:, None], self.drive, noise_t, currents.returning, sim.kit),
            neighbour_a=currents.beside_a.max(2, initial=0.0)[:, None] * self.drive,
            peak_null_m=np.zeros(1),
            reads_depth=self.reads_depth[..., None],
            noise_t=noise_t,
            kit=sim.kit,
            depth_range_m=(sim.line.depth_min_m, sim.line.depth_max_m),
            end_m=self.end_m[:, None, None],
            forecast_a=currents.current_a[:, None] * self.drive,
            air_share=cases.air_share[:, None],
            turn_m=sim.turn_m,
            crossing_m=sim.crossing_m,
            between=self.between,
        )
        codes, decided_by = judge_codes(batch)
        shape = np.broadcast_shapes(codes.shape, self.drive.shape, currents.current_a[:, None].shape)
        return np.broadcast_to(codes, shape), np.broadcast_to(decided_by, shape)
