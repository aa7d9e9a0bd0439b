"""The profile fit: hidden conductors come out of noisy readings, within what the fit says of itself."""

import numpy as np
import pytest

from tests.core.corpus_figures import LOW_M, NOISE_T, OFFSETS, noisy_profile, profile_recovery
from vessel.core.base.errors import VesselError
from vessel.core.judge.across import conductor_fit as profile
from vessel.core.judge.across.conductor_fit import ProfilePoint, field_across, fit_profile


def test_two_hidden_conductors_come_back_within_their_stated_uncertainty():
    within, narrow = profile_recovery(3, 60)
    assert within >= 57
    assert narrow >= 54  # and the uncertainty is not bought by being vague


def test_one_conductor_is_not_taken_for_two():
    rng = np.random.default_rng(4)
    singles = [
        fit_profile(noisy_profile([(0.2, 1.1, 0.02)], rng, vertical=v), noise_t=NOISE_T, low_m=LOW_M)
        for v in (True, False)
        for _ in range(20)
    ]
    assert sum(len(f.conductors) == 1 for f in singles) >= 36
    for f in singles:
        assert f.conductors[0].offset_m == pytest.approx(0.2, abs=0.1)


def test_a_noiseless_line_comes_back_exactly():
    h, v = field_across(OFFSETS, [(0.37, 0.9, 0.015)], low_m=LOW_M)
    points = [ProfilePoint(*map(float, t)) for t in zip(OFFSETS, h, v, strict=True)]
    (c,) = fit_profile(points, noise_t=NOISE_T, low_m=LOW_M).conductors
    assert (c.offset_m, c.depth_m, c.current_a) == (
        pytest.approx(0.37, abs=1e-6), pytest.approx(0.9, rel=1e-6), pytest.approx(0.015, rel=1e-6))  # fmt: skip


def test_the_fit_tells_how_far_peak_and_null_lie_from_the_line():
    rng = np.random.default_rng(5)
    fit = fit_profile(noisy_profile([(0.0, 1.05, 0.02), (1.0, 1.05, -0.006)], rng), noise_t=NOISE_T, low_m=LOW_M)
    assert len(fit.conductors) == 2
    line = fit.conductors[0].offset_m
    assert line == pytest.approx(0.0, abs=0.06)
    assert fit.peak_m - line == pytest.approx(-0.07, abs=0.04)
    assert fit.null_m - line == pytest.approx(-0.18, abs=0.05)


@pytest.mark.parametrize(
    ("points", "says"),
    [
        ([ProfilePoint(0.1 * i, 1e-9) for i in range(4)], "too_few_across"),
        ([ProfilePoint(0.01 * i, 1e-9) for i in range(8)], "profile_at_one_place"),
        ([ProfilePoint(0.5 * i, 1e-11) for i in range(8)], "profile_in_noise"),
    ],
)
def test_a_profile_that_tells_nothing_is_refused(points, says):
    with pytest.raises(VesselError) as e:
        fit_profile(points, noise_t=NOISE_T, low_m=LOW_M)
    assert e.value.what == says


def test_the_slopes_of_the_fit_are_those_of_its_field():
    points = noisy_profile([(0.1, 1.0, 0.02), (1.3, 0.8, 0.008 + 0.004j)], np.random.default_rng(6))
    data = profile._Data.of(points, noise_t=NOISE_T, low_m=LOW_M)
    p = np.array([0.1, 0.05, np.log(0.02), 1.2, -0.1, 0.4, 0.3])
    for k in range(7):
        step = np.zeros(7)
        step[k] = 1e-6
        slope = (data.residuals(p + step) - data.residuals(p - step)) / 2e-6
        assert data.jacobian(p)[:, k] == pytest.approx(slope, rel=1e-4, abs=1e-4 * np.abs(slope).max())
