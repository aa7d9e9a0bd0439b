"""Where the line really is: one or two conductors fitted to readings across it.

Long straight lines, seen from `low_m` above ground: B_h = mu0/(2 pi) sum I d/(y^2 + d^2), B_v with y instead of d,
y and d measured from each conductor. Fitted to magnitudes by weighted least squares; one conductor or two by the
corrected information criterion (Hurvich and Tsai 1989). A current's phase is known only against the first one's.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.optimize import least_squares
from scipy.special import gammaincinv

from vessel.core.base.arrays import Complex, Floats, Mask
from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.readings import MIN_ACROSS
from vessel.core.signal.physics.earth_return import MU0

READING_SPREAD = 0.01
"""Standard deviation of a receiver's signal against the greatest of the profile: display and hand."""
MIN_POINTS = MIN_ACROSS
_EXPLAINED = 1.3
_FIELD = MU0 / (2 * np.pi)
_TOGETHER = 0.95  # stated ranges hold for all positions and depths at once this often


@dataclass(frozen=True)
class ProfilePoint:
    """Signal [T] at `offset_m` (left positive) across the route; `vertical_t` None if not read."""

    offset_m: float
    horizontal_t: float
    vertical_t: float | None = None

    def __post_init__(self) -> None:
        require_range(self.offset_m, low=-20, high=20, field="offset_m", name="Offset", unit="m")
        for field in ("horizontal_t", "vertical_t"):
            value = getattr(self, field)
            if value is not None:
                require_range(value, low=0, high=1e-3, field=field, name="Signal", unit="T")


@dataclass(frozen=True)
class Conductor:
    """A fitted conductor; each `_pm` is the half-width that holds for all positions and depths together in 95 %."""

    offset_m: float
    offset_pm_m: float
    depth_m: float
    depth_pm_m: float
    current_a: complex


@dataclass(frozen=True)
class ProfileFit:
    """Conductors, greatest current first; where the fitted field peaks and nulls; how well it fits.

    `misfit` is the weighted residual per degree of freedom (1: as noisy as stated). `criterion` per number of
    conductors that was tried, lower is better.
    """

    conductors: tuple[Conductor, ...]
    peak_m: float
    null_m: float
    misfit: float
    criterion: dict[int, float]


def field_across(
    offsets_m: Floats, conductors: Sequence[tuple[float, float, complex]], *, low_m: float
) -> tuple[Floats, Floats]:
    """Return the field of parallel conductors across their run.

    Args:
        offsets_m: Offsets across, shape (n,) [m].
        conductors: Offset [m], depth [m] and complex current [A] of each.
        low_m: Height of the lower coil [m].

    Returns:
        Horizontal and vertical magnitude, each of shape (n,) [T].
    """
    total = np.zeros((2, len(offsets_m)), dtype=np.complex128)
    for x, depth, amps in conductors:
        unit = _FIELD / _away(offsets_m, x, depth + low_m)
        total += amps * np.array([unit.real, unit.imag])
    horizontal, vertical = np.abs(total)
    return horizontal, vertical


def _away(offsets_m: Floats, x: float, d: float) -> Complex:
    """Return w = d - i (offset - x): 1/w has d/r^2 and y/r^2, the shapes of both fields, as real and imaginary part."""
    return np.asarray(d - 1j * (offsets_m - x), dtype=np.complex128)


def fit_profile(points: Sequence[ProfilePoint], *, noise_t: float, low_m: float, most: int = 2) -> ProfileFit:
    """Fit one or two conductors to a profile.

    Args:
        points: Offset, signal and spread of each reading.
        noise_t: Rms noise in each coil [T].
        low_m: Height of the lower coil [m].
        most: How many conductors to try at most.

    Returns:
        The fit with its ranges.

    Raises:
        BadInput: If there are too few points or they fix no place.
    """
    if len(points) < MIN_POINTS:
        raise BadInput("too_few_across", field="profile", count=len(points), least=MIN_POINTS)
    data = _Data.of(points, noise_t=noise_t, low_m=low_m)
    single = _best(data, _single_starts(data), parameters=3)
    solutions = {1: single}
    if most > 1 and len(data.values) > 8:  # seven parameters and something left to judge them by
        solutions[2] = _best(data, _double_starts(data, single), parameters=7)
    criterion = {n: s.criterion(len(data.values)) for n, s in solutions.items()}
    best = solutions[min(criterion, key=lambda n: criterion[n])]
    return _described(best, data, criterion)


@dataclass(frozen=True)
class _Data:
    offsets_m: Floats
    has_vertical: Mask
    values: Floats
    sigma_t: float
    low_m: float

    @classmethod
    def of(cls, points: Sequence[ProfilePoint], *, noise_t: float, low_m: float) -> _Data:
        ordered = sorted(points, key=lambda p: p.offset_m)
        offsets = np.array([p.offset_m for p in ordered])
        if offsets[-1] - offsets[0] < 0.2:
            raise BadInput("profile_at_one_place", field="profile")
        horizontal = np.array([p.horizontal_t for p in ordered])
        if horizontal.max() <= 3 * noise_t:
            raise BadInput("profile_in_noise", field="profile")
        has = np.array([p.vertical_t is not None for p in ordered])
        vertical = np.array([p.vertical_t for p in ordered if p.vertical_t is not None])
        sigma = float(np.hypot(noise_t, READING_SPREAD * horizontal.max()))
        return cls(offsets, has, np.concatenate([horizontal, vertical]), sigma, low_m)

    def residuals(self, p: Floats) -> Floats:
        return (self._kept(np.abs(self._field(p)[0])) - self.values) / self.sigma_t

    def jacobian(self, p: Floats) -> Floats:
        total, slopes = self._field(p)
        # slope of a magnitude: the part of the phasor's slope that is in phase with it
        turn = np.conj(total) / np.maximum(np.abs(total), 1e-30)
        return np.stack([self._kept((turn * slope).real) for slope in slopes], axis=1) / self.sigma_t

    def _field(self, p: Floats) -> tuple[Complex, list[Any]]:
        """Phasors (2, n) of horizontal and vertical field, and their slopes by each parameter."""
        first, parts = float(np.exp(p[2])), []
        for x, depth, amps in _conductors(p):
            away = _away(self.offsets_m, x, depth + self.low_m)
            unit = _FIELD / away
            steeper = unit / away
            # slopes of 1/w: -i/w^2 by the conductor's place, -1/w^2 by its depth
            field, by_x, by_d = (np.array([w.real, w.imag]) for w in (unit, -1j * steeper, -depth * steeper))
            parts.append((amps * field, amps * by_x, amps * by_d, first * field))
        total = np.asarray(sum(part[0] for part in parts), dtype=np.complex128)
        slopes: list[Any] = [parts[0][1], parts[0][2], total]
        if len(parts) > 1:
            slopes += [parts[1][1], parts[1][2], parts[1][3], 1j * parts[1][3]]
        return total, slopes

    def _kept(self, both: Floats) -> Floats:
        return np.concatenate([both[0], both[1][self.has_vertical]])


