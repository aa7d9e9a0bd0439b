"""The signal model against closed forms and published limits that the core did not write."""

from dataclasses import replace

import mpmath
import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq

from tests.core.bench import geometry, power_lost, segment_fields
from tests.core.corpus_figures import closed_form_error, shifts
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.ports import SeenBy, mutual, seen
from vessel.core.signal.circuit.sources import coil_geometry, direct_port, stake_lead
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.circuit.volt_shares import volt_shares
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.core.signal.physics import magnetic_field as field
from vessel.core.signal.physics.conductor import internal_impedance, metal_propagation, tube_surfaces
from vessel.core.signal.physics.earth_return import MU0, earth_return_impedance, skin_depth, soil_propagation
from vessel.core.signal.physics.line_parameters import line_params
from vessel.core.signal.physics.stake_resistance import driven_rod_ohm, lead_impedance
from vessel.core.signal.receiver import instrument as receiver

LOAM = Soil(60.0)
TRACER = PRESETS["tracer_wire"].construction
KIT_HZ = [f.freq_hz for f in SAMPLE_KIT.frequencies]


def tracer(length_m: float, **rest) -> Line:
    return Line(TRACER, length_m, 0.8, 0.8, **rest)


@pytest.mark.parametrize("length_m", [20.0, 200.0, 3000.0])
@pytest.mark.parametrize("freq_hz", KIT_HZ)
def test_insulated_line_matches_the_transmission_line_closed_forms(freq_hz, length_m):
    assert closed_form_error(freq_hz, length_m) < 5e-3


def test_plain_lumped_chain_converges_to_the_same_answer():
    """The sections' exactness factors hide nothing: a chain without them gets there as it is refined."""
    p = line_params(TRACER, LOAM, freq_hz=35840.0, depth_m=0.8)
    exact = p.zc / np.tanh(p.gamma * 200.0)
    errors = []
    for n in (20, 40, 80):
        dl, z = 200.0 / n, 0j
        for _ in range(n):
            z = (1 / (p.y * dl / 2) if z == 0 else 1 / (1 / z + p.y * dl / 2)) + p.z * dl
            z = 1 / (1 / z + p.y * dl / 2)
        errors.append(abs(z / exact - 1))
    assert errors[2] < 0.01
    assert errors[0] > 3 * errors[1] > 9 * errors[2]


def test_earthed_line_obeys_ohms_law_at_low_frequency():
    line = tracer(300.0)
    circuit = LineCircuit(line, LOAM, freq_hz=100.0)
    setup = Setup("direct", 100.0, 0.03, Stake(measured_ohm=50.0), clip_ohm=1.0)
    load = excite(circuit, setup, SAMPLE_KIT, far_ohms=(30.0,))[0].load_ohm
    copper = 300.0 / (TRACER.conductivity_s_m * np.pi * TRACER.radius_m**2)
    lead = lead_impedance(LOAM, freq_hz=100.0, length_m=8.0).real
    ohms_law = 50.0 + 1.0 + 30.0 + copper + lead + 300.0 * np.pi**2 * 100.0e-7  # last: Carson's earth resistance
    assert load.real == pytest.approx(ohms_law, rel=0.01)


def test_earth_return_tends_to_wedepohl_and_wilcox():
    freq, b, h = 8960.0, 1.8e-3, 0.8
    m = soil_propagation(LOAM, freq_hz=freq)
    limit = (
        1j * 2 * np.pi * freq * MU0 / (2 * np.pi) * (-np.log(np.exp(np.euler_gamma) * m * b / 2) + 0.5 - 4 * m * h / 3)
    )
    z = earth_return_impedance(LOAM, freq_hz=freq, outer_radius_m=b, depth_m=h)
    assert z == pytest.approx(limit, rel=0.01)
    assert skin_depth(LOAM, freq_hz=freq) == pytest.approx(503.3 * np.sqrt(60.0 / freq), rel=1e-3)


@pytest.mark.parametrize("name", PRESETS)
def test_every_construction_has_its_direct_current_resistance(name):
    c = PRESETS[name].construction
    inner = 0.0 if c.metal == "solid" else c.radius_m - c.wall_m
    siemens = c.conductivity_s_m * np.pi * (c.radius_m**2 - inner**2)
    if c.metal == "clad":
        siemens += c.core_conductivity_s_m * np.pi * inner**2
    z = internal_impedance(c, freq_hz=0.01)
    assert z.real == pytest.approx(1 / siemens, rel=0.01)


