"""Simulated traces along one line, rated by the judge: the planner's only measure of an option."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vessel.core.judge.measures import Batch
from vessel.core.judge.verdict import VERDICTS, judge_codes
from vessel.core.model.kit import Receiver
from vessel.core.model.setup import Setup
from vessel.core.plan.forecast import PROVED_CODES, Forecast
from vessel.core.plan.simulate import Cases, Simulator, Solved, end_distance
from vessel.core.signal.field import Floats
from vessel.core.signal.receiver import LIFT_M, Shown, shown
from vessel.core.signal.sources import output

NOISE_MARGIN = 3.0
"""Forecasts assume this many times the kit's noise: a bad day, so that a plan holds on an ordinary one."""
_REPEATS = (-1.2, 1.2)  # furthest of five repeated readings, in standard deviations


def forecasts(
    sim: Simulator, setups: Sequence[Setup], outputs_a: Sequence[float], *, solved: Solved | None = None
) -> list[list[tuple[Forecast, ...]]]:
    """Return, for each setup (all at one frequency) and output step [A], the forecast of each far-end case.

    Rated station by station by the judge; the simulated trace carries the forecast's noise margin.
    """
    cases = sim.cases(setups, solved)
    rated = _Rated(sim, cases, outputs_a)
    # where nothing would be proved even with peak and null together, nobody need look for them
    hopeful = np.flatnonzero(PROVED_CODES[rated.codes].any((1, 2, 3)))
    if len(hopeful):
        rated.judge(hopeful, np.stack(sim.peak_null([cases[k] for k in hopeful])))
    return rated.forecasts()


class _Rated:
    """Simulated traces of one frequency's hookups (h), every output step (o), far end (c) and station (n), judged."""

    def __init__(self, sim: Simulator, cases: Sequence[Cases], outputs_a: Sequence[float]) -> None:
        self.sim, self.cases = sim, cases
        first = cases[0].setup
        frequency = sim.kit.frequency(first.freq_hz)
        self.noise_t, self.reads_depth = NOISE_MARGIN * frequency.noise_t, frequency.reads_depth
        steps = [Setup(first.method, first.freq_hz, a) for a in outputs_a]
        self.outputs = [[[output(ohm, s, sim.kit) for ohm in c.loads_ohm] for s in steps] for c in cases]
        self.drive = np.array([[[o.drive for o in row] for row in each] for each in self.outputs])[..., None]
        self.over = np.stack([c.over_t for c in cases])[:, None]
        self.own, self.beside = (np.stack([getattr(c, f) for c in cases]) for f in ("current_a", "beside_a"))
        air = [c.air_share if c.setup.method == "induction" else np.full(c.air_share.shape, np.nan) for c in cases]
        self.air = np.stack(air)
        self.end_m = np.stack([end_distance(sim.line, c.setup, sim.stations_m) for c in cases])
        shape = np.broadcast_shapes(self.drive.shape, self.own[:, None].shape)
        self.codes, self.decided_by = np.zeros(shape, dtype=np.int8), np.zeros(shape, dtype=np.intp)
        self.peak_null_m = np.full(self.own.shape, np.nan)
        self.judge(np.arange(len(cases)), np.zeros(self.own.shape))
        self.peak_null_m[:] = np.nan

    def judge(self, which: NDArray[np.intp], peak_null_m: Floats) -> None:
        """Judge every station of some hookups with peak and null that far apart (h, c, n) [m]."""
        sim, drive = self.sim, self.drive[which]
        batch = simulated(
            shown(self.over[which], drive, noise_t=self.noise_t, receiver=sim.kit.receiver),
            neighbour_a=self.beside[which].max(2, initial=0.0)[:, None] * drive,
            peak_null_m=peak_null_m[:, None],
            reads_depth=self.reads_depth,
            noise_t=self.noise_t,
            receiver=sim.kit.receiver,
            depth_range_m=(sim.line.depth_min_m, sim.line.depth_max_m),
            end_m=self.end_m[which][:, None, None],
            forecast_a=self.own[which][:, None] * drive,
            air_share=self.air[which][:, None],
        )
        self.peak_null_m[which] = peak_null_m
        self.codes[which], self.decided_by[which] = judge_codes(batch)

    def forecasts(self) -> list[list[tuple[Forecast, ...]]]:
        """Return the forecasts, by hookup, output step and far end."""
        sim, names = self.sim, tuple(a.beside.name for a in self.sim.asides)
        lengths = np.stack([(self.codes == k) @ sim.wanted_m for k in range(len(VERDICTS))], axis=-1)
        counted = (sim.wanted_m > 0) | ~(sim.wanted_m > 0).any()
        loudest = np.where(counted, self.beside, -1.0).argmax(-1)
        return [
            [
                tuple(
                    Forecast(
                        name,
                        out,
                        sim.stations_m,
                        sim.edges_m,
                        self.own[h, c] * out.drive,
                        names,
                        self.beside[h, c] * out.drive,
                        loudest[h, c],
                        self.codes[h, o, c],
                        self.decided_by[h, o, c],
                        lengths[h, o, c],
                        self.peak_null_m[h, c],
                        sim.wanted_m,
                    )
                    for c, (name, out) in enumerate(zip(cases.names, row, strict=True))
                )
                for o, row in enumerate(self.outputs[h])
            ]
            for h, cases in enumerate(self.cases)
        ]


def simulated(
    s: Shown,
    *,
    neighbour_a: Floats,
    peak_null_m: Floats,
    reads_depth: bool,
    noise_t: float,
    receiver: Receiver,
    depth_range_m: tuple[float, float],
    end_m: Floats,
    forecast_a: Floats,
    air_share: Any,
) -> Batch:
    """Return stations as a technician would read them off the display, five repeats spread by the noise.

    `neighbour_a` is the best current a look to both sides would find [A].
    """
    with np.errstate(invalid="ignore"):
        # comparisons with NaN are false: an instrument that shows nothing gives no reading
        usable = (s.depth_m >= 0.01) & (s.depth_m <= 15.0) & (s.current_a <= 10.0)
        lifted = usable & (s.depth_lifted_m >= 0.01) & (s.depth_lifted_m <= 20.0)
    # where noise drowns the signal the instrument still shows a current: none
    amps = np.where(usable, s.current_a, 0.0)
    low, high = (np.clip(amps * (1 + k * s.noise_share), 0.0, 10.0) for k in _REPEATS)
    return Batch(
        amps=amps,
        spread=np.where(usable, (high - low) / np.where(usable, amps, 1.0), np.inf),
        depth_m=np.where(usable & reads_depth, s.depth_m, np.nan),
        lift_m=LIFT_M,
        lifted_m=np.where(lifted, s.depth_lifted_m, np.nan),
        peak_null_m=np.minimum(peak_null_m, 10.0),
        neighbour_a=np.minimum(neighbour_a, 10.0),
        freq_gap=0.0,
        noise_t=noise_t,
        receiver=receiver,
        depth_range_m=depth_range_m,
        end_m=end_m,
        loop_gap=0.0,
        loop_silent=False,
        forecast_a=(forecast_a, forecast_a),
        air_share=air_share,
    )
