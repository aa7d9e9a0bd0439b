"""The field of a sonde against its closed forms, and marks on runs made without core's dipole."""

from dataclasses import replace

import numpy as np
import pytest

from tests.sonde.pipes import HELD_BACK, KINDS, field
from tests.sonde.walked import tally
from vessel.core.hookup.judge_sonde import Head, judge_run, signal_over
from vessel.core.judge.sonde.sonde_fit import fit_sonde
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT, Bound, Receiver
from vessel.core.model.sonde import SondeRun, SondeStop
from vessel.core.signal.physics.dipole_field import (
    across_field,
    along_field,
    dipole_shape,
    meant_in_line_mode,
    read_in_line_mode,
    sonde_depth,
    through_pipe,
)

SEPARATION = 0.4


def test_the_field_along_and_across_is_that_of_the_vector_formula():
    u = np.linspace(-3, 3, 61)
    for tilt in (0.0, 0.3, -0.5):
        axis = np.array([[np.cos(tilt), 0.0, np.sin(tilt)]])
        along = field(np.column_stack([u, 0 * u, 1 + 0 * u]), np.zeros((1, 3)), axis)[:, 0]
        assert along_field(u, tilt) == pytest.approx(along, abs=1e-12)
    beside = field(np.column_stack([0 * u, u, 1 + 0 * u]), np.zeros((1, 3)), np.eye(3)[:1])[:, 0]
    assert across_field(u) == pytest.approx(beside, abs=1e-12)


def test_peaks_nulls_and_depths_over_a_level_head():
    s = dipole_shape(0.0)
    assert (s.peak, s.null_before, s.null_after) == pytest.approx((0.0, -(0.5**0.5), 0.5**0.5))
    u = np.linspace(0.9, 2.0, 11001)
    assert u[np.argmax(along_field(u, 0.0))] == pytest.approx(1.22, abs=0.01)
    assert (s.ghost_before, s.ghost_after) == pytest.approx((0.202, 0.202), abs=1e-3)
    assert across_field(0.77) / across_field(0.0) == pytest.approx(0.5, abs=0.005)
    h = np.array([0.6, 1.05, 2.05, 4.0])
    assert sonde_depth(h**-3.0, (h + SEPARATION) ** -3.0, separation_m=SEPARATION) == pytest.approx(h)
    in_line_mode = read_in_line_mode(h, separation_m=SEPARATION)
    assert in_line_mode[1:3] - 0.05 == pytest.approx([0.19, 0.52], abs=0.006)
    assert meant_in_line_mode(in_line_mode, separation_m=SEPARATION) == pytest.approx(h)


@pytest.mark.parametrize(
    ("degrees", "peak", "middle", "depth", "ghosts"),
    [(10, 0.06, 0.13, 1.02, 1.9), (20, 0.12, 0.27, 1.07, 3.7), (30, 0.17, 0.43, 1.17, 7.7)],
)
def test_a_tilted_head_pulls_peak_nulls_and_ghosts(degrees, peak, middle, depth, ghosts):
    s = dipole_shape(np.radians(degrees))
    assert abs(s.peak) == pytest.approx(peak, abs=0.005)
    assert abs(s.null_before + s.null_after) / 2 == pytest.approx(middle, abs=0.01)
    assert (s.null_after - s.null_before) / 2**0.5 == pytest.approx(depth, abs=0.005)
    assert s.ghost_after / s.ghost_before == pytest.approx(ghosts, abs=0.05)
    mirrored = dipole_shape(-np.radians(degrees))
    assert (mirrored.peak, mirrored.null_before, mirrored.ghost_before) == pytest.approx(
        (-s.peak, -s.null_after, s.ghost_after)
    )


def test_iron_takes_the_signal_and_plastic_takes_none():
    iron = PRESETS["jointed_iron_main"].construction
    low, middle, high = through_pipe(iron, np.array([33.0, 560.0, 8960.0]))
    assert low > 100 * middle > 1e6 * high
    assert middle < 0.001
    assert through_pipe(None, 560.0) == 1.0
    assert 0.9 < through_pipe(PRESETS["bare_copper_service"].construction, 33.0) < 1.0


@pytest.mark.parametrize("degrees", [-25, -8, 0, 8, 25])
def test_a_head_is_found_again_with_its_tilt(degrees):
    h, x, r = 1.45, 12.0, Receiver()
    s = dipole_shape(np.radians(degrees))
    read = SondeStop(
        x + h * s.peak,
        null_before_m=x + h * s.null_before,
        null_after_m=x + h * s.null_after,
        depth_m=h - r.low_m,
        mode="sonde",
        signal=100.0,
        ghost_before=100 * s.ghost_before,
        ghost_after=100 * s.ghost_after,
    )
    found = fit_sonde(read, r)
    assert abs(found.x_m - x) < found.x_pm_m < 0.1 * h
    assert abs(found.depth_m - (h - r.low_m)) < found.depth_pm_m
    assert np.degrees(found.tilt_rad) == pytest.approx(degrees, abs=3)
    assert found.in_line_mode < 1e-3


def test_ghosts_are_drawn_at_the_highest_places_beyond_the_nulls():
    for tilt in (0.0, 0.3, -0.3):
        over = signal_over(Head(7.0, 1.2, tilt), 0.1, count=2001)
        v = over.level
        tops = [k for k in range(1, len(v) - 1) if v[k - 1] < v[k] > v[k + 1] and v[k] < 1]
        assert [g[0] for g in over.ghosts] == pytest.approx(over.at_m[tops], abs=0.01)
        assert [g[1] for g in over.ghosts] == pytest.approx(v[tops], abs=1e-3)


def test_a_corner_is_told_by_the_limit_the_crew_judges_by():
    stops = [SondeStop(10.0, rod_m=10.0), SondeStop(20.0, rod_m=21.6)]
    asked = {"depth_range_m": (1.0, 1.5), "pipe": None}
    assert len(judge_run(stops, SondeRun(560.0), SAMPLE_KIT, **asked).corners) == 1
    own = replace(SAMPLE_KIT, bounds=(Bound("rod_spare", care=0.2, hold=None),))
    assert not judge_run(stops, SondeRun(560.0), own, **asked).corners


@pytest.mark.long
def test_marks_by_sonde_are_right_and_line_mode_is_caught():
    """A third of the runs of docs/sonde.md, under its bounds."""
    t = tally(KINDS, range(1000, 1025))
    assert t.share("right", "marks") >= 0.95
    assert t.share("caught", "in_line_mode") >= 0.99
    assert t.share("corners_seen", "corners") >= 0.95
    assert t.verdicts["mark"] > 0.3 * sum(t.verdicts.values())
    assert t.false_corners < 0.02 * sum(t.verdicts.values())


def test_mesh_over_a_pipe_is_hardly_ever_marked():
    t = tally(HELD_BACK[:1], range(10))
    assert t.marks < 0.1 * sum(t.verdicts.values())
