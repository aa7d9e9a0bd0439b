"""What somebody who follows a peak reads over a few long conductors: closed forms, many explanations at once.

The field of long straight currents I at (o, h) below the ground, at (x, z): horizontal
(mu0/2 pi) sum I (h + z) / r^2, vertical (mu0/2 pi) sum I (x - o) / r^2, r^2 = (x - o)^2 + (h + z)^2.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.model.kit import Receiver
from vessel.core.signal.physics.magnetic_field import electronic_depth
from vessel.core.signal.receiver.instrument import LIFT_M

_SCAN_M = np.linspace(-1.5, 1.5, 31)
_STEP_M = _SCAN_M[1] - _SCAN_M[0]
_AROUND_M = np.linspace(-0.6, 2.4, 13)  # where another's centre line may show: a current the other way pushes it out
_OWN_M = 0.5  # a centre line nearer than this is the own one
_SILENT = 1e-7


@dataclass(frozen=True, eq=False)
class Apparent:
    """Over the followed peak, each of the filaments' leading shape: what is read there and where that is.

    `offset_m`: left of the first filament [m]; `depth_m` and `current` as displayed, the current in the unit of the
    filaments'; `lift`: error of a lift against its height; `gap_m`: peak to null [m]; `runs`: the share of
    the field in step with the transmitter, 1 with a current along the line, -1 with one against it.
    """

    offset_m: Floats
    depth_m: Floats
    current: Floats
    lift: Floats
    gap_m: Floats
    runs: Floats


def fields(amps: Any, offset_m: Any, depth_m: Any, x_m: Any, height_m: Any) -> tuple[Complex, Complex]:
    """Return horizontal and vertical field of long conductors.

    Args:
        amps: Currents, shape (..., m).
        offset_m: Their offsets, shape (..., m) [m].
        depth_m: Their depths, shape (..., m) [m].
        x_m: Where it is read, shape (..., k) [m].
        height_m: Height above ground [m].

    Returns:
        Both (..., k), in units of mu0 / (2 pi) A/m.
    """
    across = x_m[..., None, :] - offset_m[..., None]
    down = (depth_m + height_m)[..., None]
    pull = amps[..., None] / (across**2 + down**2)
    return (pull * down).sum(-2), (pull * across).sum(-2)


def apparent(amps: Complex, offset_m: Floats, depth_m: Floats, follows: Floats, receiver: Receiver) -> Apparent:
    """Return what is read over the peak nearest to the followed conductor.

    Args:
        amps: Currents, shape (..., m).
        offset_m: Their offsets, shape (..., m) [m].
        depth_m: Their depths, shape (..., m) [m].
        follows: Offset of the one that is followed, shape (...) [m].
        receiver: The kit's receiver.

    Returns:
        Readings, each of shape (...).
    """
    x = follows[..., None] + _SCAN_M
    horizontal, vertical = _scanned(amps, offset_m, depth_m, x, receiver.low_m)
    peak = _refined(x, -horizontal, _nearest_top(horizontal), _STEP_M)
    silent = horizontal.max(-1) < _SILENT  # no field, no peak to be led astray by
    peak = np.where(silent, follows, peak)
    null = _refined(x, vertical**2, np.where(np.abs(x - peak[..., None]) < 1.0, vertical, np.inf).argmin(-1), _STEP_M)
    at_coils = [
        fields(amps, offset_m, depth_m, peak[..., None], z)[0][..., 0]
        for z in (receiver.low_m, receiver.high_m, receiver.low_m + LIFT_M, receiver.high_m + LIFT_M)
    ]
    low, apart = receiver.low_m, receiver.separation_m
    b = [np.maximum(np.abs(each), 1e-300) for each in at_coils]
    depth = np.nan_to_num(electronic_depth(b[0], b[1], low_m=low, separation_m=apart), nan=20.0)
    lifted = np.nan_to_num(electronic_depth(b[2], b[3], low_m=low, separation_m=apart), nan=20.0)
    current = b[0] * (depth + low)
    return Apparent(
        peak,
        depth,
        current,
        np.clip((lifted - depth - LIFT_M) / LIFT_M, -3, 3),
        np.abs(peak - null),
        at_coils[0].real / b[0],
    )


def _scanned(amps: Complex, offset_m: Floats, depth_m: Floats, x_m: Floats, low_m: float) -> tuple[Floats, Floats]:
    """Strength of both fields at many places across, with the digits that finding a peak needs."""
    horizontal, vertical = _parts(amps, offset_m, depth_m + low_m, x_m, (True, True))
    return np.hypot(*horizontal), np.hypot(*vertical)


def _horizontal(amps: Complex, offset_m: Floats, depth_m: Floats, x_m: Floats, height_m: float) -> Floats:
    """Strength of the horizontal field alone, with as many digits."""
    ((real, imaginary),) = _parts(amps, offset_m, depth_m + height_m, x_m, (True, False))
    return np.hypot(real, imaginary)


def _parts(
    amps: Complex, offset_m: Floats, down_m: Floats, x_m: Floats, which: tuple[bool, bool]
) -> list[tuple[Floats, Floats]]:
    """In step and out of step, the horizontal and the vertical field at many places across, those that are wanted.

    Conductor by conductor, so that what is in between stays in the processor's cache.
    """
    real, imaginary, offset, down = (
        each.astype(np.float32)[..., None] for each in (amps.real, amps.imag, offset_m, down_m)
    )
    x = x_m.astype(np.float32)
    parts = np.zeros((sum(which), 2, *x.shape), dtype=np.float32)
    for k in range(amps.shape[-1]):
        if not amps[..., k].any():
            continue
        across = x - offset[..., k, :]
        pull = across * across
        pull += down[..., k, :] ** 2
        np.reciprocal(pull, out=pull)
        ways = [way for way, wanted in ((down[..., k, :], which[0]), (across, which[1])) if wanted]
        for part, way in zip(parts, ways, strict=True):
            field = pull * way
            part[0] += field * real[..., k, :]
            part[1] += field * imaginary[..., k, :]
    return [(part[0], part[1]) for part in parts]


def _nearest_top(strength: Floats) -> Index:
    """Index of the local maximum nearest to the middle of the scan; of the greatest where there is none."""
    inner = strength[..., 1:-1]
    top = (inner >= strength[..., :-2]) & (inner > strength[..., 2:])
    away = np.abs(np.arange(1, strength.shape[-1] - 1) - strength.shape[-1] // 2)
    nearest = np.where(top, away, 10_000).argmin(-1) + 1
    return np.asarray(np.where(top.any(-1), nearest, strength.argmax(-1)))


def _refined(x: Floats, cost: Floats, at: Index, step: Any) -> Floats:
    """The least `cost` near index `at`, by a parabola."""
    k = np.clip(at, 1, x.shape[-1] - 2)[..., None]
    f = [np.take_along_axis(cost, k + j, -1)[..., 0] for j in (-1, 0, 1)]
    bend = f[0] - 2 * f[1] + f[2]
    shift = np.where(np.abs(bend) > 0, 0.5 * (f[0] - f[2]) / np.where(bend == 0, 1.0, bend), 0.0)
    return np.asarray(np.take_along_axis(x, k, -1)[..., 0] + np.clip(shift, -1, 1) * step)


def shown_beside(amps: Complex, offset_m: Floats, depth_m: Floats, peak_m: Floats, receiver: Receiver) -> Floats:
    """Return the greatest current that is shown over another centre line than the followed one.

    Args:
        amps: Currents, shape (..., m).
        offset_m: Their offsets, shape (..., m) [m].
        depth_m: Their depths, shape (..., m) [m].
        peak_m: Where the followed peak is, shape (...) [m].
        receiver: The kit's receiver.

    Returns:
        In the unit of the currents, shape (...); 0 where no other centre line shows.
    """
    outwards = np.where(offset_m < peak_m[..., None], -1.0, 1.0)
    x = offset_m[..., None] + outwards[..., None] * _AROUND_M  # (..., m, k)
    strength = _horizontal(amps, offset_m, depth_m, x.reshape(*x.shape[:-2], -1), receiver.low_m).reshape(x.shape)
    inner = strength[..., 1:-1]
    tops = np.where((inner >= strength[..., :-2]) & (inner > strength[..., 2:]), inner, 0.0)
    top_m = _refined(x, -strength, tops.argmax(-1) + 1, outwards * (_AROUND_M[1] - _AROUND_M[0]))  # (..., m)
    met = tops.any(-1) & (np.abs(top_m - peak_m[..., None]) > _OWN_M)
    low, high = (_horizontal(amps, offset_m, depth_m, top_m, z) for z in (receiver.low_m, receiver.high_m))
    with np.errstate(divide="ignore", invalid="ignore"):
        depth = electronic_depth(low, high, low_m=receiver.low_m, separation_m=receiver.separation_m)
        shown = np.where(met, np.nan_to_num(low * (depth + receiver.low_m)), 0.0)
    return np.asarray(shown.max(-1))
