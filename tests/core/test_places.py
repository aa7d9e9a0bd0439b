"""Hookups in their places, circuits shared by lines, and the words that go with them."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.bench import steps_short
from vessel.core.base.errors import BadInput
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.rivals_of_hookup import rivals_of
from vessel.core.hookup.safe_order import checklist
from vessel.core.hookup.transmitter_forecast import require_place, stake_away_m, stake_moved
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Area, Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.core.plan.frequency_order import SCHOOLS, frequency_order
from vessel.core.plan.moving_induction import moving_induction
from vessel.core.plan.option_order import in_order
from vessel.core.plan.options import base_setup, setup_at
from vessel.core.plan.plan_site import plan_lines
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.layout.beside_line import lines_beside, look_aside
from vessel.core.signal.layout.line_on_site import lay_out
from vessel.core.signal.layout.placed_hookup import hookup_on, square_to, stake_side
from vessel.core.simulate.hookup_places import access_at, places
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.solved_together import cases_of, currents_together, solve_together
from vessel.core.simulate.solved_world import World
from vessel.core.simulate.stake_spots import spot_at
from vessel.core.simulate.station_grid import end_distance, station_grid
from vessel.words.safe_order_sentences import step_text
from vessel.words.what_if_sentences import spot_text
from vessel.words.work_sentences import place_text, stretch_text

SOIL = Soil(90.0)
TRACER, CABLE = (PRESETS[k].construction for k in ("tracer_wire", "armoured_cable"))
BEND = ((0.0, 0.0), (40.0, 0.0), (40.0, 50.0))


def drawn(end="unknown", *, others=(), hard=(), accesses=(), near=AccessPoint()):
    plan = SitePlan((Drawn("own", TRACER, BEND, 0.6, 1.0, end=FarEnd(end)), *others), hard=hard)
    return Line(TRACER, 90.0, 0.6, 1.0, near, FarEnd(end), accesses=accesses, course=Course(plan, 0))


def kinds(line, kit=SAMPLE_KIT):
    return [(p.method, round(p.position_m, 1), p.access, why) for p, why in places(line, kit)]


def test_every_access_point_is_a_place_for_lead_and_clamp_and_the_coil_goes_all_along():
    further = (Access("post", 40.0, AccessPoint(bare_metal=False)), Access("tap", 90.0, AccessPoint(cased=True)))
    found = kinds(drawn(accesses=further))
    direct = {(at, why) for method, at, _, why in found if method == "direct"}
    assert direct == {(0.0, None), (40.0, "no_metal"), (90.0, None)}
    clamps = {(at, why) for method, at, _, why in found if method == "clamp"}
    assert clamps == {(0.5, None), (39.5, None), (40.5, None), (89.5, "cased")}
    coils = [at for method, at, _, _ in found if method == "induction"]
    assert (coils[0], coils[-1]) == (10.0, 80.0)
    none = kinds(drawn(accesses=further), replace(SAMPLE_KIT, clamp=None, coil=None))
    assert {why for method, _, _, why in none if method != "direct"} == {"no_clamp", "no_coil"}


def test_a_connection_is_made_at_an_access_point_or_not_at_all():
    line = drawn(accesses=(Access("post", 40.0, AccessPoint(live=True)),))
    assert access_at(line, 40.6).live
    with pytest.raises(BadInput, match="nearest is the post at 40 m"):
        access_at(line, 30.0)


def test_square_to_the_line_is_left_of_its_run_also_at_its_ends_and_after_a_bend():
    line = drawn()
    for at, left in ((0.0, (0, 1)), (20.0, (0, 1)), (45.0, (-1, 0)), (90.0, (-1, 0))):
        assert square_to(line, at)[1] == pytest.approx(left, abs=1e-9)
    told = Line(TRACER, 90.0, 0.6, 1.0)
    assert square_to(told, 7.0)[0] == pytest.approx((7.0, 0.0))
    h = hookup_on(line, Setup("induction", 35840.0, 0.06, position_m=60.0))
    assert h.coil_at == pytest.approx((40.0, 20.0))
    assert h.coil_heading_deg == pytest.approx(0.0)  # the line runs north there


def test_the_stake_keeps_off_what_is_drawn_and_moves_on_its_bearing():
    duct = Drawn("duct", CABLE, ((-20.0, 6.0), (30.0, 6.0)), 0.6, 0.9)
    line, setup = drawn(others=(duct,)), Setup("direct", 8960.0, 0.03, Stake(away_m=5.0))
    assert stake_side(line, setup) == -1
    assert hookup_on(line, setup).stake_at == pytest.approx((0.0, -5.0))
    placed = replace(setup, stake_at=(3.0, -4.0))
    assert stake_away_m(line, placed) == pytest.approx(5.0)
    further = replace(placed, stake=Stake(away_m=10.0))
    assert stake_moved(line, further, 5.0) == pytest.approx((6.0, -8.0))
    with pytest.raises(BadInput, match="not on the site plan"):
        stake_away_m(Line(TRACER, 90.0, 0.6, 1.0), placed)


def test_a_stake_over_a_line_or_in_a_slab_is_refused_and_a_poor_one_only_said_to_be():
    slab = Area("slab", ((-5.0, -20.0), (5.0, -20.0), (5.0, -6.0), (-5.0, -6.0)))
    line = drawn(hard=(slab,))
    for at, says in (((8.0, 0.3), "over own"), ((1.0, -9.0), "in slab")):
        with pytest.raises(BadInput, match=says):
            require_place(line, Setup("direct", 8960.0, 0.03, stake_at=at))
    along = spot_at(line, at_m=0.0, stake_at=(-7.0, 2.0))
    assert along.against == "along_walk"
    require_place(line, Setup("direct", 8960.0, 0.03, stake_at=(-7.0, 2.0)))
    assert spot_text(along, "metric").startswith("Poor: the lead would lie along own")
    good = spot_at(line, at_m=0.0, stake_at=(0.0, 8.0))
    assert spot_text(good, "imperial") == "Good: nothing else drawn nearby (26.2 ft off, left, 90 degrees to the line)."
    assert spot_at(Line(TRACER, 90.0, 0.6, 1.0), at_m=0.0, stake_at=(0.0, 8.0)) is None


def test_the_far_end_in_a_shared_circuit_does_what_it_does_alone():
    """Shared circuits have unknown far ends earthed; open is then a break in that earth's lead."""
    line = drawn()
    setup = setup_at(places(line, SAMPLE_KIT)[0][0], base_setup(SAMPLE_KIT), 8960.0)
    shared = LineCircuit(line, SOIL, freq_hz=8960.0, circuit=World([line], SOIL, SAMPLE_KIT).circuit(8960.0))
    alone = LineCircuit(replace(line, depth_min_m=1.0), SOIL, freq_hz=8960.0)
    assert shared.far_branch is not None
    assert alone.far_branch is None
    for far_ohm in (None, 30.0, 5.0, 400.0):
        a, b = (excite(c, setup, SAMPLE_KIT, far_ohms=(far_ohm,))[0] for c in (shared, alone))
        assert a.load_ohm == pytest.approx(b.load_ohm, rel=0.01)
        at = np.array([30.0, 80.0])
        assert shared.current_at(a.response, at) == pytest.approx(alone.current_at(b.response, at), rel=0.02)


