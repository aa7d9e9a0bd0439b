"""Readings over a line in conductive soil as they would be without the return current.

What a display shows of a long line in a soil is known for every depth; read backwards it gives depth and current from
what is shown. Where several lines carry signal the correction is that of the one followed: what their currents differ
from its own is of second order.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.magnetic_field import electronic_depth
from vessel.core.signal.physics.soil_return import soil_per_m, soil_return
from vessel.core.signal.receiver.instrument import Shown

SOIL_DOUBT = 0.35
"""How well the correction is known, against itself: it goes with the root of a resistivity known to a factor of two."""
_DEPTHS_M = np.geomspace(0.02, 18.0, 120)
MOST_M, MOST_LIFTED_M, MOST_A = 15.0, 20.0, 10.0
"""What a reading may hold: depth, depth lifted [m], current [A]."""


class Undoing:
    """What a receiver shows over a long line in a soil of |m| `per_m` [1/m], to be read backwards."""

    def __init__(self, per_m: float, receiver: Receiver) -> None:
        self.per_m, self.receiver = per_m, receiver
        self._lifted: dict[float, tuple[Floats, Floats, Floats]] = {}

    def depth(self, shown_m: Floats, *, lift_m: float = 0.0) -> Floats:
        """Return the depth at which a line shows a depth.

        Args:
            shown_m: Depths shown, any shape [m].
            lift_m: How far the receiver was lifted; the depth is the one from there [m].

        Returns:
            Depths without the return current, of the same shape [m]; NaN where none is shown.
        """
        found_m, depths_m, _ = self._shown(lift_m)
        return np.asarray(np.interp(shown_m, found_m, depths_m + lift_m))

    def depth_of(self, shown_m: float) -> float:
        """Return the depth at which a line shows one depth.

        Args:
            shown_m: Depth shown [m].

        Returns:
            Depth [m].
        """
        return float(self.depth(np.array(shown_m)))

    def current(self, shown_m: Floats) -> Floats:
        """Return by how much the current is greater than shown.

        Args:
            shown_m: Depths shown, any shape [m].

        Returns:
            Factor, of the same shape.
        """
        found_m, _, factors = self._shown(0.0)
        return np.asarray(np.interp(shown_m, found_m, factors))

    def spread(self, shown_m: Floats) -> Floats:
        """Return how well the corrected depth is known, as the soil is.

        Args:
            shown_m: Depths shown, any shape [m].

        Returns:
            Standard deviation as a logarithm, of the same shape.
        """
        return np.asarray(SOIL_DOUBT * np.abs(np.log(self.depth(shown_m) / shown_m)))

    def reading(self, r: StationReading) -> StationReading:
        """Return a station's readings as they would be without the return current.

        Args:
            r: Readings at one station.

        Returns:
            The same, depths, currents and signals corrected; as they are where no depth was read.
        """
        return self.readings((r,))[0]

    def readings(self, readings: Sequence[StationReading]) -> tuple[StationReading, ...]:
        """Return the readings of stations as they would be without the return current.

        Args:
            readings: Readings at n stations.

        Returns:
            The same, depths, currents and signals corrected; as they are where no depth was read.
        """
        return _undone(self, tuple(readings))

    def _reading(self, r: StationReading, depth: float, factor: float) -> StationReading:
        """A station's readings where its depth and the factor of its current are known."""
        lifted = r.depth_lifted_m
        if lifted is not None and r.lift_height_m is not None:
            lifted = min(float(self.depth(np.array(lifted), lift_m=r.lift_height_m)), MOST_LIFTED_M)
        signals = [s for s in (r.signal, *(n.signal for n in r.neighbours)) if s is not None]
        stronger = float(self._stronger(depth, np.zeros(1))[0]) if signals else 1.0
        beside = [
            replace(n, current_a=_more(n.current_a, factor), signal=None if n.signal is None else n.signal * stronger)
            for n in r.neighbours
        ]
        return r.corrected(
            currents_a=tuple(min(a * factor, MOST_A) for a in r.currents_a),
            depth_m=min(depth, MOST_M),
            depth_lifted_m=lifted,
            neighbour_a=_more(r.neighbour_a, factor),
            profile=self._profile(r, depth),
            signal=None if r.signal is None else r.signal * stronger,
            neighbours=tuple(beside),
        )

    def shown(self, s: Shown, *, lift_m: float) -> Shown:
        """Return what a display would show without the return current.

        Args:
            s: What it shows.
            lift_m: Height of the lift [m].

        Returns:
            The same, depths and current corrected.
        """
        return replace(
            s,
            depth_m=self.depth(s.depth_m),
            depth_lifted_m=self.depth(s.depth_lifted_m, lift_m=lift_m),
            current_a=s.current_a * self.current(s.depth_m),
        )

    def _profile(self, r: StationReading, depth_m: float) -> tuple[tuple[float, float], ...]:
        if not r.profile:
            return r.profile
        offsets, signals = (np.array(each) for each in zip(*r.profile, strict=True))
        stronger = signals * self._stronger(depth_m, offsets)
        return tuple(zip(offsets.tolist(), stronger.tolist(), strict=True))

    def _stronger(self, depth_m: float, offsets_m: Floats) -> Floats:
        """How much stronger the signal would be across the line."""
        low = self.receiver.low_m
        up = depth_m + low
        free = up / (up**2 + offsets_m**2)
        return np.asarray(free / np.abs(free + soil_return(self.per_m, depth_m, offsets_m, low)[0]))

    def _shown(self, lift_m: float) -> tuple[Floats, Floats, Floats]:
        """Depth shown where one is, the depth, and the current against what is shown."""
        if lift_m not in self._lifted:
            low, apart = self.receiver.low_m + lift_m, self.receiver.separation_m
            b = [self._field(z) for z in (low, low + apart)]
            depth = electronic_depth(b[0], b[1], low_m=low - lift_m, separation_m=apart)
            factor = self._alone(low) / (b[0] * (depth + low - lift_m))
            ok = np.isfinite(depth)  # what lies too shallow shows above the ground
            self._lifted[lift_m] = np.maximum.accumulate(depth[ok]), _DEPTHS_M[ok], factor[ok]
        return self._lifted[lift_m]

    def _field(self, up_m: float) -> Floats:
        """Field over a line at each of `_DEPTHS_M` in a coil so high, in units of a lone conductor's at 1 m."""
        return np.asarray(np.abs(1 / (_DEPTHS_M + up_m) + soil_return(self.per_m, _DEPTHS_M, 0.0, up_m)[0]))

    def _alone(self, up_m: float) -> Floats:
        """The lone conductor's current that is heard alike in a coil so high, in the same units."""
        return np.ones_like(_DEPTHS_M)


