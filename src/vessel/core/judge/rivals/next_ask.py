"""What to ask for next: the evidence that lowers the chance of a wrong mark most for its effort."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.chances import Weighed
from vessel.core.judge.rivals.rival_kinds import RivalId
from vessel.core.model.identity import EVIDENCE, EvidenceId
from vessel.core.model.methods import HookupMethod

PLAIN = 0.005
"""Chance of a wrong mark up to which a station may be marked plainly."""
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
    if not len(now):  # before anything is traced: what is seen at one's feet
        seen = _FIRST in asked or not EVIDENCE[_FIRST].suits(by)
        return None if seen else Ask(_FIRST, w.ruled_out(_FIRST), w.answer_chance(_FIRST), w.other_line)
    open_yet = (now > PLAIN) | (not shown)  # readings alone never show which line it is
    if not open_yet.any():
        return None
    best, found = _WORTH, None
    for kind in EVIDENCE.values():
        if kind.id in asked or not kind.suits(by):
            continue
        at_m = w.place_for(kind.id)
        left = w.with_answer(kind.id)[w.read]
        chance = w.answer_chance(kind.id)
        proved = open_yet & (left <= PLAIN)
        gain = chance * float(np.mean(_above(now) - _above(left) + proved)) / kind.effort**0.5
        if gain > best:
            best, found = gain, Ask(kind.id, w.ruled_out(kind.id), chance, float(left.max()), at_m)
    return found


def _above(chance: Floats) -> Floats:
    """How far above what may be marked, as a logarithm."""
    return np.log(np.maximum(chance, PLAIN) / PLAIN)
