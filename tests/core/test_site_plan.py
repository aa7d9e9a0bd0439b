"""Planning a whole site: what a crew lead would expect of hookups, stakes, schools, order of work and what-ifs."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import numpy as np
import pytest

from vessel.core.model import vicinity as vicinity_of
from vessel.core.model.construction import PRESETS, STRUCTURES
from vessel.core.model.drawn_line import Area, Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.landmarks import landmarks
from vessel.core.model.line import Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.core.plan.close_setups import rivals, sounder
from vessel.core.plan.option_order import in_order, pick
from vessel.core.plan.options import base_setup, setup_at
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.unknowns import unknowns
from vessel.core.plan.what_if import what_if, without_bonds
from vessel.core.plan.work_order import in_sequence, proved_by, setups_for
from vessel.core.signal.circuit.sources import excite
from vessel.core.signal.layout import line_on_site
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.solved_site import SolvedSite
from vessel.core.simulate.hookup_places import Place
from vessel.core.simulate.soil_range import soils_expected
from vessel.core.simulate.solved_world import World
from vessel.core.simulate.stake_spots import best_spots, spots
from vessel.words.fact_sentences import against_best, facts
from vessel.words.option_sentences import cautions
from vessel.words.what_if_sentences import board_text, change_text, find_out_text, sounder_text, spot_advice
from vessel.words.work_sentences import remaining_text, rule_out_text, school_text

SOIL = Soil(120.0)
KIT = SAMPLE_KIT
FEW = replace(KIT, frequencies=tuple(f for f in KIT.frequencies if f.freq_hz in (560.0, 8960.0, 35840.0)))
TRACER, CABLE, MAIN = (PRESETS[k].construction for k in ("tracer_wire", "armoured_cable", "jointed_iron_main"))
WALL = STRUCTURES["sheet_pile"].construction


def turned(corners, degrees):
    c, s = np.cos(np.radians(degrees)), np.sin(np.radians(degrees))
    return tuple((float(c * x - s * y), float(s * x + c * y)) for x, y in corners)


def line_on(plan, name, near=AccessPoint(), accesses=()):
    own = next(k for k, d in enumerate(plan.drawn) if d.name == name)
    d = plan.drawn[own]
    return Line(
        d.construction,
        d.length_m,
        d.depth_min_m,
        d.depth_max_m,
        near,
        d.end,
        accesses=accesses,
        course=Course(plan, own),
    )


def two_lines(degrees=0.0, **plan):
    service = Drawn("service", TRACER, turned(((0, 0), (60, 0), (60, 30)), degrees), 0.6, 1.0, end=FarEnd("unknown"))
    beside = turned(((-20, -3), (63, -3), (63, 30)), degrees)
    main = Drawn("main", CABLE, beside, 1.0, 1.2, FarEnd("earthed", 8.0), FarEnd("earthed", 8.0))
    return SitePlan((service, main), **plan)


def best_of(plans, k=0):
    return plans[k].ranked[0]


def test_a_straight_drawn_line_is_planned_as_the_same_line_told():
    beside = Neighbour("main", CABLE, 2.0, -20.0, 120.0, 1.1, 8.0, 8.0)
    told = Line(TRACER, 100.0, 0.6, 1.0, neighbours=(beside,))
    plan = SitePlan(
        (
            Drawn("service", TRACER, ((5.0, 5.0), (5.0, 105.0)), 0.6, 1.0, end=FarEnd("unknown")),
            # left of a run to the north is west
            Drawn("main", CABLE, ((3.0, -15.0), (3.0, 125.0)), 1.1, 1.1, FarEnd("earthed", 8), FarEnd("earthed", 8)),
        )
    )
    setup = setup_at(Place("direct", 0.0, "near end"), base_setup(FEW), 8960.0)
    setup = replace(setup, output_a=0.03)
    drawn = what_if([line_on(plan, "service")], 0, SOIL, FEW, setup)
    same = what_if([told], 0, SOIL, FEW, setup)
    for a, b in zip(drawn.forecasts, same.forecasts, strict=True):
        assert a.current_a == pytest.approx(b.current_a, rel=0.02, abs=1e-5)
        assert a.bleed_off[0].current_a == pytest.approx(b.bleed_off[0].current_a, rel=0.05)
        assert a.length_m("mark") == pytest.approx(b.length_m("mark"), abs=4.0)


def test_turning_the_whole_site_changes_nothing():
    plans = []
    for degrees in (0.0, 37.0):
        plan = two_lines(degrees)
        plans.append(plan_lines([line_on(plan, "service"), line_on(plan, "main")], SOIL, FEW))
    for one, other in zip(*plans, strict=True):
        assert one.ranked[0].proved_m == pytest.approx(other.ranked[0].proved_m, abs=0.5)
        keys = [[(o.setup.method, o.setup.freq_hz, o.setup.output_a) for o in p.ranked[:5]] for p in (one, other)]
        assert keys[0] == keys[1]


def test_lines_planned_together_do_what_they_do_alone():
    plan = two_lines()
    service, main = line_on(plan, "service"), line_on(plan, "main", AccessPoint(earth_ohm=8.0))
    together, (alone,) = plan_lines([service, main], SOIL, FEW), plan_lines([service], SOIL, FEW)
    assert best_of(together).setup == alone.ranked[0].setup
    for a, b in zip(best_of(together).forecasts, alone.ranked[0].forecasts, strict=True):
        assert a.current_a == pytest.approx(b.current_a, rel=0.03, abs=1e-5)


def test_a_dig_area_limits_what_is_planned_for():
    dig = Area("dig", ((20.0, -10.0), (50.0, -10.0), (50.0, 10.0), (20.0, 10.0)))
    whole, part = (plan_lines([line_on(two_lines(**p), "service")], SOIL, FEW)[0] for p in ({}, {"dig": dig}))
    assert part.wanted_m == pytest.approx(30.0, abs=0.5)
    assert whole.wanted_m == pytest.approx(90.0)
    assert part.ranked[0].proved_m <= part.wanted_m + 1e-6


def test_a_live_access_point_is_never_connected_to_and_the_next_one_is():
    plan = two_lines()
    further = (Access("post", 30.0, AccessPoint()), Access("pillar", 60.0, AccessPoint(live=True)))
    (found,) = plan_lines([line_on(plan, "service", AccessPoint(live=True), further)], SOIL, FEW)
    direct = {o.access for o in found.ranked if o.setup.method == "direct"}
    assert direct == {"post"}
    line = line_on(plan, "service", AccessPoint(live=True), further)
    connected = next(o for o in found.ranked if o.setup.method == "direct")
    assert any(c.startswith("LIVE at pillar") for c in cautions(connected, line, FEW, "metric"))
    refused = {o.access for o in found.rejected if o.rejected == "live"}
    assert refused == {"near end", "pillar"}


@pytest.fixture(scope="module")
def leapfrog():
    """A live cable earthed at a pedestal every 45 m: a clamp's signal ends at each."""
    ends = FarEnd("earthed", 10.0)
    cable = Drawn("cable", CABLE, ((0.0, 0.0), (135.0, 0.0)), 0.6, 0.9, ends, ends, ((45.0, 0.2), (90.0, 0.2)))
    plan = SitePlan((cable,))
    posts = tuple(Access(f"P{k}", at, AccessPoint(live=True, earth_ohm=0.2)) for k, at in ((1, 45.0), (2, 90.0)))
    line = line_on(plan, "cable", AccessPoint(live=True, earth_ohm=10.0), posts)
    return line, plan_lines([line], SOIL, FEW)


