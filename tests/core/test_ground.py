"""The site plan's geometry: routes as typed, areas, what runs beside a route, lines drawn through each other."""

from dataclasses import replace

import numpy as np
import pytest

from vessel.core.base.errors import BadInput
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Area, Drawn
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond
from vessel.core.model.site_plan import SitePlan, beside
from vessel.core.model.soil import Soil
from vessel.core.signal.layout.line_on_site import assumed, drawn_site
from vessel.core.text.route_text import show_route, understand_route
from vessel.words.refusals import refusal

TRACER = PRESETS["tracer_wire"].construction
MAIN = PRESETS["jointed_iron_main"].construction
BENT = Drawn("bent", TRACER, ((0.0, 0.0), (30.0, 0.0), (30.0, 40.0)), 0.6, 1.0)


@pytest.mark.parametrize(
    ("text", "units", "corners"),
    [
        ("0, 0; 38, 12", "metric", [(0, 0), (38, 12)]),
        ("38 m at 60, then 20 m at 150", "metric", [(0, 0), (32.909, 19), (42.909, 1.679)]),
        ("from (10, -5)\n100 ft at E\n10m towards SW", "metric", [(10, -5), (40.48, -5), (33.409, -12.071)]),
        ("0, 0; 100 at 90", "imperial", [(0, 0), (30.48, 0)]),
        ("-3.5, −2; 4 @ 0°", "metric", [(-3.5, -2), (-3.5, 2)]),
        ("12 E, 3 S; 4 south, 2.5 m west", "metric", [(12, -3), (-2.5, -4)]),
        ("", "metric", []),
    ],
)
def test_a_route_is_understood_as_it_is_said(text, units, corners):
    found = understand_route(text, units=units)
    assert np.array(found).reshape(-1, 2) == pytest.approx(np.array(corners).reshape(-1, 2), abs=2e-3)
    again = understand_route(show_route(found, units=units), units=units)
    assert np.array(again).reshape(-1, 2) == pytest.approx(np.array(found).reshape(-1, 2), abs=0.006)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("38 m at teatime", "no_bearing"),
        ("38 m at 400", "bearing_out"),
        ("along the fence", "no_leg"),
        ("10 furlongs at 60", "no_length_unit"),
        ("1, 2, 3", "no_leg"),
        ("12 E, 3 W", "place_one_way"),
    ],
)
def test_what_is_no_route_is_named_with_the_way_to_write_it(text, says):
    with pytest.raises(BadInput) as e:
        understand_route(text, units="metric")
    assert (e.value.what, e.value.field) == (says, "route")
    assert refusal(e.value)[1]


@pytest.mark.parametrize(
    ("corners", "says"),
    [
        (((0.0, 0.0),), "corner_count"),
        (((0.0, 0.0), (0.0, 0.01)), "leg_without_length"),
        (((0.0, 0.0), (448_000.0, 5_430_000.0)), "outside_site"),
        (((0.0, 0.0), (float("nan"), 1.0)), "outside_site"),
    ],
)
def test_routes_that_cannot_be_are_refused_with_the_reason(corners, says):
    with pytest.raises(BadInput) as e:
        Drawn("x", TRACER, corners, 0.6, 1.0)
    assert e.value.what == says


def test_distances_along_a_route_and_back():
    assert BENT.length_m == 70.0
    for at in (0.0, 12.5, 30.0, 69.0):
        place = BENT.places(np.array([at]))[0]
        assert BENT.nearest((float(place[0]), float(place[1]))) == pytest.approx((at, 0.0), abs=1e-9)
    assert BENT.nearest((35.0, 10.0)) == pytest.approx((40.0, 5.0))
    assert BENT.upto(50.0) == ((0.0, 0.0), (30.0, 0.0), (30.0, 20.0))
    assert BENT.upto(80.0)[-1] == pytest.approx((30.0, 50.0))  # goes on straight


