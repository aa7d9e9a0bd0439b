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
        """Return what solves the system for the columns `right` (n, k)."""
        found, _ = lapack.zsytrs(self.factors, self.pivots, right, lower=1)
        return np.asarray(found)


def factored(a: Complex) -> Factored:
    """Return a symmetric `a` (n, n) factored, at half the work of an LU; it is used up, and only one triangle is read.

    Raises `LinAlgError` where it is singular.
    """
    lwork, _ = lapack.zsytrf_lwork(len(a), lower=1)
    # turned round, which changes nothing but the order LAPACK wants it in
    factors, pivots, failed = lapack.zsytrf(a.T, lower=1, lwork=int(lwork.real), overwrite_a=1)
    if failed:
        raise np.linalg.LinAlgError("The circuit of the site is singular.")
    return Factored(factors, pivots)
