"""Bends, tees and crossings of drawn lines, and what stands beside them."""

import numpy as np
import pytest

from vessel.core.model.construction import PRESETS
from vessel.core.model.ground import Course, Drawn, SitePlan
from vessel.core.model.line import Line
from vessel.core.model.site import Bond
from vessel.core.plan.disturbed import crossed_m, nearest_m, turns_m

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
