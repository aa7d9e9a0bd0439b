"""Complex roots and exponentials of many values by way of real ones.

NumPy works real functions out in vectors and most complex ones value by value: for the tens of thousands of pairs of a
site this takes a third of the time.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from vessel.core.base.arrays import Complex, Floats

IN_CACHE = 16384
"""Values to work on at a time where there are many: what is in between then stays in the processor's cache."""


def parts(count: int) -> Iterator[slice]:
    """Yield slices that take `count` values a cacheful at a time.

    Args:
        count: How many values there are.

    Yields:
        Slices of at most `IN_CACHE` values, in order.
    """
    for first in range(0, count, IN_CACHE):
        yield slice(first, first + IN_CACHE)


def over_root(z: Complex) -> Complex:
    """Return 1/sqrt(z), the root with a positive real part.

    Good to fourteen digits except beside the negative real axis, where `|z| + Re z` loses its own.

    Args:
        z: Complex values of any shape.

    Returns:
        Values of the same shape.
    """
    re, im = z.real.copy(), z.imag.copy()
    size = np.sqrt(re * re + im * im)
    re += size
    re *= 0.5
    np.sqrt(re, out=re)  # the root's real part; its imaginary part is im / (2 re)
    np.reciprocal(size, out=size)
    found = np.empty(z.shape, dtype=np.complex128)
    np.multiply(re, size, out=found.real)
    im *= -0.5
    im /= re
    np.multiply(im, size, out=found.imag)
    return found


def decayed(rate: complex, x: Floats) -> Complex:
    """Return exp(-rate x).

    Args:
        rate: Complex decay rate [1/m].
        x: Distances of any shape [m].

    Returns:
        exp(-rate x), of the shape of `x`.
    """
    # cosine and sine from the tangent of half the angle: one function where there were two
    half = np.tan(0.5 * rate.imag * x)
    square = half * half
    size = np.exp(-rate.real * x)
    size /= 1 + square
    found = np.empty(x.shape, dtype=np.complex128)
    np.multiply(1 - square, size, out=found.real)
    half *= -2.0
    np.multiply(half, size, out=found.imag)
    return found
