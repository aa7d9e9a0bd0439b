"""How one line behaves when something about it changes: what a technician would bet on."""

from dataclasses import replace

import numpy as np
import pytest

from vessel.core.base.errors import VesselError
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.laid_mesh import MAX_BRANCHES, divide
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.core.signal.physics.line_parameters import line_params
from vessel.core.signal.physics.stake_resistance import stake_ohm
from vessel.core.signal.receiver.instrument import shown
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.simulated_trace import NOISE_MARGIN, simulated
from vessel.core.simulate.solved_together import cases_of
from vessel.core.simulate.solved_world import World
from vessel.core.simulate.station_grid import station_grid

LOAM = Soil(60.0)


def solve(
    preset="tracer_wire", *, length=140.0, freq=8960.0, far=None, soil=LOAM, near=None, setup=None, faults=(), **change
):
    construction = replace(PRESETS[preset].construction, **change)
    line = Line(construction, length, 0.8, 0.8, AccessPoint(earth_ohm=near))
    setup = setup or Setup("direct", freq, 0.03)
    circuit = LineCircuit(line, soil, freq_hz=freq, faults=faults)
    e = excite(circuit, setup, SAMPLE_KIT, far_ohms=(far,))[0]
    out = output(e.load_ohm, setup, SAMPLE_KIT)
    return out, lambda x: float(circuit.current_at(e.response, np.array([x]))[0]) * out.drive


def test_the_transmitter_stops_at_the_least_of_its_three_limits():
    easy, _ = solve(far=10.0)
    assert (easy.limited_by, easy.amps) == ("asked", 0.03)
    starved, _ = solve(freq=560.0)
    assert (starved.limited_by, starved.volts) == ("volts", 40.0)
    hungry, _ = solve(far=10.0, freq=143360.0, setup=Setup("direct", 143360.0, 0.12))
    assert hungry.limited_by == "watts"
    assert hungry.watts == pytest.approx(1.0)
    assert hungry.battery_h < easy.battery_h


def test_power_for_nothing_costs_battery_hours():
    low, _ = solve(far=10.0, setup=Setup("direct", 8960.0, 0.005))
    high, _ = solve(far=10.0, setup=Setup("direct", 8960.0, 0.12))
    assert low.battery_h > 40 > high.battery_h > 5


def test_an_open_wires_current_falls_evenly_to_nothing():
    out, amps = solve()
    assert amps(70.0) == pytest.approx(out.amps / 2, rel=0.03)
    assert amps(139.9) < 0.01 * out.amps


def test_an_old_coating_leaks_more_than_a_new_one():
    left = []
    for coating in (1e-5, 1e-4, 1e-3):
        out, amps = solve("coated_steel_pipe", length=800.0, freq=560.0, far=30.0, coating_s_m2=coating)
        left.append(amps(790.0) / out.amps)
    assert left[0] > 0.9
    assert left[0] > left[1] > left[2]


def test_bare_metal_eats_current_faster_in_wet_soil_and_at_high_frequency():
    def share(rho, freq):
        out, amps = solve("bare_copper_service", length=60.0, freq=freq, soil=Soil(rho))
        return amps(40.0) / out.amps

    assert share(20.0, 8960.0) < share(200.0, 8960.0)
    assert share(200.0, 35840.0) < share(200.0, 560.0)


def test_a_gasket_passes_high_frequency_by_its_capacitance():
    """Bare iron with rubber gaskets; the stake far off, so that no soil potential feeds the pipe behind the joint."""

    def passed(freq):
        setup = Setup("direct", freq, 0.03, Stake(away_m=400.0, measured_ohm=50.0))
        out, amps = solve("jointed_iron_main", length=60.0, freq=freq, setup=setup, joint_ohm=1e5, joint_f=2e-9)
        return amps(9.0) / out.amps

    assert passed(560.0) < 0.002
    assert 0.003 < passed(71680.0) < 0.1
    assert passed(71680.0) > 5 * passed(560.0)


def test_strapped_joints_carry_what_gaskets_do_not():
    near, far = (solve("jointed_iron_main", length=60.0, freq=560.0, far=5.0, joint_ohm=r)[1](50.0) for r in (0.1, 1e4))
    assert near > 20 * far


def test_no_joint_is_lost_or_counted_twice_by_the_mesh():
    line = Line(PRESETS["jointed_iron_main"].construction, 100.0, 0.8, 0.8)
    plain = replace(line, construction=replace(line.construction, joint_ohm=0.0))
    for refine in (0.3, 1.0, 5.0):
        with_joints, without = (
            LineCircuit(each, LOAM, freq_hz=560.0, refine=refine).site_circuit.sections[0].sum()
            for each in (line, plain)
        )
        assert (with_joints - without).real == pytest.approx(16.0, rel=1e-3)  # 16 joints of 1 ohm in 100 m


def test_a_bond_at_the_near_end_steals_what_the_line_should_carry():
    _, free = solve(far=30.0)
    _, bonded = solve(far=30.0, near=10.0)
    assert bonded(70.0) < 0.5 * free(70.0)


def test_an_earth_fault_takes_its_share_in_one_step():
    _, amps = solve(far=30.0, faults=(LineFault("earth_fault", 60.0, 10.0),))
    assert amps(55.0) == pytest.approx(amps(5.0), rel=0.05)
    assert amps(65.0) < 0.5 * amps(55.0)