@pytest.mark.parametrize("mu", [1.0, 20.0, 200.0])
@pytest.mark.parametrize("freq_hz", [560.0, 8960.0, 143360.0])
def test_scaled_tube_formula_equals_the_unscaled_one_in_high_precision(freq_hz, mu):
    a, b, sigma = 0.053, 0.057, 6e6
    outer, inner, transfer = tube_surfaces(
        freq_hz=freq_hz, inner_m=a, outer_m=b, conductivity_s_m=sigma, rel_permeability=mu
    )
    m = mpmath.mpmathify(metal_propagation(freq_hz=freq_hz, conductivity_s_m=sigma, rel_permeability=mu))
    with mpmath.workdps(60):
        i0, i1, k0, k1 = (
            mpmath.besseli(0, m * b),
            mpmath.besseli(1, m * b),
            mpmath.besselk(0, m * b),
            mpmath.besselk(1, m * b),
        )
        i1a, k1a = mpmath.besseli(1, m * a), mpmath.besselk(1, m * a)
        d, scale = i1 * k1a - k1 * i1a, m / (2 * mpmath.pi * sigma)
        exact = scale / b * (i0 * k1a + k0 * i1a) / d
        exact_inner = scale / a * (mpmath.besseli(0, m * a) * k1 + mpmath.besselk(0, m * a) * i1) / d
        exact_transfer = 1 / (2 * mpmath.pi * sigma * a * b) / d
    assert outer == pytest.approx(complex(exact), rel=1e-9)
    assert inner == pytest.approx(complex(exact_inner), rel=1e-9)
    assert transfer == pytest.approx(complex(exact_transfer), rel=1e-9)


SITES = {
    "preset": st.sampled_from(sorted(PRESETS)),
    "length_m": st.floats(5, 1500),
    "rho": st.floats(5, 3000),
    "depth_m": st.floats(0.2, 3),
    "freq_hz": st.sampled_from(KIT_HZ),
    "far_ohm": st.one_of(st.none(), st.floats(1, 500)),
    "near_ohm": st.one_of(st.none(), st.floats(1, 500)),
    "away_m": st.floats(2, 30),
}


@settings(max_examples=30, deadline=None)
@given(**SITES)
def test_power_in_is_power_lost_and_no_site_makes_power(
    preset, length_m, rho, depth_m, freq_hz, far_ohm, near_ohm, away_m
):
    # two earths share more of the soil than either has of its own only if they overlap: nobody can build that
    assume(min(x for x in (near_ohm, far_ohm, np.inf) if x is not None) > rho / (2 * np.pi * length_m))
    line = Line(PRESETS[preset].construction, length_m, depth_m, depth_m, AccessPoint(earth_ohm=near_ohm), FarEnd())
    soil = Soil(rho)
    circuit = LineCircuit(line, soil, freq_hz=freq_hz)
    setup = Setup("direct", freq_hz, 0.03, Stake(away_m=away_m))
    e = excite(circuit, setup, SAMPLE_KIT, far_ohms=(far_ohm,))[0]
    assert np.isfinite(e.load_ohm)
    assert e.load_ohm.real > 0
    lost = power_lost(circuit.site_circuit, circuit.hookup(setup), e.response)
    if far_ohm is not None:
        lost += (far_ohm - line.far.earth_ohm) * abs(e.response.joined[0]) ** 2
    # relative to the apparent power: a short insulated line is nearly all capacitance
    assert abs(e.load_ohm.real - lost) < 1e-6 * abs(e.load_ohm)
    shares = volt_shares(circuit, setup, e.response, load_ohm=e.load_ohm, far_ohm=far_ohm, amps=0.03)
    assert sum(s.volts for s in shares) == pytest.approx(0.03 * abs(e.load_ohm), rel=1e-9)


