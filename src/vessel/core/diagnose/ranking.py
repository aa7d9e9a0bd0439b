"""Rank the explanations of transmitter readings; say which cannot be told apart and what would separate them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.cached import lazy
from vessel.core.diagnose.hypotheses import (
    STAKE_SPREAD,
    Cause,
    Loops,
    Predicted,
    Suspect,
    after,
    candidates,
)
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import Beside, Change, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil

READING_SPREAD = 0.06
"""Standard deviation of the logarithm of a transmitter's ohms (two shown digits, model error)."""
_LONG_HZ_M = 1e8
"""Frequency times length [Hz m] at which the ohms are foretold no better than to a factor: near a quarter of a
wavelength on insulated wire, small errors of soil, length and insulation move them far."""
_STAKE_STEPS = np.linspace(-0.9, 0.9, 25)
_GUESSED_SOIL = 0.8
"""Standard deviation of the logarithm of a soil's resistivity that was not measured."""
_SOIL_STEPS = np.linspace(-2.0, 2.0, 21)
_STAKE_LEFT = np.array([0.12, 0.25, 0.4, 0.55, 0.7, 0.85])
"""Shares of its resistance that a stake may keep when it is driven deeper or wetted."""
USUALLY_LEFT = 0.5
"""Share of its resistance that a stake keeps when it is driven deeper or wetted, as a rule."""
_EARTHED_WITH = np.array([0.4, 1.0, 2.5])
"""What the far end may have been earthed with, against its typical resistance."""
CHANGES: tuple[Change, ...] = ("stake", "clip", "far", "bond")
"""Changes in the order in which they are least trouble."""
_SEPARABLE = 0.15
_SEEN: dict[Beside, tuple[float, float]] = {"carries": (0.9, 0.2), "quiet": (0.02, 0.8), "": (1.0, 1.0)}
"""How likely lines beside are seen to carry much of the current: with a bond to one of them, and without."""
_CLEARLY = 3.0  # times likelier than the next
# an explanation this likely that fits the readings as well is only held back by how rare it is: no proof
_POSSIBLE, _AS_WELL = 0.02, 2.0
_BONDED = 0.002  # a bond takes much of the current away and shows nothing of it: however rare, no loop is sound with it
# a little more resistance at the stake or clip of a loop that is sound otherwise sends no signal elsewhere
SOUND, _IN_SERIES = {"far_open", "far_earthed"}, {"poor_stake", "bad_clip"}
_CURES: dict[str, Change] = {"far_open": "far", "bad_clip": "clip", "poor_stake": "stake", "bonded": "bond"}
_FAIR_STAKE = 1.6  # times what the soil should give: a stake that was poor is sound from here down
_MIND = 0.08  # so it counts only where it is this likely
# stake and clip stand in one loop, and an earth on the way is nearly one at the end: a better fit hardly ever tells
_SAME_PLACE = 5.0
_ON_THE_WAY = 0.01


@dataclass(frozen=True)
class Hypothesis:
    """One family's best candidate: probability among all, gap of its ohms, parameter with range, stake factor.

    `stake_left`: the share of its resistance that the stake kept when it was driven deeper, 1 if it was not.
    `far_ohm`: what the far end was earthed with, if it was. `changes`: what had been changed by the last reading.
    """

    family: Cause
    probability: float
    gap: float
    parameter: float
    parameter_range: tuple[float, float]
    best: Suspect
    stake_factor: float
    stake_left: float
    far_ohm: float
    changes: tuple[Change, ...] = ()

    @property
    def mended(self) -> bool:
        """Whether what was wrong by this explanation has been put right since: it was so, and is no more."""
        if _CURES.get(self.family.id) not in self.changes:
            return False
        return self.family.id != "poor_stake" or self.stake_factor * self.stake_left <= _FAIR_STAKE

    @property
    def sound(self) -> bool:
        """Whether by this explanation nothing is wrong with the loop now."""
        return self.family.id in SOUND or self.mended


@dataclass(frozen=True)
class NextReading:
    """The reading that best separates the two leaders: at another frequency [Hz], or after a change; neither: none.

    `beside`: not at the transmitter but with the receiver, on the lines beside where a bond could be. `look_far`: no
    reading tells them, but a look whether the far end is earthed does.
    """

    freq_hz: float | None
    ratio: float
    change: Change | None = None
    beside: bool = False
    look_far: bool = False

    @property
    def asks(self) -> bool:
        """Whether there is one."""
        return self.freq_hz is not None or self.change is not None or self.beside or self.look_far


