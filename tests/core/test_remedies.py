"""What would help: each remedy does what the model says of the line once it is done, and no more."""

from dataclasses import replace

import pytest

from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site_plan import Bond, Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.core.plan.what_if import what_if
from vessel.core.remedies.remedy_search import remedies
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.words.remedy_sentences import caution, expect_text, gain_text, headline, title

SOIL = Soil(120.0)
TRACER = PRESETS["tracer_wire"].construction
LINE = Line(TRACER, 140.0, 0.6, 1.0, far=FarEnd("unknown"))
LOW = Setup("direct", 560.0, 0.12)


def asked(truth, setup, *, line=LINE, far=None, faults=(), freqs=(560.0, 35840.0)):
    """What would help on `line` after readings that `truth` gives."""
    readings = []
    for f in freqs:
        at = replace(setup, freq_hz=f)
        circuit = LineCircuit(truth, SOIL, freq_hz=f, faults=faults)
        out = output(excite(circuit, at, SAMPLE_KIT, far_ohms=(far,))[0].load_ohm, at, SAMPLE_KIT)
        readings.append(TransmitterReading(out.volts, out.amps, f))
    as_told = replace(setup, stake=Stake(), clip_ohm=Setup("direct", 1e3, 1.0).clip_ohm)
    state = hookup_state(line, SOIL, SAMPLE_KIT, as_told, readings)
    return remedies([line], 0, SOIL, SAMPLE_KIT, as_told, state)


def of_kind(found, kind):
    return next(r for r in (*found.helping, *found.useless) if r.kind == kind and not r.also)


def test_earthing_an_open_end_does_what_the_forecast_of_an_earthed_one_says():
    found = asked(LINE, LOW)
    assert found.assumed[0][0] == "far_open"
    earthed = of_kind(found, "far")
    assert earthed in found.helping
    told = what_if([replace(LINE, far=FarEnd("earthed"))], 0, SOIL, SAMPLE_KIT, LOW)
    assert earthed.then[0].proved_m == pytest.approx(told.usable_m, abs=0.1 * found.wanted_m)
    volts = told.forecasts[0].output.volts
    assert earthed.then[0].forecast.output.volts == pytest.approx(volts, rel=0.15)
    assert "The transmitter should then show about" in expect_text(earthed)
    assert "Never on a live conductor" in caution(earthed)
    assert of_kind(found, "clip") in found.useless
    assert of_kind(found, "frequency") in found.helping


def test_behind_a_break_an_earth_does_nothing_and_the_other_side_takes_over():
    line = replace(LINE, accesses=(Access("pedestal", 140.0, AccessPoint()),))
    found = asked(line, replace(LOW, freq_hz=35840.0), line=line, faults=(LineFault("break", 60.0),))
    assert found.assumed[0][0] == "break"
    assert of_kind(found, "far").then[0].proved_m == found.now[0].proved_m < 60.0
    other = of_kind(found, "access")
    assert other in found.helping
    assert title(other, "metric").startswith("Direct connection at pedestal, 140 m along")
    assert "One or two changes get no further" in headline(found, "metric")


def test_a_poor_stake_gains_by_being_driven_deeper():
    poor = Setup("direct", 35840.0, 0.06, stake=Stake(measured_ohm=6000.0))
    known = replace(LINE, far=FarEnd("earthed"))
    found = asked(known, poor, line=known, far=30.0)
    stake = of_kind(found, "stake")
    gained = [t.forecast.output.drive / n.forecast.output.drive for t, n in zip(stake.then, found.now, strict=True)]
    assert found.assumed[0][0] == "poor_stake"
    assert gained[0] == pytest.approx(2.0, rel=0.1)


def test_while_two_explanations_stand_both_are_said():
    found = asked(LINE, Setup("direct", 35840.0, 0.03), freqs=(35840.0,))
    assert len(found.assumed) == 2
    assert gain_text(found.useless[0], found, "metric").count("if it is “") == 2


def test_two_steps_together_are_offered_where_neither_alone_gets_there():
    iron = Line(PRESETS["jointed_iron_main"].construction, 80.0, 0.8, 1.2)
    found = asked(
        iron, Setup("direct", 8960.0, 0.03, stake=Stake(measured_ohm=1500.0)), line=iron, freqs=(560.0, 8960.0)
    )
    both = found.helping[0]
    assert both.also
    assert ", then go to 35.84 kHz" in title(both, "metric")
    alone = [of_kind(found, both.kind), of_kind(found, "frequency")]
    assert not any(r.also for r in alone)
    gained = found.proved_m(both.then)
    assert gained > max(found.proved_m(r.then) for r in alone) + 0.03 * found.wanted_m
    assert gained == pytest.approx(found.most_m)
    assert caution(both).startswith("Transmitter off")
    # where one step gets there nobody is sent to do two
    assert not any(r.also for r in asked(LINE, LOW).helping)


@pytest.mark.parametrize("drawn", [False, True])
def test_lifting_a_bond_gives_the_signal_back(drawn):
    main = PRESETS["coated_steel_pipe"].construction
    if drawn:
        own = Drawn("own", TRACER, ((0.0, 0.0), (80.0, 0.0)), 0.6, 1.0, end=FarEnd("earthed"))
        beside = Drawn("Main", main, ((-20.0, 1.0), (100.0, 1.0)), 1.1, 1.2, FarEnd("earthed"), FarEnd("earthed"))
        plan = SitePlan((own, beside), (Bond("own", 4.0, "Main", 24.0),))
        line = Line(TRACER, 80.0, 0.6, 1.0, far=FarEnd("earthed"), course=Course(plan, 0))
    else:
        n = Neighbour("Main", main, 1.0, -20.0, 100.0, 1.1, 10.0, 10.0, bond_m=4.0)
        line = Line(TRACER, 80.0, 0.6, 1.0, far=FarEnd("earthed"), neighbours=(n,))
    setup = Setup("direct", 8960.0, 0.06)
    found = remedies([line], 0, SOIL, SAMPLE_KIT, setup, hookup_state(line, SOIL, SAMPLE_KIT, setup, ()))
    unbond = of_kind(found, "unbond")
    assert title(unbond, "metric") == "Have the bond to Main opened"
    assert "Only the owner's staff" in caution(unbond)
    assert unbond.then[0].bleed_share < 0.5 * found.now[0].bleed_share
    assert found.proved_m(unbond.then) >= found.proved_m(found.now)


def test_where_nothing_helps_it_is_said():
    cable = Line(TRACER, 30.0, 3.5, 4.0, AccessPoint(bare_metal=False), FarEnd("open"))
    bare = replace(SAMPLE_KIT, clamp=None, outputs_a=(0.001,))
    setup = Setup("induction", 35840.0, 0.001)
    found = remedies([cable], 0, SOIL, bare, setup, hookup_state(cable, SOIL, bare, setup, ()))
    assert found.helping == ()
    assert "No change gains more" in headline(found, "metric")
