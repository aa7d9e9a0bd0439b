"""Valve wires and pairs: what a solenoid lets through, where a tapering current ends, what two opposite currents leave."""

import numpy as np
import pytest

from tests.trouble.valve_wires import SOIL, ended, walked, wire
from vessel.core.base.errors import OutOfRange
from vessel.core.hookup.safe_order import checklist
from vessel.core.hookup.trace_end import trace_end
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import USUAL_SOLENOID, Line, Solenoid
from vessel.core.model.setup import Setup
from vessel.core.plan.plan_site import plan_lines
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.simulate.valves import past_valves


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


def test_a_valve_is_found_within_a_metre_and_at_lower_frequency_within_what_is_said():
    high = [ended(seed, "valve", 71680.0) for seed in range(30)]
    low = [ended(seed, "valve", 35840.0) for seed in range(30)]
    assert np.mean([e.off_m < 1.0 for e in high]) >= 0.9
    assert np.mean([e.inside for e in (*high, *low) if e.inside is not None]) >= 0.9


def test_an_open_end_is_found_from_the_stations_before_it():
    found = [ended(seed, "open", 8960.0) for seed in range(12)]
    assert np.mean([bool(e.inside) and e.off_m < 1.0 for e in found]) >= 0.9


def test_no_end_is_named_where_an_earth_takes_the_current_on():
    assert sum(np.isfinite(ended(k, "earthed", (8960.0, 35840.0)[k % 2]).off_m) for k in range(20)) <= 1
    soil, setup, stations, length = walked(1, freq=35840.0)
    bare = Line(PRESETS["bare_copper_service"].construction, length, 0.3, 0.5)
    assert trace_end(bare, soil, setup, stations) is None
    assert trace_end(wire(length, None), soil, setup, stations[:3]) is None
