"""Readings across the line at a station: one line or two, where, how deep, and what to do about it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from vessel.core.base.errors import BadInput
from vessel.core.judge.across.conductor_fit import ProfileFit, ProfilePoint, fit_profile
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading
from vessel.core.signal.receiver.instrument import signal_at

NOT_EXPLAINED = 6.0
"""Weighted residual per degree of freedom beyond which straight lines do not explain a profile."""
_PLACED = 0.35  # of its depth: a line known less well than that is not placed
_UNKNOWN_T = 1e-8  # what the greatest signal is taken to be where no current says: only shapes count then
_UNKNOWN_NOISE = 1e-3


@dataclass(frozen=True)
class AcrossFit:
    """The fit of a station's profile; `scaled`: its currents are real ones, scaled by the current read there.

    `blurred`: one line does not explain the readings, and they do not tell where two would lie; `fit` is that of one.
    `misfit`: weighted residual per degree of freedom of the lines that explain them best, two where it is blurred.
    """

    fit: ProfileFit
    points: tuple[ProfilePoint, ...]
    scaled: bool
    blurred: bool
    misfit: float

    @property
    def explained(self) -> bool:
        """Whether one or two straight lines explain the readings."""
        return self.misfit <= NOT_EXPLAINED

    @property
    def places(self) -> bool:
        """Whether the readings tell where the line is: explained, and its depth known well enough to count."""
        first = self.fit.conductors[0]
        return self.explained and not self.blurred and first.depth_pm_m < _PLACED * first.depth_m


@lru_cache(maxsize=1024)
def placed_across(r: StationReading, *, noise_t: float, receiver: Receiver) -> AcrossFit | None:
    """Return the fit of a station's readings across, if they fix a place.

    Judge, estimate and picture ask for this one. Readings that fix no place come from files, which cannot be asked.

    Args:
        r: Readings at one station.
        noise_t: Rms noise in each coil [T].
        receiver: The kit's receiver.

    Returns:
        The fit as `fit_across` makes it; None without readings across or if they fix no place.
    """
    try:
        return fit_across(r, noise_t=noise_t, receiver=receiver)
    except BadInput:
        return None


def fit_across(r: StationReading, *, noise_t: float, receiver: Receiver) -> AcrossFit | None:
    """Fit one or two lines to a station's readings across.

    Signals are compared at one gain; current and depth read at the peak give them their size.

    Args:
        r: Readings at one station.
        noise_t: Rms noise in each coil [T].
        receiver: The kit's receiver.

    Returns:
        The fit; None without readings across.

    Raises:
        BadInput: If the readings fix no place.
    """
    if not r.profile:
        return None
    greatest = max(signal for _, signal in r.profile)
    scaled = bool(r.current_a) and r.depth_m is not None
    size = float(signal_at(r.current_a, depth_m=r.depth_m, low_m=receiver.low_m)) if scaled else _UNKNOWN_T
    unit = size / greatest if greatest > 0 else 0.0
    points = tuple(ProfilePoint(at, signal * unit) for at, signal in r.profile)
    noise = noise_t if scaled else _UNKNOWN_NOISE * size
    fit = fit_profile(points, noise_t=noise, low_m=receiver.low_m)
    misfit = fit.misfit
    blurred = misfit <= NOT_EXPLAINED and not _resolved(fit)
    if blurred:
        fit = fit_profile(points, noise_t=noise, low_m=receiver.low_m, most=1)
    return AcrossFit(fit, points, scaled, blurred, misfit)


def _resolved(fit: ProfileFit) -> bool:
    """Whether a fit of two lines tells where they are: apart by more than its ranges, the stronger one well placed."""
    if len(fit.conductors) == 1:
        return True
    first, second = fit.conductors
    apart = abs(first.offset_m - second.offset_m) > first.offset_pm_m + second.offset_pm_m
    return apart and first.offset_pm_m < _PLACED * first.depth_m and first.depth_pm_m < _PLACED * first.depth_m