def test_a_look_aside_meets_what_is_near_until_it_ends():
    others = (
        Drawn("short", CABLE, ((10.0, 3.0), (25.0, 3.0)), 0.6, 0.9),
        Drawn("far", CABLE, ((0.0, -30.0), (20.0, -30.0)), 0.6, 0.9),
        Drawn("drain", None, ((0.0, 2.0), (20.0, 2.0)), 1.6, 1.9),
    )
    line = drawn(others=others)
    assert [(b.name, round(b.offset_m)) for b in lines_beside(line)] == [("short", 3)]
    (met,) = look_aside(line, lay_out(line, SOIL), np.array([2.0, 12.0, 24.0, 30.0]))
    assert met.met.tolist() == [False, True, True, False]
    assert met.along_m[1] == pytest.approx(2.0)
    told = Line(TRACER, 90.0, 0.6, 1.0, neighbours=(Neighbour("main", CABLE, -40.0, 0.0, 50.0, 1.0),))
    (aside,) = look_aside(told, lay_out(told, SOIL), np.array([25.0, 70.0]))
    assert aside.met.tolist() == [True, False]  # what was told is looked for however far off


def test_stations_stand_round_access_points_and_know_the_nearer_end():
    stations, edges = station_grid(200.0, [100.0])
    assert {96.0, 98.5, 101.5, 104.0} <= set(np.round(stations, 6))
    assert (np.diff(edges) > 0).all()
    line, clamp = drawn(), Setup("clamp", 8960.0, 0.06, position_m=40.0)
    assert end_distance(line, clamp.position_m, np.array([2.0, 38.0, 85.0])) == pytest.approx([2.0, 2.0, 5.0])


