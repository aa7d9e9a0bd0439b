"""Lines in space: how a site is cut, where lines come close, and what couples them."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from vessel.core.model.construction import PRESETS
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.network import Bond, Feature, Site, SiteLine
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import CROSSING_M, lay_mesh
from vessel.core.signal.layout.closest_approach import approaches, closest
from vessel.core.signal.physics.inductive_coupling import Coupling, Segments, mean_inverse_distance
from vessel.core.signal.physics.magnetic_field import coil_emf
from vessel.core.signal.physics.soil_potential import SoilPaths
from vessel.words.safe_order_sentences import stake_side_text

LOAM = Soil(60.0)
TRACER, IRON = PRESETS["tracer_wire"].construction, PRESETS["jointed_iron_main"].construction
PLACE = st.tuples(*[st.floats(-20, 20)] * 3)


def line(name, *corners, construction=TRACER, **rest):
    return SiteLine(name, construction, corners, **rest)


@settings(max_examples=50, deadline=None)
@given(p=PLACE, q=PLACE, r=PLACE, s=PLACE)
def test_the_closest_approach_is_closer_than_any_pair_of_samples(p, q, r, s):
    a, b = (tuple(np.array(x) for x in pair) for pair in ((p, q), (r, s)))
    if min(np.linalg.norm(a[1] - a[0]), np.linalg.norm(b[1] - b[0])) < 0.1:
        return
    t = np.linspace(0, 1, 41)
    samples = [v[0] + t[:, None] * (v[1] - v[0]) for v in (a, b)]
    least = np.linalg.norm(samples[0][:, None] - samples[1][None], axis=2).min()
    found, at_a, at_b = closest(a, b)
    assert found <= least + 1e-9
    there = a[0] + at_a * (a[1] - a[0]) - b[0] - at_b * (b[1] - b[0])
    assert np.linalg.norm(there) == pytest.approx(found, abs=1e-9)


def test_a_crossing_is_found_on_both_lines_and_meshed_finely():
    site = Site(LOAM, (line("A", (0, 0, 0.8), (80, 0, 0.8)), line("B", (50, -30, 1.4), (50, 40, 1.4))))
    ((distance, at_a, at_b),) = approaches(*site.lines, limit_m=CROSSING_M)
    assert (distance, at_a, at_b) == (pytest.approx(0.6), pytest.approx(50.0), pytest.approx(30.0))
    mesh = lay_mesh(site, top_hz=560.0)
    for i, at in ((0, 50.0), (1, 30.0)):
        steps = mesh.lengths_m[mesh.of_line(i)]
        assert steps[mesh.branch_at(i, at) - mesh.of_line(i)[0]] < 0.4 * steps.max()


def test_the_mesh_has_a_node_at_everything_that_matters():
    lines = (
        line("A", (0, 0, 1), (30, 0, 1), (30, 40, 1), features=(Feature("earth", 12.3, ohm=9.0),)),
        line("B", (30, 5, 1.2), (60, 5, 1.2)),
    )
    site = Site(LOAM, lines, (Bond("A", 35.0, "B", 0.0, 0.0),))
    mesh = lay_mesh(site, top_hz=8960.0, access={0: (4.4,)})
    s = np.append(mesh.s_start[mesh.of_line(0)], mesh.s_end[mesh.of_line(0)])
    for at in (0.0, 4.4, 12.3, 30.0, 35.0, 70.0):
        assert np.abs(s - at).min() < 1e-9
    bend = mesh.nodes_m[mesh.node_at(0, 30.0)]
    assert bend == pytest.approx([30.0, 0.0, -1.0])
    assert mesh.lengths_m.sum() == pytest.approx(100.0)
    finer = lay_mesh(site, top_hz=8960.0, access={0: (4.4,)}, refine=2.0)
    assert finer.metal > 1.5 * mesh.metal


def test_every_joint_sits_in_a_branch_of_its_own():
    mesh = lay_mesh(Site(LOAM, (line("A", (0, 0, 1), (60, 0, 1), construction=IRON),)), top_hz=560.0)
    branches = [mesh.branch_at(0, 6.0 * k) for k in range(1, 10)]
    assert len(set(branches)) == 9
    assert mesh.lengths_m[branches].max() < 0.05


def test_the_mean_of_one_over_r_is_its_integral():
    point, start, along = np.array([[1.0, 2.0, 0.5]]), np.array([[-3.0, 0, -1.0]]), np.array([[9.0, 0, 0]])
    t = (np.arange(20000) + 0.5) / 20000
    sampled = (1 / np.linalg.norm(point - start - t[:, None] * along, axis=1)).mean()
    assert mean_inverse_distance(point, start, along, floor_m=np.array([1e-3]))[0] == pytest.approx(sampled, rel=1e-6)


def test_the_coil_over_conducting_soil_is_a_small_loop_of_wire():
    """The EMF of the coil's dipole with its image equals the mutual impedance of two short opposed wires above ground."""
    soil, freq, at, reach, height = Soil(20.0), 71680.0, np.array([3.0, 0.0, 0.6]), 0.02, 0.02
    x = np.linspace(-60, 60, 241)
    nodes = np.column_stack([x, 0 * x, 0 * x - 1.1])
    moment = np.array([0.0, 1.0, 0.0])
    emf = coil_emf(nodes[:-1], nodes[1:], at_m=at, moment_a_m2=moment, freq_hz=freq, soil=soil)
    # a current along +x on top and back below circles the +y axis
    legs = [at + np.array([dx, 0, dz]) for dz in (height / 2, -height / 2) for dx in (-reach / 2, reach / 2)]
    loop = Segments(np.stack([legs[0], legs[3]]), np.stack([legs[1], legs[2]]), np.full(2, 1e-6))
    wire = Segments(nodes[:-1], nodes[1:], np.full(240, 1e-6))
    pairs = np.indices((240, 2)).reshape(2, -1)
    induced = -Coupling(wire, loop, *pairs).at(soil, freq_hz=freq).sum(1) / (reach * height)
    assert emf.sum() == pytest.approx(induced.sum(), rel=2e-3)
    free = coil_emf(nodes[:-1], nodes[1:], at_m=at, moment_a_m2=moment, freq_hz=freq)
    assert abs(emf.sum()) < 0.9 * abs(free.sum())  # wet clay at this frequency takes its part


