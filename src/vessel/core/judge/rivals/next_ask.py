"""What to ask for next: what lowers the chance of a wrong mark most for its effort, alone or with one more answer."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.chances import Weighed
from vessel.core.judge.rivals.rival_kinds import RivalId
from vessel.core.model.identity import EVIDENCE, TELLS_TWINS, EvidenceId, EvidenceKind
from vessel.core.model.methods import HookupMethod

PLAIN = 0.005
"""Chance of a wrong mark up to which a station may be marked plainly."""
LIKELY = 0.05
"""Chance of another line up to which evidence for this one makes it likely."""
_IDENTIFIED = 0.5  # to know which line it is is worth so much more, as a logarithm
_FIRST: EvidenceId = "access"
_WORTH = 0.05  # what lowers the chance by less than this share, as a logarithm, is not asked for


@dataclass(frozen=True)
class Ask:
    """What to ask for: `against` the rivals it would rule out, likeliest first.

    `speaks_for`: how likely the answer is to speak for the line; `left`: the greatest chance of a wrong mark then.
    `at_m`: where along the line, None for what has no place [m].
    """

    kind: EvidenceId
    against: tuple[RivalId, ...]
    speaks_for: float
    left: float
    at_m: float | None = None


def next_ask(w: Weighed, by: HookupMethod, asked: Collection[EvidenceId], *, shown: bool) -> Ask | None:
    """Return what to ask for next.

    Args:
        w: The rivals as they are weighed now.
        by: The hookup's method.
        asked: Kinds that were answered, or cannot be.
        shown: Whether the answers so far show the line; until they do no station is marked plainly.

    Returns:
        The ask; None where nothing is in doubt or nothing would help.
    """
    now = w.wrong_chance[w.read]
    seen = _FIRST in asked or by.through_air  # the box may be far from the coil
    if not len(now):  # before anything is traced: what is seen at one's feet
        return None if seen else Ask(_FIRST, w.ruled_out(_FIRST), w.with_answers((_FIRST,)).chance, w.other_line)
    open_yet = (now > PLAIN) | (not shown)  # readings alone never show which line it is
    if not open_yet.any():
        return None
    if not seen:  # no reading tells two in one trench apart, and nothing costs less than a look
        return _asked_for(w, _FIRST)
    kinds = [kind for kind in EVIDENCE.values() if kind.id not in asked and kind.suits(by)]

    def gain(*some: EvidenceKind) -> float:
        then = w.with_answers(kind.id for kind in some)
        left = then.wrong[w.read]
        gained = np.mean(_above(now) - _above(left) + (open_yet & (left <= PLAIN)))
        tells = by.through_air or any(kind.id in TELLS_TWINS for kind in some)
        if not shown and tells and then.other_line <= LIKELY:
            gained += _IDENTIFIED
        return float(then.chance * gained / np.sqrt(sum(kind.effort for kind in some)))

    alone = {kind.id: gain(kind) for kind in kinds}
    # two answers may do together what neither does, and for less than one that is dear
    ways = [((kind,), alone[kind.id]) for kind in kinds] + [(pair, gain(*pair)) for pair in combinations(kinds, 2)]
    way, best = max(ways, key=lambda each: each[1], default=((), 0.0))
    if best <= _WORTH:
        return None
    return _asked_for(w, max(way, key=lambda kind: alone[kind.id]).id)


def _asked_for(w: Weighed, kind: EvidenceId) -> Ask:
    then = w.with_answers((kind,))
    return Ask(kind, w.ruled_out(kind), then.chance, float(then.wrong[w.read].max()), w.place_for(kind))


def _above(chance: Floats) -> Floats:
    """How far above what may be marked, as a logarithm."""
    return np.log(np.maximum(chance, PLAIN) / PLAIN)