def test_reading_one_place_is_reading_it_among_all():
    line = drawn()
    sim = Simulator(line, World([line], SOIL, SAMPLE_KIT))
    setups = [replace(base_setup(SAMPLE_KIT), method="induction", freq_hz=35840.0, position_m=p) for p in (10.0, 40.0)]
    currents = currents_together([sim], [setups])[0][0]
    both, all_of_them = np.arange(2), np.arange(len(sim.stations_m))
    every = sim.peak_null(currents, both, all_of_them)
    some = sim.peak_null(currents, both, np.array([5, 20]))
    assert np.isnan(some).sum() == some.size - 2 * 2 * some.shape[1]
    assert some[..., [5, 20]] == pytest.approx(every[..., [5, 20]], rel=1e-4, abs=1e-5)


def test_a_coil_carried_along_is_read_as_one_set_down():
    line = drawn(others=(Drawn("beside", CABLE, ((-20.0, 1.5), (60.0, 1.5)), 0.5, 0.7),))
    sim = Simulator(line, World([line], SOIL, SAMPLE_KIT))
    freqs, stations = (8960.0, 35840.0), np.array([5, 20])
    base = replace(base_setup(SAMPLE_KIT), method="induction", output_a=max(SAMPLE_KIT.outputs_a))
    legs = [[replace(base, freq_hz=f, position_m=p) for p in (10.0, 40.0)] for f in freqs]
    assert sim.asides[0].met[stations[0]]
    solved = [(leg, solve_together([sim], [leg])[0]) for leg in legs]
    carried = sim.carried(solved, np.tile(stations, 2))
    down = cases_of(sim, [s for leg in legs for s in leg])
    peak_null_m = sim.peak_null(down.currents, np.arange(4), np.arange(len(sim.stations_m)))
    for k, station in enumerate(np.tile(stations, 2)):
        assert carried.current_a[k] == pytest.approx(down.currents.current_a[k, :, station])
        assert carried.beside_a[k] == pytest.approx(down.currents.beside_a[k, :, :, station].max(1, initial=0.0))
        assert carried.over_t[k] == pytest.approx(down.over_t[k, :, station])
        assert carried.air_share[k] == pytest.approx(down.air_share[k, :, station])
        near = pytest.approx(peak_null_m[k, :, station], rel=1e-4, abs=1e-5)
        assert carried.peak_null_m(np.array([k]))[0] == near


def test_moving_induction_needs_a_coil_and_never_proves_more_than_there_is():
    ends = FarEnd("earthed", 5.0)
    cable = Drawn("own", CABLE, ((0.0, 0.0), (60.0, 0.0)), 0.6, 0.9, ends, ends)
    line = Line(CABLE, 60.0, 0.6, 0.9, AccessPoint(earth_ohm=5.0), ends, course=Course(SitePlan((cable,)), 0))
    (found,) = moving_induction([Simulator(line, World([line], SOIL, SAMPLE_KIT))])
    # at the shorter distance too much comes through the air
    assert (found.apart_m, 50.0 < found.proved_m <= 60.0) == (20.0, True)
    assert found.freq_hz >= SAMPLE_KIT.coil.min_freq_hz
    without = replace(SAMPLE_KIT, coil=None)
    assert moving_induction([Simulator(line, World([line], SOIL, without))]) == [None]


