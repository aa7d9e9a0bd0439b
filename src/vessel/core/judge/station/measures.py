"""How the criteria's measures are formed, for many stations at once.

Values that need no forming are named in the table by their place in the batch.

A measure is NaN where what it needs was not taken.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from vessel.core.judge.station.batch import Batch
from vessel.core.signal.physics.magnetic_field import depth_spread
from vessel.core.signal.receiver.instrument import signal_at


def signal_to_noise(b: Batch) -> Any:
    """Return the signal at the lower coil against the noise.

    Args:
        b: n stations.

    Returns:
        Times the noise, shape (n,).
    """
    return signal_at(b.amps, depth_m=b.depth_m, low_m=b.receiver.low_m) / b.noise_t


def forecast_tightness(b: Batch) -> Any:
    """Return how tight the forecast is.

    Args:
        b: n stations.

    Returns:
        Its low edge against its high one, shape (n,).
    """
    return _share(b.forecast_a[0], b.forecast_a[1])


def against_low_edge(b: Batch) -> Any:
    """Return the current against the low edge of the narrowest forecast.

    Args:
        b: n stations.

    Returns:
        Times that edge, shape (n,).
    """
    return own_amps(b) / np.maximum(b.expected_a[0], 1e-12)


def against_high_edge(b: Batch) -> Any:
    """Return the current against the high edge of the narrowest forecast.

    Args:
        b: n stations.

    Returns:
        Times that edge, shape (n,).
    """
    return own_amps(b) / np.maximum(b.expected_a[1], 1e-12)


def own_amps(b: Batch) -> Any:
    """Return the line's own current: what is shown without what the lines drawn beside it add or take.

    Args:
        b: n stations.

    Returns:
        Current, shape (n,) [A].
    """
    return b.amps / np.where(np.isnan(b.pull), 1.0, b.pull)


def lift_error(b: Batch) -> Any:
    """Return the error of the lift test against the lift, beyond what the explanations of the site have.

    Args:
        b: n stations.

    Returns:
        Share, shape (n,).
    """
    raw = _lift_error(b) / b.lift_m
    return np.where(np.isnan(b.lift_left), raw, b.lift_left)


def gap(b: Batch) -> Any:
    """Return the distance between peak and null beyond what the explanations of the site have.

    Args:
        b: n stations.

    Returns:
        Distance, shape (n,) [m].
    """
    return np.where(np.isnan(b.gap_left_m), b.peak_null_m, b.gap_left_m)


def lift_error_beyond_noise(b: Batch) -> Any:
    """Return the error of the lift test that the noise in two depths does not explain.

    A lift takes the receiver off the field. Lifts near by, all off the same way, say more than one of them.

    Args:
        b: n stations.

    Returns:
        Share of the lift, shape (n,).
    """
    r, share = b.receiver, 1 / np.maximum(signal_to_noise(b), 1e-9)
    lifted = share * (b.depth_m + b.lift_m + r.low_m) / (b.depth_m + r.low_m)
    noise = np.hypot(
        depth_spread(b.depth_m, share, low_m=r.low_m, separation_m=r.separation_m),
        depth_spread(b.depth_m + b.lift_m, lifted, low_m=r.low_m, separation_m=r.separation_m),
    )
    own = np.maximum(lift_error(b) - noise / b.lift_m, 0.0)
    return np.where(np.isnan(b.lift_along), own, np.maximum(own, b.lift_along))


def lopsided(b: Batch) -> Any:
    """Return how far signals equally far from the peak differ, or may by what the explanations of the site leave.

    Args:
        b: n stations.

    Returns:
        The lesser of the two, a share of the peak, shape (n,).
    """
    return _or_left(b.lopsided, b.lopsided_left)


def misfit(b: Batch) -> Any:
    """Return the misfit of the lines fitted to the readings across, or of the explanations of the site.

    Args:
        b: n stations.

    Returns:
        The lesser of the two, times a steady hand's, shape (n,).
    """
    return _or_left(b.misfit, b.misfit_left)


def best_neighbour(b: Batch) -> Any:
    """Return the best current on a neighbour against the line's own.

    Args:
        b: n stations.

    Returns:
        Share, shape (n,).
    """
    return _share(b.neighbour_a, b.amps)


def depth_outside(b: Batch) -> Any:
    """Return how far the depth is outside the expected range.

    Args:
        b: n stations.

    Returns:
        Share of the edge that it passes, shape (n,).
    """
    low, high = b.depth_range_m
    return np.maximum(np.maximum(0.0, (low - b.depth_m) / low), (b.depth_m - high) / high)


def from_end(b: Batch) -> Any:
    """Return the distance to the hookup or the nearer end.

    Args:
        b: n stations.

    Returns:
        Depths of the line, shape (n,).
    """
    return _in_depths(b, b.end_m)


def from_turn(b: Batch) -> Any:
    """Return the distance to the nearest bend or tee.

    Args:
        b: n stations.

    Returns:
        Depths of the line, shape (n,).
    """
    return _in_depths(b, b.turn_m)


def from_crossing(b: Batch) -> Any:
    """Return the distance to the nearest line that crosses.

    Args:
        b: n stations.

    Returns:
        Depths of the line, shape (n,).
    """
    return _in_depths(b, b.crossing_m)


def jump(b: Batch) -> Any:
    """Return how far depth and current both jump since the station before, against the forecast.

    Args:
        b: n stations.

    Returns:
        The lesser of the two logarithms, shape (n,).
    """
    expected = np.maximum(0.5 * (b.forecast_a[0] + b.forecast_a[1]), 1e-12) / np.maximum(b.before_forecast_a, 1e-12)
    with np.errstate(divide="ignore", invalid="ignore"):
        current = np.abs(np.log(b.amps / b.before_a / expected))
        depth = np.abs(np.log(b.depth_m / b.before_depth_m))
    # a current of none is no jump to be measured: other rules hold it
    return np.where((b.amps > 0) & (b.before_a > 0), np.minimum(current, depth), np.nan)


def gain_drift(b: Batch) -> Any:
    """Return how far the signal's change is off what current and depth make of it, at one gain.

    Args:
        b: n stations.

    Returns:
        Logarithm of the factor, shape (n,).
    """
    if np.isnan(b.signal).all():
        return np.nan
    now, before = (
        signal_at(amps, depth_m=depth, low_m=b.receiver.low_m)
        for amps, depth in ((b.amps, b.depth_m), (b.before_a, b.before_depth_m))
    )
    with np.errstate(divide="ignore", invalid="ignore"):
        off = np.abs(np.log(b.signal / b.before_signal * before / now))
    return np.where(np.isfinite(off), off, np.nan)


def _or_left(read: Any, left: Any) -> Any:
    """The lesser of what was read and what is left of it where it was weighed; NaN where nothing was read."""
    return np.where(np.isnan(read), np.nan, np.fmin(read, left))


def _share(part: Any, of: Any) -> Any:
    """`part` against `of`, beyond measure where there is none; NaN stays."""
    with np.errstate(divide="ignore", invalid="ignore", over="ignore"):
        return np.where(np.asarray(of) == 0, np.where(np.isnan(part), np.nan, np.inf), part / of)


def _lift_error(b: Batch) -> Any:
    return np.abs(b.lifted_m - b.depth_m - b.lift_m)


def _in_depths(b: Batch, distance_m: Any) -> Any:
    return distance_m / np.where(np.isnan(b.depth_m), 0.5 * sum(b.depth_range_m), b.depth_m)
