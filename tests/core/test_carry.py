"""Evidence carried along a quiet stretch: how far, from where, and what stops it."""

from dataclasses import replace

import pytest

from tests.core.bench import SHOWN
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.hookup.transmitter_forecast import loop_forecasts
from vessel.core.judge.station.carried_evidence import CARRY_M
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.words.finding_sentences import explain, headline

LINE = Line(PRESETS["tracer_wire"].construction, 200.0, 0.6, 1.0, far=FarEnd("earthed", 20.0))
SOIL, SETUP = Soil(100.0), Setup("direct", 8960.0, 0.03)


@pytest.fixture(scope="module")
def state():
    (loop,) = loop_forecasts(LINE, SOIL, SAMPLE_KIT, SETUP)
    read = TransmitterReading(loop.output.volts, loop.output.amps, SETUP.freq_hz)
    return hookup_state(LINE, SOIL, SAMPLE_KIT, SETUP, [read])


def at(distance_m, state, *, checked=False, of=1.0, depth=0.8, **more):
    """A station that carries `of` the forecast current, with lift, null and a look aside or without."""
    amps = of * sum(state.band.at(distance_m)) / 2
    r = StationReading(distance_m, (amps, 0.99 * amps, 1.01 * amps), depth, **more)
    checks = {"lift_height_m": 0.5, "depth_lifted_m": depth + 0.5, "peak_null_m": 0.02, "neighbour_a": 0.0}
    return replace(r, **checks) if checked else r


def judged(state, *stations):
    return judge_stations(
        LINE, SOIL, SAMPLE_KIT, SETUP, state, stations, rx_freq_hz=SETUP.freq_hz, evidence=SHOWN
    ).judgements


def test_what_was_checked_holds_along_a_quiet_stretch_and_says_so(state):
    first, second = judged(state, at(40.0, state, checked=True), at(48.0, state))
    assert (first.verdict, second.verdict) == ("mark", "mark")
    found = {f.rule.id: f for f in second.findings}
    assert {k for k, f in found.items() if f.carried_m is not None} == {"lift", "peak_null", "neighbour"}
    assert found["lift"].carried_m == 40.0
    assert "carries over from 40 m" in explain(found["lift"], "metric")
    assert "Some checks carry over from 40 m." in headline(second, "metric")
    assert headline(first, "metric").count("carry") == 0


@pytest.mark.parametrize(
    ("name", "stations"),
    [
        ("too far", lambda s: (at(40.0, s, checked=True), at(40.5 + CARRY_M, s))),
        ("another depth", lambda s: (at(40.0, s, checked=True), at(48.0, s, depth=0.95))),
        ("another current", lambda s: (at(40.0, s, checked=True), at(48.0, s, of=0.85))),
        ("guidance lost", lambda s: (at(40.0, s, checked=True), StationReading(44.0, lost=True), at(48.0, s))),
        (
            "another depth between, no current",
            lambda s: (at(40.0, s, checked=True), StationReading(44.0, depth_m=1.0), at(48.0, s)),
        ),
        ("restless between", lambda s: (at(40.0, s, checked=True), at(44.0, s, of=0.8), at(48.0, s))),
        ("a check that asked for care", lambda s: (replace(at(40.0, s, checked=True), peak_null_m=0.15), at(48.0, s))),
    ],
)
def test_what_is_not_quiet_carries_nothing(state, name, stations):
    last = judged(state, *stations(state))[-1]
    assert last.verdict == "need_more", name
    missing = {f.rule.id for f in last.findings if f.outcome == "need"}
    assert "peak_null" in missing


def test_what_was_carried_carries_no_further(state):
    far = [at(40.0 + 8 * k, state, checked=k == 0) for k in range(3)]
    assert [j.verdict for j in judged(state, *far)] == ["mark", "mark", "need_more"]


def test_the_nearest_checked_station_counts_whatever_the_order(state):
    stations = [at(48.0, state), at(40.0, state, checked=True), at(52.0, state, checked=True)]
    first, *_ = judged(state, *stations)
    assert next(f for f in first.findings if f.rule.id == "lift").carried_m == 52.0