def test_a_coil_carried_along_is_at_every_station_the_same_coil_standing_there():
    ends = FarEnd("earthed", 5.0)
    near = Neighbour("main", CABLE, 1.5, 0.0, 240.0, 1.0, 3.0, 3.0)
    line = Line(CABLE, 240.0, 0.6, 0.9, AccessPoint(earth_ohm=5.0), ends, neighbours=(near,))
    moving = Setup("induction", 35840.0, 0.12, apart_m=20.0)
    state = hookup_state(line, SOIL, SAMPLE_KIT, moving, [])
    for at, coil in ((12.0, 32.0), (60.0, 40.0), (237.0, 217.0)):
        standing = moving.standing(at)
        assert (standing.position_m, standing.moving) == (coil, False)
        alone = hookup_state(line, SOIL, SAMPLE_KIT, standing, [])
        assert state.band.at(at) == pytest.approx(alone.band.at(at), rel=0.02)
        assert state.beside[0].at(at) == pytest.approx(alone.beside[0].at(at), rel=0.02)

    # rivals too are solved with the coil where it is then
    def twin(setup, place):
        rivals = rivals_of(line, SOIL, SAMPLE_KIT, setup, hookup_state(line, SOIL, SAMPLE_KIT, setup, []))
        found = next(e for e in rivals.explanations if e.kind == "twin_both" and not e.follows)
        return rivals.at_m[place], np.abs(found.conductors.amps[:, place])

    at, carried = twin(moving, 8)
    assert twin(moving.standing(at), 8)[1] == pytest.approx(carried, rel=0.02)


@pytest.mark.parametrize(("school", "first"), [("lowest", 560.0), ("middle", 8960.0), ("high", 35840.0)])
def test_a_school_starts_where_it_says(school, first):
    assert min(SAMPLE_KIT.frequencies, key=lambda f: frequency_order(f.freq_hz, school)).freq_hz == first


def test_whatever_the_school_more_proved_length_comes_first():
    (plan,) = plan_lines([Line(TRACER, 120.0, 0.6, 1.0)], SOIL, SAMPLE_KIT)
    for school in SCHOOLS:
        ordered = in_order(plan.ranked[::-1], wanted_m=120.0, school=school)
        proved = steps_short(ordered, 120.0)
        assert proved == sorted(proved)
        assert set(ordered) == set(plan.ranked)


def test_places_and_stretches_in_words():
    line = drawn(accesses=(Access("Post 3", 40.0, AccessPoint()),))
    (plan,) = plan_lines([line], SOIL, SAMPLE_KIT)
    said = {place_text(o, "metric") for o in plan.ranked}
    assert "Direct connection at the near end" in said
    assert "Direct connection at Post 3, 40 m along" in said
    assert stretch_text([(0, 4), (8, 20), (30, 31.5)], "metric") == "0 m to 4 m, 8 m to 20 m and 30 m to 31.5 m"
    assert stretch_text([(0, 4)], "imperial") == "0 ft to 13.1 ft"


def test_the_safe_order_says_where_the_plan_has_the_stake():
    duct = Drawn("duct", CABLE, ((-20.0, 6.0), (30.0, 6.0)), 0.6, 0.9)
    line = drawn(others=(duct,))
    placed = Setup("direct", 8960.0, 0.03, Stake(away_m=5.0), stake_at=(0.0, -5.0))
    (step,) = [s for s in checklist(line, placed) if s.id == "stake"]
    assert "on the right, looking along the line, where the site plan has it" in step_text(step, line, placed, "metric")
    assert "away from the neighbours" in step_text(step, line, replace(placed, stake_at=None), "metric")
