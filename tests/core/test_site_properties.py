"""Whatever is drawn: plans keep to their promises, lines are kept apart, stakes are never put where they may not be."""

from dataclasses import replace
from itertools import combinations

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.core.bench import steps_short
from vessel.core.judge.station.batch import Batch, StationContext
from vessel.core.judge.station.criteria import RULES
from vessel.core.judge.station.verdict import VERDICTS, judge, judge_codes
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Area, Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.core.plan.frequency_order import SCHOOLS
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.work_order import MOST_SETUPS, in_sequence, setups_for
from vessel.core.signal.layout.beside_line import off_line
from vessel.core.signal.layout.closest_approach import approaches
from vessel.core.signal.layout.line_on_site import drawn_site
from vessel.core.simulate.stake_spots import OVER_M, best_spots, spots
from vessel.core.text.entry import understand
from vessel.core.text.route_text import show_route, understand_route

KIT = replace(SAMPLE_KIT, frequencies=SAMPLE_KIT.frequencies[3:5], outputs_a=(0.03, 0.12))
NAMES = ["tracer_wire", "armoured_cable", "coated_steel_pipe", "bare_copper_service", "jointed_iron_main"]
PLACE = st.tuples(st.integers(-40, 40), st.integers(-40, 40)).map(lambda p: (float(p[0]), float(p[1])))


@st.composite
def plans(draw, most=4):
    """Up to `most` lines of one or two legs anywhere on 80 m by 80 m, often crossing, sometimes on top of each other."""
    drawn = []
    for k in range(draw(st.integers(1, most))):
        corners = draw(st.lists(PLACE, min_size=2, max_size=3))
        corners = [c for i, c in enumerate(corners) if not i or np.hypot(*np.subtract(c, corners[i - 1])) >= 3]
        if len(corners) < 2:
            continue
        depth = draw(st.sampled_from([0.5, 0.8, 1.2]))
        ends = [FarEnd(draw(st.sampled_from(["open", "earthed", "unknown"])), 15.0) for _ in range(2)]
        ends[0] = FarEnd("earthed" if ends[0].kind == "unknown" else ends[0].kind, 15.0)
        metal = PRESETS[draw(st.sampled_from(NAMES))].construction
        drawn.append(Drawn(f"line {k}", metal, tuple(corners), depth, depth + 0.3, *ends))
    return SitePlan(tuple(drawn))


def lines_of(plan):
    return [
        Line(
            d.construction,
            d.length_m,
            d.depth_min_m,
            d.depth_max_m,
            AccessPoint(earth_ohm=15.0 if d.start.kind == "earthed" else None),
            d.end,
            course=Course(plan, k),
        )
        for k, d in enumerate(plan.drawn)
    ]


def wires(*routes):
    """Tracer wires at one depth along `routes`."""
    metal, end = PRESETS["tracer_wire"].construction, FarEnd("open", 15.0)
    return SitePlan(tuple(Drawn(f"line {k}", metal, r, 0.5, 0.8, end, end) for k, r in enumerate(routes)))


# on top of each other, so that one comes between the ramps of others
TRENCH = wires(((0, 0), (0, -3)), ((0, 0), (0, -6)), ((0, 0), (0, -4)))
STAR = wires(((0, 1), (-1, -2)), ((0, 0), (-3, 0)), ((1, 0), (-2, 0)), ((0, 0), (3, 0)))


@settings(max_examples=40, deadline=None)
@given(plan=plans(most=6), deepest=st.booleans())
@example(plan=TRENCH, deepest=False)
@example(plan=STAR, deepest=False)
def test_no_two_lines_of_any_plan_lie_in_each_other(plan, deepest):
    if not plan.drawn:
        return
    site = drawn_site(plan, Soil(60.0), {}, deepest=deepest)
    for a, b in combinations(site.lines, 2):
        reach = a.construction.outer_radius_m + b.construction.outer_radius_m
        assert not approaches(a, b, limit_m=reach)
    for d, line in zip(plan.drawn, site.lines, strict=True):
        on_plan = line.places(np.linspace(0, line.length_m, 50))[:, :2]
        assert off_line(d, on_plan)[1].max() < 1e-6  # only depths were assumed
        assert -line.corners_m[:, 2].max() >= d.depth_m(deepest=deepest) - 1e-9