def test_a_clamp_leapfrogs_over_bonded_pedestals(leapfrog):
    line, (plan,) = leapfrog
    chosen = [o for o, _ in setups_for(plan)]
    assert len({round(o.setup.position_m) for o in chosen if o.setup.method == "clamp"}) >= 2
    assert "direct" not in {o.setup.method for o in chosen}
    spans = [np.flatnonzero(m) for _, m in setups_for(plan)]
    assert sum(len(s) for s in spans) == len(set(np.concatenate(spans)))  # nothing is proved twice
    proved = sum(float(o.forecasts[0].wanted_m[m].sum()) for o, m in setups_for(plan))
    assert proved > plan.ranked[0].proved_m + 20
    assert proved > 0.8 * line.length_m


def test_an_order_of_work_is_complete_and_says_what_is_left():
    plan = two_lines()
    drain = Drawn("alone", TRACER, ((200.0, 200.0), (203.0, 203.0)), 0.6, 1.0, end=FarEnd("open"))
    plan = replace(plan, drawn=(*plan.drawn, drain))
    lines = [line_on(plan, "service"), line_on(plan, "main"), line_on(plan, "alone", AccessPoint(bare_metal=False))]
    plans = plan_lines(lines, SOIL, FEW)
    order = in_sequence(lines, plans)
    for k, p in enumerate(plans):
        proved = sum(v.proved_m for v in order.visits if v.line == k)
        assert proved <= p.wanted_m + 1e-6
        assert all(0 <= a < b <= lines[k].length_m + 1e-6 for v in order.visits if v.line == k for a, b in v.stretches)
    assert order.visits[0].walk_m is None
    assert all(v.walk_m is not None for v in order.visits[1:])
    (left,) = [r for r in order.remaining if r.line == 2]
    text = remaining_text(left, "metric", whole=True)
    assert text.startswith("No setup proves any of it.")
    assert "not located" in text
    names = ["service", "main", "alone"]
    for k, v in enumerate(order.visits):
        for name, said in zip(v.rule_out, rule_out_text(v, k, order, names), strict=True):
            assert said.startswith(name)