def test_nothing_passes_a_break():
    whole, _ = solve()
    out, amps = solve(faults=(LineFault("break", 50.0),))
    assert amps(70.0) < 1e-4 * amps(20.0)
    assert out.amps < whole.amps


def test_a_stake_beside_bare_metal_fools_the_reading():
    """Close to a bare pipe the stake's own soil feeds the pipe: the loop looks better than it is."""
    soil = Soil(200.0)
    near, far = (
        solve(
            "bare_steel_service",
            length=40.0,
            soil=soil,
            setup=Setup("direct", 8960.0, 0.03, Stake(away_m=a, measured_ohm=300.0)),
        )[0]
        for a in (1.0, 30.0)
    )
    assert near.ohms < far.ohms - 5.0


def test_deeper_wetter_longer_stakes_carry_more():
    dry, wet = Soil(200.0), Soil(40.0)
    assert stake_ohm(Stake(), wet) == pytest.approx(stake_ohm(Stake(), dry) / 5)
    assert stake_ohm(Stake(length_m=0.8), dry) < stake_ohm(Stake(length_m=0.4), dry)
    assert stake_ohm(Stake(rods=3), dry) == pytest.approx(stake_ohm(Stake(), dry) / 3)
    assert stake_ohm(Stake(measured_ohm=77.0), dry) == 77.0


def test_copper_clad_steel_lies_between_copper_and_steel():
    def resistance(name, freq, **change):
        return line_params(replace(PRESETS[name].construction, **change), LOAM, freq_hz=freq, depth_m=0.8).z.real

    for freq in (560.0, 35840.0):
        copper = resistance("tracer_wire", freq)
        clad = resistance("tracer_wire_clad", freq)
        steel = resistance("tracer_wire", freq, conductivity_s_m=6e6, rel_permeability=200.0)
        assert copper < clad < steel


def test_induction_follows_the_coil_and_dies_across_it():
    kit, setup = SAMPLE_KIT, Setup("induction", 35840.0, 0.12, position_m=20.0)
    line = Line(
        PRESETS["coated_steel_pipe"].construction, 150.0, 1.0, 1.0, AccessPoint(earth_ohm=10.0), FarEnd("earthed")
    )
    circuit = LineCircuit(line, LOAM, freq_hz=35840.0)
    amps = np.abs(excite(circuit, setup, kit, far_ohms=(10.0,))[0].response.amps)
    deeper = LineCircuit(replace(line, depth_min_m=2.0, depth_max_m=2.0), LOAM, freq_hz=35840.0)
    assert np.abs(excite(deeper, setup, kit, far_ohms=(10.0,))[0].response.amps).max() < 0.7 * amps.max()
    with pytest.raises(VesselError) as e:
        excite(circuit, replace(setup, position_m=200.0), kit, far_ohms=(None,))
    assert e.value.field == "length_m"


@pytest.mark.parametrize("length", [2.0, 20.0, 140.0, 3000.0, 20000.0])
def test_meshes_and_station_grids_fit_any_line(length):
    x = divide(length, must=[0.31 * length], fine=[0.0, length], base_m=2.5, refine=1.0)
    assert x[0] == 0.0
    assert x[-1] == pytest.approx(length)
    assert 0.31 * length in x
    assert (np.diff(x) > 0).all()
    assert len(x) <= MAX_BRANCHES + 2
    stations, edges = station_grid(length)
    assert len(edges) == len(stations) + 1
    assert (edges[0], edges[-1]) == (0.0, length)
    assert ((stations > edges[:-1]) & (stations < edges[1:])).all()


def test_noise_hides_a_weak_signal_and_leaves_a_strong_one_alone():
    line = Line(PRESETS["tracer_wire"].construction, 140.0, 0.8, 0.8)
    setup = Setup("direct", 8960.0, 0.03)
    sim = Simulator(line, World([line], LOAM, SAMPLE_KIT))
    cases = cases_of(sim, [setup])
    noise = NOISE_MARGIN * SAMPLE_KIT.frequency(8960.0).noise_t
    middle = len(sim.stations_m) // 2

    def read(drive):
        display = shown(cases.over_t[0, 1], drive, noise_t=noise, receiver=SAMPLE_KIT.receiver)
        known = {"reads_depth": True, "noise_t": noise, "kit": SAMPLE_KIT, "depth_range_m": (0.8, 0.8)}
        rest = {"peak_null_m": 0.0, "neighbour_a": 0.0, "end_m": 50.0, "forecast_a": 0.1, "air_share": np.nan}
        clear = {"turn_m": np.nan, "crossing_m": np.nan}
        return simulated(display, **known, **rest, **clear)

    strong = read(0.12)
    assert strong.amps[middle] == pytest.approx(0.12, rel=0.05)
    assert strong.depth_m[middle] == pytest.approx(0.8, rel=0.05)
    assert read(0.006).spread[middle] > 10 * strong.spread[middle]
    dead = read(0.0)
    assert np.isnan(dead.depth_m).all()
    assert (dead.amps == 0.0).all()


def test_the_pieces_a_model_cannot_do_without_are_refused_by_name():
    kit = replace(SAMPLE_KIT, clamp=None)
    line = Line(PRESETS["tracer_wire"].construction, 140.0, 0.8, 0.8)
    circuit = LineCircuit(line, LOAM, freq_hz=8960.0)
    with pytest.raises(VesselError, match="has no clamp"):
        excite(circuit, Setup("clamp", 8960.0, 0.03), kit, far_ohms=(None,))
    with pytest.raises(VesselError, match="on record uses"):
        kit.require("clamp", 8960.0)
