"""The field of the return current in the soil at a receiver's coils, leg by leg of every line.

A straight leg has the field of a long line of the same depth (`soil_return`), by the share of it that its own length
makes: the return current stands for a wire some 1.5 skin depths down, so what a leg carries far along it counts as
well, and past a bend or a tee each leg has its part. The stake lead's own return is left out: it is short.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.model.kit import Receiver
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.earth_return import MU0
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.soil_return import soil_per_m, soil_return
from vessel.core.signal.receiver.instrument import LIFT_M

_STRAIGHT = 1e-9  # how far two unit vectors of one leg may differ, squared
_IMAGE = 1.5  # depth of the wire that the return current stands for, in 1/|m|
_FELT = 2e-3  # a leg that makes less of a long line's return than this is left out


class ReturnGeometry:
    """The legs of a site as they lie round stations; every frequency and soil shares it.

    Stations stand at `at_m` (n, 2) [m], the coils across `sides` (n, 3); peak and null are looked for as far as
    `reach_m` (n,) [m].
    """

    def __init__(self, segments: Segments, *, at_m: Floats, sides: Floats, reach_m: Floats, receiver: Receiver) -> None:
        self._segments, self._at_m, self._sides = segments, at_m, sides
        self.reach_m, self.receiver = reach_m, receiver

    @lazy
    def _legs(self) -> list[_Leg]:
        start, end = self._segments.start_m, self._segments.end_m
        length = np.linalg.norm(end - start, axis=1)
        way = (end - start) / length[:, None]
        joined = (np.abs(start[1:] - end[:-1]).sum(1) < 1e-6) & (((way[1:] - way[:-1]) ** 2).sum(1) < _STRAIGHT)
        first = np.flatnonzero(np.concatenate([[True], ~joined]))
        return [self._leg(slice(a, b)) for a, b in zip(first, [*first[1:], len(start)], strict=True)]

    def _leg(self, rows: slice) -> _Leg:
        start, end = self._segments.start_m[rows], self._segments.end_m[rows]
        run = (end[-1] - start[0])[:2]
        way = run / max(float(np.hypot(*run)), 1e-9)
        left = np.array([-way[1], way[0]])
        off = self._at_m - start[0, :2]
        cuts = np.concatenate([(start[:, :2] - start[0, :2]) @ way, [float((end[-1, :2] - start[0, :2]) @ way)]])
        foot = off @ way
        slope = (end[-1, 2] - start[0, 2]) / max(cuts[-1], 1e-9)
        depth = -(start[0, 2] + slope * np.clip(foot, 0.0, cuts[-1]))
        # across the receiver's heading to its left; the field above a current lies to the right of it
        turn = self._sides[:, :2] @ left
        return _Leg(rows, cuts[None] - foot[:, None], off @ left, np.maximum(depth, 0.0), turn)

    def at(self, soil: Soil, freq_hz: float) -> ReturnField:
        """Return the gains of the return current in one soil at one frequency.

        Args:
            soil: Homogeneous soil.
            freq_hz: Signal frequency [Hz].

        Returns:
            The gains.
        """
        per_m = soil_per_m(soil, freq_hz=freq_hz)
        return ReturnField(per_m, [p for leg in self._legs if (p := self._part(leg, per_m)) is not None], self.reach_m)

    def _part(self, leg: _Leg, per_m: float) -> _Part | None:
        image2 = (leg.depth_m + _IMAGE / per_m) ** 2 + leg.left_m**2
        ends = leg.cuts_m / np.sqrt(leg.cuts_m**2 + image2[:, None])
        shares = 0.5 * np.diff(ends, axis=1)
        if float(shares.sum(1).max()) < _FELT:
            return None
        low, high = self.receiver.low_m, self.receiver.high_m
        depth, left = leg.depth_m[:, None], leg.left_m[:, None]
        unit = MU0 / (2 * np.pi)
        over = soil_return(per_m, depth, left, np.array([low, high, low + LIFT_M, high + LIFT_M]))[0]
        places = left + leg.turn[:, None] * self.reach_m[:, None] * np.array([-1.0, 0.0, 1.0])
        horizontal, vertical = soil_return(per_m, depth, places, low)
        # right of the leg is against its left: minus the cosine between the two axes
        return _Part(
            leg.rows,
            shares,
            -unit * leg.turn[:, None] * over,
            -unit * leg.turn[:, None] * horizontal,
            unit * vertical,
        )


@dataclass(frozen=True, eq=False)
class _Leg:
    """A straight run of segments `rows` seen from n stations: where its cuts lie along it (n, s + 1) from the foot of
    each station, how far left of it a station is, how deep it lies there, the cosine between the coils' axis and its
    left."""

    rows: slice
    cuts_m: Floats
    left_m: Floats
    depth_m: Floats
    turn: Floats


@dataclass(frozen=True, eq=False)
class _Part:
    """One leg's gains: `shares` (n, s) of its segments' currents, and fields per ampere: over the stations (n, 4), and
    at three places across (n, 3), horizontal and vertical [T/A]."""

    rows: slice
    shares: Floats
    over: Complex
    horizontal: Complex
    vertical: Complex

    def amps(self, into: Complex, out: Complex) -> Complex:
        """What the leg carries as each station's return current sees it, (n, ...) of currents (s, ...)."""
        mean = 0.5 * (into[self.rows] + out[self.rows])
        flat = mean.reshape(len(mean), -1)
        return np.asarray((self.shares @ flat).reshape(len(self.shares), *mean.shape[1:]))


