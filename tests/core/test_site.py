"""A site of many lines against what the core did not write: textbook forms, a plain dense solve, symmetry, trade lore."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.core.corpus_figures import KIT_HZ, bleed_off, power_error, random_sites, reciprocity_error, saad_error
from vessel.core.base.errors import VesselError
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond, Feature, Hookup, Site, SiteLine
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.ports import seen
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.circuit.sources import direct_port
from vessel.core.signal.solved_site import SolvedSite, convergence
from vessel.words.refusals import refusal

LOAM = Soil(60.0)
TRACER, CABLE, STEEL = (PRESETS[n].construction for n in ("tracer_wire", "armoured_cable", "coated_steel_pipe"))
EARTHED = FarEnd("earthed", 10.0)


def straight(name, construction, y, *, x=(0.0, 100.0), depth=0.8, start=EARTHED, end=EARTHED, features=()):
    return SiteLine(name, construction, ((x[0], y, depth), (x[1], y, depth)), start, end, tuple(features))


def direct(freq=8960.0, line="A", at_m=0.0, stake=(0.0, 8.0), **rest):
    return Hookup("direct", freq, 0.03, line, at_m, Stake(), stake, **rest)


def solved(*lines, bonds=(), hookup=None, soil=LOAM, refine=1.0):
    return SolvedSite(Site(soil, lines, tuple(bonds)), hookup or direct(), SAMPLE_KIT, refine=refine)


def amps(site, name, x):
    return complex(site.current_at(name, np.array([x]))[0])


@pytest.mark.parametrize("freq_hz", KIT_HZ)
@pytest.mark.parametrize("rho", [20.0, 200.0, 2000.0])
def test_coupling_of_long_parallel_lines_is_saads_mutual_impedance(freq_hz, rho):
    assert saad_error(freq_hz, rho) < 0.03


def test_bleed_off_grows_with_frequency_as_every_practitioner_knows():
    low, middle, high = (bleed_off(f) for f in (500.0, 8000.0, 33000.0))
    assert abs(low) == pytest.approx(0.01, abs=0.004)
    assert abs(middle) == pytest.approx(0.10, abs=0.02)
    assert abs(high) == pytest.approx(0.33, abs=0.05)
    # from a quarter turn behind towards fully reversed, once soil shared by the earths is out of the way
    turns = [-np.degrees(np.angle(bleed_off(f, over_m=60.0, ohm=60.0, length_m=400.0))) for f in (2000.0, 33000.0)]
    assert 85 < turns[0] < 115
    assert turns[1] > turns[0] + 20


def test_a_plain_dense_solve_of_the_same_circuit_gives_the_same_answer():
    """Nodal equations with the inverted branch impedances, nothing shared with the factored form but its inputs."""
    site = solved(straight("A", TRACER, 0.0), straight("B", CABLE, 1.5), straight("C", STEEL, -3.0, x=(20.0, 90.0)))
    c = site.circuit
    n, m = len(c.mesh.nodes_m), len(c.mesh.start)
    incidence = np.zeros((n, m))
    incidence[c.mesh.start, np.arange(m)] += 1
    incidence[c.mesh.end, np.arange(m)] -= 1
    assert (c.mesh.along_branches(c.potentials) == incidence.T @ c.potentials).all()
    port = direct_port(c, site.hookup)
    z = c.series + np.diag(np.where(np.abs(np.diag(c.series)) == 0, 1e-9, 0))
    admittance = incidence @ np.linalg.inv(z) @ incidence.T + np.linalg.inv(c.potentials)
    drive = port.spec.j + np.linalg.inv(c.potentials) @ port.spec.stake
    drive = drive - incidence @ np.linalg.solve(z, port.spec.emf)
    volts = np.linalg.solve(admittance, drive)
    assert site.excitation.response.volts == pytest.approx(volts, rel=1e-5, abs=1e-6 * np.abs(volts).max())


@pytest.mark.parametrize("freq_hz", [560.0, 35840.0])
def test_a_mirrored_site_carries_the_same_currents(freq_hz):
    def build(side):
        lines = [
            SiteLine("A", TRACER, ((0, 0, 0.8), (60, 10 * side, 0.9), (90, 40 * side, 0.7)), end=EARTHED),
            SiteLine("B", CABLE, ((-10, 3 * side, 1.0), (80, 3 * side, 1.2)), EARTHED, EARTHED),
        ]
        return solved(*lines, hookup=direct(freq_hz, stake=(-3.0, -8.0 * side)))

    left, right = build(1), build(-1)
    assert left.excitation.load_ohm == pytest.approx(right.excitation.load_ohm, rel=1e-9)
    for name in ("A", "B"):
        assert left.line_current(name).amps == pytest.approx(right.line_current(name).amps, rel=1e-9)


CORNER = st.tuples(st.floats(-40, 40), st.floats(-40, 40), st.floats(0.3, 2.5))
SITE_LINE = st.builds(
    lambda preset, corners, start, end: (preset, corners, start, end),
    st.sampled_from(sorted(PRESETS)),
    st.lists(CORNER, min_size=2, max_size=4),
    st.one_of(st.none(), st.floats(1, 100)),
    st.one_of(st.none(), st.floats(1, 100)),
)


def random_site(described, rho, bonded):
    def end(ohm):
        return FarEnd("open") if ohm is None else FarEnd("earthed", ohm)

    lines = tuple(
        SiteLine("ABCDE"[i], PRESETS[preset].construction, tuple(corners), end(start), end(stop))
        for i, (preset, corners, start, stop) in enumerate(described)
    )
    bonds = (Bond("A", lines[0].length_m / 2, "B", lines[1].length_m / 3, 0.05),) if bonded else ()
    return Site(Soil(rho), lines, bonds)


@settings(max_examples=30, deadline=None)
@given(
    described=st.lists(SITE_LINE, min_size=2, max_size=5),
    rho=st.floats(8, 2500),
    bonded=st.booleans(),
    freq=st.sampled_from(KIT_HZ),
    stake=st.tuples(st.floats(-9, 9), st.floats(2, 9)),
)
def test_every_random_site_is_finite_passive_and_reciprocal(described, rho, bonded, freq, stake):
    try:
        site = random_site(described, rho, bonded)
        x, y, _ = site.lines[0].route[0]
        hookup = direct(freq, stake=(x + stake[0], y + stake[1]))
        answer = SolvedSite(site, hookup, SAMPLE_KIT)
    except VesselError:  # lines in each other, a leg without length, a stake on a line
        assume(False)
    assert np.isfinite(answer.excitation.response.amps).all()
    assert power_error(answer) < 1e-6
    assert reciprocity_error(answer) < 1e-9


def test_halving_the_segments_hardly_moves_any_current_of_a_site():
    lines = (
        straight("A", TRACER, 0.0, start=FarEnd("open")),
        SiteLine("B", PRESETS["bare_steel_service"].construction, ((10, -1.5, 1.0), (70, -1.5, 1.0), (90, -20, 1.0))),
        straight("C", CABLE, 4.0),
    )
    for freq in (560.0, 35840.0):
        coarse, fine = (solved(*lines, hookup=direct(freq), refine=r) for r in (1.0, 2.0))
        change = convergence(coarse, fine, ["A", "B", "C"])
        assert max(change.values()) < 0.01


def test_a_tee_splits_the_current_and_loses_none():
    main = straight("A", STEEL, 0.0, start=FarEnd("open"))
    branch = SiteLine("B", STEEL, ((50, 0, 0.8), (50, -40, 0.8)), FarEnd("open"), EARTHED)
    site = solved(main, branch, bonds=[Bond("A", 50.0, "B", 0.0, 0.0)])
    before, after, off = amps(site, "A", 49.9), amps(site, "A", 50.1), amps(site, "B", 0.1)
    assert before == pytest.approx(after + off, rel=2e-3)
    assert abs(off) > 0.2 * abs(before)


def test_a_bond_to_an_earthed_neighbour_takes_the_current_away():
    lines = straight("A", TRACER, 0.0, start=FarEnd("open")), straight("B", CABLE, 5.0, start=FarEnd("earthed", 3.0))
    free, bonded = (solved(*lines, bonds=b) for b in ((), [Bond("A", 5.0, "B", 5.0)]))
    assert abs(amps(bonded, "A", 60.0)) < 0.75 * abs(amps(free, "A", 60.0))
    assert abs(amps(bonded, "B", 3.0)) > 0.3 * 0.03


@pytest.mark.parametrize(
    ("feature", "freq", "least", "most"),
    [
        (Feature("break", 40.0), 560.0, 0.0, 0.001),
        (Feature("joint", 40.0, ohm=1e4, farad=2e-9), 560.0, 0.0, 0.15),
        (Feature("joint", 40.0, ohm=1e4, farad=2e-9), 71680.0, 0.15, 1.0),
        (Feature("earth", 40.0, ohm=5.0), 560.0, 0.1, 0.5),
        (Feature("solenoid", 40.0, ohm=25.0, henry=0.1), 560.0, 0.9, 1.02),
        (Feature("solenoid", 40.0, ohm=25.0, henry=0.1), 35840.0, 0.0, 0.5),
    ],
)
def test_what_sits_on_a_line_passes_what_it_should(feature, freq, least, most):
    site = solved(straight("A", TRACER, 0.0, start=FarEnd("open"), features=[feature]), hookup=direct(freq))
    assert least <= abs(amps(site, "A", 45.0)) / site.hookup.output_a <= most


def test_the_two_conductors_of_a_pair_nearly_cancel_above_ground():
    pair = [
        straight("A", PRESETS["pair_cable"].construction, 0.0, start=FarEnd("open"), end=FarEnd("open")),
        straight("B", PRESETS["pair_cable"].construction, 0.005, start=FarEnd("open"), end=FarEnd("open")),
    ]
    both = solved(*pair, bonds=[Bond("A", 100.0, "B", 100.0)], hookup=Hookup("pair", 8960.0, 0.03, "A", other="B"))
    one = solved(pair[0], hookup=direct(35840.0))
    at, heading = np.array([[50.0, 0.0]]), np.array([[1.0, 0.0]])
    assert abs(amps(both, "A", 50.0) + amps(both, "B", 50.0)) < 0.05 * abs(amps(both, "A", 50.0))
    shares = [s.read(at, heading)[0].b_low_t / abs(amps(s, "A", 50.0)) for s in (both, one)]
    assert shares[0] < 0.05 * shares[1]


def test_a_clamp_drives_only_the_loop_between_two_earths():
    anode = Feature("earth", 50.0, ohm=5.0)
    line = straight("A", CABLE, 0.0, features=[anode])
    site = solved(line, hookup=Hookup("clamp", 35840.0, 0.12, "A", 20.0))
    assert abs(amps(site, "A", 80.0)) < 0.4 * abs(amps(site, "A", 30.0))
    dead = solved(replace(line, start=FarEnd("open")), hookup=Hookup("clamp", 8960.0, 0.12, "A", 20.0))
    live = solved(line, hookup=Hookup("clamp", 8960.0, 0.12, "A", 20.0))
    assert abs(amps(dead, "A", 10.0)) < 0.02 * abs(amps(live, "A", 10.0))


def test_induction_energises_every_conductor_and_nothing_across_it():
    lines = straight("A", STEEL, 0.0), straight("B", STEEL, 2.0)
    along, across = (
        solved(*lines, hookup=Hookup("induction", 35840.0, 0.12, coil_at=(50.0, 0.0), coil_heading_deg=h))
        for h in (90.0, 0.0)
    )
    assert 0.15 < abs(amps(along, "B", 80.0)) / abs(amps(along, "A", 80.0)) < 1.0
    assert abs(amps(across, "A", 80.0)) < 1e-3 * abs(amps(along, "A", 80.0))


def test_depth_read_at_a_bend_is_wrong_and_along_the_leg_right():
    line = SiteLine("A", TRACER, ((0, 0, 1.0), (60, 0, 1.0), (60, 60, 1.0)), FarEnd("open"), EARTHED)
    site = solved(line)
    at = np.array([[30.0, 0.0], [59.7, 0.0]])
    middle, bend = site.read(at, np.array([[1.0, 0.0], [1.0, 0.0]]))
    assert middle.depth_m == pytest.approx(1.0, rel=0.02)
    assert abs(bend.depth_m - 1.0) > 0.05
    assert middle.direction == 1


def test_a_reversed_neighbour_shows_against_the_direction_where_the_kit_tells():
    lines = straight("A", TRACER, 0.0, start=FarEnd("open")), straight("B", CABLE, 3.0, start=FarEnd("earthed", 2.0))
    at, heading = np.array([[50.0, 0.0], [50.0, 3.0]]), np.array([[1.0, 0.0], [1.0, 0.0]])
    own, other = solved(*lines, hookup=direct(8960.0, stake=(0.0, -8.0))).read(at, heading)
    assert (own.direction, other.direction) == (1, -1)
    assert own.current_a > other.current_a
    high = solved(*lines, hookup=direct(35840.0, stake=(0.0, -8.0))).read(at, heading)
    assert [r.direction for r in high] == [None, None]


def test_gain_fills_the_display_and_says_so():
    site = solved(straight("A", TRACER, 0.0, start=FarEnd("open")))
    at, heading = np.array([[50.0, 0.0]]), np.array([[1.0, 0.0]])
    low, high = (site.read(at, heading, gain_db=g)[0] for g in (0.0, 60.0))
    assert (low.over_range, high.over_range) == (False, True)
    assert high.level == 1.0
    assert low.b_low_t == high.b_low_t


def test_a_stake_beside_a_neighbours_metal_feeds_the_neighbour():
    main = SiteLine("B", PRESETS["bare_steel_service"].construction, ((-30, 9, 1.0), (120, 9, 1.0)))
    line = straight("A", TRACER, 0.0, start=FarEnd("open"))
    near, far = (solved(line, main, hookup=direct(560.0, stake=(0.0, y))) for y in (7.5, -8.0))
    assert abs(amps(near, "B", 40.0)) > 2 * abs(amps(far, "B", 40.0))


SINGLE = straight("A", TRACER, 0.0)


@pytest.mark.parametrize(
    ("build", "field", "says"),
    [
        (lambda: solved(SINGLE, straight("B", CABLE, 0.0)), "route", "lines_overlap"),
        (lambda: solved(SiteLine("A", TRACER, ((0, 0, 1), (0, 0, 1), (9, 0, 1)))), "route", "leg_without_length"),
        (lambda: solved(SiteLine("A", None, ((0, 0, 1), (9, 0, 1)))), "lines", "nothing_has_metal"),
        (
            lambda: solved(SiteLine("A", None, ((0, 0, 1), (9, 0, 1))), straight("B", CABLE, 4.0)),
            "line",
            "line_without_metal",
        ),
        (lambda: solved(SINGLE, straight("B", CABLE, 8.0, depth=0.4)), "stake_at", "stake_on_line"),
        (lambda: solved(SINGLE, hookup=direct(stake=(0.2, 0.1))), "stake_at", "stake_at_access"),
        (lambda: solved(SINGLE, hookup=direct(freq=9000.0)), "freq_hz", "no_such_frequency"),
        (lambda: direct(freq=50.0), "freq_hz", "out_of_range"),
        (lambda: solved(SINGLE, hookup=direct(at_m=200.0)), "at_m", "off_the_line"),
        (lambda: solved(SINGLE, hookup=direct(line="Z")), "line", "no_such_line"),
        (lambda: solved(SINGLE, SINGLE), "lines", "line_name_twice"),
        (lambda: solved(SINGLE, straight("B", CABLE, 9.5), bonds=[Bond("A", 1e3, "B", 0.0)]), "bonds", "off_the_line"),
        (lambda: Feature("earth", 3.0), "features.ohm", "feature_without_ohm"),
        (lambda: Site(LOAM, ()), "lines", "no_line"),
        (lambda: solved(SINGLE, hookup=Hookup("pair", 8960.0, 0.03, "A", other="A")), "other", "pair_needs_two"),
    ],
)
def test_what_cannot_be_computed_is_refused_by_name(build, field, says):
    with pytest.raises(VesselError) as e:
        build()
    assert (e.value.what, e.value.field) == (says, field)
    assert refusal(e.value)[1]


def test_the_limits_of_the_model_are_flagged_on_the_answer():
    wet = SiteLine("A", TRACER, ((0, 0, 4.0), (90, 0, 4.0)), FarEnd("open"), EARTHED)
    flags = {f.id for f in solved(wet, straight("B", CABLE, 60.0), soil=Soil(10.0), hookup=direct(143360.0)).flags}
    assert {"depth_against_skin", "spacing_against_skin"} <= flags
    rock = solved(SINGLE, soil=Soil(20000.0), hookup=direct(143360.0))
    assert [f.id for f in rock.flags] == ["displacement_current", "earths_overlap"]  # 20 ohm there is 160 m wide
    assert solved(SINGLE).flags == []
    near = SiteLine("A", TRACER, ((0, 0, 1.0), (6, 0, 1.0)), FarEnd("earthed", 3.0), FarEnd("earthed", 3.0))
    (overlap,) = solved(near, soil=Soil(300.0)).flags
    assert overlap.id == "earths_overlap"
    assert overlap.facts["size_m"] == pytest.approx(300 / (2 * np.pi * 3.0))
    assert overlap.facts["apart_m"] == pytest.approx(6.0)


def test_one_factorisation_serves_every_stake_and_far_end():
    lines = straight("A", TRACER, 0.0, start=FarEnd("open"), end=FarEnd("unknown", 30.0)), straight("B", CABLE, 3.0)
    circuit = SiteCircuit(SiteGeometry(lay_mesh(Site(LOAM, lines), top_hz=8960.0)), freq_hz=8960.0)
    for stake in ((0.0, -8.0), (-6.0, 5.0)):
        port = direct_port(circuit, direct(stake=stake))
        for end, joined in (("open", ()), ("earthed", ((circuit.far(0, "end"), 0j),))):
            afresh = SolvedSite(
                Site(LOAM, (replace(lines[0], end=FarEnd(end, 30.0)), lines[1])), direct(stake=stake), SAMPLE_KIT
            )
            assert seen(port, joined) == pytest.approx(afresh.excitation.load_ohm, rel=1e-3)


def test_random_sites_mirrored_carry_the_same_currents():
    for site in random_sites(7, 12):
        lines = tuple(
            replace(line, route=tuple((x, -y, depth) for x, y, depth in line.route)) for line in site.site.lines
        )
        x, y = site.hookup.stake_at
        mirrored = SolvedSite(replace(site.site, lines=lines), replace(site.hookup, stake_at=(x, -y)), SAMPLE_KIT)
        assert mirrored.excitation.load_ohm == pytest.approx(site.excitation.load_ohm, rel=1e-9)
        for line in lines:
            ours, theirs = (s.line_current(line.name).amps for s in (site, mirrored))
            assert theirs == pytest.approx(ours, rel=1e-6, abs=1e-9)


def test_a_bond_to_a_neighbour_is_told_and_takes_its_share():
    def far_current(bond_m):
        beside = Neighbour("cable", CABLE, 3.0, -20.0, 120.0, 0.8, 5.0, 5.0, bond_m)
        circuit = LineCircuit(Line(TRACER, 100.0, 0.8, 0.8, neighbours=(beside,)), LOAM, freq_hz=8960.0)
        r = excite(circuit, Setup("direct", 8960.0, 0.03), SAMPLE_KIT, far_ohms=(10.0,))[0].response
        return circuit.current_at(r, np.array([80.0]))[0]

    assert far_current(40.0) < 0.6 * far_current(None)
    assert far_current(100.02) == pytest.approx(far_current(100.0), rel=1e-6)  # lengths are not measured better
    assert far_current(101.0) == far_current(None)
    with pytest.raises(VesselError, match="is where it does not run"):
        far_current(130.0)