def test_soil_round_an_earth_falls_with_distance_and_never_exceeds_the_earths_own():
    earth = np.zeros((1, 2, 3)) - np.array([0, 0, 0.2])
    far = np.array([[[r, 0, -0.2]] * 2 for r in (0.01, 1.0, 5.0, 20.0)])
    paths = SoilPaths(earth, far, wanted=np.ones((1, 4), dtype=bool))
    found = np.abs(paths.at(LOAM, freq_hz=560.0, self_a=np.array([25.0]), self_b=np.full(4, 400.0)))[0]
    assert found[0] == pytest.approx(25.0, rel=1e-3)
    assert found[2] == pytest.approx(60.0 / (2 * np.pi * 5.0), rel=0.05)
    assert (np.diff(found) < 0).all()


@pytest.mark.parametrize(("offset", "side"), [(6.0, "right"), (-6.0, "left")])
def test_the_stake_goes_to_the_side_away_from_what_runs_beside(offset, side):
    beside = Neighbour("main", TRACER, offset, -10.0, 80.0, 1.0)
    told = Line(TRACER, 80.0, 0.6, 1.0, far=FarEnd("open"), neighbours=(beside,))
    assert f"on the {side}" in stake_side_text(told, Setup("direct", 8960.0, 0.03))
    assert stake_side_text(Line(TRACER, 80.0, 0.6, 1.0), Setup("direct", 8960.0, 0.03)) == ""