def test_only_what_lies_in_the_dig_area_is_wanted():
    area = Area("dig", ((10.0, -5.0), (50.0, -5.0), (50.0, 20.0), (10.0, 20.0)))
    (stretch,) = BENT.inside(area)
    assert stretch == pytest.approx((10.0, 50.0), abs=0.25)
    around = Area("two", ((-1, -1), (5, -1), (5, 1), (25, 1), (25, -1), (40, -1), (40, 5), (-1, 5)))
    assert len(BENT.inside(around)) == 2
    assert BENT.inside(Area("elsewhere", ((100, 100), (110, 100), (110, 110)))) == ()


def test_what_is_told_beside_a_route_keeps_its_distance_round_a_bend():
    told, bond = beside(BENT, Neighbour("main", MAIN, 1.5, -10.0, 80.0, 1.2, 8.0, None, 40.0))
    for at in (0.0, 15.0, 29.0, 45.0, 70.0):
        place = told.places(np.array([told.nearest(tuple(BENT.places(np.array([at]))[0]))[0]]))[0]
        assert BENT.nearest((float(place[0]), float(place[1])))[1] == pytest.approx(1.5, abs=1e-6)
    assert told.nearest((10.0, 1.5))[1] == pytest.approx(0.0, abs=1e-9)  # left of the run
    assert (bond.a, bond.a_m, bond.b) == ("bent", 40.0, told.name)
    assert told.places(np.array([bond.b_m]))[0] == pytest.approx((28.5, 10.0), abs=1e-6)


def crossing(name, depth, construction=MAIN):
    return Drawn(name, construction, ((15.0, -10.0), (15.0, 10.0)), depth, depth)


def closest_m(site, a, b):
    s = np.linspace(0, site.line(a).length_m, 4000)
    other = site.line(b).places(np.linspace(0, site.line(b).length_m, 4000))
    near = site.line(a).places(s)
    return min(float(np.linalg.norm(other - p, axis=1).min()) for p in near[::4])


@pytest.mark.parametrize(("depth", "lower"), [(0.75, "bent"), (0.85, "main")])
def test_of_two_lines_drawn_through_each_other_the_deeper_is_taken_to_pass_under(depth, lower):
    plan = SitePlan((BENT, crossing("main", depth)))
    (dip,) = assumed(plan)
    assert dip.line == lower
    site = drawn_site(plan, Soil(60.0), {}, deepest=False)
    need = TRACER.outer_radius_m + MAIN.outer_radius_m
    assert closest_m(site, "bent", "main") > need + 0.1
    backwards = drawn_site(replace(plan, drawn=plan.drawn[::-1]), Soil(60.0), {}, deepest=False)
    assert backwards.line("main").route == site.line("main").route  # the order of drawing does not matter


def test_lines_that_are_bonded_where_they_cross_may_touch_and_clear_ones_stay():
    touching = SitePlan((BENT, crossing("main", 0.8)), (Bond("bent", 15.0, "main", 10.0),))
    assert assumed(touching) == []
    assert assumed(SitePlan((BENT, crossing("main", 1.5)))) == []


def test_lines_drawn_on_top_of_each_other_are_kept_apart_all_along():
    plan = SitePlan((BENT, Drawn("same", MAIN, ((-5.0, 0.02), (25.0, 0.02)), 0.8, 0.8)))
    dips = assumed(plan)
    assert max(d.end_m - d.start_m for d in dips) > 20
    assert closest_m(drawn_site(plan, Soil(60.0), {}, deepest=False), "bent", "same") > 0.1


def test_two_things_of_one_name_and_bonds_to_nothing_are_refused():
    with pytest.raises(BadInput, match="Two things on the plan"):
        SitePlan((BENT, BENT))
    with pytest.raises(BadInput, match="does not run there"):
        SitePlan((BENT,), (Bond("bent", 10.0, "ghost", 0.0),))
    with pytest.raises(BadInput, match="does not run there"):
        SitePlan((BENT, crossing("main", 1.5)), (Bond("bent", 71.0, "main", 0.0),))
