"""The current along a line as what is not known about it would change it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.base.arrays import Floats

UnknownId = Literal["soil", "far", "leakage", "drive"]
WITHIN = 2.0
"""Standard deviations that a band learned from stations reaches to either side."""
MODEL_SPREAD = 0.06
"""What a forecast whose unknowns are all known is off by, as a logarithm: depths, mesh, what is not on the plan."""
MODEL_SHARE = 0.05
"""And against the greatest current along the line: where an open end lies moves all of a current that is small."""


@dataclass(frozen=True)
class UnknownFactor:
    """What an explanation leaves open: a factor whose logarithm spreads by `spread` before anything is read."""

    id: UnknownId
    spread: float


@dataclass(frozen=True, eq=False)
class CurrentFamily:
    """Currents that one explanation allows: ln of the current [A] at `at_m` (n,) [m], in unknowns z (p,).

    `level` (n,) + z . `slope` (p, n) + z^2 . `bend` (p, n). `likely`: how likely it is before the stations; `most`: ln
    of the greatest current along the line.
    """

    at_m: Floats
    unknowns: tuple[UnknownFactor, ...]
    level: Floats
    slope: Floats
    bend: Floats
    likely: float
    most: float

    @classmethod
    def of(
        cls,
        at_m: Floats,
        unknowns: Sequence[UnknownFactor],
        middle: Floats,
        either: Sequence[tuple[Floats, Floats]],
        *,
        likely: float,
    ) -> CurrentFamily:
        """Return the family of currents that pass through three forecasts for each unknown.

        Args:
            at_m: Distances along the line, shape (n,) [m].
            unknowns: What is not known for sure: p of them.
            middle: ln of the current with every unknown at 0, shape (n,) [ln A].
            either: For each unknown, the same with that unknown at -1 and at +1.
            likely: Prior weight of this explanation.

        Returns:
            The family.
        """
        less, more = (np.array([e[k] for e in either]).reshape(len(unknowns), len(at_m)) for k in range(2))
        bend = 0.5 * (more + less) - middle
        return cls(at_m, tuple(unknowns), middle, 0.5 * (more - less), bend, likely, float(middle.max()))

    def along(self, at_m: Floats) -> CurrentFamily:
        """Return the family at other distances.

        Args:
            at_m: Distances along the line, shape (k,) [m].

        Returns:
            The same family, interpolated.
        """
        level, *rest = (np.interp(at_m, self.at_m, row) for row in np.vstack([self.level[None], self.slope, self.bend]))
        slope, bend = np.array(rest).reshape(2, len(self.unknowns), len(at_m))
        return replace(self, at_m=at_m, level=np.asarray(level), slope=slope, bend=bend)

    def log_a(self, z: Floats) -> Floats:
        """Return ln of the current for given unknowns.

        Args:
            z: Unknowns in units of their spread, shape (p,).

        Returns:
            ln of the current, shape (n,) [ln A].
        """
        return np.asarray(self.level + z @ self.slope + (z * z) @ self.bend)

    def model_off(self, log_a: Floats) -> Floats:
        """Return the spread of a forecast whose unknowns are all known.

        Args:
            log_a: ln of the current, shape (n,) [ln A].

        Returns:
            Standard deviation of ln of the current, shape (n,).
        """
        return np.asarray(np.hypot(MODEL_SPREAD, MODEL_SHARE * np.exp(self.most - log_a)))

    def band(self, log_a: Floats, variance: Floats) -> tuple[Floats, Floats]:
        """Return the band that holds the line's own current.

        Args:
            log_a: ln of the current, shape (n,) [ln A].
            variance: Variance of that logarithm, shape (n,).

        Returns:
            Low and high edge, each of shape (n,) [A].
        """
        off = WITHIN * np.sqrt(variance + MODEL_SPREAD**2)
        share = WITHIN * MODEL_SHARE * np.exp(self.most)
        return np.maximum(np.exp(log_a - off) - share, 0.0), np.exp(log_a + off) + share

    def jacobian(self, z: Floats) -> Floats:
        """Return how ln of the current changes with the unknowns.

        Args:
            z: Unknowns in units of their spread, shape (p,).

        Returns:
            Derivatives, shape (n, p).
        """
        return np.asarray((self.slope + 2 * z[:, None] * self.bend).T)
