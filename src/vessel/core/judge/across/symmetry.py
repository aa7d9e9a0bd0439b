"""How alike readings across a line are on both sides of their peak.

One straight line at depth d below the coil gives B = k d / (y^2 + d^2): 1/B is a parabola in y. Between readings 1/B is
therefore taken on the parabola through the nearest three, which for one line is exact.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.base.arrays import Floats

_LEAST = 0.05  # of the peak: weaker readings are left out, their reciprocal is mostly noise


def asymmetry(profile: Sequence[tuple[float, float]]) -> float | None:
    """Return how far signals equally far from the peak differ.

    1/B of a single line is a parabola over the offset, so readings of one side can be interpolated on the other
    without a model.

    Args:
        profile: Offset [m] and signal of each reading.

    Returns:
        Greatest difference as a share of the peak; None if the readings do not reach over the peak on both sides.
    """
    # a place read twice counts by its mean; what is less than a millimetre apart is one place
    rounded = [(round(at, 3), signal) for at, signal in profile]
    places = sorted({at for at, _ in rounded})
    y = np.array(places)
    b = np.array([np.mean([s for at, s in rounded if at == place]) for place in places])
    strong = b > _LEAST * b.max(initial=0.0)
    y, inverse = y[strong], 1 / b[strong]
    k = int(inverse.argmin()) if len(y) else 0
    if not 0 < k < len(y) - 1:
        return None
    peak_m, least = _vertex(y[k - 1 : k + 2], inverse[k - 1 : k + 2])
    mirrored = 2 * peak_m - y
    inside = (mirrored >= y[0]) & (mirrored <= y[-1])
    if not inside.any():
        return None
    other = np.array([_between(y, inverse, at) for at in mirrored[inside]])
    differ = np.abs(1 / inverse[inside] - 1 / np.maximum(other, least))
    return float(differ.max() * least)


def _vertex(y: Floats, inverse: Floats) -> tuple[float, float]:
    """Place and least value of the parabola through three readings."""
    a, b, c = np.polyfit(y - y[1], inverse, 2)
    at = float(np.clip(-b / (2 * a), y[0] - y[1], y[2] - y[1])) if a > 0 else 0.0
    return float(y[1] + at), float(min(a * at**2 + b * at + c, inverse[1]))


def _between(y: Floats, inverse: Floats, at: float) -> float:
    """The parabola through the three readings nearest to `at`."""
    k = int(np.clip(np.searchsorted(y, at), 1, len(y) - 2))
    k = k if abs(at - y[k]) <= abs(at - y[k - 1]) or k == 1 else k - 1
    three = slice(k - 1, k + 2)
    return float(np.polyval(np.polyfit(y[three] - y[k], inverse[three], 2), at - y[k]))
