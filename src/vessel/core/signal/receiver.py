"""What a receiver reads anywhere on a site: signal, electronic depth, current, direction, lift, peak and null.

Everything comes from the field at the coils, so air coupling, wrong depths at bends and lift failures emerge by
themselves. The receiver's horizontal coils lie across its heading.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.kit import Receiver
from vessel.core.signal.coupling import Segments
from vessel.core.signal.earth_return import MU0
from vessel.core.signal.field import axis_fields, dipole_field, electronic_depth

Floats = NDArray[np.float64]
Complex = NDArray[np.complex128]

Lead = tuple[Segments, float]
LIFT_M = 0.5
"""Height of the lift test in a simulated trace [m]."""
_SCAN = np.sinh(np.linspace(-2.2, 2.2, 41)) / np.sinh(2.2)  # offsets across the line, denser over it
_UP = np.array([0.0, 0.0, 1.0])


def across_of(headings: Floats) -> Floats:
    """Return the horizontal axis (n, 3) to the left of headings (n, 2): that of the horizontal coils."""
    return np.column_stack([-headings[:, 1], headings[:, 0], np.zeros(len(headings))])


@dataclass(frozen=True)
class Gains:
    """Field along one axis at a set of places per ampere at the start and at the end of each segment, (p, s) [T/A]."""

    start: Floats
    end: Floats

    @classmethod
    def of(cls, points_m: Floats, axes: Floats, segments: Segments) -> Gains:
        """Return the gains along `axes` (p, 3) at `points_m` (p, 3)."""
        return cls(*axis_fields(points_m, axes, segments.start_m, segments.end_m))

    def field(self, into: Complex, out: Complex) -> Complex:
        """Return the field (p, ...) [T] of currents (s, ...) [A] at the segments' starts and ends."""
        # real gains: real and imaginary parts as columns, or the gains would be copied as complex numbers
        shape = into.shape[1:]
        first, last = (i.reshape(len(i), -1) for i in (into, out))
        total = self.start @ np.hstack([first.real, first.imag]) + self.end @ np.hstack([last.real, last.imag])
        half = total.shape[1] // 2
        return np.asarray(total[:, :half] + 1j * total[:, half:]).reshape(-1, *shape)


@dataclass(frozen=True)
class CoilField:
    """The transmitter coil's own field (p,) [T]: along the axes over the stations, and at the offsets."""

    over: Floats
    horizontal: Floats
    vertical: Floats


@dataclass(frozen=True)
class Shown:
    """What the display shows over the line, SI, any shape; NaN where an instrument would show nothing."""

    b_low_t: Floats
    noise_share: Floats
    depth_m: Floats
    depth_lifted_m: Floats
    current_a: Floats


@dataclass(frozen=True)
class Trace(Shown):
    """Readings at stations (n,), with peak and null looked for."""

    peak_null_m: Floats
    air_share: Floats