@settings(max_examples=25, deadline=None)
@given(**SITES)
def test_any_two_ports_are_reciprocal(preset, length_m, rho, depth_m, freq_hz, far_ohm, near_ohm, away_m):
    line = Line(PRESETS[preset].construction, length_m, depth_m, depth_m, AccessPoint(earth_ohm=near_ohm))
    circuit = LineCircuit(line, Soil(rho), freq_hz=freq_hz, faults=(LineFault("earth_fault", length_m / 3, 20.0),))
    site = circuit.site_circuit
    stake = direct_port(site, circuit.hookup(Setup("direct", freq_hz, 0.03, Stake(away_m=away_m))))
    inner = site.between(circuit.mesh.node_at(circuit.target, length_m / 2), None)
    clamp = site.inside(circuit.mesh.branch_at(circuit.target, length_m / 4))
    scale = np.sqrt(abs(seen(stake) * seen(inner)))
    assert abs(stake.sees(inner) - inner.sees(stake)) < 1e-9 * scale
    assert clamp.sees(inner) == pytest.approx(-inner.sees(clamp), rel=1e-9)
    # in one go as one by one, and with the wire cut and earthed
    ports = [stake, inner, clamp]
    assert mutual(ports) == pytest.approx(np.array([[p.sees(q) for q in ports] for p in ports]), rel=1e-9)
    joined = [(inner, 20.0 + 0j), (clamp, complex(np.inf))]
    assert SeenBy(stake, ports[1:]).seen(joined) == pytest.approx(complex(seen(stake, joined)), rel=1e-9)


@pytest.mark.parametrize(("method", "preset"), [("direct", "jointed_iron_main"), ("induction", "coated_steel_pipe")])
def test_halving_the_segments_moves_currents_by_less_than_one_percent(method, preset):
    line = Line(PRESETS[preset].construction, 180.0, 1.0, 1.0, AccessPoint(earth_ohm=20.0))
    setup = Setup(method, 35840.0, 0.06, position_m=10.0 if method == "induction" else 0.0)
    at = np.arange(15.0, 120.0, 6.0)  # the middle of each length of pipe: a joint has no current "at" it
    found = []
    for refine in (1.0, 2.0):
        circuit = LineCircuit(line, LOAM, freq_hz=35840.0, refine=refine)
        r = excite(circuit, setup, SAMPLE_KIT, far_ohms=(30.0,))[0].response
        found.append(circuit.current_at(r, at))
    assert found[1] == pytest.approx(found[0], rel=0.01)


def test_straight_line_field_depth_and_current_come_back():
    x = np.linspace(-2000, 2000, 2)
    starts, ends = np.array([[x[0], 0, -1.2]]), np.array([[x[1], 0, -1.2]])
    points = np.array([[0, 0, 0.05], [0, 0, 0.45]])
    b = np.abs(segment_fields(points, starts, ends)[:, 0, 1]) * 0.03
    assert b[0] == pytest.approx(MU0 * 0.03 / (2 * np.pi * 1.25), rel=5e-3)
    depth = field.electronic_depth(b[0], b[1], low_m=0.05, separation_m=0.4)
    assert depth == pytest.approx(1.2, rel=5e-3)
    assert 2 * np.pi * (depth + 0.05) * b[0] / MU0 == pytest.approx(0.03, rel=5e-3)
    assert receiver.signal_at(0.03, depth_m=1.2, low_m=0.05) == pytest.approx(b[0], rel=5e-3)


def test_coil_over_a_long_line_and_turned():
    x = np.linspace(-3000, 3000, 3001)
    nodes = np.column_stack([x, 0 * x, 0 * x - 1.0])
    at, freq, moment = np.array([0, 0, 0.25]), 35840.0, 10.0
    across = field.coil_emf(nodes[:-1], nodes[1:], at_m=at, moment_a_m2=np.array([0, moment, 0]), freq_hz=freq)
    assert abs(across.sum()) == pytest.approx(2 * np.pi * freq * MU0 * moment / (2 * np.pi * 1.25), rel=0.01)
    along = field.coil_emf(nodes[:-1], nodes[1:], at_m=at, moment_a_m2=np.array([moment, 0, 0]), freq_hz=freq)
    assert np.abs(along).max() == 0.0


