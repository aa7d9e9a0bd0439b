"""Where a wire ends that tapers to nothing: at its open end, at a break, at a valve whose coil is open to the signal.

An insulated wire with an open end carries only the charging current of what lies further on. The current therefore
falls along a known curve, and from a few stations the place follows where nothing is left, before anybody is there.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats

LEAST_STATIONS = 4
_MODEL = 0.03  # of the current: what the curve leaves out
_PLACE_M = 0.15  # how well a distance along the line is measured
_FALLS_TO = 0.6  # of the current at the first station: less of a fall tells no place
_AHEAD = 0.7  # of the stretch that was walked: further on than this the curve is not trusted
_STEPS, _MANY = 600, 200
_CHI95, _MISFIT = 3.84, 2.5


@dataclass(frozen=True)
class TaperedEnd:
    """Where the current tapers to nothing [m], with the range that holds it in 95 %.

    `scale_a`: A of the curve [A].
    """

    at_m: float
    low_m: float
    high_m: float
    scale_a: float

    def current_at(self, distance_m: float, gamma: complex) -> float:
        """Return the current that the curve has at a place.

        Args:
            distance_m: Distance along the line [m].
            gamma: Propagation constant of the line [1/m].

        Returns:
            Current [A].
        """
        return self.scale_a * float(np.abs(np.sinh(gamma * (self.at_m - distance_m))))


def tapered_end(
    distance_m: Sequence[float] | Floats,
    current_a: Sequence[float] | Floats,
    spread: Sequence[float] | Floats,
    *,
    gamma: complex,
) -> TaperedEnd | None:
    """Return where the current of an insulated wire tapers to nothing.

    `|I(x)| = A |sinh(gamma (e - x))|` for an open end at e, the current of a uniform line [1]; A and e are fitted to
    the logarithm of the currents.

    Args:
        distance_m: Stations along the line on one side of the hookup, going away from it, shape (n,) [m].
        current_a: Current at each, shape (n,) [A].
        spread: Standard deviation of the logarithm of each current, shape (n,).
        gamma: Propagation constant of the line [1/m].

    Returns:
        The place; None where there are too few stations, the current does not fall enough, or the curve does not fit.

    References:
        [1] S. Ramo, J. R. Whinnery, T. Van Duzer, Fields and Waves in Communication Electronics, ch. 5.
    """
    x, amps = np.asarray(distance_m, dtype=float), np.asarray(current_a, dtype=float)
    if len(x) < LEAST_STATIONS or amps.min() <= 0 or amps[-1] > _FALLS_TO * amps[0]:
        return None
    if len(x) > 2 * _MANY:  # a curve of two figures needs no more
        some = np.unique(np.linspace(0, len(x) - 1, _MANY).astype(np.intp))
        return tapered_end(x[some], amps[some], np.asarray(spread)[some], gamma=gamma)
    away = 1.0 if x[-1] > x[0] else -1.0
    walked = abs(float(x[-1] - x[0]))
    ahead = np.linspace(0.2, max(_AHEAD * walked, 1.0), _STEPS)
    misfit, scale = _misfit(away * (x[-1] - x) + ahead[:, None], np.log(amps), np.asarray(spread, dtype=float), gamma)
    best = int(misfit.argmin())
    loose = max(1.0, float(misfit[best]) / max(len(x) - 2, 1))
    inside = ahead[misfit <= misfit[best] + _CHI95 * loose]
    if loose > _MISFIT or inside[-1] >= ahead[-1]:
        return None
    end, low, high = (float(x[-1] + away * d) for d in (ahead[best], inside[0], inside[-1]))
    return TaperedEnd(end, min(low, high), max(low, high), float(np.exp(scale[best])))


def _misfit(left_m: Floats, level: Floats, spread: Floats, gamma: complex) -> tuple[Floats, Floats]:
    """Chi squared and log A of each end tried, shape (t,), with `left_m` (t, n) to go from each station [m]."""
    shape = np.log(np.abs(np.sinh(gamma * left_m)))
    weight = 1 / (spread**2 + _MODEL**2 + (_PLACE_M / left_m) ** 2)
    off = level - shape
    scale = (weight * off).sum(1) / weight.sum(1)
    return np.asarray((weight * (off - scale[:, None]) ** 2).sum(1)), np.asarray(scale)