def test_a_school_is_shown_its_cost_and_never_overrides_a_forecast():
    line = Line(TRACER, 200.0, 0.6, 1.0, far=FarEnd("open"))
    by_school = {s: plan_lines([line], SOIL, KIT, school=s)[0] for s in ("lowest", "middle", "high")}
    most = max(p.ranked[0].proved_m for p in by_school.values())
    for school, plan in by_school.items():
        assert plan.ranked[0].proved_m >= most - 0.02 * 200 - 1e-6
        text, will_do = school_text(plan, school, "metric")
        assert will_do == (pick(plan.ranked, school, plan.wanted_m).proved_m >= 0.9 * plan.ranked[0].proved_m)
        assert ("Not enough" in text) != will_do
    low = pick(by_school["lowest"].ranked, "lowest", plan.wanted_m)
    assert low.setup.freq_hz < 9e3 < 30e3 < pick(by_school["high"].ranked, "high", plan.wanted_m).setup.freq_hz
    assert not school_text(by_school["lowest"], "lowest", "metric")[1]  # an open wire starves low frequency


def test_stake_spots_are_refused_for_what_is_in_the_way():
    plan = SitePlan(
        (
            Drawn("service", TRACER, ((0.0, 0.0), (60.0, 0.0)), 0.6, 1.0),
            Drawn("duct", CABLE, ((-20.0, 5.0), (60.0, 5.0)), 0.6, 1.0),
            Drawn("wall", WALL, ((-3.0, -20.0), (-3.0, -8.0)), 2.5, 2.5),
        ),
        hard=(Area("slab", ((2.0, -2.0), (12.0, -2.0), (12.0, -12.0), (2.0, -12.0))),),
    )
    line = line_on(plan, "service")
    found = spots(line, at_m=0.0, lead_m=10.0)
    why = {(s.against, s.what) for s in found}
    assert {("lead_crosses", "duct"), ("by_steel", "wall"), ("hard", "slab"), ("along_walk", "service")} <= why
    best = best_spots(line, at_m=0.0, lead_m=10.0)[0]
    assert best.against is None
    assert best.clear_m == max(s.clear_m for s in found if s.against is None and s.away_m == best.away_m)
    for s in found:
        x, y = s.at
        assert np.hypot(x, y) == pytest.approx(s.away_m)
        assert (s.against == "over_line") == (
            (abs(y) < 1.0 and x > -1.0) or abs(y - 5.0) < 1.0 or (abs(x + 3) < 1.0 and y < -7.0)
        )
    advice = spot_advice(found, "metric")
    assert advice.startswith("Best: ")
    assert "slab" in advice
    nowhere = replace(
        line, course=Course(replace(plan, hard=(Area("all", ((-99, -99), (99, -99), (99, 99), (-99, 99))),)), 0)
    )
    assert best_spots(nowhere, at_m=0.0, lead_m=10.0) == ()
    assert "No place the lead reaches is good" in spot_advice(spots(nowhere, at_m=0.0, lead_m=10.0), "metric")