@dataclass(frozen=True, eq=False)
class Diagnosis:
    """Hypotheses, likeliest first, whether the first is told from its rivals, and the `gap` of the best.

    `rivals`: every other that the readings leave, or the next one if they leave none. `readings`: how many they
    explain. `separating` returns what would tell the first from another; the judge of stations never needs it, so it
    runs only for `rival` and `next_reading`.
    """

    hypotheses: tuple[Hypothesis, ...]
    rivals: tuple[Hypothesis, ...]
    gap: float
    told_apart: bool
    readings: int
    separating: Callable[[Hypothesis], NextReading]

    @property
    def rival(self) -> Hypothesis:
        """The rival that `next_reading` tells the first from, if any does; else the first of them."""
        return self._asked[0]

    @property
    def next_reading(self) -> NextReading:
        """The reading to take next."""
        return self._asked[1]

    @lazy
    def _asked(self) -> tuple[Hypothesis, NextReading]:
        # where nothing tells the first rival apart, what tells the next one apart is still worth asking for
        for h in self.rivals:
            asked = self.separating(h)
            if asked.asks:
                return h, asked
        return self.rivals[0], NextReading(None, 0.0)

    @property
    def sound(self) -> bool:
        """Whether the loop is sound whichever of the leaders is true: at most it has some more resistance near by."""
        lead, rivals = self.hypotheses[0], self.rivals
        series = all(h.family.id in _IN_SERIES for h in rivals)
        likely = all(lead.probability >= _CLEARLY * h.probability for h in rivals)
        return lead.sound and (self.told_apart or (series and likely))

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
    stake_left: float
    far_ohm: float


def _spread(freq_hz: float, length_m: float) -> float:
    return float(np.hypot(READING_SPREAD, freq_hz * length_m / _LONG_HZ_M))


def _fit(
    c: Suspect,
    loops: Sequence[Predicted],
    readings: Sequence[TransmitterReading],
    *,
    far_ohm: float,
    length_m: float,
    soil: float,
) -> _Fit:
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
    spread = np.array([_spread(r.freq_hz, length_m) for r in readings])[:, None, None]
    cost = 0.5 * ((logs / spread) ** 2).sum(0) + 0.5 * (np.log(factors) / stake_off) ** 2
    i, k = np.unravel_index(int(cost.argmin()), cost.shape)
    gap = float(np.abs(logs[:, i, k]).max())
    return _Fit(float(cost[i, k]), gap, float(factors[k]) * c.stake_factor, float(left[i]), far_ohm)


def _in_other_soil(
    c: Suspect,
    loops: Sequence[Predicted],
    readings: Sequence[TransmitterReading],
    *,
    far_ohm: float,
    length_m: float,
    soil: float,
) -> _Fit:
    """The best fit of a bare line, whose every ohm goes with the soil's resistivity."""
    fits = []
    for step in _SOIL_STEPS:
        factor = float(np.exp(step))
        scaled = [Predicted(p.fixed_ohm * factor, p.stake_ohm * factor) for p in loops]
        fit = _fit(c, scaled, readings, far_ohm=far_ohm, length_m=length_m, soil=0.0)
        cost = fit.cost + 0.5 * (float(step) / soil) ** 2
        fits.append(replace(fit, cost=cost, stake_factor=fit.stake_factor * factor))
    return min(fits, key=lambda f: f.cost)


def _fits(
    line: Line, found: Sequence[Suspect], predicted: Loops, readings: Sequence[TransmitterReading], soil: float
) -> list[_Fit]:
    """The best fit of each candidate over what the far end may have been earthed with, if it was."""
    best: list[_Fit] = []
    earthed = any("far" in r.changes for r in readings)
    for far_ohm in _EARTHED_WITH * line.far.earth_ohm if earthed else np.array([line.far.earth_ohm]):
        states = {(r.freq_hz, r.changes) for r in readings}
        loops = {
            (f, changes): predicted.predict([after(c, changes, line, far_ohm=float(far_ohm)) for c in found], freq_hz=f)
            for f, changes in states
        }
        fits = [
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
        best = [min(b, f, key=lambda x: x.cost) for b, f in zip(best, fits, strict=True)] if best else fits
    return best


def diagnose(
    line: Line,
    setup: Setup,
    soil: Soil,
    kit: Kit,
    readings: Sequence[TransmitterReading],
    *,
    measured: bool = True,
) -> Diagnosis:
    """Rank the explanations of the transmitter's readings of a direct connection.

    Args:
        line: The line to locate.
        setup: Method, place, frequency and output.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        readings: One reading or more, at any frequency of the kit, in the order they were taken.
        measured: Whether the soil's resistivity was measured; one that is typical of a kind of soil may be far off.

    Returns:
        Explanations, likeliest first, and the reading to take next.
    """
    found = candidates(line, setup, soil, kit)
    predicted = Loops(line, setup, soil, kit, found)
    fits = _fits(line, found, predicted, readings, 0.0 if measured else _GUESSED_SOIL)
    bonded, not_bonded = -np.log(_SEEN[_seen_beside(readings)])
    costs = [
        fit.cost + float(bonded if c.family.id == "bonded" else not_bonded) for fit, c in zip(fits, found, strict=True)
    ]
    totals = [cost + c.prior + c.family.cost for cost, c in zip(costs, found, strict=True)]
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
                fits[i].stake_left,
                fits[i].far_ohm,
                readings[-1].changes,
            )
        )
    hypotheses.sort(key=lambda h: -h.probability)
    fitted = {key: costs[i] for key, i in best.items()}
    lead, *others = hypotheses
    as_well = [h for h in others if _fits_as_well(lead, h, fitted, earthed=line.far.kind == "earthed")]
    even = lead.probability < _CLEARLY * others[0].probability
    rivals = _once([*([others[0]] if even or not as_well else []), *as_well])
    told_apart = not even and not as_well
    gap = min(h.gap for h in hypotheses)
    read = tuple(readings)
    return Diagnosis(
        tuple(hypotheses),
        tuple(rivals),
        gap,
        told_apart,
        len(readings),
        lambda rival: _separating(predicted, line, setup, (lead, rival), kit, read),
    )


