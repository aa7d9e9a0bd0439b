"""What looks like a slip is asked about, and nothing else is."""

from dataclasses import replace

import pytest

from tests.core.test_judge import GOOD
from vessel.core.judge.station.entry_slips import slip
from vessel.words.refusals import refusal


def at(*distances):
    return [replace(GOOD, distance_m=float(x)) for x in distances]


@pytest.mark.parametrize(
    ("taken", "now", "asked"),
    [
        ((10, 14, 18), 22, None),
        ((10, 14, 18), 12, "distance"),
        ((50, 46, 42), 38, None),  # traced back from the far end
        ((50, 46, 42), 47, "distance"),
        ((10, 14, 18, 12), 13, None),  # gone back once, asked once
        ((10, 14, 18, 12), 22, None),
        ((10,), 6, None),
        ((), 6, None),
    ],
)
def test_a_distance_that_runs_back_is_asked_about_once(taken, now, asked):
    found = slip(at(now)[0], at(*taken))
    assert (found and found.field) == asked


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"depth_m": 40.0 / 100 / 2, "depth_lifted_m": 0.9}, "depth", "0.20 m deep"),
        ({"depth_m": 4.0, "depth_lifted_m": 4.5}, "depth", "right unit"),
        ({"depth_lifted_m": 0.4}, "depth_lifted", "swapped"),
        ({"currents_a": (2.86, 2.86, 2.86)}, "currents", "2860 mA"),
        ({"currents_a": (0.02, 0.02, 0.02), "depth_m": 1.1, "depth_lifted_m": 1.6}, None, ""),
    ],
)
def test_a_figure_far_from_those_before_is_asked_about(change, field, says):
    found = slip(replace(GOOD, distance_m=22.0, **change), at(10, 14, 18))
    assert (found and found.field) == field
    if found:
        assert says in str(found)
        assert refusal(found)[1]
