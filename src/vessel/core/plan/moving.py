"""Moving induction: two people carry transmitter and receiver along a line, a constant distance apart."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from vessel.core.judge.verdict import judge_codes
from vessel.core.plan.forecast import PROVED_CODES, Moving
from vessel.core.plan.options import base_setup
from vessel.core.plan.rated import NOISE_MARGIN, simulated
from vessel.core.plan.simulate import Cases, Simulator, Solved, end_distance, solve_together
from vessel.core.signal.field import Floats
from vessel.core.signal.receiver import shown
from vessel.core.signal.sources import output

APART_M = (12.0, 20.0)
"""Distances between the two that are tried [m]."""
_EVERY = 2  # stations of the grid that are walked: enough to tell how far it would reach
_NEARLY = 0.75
_AT_FIRST = 3 * _EVERY  # and at first, to see which frequency and distance reach furthest


def moving_induction(sims: Sequence[Simulator]) -> list[Moving | None]:
    """Return the best moving induction of each line, None where the kit has no coil or nothing would be proved.

    The lines share a kit. Every frequency and distance is walked with few stations, the best of them with more.
    """
    kit = sims[0].kit if sims else None
    if kit is None or kit.coil is None:
        return [None] * len(sims)
    usable = [f.freq_hz for f in kit.frequencies if f.freq_hz >= kit.coil.min_freq_hz and f.reads_depth]
    tried = [_walked(sims, freq, APART_M, _AT_FIRST) for freq in usable]
    good = [_good_enough([walk for each in tried for walk in each[k]]) for k in range(len(sims))]
    walks: list[list[Moving]] = [[] for _ in sims]
    for freq, apart in sorted({pair for each in good for pair in each}):
        which = [k for k, each in enumerate(good) if (freq, apart) in each]
        for k, walked in zip(which, _walked([sims[k] for k in which], freq, (apart,), _EVERY), strict=True):
            walks[k] += walked
    return [_best(each) for each in walks]


def _good_enough(tried: Sequence[Moving]) -> set[tuple[float, float]]:
    """Frequencies and distances that few stations do not tell from the best."""
    best = _best(tried)
    return set() if best is None else {(m.freq_hz, m.apart_m) for m in tried if m.proved_m >= _NEARLY * best.proved_m}


def _best(tried: Sequence[Moving]) -> Moving | None:
    best = max(tried, key=lambda m: m.proved_m, default=None)
    return best if best is not None and best.proved_m > 0 else None


def _walked(sims: Sequence[Simulator], freq_hz: float, aparts_m: Sequence[float], every: int) -> list[list[Moving]]:
    """Each line walked at each distance."""
    walks = [_Walk(sim, freq_hz, aparts_m, every) for sim in sims]
    solved = solve_together(sims, [w.setups for w in walks])
    return [walk.rated(each) for walk, each in zip(walks, solved, strict=True)]


class _Walk:
    """A line walked with the coil each of `aparts_m` behind the receiver; at the start from the other side.

    Of the grid's stations one in `every` is walked. `kept` (k,): the station of each of `setups`, `of` (k,) which of
    the distances it is walked at.
    """

    def __init__(self, sim: Simulator, freq_hz: float, aparts_m: Sequence[float], every: int) -> None:
        self.sim, self.freq_hz, self.aparts_m, self.every = sim, freq_hz, aparts_m, every
        at, apart = sim.stations_m[::every], np.array(aparts_m)[:, None]
        behind = np.where(at >= apart, at - apart, at + apart)
        self.of, station = np.nonzero(behind <= sim.line.length_m)
        self.kept = station * every
        self.base = replace(base_setup(sim.kit), method="induction", freq_hz=freq_hz, output_a=max(sim.kit.outputs_a))
        self.setups = [replace(self.base, position_m=float(x)) for x in behind[self.of, station]]

    def rated(self, solved: Solved) -> list[Moving]:
        """Return the length that the judge would let be marked at each distance apart."""
        sim = self.sim
        good = np.zeros(len(self.kept), dtype=bool)
        if self.setups:
            cases = sim.cases(self.setups, solved)
            good = self._good(cases, np.arange(len(cases)), np.zeros((len(cases), len(cases[0].names))))
            # as with standing setups: peak and null are looked for where something would be proved
            which = np.flatnonzero(good)
            if len(which):
                good[which] = self._good(cases, which, sim.peak_null_at([cases[k] for k in which], self.kept[which]))
        walked, wanted = sim.wanted_m[:: self.every].sum(), sim.wanted_m.sum()
        shares = [
            sim.wanted_m[self.kept[good & (self.of == k)]].sum() / max(walked, 1e-9) for k in range(len(self.aparts_m))
        ]
        return [
            Moving(self.freq_hz, self.base.output_a, apart, float(share * wanted))
            for apart, share in zip(self.aparts_m, shares, strict=True)
        ]

    def _good(self, cases: Sequence[Cases], which: NDArray[np.intp], peak_null_m: Floats) -> NDArray[np.bool_]:
        """Which stations are proved whichever way the far end is, with peak and null that far apart (k, far ends)."""
        sim, kit = self.sim, self.sim.kit
        frequency = kit.frequency(self.freq_hz)
        noise, drive = NOISE_MARGIN * frequency.noise_t, output(None, self.base, kit).drive
        pairs = [(self.kept[k], cases[k]) for k in which]
        batch = simulated(
            shown(np.array([c.over_t[:, i] for i, c in pairs]), drive, noise_t=noise, receiver=kit.receiver),
            neighbour_a=np.array([c.beside_a[:, :, i].max(1, initial=0.0) for i, c in pairs]) * drive,
            peak_null_m=peak_null_m,
            reads_depth=frequency.reads_depth,
            noise_t=noise,
            kit=kit,
            depth_range_m=(sim.line.depth_min_m, sim.line.depth_max_m),
            end_m=np.array([end_distance(sim.line, c.setup, sim.stations_m[i]) for i, c in pairs])[:, None],
            forecast_a=np.array([c.current_a[:, i] for i, c in pairs]) * drive,
            air_share=np.array([c.air_share[:, i] for i, c in pairs]),
            turn_m=sim.turn_m[self.kept[which]][:, None],
            crossing_m=sim.crossing_m[self.kept[which]][:, None],
        )
        return np.asarray(PROVED_CODES[judge_codes(batch)[0]].all(1))
