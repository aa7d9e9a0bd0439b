"""How well explanations foretold what was read, each as the logarithm of a likelihood.

The logarithm of the currents is normal with what the forecast leaves open in common and a smooth error of the model;
lift, null, a look aside and readings across have heavy tails (Student, four degrees), for a hand errs more often than
a normal error allows.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.at_stations import AtStations, Noise
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.signal.receiver.instrument import CLEAR_COS

TOGETHER = 0.5
"""Stations of one trace are no independent witnesses of which explanation holds: how much each counts."""
_SMOOTH_SPREAD, _SMOOTH_M = 0.05, 25.0  # what a model is off by together over a stretch
_LIFT_SPREAD, _NULL_SPREAD_M = 0.06, 0.045
_BESIDE_SPREAD, _FAINTEST_A = 0.5, 1e-9
_MISSED, _MISSED_MOST = (
    -1.0,
    -3.0,
)  # a centre line that should have been met beside and was not, at a station and in all
_MET, _SHOWS = 0.05, 0.12  # of the own current: met beside, and expected to be met
_APART = 0.8  # stations are nearly independent witnesses of where conductors lie
_READ_RIGHT = 0.97  # how often a clear direction is read right
_FURTHEST = 1.2  # a current further off than this, as a logarithm, speaks no louder
_BEYOND = 0.15  # how sharply a depth beyond the expected ones is doubted, as a logarithm
_RECORDS_M, _RECORDS_OWN_M = 1.0, 0.3  # how far a line is off its drawing, alike all along and at each place
_RECORDS_MOST = -3.0
_OHMS_SPREAD, _STAKE_SPREAD, _OPEN_OHMS = 0.10, 0.45, 1.0


@dataclass(frozen=True, eq=False)
class CurrentDoubt:
    """What the forecast of the current leaves open at s stations, as logarithms: k common factors and each reading.

    `common` (k, s): one standard deviation of each factor; `own` (s,): of each reading.
    """

    common: Floats
    own: Floats


def of_ohms(every: Sequence[Explanation], ohms: float, stake_ohm: float) -> Floats:
    """Return what the transmitter's ohms say of each explanation; the stake may be off, and is taken at its best.

    Args:
        every: h explanations.
        ohms: What the transmitter showed [ohm].
        stake_ohm: Stake and clip by their formula [ohm].

    Returns:
        Logarithm of the likelihood, shape (h,).
    """
    factors = np.exp(np.linspace(-1.1, 1.1, 23))
    loops = np.array([complex(np.nan) if e.loop_ohm is None else e.loop_ohm for e in every])
    predicted = np.abs(loops[:, None] + stake_ohm * factors)
    cost = (np.log(ohms / predicted) / _OHMS_SPREAD) ** 2 + (np.log(factors) / _STAKE_SPREAD) ** 2
    best = -0.5 * np.minimum(cost.min(1), 25.0)
    # a rival's far end and soil are as open as the line's own: what other ohms they have does not rule it out
    entered = np.array([e.kind is None for e in every])
    least = np.nanmax(np.where(entered, best, np.nan)) - _OPEN_OHMS
    return np.asarray(np.where(entered, best, np.maximum(np.where(np.isnan(best), least, best), least)))


def heavy(z: Floats) -> Floats:
    """Return the logarithm of Student's density with four degrees of freedom, at its top 0.

    Args:
        z: Residuals in standard deviations, any shape.

    Returns:
        Logarithms, of the same shape.
    """
    return np.asarray(-2.5 * np.log1p(z * z / 4.0))


def of_stations(
    used: UsedStations,
    there: AtStations,
    log_amps: Floats,
    doubt: CurrentDoubt,
    depth_range_m: tuple[float, float],
    noise: Noise,
) -> Floats:
    """Return what current, depth, lift, null and a look aside say of each explanation.

    Args:
        used: s stations with depth and current.
        there: What h explanations show at them.
        log_amps: Logarithm of the current read against the drive, shape (s,).
        doubt: What the forecast of the current leaves open.
        depth_range_m: Least and greatest depth expected of the line [m].
        noise: What the noise does to depths.

    Returns:
        Logarithm of the likelihood, shape (h,).
    """
    shape = shape_residuals(used, there, noise, depth_range_m)
    total = _of_currents(there, log_amps, doubt) + TOGETHER * heavy(shape).sum(1)
    return np.asarray(total + of_looks(used, there))


def shape_residuals(used: UsedStations, there: AtStations, noise: Noise, depth_range_m: tuple[float, float]) -> Floats:
    """Return how far depth, lift and null are off what each explanation has, against their doubt.

    Args:
        used: s stations with depth and current.
        there: What h explanations show at them.
        noise: What the noise does to depths.
        depth_range_m: Least and greatest depth expected of the line [m].

    Returns:
        Standard deviations, shape (h, 3 s); 0 where nothing was read.
    """
    low, high = (np.log(d) for d in depth_range_m)
    true = np.log(there.true_depth_m)
    beyond = np.maximum(np.maximum(low - true, true - high), 0.0) / _BEYOND
    restless = np.hypot(noise.depth_m, noise.lifted_m) / used.lift_height_m
    lift_spread = np.sqrt(_LIFT_SPREAD**2 + restless**2 + (0.3 * there.lift) ** 2)
    lift = (used.lift_error - there.lift) / lift_spread
    null = (used.peak_null_m - there.gap_m) / np.hypot(_NULL_SPREAD_M, 0.3 * there.gap_m)
    return np.asarray(np.nan_to_num(np.concatenate([beyond, lift, null], axis=1)))


def heavy_weights(z: Floats) -> Floats:
    """Return how much residuals count in least squares as Student's density has them.

    Args:
        z: Residuals in standard deviations, any shape.

    Returns:
        Weights, of the same shape.
    """
    return np.asarray(_APART * 5.0 / (4.0 + z * z))


def _of_currents(there: AtStations, log_amps: Floats, doubt: CurrentDoubt) -> Floats:
    """Normal with common factors: r' (D + J'J)^-1 r by Woodbury's formula."""
    r = np.clip(log_amps[None] - there.log_current, -_FURTHEST, _FURTHEST)
    scaled = r / doubt.own
    j = doubt.common / doubt.own
    inner = np.eye(len(j)) + j @ j.T
    shared = scaled @ j.T
    quadratic = (scaled**2).sum(1) - np.einsum("hk,hk->h", shared, np.linalg.solve(inner, shared.T).T)
    return np.asarray(-0.5 * quadratic)


