"""What a diagnosis says: explanations with their figures, what can be told apart, and the reading to take next."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from vessel.core.base.cached import lazy
from vessel.core.diagnose.hypotheses import Cause, Suspect
from vessel.core.model.readings import Change

CLEARLY = 3.0
"""An explanation this many times likelier than the next leads clearly."""
# a little more resistance at the stake or clip of a loop that is sound otherwise sends no signal elsewhere
SOUND, IN_SERIES = {"far_open", "far_earthed"}, {"poor_stake", "bad_clip"}
_WHERE_IT_GOES = SOUND | {"break", "earth_fault"}  # what tells how the line carries the current on
_PLAUSIBLE, _DOUBTED = 0.05, 0.005  # as likely as the leader, at least
_CURES: dict[str, Change] = {"far_open": "far", "bad_clip": "clip", "poor_stake": "stake", "bonded": "bond"}
_FAIR_STAKE = 1.6  # times what the soil should give: a stake that was poor is sound from here down


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
    """Hypotheses, likeliest first, whether the first stands out from its rivals, and the `gap` of the best.

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
        series = all(h.family.id in IN_SERIES for h in rivals)
        likely = all(lead.probability >= CLEARLY * h.probability for h in rivals)
        return lead.sound and (self.told_apart or (series and likely))

    @property
    def plausible(self) -> tuple[Hypothesis, ...]:
        """Hypotheses worth keeping for the forecast: at least a twentieth as likely as the leader."""
        return tuple(h for h in self.hypotheses if self._beside_lead(h) >= _PLAUSIBLE)

    @property
    def doubted(self) -> tuple[Hypothesis, ...]:
        """Less likely ones that readings over the line may still show to be true: how its current goes on."""
        own = (h for h in self.hypotheses if h.family.id in _WHERE_IT_GOES)
        return tuple(h for h in own if _DOUBTED <= self._beside_lead(h) < _PLAUSIBLE)

    def _beside_lead(self, h: Hypothesis) -> float:
        return h.probability / self.hypotheses[0].probability