@dataclass(frozen=True)
class _Solution:
    p: Floats
    cost: float
    jacobian: Floats

    def criterion(self, n: int) -> float:
        k = len(self.p)
        return self.cost + 2 * k + 2 * k * (k + 1) / max(n - k - 1, 1)


def _conductors(p: Floats) -> list[tuple[float, float, complex]]:
    """Parameters (x, ln d, ln I[, x, ln d, Re I2/I1, Im I2/I1]) as conductors."""
    first = float(np.exp(p[2]))
    found = [(float(p[0]), float(np.exp(p[1])), complex(first))]
    if len(p) > 3:
        found.append((float(p[3]), float(np.exp(p[4])), first * complex(p[5], p[6])))
    return found


def _solve(data: _Data, start: Floats) -> _Solution:
    width = float(np.ptp(data.offsets_m))
    middle = float(data.offsets_m.mean())
    low, high = [middle - width, np.log(0.02), -16.0], [middle + width, np.log(15.0), 3.0]
    if len(start) > 3:
        low += [middle - width, np.log(0.02), -3.0, 0.0]
        high += [middle + width, np.log(15.0), 3.0, 3.0]
    begin, most = np.clip(start, low, high), 60

    def inside(p: Floats) -> Floats:
        return np.clip(p, low, high)

    # the plain method is several times faster; where it leaves the limits, the one that keeps them begins again
    found = least_squares(
        lambda p: data.residuals(inside(p)), begin, jac=lambda p: data.jacobian(inside(p)), method="lm", max_nfev=most
    )
    if not ((low < found.x) & (found.x < high)).all():
        found = least_squares(data.residuals, begin, jac=data.jacobian, bounds=(low, high), max_nfev=most)
    return _Solution(found.x, float(2 * found.cost), found.jac)


def _best(data: _Data, starts: Sequence[Floats], *, parameters: int) -> _Solution:
    """Return the best solution; as soon as one explains the readings to their spread, no further start is tried."""
    found: _Solution | None = None
    for start in starts:
        each = _solve(data, start)
        found = each if found is None or each.cost < found.cost else found
        if found.cost < _EXPLAINED * max(len(data.values) - parameters, 1):
            break
    assert found is not None
    return found


def _single_starts(data: _Data) -> list[Floats]:
    n = len(data.offsets_m)
    peak = int(data.values[:n].argmax())
    starts = []
    for depth in (0.5, 1.5):
        amps = data.values[peak] * 2 * np.pi * (depth + data.low_m) / MU0
        starts.append(np.array([data.offsets_m[peak], np.log(depth), np.log(amps)]))
    return starts


def _double_starts(data: _Data, single: _Solution) -> list[Floats]:
    """The single conductor kept, a second one to either side, with it or against it."""
    depth = float(np.exp(single.p[1]))
    starts = []
    for side in (-1.0, 1.0):
        for ratio in (0.4, -0.4):
            second = [single.p[0] + side * 1.5 * depth, single.p[1], ratio, 0.1]
            starts.append(np.concatenate([single.p, second]))
    return starts


def _described(s: _Solution, data: _Data, criterion: dict[int, float]) -> ProfileFit:
    free = max(len(data.values) - len(s.p), 1)
    misfit = s.cost / free
    covariance = np.linalg.pinv(s.jacobian.T @ s.jacobian) * max(1.0, misfit)
    spread = np.sqrt(np.maximum(np.diag(covariance), 0.0))
    places = 2 * (1 if len(s.p) == 3 else 2)
    # the chi-squared quantile; scipy.stats would take a second to load for it
    together = float(np.sqrt(2.0 * gammaincinv(0.5 * places, _TOGETHER)))
    conductors = [
        Conductor(x, together * float(spread[3 * i]), d, together * d * float(spread[3 * i + 1]), amps)
        for i, (x, d, amps) in enumerate(_conductors(s.p))
    ]
    conductors.sort(key=lambda c: -abs(c.current_a))
    fine = np.linspace(data.offsets_m[0], data.offsets_m[-1], 2001)
    horizontal, vertical = field_across(fine, _conductors(s.p), low_m=data.low_m)
    near = np.abs(fine - conductors[0].offset_m) < 1.5 * conductors[0].depth_m
    near = near if near.any() else np.ones_like(near)
    peak = float(fine[near][horizontal[near].argmax()])
    null = float(fine[near][vertical[near].argmin()])
    return ProfileFit(tuple(conductors), peak, null, misfit, criterion)