class UndoingPair(Undoing):
    """What a receiver shows over two conductors that carry one current there and back, to be read backwards.

    Their field falls with the square of the distance r; what is heard like it is a lone conductor with `1/r` of it.
    """

    def _field(self, up_m: float) -> Floats:
        return np.asarray((_DEPTHS_M + up_m) ** -2.0)

    def _alone(self, up_m: float) -> Floats:
        return np.asarray(1 / (_DEPTHS_M + up_m))

    def _stronger(self, depth_m: float, offsets_m: Floats) -> Floats:
        return np.ones_like(offsets_m)


def _more(amps: float | None, factor: float) -> float | None:
    return None if amps is None else min(amps * factor, MOST_A)


@lru_cache(maxsize=16)  # judged, and asked what happened along them
def _undone(free: Undoing, readings: tuple[StationReading, ...]) -> tuple[StationReading, ...]:
    shown = np.array([np.nan if r.depth_m is None else r.depth_m for r in readings])
    depths, factors = free.depth(shown).tolist(), free.current(shown).tolist()
    return tuple(
        r if r.depth_m is None else free._reading(r, depth, factor)
        for r, depth, factor in zip(readings, depths, factors, strict=True)
    )


@lru_cache(maxsize=256)
def undoing_at(per_m: float, receiver: Receiver) -> Undoing:
    """Return what undoes the return current, kept.

    Args:
        per_m: |m| of the soil [1/m].
        receiver: The kit's receiver.

    Returns:
        Its tables.
    """
    return Undoing(per_m, receiver)


@lru_cache(maxsize=8)
def _undoing_pair(receiver: Receiver) -> UndoingPair:
    return UndoingPair(0.0, receiver)


def undoing(setup: Setup, soil: Soil, receiver: Receiver) -> Undoing:
    """Return what undoes the return current in a soil, or the square law of a pair.

    Args:
        setup: Method, place, frequency and output.
        soil: Soil of the site.
        receiver: The kit's receiver.

    Returns:
        Its tables.
    """
    if setup.by.between:
        return _undoing_pair(receiver)
    return undoing_at(soil_per_m(soil, freq_hz=setup.freq_hz), receiver)
