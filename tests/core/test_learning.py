"""The forecast learns: from stations on known ground it finds what is so, says how sure, and never makes a verdict better."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core import corpus_traces as traces
from tests.core.bench import SHOWN
from vessel.core.hookup import judge_trace as trace
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations, learned_band
from vessel.core.hookup.proof_ahead import ahead
from vessel.core.hookup.taught import lesson
from vessel.core.judge.station.verdict import VERDICTS
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_site import plan_lines
from vessel.core.remedies.remedy_search import remedies
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.words.proof_sentences import ahead_text, taught_text

ASSUMED = Soil(120.0)
SETUP = Setup("direct", 8960.0, 0.03)
KIT = replace(SAMPLE_KIT, frequencies=SAMPLE_KIT.frequencies[3:4], outputs_a=(0.03,))
CABLE = Line(PRESETS["armoured_cable"].construction, 150.0, 0.6, 1.0, far=FarEnd("unknown"))


class Walk:
    """A line as it really is, hooked up and walked: what its stations teach."""

    def __init__(self, far_ohm, *, line=CABLE, setup=SETUP, soil=ASSUMED, upto_m=80.0, factor=1.0):
        self.line, self.setup = line, setup
        circuit = LineCircuit(line, soil, freq_hz=setup.freq_hz)
        e = excite(circuit, setup, SAMPLE_KIT, far_ohms=(far_ohm,))[0]
        out = output(e.load_ohm, setup, SAMPLE_KIT)
        read = TransmitterReading(float(f"{out.volts:.2g}"), float(f"{out.amps:.3g}"), setup.freq_hz)
        self.state = hookup_state(line, ASSUMED, SAMPLE_KIT, setup, (read,))
        self.current = lambda x: circuit.current_at(e.response, np.asarray(x)) * out.drive
        at = np.arange(8.0, upto_m, 6.0)
        amps = self.current(at) * np.where(at > 90, factor, 1.0)
        self.stations = [
            StationReading(float(x), (a, 1.01 * a, 0.99 * a), 0.8, 0.5, 1.3, 0.02, 0.0)
            for x, a in zip(at, amps, strict=True)
        ]
        self.judged = judge_stations(
            line,
            ASSUMED,
            SAMPLE_KIT,
            setup,
            self.state,
            self.stations,
            rx_freq_hz=setup.freq_hz,
            transmitter=(read,),
            evidence=SHOWN,
        )

    @property
    def lesson(self):
        return self.judged.lesson

    def taught(self):
        return taught_text(self.lesson, self.state.possible, ASSUMED)


@pytest.mark.parametrize(("far_ohm", "cause"), [(None, "far_open"), (12.0, "far_earthed")])
def test_stations_tell_which_explanation_holds_and_the_band_ahead_closes_round_it(far_ohm, cause):
    walk = Walk(far_ohm)
    ahead_m = np.linspace(90, 130, 5)
    low, high = walk.state.band.along(ahead_m)
    assert (high > 3 * low).all()  # by the transmitter alone either end is possible
    first = walk.lesson.left[0]
    other = {"far_open": "far_earthed", "far_earthed": "far_open"}[cause]
    likely = {walk.state.possible[x.index].cause.id: x.likely for x in walk.lesson.left}
    assert likely[cause] > 20 * likely[other]
    narrow, wide = learned_band(walk.state, walk.lesson).along(ahead_m)
    truth = walk.current(ahead_m)
    assert ((narrow <= 1.02 * truth) & (truth <= 1.02 * wide)).all()
    assert ((wide - narrow) < 0.5 * (high - low)).all()
    assert (narrow >= low).all()
    assert (wide <= high).all()
    assert first.likely == max(x.likely for x in walk.lesson.left)
    if cause == "far_open":
        assert "far end not earthed is likeliest" in walk.taught()


def test_soil_that_is_not_as_assumed_is_found_the_right_way_round_and_within_its_range():
    bare = Line(PRESETS["bare_copper_service"].construction, 80.0, 0.6, 1.0, far=FarEnd("open"))
    wet, dry = (Walk(None, line=bare, soil=Soil(rho), upto_m=70.0).lesson.left[0] for rho in (60.0, 240.0))
    assert wet.factor("soil") < 1 < dry.factor("soil")
    for left, rho in ((wet, 60.0), (dry, 240.0)):
        assert abs(np.log(left.factor("soil") * 120.0 / rho)) <= 2 * left.off("soil")


@pytest.mark.parametrize("rho", [0.6, 9e4])
def test_soil_at_the_edge_of_what_soil_is_can_be_planned_and_learnt(rho):
    bare, soil = Line(PRESETS["bare_copper_service"].construction, 40.0, 0.6, 1.0), Soil(rho)
    assert plan_lines([bare], soil, KIT)[0].ranked or plan_lines([bare], soil, KIT)[0].rejected
    state = hookup_state(bare, soil, SAMPLE_KIT, SETUP, (TransmitterReading(5.0, 0.03, 8960.0),))
    assert state.families
    leaky = replace(PRESETS["coated_steel_pipe"].construction, coating_s_m2=9.0)
    assert leaky.leaking(3.0).coating_s_m2 == 10.0


def test_too_few_stations_or_such_as_nothing_foretells_narrow_nothing():
    few = Walk(12.0, upto_m=16.0)
    assert few.lesson.count == 2
    assert not few.lesson.narrows
    assert few.taught() == ""
    # every second station reads half of what the other does: no line does that
    walk = Walk(12.0)
    odd = [
        replace(s, currents_a=tuple(a * (0.8 if k % 2 else 1.24) for a in s.currents_a))
        for k, s in enumerate(walk.stations)
    ]
    state = replace(walk.state, kit=SAMPLE_KIT)
    found = lesson(state.families, odd, np.ones(len(odd), dtype=bool), hookup_m=0.0)
    assert not found.narrows
    assert "not narrowed" in taught_text(found, state.possible, ASSUMED)


def test_a_station_that_only_the_wide_forecast_allowed_is_held_once_others_told_the_far_end():
    sound = Walk(12.0)
    assert all(j.verdict == "mark" for j in sound.judged.judgements)
    lower = Walk(12.0, factor=0.3, upto_m=96.0)
    first = next(j for s, j in zip(lower.stations, lower.judged.judgements, strict=True) if s.distance_m > 90)
    assert first.verdict == "hold"
    assert first.deciding[0].rule.id == "current_low"
    low, _ = lower.state.band.along(np.array([s.distance_m for s in lower.stations]))
    assert all(s.current_a > 0.75 * a for s, a in zip(lower.stations, low, strict=True))


def test_learning_never_makes_a_verdict_better(monkeypatch):
    with_it = traces.walked(2, first=20)
    monkeypatch.setattr(trace, "lesson", lambda *a, **k: None)
    without = traces.walked(2, first=20)
    worse = [
        (VERDICTS.index(b), VERDICTS.index(a))
        for x, y in zip(with_it, without, strict=True)
        for a, b in zip(x.verdicts, y.verdicts, strict=True)
    ]
    assert len(worse) > 16
    assert all(after >= before for before, after in worse)


def test_remedies_reckon_with_what_stations_taught():
    walk = Walk(None)
    by_hookup = remedies([CABLE], 0, ASSUMED, SAMPLE_KIT, SETUP, walk.state)
    by_stations = remedies([CABLE], 0, ASSUMED, SAMPLE_KIT, SETUP, walk.state, walk.lesson)
    assert [name for name, _ in by_stations.assumed] == ["far_open"]
    assert by_hookup.assumed != by_stations.assumed
    assert by_stations.proved_m(by_stations.now) < by_hookup.proved_m(by_hookup.now)


def test_what_lies_ahead_starts_at_the_last_station_that_passed():
    walk = Walk(None)
    now = remedies([CABLE], 0, ASSUMED, SAMPLE_KIT, SETUP, walk.state, walk.lesson).now[0].forecast
    there = ahead(CABLE, now, [(40.0, "mark"), (80.0, "mark_with_care")], hookup_m=0.0)
    assert (there.from_m, there.end_m, there.astray_m) == (80.0, 150.0, None)
    assert there.left_m == pytest.approx(70.0)
    assert 0 <= there.proved_m < there.left_m  # next to an open end nothing is left to read
    assert "From your stations so far" in ahead_text(there, walk.lesson, "metric")
    astray = ahead(CABLE, now, [(40.0, "mark"), (80.0, "hold")], hookup_m=0.0)
    assert (astray.from_m, astray.astray_m) == (40.0, 80.0)
    assert ahead_text(astray, walk.lesson, "metric").startswith("The station at 80 m did not pass")
    assert ahead(CABLE, now, [(150.0, "mark")], hookup_m=0.0) is None
    back = ahead(CABLE, now, [(60.0, "mark")], hookup_m=150.0)
    assert (back.from_m, back.end_m, back.left_m) == (60.0, 0.0, pytest.approx(60.0))
