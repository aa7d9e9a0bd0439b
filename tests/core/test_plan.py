"""Planning: what a technician would expect of the options for one line."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.bench import SHOWN, steps_short
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.work_order import in_sequence
from vessel.core.text.figures import show_length
from vessel.words.option_sentences import cautions, reason, rejection
from vessel.words.work_sentences import if_earthed_text, remaining_text

SOIL = Soil(120.0)
BASE = Setup("direct", 560.0, 0.005)
SERVICE = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0)


def plan(line, kit=SAMPLE_KIT):
    return plan_lines([line], SOIL, kit)[0]


def why_not(p, line, method, freq):
    return [
        rejection(o, SAMPLE_KIT, "metric") for o in p.rejected if (o.setup.method, o.setup.freq_hz) == (method, freq)
    ]


@pytest.fixture(scope="module")
def unknown():
    return plan(SERVICE)


def test_an_unknown_far_end_is_planned_for_both_cases(unknown):
    best = unknown.ranked[0]
    assert [f.far_case for f in best.forecasts] == ["open", "earthed"]
    assert best.proved_m == min(f.length_m("mark") for f in best.forecasts) > 120
    assert best.setup.method == "direct"
    assert "far end open or earthed" in reason(best, SERVICE, "metric")
    assert any("owner's consent" in c for c in cautions(best, SERVICE, SAMPLE_KIT, "metric"))


def test_the_forecast_covers_the_whole_line_without_gaps(unknown):
    for option in unknown.ranked:
        for f in option.forecasts:
            assert f.zones[0].start_m == 0
            assert f.zones[-1].end_m == 140.0
            assert all(a.end_m == b.start_m for a, b in zip(f.zones, f.zones[1:], strict=False))


def test_ranking_puts_the_most_proved_length_first_then_the_least_power(unknown):
    proved = steps_short(unknown.ranked, 140.0)
    assert proved == sorted(proved)
    same = [o for o, k in zip(unknown.ranked, proved, strict=True) if o.setup.freq_hz == 35840.0 and k == 0]
    outputs = [o.setup.output_a for o in same]
    assert outputs == sorted(outputs)


def test_an_open_end_starves_low_frequency_and_earthing_it_feeds_it():
    opened = plan(replace(SERVICE, far=FarEnd("open")))
    texts = why_not(opened, SERVICE, "direct", 560.0)
    assert texts
    assert any(t.startswith("Open far end: 560 Hz carries only") for t in texts)
    earthed = plan(replace(SERVICE, far=FarEnd("earthed")))
    low = next(o for o in earthed.ranked if o.setup.freq_hz == 560.0 and o.setup.output_a == 0.12)
    assert low.forecasts[0].current_a[-1] == pytest.approx(0.12, rel=0.02)


def test_earthing_an_open_end_is_rated_beside_leaving_it_open():
    opened, earthed = (plan(replace(SERVICE, far=FarEnd(kind))) for kind in ("open", "earthed"))
    there = {o.setup: o for o in (*earthed.ranked, *earthed.rejected) if o.rating is not None}
    rated = [o for o in (*opened.ranked, *opened.rejected) if o.rating is not None]
    assert len(rated) > 40
    for o in rated:
        assert [f.far_case for f in o.forecasts] == ["open"]  # what it proves as it is does not count on an earth
        assert o.earthed_m == pytest.approx(there[o.setup].proved_m)
    assert earthed.if_earthed is None
    starved = [o for o in opened.rejected if o.earthed_m > 100 > o.proved_m]
    assert any(o.setup.freq_hz == 560.0 for o in starved)
    assert opened.if_earthed is None  # a higher frequency does as much without the walk
    assert all("With the far end earthed, " in rejection(o, SAMPLE_KIT, "metric") for o in starved)


def test_a_plan_says_what_earthing_the_far_end_is_worth_where_it_is_worth_a_walk():
    cable = Line(PRESETS["pair_cable"].construction, 140.0, 0.5, 0.7, AccessPoint(earth_ohm=20.0), FarEnd("open"))
    opened = plan(cable)
    now = opened.ranked[0].proved_m if opened.ranked else 0.0
    then = opened.if_earthed
    assert then.earthed_m > now + 0.05 * opened.wanted_m
    assert then.earthed_m >= max(o.earthed_m for o in opened.ranked) - 0.02 * opened.wanted_m
    text = if_earthed_text(opened, "metric")
    assert show_length(then.earthed_m, "metric") in text
    assert "owner's consent" in text
    assert plan(replace(cable, far=FarEnd("earthed"))).ranked[0].proved_m == pytest.approx(then.earthed_m, abs=5.0)
    (left,) = in_sequence([cable], [opened]).remaining
    assert 0.5 < left.earthed_m <= left.missing_m
    said = remaining_text(left, "metric", whole=not opened.ranked)
    assert "With its far end earthed" in said
    assert f"would prove {left.earthed_m:.1f}" in said


def test_no_direct_connection_to_a_live_line_whatever_it_would_do():
    live = plan(replace(SERVICE, near=AccessPoint(live=True)))
    assert all(o.setup.method != "direct" for o in live.ranked)
    direct = [o for o in live.rejected if o.setup.method == "direct"]
    assert len(direct) == 35
    assert {o.rejected for o in direct} == {"live"}
    assert not any(o.forecasts for o in direct)


def test_access_and_kit_rule_hookups_out_by_name():
    p = plan(replace(SERVICE, near=AccessPoint(bare_metal=False, cased=True)), replace(SAMPLE_KIT, coil=None))
    assert not p.ranked
    assert {o.rejected for o in p.rejected} == {"no_metal", "cased", "no_coil"}
    assert why_not(plan(SERVICE), SERVICE, "clamp", 560.0)[0] == "Clamp needs at least 4 kHz with this kit."


def test_a_clamp_works_between_two_earths_and_not_on_a_floating_wire(unknown):
    assert all(o.setup.method != "clamp" for o in unknown.ranked)
    bonded = Line(
        PRESETS["armoured_cable"].construction,
        90.0,
        0.6,
        1.0,
        AccessPoint(live=True, earth_ohm=20.0),
        FarEnd("earthed"),
    )
    best = plan(bonded).ranked[0]
    assert best.setup.method == "clamp"
    assert best.proved_m > 60


def test_induction_keeps_its_distance_from_the_transmitter():
    buried = Line(PRESETS["coated_steel_pipe"].construction, 120.0, 0.8, 1.0, AccessPoint(bare_metal=False, earth_ohm=20.0),
                  FarEnd("earthed"))  # fmt: skip
    best = next(o for o in plan(buried).ranked if o.setup.method == "induction")
    first = best.forecasts[0].first_good_m
    assert first - best.setup.position_m > 5
    assert any("Stand off at least" in c for c in cautions(best, buried, SAMPLE_KIT, "metric"))


def test_steps_the_loop_cannot_take_are_rejected_by_name(unknown):
    texts = [
        t for o in unknown.rejected if o.rejected == "no_more_current" for t in [rejection(o, SAMPLE_KIT, "metric")]
    ]
    assert texts
    assert all("No more current than" in t for t in texts)


def stations_on_the_forecast(state, at, scale=1.0):
    amps = [scale * np.mean(state.band.at(x)) for x in at]
    return [StationReading(x, (a, a * 1.01, a * 0.99), 0.8, 0.5, 1.3, 0.01, 0.0) for x, a in zip(at, amps, strict=True)]


def test_a_true_trace_is_marked_and_half_its_current_is_not():
    setup = Setup("direct", 35840.0, 0.03)
    readings = (TransmitterReading(7.6, 0.03, 35840.0), TransmitterReading(40.0, 0.0043, 560.0))
    state = hookup_state(SERVICE, SOIL, SAMPLE_KIT, setup, readings)
    assert state.diagnosis.hypotheses[0].family.id == "far_open"
    at = [10.0, 30.0, 60.0, 90.0]
    good = judge_stations(
        SERVICE,
        SOIL,
        SAMPLE_KIT,
        setup,
        state,
        stations_on_the_forecast(state, at),
        rx_freq_hz=35840.0,
        transmitter=readings,
        evidence=SHOWN,
    ).judgements
    assert [j.verdict for j in good] == ["mark"] * 4
    weak = stations_on_the_forecast(state, at, scale=0.45)
    held = judge_stations(SERVICE, SOIL, SAMPLE_KIT, setup, state, weak, rx_freq_hz=35840.0).judgements
    assert {j.verdict for j in held} == {"hold"}
    assert held[0].deciding[0].rule.id == "current_low"


@pytest.mark.parametrize("method", ["direct", "clamp"])
def test_without_a_transmitter_reading_nothing_is_proved(method):
    setup = Setup(method, 35840.0, 0.03)
    state = hookup_state(SERVICE, SOIL, SAMPLE_KIT, setup, ())
    j = judge_stations(
        SERVICE, SOIL, SAMPLE_KIT, setup, state, stations_on_the_forecast(state, [30.0]), rx_freq_hz=35840.0
    ).judgements
    assert next(f for f in j[0].findings if f.rule.id == "loop").outcome == "need"
    # a clamp on this floating wire carries next to nothing, so other checks may hold it first
    assert j[0].verdict in (("need_more",) if method == "direct" else ("need_more", "hold"))
