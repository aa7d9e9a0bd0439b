"""What to ask for next: what lowers the chance of a wrong mark most for its effort, alone or with one more answer."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from vessel.core.base.arrays import Floats, Mask
from vessel.core.base.cached import lazy
from vessel.core.judge.rivals.chances import PLAIN, Weighed, above
from vessel.core.judge.rivals.rival_kinds import RivalId
from vessel.core.model.identity import (
    EVIDENCE,
    Evidence,
    EvidenceId,
    EvidenceKind,
    LineEnd,
    alone_here,
    can_be_given,
    shows_it,
)
from vessel.core.model.methods import HookupMethod

LIKELY = 0.05
"""Chance of another line up to which evidence for this one makes it likely."""
_IDENTIFIED = 0.5  # to know which line it is is worth so much more, as a logarithm
_FIRST: EvidenceId = "access"
_ANEW = 0.6  # how often a trace of the ground as it was changed for it proves the line
_WORTH = 0.05  # what lowers the chance by less than this share, as a logarithm, is not asked for


@dataclass(frozen=True)
class Ask:
    """What to ask for: `against` the rivals it would rule out, likeliest first.

    `speaks_for`: how likely the answer is to speak for the line; `left`: the greatest chance of a wrong mark then.
    `at_m`: where along the line, None for what has no place [m]. `short`: current is missing somewhere.
    """

    kind: EvidenceId
    against: tuple[RivalId, ...]
    speaks_for: float
    left: float
    at_m: float | None = None
    short: bool = False


def next_ask(w: Weighed, by: HookupMethod, given: Sequence[Evidence], short: Mask | None = None) -> Ask | None:
    """Return what to ask for next.

    Args:
        w: The rivals as they are weighed now, with these answers.
        by: The hookup's method.
        given: What was answered, or cannot be.
        short: Stations that do not pass because current is missing, shape (n,): no answer lets them, a trace of the
            ground with a bond open may. None: none is.

    Returns:
        The ask; None where nothing is in doubt or nothing would help.
    """
    # what was shown at one place says nothing of the trace beyond it
    here = [e for e in given if e.at_m is None or e.answer == "cannot" or e.at_m == w.place_for(e.kind)]
    asked = {e.kind for e in here if not e.earlier}
    seen = _FIRST in asked or by.through_air  # the box may be far from the coil
    if not w.read.any():  # before anything is traced: what is seen at one's feet
        return None if seen else Ask(_FIRST, w.ruled_out(_FIRST), w.with_answers((_FIRST,)).chance, w.other_line)
    kinds = {k.id: k for k in EVIDENCE.values() if k.id not in asked and _can_be_asked(k, by, given, w.drawn_bonds)}
    missing = np.zeros(int(w.read.sum()), dtype=bool) if short is None else short[w.read]
    still = _Open(w, by, tuple(given), kinds, missing)
    spoilt = any(e.kind == "stake_moved" and e.answer == "against" and not e.earlier for e in given)
    if spoilt or not still.stations.any():
        return None  # with the stake where it was, nothing more is worth asking: the line is traced again
    if not seen:  # no reading tells two in one trench apart, and nothing costs less than a look
        return _asked_for(w, _FIRST, still)
    along = {k.along for k in kinds.values()}
    questions = [k for k in kinds.values() if k.id not in along]
    alone = {kind.id: still.worth(kind) for kind in questions}
    # two answers may do together what neither does, and for less than one that is dear
    ways: list[tuple[EvidenceKind, ...]] = [*((kind,) for kind in questions), *combinations(questions, 2)]
    worth = [alone[way[0].id] if len(way) == 1 else still.worth(*way) for way in ways]
    best = max(worth, default=0.0)
    if best <= _WORTH:
        return None
    return _asked_for(w, max(ways[worth.index(best)], key=lambda kind: alone[kind.id]).id, still)


def _can_be_asked(kind: EvidenceKind, by: HookupMethod, given: Sequence[Evidence], drawn: frozenset[LineEnd]) -> bool:
    """Whether an answer can tell anything: not a look at what is entered, nor a bond if another may be closed."""
    if kind.look and kind.end in drawn:
        return False
    return can_be_given(kind, by, given, drawn) and (kind.id != "far_kept_open" or alone_here(given))


@dataclass(frozen=True, eq=False)
class _Open:
    """What is still in doubt: the rivals as they are weighed with the answers given, and what can be asked for.

    `short` (s,): of the stations that were read, those at which current is missing.
    """

    w: Weighed
    by: HookupMethod
    given: tuple[Evidence, ...]
    kinds: Mapping[EvidenceId, EvidenceKind]
    short: Mask

    @lazy
    def shown(self) -> bool:
        """Whether the answers so far show the line."""
        return shows_it(self.given, self.by)

    @lazy
    def now(self) -> Floats:
        """Chance of a wrong mark at each station that was read."""
        return self.w.wrong_chance[self.w.read]

    @lazy
    def stations(self) -> Mask:
        """Those that may not be marked plainly: readings alone never show which line it is."""
        return np.asarray((self.now > PLAIN) | self.short | (not self.shown))

    @lazy
    def proved(self) -> float:
        """What it would be worth to have all of them proved, as a logarithm."""
        return float(np.mean(above(self.now) + self.stations)) + _IDENTIFIED * (not self.shown)

    def worth(self, *asked: EvidenceKind) -> float:
        """What questions can be expected to bring, against what they cost."""
        if any(kind.anew for kind in asked):
            gain = _ANEW * self.proved
        else:
            along = [kind for kind in self.kinds.values() if kind.id in {lead.along for lead in asked}]
            gain = max(self._gain(asked), self._gain((*asked, *along)) if along else 0.0)
            gain += sum(map(self._mended, (*asked, *along) if len(asked) == 1 else along))
        return gain / float(np.sqrt(sum(kind.effort for kind in asked)))

    def _mended(self, kind: EvidenceKind) -> float:
        if kind.look and self.by.through_air:  # by coil no bond is opened
            return 0.0
        if kind.currents and "kept_open" in self.kinds:  # what is bonded there can come off already
            return 0.0
        return self.w.mended(kind.id) * _ANEW * self.proved

    def _gain(self, some: Sequence[EvidenceKind]) -> float:
        """What is gained where all answers speak for the line, as likely as that is."""
        then = self.w.with_answers(kind.id for kind in some)
        left = then.wrong[self.w.read]
        shown = shows_it((*self.given, *(Evidence(kind.id, "for") for kind in some)), self.by)
        settled = self.stations & (left <= PLAIN) & ~self.short & shown
        gained = np.mean(above(self.now) - above(left) + settled)
        if shown and not self.shown and then.other_line <= LIKELY:
            gained += _IDENTIFIED
        return float(then.chance * gained)


def _asked_for(w: Weighed, kind: EvidenceId, still: _Open) -> Ask:
    short = bool(still.short.any())
    if EVIDENCE[kind].anew:  # what was read so far does not tell
        return Ask(kind, w.ruled_out(kind), _ANEW, PLAIN, short=short)
    then = w.with_answers((kind,))
    return Ask(kind, w.ruled_out(kind), then.chance, float(then.wrong[w.read].max()), w.place_for(kind), short)