def _seen_beside(readings: Sequence[TransmitterReading]) -> Beside:
    """What was seen last on the lines beside, while any bond was closed."""
    return next((r.beside for r in reversed(readings) if r.beside and "bond" not in r.changes), "")


def _once(found: Sequence[Hypothesis]) -> list[Hypothesis]:
    return list({h.family.id: h for h in found}.values())


def _fits_as_well(lead: Hypothesis, other: Hypothesis, fitted: dict[str, float], *, earthed: bool) -> bool:
    """Whether only its rarity holds another explanation back: what a fit does not decide, no rarity proves.

    `earthed`: the far end is entered as earthed, so that nobody need look whether it is.
    """
    first, second = lead.family.id, other.family.id
    possible, margin = _POSSIBLE, _AS_WELL
    if first in SOUND and second in _IN_SERIES:
        possible = _MIND
    elif second == "bonded" and lead.sound:
        possible = _BONDED
    elif {first, second} <= _IN_SERIES:
        margin = _SAME_PLACE
    elif {first, second} == {"far_earthed", "earth_fault"}:
        possible, margin = _POSSIBLE if earthed else _ON_THE_WAY, _SAME_PLACE
    return other.probability >= possible and fitted[second] < fitted[first] + margin


def _separating(
    predicted: Loops,
    line: Line,
    setup: Setup,
    leaders: Sequence[Hypothesis],
    kit: Kit,
    readings: Sequence[TransmitterReading],
) -> NextReading:
    """Return the kit frequency, or else the change, after which the two leaders' ohms would differ most."""
    made = tuple(sorted({c for r in readings for c in r.changes}))

    def ratio(freq_hz: float, changes: tuple[Change, ...], left: float) -> float:
        """How far apart the leaders' ohms would be [neper]."""
        states = [after(h.best, changes, line, far_ohm=h.far_ohm) for h in leaders]
        loops = predicted.predict(states, freq_hz=freq_hz)
        ohms = [
            float(p.ohms(np.array([h.stake_factor / h.best.stake_factor * h.stake_left * left]))[0])
            for p, h in zip(loops, leaders, strict=True)
        ]
        return abs(float(np.log(ohms[0] / ohms[1])))

    by_freq, known = NextReading(None, 0.0), {r.freq_hz for r in readings if r.changes == made}
    for f in (f for f in kit.frequencies if f.freq_hz not in known):
        # what counts is how far apart they are against how well that is foretold
        found = ratio(f.freq_hz, made, 1.0) * READING_SPREAD / _spread(f.freq_hz, line.length_m)
        if found > max(by_freq.ratio, _SEPARABLE):
            by_freq = NextReading(f.freq_hz, found)
    if by_freq.freq_hz is not None:  # it needs no walk
        return by_freq
    if {h.family.id for h in leaders} == {"far_earthed", "earth_fault"} and line.far.kind == "unknown":
        return NextReading(None, 0.0, look_far=True)
    if any(h.family.id == "bonded" for h in leaders) and not _seen_beside(readings) and "bond" not in made:
        return NextReading(None, float(np.log(_SEEN["carries"][0] / _SEEN["carries"][1])), beside=True)
    best, now = NextReading(None, 0.0), ratio(setup.freq_hz, made, 1.0)
    for change in CHANGES:
        if change in made:
            continue
        found = ratio(setup.freq_hz, tuple(sorted({*made, change})), USUALLY_LEFT if change == "stake" else 1.0)
        if abs(found - now) > max(best.ratio, _SEPARABLE):
            best = NextReading(None, abs(found - now), change)
    return best
