"""What a receiver reads over the line: signal, electronic depth, current, lift, peak and null, air coupling.

Everything comes from the field at the coils, so air coupling and lift failures emerge by themselves.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.model.kit import Kit, Receiver
from vessel.core.signal.earth_return import MU0
from vessel.core.signal.field import Floats, dipole_field, electronic_depth, segment_fields
from vessel.core.signal.network import Complex
from vessel.core.signal.sources import line_segments

LIFT_M = 0.5
"""Height of the lift test in a simulated trace [m]."""
_SCAN = np.sinh(np.linspace(-2.2, 2.2, 41)) / np.sinh(2.2)  # offsets across the line, denser over it


@dataclass(frozen=True)
class Trace:
    """Simulated readings at stations (n,): SI, NaN where an instrument would show nothing."""

    distance_m: Floats
    b_low_t: Floats
    noise_share: Floats
    depth_m: Floats
    depth_lifted_m: Floats
    current_a: Floats
    peak_null_m: Floats
    air_share: Floats


class ReceiverGeometry:
    """Fields per unit source at the coil positions of a set of stations; built once, used for every setup."""

    def __init__(self, *, x_m: Floats, depth_m: float, stations_m: Floats, kit: Kit, lead_m: float) -> None:
        self.stations_m, self.depth_m, self.receiver = stations_m, depth_m, kit.receiver
        r = kit.receiver
        heights = np.array([r.low_m, r.high_m, r.low_m + LIFT_M, r.high_m + LIFT_M])
        self.offsets_m = _SCAN * 1.5 * max(depth_m, 0.5)
        ns, nh, no = len(stations_m), len(heights), len(self.offsets_m)
        over = np.zeros((ns, nh, 3))
        over[..., 0], over[..., 2] = stations_m[:, None], heights
        across = np.zeros((ns, no, 3))
        across[..., 0], across[..., 1], across[..., 2] = stations_m[:, None], self.offsets_m, r.low_m
        self._over, self._across = over.reshape(-1, 3), across.reshape(-1, 3)
        self._shapes = (ns, nh), (ns, no)
        line = line_segments(x_m, depth_m)
        self.line = self._pick(*(segment_fields(p, *line) for p in (self._over, self._across)))
        # stake lead from the stake to the access point, then down the riser to the line
        starts = np.array([[0.0, lead_m, 0.01], [0.0, 0.0, 0.01]])
        ends = np.array([[0.0, 0.0, 0.01], [0.0, 0.0, -depth_m]])
        self.lead = self._pick(
            *(segment_fields(p, starts, ends).sum(1, keepdims=True) for p in (self._over, self._across))
        )

    def _pick(self, over: Floats, across: Floats) -> tuple[Floats, Floats, Floats]:
        (ns, nh), (_, no) = self._shapes
        return (
            over[..., 1].reshape(ns, nh, -1),
            across[..., 1].reshape(ns, no, -1),
            across[..., 2].reshape(ns, no, -1),
        )

    def coil(self, at_m: Floats, moment_a_m2: Floats) -> tuple[Floats, Floats, Floats]:
        """Return the coil's own field at the same places, as (over, across horizontal, across vertical)."""
        return self._pick(
            *(dipole_field(p, at_m=at_m, moment_a_m2=moment_a_m2)[:, None, :] for p in (self._over, self._across))
        )

    def unit_field(
        self, amps: Complex, *, lead_amps: complex = 0j, coil: tuple[Floats, Floats, Floats] | None = None
    ) -> UnitField:
        """Return the field of line currents `amps` (s,) [A], the lead's current [A] and the coil's own field [T]."""
        over, across_y, across_z = (g @ amps + h[..., 0] * lead_amps for g, h in zip(self.line, self.lead, strict=True))
        from_line = np.abs(over[:, 0])
        air = np.zeros_like(from_line)
        if coil is not None:
            air = np.abs(coil[0][:, 0, 0]) / np.maximum(from_line, 1e-30)
            over, across_y, across_z = (f + c[..., 0] for f, c in zip((over, across_y, across_z), coil, strict=True))
        peak = _extreme(self.offsets_m, -np.abs(across_y))
        null = _extreme(self.offsets_m, np.abs(across_z) + 1e-6 * np.abs(across_y))
        return UnitField(self.stations_m, self.receiver, np.abs(over), np.abs(peak - null), air)


@dataclass(frozen=True)
class UnitField:
    """Field magnitudes per unit of transmitter drive: `over_t` (n, 4) [T] at both coils, on the ground and lifted."""

    stations_m: Floats
    receiver: Receiver
    over_t: Floats
    peak_null_m: Floats
    air_share: Floats

    def read(self, drive: float, *, noise_t: float) -> Trace:
        """Return the readings at `drive` with `noise_t` [T rms] in each coil."""
        b = np.sqrt((self.over_t * drive) ** 2 + noise_t**2)
        r = self.receiver
        depth = electronic_depth(b[:, 0], b[:, 1], low_m=r.low_m, separation_m=r.separation_m)
        return Trace(
            distance_m=self.stations_m,
            b_low_t=b[:, 0],
            noise_share=noise_t / np.maximum(b[:, 0], 1e-30),
            depth_m=depth,
            depth_lifted_m=electronic_depth(b[:, 2], b[:, 3], low_m=r.low_m, separation_m=r.separation_m),
            current_a=2 * np.pi * (depth + r.low_m) * b[:, 0] / MU0,
            peak_null_m=self.peak_null_m,
            air_share=self.air_share,
        )


def _extreme(offsets_m: Floats, cost: Floats) -> Floats:
    """Return the offset (n,) [m] of the least `cost` (n, offsets), refined by a parabola on its square."""
    k = np.clip(cost.argmin(1), 1, len(offsets_m) - 2)
    rows = np.arange(len(k))
    x0, x1, x2 = offsets_m[k - 1], offsets_m[k], offsets_m[k + 1]
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
