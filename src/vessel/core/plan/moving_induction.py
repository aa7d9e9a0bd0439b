"""Moving induction: two people carry transmitter and receiver along a line, a constant distance apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from vessel.core.base.arrays import Index
from vessel.core.judge.station.batch import Batch
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.judge.station.verdict import VERDICTS, also_judged, judge_codes
from vessel.core.model.kit import Kit
from vessel.core.model.setup import Setup
from vessel.core.plan.options import base_setup
from vessel.core.signal.circuit.transmitter_output import coil_share
from vessel.core.signal.receiver.plant_noise import noise_along
from vessel.core.simulate.currents import Carried
from vessel.core.simulate.forecast import PROVED_CODES, Moving
from vessel.core.simulate.line_simulator import Simulator, Solved
from vessel.core.simulate.simulated_trace import NOISE_MARGIN, read_off, simulated
from vessel.core.simulate.solved_together import solve_together
from vessel.core.simulate.station_grid import end_distance

APART_M = (12.0, 20.0)
"""Distances between the two that are tried [m]."""
_EVERY = 2  # stations of the grid that are walked: enough to tell how far it would reach
_NEARLY = 0.75
_AT_FIRST = 3 * _EVERY  # and at first, to see which frequency and distance reach furthest


def moving_induction(sims: Sequence[Simulator]) -> list[Moving | None]:
    """Return the best moving induction of each line.

    Every frequency and distance is walked with few stations, the best of them with more.

    Args:
        sims: Simulators of the lines, of one kit.

    Returns:
        One for each line; None if the kit has no coil or nothing would be proved.
    """
    walks = [[_Walk(sim, freq, apart) for freq in _usable(sim.kit) for apart in APART_M] for sim in sims]
    _carry_on(walks, _AT_FIRST)
    walks = [_good_enough(each) for each in walks]
    _carry_on(walks, _EVERY)
    return [_best([walk.found(_EVERY) for walk in each]) for each in walks]


def ways_of_moving(sim: Simulator, now: tuple[float, float]) -> dict[tuple[float, float], Moving]:
    """Return what each promising way to walk a line would do.

    Args:
        sim: Simulator of the line.
        now: Frequency [Hz] and distance apart [m] that are walked now; always among the answers.

    Returns:
        By frequency [Hz] and distance apart [m].
    """
    tried = dict.fromkeys([now, *((freq, apart) for freq in _usable(sim.kit) for apart in APART_M)])
    walks = [_Walk(sim, freq, apart) for freq, apart in tried]
    _carry_on([walks], _AT_FIRST)
    kept = list(dict.fromkeys([walks[0], *_good_enough(walks)]))
    _carry_on([kept], _EVERY)
    return {(w.freq_hz, w.apart_m): w.found(_EVERY) for w in kept}


def _usable(kit: Kit) -> list[float]:
    coil = kit.coil
    return (
        [] if coil is None else [f.freq_hz for f in kit.frequencies if f.freq_hz >= coil.min_freq_hz and f.reads_depth]
    )


class _Walk:
    """A line walked at one frequency with the coil `apart_m` [m] behind the receiver; at the start from the other side.

    `proved`, `plain`: of each station walked so far, whether a mark may rest on it, and whether it is **Mark**.
    """

    def __init__(self, sim: Simulator, freq_hz: float, apart_m: float) -> None:
        self.sim, self.freq_hz, self.apart_m = sim, freq_hz, apart_m
        self.proved: dict[int, bool] = {}
        self.plain: dict[int, bool] = {}

    def to_go(self, every: int) -> dict[int, float]:
        """Return where the coil stands [m] for each of every so many stations that is not walked yet."""
        found = {}
        for k in range(0, len(self.sim.stations_m), every):
            at = float(self.sim.stations_m[k])
            behind = at - self.apart_m if at >= self.apart_m else at + self.apart_m
            if k not in self.proved and behind <= self.sim.line.length_m:
                found[k] = behind
        return found

    def found(self, every: int) -> Moving:
        """Return the length that the judge would let be marked, by one in so many stations."""
        wanted_m = self.sim.wanted_m
        whole = float(wanted_m.sum()) / max(float(wanted_m[::every].sum()), 1e-9)
        proved, plain = (
            whole * sum(float(wanted_m[k]) for k, good in of.items() if good) for of in (self.proved, self.plain)
        )
        return Moving(self.freq_hz, max(self.sim.kit.outputs_a), self.apart_m, proved, plain)


def _good_enough(walks: Sequence[_Walk]) -> list[_Walk]:
    """Return the walks that few stations do not tell from the best."""
    found = [walk.found(_AT_FIRST) for walk in walks]
    best = _best(found)
    return [w for w, m in zip(walks, found, strict=True) if best is not None and m.proved_m >= _NEARLY * best.proved_m]


def _best(tried: Sequence[Moving]) -> Moving | None:
    best = max(tried, key=lambda m: m.proved_m, default=None)
    return best if best is not None and best.proved_m > 0 else None


def _carry_on(walks: Sequence[Sequence[_Walk]], every: int) -> None:
    """Walk each line's `walks` at one in so many stations.

    What lines want at one frequency is solved together, then each line is judged at once.
    """
    legs = [_Leg(each, every) for each in walks if each]
    for freq in dict.fromkeys(walk.freq_hz for each in walks for walk in each):
        here = [leg for leg in legs if freq in leg.setups]
        solved = solve_together([leg.sim for leg in here], [leg.setups[freq] for leg in here])
        for leg, each in zip(here, solved, strict=True):
            leg.solved[freq] = each
    for leg in legs:
        leg.judge()


class _Leg:
    """What is still to be walked of one line: its places, each to be read at one station, frequency by frequency."""

    def __init__(self, walks: Sequence[_Walk], every: int) -> None:
        self.sim = walks[0].sim
        self.to_go = [(walk, k, at) for walk in walks for k, at in walk.to_go(every).items()]
        kit = self.sim.kit
        base = replace(base_setup(kit), method="induction", output_a=max(kit.outputs_a))
        self.setups: dict[float, list[Setup]] = {}
        for walk, _, at in self.to_go:
            setup = replace(base, freq_hz=walk.freq_hz, position_m=at)
            self.setups.setdefault(walk.freq_hz, []).append(setup)
        self.solved: dict[float, Solved] = {}

    def judge(self) -> None:
        """Note which stations are proved for every far end considered."""
        if not self.solved:
            return
        stations = np.array([k for _, k, _ in self.to_go])
        read = self.sim.carried([(setups, self.solved[freq]) for freq, setups in self.setups.items()], stations)
        codes, decided_by = judge_codes(self._batch(read, stations))
        good = np.asarray(PROVED_CODES[codes].all(1))
        plain = np.zeros(len(good), dtype=bool)
        # as with standing setups: peak and null are looked for where something would be proved
        which = np.flatnonzero(good)
        if len(which):
            rules = rules_of(self.sim.kit.bounds)
            looked = read.peak_null_m(which)
            codes, _ = also_judged("peak_null", looked, codes[which], decided_by[which], rules=rules)
            good[which] = PROVED_CODES[codes].all(1)
            plain[which] = (codes == VERDICTS.index("mark")).all(1)
        for (walk, k, _), proved, sure in zip(self.to_go, good.tolist(), plain.tolist(), strict=True):
            walk.proved[k], walk.plain[k] = proved, sure

    def _batch(self, read: Carried, stations: Index) -> Batch:
        """What would be read, with peak and null together everywhere."""
        sim, kit = self.sim, self.sim.kit
        used = [kit.frequency(walk.freq_hz) for walk, _, _ in self.to_go]
        hum = {f.freq_hz: noise_along(sim.line, f.freq_hz, sim.stations_m) for f in dict.fromkeys(used)}
        here = np.stack([hum[f.freq_hz][k] for f, k in zip(used, stations, strict=True)])
        noise = NOISE_MARGIN * np.array([[f.noise_t] for f in used]) * here[:, None]
        drive = coil_share(max(kit.outputs_a), kit)
        coil_m = np.array([at for _, _, at in self.to_go])
        return simulated(
            read_off(read.over_t, drive, noise, read.returning, kit),
            neighbour_a=read.beside_a * drive,
            peak_null_m=np.zeros(1),
            reads_depth=np.array([[f.reads_depth] for f in used]),
            noise_t=noise,
            kit=kit,
            depth_range_m=(sim.line.depth_min_m, sim.line.depth_max_m),
            end_m=end_distance(sim.line, coil_m, sim.stations_m[stations])[:, None],
            forecast_a=read.current_a * drive,
            air_share=read.air_share,
            turn_m=sim.turn_m[stations][:, None],
            crossing_m=sim.crossing_m[stations][:, None],
        )
