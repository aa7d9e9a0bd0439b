"""What a frame picks up against its closed forms, and faults found in ground made without core's frame."""

import numpy as np
import pytest

from tests.fault.ground import KINDS, potential
from tests.fault.walked import tally
from vessel.core.hookup.judge_fault import fault_forecast
from vessel.core.model.construction import PRESETS
from vessel.core.model.fault_walk import FaultWalk
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.soil_gradient import gradient, greatest_gradient, leak_gradient


def test_the_frame_points_at_a_fault_and_reads_most_beside_it():
    at_m, most = greatest_gradient(0.8, 0.6)
    assert at_m == pytest.approx(0.63, abs=0.005)
    assert 2 * at_m / 2**0.5 == pytest.approx(1.1 * 0.8, rel=0.01)  # the separation overstates depth by a tenth
    assert greatest_gradient(0.8, 0.01)[0] == pytest.approx(0.71 * 0.8, rel=0.01)
    x = np.linspace(-6, 6, 241)
    level = gradient(x, 0.8, 0.6)
    assert level.max() == pytest.approx(most, rel=2e-3)
    assert level == pytest.approx(-level[::-1])
    assert (level[x < -0.01] > 0).all()


def test_a_leaking_line_is_the_sum_of_its_cells():
    x, cells = np.linspace(1.0, 79.0, 40), np.linspace(0.01, 79.99, 4000)
    summed = gradient(x[:, None] - cells[None, :], 0.7, 0.6).mean(1)
    assert leak_gradient(x, 0.7, 0.6, 80.0) == pytest.approx(summed, abs=2e-4)
    ends = np.array([[x[5] + 0.3, 0.0], [x[5] - 0.3, 0.0]])
    images = np.subtract(*potential(ends, [(c, 0.0, 0.7, 1 / 4000) for c in cells]))
    assert leak_gradient(x[5], 0.7, 0.6, 80.0) == pytest.approx(images, abs=2e-4)


def test_a_cable_leaks_more_at_a_higher_frequency():
    line = Line(PRESETS["armoured_cable"].construction, 140.0, 0.6, 0.9)
    low, high = (
        fault_forecast(line, Soil.of_kind("moist_sand", 120), SAMPLE_KIT, FaultWalk(f)) for f in (560.0, 8960.0)
    )
    assert low.leak < 0.35 < 0.9 < high.leak
    assert low.share + low.leak == pytest.approx(1.0, abs=0.01)


@pytest.mark.long
def test_what_is_called_found_lies_there_and_nothing_is_where_none_is():
    """A tenth of the cables of docs/faults.md, under its bounds."""
    t = tally(KINDS[:3], range(500, 503))
    assert t.share("right", "found") >= 0.95
    assert t.share("called", "there") > 0.8
    assert t.share("in_range", "ranges") >= 0.9
    assert tally(("none",), range(500, 506)).false == 0


def test_an_earth_left_on_keeps_everything_from_being_called_found():
    t = tally(("far earth on",), range(500, 502))
    assert t.verdicts["not_proved"] == sum(t.verdicts.values()) > 0
