"""The judge: every bound from both sides, and what outweighs what."""

from dataclasses import replace

import pytest

from vessel.core.judge.measures import MEASURES, StationContext
from vessel.core.judge.rules import RULES
from vessel.core.judge.verdict import judge, outcome_of
from vessel.core.judge.wording import explain, headline, next_step
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.reading import StationReading

GOOD = StationReading(40.0, (0.0286, 0.0284, 0.0287), 0.80, 0.5, 1.30, 0.02, 0.0)
CONTEXT = StationContext(
    tx_freq_hz=8960.0,
    rx_freq_hz=8960.0,
    noise_t=20e-12,
    receiver=SAMPLE_KIT.receiver,
    reads_depth=True,
    depth_range_m=(0.6, 1.0),
    end_m=40.0,
    loop_gap=0.02,
    forecast_a=(0.027, 0.030),
    previous=(GOOD, 0.0285),
)
# for each rule: how to give its measure the value v, through readings or context
MAKE = {
    "frequency": lambda v: (GOOD, replace(CONTEXT, rx_freq_hz=8960.0 * (1 + v))),
    "loop": lambda v: (GOOD, replace(CONTEXT, loop_gap=v)),
    "signal": lambda v: (GOOD, replace(CONTEXT, noise_t=2e-7 * 0.0286 / 0.85 / v)),
    "steady": lambda v: (replace(GOOD, currents_a=(0.028, 0.028, 0.028 * (1 + v))), CONTEXT),
    "told": lambda v: (GOOD, replace(CONTEXT, forecast_a=(0.029 * v, 0.029))),
    "current_low": lambda v: (GOOD, replace(CONTEXT, forecast_a=(0.0286 / v, 1.0))),
    "current_high": lambda v: (GOOD, replace(CONTEXT, forecast_a=(1e-6, 0.0286 / v))),
    "lift": lambda v: (replace(GOOD, depth_lifted_m=0.80 + 0.5 * (1 - v)), CONTEXT),
    # without noise to speak of
    "lift_sure": lambda v: (replace(GOOD, depth_lifted_m=0.80 + 0.5 * (1 - v)), replace(CONTEXT, noise_t=1e-20)),
    "peak_null": lambda v: (replace(GOOD, peak_null_m=v), CONTEXT),
    "guidance": lambda v: (replace(GOOD, lost=v > 0.5), CONTEXT),
    "direction": lambda v: (replace(GOOD, direction="towards" if v > 0.5 else "away"), CONTEXT),
    "neighbour": lambda v: (replace(GOOD, neighbour_a=0.0286 * v), CONTEXT),
    "depth": lambda v: (GOOD, replace(CONTEXT, depth_range_m=(0.1, 0.80 / (1 + v)))),
    "ends": lambda v: (GOOD, replace(CONTEXT, end_m=0.80 * v)),
    "air": lambda v: (GOOD, replace(CONTEXT, air_share=v)),
    "jump": lambda v: (
        GOOD,
        replace(CONTEXT, previous=(replace(GOOD, depth_m=0.80 / 2.7**v, currents_a=(0.0286 / 2.7**v,) * 3), 0.0285)),
    ),
}


def finding(rule_id, value):
    reading, context = MAKE[rule_id](value)
    return next(f for f in judge(reading, context).findings if f.rule.id == rule_id)


@pytest.mark.parametrize("rule", RULES, ids=lambda r: r.id)
def test_each_bound_from_both_sides(rule):
    beyond, within = (1.03, 0.97) if rule.sense == "above" else (0.97, 1.03)
    if rule.hold is not None:
        assert finding(rule.id, rule.hold * beyond).outcome == "hold"
        assert finding(rule.id, rule.hold * within).outcome == ("pass" if rule.care is None else "care")
    if rule.care is not None:
        assert finding(rule.id, rule.care * beyond).outcome == "care"
        assert finding(rule.id, rule.care * within).outcome == "pass"


def test_every_rule_has_a_measure_and_nothing_else_has():
    assert set(MEASURES) == {r.id for r in RULES} == set(MAKE)


def test_a_clean_station_is_marked_and_never_called_safe_to_dig():
    j = judge(GOOD, CONTEXT)
    assert j.verdict == "mark"
    assert "not that digging is safe" in headline(j, "metric")


@pytest.mark.parametrize(
    ("change", "rule_id"),
    [
        ({"currents_a": (0.0286, 0.0284)}, "steady"),
        ({"depth_m": None, "depth_lifted_m": None}, "depth"),
        ({"depth_lifted_m": None}, "lift"),
        ({"peak_null_m": None}, "peak_null"),
    ],
)
def test_missing_evidence_is_asked_for(change, rule_id):
    j = judge(replace(GOOD, **change), CONTEXT)
    assert j.verdict == "need_more"
    assert rule_id in {f.rule.id for f in j.deciding}
    assert next_step(j)


def test_of_several_things_missing_the_one_that_tells_most_is_asked_for_first():
    thin = replace(GOOD, currents_a=(0.0286,), depth_lifted_m=None, peak_null_m=None)
    j = judge(thin, CONTEXT)
    assert [f.rule.id for f in j.deciding] == ["peak_null", "steady", "lift"]
    assert next_step(j) == j.deciding[0].rule.ask
    # without a proved loop nothing else counts
    assert judge(thin, replace(CONTEXT, loop_gap=None)).deciding[0].rule.id == "loop"


def test_no_transmitter_reading_proves_nothing():
    assert judge(GOOD, replace(CONTEXT, loop_gap=None)).verdict == "need_more"
    assert judge(GOOD, replace(CONTEXT, rx_freq_hz=None)).verdict == "need_more"


def test_induction_is_not_asked_for_a_loop_it_cannot_show():
    j = judge(GOOD, replace(CONTEXT, loop_gap=float("nan"), air_share=0.01))
    assert j.verdict == "mark"
    loop = next(f for f in j.findings if f.rule.id == "loop")
    assert loop.outcome == "skip"
    assert "does not apply" in explain(loop, "metric")


def test_a_frequency_without_depth_cannot_prove_anything():
    assert judge(GOOD, replace(CONTEXT, reads_depth=False)).verdict == "need_more"


def test_hold_outweighs_missing_and_missing_outweighs_care():
    bad = replace(GOOD, peak_null_m=0.3, depth_lifted_m=None)
    assert judge(bad, CONTEXT).verdict == "hold"
    unsure = replace(GOOD, peak_null_m=0.1, depth_lifted_m=None)
    assert judge(unsure, CONTEXT).verdict == "need_more"
    assert judge(replace(GOOD, peak_null_m=0.1), CONTEXT).verdict == "mark_with_care"


def test_a_dead_station_holds_instead_of_dividing_by_zero():
    j = judge(replace(GOOD, currents_a=(0.0, 0.0, 0.0), neighbour_a=0.01), CONTEXT)
    assert j.verdict == "hold"
    assert all("nan" not in explain(f, "imperial") for f in j.findings)


def test_sentences_speak_the_users_units():
    f = finding("peak_null", 0.25)
    assert "0.25 m" in explain(f, "metric")
    assert "0'9.8\"" in explain(f, "imperial")
    assert outcome_of(f.rule, float("nan")) == "skip"
