"""How likely each explanation makes an answer about the identity of the line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.rival_kinds import (
    BESIDE_LOCATED,
    BOND_OPENED,
    EXPOSED,
    FOUND_BESIDE,
    RIVALS,
    SEEN_WRONG,
    SPEAKS_FOR_IT,
)
from vessel.core.model.identity import EvidenceId

_ENTERED, _USUAL = 0.3, 0.5  # where a neighbour that was entered is followed, and where a kind says nothing


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
    if kind == "access":
        return np.array([SEEN_WRONG if e.bonded_here else 1 - SEEN_WRONG for e in explanations])
    if kind == "conductors":
        return np.array([SEEN_WRONG if _carries_more(e) else 1 - SEEN_WRONG for e in explanations])
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
    return np.asarray((1 - away) * SPEAKS_FOR_IT + away * np.minimum(other, SPEAKS_FOR_IT))


def _away_and_other(e: Explanation, kind: EvidenceId, away: float, at_m: float | None) -> tuple[float, float]:
    """Return how far another line is followed, and how likely the answer is yes even then."""
    if kind == "beside_located":
        found = FOUND_BESIDE.get(e.kind) if e.kind is not None else None
        return (away, BESIDE_LOCATED) if found is None else (1.0, found)
    if kind == "exposed":
        # without a place it says nothing of a line that is followed from some place on
        unplaced = at_m is None and e.kind in ("leaves", "goes_on")
        return 0.0 if unplaced else away, EXPOSED
    if kind == "bond_opened":
        return away, BOND_OPENED if e.bonded_here else SPEAKS_FOR_IT
    return away, _ENTERED if e.kind is None else RIVALS[e.kind].speaks_for.get(kind, _USUAL)


def _carries_more(e: Explanation) -> bool:
    """Whether another conductor at the access point carries more than the line just past it."""
    if not e.bonded_here:
        return False
    amps = np.abs(e.conductors.amps[:, 1])
    return any(amps[k] > amps[0] for k in e.rivals)
