"""What a receiver shows of the field at its coils: signal, electronic depth, current, lift, peak and null.

Everything comes from that field, so air coupling, wrong depths at bends and lift failures emerge by themselves.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.kit import Receiver
from vessel.core.signal.physics.earth_return import MU0
from vessel.core.signal.physics.magnetic_field import electronic_depth

CLEAR_COS = 0.3
"""Share of a signal in step with the transmitter from which its direction shows: none within 17 degrees of 90."""
LIFT_M = 0.5
"""Height of the lift test in a simulated trace [m]."""


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


def shown(over_t: Complex, drive: Any, *, noise_t: Any, receiver: Receiver) -> Shown:
    """Return what the receiver shows of a field.

    Args:
        over_t: Field per unit at both coils, down and lifted, shape (..., 4) [T].
        drive: Output, in the unit the field is per, shape (...).
        noise_t: Rms noise in each coil, shape (...) [T].
        receiver: The kit's receiver.

    Returns:
        Depth, current, lift and the rest, each of shape (...).
    """
    drive, noise = (np.asarray(x)[..., None] for x in (drive, noise_t))
    b = np.sqrt((np.abs(over_t) * drive) ** 2 + noise**2)
    low, apart = receiver.low_m, receiver.separation_m
    depth = electronic_depth(b[..., 0], b[..., 1], low_m=low, separation_m=apart)
    return Shown(
        b_low_t=b[..., 0],
        noise_share=noise_t / np.maximum(b[..., 0], 1e-30),
        depth_m=depth,
        depth_lifted_m=electronic_depth(b[..., 2], b[..., 3], low_m=low, separation_m=apart),
        current_a=current_for(b[..., 0], depth_m=depth, low_m=low),
    )


def peak_and_null(offsets_m: Floats, horizontal: Complex, vertical: Complex) -> tuple[Floats, Floats]:
    """Return where peak and null are across the line.

    Args:
        offsets_m: Offsets, shape (k,) [m].
        horizontal: Horizontal field, shape (..., k) [T].
        vertical: Vertical field, shape (..., k) [T].

    Returns:
        Offset of the peak and of the null, each of shape (...) [m].
    """
    offsets = np.broadcast_to(offsets_m, horizontal.shape)
    peak = _extreme(offsets, -np.abs(horizontal))
    return peak, _extreme(offsets, np.abs(vertical) + 1e-6 * np.abs(horizontal))


def _extreme(offsets_m: Floats, cost: Floats) -> Floats:
    """Return the offset (...) [m] of the least `cost` (..., offsets), refined by a parabola on its square."""
    least = cost.argmin(-1)[..., None]
    k = np.clip(least, 1, offsets_m.shape[-1] - 2)

    def at(values: Floats, j: int) -> Floats:
        return np.asarray(np.take_along_axis(values, k + j, -1)[..., 0])

    x0, x1, x2 = (at(offsets_m, j) for j in (-1, 0, 1))
    sign = np.sign(at(cost, 0))
    f0, f1, f2 = (sign * at(cost, j) ** 2 for j in (-1, 0, 1))
    p, q = (x1 - x0) * (f1 - f2), (x1 - x2) * (f1 - f0)
    denominator = p - q
    safe = np.where(np.abs(denominator) > 0, denominator, 1.0)
    shift = 0.5 * ((x1 - x0) * p - (x1 - x2) * q) / safe
    refined = x1 - np.where(np.abs(denominator) > 0, shift, 0.0)
    # where the cost still falls at the last place nothing brackets it, and a parabola would point anywhere
    at_least = np.take_along_axis(offsets_m, least, -1)[..., 0]
    return np.asarray(
        np.where((least == k)[..., 0], np.clip(refined, np.minimum(x0, x2), np.maximum(x0, x2)), at_least)
    )


def signal_at(current_a: Any, *, depth_m: Any, low_m: float) -> Any:
    """Return the signal at the lower coil over a long straight line.

    Args:
        current_a: Current of the line [A].
        depth_m: Depth below ground [m].
        low_m: Height of the lower coil [m].

    Returns:
        mu0 I / (2 pi (depth + height)) [T].
    """
    return MU0 * current_a / (2 * np.pi * (depth_m + low_m))


def current_for(signal_t: Any, *, depth_m: Any, low_m: float) -> Any:
    """Return the current of a long straight line that gives a signal.

    Args:
        signal_t: Signal at the lower coil [T].
        depth_m: Depth below ground [m].
        low_m: Height of the lower coil [m].

    Returns:
        Current [A], the inverse of `signal_at`.
    """
    return signal_t * 2 * np.pi * (depth_m + low_m) / MU0
