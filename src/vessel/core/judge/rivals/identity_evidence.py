"""How likely each explanation makes an answer about the identity of the line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.rival_kinds import (
    ALL_LOCATED,
    BESIDE_LOCATED,
    BOND_OPENED,
    BOX_OF_ANOTHER,
    EXPOSED,
    FOUND_BESIDE,
    JOINED_BESIDE,
    RIVALS,
    SEEN_WRONG,
    SPEAKS_FOR_IT,
    STAKE_AWAY,
    STAKE_MOVED,
    RivalId,
)
from vessel.core.model.identity import EVIDENCE, NEXT_TO_NOTHING, Evidence, EvidenceId, LineEnd

_ELSEWHERE: frozenset[RivalId] = frozenset(("goes_on", "leaves"))
_ENTERED, _USUAL = 0.3, 0.5  # where a neighbour that was entered is followed, and where a kind says nothing
_SHARES = 0.35  # how well the share of a bonded conductor is foretold, as a logarithm
_MOST_SHARE = 8.0  # against this line


@dataclass(frozen=True, eq=False)
class Astray:
    """How far each of h explanations leads the marks astray, from 0 to 1.

    `off` (h, s): another conductor is followed at s places `at_m` [m]; `at_end` (h,): where the trace ends. `misled`
    (h,): marks are wrong in place or depth, on the mean.
    """

    at_m: Floats
    off: Floats
    at_end: Floats
    misled: Floats

    @property
    def somewhere(self) -> Floats:
        """Whether another conductor is followed anywhere, shape (h,)."""
        return np.asarray(self.off.max(1))

    def at(self, place_m: float) -> Floats:
        """Return whether another conductor is followed at a place.

        Args:
            place_m: Distance along the line [m].

        Returns:
            From 0 to 1, shape (h,).
        """
        return np.asarray(self.off[:, int(np.abs(self.at_m - place_m).argmin())])


def speaks_for_each(
    explanations: Sequence[Explanation], kind: EvidenceId, astray: Astray, at_m: float | None
) -> Floats:
    """Return how likely evidence speaks for the line under each explanation.

    Args:
        explanations: h explanations.
        kind: Kind of evidence.
        astray: How far each leads the marks astray.
        at_m: Where along the line it was found [m], of what speaks for a place; None: not known.

    Returns:
        Probability of an answer that speaks for the line, shape (h,).
    """
    end = EVIDENCE[kind].end
    if end is not None:
        off = np.array([SEEN_WRONG if _bonded_at(e, end) else 1 - SEEN_WRONG for e in explanations])
        if kind != "far_kept_open":
            return off
        # a line that has ended before has no bond to open there
        return np.where([e.kind == "goes_on" for e in explanations], BOX_OF_ANOTHER * off, off)
    if kind == "conductors":
        least = np.array([_least_likely_more(e) for e in explanations])
        return np.asarray(SEEN_WRONG + (1 - 2 * SEEN_WRONG) * least)
    followed = astray.somewhere
    if kind == "ends_at":
        followed = astray.at_end
    elif kind == "exposed" and at_m is not None:
        followed = astray.at(at_m)
    elif kind == "second_frequency":
        followed = np.maximum(astray.somewhere, astray.misled)
    away, other = np.array(
        [_away_and_other(e, kind, away, at_m) for e, away in zip(explanations, followed, strict=True)]
    ).T
    right = ALL_LOCATED if kind == "beside_located" else SPEAKS_FOR_IT
    return np.asarray((1 - away) * right + away * np.minimum(other, right))


def _bonded_at(e: Explanation, end: LineEnd) -> bool:
    return e.bonded_here if end == "here" else e.bonded_far


def _away_and_other(e: Explanation, kind: EvidenceId, away: float, at_m: float | None) -> tuple[float, float]:
    """Return how far another line is followed, and how likely the answer is yes even then."""
    if kind == "beside_located":
        if e.kind is None:
            return away, BESIDE_LOCATED
        found = FOUND_BESIDE.get(e.kind)
        return (away, JOINED_BESIDE.get(e.kind, BESIDE_LOCATED)) if found is None else (1.0, found)
    if kind == "exposed":
        # without a place it says nothing of a line that is followed from some place on
        unplaced = at_m is None and e.kind in ("leaves", "goes_on")
        return 0.0 if unplaced else away, EXPOSED
    if kind == "stake_moved":  # where the current comes home by no other line, all stays
        return (1.0, STAKE_MOVED) if e.kind == "returns" else (0.0, SPEAKS_FOR_IT)
    if kind == "bond_opened":
        return away, BOND_OPENED if e.bonded_here else SPEAKS_FOR_IT
    return away, _ENTERED if e.kind is None else RIVALS[e.kind].speaks_for.get(kind, _USUAL)


def likely_for_each(explanations: Sequence[Explanation], e: Evidence, astray: Astray) -> Floats:
    """Return how likely an answer is under each explanation.

    Args:
        explanations: h explanations.
        e: The answer: it speaks for the line or against it.
        astray: How far each leads the marks astray.

    Returns:
        Probability, or its density where currents were read, shape (h,).
    """
    if e.other_share is not None:
        return _of_share(explanations, e.other_share)
    if e.earlier and e.kind == "stake_moved":
        return np.where([x.kind == "returns" for x in explanations], STAKE_AWAY, 1.0)
    speaks = speaks_for_each(explanations, e.kind, astray, e.at_m)
    likely = speaks if e.answer == "for" else 1 - speaks
    if e.earlier:  # of what was traced then it says nothing now, but of where the line goes
        return np.where([x.kind in _ELSEWHERE for x in explanations], likely, SPEAKS_FOR_IT)
    return likely


def _shares(e: Explanation, which: Sequence[int]) -> Floats:
    """Logarithms of what some conductors carry just past the hookup, against the line."""
    amps = np.maximum(np.abs(e.conductors.amps[:, 1]), 1e-12)
    return np.asarray(np.log(amps[list(which)] / amps[0]))


def _least_likely_more(e: Explanation) -> float:
    """How likely the line is to carry more than each bonded there: with even shares it may be either."""
    return float(ndtr(-_shares(e, e.rivals if e.bonded_here else ()) / _SHARES).min(initial=1.0))


def _of_share(explanations: Sequence[Explanation], share: float) -> Floats:
    """How likely the share read is: normal about what is foretold; next to nothing where nothing is bonded."""
    low, high = np.log(NEXT_TO_NOTHING), np.log(_MOST_SHARE)
    read = float(np.clip(np.log(max(share, 1e-9)), low, high))

    def likely(most: float) -> float:
        if read > low:
            return float(np.exp(-0.5 * ((read - most) / _SHARES) ** 2) / (_SHARES * np.sqrt(2 * np.pi)))
        return float(ndtr((low - most) / _SHARES))

    def of(e: Explanation) -> float:
        bonded = _shares(e, e.rivals if e.bonded_here else ()).max(initial=-np.inf)
        # what is entered may be one of those read, or not be at the box at all
        entered = [k for k in range(1, len(e.conductors.amps)) if k not in e.rivals]
        return max(likely(bonded), likely(_shares(e, entered).max(initial=bonded)))

    every = np.array([of(e) for e in explanations])
    # a clamp on the wrong cable, a bond that was missed: then it may be any share
    return np.asarray((1 - SEEN_WRONG) * every + SEEN_WRONG * (1.0 if read <= low else 1 / (high - low)))
