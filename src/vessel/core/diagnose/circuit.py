"""Rank the explanations of transmitter readings; say which cannot be told apart and what would separate them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.diagnose.hypotheses import STAKE_SPREAD, Candidate, Family, Loops, Predicted, candidates
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.reading import TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.line_circuit import Floats

READING_SPREAD = 0.06
"""Standard deviation of the logarithm of a transmitter's ohms (two shown digits, model error)."""
_STAKE_STEPS = np.exp(np.linspace(-0.9, 0.9, 25))
_SEPARABLE = 0.15


@dataclass(frozen=True)
class Hypothesis:
    """One family's best candidate: probability among all, gap of its ohms, parameter with range, stake factor."""

    family: Family
    probability: float
    gap: float
    parameter: float
    parameter_range: tuple[float, float]
    best: Candidate
    stake_factor: float


@dataclass(frozen=True)
class NextReading:
    """The reading that best separates the two leaders: another frequency [Hz], or None when none would."""

    freq_hz: float | None
    ratio: float


@dataclass(frozen=True)
class Diagnosis:
    """Hypotheses, likeliest first; `gap` of the best fit; whether the leaders can be told apart."""

    hypotheses: tuple[Hypothesis, ...]
    gap: float
    told_apart: bool
    next_reading: NextReading

    @property
    def plausible(self) -> tuple[Hypothesis, ...]:
        """Hypotheses worth keeping for the forecast: at least a twentieth as likely as the leader."""
        lead = self.hypotheses[0].probability
        return tuple(h for h in self.hypotheses if h.probability >= 0.05 * lead)


@dataclass(frozen=True)
class _Fit:
    cost: float
    gap: float
    stake_factor: float


def _fit(c: Candidate, loops: Sequence[Predicted], readings: Sequence[TransmitterReading]) -> _Fit:
    """Best floating stake for one candidate over all readings (least penalised squares on log ohms)."""
    factors: Floats = _STAKE_STEPS if c.free_stake else np.ones(1)
    logs = np.array([np.log(r.ohms / p.ohms(factors)) for r, p in zip(readings, loops, strict=True)])
    stake_cost = 0.5 * (np.log(factors) / STAKE_SPREAD) ** 2
    cost = 0.5 * ((logs / READING_SPREAD) ** 2).sum(0) + stake_cost
    k = int(cost.argmin())
    return _Fit(float(cost[k]), float(np.abs(logs[:, k]).max()), float(factors[k]) * c.stake_factor)


def diagnose(line: Line, setup: Setup, soil: Soil, kit: Kit, readings: Sequence[TransmitterReading]) -> Diagnosis:
    """Return the ranked explanations of `readings` (one or more, at any kit frequency) of a direct connection."""
    found = candidates(line, setup, soil, kit)
    predicted = Loops(line, setup, soil, kit, found)
    by_freq = {f: predicted.predict(found, freq_hz=f) for f in {r.freq_hz for r in readings}}
    fits = [_fit(c, [by_freq[r.freq_hz][i] for r in readings], readings) for i, c in enumerate(found)]
    totals = [fit.cost + c.prior + c.family.cost for fit, c in zip(fits, found, strict=True)]
    best: dict[str, int] = {}
    for i, c in enumerate(found):
        if c.family.id not in best or totals[i] < totals[best[c.family.id]]:
            best[c.family.id] = i
    floor = min(totals)
    weights = {k: float(np.exp(floor - totals[i])) for k, i in best.items()}
    hypotheses = []
    for key, i in best.items():
        close = [c.parameter for c, t in zip(found, totals, strict=True) if c.family.id == key and t <= totals[i] + 1.0]
        hypotheses.append(
            Hypothesis(
                found[i].family,
                weights[key] / sum(weights.values()),
                fits[i].gap,
                found[i].parameter,
                (min(close), max(close)),
                found[i],
                fits[i].stake_factor,
            )
        )
    hypotheses.sort(key=lambda h: -h.probability)
    apart = hypotheses[0].probability >= 3 * hypotheses[1].probability
    next_reading = _separating_frequency(predicted, hypotheses[:2], kit)
    return Diagnosis(tuple(hypotheses), min(h.gap for h in hypotheses), apart, next_reading)


def _separating_frequency(predicted: Loops, leaders: Sequence[Hypothesis], kit: Kit) -> NextReading:
    """Return the kit frequency at which the two leaders' ohms differ most, None where none differs enough."""
    best = NextReading(None, 0.0)
    for f in kit.frequencies:
        loops = predicted.predict([h.best for h in leaders], freq_hz=f.freq_hz)
        ohms = [
            float(p.ohms(np.array([h.stake_factor / h.best.stake_factor]))[0])
            for p, h in zip(loops, leaders, strict=True)
        ]
        ratio = abs(float(np.log(ohms[0] / ohms[1])))
        if ratio > max(best.ratio, _SEPARABLE):
            best = NextReading(f.freq_hz, ratio)
    return best
