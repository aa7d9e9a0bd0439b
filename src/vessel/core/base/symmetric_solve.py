"""Symmetric complex systems, factored by one of their triangles."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import lapack

from vessel.core.base.arrays import Complex


@dataclass(frozen=True, eq=False)
class Factored:
    """A symmetric matrix (n, n), not conjugate, as U D U^T with 1 x 1 and 2 x 2 pivots (Bunch and Kaufman 1977)."""

    factors: Complex
    pivots: NDArray[np.int32]

    def solve(self, right: Complex) -> Complex:
        """Solve the system for several right-hand sides.

        Args:
            right: Right-hand sides, shape (n, k).

        Returns:
            Solutions, shape (n, k).
        """
        found, _ = lapack.zsytrs(self.factors, self.pivots, right, lower=1)
        return np.asarray(found)


def factored(a: Complex) -> Factored:
    """Factor a symmetric matrix at half the work of an LU.

    A = U D U^T. The matrix is used up, and only one triangle of it is read.

    Args:
        a: Symmetric complex matrix, shape (n, n).

    Returns:
        The factors, ready to solve with.

    Raises:
        LinAlgError: If the matrix is singular.
    """
    lwork, _ = lapack.zsytrf_lwork(len(a), lower=1)
    # turned round, which changes nothing but the order LAPACK wants it in
    factors, pivots, failed = lapack.zsytrf(a.T, lower=1, lwork=int(lwork.real), overwrite_a=1)
    if failed:
        raise np.linalg.LinAlgError("singular circuit")
    return Factored(factors, pivots)