def test_stake_sonde_and_triangulation_closed_forms():
    assert driven_rod_ohm(LOAM, length_m=0.4, radius_m=0.006) == pytest.approx(109.48, rel=1e-3)
    moment, depth = np.array([1.0, 0, 0]), 1.6

    def vertical_null(x: float) -> float:
        return float(
            field.dipole_field(np.array([[x, 0, 0.0]]), at_m=np.array([0, 0, -depth]), moment_a_m2=moment)[0, 0]
        )

    null = brentq(vertical_null, 0.2, 5.0)
    assert 2 * null / np.sqrt(2) == pytest.approx(depth, rel=1e-3)
    wire = (np.array([[-5000.0, 0, -depth]]), np.array([[5000.0, 0, -depth]]))

    def tilted(y: float) -> float:
        b = segment_fields(np.array([[0, y, 0.0]]), *wire)[0, 0]
        return float((b[1] - b[2]) / np.sqrt(2))

    offset = abs(brentq(tilted, 0.1, 10.0) if tilted(0.1) * tilted(10.0) < 0 else brentq(tilted, -10.0, -0.1))
    assert offset == pytest.approx(depth, rel=1e-3)


def test_a_reversed_neighbour_pushes_peak_and_null_away_from_it():
    peak, null = shifts(-0.3, away_m=1.0, depth_m=1.05)
    assert peak == pytest.approx(-0.07, abs=0.02)
    assert null == pytest.approx(-0.18, abs=0.02)


def test_unearthed_tracer_wire_behaves_as_every_practitioner_knows():
    kit = replace(SAMPLE_KIT, volts_max=30.0, outputs_a=(0.1,))

    def amps(freq: float, far: float | None) -> float:
        circuit = LineCircuit(tracer(200.0), LOAM, freq_hz=freq)
        setup = Setup("direct", freq, 0.1)
        return output(excite(circuit, setup, kit, far_ohms=(far,))[0].load_ohm, setup, kit).amps

    assert amps(560.0, None) < 0.006
    assert amps(8960.0, None) == pytest.approx(0.06, abs=0.02)
    for freq in KIT_HZ[:5]:
        assert amps(freq, 30.0) == pytest.approx(0.1, rel=1e-6)


def test_clamp_needs_earth_on_both_sides():
    def line_amps(near: float | None, far: float | None) -> float:
        line = tracer(100.0, near=AccessPoint(earth_ohm=near))
        setup = Setup("clamp", 8960.0, 0.12, position_m=0.5)
        circuit = LineCircuit(line, LOAM, freq_hz=8960.0)
        e = excite(circuit, setup, SAMPLE_KIT, far_ohms=(far,))[0]
        return np.abs(e.response.amps).max() * output(e.load_ohm, setup, SAMPLE_KIT).drive

    both = line_amps(20.0, 20.0)
    assert both > 2e-3
    assert line_amps(None, 20.0) < 0.01 * both
    clamp = SAMPLE_KIT.clamp
    emf = 2 * np.pi * 8960.0 * clamp.magnetising_h * 0.12 / clamp.turns
    assert both == pytest.approx(emf / 40.0, rel=0.25)


def test_lift_and_null_fail_beside_the_hookup_and_hold_along_the_line():
    line = tracer(120.0)
    circuit = LineCircuit(line, LOAM, freq_hz=8960.0)
    setup = Setup("direct", 8960.0, 0.03)
    e = excite(circuit, setup, SAMPLE_KIT, far_ohms=(30.0,))[0]
    site = circuit.site_circuit
    lead = stake_lead(site, circuit.hookup(setup))
    g = geometry(site.geometry.segments, (1.0, 60.0), depth_m=0.8)
    t = g.unit_field(*site.ends(e.response), (g.lead(lead), 1.0)).read(0.03, noise_t=1e-15)
    gained = t.depth_lifted_m - t.depth_m
    assert abs(gained[0] - receiver.LIFT_M) > 0.2
    assert gained[1] == pytest.approx(receiver.LIFT_M, rel=0.01)
    assert t.peak_null_m[0] > 0.2
    assert t.peak_null_m[1] < 0.01


def test_close_to_the_coil_the_receiver_hears_the_transmitter():
    line = tracer(120.0, near=AccessPoint(earth_ohm=20.0))
    setup = Setup("induction", 35840.0, 0.12, position_m=10.0)
    circuit = LineCircuit(line, LOAM, freq_hz=35840.0)
    e = excite(circuit, setup, SAMPLE_KIT, far_ohms=(30.0,))[0]
    g = geometry(circuit.site_circuit.geometry.segments, (13.0, 60.0), depth_m=0.8)
    coil = g.coil(*coil_geometry(circuit.hookup(setup), SAMPLE_KIT))
    field_now = g.unit_field(*circuit.site_circuit.ends(e.response), (coil, 1.0))
    assert field_now.air_share[0] > 0.5
    assert field_now.air_share[1] < 0.05
