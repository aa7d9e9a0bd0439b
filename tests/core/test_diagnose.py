"""Circuit diagnosis: the true cause comes out of readings that the network makes for it."""

from dataclasses import replace

import pytest

from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.diagnose.ranking import diagnose
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.transmitter_forecast import explained_shares
from vessel.core.judge.station.criteria import BY_ID
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.words.diagnosis_sentences import advice, explain

SOIL = Soil(120.0)
LINE = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0)
SETUP = Setup("direct", 35840.0, 0.03)


def read(*, line=LINE, far=None, setup=SETUP, freqs=(35840.0, 560.0)):
    """What the transmitter would show, rounded as its display rounds."""
    found = []
    for f in freqs:
        at = replace(setup, freq_hz=f)
        out = output(
            excite(LineCircuit(line, SOIL, freq_hz=f), at, SAMPLE_KIT, far_ohms=(far,))[0].load_ohm, at, SAMPLE_KIT
        )
        found.append(TransmitterReading(float(f"{out.volts:.3g}"), float(f"{out.amps:.3g}"), f))
    return found


def leader(readings):
    d = diagnose(LINE, SETUP, SOIL, SAMPLE_KIT, readings)
    return d, d.hypotheses[0]


def test_far_end_open_or_earthed_is_told_by_a_low_frequency():
    d, first = leader(read(far=None))
    assert first.family.id == "far_open"
    assert d.told_apart
    assert first.parameter == pytest.approx(140.0, rel=0.15)
    assert "of wire is carrying only the current it leaks" in explain(first, line_m=140.0, units="metric")
    readings = read(far=30.0)
    d, first = leader(readings)
    assert first.family.id == "far_earthed"
    assert first.parameter_range[0] < 30.0 < first.parameter_range[1]
    # while nobody knows the far end, an earth on the way would read the same
    assert (d.told_apart, d.rival.family.id) == (False, "earth_fault")
    assert "Check whether the far end is earthed" in advice(d)
    known = replace(LINE, far=FarEnd("earthed", 30.0))
    assert diagnose(known, SETUP, SOIL, SAMPLE_KIT, readings).told_apart


def test_earthing_the_far_end_is_a_test_of_its_own():
    open_end = read(far=None)
    jumped = replace(read(far=30.0)[0], changes=("far",))
    d, first = leader([*open_end, jumped])
    assert (first.family.id, d.told_apart) == ("far_open", True)
    assert first.far_ohm == pytest.approx(30.0, rel=0.7)
    d, first = leader([*open_end, replace(open_end[1], changes=("far",))])  # nothing changed though it was open
    assert d.gap > BY_ID["loop"].care


def test_one_reading_that_cannot_tell_says_so_and_names_the_next():
    d, _ = leader(read(far=None, freqs=(35840.0,)))
    assert not d.told_apart
    assert d.next_reading.freq_hz is not None
    assert "read volts and milliamps at" in advice(d)
    assert {h.family.id for h in d.plausible} >= {"far_open", "far_earthed"}


def test_a_break_is_found_by_the_charging_current_of_what_is_left():
    d, first = leader(read(line=replace(LINE, length_m=60.0)))
    assert first.family.id == "break"
    assert first.parameter == pytest.approx(60.0, rel=0.15)
    assert d.gap < 0.1


def test_a_line_reached_at_its_far_end_may_be_broken_before_it():
    """Read from the far end of a line that is whole only on the last 50 m."""
    setup = replace(SETUP, position_m=140.0)
    line = replace(LINE, accesses=(Access("pedestal", 140.0, AccessPoint()),))
    at = [replace(setup, freq_hz=f) for f in (35840.0, 560.0)]
    readings = []
    for s in at:
        cut = LineCircuit(line, SOIL, freq_hz=s.freq_hz, faults=(LineFault("break", 90.0),))
        out = output(excite(cut, s, SAMPLE_KIT, far_ohms=(None,))[0].load_ohm, s, SAMPLE_KIT)
        readings.append(TransmitterReading(out.volts, out.amps, s.freq_hz))
    first = diagnose(line, setup, SOIL, SAMPLE_KIT, readings).hypotheses[0]
    assert first.family.id == "break"
    assert 140.0 - first.parameter == pytest.approx(50.0, rel=0.15)
    state = hookup_state(line, SOIL, SAMPLE_KIT, setup, readings)
    assert state.band.at(120.0)[1] > 10 * state.band.at(60.0)[0]


def test_a_bonded_neighbour_is_thought_of_and_never_told_from_an_earth():
    main = Neighbour("Water main", PRESETS["coated_steel_pipe"].construction, 1.0, -20.0, 170.0, 1.1, 10.0, 10.0)
    line = replace(LINE, far=FarEnd("open"), neighbours=(main,))
    truth = replace(line, neighbours=(replace(main, bond_m=70.0),))
    d = diagnose(line, SETUP, SOIL, SAMPLE_KIT, read(line=truth))
    thought = {h.family.id: h for h in d.hypotheses[:3]}
    assert {"bonded", "earth_fault"} <= set(thought)
    assert not d.told_apart
    assert "goes to Water main" in explain(thought["bonded"], line_m=140.0, units="metric")
    apart = diagnose(line, SETUP, SOIL, SAMPLE_KIT, read(line=line))
    assert "bonded" not in {h.family.id for h in apart.plausible}


@pytest.mark.parametrize(
    ("volts", "amps", "freq_hz", "field"),
    [
        (41.0, 0.03, 35840.0, None),
        (46.0, 0.03, 35840.0, "volts"),
        (30.0, 0.033, 35840.0, None),
        (30.0, 0.040, 35840.0, "milliamps"),
        (30.0, 0.03, 33000.0, "freq"),
    ],
)
def test_a_reading_that_cannot_be_is_named(volts, amps, freq_hz, field):
    found = doubt(TransmitterReading(volts, amps, freq_hz), SETUP, SAMPLE_KIT)
    assert (found and found.field) == field


def test_a_dry_stake_on_an_earthed_line():
    poor = replace(SETUP, stake=Stake(measured_ohm=2500.0))
    d, first = leader(read(far=30.0, setup=poor))
    assert first.family.id in ("poor_stake", "bad_clip")
    assert not d.told_apart
    assert (d.next_reading.freq_hz, d.next_reading.change in ("stake", "clip")) == (None, True)
    assert "Transmitter off" in advice(d)
    readings = read(far=30.0, setup=poor)
    wetter = read(far=30.0, setup=replace(SETUP, stake=Stake(measured_ohm=1000.0)))[0]
    d, first = leader([*readings, replace(wetter, changes=("stake",))])
    assert (first.family.id, d.told_apart) == ("poor_stake", True)
    assert first.stake_left == pytest.approx(0.4, abs=0.1)
    d, first = leader([*readings, replace(readings[0], changes=("clip",))])  # a bright clip changes nothing
    assert first.family.id == "poor_stake"
    bad = replace(SETUP, clip_ohm=2000.0)
    found = read(far=30.0, setup=bad)
    d, first = leader([*found, replace(read(far=30.0)[0], changes=("clip",))])
    assert (first.family.id, d.told_apart) == ("bad_clip", True)


def test_shares_of_the_explained_loop_add_up_to_the_volts_read():
    readings = read(far=None)
    _, first = leader(readings)
    shares = explained_shares(first, LINE, SOIL, SAMPLE_KIT, SETUP, read=readings[0])
    assert sum(s.volts for s in shares) == pytest.approx(readings[0].volts, rel=0.1)
    assert max(shares, key=lambda s: s.volts).part == "stake"
