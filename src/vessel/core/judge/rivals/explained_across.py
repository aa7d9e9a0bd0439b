"""Readings across the line against what each explanation shows there: how likely each makes them, what it leaves."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.across.conductor_fit import READING_SPREAD
from vessel.core.judge.rivals.at_stations import STANDS_M, AtStations
from vessel.core.judge.rivals.filaments import fields
from vessel.core.judge.rivals.likelihood import TOGETHER, heavy
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.judge.rivals.worked_out_rivals import Rivals
from vessel.core.model.kit import Receiver

_SPREAD, _SPREAD_THERE = 0.03, 0.03  # of a signal, against the greatest and against itself
_MOST = -8.0


@dataclass(frozen=True, eq=False)
class ReadAcross:
    """What the readings across are held against: h explanations, what they show at s stations, and the receiver."""

    rivals: Rivals
    used: UsedStations
    there: AtStations
    receiver: Receiver

    def residuals(self, side: float) -> Iterator[Floats]:
        """Yield how far readings across are off each explanation's, against their doubt, station by station.

        Somebody stands a little beside the peak: how far is fitted, and counts as one residual more.

        Args:
            side: 1, or -1 for everything on the other side.

        Yields:
            Standard deviations at the k places of one station, shape (h, k + 1).
        """
        for s in self.used.profiles:
            off, stood_m, _ = self._off(s, side)
            yield np.concatenate([off, stood_m / STANDS_M], axis=1)

    def likely(self) -> Floats:
        """Return what readings across the line say of each explanation: their shape against that of its conductors.

        Returns:
            Logarithm of the likelihood, shape (h,).
        """
        sides = np.zeros((2, len(self.rivals.explanations)))
        for total, side in zip(sides, (1.0, -1.0), strict=True):
            for off in self.residuals(side):
                total += np.maximum(TOGETHER * heavy(off).sum(1), _MOST)
        # what may run on either side is there on one of them, the same all along
        either = np.logaddexp(*sides) - np.log(2.0)
        return np.asarray(np.where(self.rivals.sided > 0, sides[0], either))

    def left(self, chance: Floats) -> Floats:
        """Return what the explanations leave of readings across.

        Args:
            chance: The chance of each, shape (h,).

        Returns:
            How much the two sides may differ by it, against the peak, and its mean square against a steady hand's,
            shape (2, s); on the side on which each leaves less, NaN at a station without readings across.
        """
        found = np.full((2, self.used.count), np.nan)
        for s in self.used.profiles:
            one, other = (self._left_on(s, side) for side in (1.0, -1.0))
            less = (self.rivals.sided > 0) | (one[1] < other[1])
            found[:, s] = np.where(less, one, other) @ chance
        return found

    def _left_on(self, s: int, side: float) -> Floats:
        """What each explanation leaves at one station, shape (2, h)."""
        off, _, spread = self._off(s, side)
        left = off * spread
        # what is too much on one side and too little on the other
        return np.stack([2 * np.abs(left).max(1), ((left / READING_SPREAD) ** 2).mean(1)])

    def _off(self, s: int, side: float) -> tuple[Floats, Floats, Floats]:
        """How far readings at one station are off each explanation's (h, k), for somebody who stood beside the peak
        (h, 1) [m], against their spread (k,).

        The change with the place is taken as straight: least squares with how well one stands.
        """
        x, read = self.used.profiles[s]
        shape = read / read.max()
        spread = _SPREAD + _SPREAD_THERE * shape
        left, here, right = (self._shape(s, side * x + stood_m) for stood_m in (-STANDS_M, 0.0, STANDS_M))
        off, slope = (here - shape) / spread, (right - left) / (2 * STANDS_M * spread)
        stood_m = -(off * slope).sum(1, keepdims=True) / ((slope**2).sum(1, keepdims=True) + STANDS_M**-2)
        return off + stood_m * slope, stood_m, spread

    def _shape(self, s: int, offset_m: Floats) -> Floats:
        """Signals across at places left of the peak (k,) [m] against the greatest, shape (h, k)."""
        c = self.rivals.together
        n = int(np.abs(self.rivals.at_m - self.used.distance_m[s]).argmin())
        down = c.down_m(self.there.true_depth_m[:, s])
        places = self.there.offset_m[:, s, None] + offset_m
        b = np.abs(fields(c.amps[:, n], c.offset_m[:, n], down, places, self.receiver.low_m)[0])
        return np.asarray(b / np.maximum(b.max(1, keepdims=True), 1e-300))