def planned(line, freq_hz=8960.0, output_a=0.03, kit=FEW):
    spot = best_spots(line, at_m=0.0, lead_m=kit.lead_m)[0]
    place = Place("direct", 0.0, "near end", spot.at, spot.away_m)
    return replace(setup_at(place, base_setup(kit), freq_hz), output_a=output_a)


def test_a_what_if_is_what_a_new_plan_would_say():
    plan = two_lines()
    line, wet = line_on(plan, "service"), Soil(30.0)
    (fresh,) = plan_lines([line], wet, FEW)
    option = next(o for o in fresh.ranked if o.setup.method == "direct" and o.setup.freq_hz == 35840.0)
    again = what_if([line], 0, wet, FEW, option.setup)
    assert again.proved_m == pytest.approx(option.proved_m, abs=3.0)
    assert again.forecasts[0].current_a[-1] == pytest.approx(option.forecasts[0].current_a[-1], rel=0.05, abs=2e-5)


def test_what_ifs_move_the_forecast_the_way_the_trade_knows():
    plan = two_lines(bonds=(Bond("service", 90.0, "main", 113.0),))
    line = replace(line_on(plan, "service"), far=FarEnd("open"))
    setup = planned(line)
    now = what_if([line], 0, SOIL, FEW, setup)
    (apart,) = without_bonds([line], [0])
    loose = what_if([apart], 0, SOIL, FEW, setup)
    earthed = what_if([apart], 0, SOIL, FEW, setup, far=FarEnd("earthed"))
    assert earthed.forecasts[0].current_a[-1] > 10 * loose.forecasts[0].current_a[-1]
    assert loose.forecasts[0].current_a[-1] < 0.2 * now.forecasts[0].current_a[-1]
    assert loose.bleed_share < now.bleed_share
    beside_main = replace(setup, stake_at=(0.0, -4.5))
    worse = what_if([line], 0, SOIL, FEW, beside_main)
    assert not np.allclose(worse.forecasts[0].beside_a, now.forecasts[0].beside_a, rtol=1e-3)
    assert "was" in change_text(now, loose, "metric")
    assert "as before" in change_text(now, now, "metric")


def test_the_others_change_with_the_chosen_setup_and_may_then_be_better():
    line = line_on(two_lines(), "service")
    (plan,) = plan_lines([line], SOIL, FEW)
    best = plan.ranked[0]
    others = rivals(plan, best.setup)
    assert others
    assert len({o.setup for o in (best, *others)}) == 1 + len(others) <= 5
    assert {o.setup.method for o in others} >= {o.setup.method for o in plan.ranked} - {best.setup.method}
    wet = Soil(15.0)
    now = [what_if([line], 0, wet, FEW, o.setup) for o in (best, *others)]
    board = in_order(now, wanted_m=plan.wanted_m, school="lowest")
    more = board[0].proved_m - now[-1].proved_m
    assert (board_text(board, now[-1], "metric") == "") == (more < 0.5)
    assert board_text(board, board[0], "metric") == ""


