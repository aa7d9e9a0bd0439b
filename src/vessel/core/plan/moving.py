"""Moving induction: two people carry transmitter and receiver along a line, a constant distance apart."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from vessel.core.judge.verdict import judge_codes
from vessel.core.plan.forecast import PROVED_CODES, Moving
from vessel.core.plan.options import base_setup
from vessel.core.plan.simulate import NOISE_MARGIN, Simulator, end_distance, simulated
from vessel.core.signal.receiver import shown
from vessel.core.signal.sources import output

APART_M = (12.0, 20.0)
"""Distances between the two that are tried [m]."""
_EVERY = 2  # stations of the grid that are walked: enough to tell how far it would reach


def moving_induction(sim: Simulator) -> Moving | None:
    """Return the best moving induction of a line, None where the kit has no coil or nothing would be proved.

    Every frequency is tried at the shorter distance, the best of them at the longer one too.
    """
    if sim.kit.coil is None:
        return None
    best: Moving | None = None
    usable = [f for f in sim.kit.frequencies if f.freq_hz >= sim.kit.coil.min_freq_hz and f.reads_depth]
    for frequency in usable:
        found = _walked(sim, frequency.freq_hz, APART_M[0])
        if found.proved_m > (best.proved_m if best else 0.0):
            best = found
    for apart in APART_M[1:]:
        further = _walked(sim, best.freq_hz, apart) if best else None
        if best and further and further.proved_m > best.proved_m:
            best = further
    return best


def _walked(sim: Simulator, freq_hz: float, apart_m: float) -> Moving:
    """The length proved with the coil `apart_m` behind the receiver; at the start it is walked from the other side."""
    output_a = max(sim.kit.outputs_a)
    at = sim.stations_m[::_EVERY]
    behind = np.where(at >= apart_m, at - apart_m, at + apart_m)
    kept = np.flatnonzero(behind <= sim.line.length_m) * _EVERY
    base = replace(base_setup(sim.kit), method="induction", freq_hz=freq_hz, output_a=output_a)
    setups = [replace(base, position_m=float(behind[i // _EVERY])) for i in kept]
    if not setups:
        return Moving(freq_hz, output_a, apart_m, 0.0)
    cases = sim.cases(setups)
    apart = sim.peak_null_at(cases, kept)
    frequency, kit = sim.kit.frequency(freq_hz), sim.kit
    noise, drive = NOISE_MARGIN * frequency.noise_t, output(None, base, kit).drive
    pairs = list(zip(kept, cases, strict=True))
    batch = simulated(
        shown(np.array([c.over_t[:, i] for i, c in pairs]), drive, noise_t=noise, receiver=kit.receiver),
        neighbour_a=np.array([c.beside_a[:, :, i].max(1, initial=0.0) for i, c in pairs]) * drive,
        peak_null_m=apart,
        reads_depth=frequency.reads_depth,
        noise_t=noise,
        low_m=kit.receiver.low_m,
        depth_range_m=(sim.line.depth_min_m, sim.line.depth_max_m),
        end_m=np.array([end_distance(sim.line, c.setup, sim.stations_m[i]) for i, c in pairs])[:, None],
        forecast_a=np.array([c.current_a[:, i] for i, c in pairs]) * drive,
        air_share=np.array([c.air_share[:, i] for i, c in pairs]),
    )
    good = PROVED_CODES[judge_codes(batch)[0]].all(1)
    walked = sim.wanted_m[::_EVERY].sum()
    share = float(sim.wanted_m[kept][good].sum() / walked) if walked else 0.0
    return Moving(freq_hz, output_a, apart_m, share * float(sim.wanted_m.sum()))
