"""The best estimate of depth and position at a station, from all that was read there.

What pulls the field sideways makes the depth wrong, and the lift by about as much again: the lift's error is taken
off, as far as it is not the noise of two depths. Readings across the line place it by the shape of the field, which
tells depth and place without the display: both depths are weighed by their ranges. The weights were fitted to sites
traced on simulated ground (docs/validation.md); the ranges hold there in 95 %.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from vessel.core.judge.across.cross_section import placed_across
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading
from vessel.core.signal.physics.magnetic_field import depth_spread
from vessel.core.signal.receiver.instrument import signal_at
from vessel.core.signal.receiver.return_undone import Undoing

_FROM_DISTORTION = 0.9
_DISTORTION_M = 0.05  # how much other lines usually change a lift
_LEFT_OVER_M, _LEFT_OVER = 0.045, 0.5  # what stays uncertain once the lift's error is taken off
_UNLIFTED_M = 0.08
_SIDE_M, _SIDE = 0.02, 0.9
_TWO_SIGMA = 2.0
# what shape does not tell of depth and place; how far aside the line may be where no null was read, and how well
# anybody stands on a peak
_SHAPE_M, _ASIDE_M, _UNSEEN_M, _HAND_M = 0.09, 0.10, 0.15, 0.05


@dataclass(frozen=True)
class Estimate:
    """Depth [m] with its half-range that holds in 95 %, and how far aside of the peak the line may lie [m].

    `lifted`: a lift is part of it. `offset_pm_m` None: peak and null were not both found. `across`: readings across the
    line are part of it; they place it `offset_m` [m] beside the peak, left positive, else it is taken to be under it.
    """

    depth_m: float
    depth_pm_m: float
    lifted: bool
    offset_pm_m: float | None
    across: bool = False
    offset_m: float = 0.0


def best_estimate(
    r: StationReading, *, noise_t: float, receiver: Receiver, free: Undoing | None = None
) -> Estimate | None:
    """Return the best estimate of depth and place at a station.

    Display, lift and readings across are weighed by their ranges.

    Args:
        r: Readings at one station.
        noise_t: Rms noise in each coil [T].
        receiver: The kit's receiver.
        free: What undoes the return current in the soil; None: nothing to undo.

    Returns:
        The estimate; None without depth or current.
    """
    if free is not None and r.depth_m is not None:
        known = float(free.spread(np.array(r.depth_m)))
        best = best_estimate(free.reading(r), noise_t=noise_t, receiver=receiver)
        return best and replace(best, depth_pm_m=float(np.hypot(best.depth_pm_m, _TWO_SIGMA * known * best.depth_m)))
    shown = _as_shown(r, noise_t=noise_t, receiver=receiver)
    fitted = placed_across(r, noise_t=noise_t, receiver=receiver)
    if shown is None or fitted is None or not fitted.places:
        return shown
    first = fitted.fit.conductors[0]
    depth_m, depth_pm_m = _weighed(
        (shown.depth_m, shown.depth_pm_m), (first.depth_m, float(np.hypot(first.depth_pm_m, _SHAPE_M)))
    )
    placed = first.offset_m, float(np.hypot(first.offset_pm_m, _ASIDE_M))
    if len(fitted.fit.conductors) == 1:
        # where nothing else pulls it, the peak itself is as good a witness
        placed = _weighed((0.0, max(shown.offset_pm_m or _UNSEEN_M, _HAND_M)), placed)
    return Estimate(depth_m, depth_pm_m, shown.lifted, placed[1], True, placed[0])


def _weighed(a: tuple[float, float], b: tuple[float, float]) -> tuple[float, float]:
    """Two values with their half-ranges as one, each by what its range is worth; what they contradict stays open."""
    (x, x_pm), (y, y_pm) = a, b
    both = float(np.hypot(x_pm, y_pm))
    return (x * y_pm**2 + y * x_pm**2) / both**2, float(np.hypot(x_pm * y_pm / both, x - y))


def _as_shown(r: StationReading, *, noise_t: float, receiver: Receiver) -> Estimate | None:
    """What depth, lift, peak and null say, readings across left out."""
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
