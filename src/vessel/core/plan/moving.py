"""Moving induction: two people carry transmitter and receiver along a line, a constant distance apart."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from vessel.core.plan.forecast import Moving
from vessel.core.plan.options import base_setup
from vessel.core.plan.simulate import Simulator

APART_M = (12.0, 20.0)
"""Distances between the two that are tried [m]."""


def moving_induction(sim: Simulator) -> Moving | None:
    """Return the best moving induction of a line, None where the kit has no coil or nothing would be proved."""
    if sim.kit.coil is None:
        return None
    best: Moving | None = None
    output_a = max(sim.kit.outputs_a)
    usable = [f for f in sim.kit.frequencies if f.freq_hz >= sim.kit.coil.min_freq_hz and f.reads_depth]
    for frequency in usable:
        for apart in APART_M:
            proved = _proved(sim, frequency.freq_hz, output_a, apart)
            if proved > (best.proved_m if best else 0.0):
                best = Moving(frequency.freq_hz, output_a, apart, proved)
    return best


def _proved(sim: Simulator, freq_hz: float, output_a: float, apart_m: float) -> float:
    """Length [m] proved with the coil `apart_m` behind the receiver; at the start it is walked from the other side."""
    at = sim.stations_m
    behind = np.where(at >= apart_m, at - apart_m, at + apart_m)
    kept = np.flatnonzero(behind <= sim.line.length_m)
    if not len(kept):
        return 0.0
    base = replace(base_setup(sim.kit), method="induction", freq_hz=freq_hz)
    setups = [replace(base, position_m=float(behind[i])) for i in kept]
    forecasts = sim.forecasts(setups, [output_a])
    good = [all(f.proved[i] for f in each[0]) for i, each in zip(kept, forecasts, strict=True)]
    return float(sim.wanted_m[kept][good].sum())
