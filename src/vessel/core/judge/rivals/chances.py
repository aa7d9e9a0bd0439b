"""What is left of the rivals after everything read and seen: chances, what more would say, where the line lies."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.base.cached import lazy
from vessel.core.judge.rivals.at_stations import Unexplained
from vessel.core.judge.rivals.identity_evidence import Astray, speaks_for_each
from vessel.core.judge.rivals.mark_doubt import MarkDoubt
from vessel.core.judge.rivals.rival_kinds import MENDED, RivalId
from vessel.core.judge.rivals.worked_out_rivals import Rivals
from vessel.core.model.identity import EVIDENCE, EvidenceId, LineEnd

PLAIN = 0.005
"""Chance of a wrong mark up to which a station may be marked plainly."""
_ALIVE = 5e-4
_PLACES = 9  # tried along the line for what speaks for one
_RULED_OUT = 1 / 3


@dataclass(frozen=True)
class Alive:
    """A kind of rival that is still possible, and how likely it is that it makes a mark wrong.

    `of_m`: of its likeliest case, how far aside the other conductor runs, or where it begins along the line [m].
    """

    kind: RivalId
    chance: float
    of_m: float


@dataclass(frozen=True, eq=False)
class WeighedPlace:
    """Where the line lies at s stations: depth and place left of the peak [m] with half-ranges that hold in 95 %.

    NaN where current or depth was not read.
    """

    depth_m: Floats
    depth_pm_m: Floats
    offset_m: Floats
    offset_pm_m: Floats


@dataclass(frozen=True, eq=False)
class Answered:
    """What more answers for the line would leave: how likely all of them are, and what the chances are then.

    `wrong` (s,): of a wrong mark at each station, NaN where nothing was read; `other_line`: of another line.
    """

    chance: float
    wrong: Floats
    other_line: float


@dataclass(frozen=True, eq=False)
class Weighed:
    """The rivals after all evidence: `chance` (h,) of each explanation, `wrong` (h, s) of a mark at each station.

    `aside` (h, s): of one whose place is wrong, whatever its depth. `read` (s,): where current and depth were read.
    `placed`: where the line lies, all explanations weighed; `left`: what they leave of lift and null (s,).
    `drawn_bonds`: ends of the line at which a bond is entered. `doubt`: what is in doubt of marks under each
    explanation, None where nothing was read.
    """

    rivals: Rivals
    chance: Floats
    wrong: Floats
    aside: Floats
    read: Mask
    astray: Astray
    placed: WeighedPlace
    left: Unexplained
    drawn_bonds: frozenset[LineEnd] = frozenset()
    doubt: MarkDoubt | None = None

    @property
    def wrong_chance(self) -> Floats:
        """Chance that a mark at each station would be wrong, shape (s,); NaN where nothing was read."""
        return np.where(self.read, self.chance @ self.wrong, np.nan)

    @property
    def aside_chance(self) -> Floats:
        """Chance that the line lies outside the tolerance of a mark at each station, shape (s,); NaN as above."""
        return np.where(self.read, self.chance @ self.aside, np.nan)

    @property
    def other_line(self) -> float:
        """Chance that another conductor is followed somewhere."""
        return float(self.chance @ self.astray.somewhere)

    def alive(self) -> list[Alive]:
        """Return the rivals under which marks would be wrong, likeliest first.

        Returns:
            One for each kind, about the likeliest of its cases.
        """
        worst, found = self._worst, []
        for kind in dict.fromkeys(e.kind for e in self.rivals.explanations):
            own = [k for k, e in enumerate(self.rivals.explanations) if e.kind == kind]
            share = self.chance[own] * worst[own]
            if kind is not None and share.sum() >= _ALIVE:
                lead = self.rivals.explanations[own[int(share.argmax())]]
                found.append(Alive(kind, float(share.sum()), lead.of_m))
        return sorted(found, key=lambda a: -a.chance)

    def with_answers(self, kinds: Iterable[EvidenceId]) -> Answered:
        """Return what is left if more answers speak for the line.

        Args:
            kinds: What is asked.

        Returns:
            The chances then.
        """
        chance, wrong = self.chance, self.wrong
        for kind in kinds:
            chance = chance * self._likely(kind)
            if EVIDENCE[kind].deep:
                wrong = self._wrong_if_dug
        return self._left_by(chance, wrong)

    def _left_by(self, chance: Floats, under_each: Floats) -> Answered:
        total = float(chance.sum())
        chance = chance / max(total, 1e-300)
        wrong = np.where(self.read, chance @ under_each, np.nan)
        return Answered(total, wrong, float(chance @ self.astray.somewhere))

    def mended(self, kind: EvidenceId) -> float:
        """Return how likely evidence speaks against the line and leads to put right what spoils it.

        Args:
            kind: What is asked.

        Returns:
            Its probability.
        """
        own = np.array([e.kind in MENDED.get(kind, ()) for e in self.rivals.explanations])
        return float((self.chance * (1 - self._likely(kind)))[own].sum())

    def ruled_out(self, kind: EvidenceId) -> tuple[RivalId, ...]:
        """Return the rivals that an answer for the line would rule out.

        Args:
            kind: What is asked.

        Returns:
            Kinds of rivals that would be at most a third as likely, likeliest first.
        """
        harm = self.chance * self._worst
        left, found = harm * self._likely(kind), []
        for rival in self.alive():
            own = np.array([e.kind == rival.kind for e in self.rivals.explanations])
            if left[own].sum() < _RULED_OUT * harm[own].sum():
                found.append(rival.kind)
        return tuple(found)

    def place_for(self, kind: EvidenceId) -> float | None:
        """Return where evidence is best found, for it speaks for what lies before it.

        Far along the line it would prove most, but near the hookup it is likelier to speak for it.

        Args:
            kind: What is asked.

        Returns:
            Distance along the line [m]; None for what has no place, or without a station.
        """
        if not EVIDENCE[kind].placed or not self.read.any():
            return None
        if kind not in self._places:
            some = np.sort(self.astray.at_m)[:: -max(1, len(self.astray.at_m) // _PLACES)]
            self._places[kind] = max(map(float, some), key=lambda at_m: self._proved_at(kind, at_m))
        return self._places[kind]

    def _proved_at(self, kind: EvidenceId, at_m: float) -> float:
        """What evidence for the line at a place can be expected to prove."""
        then = self._left_by(self.chance * self._speaks_at(kind, at_m), self._wrong_at(kind, at_m))
        now, left = self.wrong_chance[self.read], then.wrong[self.read]
        return then.chance * float(np.mean(above(now) - above(left) + ((now > PLAIN) & (left <= PLAIN))))

    @lazy
    def _places(self) -> dict[EvidenceId, float]:
        return {}

    @property
    def _worst(self) -> Floats:
        """The greatest chance that a mark anywhere is wrong under each explanation, shape (h,)."""
        return np.asarray(self.wrong[:, self.read].max(1) if self.read.any() else self.astray.somewhere)

    def _likely(self, kind: EvidenceId) -> Floats:
        if kind not in self._speaks:
            self._speaks[kind] = self._speaks_at(kind, self.place_for(kind))
        return self._speaks[kind]

    def _speaks_at(self, kind: EvidenceId, at_m: float | None) -> Floats:
        """How likely each explanation makes an answer for the line at a place, with the depth that marks give there."""
        likely = speaks_for_each(self.rivals.explanations, kind, self.astray, at_m)
        if self.doubt is None or at_m is None or not EVIDENCE[kind].deep:
            return likely
        return likely * self.doubt.lies.agrees(at_m, self._marked_m(at_m))

    def _wrong_at(self, kind: EvidenceId, at_m: float | None) -> Floats:
        """What a mark would be under each explanation, shape (h, s), after an answer for the line at a place."""
        if self.doubt is None or at_m is None or not EVIDENCE[kind].deep:
            return self.wrong
        found = self.wrong.copy()
        found[:, self.read] = self.doubt.dug(at_m, self._marked_m(at_m)).wrong(self.placed.depth_m[self.read])
        return found

    @lazy
    def _wrong_if_dug(self) -> Floats:
        return self._wrong_at("exposed", self.place_for("exposed"))

    def _marked_m(self, at_m: float) -> float:
        """The depth that marks give at a place [m]."""
        order = np.argsort(self.astray.at_m, kind="stable")
        return float(np.interp(at_m, self.astray.at_m[order], self.placed.depth_m[self.read][order]))

    @lazy
    def _speaks(self) -> dict[EvidenceId, Floats]:
        return {}


def above(chance: Floats) -> Floats:
    """Return how far chances are above what may be marked.

    Args:
        chance: Chances of a wrong mark, any shape.

    Returns:
        Logarithms, 0 for what may be.
    """
    return np.log(np.maximum(chance, PLAIN) / PLAIN)
