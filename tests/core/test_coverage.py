"""How far a line is marked, where depths contradict each other, and the best estimate at a station."""

from dataclasses import replace

import pytest

from vessel.core.judge.across.best_estimate import best_estimate
from vessel.core.judge.trace.coverage import Placed, coverage
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.network import Bond
from vessel.core.model.readings import StationReading
from vessel.core.simulate.crossings import crossings

NOISE_T = 2e-12


def placed(*marked, doubtful=(), forced=()):
    return [
        *(Placed(x, True, True) for x in marked),
        *(Placed(x, True, False) for x in doubtful),
        *(Placed(x, False, True) for x in forced),
    ]


def states(stations, *, length_m=100.0, wanted=((0.0, 100.0),)):
    return [(s.start_m, s.end_m, s.state) for s in coverage(stations, length_m=length_m, wanted=wanted).stretches]


def test_marks_carry_the_line_no_further_than_their_distance():
    assert states(placed(4.0, 14.0, 24.0, 35.0)) == [
        (0.0, 24.0, "marked"),
        (24.0, 100.0, "missing"),
    ]
    assert states([]) == [(0.0, 100.0, "missing")]
    assert states(placed(50.0)) == [(0.0, 100.0, "missing")]
    assert states(placed(95.0, 100.0))[-1] == (95.0, 100.0, "marked")


def test_a_station_that_did_not_pass_or_was_forced_leaves_both_sides_doubtful():
    assert states(placed(10.0, 26.0, doubtful=(18.0,)))[1:3] == [(10.0, 26.0, "doubtful"), (26.0, 100.0, "missing")]
    assert states(placed(10.0, forced=(18.0,)))[1] == (10.0, 18.0, "doubtful")
    # marked once more under another hookup, the place counts as marked
    assert states(placed(10.0, 18.0, doubtful=(18.0,)))[1] == (10.0, 18.0, "marked")


def test_lengths_are_of_what_is_wanted_and_add_up():
    found = coverage(placed(0.0, 8.0, 16.0), length_m=100.0, wanted=((5.0, 10.0), (90.0, 100.0)))
    assert (found.wanted_m, found.marked_m, found.doubtful_m, found.missing_m) == (15.0, 5.0, 0.0, 10.0)
    assert found.stretches[-1].end_m == 100.0


def test_two_depths_at_a_crossing_cannot_be_the_same():
    metal = PRESETS["tracer_wire"].construction
    east = Drawn("east", metal, ((0.0, 0.0), (40.0, 0.0)), 0.6, 1.0)
    north = Drawn("north", metal, ((15.0, -20.0), (15.0, 0.0), (15.0, 30.0)), 0.6, 1.0)
    aside = Drawn("aside", metal, ((0.0, 9.0), (10.0, 9.0)), 0.6, 1.0)
    (found,) = crossings((east, north, aside), {0: [(13.0, 0.8), (30.0, 1.4)], 1: [(23.0, 0.84)]})
    assert (found.first, found.second, found.first_m, found.second_m) == (0, 1, 15.0, 20.0)
    assert (found.first_depth_m, found.second_depth_m, found.contradicts) == (0.8, 0.84, True)
    assert crossings((east, north), {}, (Bond("east", 15.0, "north", 20.2),)) == ()  # a tee: there they meet
    for depths in ({0: [(13.0, 0.8)], 1: [(23.0, 1.1)]}, {0: [(13.0, 0.8)], 1: [(29.0, 0.8)]}, {}):
        assert not crossings((east, north), depths)[0].contradicts


def test_the_lift_corrects_a_depth_as_far_as_it_is_not_noise():
    read = StationReading(20.0, (0.03,) * 3, 0.90, 0.5, 1.40, 0.02)

    def of(reading, noise_t=NOISE_T):
        return best_estimate(reading, noise_t=noise_t, receiver=SAMPLE_KIT.receiver)

    plain = of(read)
    assert (plain.depth_m, plain.lifted) == (pytest.approx(0.90), True)
    pulled = of(replace(read, depth_lifted_m=1.34))
    assert pulled.depth_m == pytest.approx(0.95, abs=0.01)
    assert pulled.depth_pm_m > plain.depth_pm_m
    restless = of(replace(read, depth_lifted_m=1.34), noise_t=200 * NOISE_T)
    assert abs(restless.depth_m - 0.90) < 0.01 < pulled.depth_m - 0.90
    assert restless.depth_pm_m > pulled.depth_pm_m
    unlifted = of(replace(read, depth_lifted_m=None, peak_null_m=None))
    assert (unlifted.lifted, unlifted.offset_pm_m) == (False, None)
    assert unlifted.depth_pm_m > plain.depth_pm_m
    assert of(replace(read, depth_lifted_m=0.3)).depth_m == pytest.approx(0.90)  # a lift that fails corrects nothing
    assert of(replace(read, depth_m=None, depth_lifted_m=None)) is None
    assert of(replace(read, currents_a=())) is None