def shown(over_t: Complex, drive: Any, *, noise_t: float, receiver: Receiver) -> Shown:
    """Return the readings at `drive` (...) of the field per unit `over_t` (..., 4) [T] at both coils, down and lifted.

    `noise_t` [T rms] is in each coil.
    """
    b = np.sqrt((np.abs(over_t) * np.asarray(drive)[..., None]) ** 2 + noise_t**2)
    low, apart = receiver.low_m, receiver.separation_m
    depth = electronic_depth(b[..., 0], b[..., 1], low_m=low, separation_m=apart)
    return Shown(
        b_low_t=b[..., 0],
        noise_share=noise_t / np.maximum(b[..., 0], 1e-30),
        depth_m=depth,
        depth_lifted_m=electronic_depth(b[..., 2], b[..., 3], low_m=low, separation_m=apart),
        current_a=2 * np.pi * (depth + low) * b[..., 0] / MU0,
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
        lead: Segments | None = None,
        offsets_m: Floats | None = None,
    ) -> None:
        self.receiver = receiver
        heights = np.array([receiver.low_m, receiver.high_m, receiver.low_m + LIFT_M, receiver.high_m + LIFT_M])
        scan = 1.5 * np.maximum(depths_m, 0.5)[:, None] * _SCAN
        self.offsets_m = scan if offsets_m is None else offsets_m
        n, side = len(at_m), across_of(headings)
        ground = np.column_stack([at_m, np.zeros(n)])
        over = ground[:, None] + heights[None, :, None] * _UP
        across = ground[:, None] + self.offsets_m[..., None] * side[:, None] + receiver.low_m * _UP
        self._points = over.reshape(-1, 3), across.reshape(-1, 3)
        self._axes = np.repeat(side, over.shape[1], 0), np.repeat(side, across.shape[1], 0)
        self._shapes = over.shape[:2], across.shape[:2]
        self._segments = segments
        self._lead = lead

    @cached_property
    def _over(self) -> Gains:
        return self._gains_over(self._segments)

    @cached_property
    def _across(self) -> tuple[Gains, Gains]:
        return self._gains_across(self._segments)

    def _gains_over(self, segments: Segments) -> Gains:
        return Gains.of(self._points[0], self._axes[0], segments)

    def _gains_across(self, segments: Segments) -> tuple[Gains, Gains]:
        points = self._points[1]
        up = np.tile(_UP, (len(points), 1))
        return Gains.of(points, self._axes[1], segments), Gains.of(points, up, segments)

    def coil(self, at_m: Floats, moment_a_m2: Floats) -> CoilField:
        """Return the transmitter coil's own field at the same places."""
        over, across = (dipole_field(p, at_m=at_m, moment_a_m2=moment_a_m2) for p in self._points)
        return CoilField((over * self._axes[0]).sum(1), (across * self._axes[1]).sum(1), across[:, 2])

    def over(
        self, into: Complex, out: Complex, *, leads: Sequence[Lead | None], coils: Sequence[CoilField | None]
    ) -> tuple[Complex, Floats]:
        """Return the field (c, n, 4) [T] at both coils, down and lifted, and the coil's share of it (c, n).

        Of currents (s, c) [A] in c cases, each with its own lead and the current in it, or its transmitter coil.
        """
        (n, heights), count = self._shapes[0], into.shape[1]
        field = self._over.field(into, out).T.reshape(count, n, heights)
        air = np.zeros((count, n))
        for k, (lead, coil) in enumerate(zip(leads, coils, strict=True)):
            if lead is not None:
                field[k] += _carrying(self._gains_over(lead[0]), lead[1]).reshape(n, heights)
            if coil is not None:
                own = coil.over.reshape(n, heights)
                air[k] = np.abs(own[:, 0]) / np.maximum(np.abs(field[k, :, 0]), 1e-30)
                field[k] += own
        return field, air

    def across(
        self, into: Complex, out: Complex, *, leads: Sequence[Lead | None], coils: Sequence[CoilField | None]
    ) -> tuple[Complex, Complex]:
        """Return the horizontal and the vertical field (c, n, k) [T] at the offsets, as `over` does."""
        shape = into.shape[1], *self._shapes[1]
        horizontal, vertical = (g.field(into, out).T.reshape(shape) for g in self._across)
        for k, (lead, coil) in enumerate(zip(leads, coils, strict=True)):
            if lead is not None:
                h, v = (_carrying(g, lead[1]).reshape(shape[1:]) for g in self._gains_across(lead[0]))
                horizontal[k] += h
                vertical[k] += v
            if coil is not None:
                horizontal[k] += coil.horizontal.reshape(shape[1:])
                vertical[k] += coil.vertical.reshape(shape[1:])
        return horizontal, vertical

    def peak_and_null(self, horizontal: Complex, vertical: Complex) -> tuple[Floats, Floats]:
        """Return where across the line each (..., n) [m] lies, from fields (..., n, k)."""
        offsets = np.broadcast_to(self.offsets_m, horizontal.shape)
        peak = _extreme(offsets, -np.abs(horizontal))
        return peak, _extreme(offsets, np.abs(vertical) + 1e-6 * np.abs(horizontal))

    def unit_field(
        self, into: Complex, out: Complex, *, lead_amps: float = 0.0, coil: CoilField | None = None
    ) -> UnitField:
        """Return the field of the site's currents (s,) [A], the lead's current [A] and the coil's own field."""
        columns = into[:, None], out[:, None]
        leads = [(self._lead, lead_amps) if self._lead is not None and lead_amps else None]
        over, air = self.over(*columns, leads=leads, coils=[coil])
        horizontal, vertical = (f[0] for f in self.across(*columns, leads=leads, coils=[coil]))
        peak, null = self.peak_and_null(horizontal, vertical)
        return UnitField(self.receiver, over[0], (horizontal, vertical), peak, null, air[0])


def _carrying(gains: Gains, amps: float) -> Floats:
    """Field (p,) [T] of the same current [A] all along."""
    return np.asarray((gains.start + gains.end).sum(1) * amps)


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
        """Return the readings at `drive` with `noise_t` [T rms] in each coil."""
        return Trace(
            **vars(shown(self.over_t, drive, noise_t=noise_t, receiver=self.receiver)),
            peak_null_m=np.abs(self.peak_m - self.null_m),
            air_share=self.air_share,
        )


def _extreme(offsets_m: Floats, cost: Floats) -> Floats:
    """Return the offset (...) [m] of the least `cost` (..., offsets), refined by a parabola on its square."""
    k = np.clip(cost.argmin(-1), 1, offsets_m.shape[-1] - 2)[..., None]

    def at(values: Floats, j: int) -> Floats:
        return np.asarray(np.take_along_axis(values, k + j, -1)[..., 0])

    x0, x1, x2 = (at(offsets_m, j) for j in (-1, 0, 1))
    sign = np.sign(at(cost, 0))
    f0, f1, f2 = (sign * at(cost, j) ** 2 for j in (-1, 0, 1))
    p, q = (x1 - x0) * (f1 - f2), (x1 - x2) * (f1 - f0)
    denominator = p - q
    safe = np.where(np.abs(denominator) > 0, denominator, 1.0)
    shift = 0.5 * ((x1 - x0) * p - (x1 - x2) * q) / safe
    return np.asarray(x1 - np.where(np.abs(denominator) > 0, shift, 0.0))


def signal_at(current_a: Any, *, depth_m: Any, low_m: float) -> Any:
    """Return the signal [T] at the lower coil over a long line: mu0 I / (2 pi (depth + height))."""
    return MU0 * current_a / (2 * np.pi * (depth_m + low_m))
