"""Bends, tees and crossings of drawn lines, and what stands beside them."""

import numpy as np
import pytest

from vessel.core.judge.station.criteria import BY_ID
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.network import Bond
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.signal.physics.magnetic_field import axis_fields, electronic_depth
from vessel.core.simulate.disturbances import SHARP_DEG, crossed_m, nearest_m, turns_m

WIRE = PRESETS["tracer_wire"].construction


def test_sharp_bends_tees_and_crossings_are_known_along_a_line():
    bent = ((0.0, 0.0), (30.0, 0.0), (60.0, 8.0), (60.0, 40.0))  # 15 degrees, then 75
    own = Drawn("own", WIRE, bent, 0.6, 1.0)
    across = Drawn("across", WIRE, ((10.0, -9.0), (10.0, 9.0)), 1.4, 1.6)
    branch = Drawn("branch", WIRE, ((20.0, 0.0), (20.0, -15.0)), 0.6, 1.0)
    plan = SitePlan((own, across, branch), (Bond("own", 20.0, "branch", 0.0, 0.01),))
    line = Line(WIRE, own.length_m, 0.6, 1.0, course=Course(plan, 0))
    corner = 30.0 + np.hypot(30.0, 8.0)
    assert turns_m(line) == pytest.approx((20.0, corner))
    assert crossed_m(line) == pytest.approx((10.0,))  # where the branch is joined nothing crosses
    assert nearest_m(turns_m(line), np.array([18.5, corner + 4.0])) == pytest.approx([1.5, 4.0])


def test_a_line_that_is_only_told_has_no_known_bend_or_crossing():
    line = Line(WIRE, 100.0, 0.6, 1.0)
    assert (turns_m(line), crossed_m(line)) == ((), ())
    assert np.isnan(nearest_m((), np.array([3.0, 4.0]))).all()


def depth_beside_bend(away, turn_deg):
    """What the receiver shows at its peak `away` depths before a bend, as a share of the true depth."""
    receiver, deep, turn = SAMPLE_KIT.receiver, 1.2, np.radians(turn_deg)
    corner = np.array([0.0, 0.0, -deep])
    starts = np.array([[-500.0, 0.0, -deep], corner])
    ends = np.array([corner, corner + 500 * np.array([np.cos(turn), np.sin(turn), 0.0])])
    aside = np.linspace(-deep, deep, 801)
    fields = []
    for height in (receiver.low_m, receiver.low_m + receiver.separation_m):
        at = np.column_stack([np.full_like(aside, -away * deep), aside, np.full_like(aside, height)])
        ((start, end),) = axis_fields(at, [np.tile([0.0, 1.0, 0.0], (len(at), 1))], starts, ends)
        fields.append(np.abs((start + end).sum(1)))
    peak = fields[0].argmax()
    low, high = (f[peak] for f in fields)
    return float(electronic_depth(low, high, low_m=receiver.low_m, separation_m=receiver.separation_m)) / deep


def test_depth_beside_a_sharp_bend_is_as_wrong_as_the_rule_says():
    by_distance = [depth_beside_bend(away, 90.0) for away in (1.0, 2.0, 3.0)]
    assert by_distance == pytest.approx([0.76, 0.85, 0.91], abs=0.03)
    assert min(depth_beside_bend(away, 45.0) for away in np.arange(0.25, 4.0, 0.25)) > 0.92
    # where the rule asks for care no longer, depth is right within a tenth
    assert depth_beside_bend(BY_ID["turns"].care, 90.0) > 0.9
    assert min(depth_beside_bend(away, SHARP_DEG) for away in np.arange(0.25, 4.0, 0.25)) > 0.9
