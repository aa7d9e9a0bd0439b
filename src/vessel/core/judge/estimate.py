"""The best estimate of depth and position at a station, from the depth on the ground, the lift and peak against null.

What pulls the field sideways makes the depth wrong, and the lift by about as much again: the lift's error is taken
off, as far as it is not the noise of two depths. The weights were fitted to sites traced on simulated ground
(docs/validation.md); the ranges hold there in 95 %.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.model.kit import Receiver
from vessel.core.model.reading import StationReading
from vessel.core.signal.field import depth_spread
from vessel.core.signal.receiver import signal_at

_FROM_DISTORTION = 0.9
_DISTORTION_M = 0.05  # how much other lines usually change a lift
_LEFT_OVER_M, _LEFT_OVER = 0.045, 0.5  # what stays uncertain once the lift's error is taken off
_UNLIFTED_M = 0.08
_SIDE_M, _SIDE = 0.02, 0.9
_TWO_SIGMA = 2.0


@dataclass(frozen=True)
class Estimate:
    """Depth [m] with its half-range that holds in 95 %, and how far aside of the peak the line may lie [m].

    `lifted`: a lift is part of it. `offset_pm_m` None: peak and null were not both found.
    """

    depth_m: float
    depth_pm_m: float
    lifted: bool
    offset_pm_m: float | None


def best_estimate(r: StationReading, *, noise_t: float, receiver: Receiver) -> Estimate | None:
    """Return the best estimate at a station, None without depth or current. `noise_t` [T rms] in each coil."""
    if r.depth_m is None or not r.current_a:
        return None
    low, apart = receiver.low_m, receiver.separation_m
    share = noise_t / float(signal_at(r.current_a, depth_m=r.depth_m, low_m=low))
    own = float(depth_spread(r.depth_m, share, low_m=low, separation_m=apart))
    aside = None if r.peak_null_m is None else _SIDE_M + _SIDE * r.peak_null_m
    if r.lift_height_m is None or r.depth_lifted_m is None:
        return Estimate(r.depth_m, _TWO_SIGMA * float(np.hypot(own, _UNLIFTED_M)), False, aside)
    up = r.depth_m + r.lift_height_m
    lifted = float(depth_spread(up, share * (up + low) / (r.depth_m + low), low_m=low, separation_m=apart))
    error = r.depth_lifted_m - up
    weight = _FROM_DISTORTION * _DISTORTION_M**2 / (_DISTORTION_M**2 + own**2 + lifted**2)
    spread = np.sqrt(((1 + weight) * own) ** 2 + (weight * lifted) ** 2 + _LEFT_OVER_M**2 + (_LEFT_OVER * error) ** 2)
    # a lift that fails outright corrects nothing: it only widens the range
    shift = weight * error if abs(error) < r.lift_height_m else 0.0
    return Estimate(max(r.depth_m - shift, 0.01), _TWO_SIGMA * float(spread), True, aside)