def test_a_setup_is_the_sounder_one_if_it_proves_more_in_the_worst_soil():
    line = line_on(two_lines(), "service")
    (plan,) = plan_lines([line], SOIL, FEW)
    poor, best = plan.ranked[-1], plan.ranked[0]
    found = sounder([line], 0, SOIL, FEW, poor.setup, [best], measured=True, wanted_m=plan.wanted_m)
    least = [what_if([line], 0, s, FEW, best.setup).proved_m for s in soils_expected(SOIL, measured=True)]
    assert found.option is best
    assert found.least_m == pytest.approx(min(least))
    assert "At worst" in sounder_text(found, [best], "metric")
    assert sounder([line], 0, SOIL, FEW, best.setup, [poor], measured=False, wanted_m=plan.wanted_m) is None
    assert "No other setup" in sounder_text(None, [poor], "metric")
    dry, _, wet = (s.resistivity_ohm_m for s in soils_expected(SOIL, measured=True)[::-1])
    assert dry > SOIL.resistivity_ohm_m > wet


def test_bends_access_points_and_bonds_are_known_along_a_line():
    plan = two_lines(bonds=(Bond("main", 50.0, "service", 30.0),))
    line = line_on(plan, "service", accesses=(Access("Pedestal", 75.0, AccessPoint()),))
    assert [(m.kind, m.at_m) for m in landmarks(line)] == [("bond", 30.0), ("bend", 60.0), ("access", 75.0)]
    straight = Drawn("own", TRACER, ((0.0, 0.0), (30.0, 0.0), (60.0, 1.0)), 0.6, 1.0)
    assert landmarks(line_on(SitePlan((straight,)), "own")) == ()


def test_what_is_in_service_is_left_alone_where_another_place_does_as_well():
    quiet = Access("Spare pedestal", 0.0, AccessPoint(in_service=False))
    line = Line(TRACER, 80.0, 0.6, 1.0, AccessPoint(in_service=True), accesses=(quiet,))
    (plan,) = plan_lines([line], SOIL, FEW)
    best = plan.ranked[0]
    assert (best.setup.method, best.access, best.disturbs) == ("direct", "Spare pedestal", False)
    assert not any("In service" in c for c in cautions(best, line, FEW, "metric"))
    other = next(o for o in plan.ranked if o.setup == best.setup and o.disturbs)
    assert any("In service" in c for c in cautions(other, line, FEW, "metric"))


def test_what_matters_most_is_found_out_first():
    wire = Line(TRACER, 220.0, 0.6, 1.0)
    setup = replace(base_setup(KIT), freq_hz=560.0, output_a=0.12)
    found = unknowns([wire], 0, SOIL, KIT, setup, measured=True)
    assert found[0].name == "far_end"
    assert (found[0].least_case, found[0].most_case) == ("open", "earthed")
    assert find_out_text(found).startswith("Far end matters most.")
    known = unknowns([replace(wire, far=FarEnd("earthed"), depth_min_m=1.0)], 0, SOIL, KIT, setup, measured=True)
    assert {u.name for u in known} == {"soil"}
    spread = [u.spread_m for u in found]
    assert spread == sorted(spread, reverse=True)


def test_figures_of_an_option_are_all_there_with_their_units():
    (plan,) = plan_lines([line_on(two_lines(), "service")], SOIL, FEW)
    best = plan.ranked[0]
    line = line_on(two_lines(), "service")
    said = dict(facts(best, line, SOIL, FEW, "metric"))
    assert {"Reach", "Current at the far end", "Peak to null", "Stake", "Battery"} <= set(said)
    assert "ohm" in said["Stake"]
    assert said["Battery"].endswith("h on a full charge")
    main = line_on(two_lines(), "main", AccessPoint(live=True, earth_ohm=8.0))
    induced = next(o for o in plan_lines([main], SOIL, FEW)[0].ranked if o.setup.method == "induction")
    assert dict(facts(induced, main, SOIL, FEW, "imperial"))["Stand-off"].endswith("ft at least")
    assert against_best(best, best, "metric") == ""
    assert all(against_best(o, best, "metric") for o in plan.ranked[1:])


