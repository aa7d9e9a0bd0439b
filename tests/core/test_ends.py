"""Readings near the ends of a line: against closed forms, and on ground made by other means than core's."""

import numpy as np
import pytest

from tests.trouble.play import played
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.readings import StationReading
from vessel.core.signal.receiver.ends_undone import EndsUndone, Flow, heard_share

ALONG = np.linspace(0.0, 1000.0, 81)
LOW, HIGH, DEPTH = SAMPLE_KIT.receiver.low_m, SAMPLE_KIT.receiver.high_m, 1.5


def share(amps, at_m, up_m, *, lead_m=None):
    flow = Flow(ALONG, np.atleast_2d(amps), np.ones(1), lead_m)
    up = np.array([up_m])
    return heard_share(flow, np.array([at_m]), np.array([[DEPTH + up_m]]), up, lead=lead_m is not None)[0, 0]


@pytest.mark.parametrize("from_end", [4.5, 8.0, 16.0])
@pytest.mark.parametrize("up", [LOW, HIGH])
def test_half_a_line_is_heard_as_its_closed_form_says(from_end, up):
    h = DEPTH + up
    whole, tapered = np.ones(81), np.minimum(1000.0 - ALONG, 200.0)
    ends_there = 0.5 * (1 + from_end / np.hypot(from_end, h))
    assert share(whole, 1000.0 - from_end, up) == pytest.approx(ends_there, rel=1e-3)
    runs_dry = 1 + (np.hypot(from_end, h) - from_end) / (2 * from_end)
    assert share(tapered, 1000.0 - from_end, up) == pytest.approx(runs_dry, rel=2e-3)
    lead = h / (2 * from_end) * (h / np.hypot(from_end, h) - up / np.hypot(from_end, up))
    assert share(whole, from_end, up, lead_m=0.0) == pytest.approx(ends_there + lead, rel=1e-3)
    assert share(whole, 500.0, up) == pytest.approx(1.0, abs=2e-3)


def test_what_an_end_does_to_a_display_is_read_backwards():
    at_m = 996.0
    b = [share(np.ones(81), at_m, up) / (DEPTH + up) for up in (LOW, HIGH)]
    shown = (HIGH - LOW) / (b[0] / b[1] - 1) - LOW
    assert shown < 0.93 * DEPTH
    far = StationReading(500.0, (0.05,) * 3, DEPTH)
    near = StationReading(at_m, tuple(0.05 * b[0] * (shown + LOW) for _ in range(3)), float(shown))
    undone = EndsUndone(Flow(ALONG, np.ones((1, 81)), np.ones(1)), SAMPLE_KIT.receiver)
    (back, left), spread = undone.readings([near, far])
    assert back.depth_m == pytest.approx(DEPTH, rel=0.005)
    assert back.current_a == pytest.approx(0.05, rel=0.005)
    assert left == far
    assert spread.tolist() == [0.0, 0.0]


def test_near_both_ends_the_depth_lies_in_its_range_on_other_means_ground():
    p = played("lone", 3007)
    near = np.array([0, 1, -2, -1])  # the display itself is up to 18 % too shallow there
    assert p.depth_in[near].mean() >= 0.75
    assert np.abs(p.depth_ratio[near] - 1).max() < 0.1
