"""What a receiver reads anywhere on a site: signal, electronic depth, current, direction, lift, peak and null.

Everything comes from the field at the coils, so air coupling, wrong depths at bends and lift failures emerge by
themselves. The receiver's horizontal coils lie across its heading.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.kit import Receiver
from vessel.core.signal.coupling import Segments
from vessel.core.signal.earth_return import MU0
from vessel.core.signal.field import axis_fields, dipole_field, electronic_depth

Floats = NDArray[np.float64]
Complex = NDArray[np.complex128]

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
        """Return the field (p,) [T] of currents (s,) [A] at the segments' starts and ends."""
        # real gains: real and imaginary part as two columns, or the gains would be copied as complex numbers
        first, last = (np.column_stack([i.real, i.imag]) for i in (into, out))
        total = self.start @ first + self.end @ last
        return np.asarray(total[:, 0] + 1j * total[:, 1])


@dataclass(frozen=True)
class Trace:
    """Readings at stations (n,): SI, NaN where an instrument would show nothing."""

    b_low_t: Floats
    noise_share: Floats
    depth_m: Floats
    depth_lifted_m: Floats
    current_a: Floats
    peak_null_m: Floats
    air_share: Floats


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
        self._site = self._gains(segments)
        self._lead = None if lead is None else self._gains(lead)

    def _gains(self, segments: Segments) -> tuple[Gains, Gains, Gains]:
        (over, across), (over_axes, across_axes) = self._points, self._axes
        return (
            Gains.of(over, over_axes, segments),
            Gains.of(across, across_axes, segments),
            Gains.of(across, np.tile(_UP, (len(across), 1)), segments),
        )

    def coil(self, at_m: Floats, moment_a_m2: Floats) -> tuple[Floats, Floats, Floats]:
        """Return the transmitter coil's own field at the same places, as (over, across horizontal, across vertical)."""
        over, across = (dipole_field(p, at_m=at_m, moment_a_m2=moment_a_m2) for p in self._points)
        return (over * self._axes[0]).sum(1), (across * self._axes[1]).sum(1), across[:, 2]

    def unit_field(
        self,
        into: Complex,
        out: Complex,
        *,
        lead_amps: complex = 0j,
        coil: tuple[Floats, Floats, Floats] | None = None,
    ) -> UnitField:
        """Return the field of the site's currents (s,) [A], the lead's current [A] and the coil's own field [T]."""
        fields = [g.field(into, out) for g in self._site]
        if self._lead is not None and lead_amps:
            flow = np.full(self._lead[0].start.shape[1], lead_amps, dtype=np.complex128)
            fields = [f + g.field(flow, flow) for f, g in zip(fields, self._lead, strict=True)]
        from_lines = np.abs(fields[0].reshape(self._shapes[0])[:, 0])
        air = np.zeros_like(from_lines)
        if coil is not None:
            air = np.abs(coil[0].reshape(self._shapes[0])[:, 0]) / np.maximum(from_lines, 1e-30)
            fields = [f + c for f, c in zip(fields, coil, strict=True)]
        over, horizontal, vertical = (
            f.reshape(s) for f, s in zip(fields, (self._shapes[0], *[self._shapes[1]] * 2), strict=True)
        )
        peak = _extreme(self.offsets_m, -np.abs(horizontal))
        null = _extreme(self.offsets_m, np.abs(vertical) + 1e-6 * np.abs(horizontal))
        return UnitField(self.receiver, over, (horizontal, vertical), peak, null, air)


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
        b = np.sqrt((np.abs(self.over_t) * drive) ** 2 + noise_t**2)
        r = self.receiver
        depth = electronic_depth(b[:, 0], b[:, 1], low_m=r.low_m, separation_m=r.separation_m)
        return Trace(
            b_low_t=b[:, 0],
            noise_share=noise_t / np.maximum(b[:, 0], 1e-30),
            depth_m=depth,
            depth_lifted_m=electronic_depth(b[:, 2], b[:, 3], low_m=r.low_m, separation_m=r.separation_m),
            current_a=2 * np.pi * (depth + r.low_m) * b[:, 0] / MU0,
            peak_null_m=np.abs(self.peak_m - self.null_m),
            air_share=self.air_share,
        )


def _extreme(offsets_m: Floats, cost: Floats) -> Floats:
    """Return the offset (n,) [m] of the least `cost` (n, offsets), refined by a parabola on its square."""
    k = np.clip(cost.argmin(1), 1, offsets_m.shape[1] - 2)
    rows = np.arange(len(k))
    x0, x1, x2 = (offsets_m[rows, k + j] for j in (-1, 0, 1))
    sign = np.sign(cost[rows, k])
    f0, f1, f2 = (sign * cost[rows, k + j] ** 2 for j in (-1, 0, 1))
    p, q = (x1 - x0) * (f1 - f2), (x1 - x2) * (f1 - f0)
    denominator = p - q
    safe = np.where(np.abs(denominator) > 0, denominator, 1.0)
    shift = 0.5 * ((x1 - x0) * p - (x1 - x2) * q) / safe
    return np.asarray(x1 - np.where(np.abs(denominator) > 0, shift, 0.0))


def signal_at(current_a: float, *, depth_m: float, low_m: float) -> float:
    """Return the signal [T] at the lower coil over a long line: mu0 I / (2 pi (depth + height))."""
    return float(MU0 * current_a / (2 * np.pi * (depth_m + low_m)))