def of_looks(used: UsedStations, there: AtStations) -> Floats:
    """Return what looks aside say of each explanation: what was found there against what should have been.

    Args:
        used: s stations with depth and current.
        there: What h explanations show at them.

    Returns:
        Logarithm of the likelihood, shape (h,).
    """
    read = used.neighbour_a / np.maximum(used.current_a, _FAINTEST_A)
    expected = there.beside
    shows = expected > _SHOWS
    with np.errstate(divide="ignore", invalid="ignore"):
        met = TOGETHER * heavy(np.log(read / np.maximum(expected, _MET)) / _BESIDE_SPREAD)
    none = np.where(shows, _MISSED, 0.0)
    of_it = np.where(read > _MET, np.where(shows, met, _MISSED), none)
    of_it = np.where(np.isnan(read), 0.0, of_it)  # who did not look has missed nothing
    return np.asarray(np.maximum(np.nan_to_num(of_it).sum(1), _MISSED_MOST))


def of_records(used: UsedStations, there: AtStations, sided: Floats) -> Floats:
    """Return what the places of stations, against the line as drawn, say of each explanation.

    A drawing is off by much the same all along a line, and a little more or less at each place; it may be quite wrong.

    Args:
        used: s stations with depth and current.
        there: What h explanations show at them.
        sided: Above 0 for what lies on one side of the line, 0 for what may lie on either, shape (h,).

    Returns:
        Logarithm of the likelihood, shape (h,).
    """
    placed = ~np.isnan(used.placed_m)
    if not placed.any():
        return np.zeros(len(sided))
    weight = 1.0 / (_RECORDS_OWN_M**2 + used.placed_pm_m[placed] ** 2)

    def on(side: float) -> Floats:
        off = used.placed_m[placed] - side * there.offset_m[:, placed]
        together = (off * weight).sum(1) ** 2 / (_RECORDS_M**-2 + weight.sum())
        return np.asarray(np.maximum(-0.5 * ((off**2 * weight).sum(1) - together), _RECORDS_MOST))

    return np.asarray(np.where(sided > 0, on(1.0), np.logaddexp(on(1.0), on(-1.0)) - np.log(2.0)))


def of_directions(used: UsedStations, there: AtStations, hookup_m: float) -> Floats:
    """Return what the direction of the current says of each explanation; near a quarter turn it may be read either way.

    Args:
        used: s stations with depth and current.
        there: What h explanations show at them.
        hookup_m: Where along the line it is hooked up [m].

    Returns:
        Logarithm of the likelihood, shape (h,).
    """
    told = np.nan_to_num(used.away * np.sign(used.distance_m - hookup_m))
    clear = np.clip(told * there.runs / CLEAR_COS, -1.0, 1.0)
    right = 0.5 + (_READ_RIGHT - 0.5) * clear
    return np.asarray(TOGETHER * np.log(2.0 * right).sum(1))


def smooth_doubt(at_m: Floats) -> Floats:
    """Return what a model is off by together over stretches, as common factors.

    Args:
        at_m: Distances of s stations [m].

    Returns:
        One hat function for each stretch, shape (k, s), as logarithms.
    """
    if not len(at_m):
        return np.zeros((0, 0))
    knots = np.arange(at_m.min(), at_m.max() + _SMOOTH_M, _SMOOTH_M)
    return np.asarray(_SMOOTH_SPREAD * np.maximum(0.0, 1 - np.abs(at_m[None] - knots[:, None]) / _SMOOTH_M))
