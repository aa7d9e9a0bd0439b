"""A coil carried along a line with the receiver: each place of the coil is read at one station and nowhere else."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.signal.physics.magnetic_field import dipole_field
from vessel.core.signal.receiver.field_at_coils import ReceiverGeometry, alike
from vessel.core.signal.receiver.return_field import ReturnField


class CarriedCoil:
    """Coils at `at_m` (k, 3) [m] of moments (k, 3) [A m2], each read at one of `stations` (k,).

    Fields are those of `ReceiverGeometry`, worked out only where they are read.
    """

    def __init__(self, geometry: ReceiverGeometry, *, stations: Index, at_m: Floats, moment_a_m2: Floats) -> None:
        self._geometry, self._stations, self._at_m, self._moment = geometry, stations, at_m, moment_a_m2

    def over(self, into: Complex, out: Complex, returning: Sequence[ReturnField]) -> tuple[Complex, Floats]:
        """Return the field over each place's own station, with the coil's own field.

        Of currents (s, k, c) [A] in c cases of each place, with the coil's own field.

        Args:
            into: Currents in c cases of each of k places at the segments' starts, shape (s, k, c) [A].
            out: Currents at their ends [A].
            returning: The return current's field in each place's soil at its frequency.

        Returns:
            Field at both coils, down and lifted (k, c, 4) [T], and the share through the air (k, c).
        """
        gains, points, sides = self._geometry.over_at(self._stations)
        field = gains.field(*(np.moveaxis(i, 1, 0) for i in (into, out))).swapaxes(1, 2)
        for rows, returned in alike(returning):
            field[rows] += returned.own(into[:, rows], out[:, rows], self._stations[rows])
        own = (self._own(points, slice(None)) * sides[:, None]).sum(-1)
        air = np.abs(own[:, None, 0]) / np.maximum(np.abs(field[..., 0]), 1e-30)
        return field + own[:, None], air

    def across(
        self, into: Complex, out: Complex, which: Index, returning: Sequence[ReturnField]
    ) -> tuple[Complex, Complex]:
        """Return the field across the line at some of the places.

        Of currents (s, k, c) [A] at all of them.

        Args:
            into: Currents in c cases of each of k places at the segments' starts, shape (s, k, c) [A].
            out: Currents at their ends [A].
            which: Places, shape (i,).
            returning: The return current's field in each of those places' soil at its frequency.

        Returns:
            Horizontal and vertical field, each of shape (i, c, offsets) [T].
        """
        gains, points, sides = self._geometry.across_at(self._stations[which])
        currents = [np.moveaxis(i[:, which], 1, 0) for i in (into, out)]
        horizontal, vertical = (g.field(*currents).swapaxes(1, 2) for g in gains)
        offsets_m, at = self._geometry.offsets_m[self._stations[which]], self._stations[which]
        for rows, returned in alike(returning):
            first, last = (i[:, which][:, rows] for i in (into, out))
            more_at = returned.own_across(first, last, offsets_m[rows], at[rows])
            for field, more in zip((horizontal, vertical), more_at, strict=True):
                field[rows] += more
        own = self._own(points, which)
        return horizontal + (own * sides[:, None]).sum(-1)[:, None], vertical + own[:, None, :, 2]

    def _own(self, points_m: Floats, which: Index | slice) -> Floats:
        return dipole_field(points_m, at_m=self._at_m[which, None], moment_a_m2=self._moment[which, None])
