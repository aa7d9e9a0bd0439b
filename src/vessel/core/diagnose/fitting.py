"""How well an explanation fits the transmitter's readings: stake, soil and far end float within what is usual."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.diagnose.hypotheses import STAKE_SPREAD, Suspect, after
from vessel.core.diagnose.predicted_loops import Loops, Predicted
from vessel.core.model.line import Line
from vessel.core.model.readings import TransmitterReading

READING_SPREAD = 0.06
"""Standard deviation of the logarithm of a transmitter's ohms (two shown digits, model error)."""
_LONG_HZ_M = 1e8
"""Frequency times length [Hz m] at which the ohms are foretold no better than to a factor: near a quarter of a
wavelength on insulated wire, small errors of soil, length and insulation move them far."""
_STAKE_STEPS = np.linspace(-0.9, 0.9, 25)
GUESSED_SOIL = 0.8
"""Standard deviation of the logarithm of a soil's resistivity that was not measured."""
_SOIL_STEPS = np.linspace(-2.0, 2.0, 21)
_STAKE_LEFT = np.array([0.12, 0.25, 0.4, 0.55, 0.7, 0.85])
"""Shares of its resistance that a stake may keep when it is driven deeper or wetted."""
USUALLY_LEFT = 0.5
"""Share of its resistance that a stake keeps when it is driven deeper or wetted, as a rule."""
_EARTHED_WITH = np.array([0.4, 1.0, 2.5])
"""What the far end may have been earthed with, against its typical resistance."""


@dataclass(frozen=True)
class Fit:
    """How an explanation fits best: its cost, the gap of its ohms, and what floated for it.

    `stake_factor`: the stake against what the soil should give; `stake_left`: the share it kept when driven deeper;
    `far_ohm`: what the far end was earthed with [ohm].
    """

    cost: float
    gap: float
    stake_factor: float
    stake_left: float
    far_ohm: float


def spread(freq_hz: float, length_m: float) -> float:
    """Return how well a loop's ohms are foretold.

    Args:
        freq_hz: Signal frequency [Hz].
        length_m: Length of the line [m].

    Returns:
        Standard deviation of their logarithm.
    """
    return float(np.hypot(READING_SPREAD, freq_hz * length_m / _LONG_HZ_M))


def _fit(
    c: Suspect,
    loops: Sequence[Predicted],
    readings: Sequence[TransmitterReading],
    *,
    far_ohm: float,
    length_m: float,
    soil: float,
) -> Fit:
    """Best floating stake for one candidate over all readings (least penalised squares on log ohms).

    `soil`: standard deviation of the logarithm of the resistivity; the stake's resistance goes with it, and a bare
    line's whole loop.
    """
    bare, stake_off = c.line.construction.bare and soil > 0, float(np.hypot(STAKE_SPREAD, soil))
    if bare:
        return _in_other_soil(c, loops, readings, far_ohm=far_ohm, length_m=length_m, soil=soil)
    steps = _STAKE_STEPS if soil == 0 else np.union1d(_STAKE_STEPS, _SOIL_STEPS)
    factors: Floats = np.exp(steps) if c.free_stake else np.ones(1)
    deeper = np.array([1.0 if "stake" in r.changes else 0.0 for r in readings])
    left: Floats = _STAKE_LEFT if deeper.any() else np.ones(1)
    # (readings, left, factors): the stake's resistance floats, and once more by how much better it got
    stake = factors[None, None] * left[None, :, None] ** deeper[:, None, None]
    logs = np.array([np.log(r.ohms / p.ohms(x)) for r, p, x in zip(readings, loops, stake, strict=True)])
    off = np.array([spread(r.freq_hz, length_m) for r in readings])[:, None, None]
    cost = 0.5 * ((logs / off) ** 2).sum(0) + 0.5 * (np.log(factors) / stake_off) ** 2
    i, k = np.unravel_index(int(cost.argmin()), cost.shape)
    gap = float(np.abs(logs[:, i, k]).max())
    return Fit(float(cost[i, k]), gap, float(factors[k]) * c.stake_factor, float(left[i]), far_ohm)


def _in_other_soil(
    c: Suspect,
    loops: Sequence[Predicted],
    readings: Sequence[TransmitterReading],
    *,
    far_ohm: float,
    length_m: float,
    soil: float,
) -> Fit:
    """The best fit of a bare line, whose every ohm goes with the soil's resistivity."""
    fits = []
    for step in _SOIL_STEPS:
        factor = float(np.exp(step))
        scaled = [Predicted(p.fixed_ohm * factor, p.stake_ohm * factor) for p in loops]
        fit = _fit(c, scaled, readings, far_ohm=far_ohm, length_m=length_m, soil=0.0)
        cost = fit.cost + 0.5 * (float(step) / soil) ** 2
        fits.append(replace(fit, cost=cost, stake_factor=fit.stake_factor * factor))
    return min(fits, key=lambda f: f.cost)


def best_fits(
    line: Line, found: Sequence[Suspect], predicted: Loops, readings: Sequence[TransmitterReading], soil: float
) -> list[Fit]:
    """Return the best fit of each candidate over what the far end may have been earthed with, if it was.

    Args:
        line: The line to locate.
        found: The candidates.
        predicted: The loops they predict.
        readings: Readings of the transmitter, in the order they were taken.
        soil: Standard deviation of the logarithm of the soil's resistivity, 0 where it was measured.

    Returns:
        One fit for each candidate.
    """
    best: list[Fit] = []
    earthed = any("far" in r.changes for r in readings)
    for far_ohm in _EARTHED_WITH * line.far.earth_ohm if earthed else np.array([line.far.earth_ohm]):
        states = {(r.freq_hz, r.changes) for r in readings}
        loops = {
            (f, changes): predicted.predict([after(c, changes, line, far_ohm=float(far_ohm)) for c in found], freq_hz=f)
            for f, changes in states
        }
        tried = [
            _fit(
                c,
                [loops[r.freq_hz, r.changes][i] for r in readings],
                readings,
                far_ohm=float(far_ohm),
                length_m=line.length_m,
                soil=soil,
            )
            for i, c in enumerate(found)
        ]
        best = [min(b, f, key=lambda x: x.cost) for b, f in zip(best, tried, strict=True)] if best else tried
    return best