@dataclass(frozen=True, eq=False)
class ReturnField:
    """The return current's field at the coils of n stations in a soil of |m| `per_m` [1/m]."""

    per_m: float
    parts: list[_Part]
    reach_m: Floats

    def over(self, into: Complex, out: Complex) -> Complex:
        """Return the field over the stations.

        Args:
            into: Currents at the segments' starts, shape (s, ...) [A].
            out: Currents at their ends [A].

        Returns:
            Field at both coils, down and lifted, shape (..., n, 4) [T].
        """
        return self._sum([p.over for p in self.parts], into, out, 4)

    def across(self, into: Complex, out: Complex, offsets_m: Floats, stations: Index) -> tuple[Complex, Complex]:
        """Return the field across the line, smooth enough for a parabola through three places.

        Args:
            into: Currents at the segments' starts, shape (s, ...) [A].
            out: Currents at their ends [A].
            offsets_m: Where it is read, shape (k, o) [m].
            stations: Which stations those are, shape (k,).

        Returns:
            Horizontal and vertical field, shape (..., k, o) [T].
        """
        through = self._through(offsets_m, stations)
        found = []
        for name in ("horizontal", "vertical"):
            at = self._sum([getattr(p, name) for p in self.parts], into, out, 3)[..., stations, :]
            found.append(np.einsum("...kt,kto->...ko", at, through))
        return found[0], found[1]

    def own(self, into: Complex, out: Complex, stations: Index) -> Complex:
        """Return the field over one station for each of several places of a coil.

        Args:
            into: Currents in c cases of each of k places at the segments' starts, shape (s, k, c) [A].
            out: Currents at their ends [A].
            stations: Station of each place, shape (k,).

        Returns:
            Field at both coils, down and lifted, shape (k, c, 4) [T].
        """
        return self._own([p.over for p in self.parts], into, out, stations)

    def own_across(self, into: Complex, out: Complex, offsets_m: Floats, stations: Index) -> tuple[Complex, Complex]:
        """Return the field across the line at one station for each of several places of a coil.

        Args:
            into: Currents in c cases of each of k places at the segments' starts, shape (s, k, c) [A].
            out: Currents at their ends [A].
            offsets_m: Where it is read, shape (k, o) [m].
            stations: Station of each place, shape (k,).

        Returns:
            Horizontal and vertical field, shape (k, c, o) [T].
        """
        through = self._through(offsets_m, stations)
        horizontal, vertical = (
            np.einsum("kct,kto->kco", self._own([getattr(p, name) for p in self.parts], into, out, stations), through)
            for name in ("horizontal", "vertical")
        )
        return horizontal, vertical

    def _through(self, offsets_m: Floats, stations: Index) -> Floats:
        """A parabola through the three places at each offset, (k, 3, o)."""
        t = offsets_m / self.reach_m[stations, None]
        return np.stack([0.5 * t * (t - 1), 1 - t * t, 0.5 * t * (t + 1)], axis=1)

    def _own(self, gains: list[Complex], into: Complex, out: Complex, stations: Index) -> Complex:
        total = np.zeros((*into.shape[1:], gains[0].shape[1] if gains else 4), dtype=np.complex128)
        for p, gain in zip(self.parts, gains, strict=True):
            mean = 0.5 * (into[p.rows] + out[p.rows])
            amps = np.einsum("ks,skc->kc", p.shares[stations], mean)
            total += amps[..., None] * gain[stations][:, None]
        return total

    def _sum(self, gains: list[Complex], into: Complex, out: Complex, places: int) -> Complex:
        n = len(self.reach_m)
        total = np.zeros((*into.shape[1:], n, places), dtype=np.complex128)
        for p, gain in zip(self.parts, gains, strict=True):
            total += np.moveaxis(p.amps(into, out), 0, -1)[..., None] * gain
        return total