def test_where_standing_still_leaves_much_unproved_moving_induction_is_tried():
    ends = FarEnd("earthed", 2.0)
    grid = Drawn(
        "collector", PRESETS["power_bare_neutral"].construction, ((0.0, 0.0), (400.0, 0.0)), 0.8, 1.0, ends, ends
    )
    line = line_on(SitePlan((grid,)), "collector", AccessPoint(live=True, earth_ohm=2.0))
    (plan,) = plan_lines([line], Soil(40.0), FEW)
    assert sum(float(o.forecasts[0].wanted_m[m].sum()) for o, m in setups_for(plan)) < 0.9 * plan.wanted_m
    assert plan.moving.proved_m > proved_length(plan.ranked)
    (left,) = in_sequence([line], [plan]).remaining
    assert "Moving induction would prove" in remaining_text(left, "metric", whole=False)


def proved_length(ranked):
    return max((float(o.forecasts[0].wanted_m[proved_by(o)].sum()) for o in ranked), default=0.0)


def test_one_circuit_may_be_asked_by_several_threads_at_once():
    plan = two_lines()
    lines = [line_on(plan, "service"), line_on(plan, "main")]
    circuit = World(lines, SOIL, FEW).circuit(8960.0)
    hookups = [hookup_on(line, planned(line)) for line in lines] * 6
    alone = [excite(circuit, h, FEW)[0].load_ohm for h in hookups]
    with ThreadPoolExecutor(4) as pool:
        for _ in range(10):
            together = list(pool.map(lambda h: excite(circuit, h, FEW)[0].load_ohm, hookups))
            assert together == pytest.approx(alone, rel=1e-9)


def test_a_mirrored_site_has_its_stakes_on_the_other_side():
    plan = two_lines()
    mirror = replace(plan, drawn=tuple(replace(d, corners=tuple((x, -y) for x, y in d.corners)) for d in plan.drawn))
    here, there = (best_spots(line_on(p, "service"), at_m=0.0, lead_m=10.0) for p in (plan, mirror))
    assert [s.side for s in here] != [s.side for s in there]
    for a, b in zip(here, there, strict=True):
        assert {a.side, b.side} == {"left", "right"}
        assert b.at == pytest.approx((a.at[0], -a.at[1]), abs=1e-9)
        assert (b.against, b.what) == (a.against, a.what)
        assert b.clear_m == pytest.approx(a.clear_m)


def test_on_a_large_plan_a_line_is_computed_with_what_is_close_or_bonded_and_that_is_enough(monkeypatch):
    ends = FarEnd("earthed", 20.0), FarEnd("earthed", 15.0)
    alike = [((0.0, 2.5 * k), (60.0, 2.5 * k + 0.3 * (k % 3)), (120.0, 2.5 * k)) for k in range(14)]
    across = [((15.0 * k + 5, -20.0), (15.0 * k + 9, 60.0)) for k in range(4)]
    metals = (CABLE, TRACER, MAIN)
    drawn = [
        Drawn(f"L{k}", metals[k % 3], route, 0.6 + 0.02 * k, 1.0 + 0.02 * k, *ends)
        for k, route in enumerate([*alike, *across])
    ]
    plan = SitePlan(tuple(drawn), (Bond("L7", 0.0, "L13", 0.0, 0.1),))
    line, setup = line_on(plan, "L7"), replace(base_setup(KIT), freq_hz=8960.0)
    found = []
    for most in (12, 24):
        monkeypatch.setattr(vicinity_of, "MOST_TOGETHER", most)
        vicinity_of.vicinity.cache_clear()
        line_on_site._laid_apart.cache_clear()
        site = line_on_site.lay_out(line, SOIL)
        solved = SolvedSite(site, hookup_on(line, setup), KIT)
        carrying = {x.name for x in site.lines if x.construction is not None}
        found.append((carrying, np.abs(solved.current_at("L7", np.linspace(5, 110, 15)))))
    (few, near), (every, whole) = found
    assert (len(few), len(every)) == (12, 18)
    assert {"L6", "L8", "L13", "L12"} <= few
    assert near == pytest.approx(whole, rel=0.03, abs=0.002 * whole.max())
