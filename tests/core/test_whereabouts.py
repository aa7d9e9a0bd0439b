"""Places on the plan by tapes: they come back from the distances that a known place has."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vessel.core.base.errors import BadInput
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.station_place import TAPE_M, by_baseline, by_tapes, on_line, way_back

A, B = (10.0, 5.0), (22.0, 14.0)
METRES = st.floats(-30, 30)


@settings(deadline=None)
@given(x=METRES, y=METRES)
def test_two_tapes_find_the_place_they_were_held_at(x, y):
    side = "left" if (B[0] - A[0]) * (y - A[1]) - (B[1] - A[1]) * (x - A[0]) >= 0 else "right"
    fix = by_tapes(A, B, from_a_m=math.dist(A, (x, y)), from_b_m=math.dist(B, (x, y)), side=side)
    # along the line through both points tapes tell little, and the fix says so
    assert math.dist(fix.at, (x, y)) < 1e-6 + 1e-3 * fix.pm_m / TAPE_M
    assert fix.pm_m >= 0.99 * TAPE_M


def test_tapes_that_meet_flat_tell_less_than_tapes_that_cross():
    flat = by_tapes(A, B, from_a_m=7.6, from_b_m=7.6, side="left")
    square = by_tapes(A, B, from_a_m=10.6, from_b_m=10.6, side="left")
    assert flat.pm_m > 3 * square.pm_m


@pytest.mark.parametrize(("a", "b", "says"), [(5.0, 6.0, "tapes_too_short"), (40.0, 6.0, "tapes_too_unlike")])
def test_tapes_that_cannot_meet_are_refused_with_how_much_is_missing(a, b, says):
    with pytest.raises(BadInput) as e:
        by_tapes(A, B, from_a_m=a, from_b_m=b, side="left")
    assert (e.value.what, e.value.field) == (says, "second_tape")
    # a little slack is no reason
    assert by_tapes(A, B, from_a_m=7.5, from_b_m=7.4, side="left").pm_m > TAPE_M


def test_square_off_a_baseline_and_where_that_is_along_a_bent_line():
    fix = by_baseline((0.0, 0.0), (10.0, 0.0), along_m=4.0, off_m=2.0, side="right")
    assert fix.at == pytest.approx((4.0, -2.0))
    line = Drawn("w", PRESETS["tracer_wire"].construction, ((0.0, -3.0), (20.0, -3.0), (20.0, 30.0)), 0.6, 1.0)
    assert on_line(line, fix.at) == (pytest.approx(4.0), pytest.approx(1.0))  # north of it is to its left
    assert on_line(line, (21.5, 10.0)) == (pytest.approx(33.0), pytest.approx(-1.5))
    ends = np.array([on_line(line, (-2.0, -3.0)), on_line(line, (20.0, 33.0))])
    assert ends[:, 0] == pytest.approx([0.0, 53.0])
    with pytest.raises(BadInput, match="same place"):
        by_baseline(A, A, along_m=1.0, off_m=1.0, side="left")


@pytest.mark.parametrize(
    ("bearing", "left_of_it"), [(0, "E"), (45, "SE"), (90, "S"), (180, "W"), (225, "NW"), (270, "N"), (350, "E")]
)
def test_paint_beside_a_line_says_by_the_compass_where_the_line_is(bearing, left_of_it):
    end = (50 * math.sin(math.radians(bearing)), 50 * math.cos(math.radians(bearing)))
    line = Drawn("w", PRESETS["tracer_wire"].construction, ((0.0, 0.0), end), 0.6, 1.0)
    assert way_back(line, 20.0, 1.5) == left_of_it
    opposite = {"N": "S", "S": "N", "E": "W", "W": "E", "NW": "SE", "SE": "NW"}
    assert way_back(line, 20.0, -1.5) == opposite[left_of_it]
