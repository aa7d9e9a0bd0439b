"""Valve wires and pairs: what a solenoid lets through, where a tapering current ends, what two opposite currents leave."""

from dataclasses import replace

import numpy as np
import pytest

from tests.trouble.grounds import along, wire_of
from tests.trouble.network import Ground, Net
from vessel.core.base.errors import OutOfRange
from vessel.core.hookup.safe_order import checklist
from vessel.core.hookup.trace_end import trace_end
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import USUAL_SOLENOID, Access, AccessPoint, Line, Solenoid
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.pair_hookup import pair_depth_shown, pair_reach, pair_signal
from vessel.core.plan.plan_site import plan_lines
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.simulate.valves import past_valves

WIRE = PRESETS["valve_wire"].construction
SOIL = Soil(100.0)


def wire(length=120.0, valve=60.0, coil=USUAL_SOLENOID):
    on_it = () if valve is None else (Access("Valve 4", valve, AccessPoint(), solenoid=coil),)
    return Line(WIRE, length, 0.3, 0.5, far=FarEnd("open"), accesses=on_it)


@pytest.mark.parametrize("freq", [560.0, 4480.0, 35840.0])
def test_a_solenoid_lets_through_what_a_line_with_a_coil_in_it_does(freq):
    circuit = LineCircuit(wire(), SOIL, freq_hz=freq)
    p = circuit.params
    gamma, z_c = np.sqrt(p.z * p.y), np.sqrt(p.z / p.y)
    beyond = z_c / np.tanh(gamma * 60.0)
    load = USUAL_SOLENOID.ohm + 2j * np.pi * freq * USUAL_SOLENOID.henry + beyond
    # the current that reaches the end of the first sixty metres, per ampere put on
    wanted = 1 / (np.cosh(gamma * 60.0) + load / z_c * np.sinh(gamma * 60.0))
    (driven,) = excite(circuit, Setup("direct", freq, 0.06), SAMPLE_KIT, far_ohms=[None])
    ratio = np.abs(circuit.current_at(driven.response, np.array([0.05, 60.0])))
    assert ratio[1] / ratio[0] == pytest.approx(
        abs(wanted), rel=0.03, abs=0.006
    )  # the wire beyond is coupled to that before


def test_low_frequency_goes_on_past_a_valve_and_high_frequency_ends_there():
    line = wire()
    (plan,) = plan_lines([line], SOIL, SAMPLE_KIT)
    past = {
        o.setup.freq_hz: past_valves(o.forecasts, o.setup, line)[0]
        for o in plan.ranked
        if o.setup.position_m == 0 and o.setup.by.connects
    }
    assert past[4480.0].least > 0.4
    assert past[35840.0].ends
    assert past[71680.0].ends
    steps = [s.id for s in checklist(line, Setup("direct", 8960.0, 0.06))]
    assert steps.index("dead") < steps.index("controller") < steps.index("line_lead")
    assert "controller" not in [s.id for s in checklist(wire(valve=None), Setup("direct", 8960.0, 0.06))]
    with pytest.raises(OutOfRange, match="inductance"):
        Solenoid(30.0, 50.0)


def walked(seed, *, freq, end_ohm=None, coil=None, more=0.0):
    """Return (soil, setup, stations, length) of a wire of the independent network, walked to its end and read with noise.

    `coil`: (ohm, henry) of a valve there, past which the wire goes on for `more`.
    """
    rng = np.random.default_rng([seed, 3])
    length, depth, rho = float(rng.uniform(30, 150)), float(rng.uniform(0.25, 0.7)), float(10 ** rng.uniform(1.3, 2.8))
    path = along(length + more, depth)
    laid = wire_of("valve_wire", "target", path, freq, end=end_ohm, broken=(length,) if coil else ())
    if coil:
        laid = replace(laid, broken_ohm=coil[0], broken_henry=coil[1])
    net = Net(Ground([laid], rho, []), freq)
    amps, _ = net.direct("target", 0.0)
    x = np.cumsum(rng.uniform(4, 8, 60))
    x = x[x < length - 1.5]
    read = np.array([abs(net.current_on(amps, "target", s)) for s in x]) * 0.05
    shown = read[:, None] * np.exp(rng.normal(0, 0.03, (len(x), 3)))
    at = np.maximum(x + rng.normal(0, 0.1, len(x)), 0.1)
    stations = [StationReading(float(d), tuple(i)) for d, i in zip(at, shown, strict=True) if i.min() > 5e-4]
    return Soil(rho * float(np.exp(rng.normal(0, 0.5)))), Setup("direct", freq, 0.05), stations, length


def test_a_valve_is_found_within_a_metre_and_at_lower_frequency_within_what_is_said():
    off, inside = [], []
    for seed in range(30):
        rng = np.random.default_rng([seed, 9])
        coil = float(rng.uniform(20, 60)), float(np.exp(rng.uniform(np.log(0.02), np.log(0.1))))
        for freq in (71680.0, 35840.0):
            soil, setup, stations, length = walked(seed, freq=freq, coil=coil, more=float(rng.uniform(5, 60)))
            line = wire(length + 80.0, length + float(rng.normal(0, 3)))
            found = trace_end(line, soil, setup, stations)
            if found is not None:
                inside.append(found.low_m <= length <= found.high_m)
            if freq > 5e4:
                off.append(np.inf if found is None else abs(found.at_m - length))
    assert np.mean(np.array(off) < 1.0) >= 0.9
    assert np.mean(inside) >= 0.9


def test_an_open_end_is_found_from_the_stations_before_it():
    found = []
    for seed in range(12):
        soil, setup, stations, length = walked(seed, freq=8960.0)
        end = trace_end(wire(length + 40.0, None), soil, setup, stations)
        found.append(end is not None and end.low_m <= length <= end.high_m and abs(end.at_m - length) < 1.0)
    assert np.mean(found) >= 0.9


def test_no_end_is_named_where_an_earth_takes_the_current_on():
    earthed = [walked(k, freq=(8960.0, 35840.0)[k % 2], end_ohm=30.0) for k in range(20)]
    named = [trace_end(wire(n + 40.0, None), s, u, r) for s, u, r, n in earthed]
    assert sum(found is not None for found in named) <= 1
    soil, setup, stations, length = walked(1, freq=35840.0)
    bare = Line(PRESETS["bare_copper_service"].construction, length, 0.3, 0.5)
    assert trace_end(bare, soil, setup, stations) is None
    assert trace_end(wire(length, None), soil, setup, stations[:3]) is None


def test_two_opposite_currents_leave_a_small_field_that_shows_too_little_depth():
    a, r, amps = 3.2e-3, 0.6, 0.1
    # two straight wires one above the other, each by Biot and Savart
    exact = 2e-7 * amps / (r - a / 2) - 2e-7 * amps / (r + a / 2)
    assert pair_signal(amps, a, away_m=r) == pytest.approx(exact, rel=1e-4)
    low, high = (pair_signal(amps, a, away_m=0.5 + z) for z in (0.05, 0.45))
    assert pair_depth_shown(0.5, SAMPLE_KIT.receiver) == pytest.approx(0.4 / (low / high - 1) - 0.05)
    reach = pair_reach(WIRE, SAMPLE_KIT)
    assert 0.2 < reach.heard_m < 1.5
    assert reach.shown_m < 0.5 * reach.heard_m