@settings(max_examples=8, deadline=None)
@given(plan=plans(), rho=st.sampled_from([25.0, 120.0, 900.0]), school=st.sampled_from(SCHOOLS))
def test_any_site_is_planned_and_every_promise_kept(plan, rho, school):
    lines = lines_of(plan)
    if not lines:
        return
    found = plan_lines(lines, Soil(rho), KIT, school=school)
    order = in_sequence(lines, found)
    for k, (line, p) in enumerate(zip(lines, found, strict=True)):
        assert p.wanted_m == pytest.approx(line.length_m, rel=1e-6)
        in_order = p.ranked if p.instead_of is None else p.ranked[1:]  # what leads for other soil stands first
        proved = steps_short(in_order, p.wanted_m, p.ranked)
        assert proved == sorted(proved)
        for o in p.ranked:
            assert 0 <= o.proved_m <= o.usable_m + 1e-9 <= line.length_m * (1 + 1e-9) + 1e-9
            for f in o.forecasts:
                assert np.isfinite(f.current_a).all()
                assert f.zones[0].start_m == 0
                assert f.zones[-1].end_m == pytest.approx(line.length_m)
        chosen = setups_for(p)
        assert len(chosen) <= MOST_SETUPS
        taken = np.sum([m for _, m in chosen], axis=0) if chosen else np.zeros(1)
        assert taken.max() <= 1
        visits = [v for v in order.visits if v.line == k]
        assert len(visits) == len(chosen)
        left = sum(r.missing_m for r in order.remaining if r.line == k)
        assert sum(v.proved_m for v in visits) + left <= p.wanted_m + 1e-6


@settings(max_examples=40, deadline=None)
@given(plan=plans(most=5), hard=st.lists(PLACE, min_size=3, max_size=4, unique=True), share=st.floats(0, 1))
def test_no_stake_is_ever_proposed_over_a_line_or_into_a_hard_surface(plan, hard, share):
    if not plan.drawn:
        return
    area = Area("slab", tuple(hard))
    line = lines_of(replace(plan, hard=(area,)))[0]
    at_m = share * line.length_m
    every = spots(line, at_m=at_m, lead_m=10.0)
    assert 0 < max(s.away_m for s in every) <= 10.0 + 1e-9
    for s in best_spots(line, at_m=at_m, lead_m=10.0):
        place = np.array([s.at])
        assert min(off_line(d, place)[1][0] for d in plan.drawn) >= OVER_M
        assert not area.holds(place)[0]
    good = [s.against is None for s in every]
    assert good == sorted(good, reverse=True)  # what will do comes first


@settings(max_examples=30, deadline=None)
@given(
    values=st.lists(st.one_of(st.none(), st.floats(0.02, 3.0)), min_size=9, max_size=9),
    repeats=st.lists(st.floats(0.0, 0.2), max_size=5),
    loop=st.one_of(st.none(), st.just(float("nan")), st.floats(0, 1)),
    reads_depth=st.booleans(),
)
def test_many_stations_are_judged_exactly_as_each_alone(values, repeats, loop, reads_depth):
    depth, lifted, apart, aside, low, high, air, end, before = values
    reading = StationReading(10.0, tuple(repeats), depth, None if lifted is None else 0.5, lifted, apart, aside)
    context = StationContext(
        tx_freq_hz=8960.0,
        rx_freq_hz=8960.0,
        noise_t=2e-11,
        receiver=SAMPLE_KIT.receiver,
        reads_depth=reads_depth,
        depth_range_m=(0.5, 1.1),
        end_m=end or 3.0,
        loop_gap=loop,
        forecast_a=None if low is None or high is None else (min(low, high) / 10, max(low, high) / 10),
        air_share=air,
        previous=None if before is None else (StationReading(8.0, (0.03,), 0.8), before / 10),
    )
    alone = judge(reading, context)
    one = Batch.of([reading], [context], rules=RULES)
    five = replace(one, amps=np.repeat(one.amps, 5), depth_m=np.repeat(one.depth_m, 5))
    codes, decided = judge_codes(five)
    assert {VERDICTS[c] for c in codes} == {alone.verdict}
    if alone.deciding:
        first = next(f for f in alone.findings if f in alone.deciding)  # by the table, not by what to ask for
        assert {RULES[k].id for k in decided} == {first.rule.id}


@settings(max_examples=50, deadline=None)
@given(
    corners=st.lists(st.tuples(st.floats(-5e3, 5e3), st.floats(-5e3, 5e3)), min_size=1, max_size=8),
    units=st.sampled_from(["metric", "imperial"]),
)
def test_a_route_that_was_shown_is_read_back(corners, units):
    again = understand_route(show_route(corners, units=units), units=units)
    assert np.array(again) == pytest.approx(np.array(corners), abs=0.006)


@settings(max_examples=50, deadline=None)
@given(length=st.floats(0.5, 500), bearing=st.integers(0, 360), units=st.sampled_from(["metric", "imperial"]))
def test_a_leg_goes_as_far_as_it_says_and_that_way(length, bearing, units):
    text = f"{length:.2f}"
    start, end = understand_route(f"{text} at {bearing}", units=units)
    step = np.subtract(end, start)
    assert np.hypot(*step) == pytest.approx(understand(text, quantity="distance", units=units).value)
    turn = np.radians(bearing)
    assert step / np.hypot(*step) == pytest.approx([np.sin(turn), np.cos(turn)], abs=1e-9)
