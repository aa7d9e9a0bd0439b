"""Complex functions by way of real ones and symmetric systems by one triangle, against NumPy's own."""

import numpy as np
import pytest

from vessel.core.base.complex_functions import decayed, over_root
from vessel.core.base.symmetric_solve import factored


def test_the_reciprocal_root_is_numpys_away_from_the_negative_axis():
    rng = np.random.default_rng(1)
    z = 10 ** rng.uniform(-6, 8, 5000) * np.exp(1j * rng.uniform(-2.8, 2.8, 5000))
    found = over_root(z.reshape(50, 100))
    assert found.ravel() == pytest.approx(1 / np.sqrt(z), rel=1e-12)
    assert (found.real > 0).all()


def test_the_exponential_is_numpys_at_any_angle():
    x = np.linspace(0.0, 400.0, 4001)
    for rate in (0.05 + 0.05j, 1e-6 + 1e-6j, 0.01 + 0.3j, complex(0.0, np.pi)):
        assert np.abs(decayed(rate, x) - np.exp(-rate * x)).max() < 1e-13


def test_a_symmetric_system_is_solved_whatever_is_on_its_diagonal():
    rng = np.random.default_rng(2)
    for n in (1, 7, 90):
        a, b = (rng.standard_normal((n, k)) + 1j * rng.standard_normal((n, k)) for k in (n, 3))
        a += a.T
        if n > 1:
            np.fill_diagonal(a, 0.0)  # no pivot to be had on the diagonal
        assert factored(a.copy()).solve(b) == pytest.approx(np.linalg.solve(a, b), rel=1e-9)


def test_a_singular_system_is_refused():
    with pytest.raises(np.linalg.LinAlgError, match="singular"):
        factored(np.zeros((3, 3), dtype=complex))
