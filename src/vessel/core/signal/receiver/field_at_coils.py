"""The field of a site's currents at a receiver's coils, anywhere on it: worked out once, used for every setup.

The receiver's horizontal coils lie across its heading.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.model.kit import Receiver
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.magnetic_field import dipole_field
from vessel.core.signal.receiver.field_gains import UP, Gains, Own, OwnField, across_of
from vessel.core.signal.receiver.instrument import LIFT_M, Trace, peak_and_null, shown
from vessel.core.signal.receiver.return_field import ReturnField, ReturnGeometry

_SCAN = np.sinh(np.linspace(-2.2, 2.2, 19)) / np.sinh(2.2)  # across the line, denser over it: good to a centimetre


@dataclass(frozen=True)
class UnitField:
    """Field phasors per unit of transmitter drive: `over_t` (n, 4) [T] at both coils, on the ground and lifted.

    `across_t`: horizontal and vertical (n, k) [T] at the offsets. `peak_m`, `null_m` (n,): where across the line the
    field peaks and where its vertical part vanishes.
    """

    receiver: Receiver
    over_t: Complex
    across_t: tuple[Complex, Complex]
    peak_m: Floats
    null_m: Floats
    air_share: Floats

    def read(self, drive: float, *, noise_t: float) -> Trace:
        """Return the readings at an output.

        Args:
            drive: Output, in the unit the field is per.
            noise_t: Rms noise in each coil [T].

        Returns:
            Depth, current and the rest at each place.
        """
        return Trace(
            **vars(shown(self.over_t, drive, noise_t=noise_t, receiver=self.receiver)),
            peak_null_m=np.abs(self.peak_m - self.null_m),
            air_share=self.air_share,
        )


class ReceiverGeometry:
    """Fields per unit source at the coil positions of a set of stations; built once, used for every setup.

    Stations stand at `at_m` (n, 2), the receiver heading along `headings` (n, 2), over a line `depths_m` (n,) down.
    Peak and null are looked for at `offsets_m` (n, k), by default 1.5 depths to either side.
    """

    def __init__(
        self,
        segments: Segments,
        *,
        at_m: Floats,
        headings: Floats,
        depths_m: Floats,
        receiver: Receiver,
        offsets_m: Floats | None = None,
    ) -> None:
        self.receiver = receiver
        heights = np.array([receiver.low_m, receiver.high_m, receiver.low_m + LIFT_M, receiver.high_m + LIFT_M])
        scan = 1.5 * np.maximum(depths_m, 0.5)[:, None] * _SCAN
        self.offsets_m = scan if offsets_m is None else offsets_m
        n, side = len(at_m), across_of(headings)
        ground = np.column_stack([at_m, np.zeros(n)])
        over = ground[:, None] + heights[None, :, None] * UP
        across = ground[:, None] + self.offsets_m[..., None] * side[:, None] + receiver.low_m * UP
        self._points = over.reshape(-1, 3), across.reshape(-1, 3)
        self._axes = np.repeat(side, over.shape[1], 0), np.repeat(side, across.shape[1], 0)
        self._shapes = over.shape[:2], across.shape[:2]
        self._segments = segments
        self._returns = ReturnGeometry(
            segments, at_m=at_m, sides=side, reach_m=np.abs(self.offsets_m).max(1), receiver=receiver
        )

    def returning(self, soil: Soil, freq_hz: float) -> ReturnField:
        """Return the field of the return current in the soil, for one soil and frequency.

        Args:
            soil: Soil of the site.
            freq_hz: Signal frequency [Hz].

        Returns:
            Its gains.
        """
        return self._returns.at(soil, freq_hz)

    @lazy
    def _over(self) -> Gains:
        return self._gains_over(self._segments)

    @lazy
    def _across(self) -> tuple[Gains, Gains]:
        horizontal, vertical = self._gains_across(self._segments)
        return horizontal.coarse(), vertical.coarse()

    def _gains_over(self, segments: Segments) -> Gains:
        return Gains.of(self._points[0], [self._axes[0]], segments)[0]

    def _gains_across(self, segments: Segments) -> tuple[Gains, Gains]:
        points = self._points[1]
        horizontal, vertical = Gains.of(points, [self._axes[1], np.tile(UP, (len(points), 1))], segments)
        return horizontal, vertical

    def lead(self, segments: Segments) -> OwnField:
        """Return the own field of a stake lead.

        Args:
            segments: s straight pieces of conductor.

        Returns:
            Field of 1 A.
        """

        def across() -> tuple[Floats, Floats]:
            horizontal, vertical = self._gains_across(segments)
            return horizontal.carrying(), vertical.carrying()

        return OwnField(lambda: self._gains_over(segments).carrying(), across, air=False)

    def coil(self, at_m: Floats, moment_a_m2: Floats) -> OwnField:
        """Return the own field of a transmitter coil.

        Args:
            at_m: Its place, shape (3,) [m].
            moment_a_m2: Its moment, shape (3,) [A m2].

        Returns:
            The field.
        """

        def at(points: Floats) -> Floats:
            return dipole_field(points, at_m=at_m, moment_a_m2=moment_a_m2)

        def across() -> tuple[Floats, Floats]:
            field = at(self._points[1])
            return (field * self._axes[1]).sum(1), field[:, 2]

        return OwnField(lambda: np.asarray((at(self._points[0]) * self._axes[0]).sum(1)), across, air=True)

    def over(
        self, into: Complex, out: Complex, own: Sequence[Own | None], returning: Sequence[ReturnField | None]
    ) -> tuple[Complex, Floats]:
        """Return the field at the coils over the stations, down and lifted.

        Of currents (s, h, c) [A] of h hookups in c cases, with each hookup's own field. The latter is against the
        lines', NaN where the transmitter has no coil.

        Args:
            into: Currents of h hookups in c cases at the segments' starts, shape (s, h, c) [A].
            out: Currents at their ends [A].
            own: Each hookup's own field (lead or coil), None without any.
            returning: The return current's field in each hookup's soil at its frequency.

        Returns:
            Field (h, c, n, 4) [T], and the share that comes through the air against the lines' (h, c, n), NaN without
            a transmitter coil.
        """
        field = _by_case(self._over.field(*_columns(into, out)), into.shape[1:], self._shapes[0])
        for rows, returned in alike(returning):
            field[rows] += returned.over(into[:, rows], out[:, rows])
        added = _own_fields([each and (each[0].over, each[1]) for each in own], self._shapes[0])
        air = np.array([each is not None and each[0].air for each in own])
        share = np.full(field.shape[:-1], np.nan)
        lines = np.maximum(np.abs(field[air, ..., 0]), 1e-30)
        share[air] = np.abs(added[air, None, :, 0]) / lines
        return field + added[:, None], share

    def across(
        self,
        into: Complex,
        out: Complex,
        own: Sequence[Own | None],
        returning: Sequence[ReturnField | None],
        *,
        stations: Index | None = None,
    ) -> tuple[Complex, Complex]:
        """Return the field at the offsets across the line.

        Of `stations` (n,) only, in rising order, where they are given.

        Args:
            into: Currents of h hookups in c cases at the segments' starts, shape (s, h, c) [A].
            out: Currents at their ends [A].
            own: Each hookup's own field (lead or coil), None without any.
            returning: The return current's field in each hookup's soil at its frequency.
            stations: Which stations, in rising order; None: all.

        Returns:
            Horizontal and vertical field, each of shape (h, c, n, k) [T].
        """
        n, k = self._shapes[1]
        # a run of stations is looked at where it lies: to pick them out would cost more than those between
        first, last = (0, n) if stations is None else (int(stations[0]), int(stations[-1]) + 1)
        rows, found = slice(first * k, last * k), []
        for axis, gains in enumerate(self._across):
            field = _by_case(gains.rows(rows).field(*_columns(into, out)), into.shape[1:], (last - first, k))
            own_unit = [each and (each[0].across[axis][rows], each[1]) for each in own]
            field += _own_fields(own_unit, (last - first, k))[:, None]
            found.append(field if stations is None or len(stations) == last - first else field[:, :, stations - first])
        at = np.arange(n) if stations is None else stations
        for hookups, returned in alike(returning):
            parts = returned.across(into[:, hookups], out[:, hookups], self.offsets_m[at], at)
            for field, part in zip(found, parts, strict=True):
                field[hookups] += part
        return found[0], found[1]

    def over_at(self, stations: Index) -> tuple[Gains, Floats, Floats]:
        """Return the geometry of the coils over some stations.

        Args:
            stations: Their indices, shape (k,).

        Returns:
            Gains (k, 4, s), points (k, 4, 3) [m] and axis (k, 3).
        """
        n, heights = self._shapes[0]
        points, axes = (each.reshape(n, heights, 3)[stations] for each in (self._points[0], self._axes[0]))
        return self._over.sets(n, stations), points, axes[:, 0]

    def across_at(self, stations: Index) -> tuple[tuple[Gains, Gains], Floats, Floats]:
        """Return the geometry at the offsets of some stations.

        Args:
            stations: Their indices, shape (k,).

        Returns:
            Horizontal and vertical gains, points and axis, as `over_at` with offsets in place of heights.
        """
        n, offsets = self._shapes[1]
        points, axes = (each.reshape(n, offsets, 3)[stations] for each in (self._points[1], self._axes[1]))
        horizontal, vertical = (g.sets(n, stations) for g in self._across)
        return (horizontal, vertical), points, axes[:, 0]

    def unit_field(
        self, into: Complex, out: Complex, own: Own | None = None, returning: ReturnField | None = None
    ) -> UnitField:
        """Return the field of the site's currents and of the transmitter itself.

        Args:
            into: Currents at the segments' starts, shape (s,) [A].
            out: Currents at their ends [A].
            own: The transmitter's own field, if it has one.
            returning: The return current's field; None: the soil carries none back.

        Returns:
            Field per unit of output.
        """
        columns = into[:, None, None], out[:, None, None]
        over, air = self.over(*columns, [own], [returning])
        horizontal, vertical = (f[0, 0] for f in self.across(*columns, [own], [returning]))
        peak, null = peak_and_null(self.offsets_m, horizontal, vertical)
        return UnitField(self.receiver, over[0, 0], (horizontal, vertical), peak, null, air[0, 0])


def alike(returning: Sequence[ReturnField | None]) -> list[tuple[slice, ReturnField]]:
    """Return which hookups one after the other share soil and frequency.

    Args:
        returning: The return current's field of each hookup.

    Returns:
        Ranges of hookups, each with its field; none where there is no return current.
    """
    found, first = [], 0
    for _, group in groupby(returning, key=id):
        each = list(group)
        if each[0] is not None:
            found.append((slice(first, first + len(each)), each[0]))
        first += len(each)
    return found


def _own_fields(units: Sequence[tuple[Floats, float] | None], places: tuple[int, int]) -> Floats:
    """Each hookup's own field (h, n, k) [T] from the field of a unit and how many there are, zero where it has none."""
    found = np.zeros((len(units), *places))
    for mine, each in zip(found, units, strict=True):
        if each is not None:
            mine += each[1] * each[0].reshape(places)
    return found


def _columns(into: Complex, out: Complex) -> tuple[Complex, Complex]:
    return into.reshape(len(into), -1), out.reshape(len(out), -1)


def _by_case(field: Complex, cases: tuple[int, ...], places: tuple[int, int]) -> Complex:
    """Fields (p, columns) as (h, c, n, k)."""
    return field.T.reshape(*cases, *places)
