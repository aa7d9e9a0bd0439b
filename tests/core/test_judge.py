"""The judge: every bound from both sides, and what outweighs what."""

import math
from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import brentq

from vessel.core.judge.across.best_estimate import best_estimate
from vessel.core.judge.across.conductor_fit import field_across
from vessel.core.judge.across.symmetry import asymmetry
from vessel.core.judge.station.batch import Batch, StationContext
from vessel.core.judge.station.criteria import BY_ID, RULES
from vessel.core.judge.station.verdict import judge, judgements, outcome_of
from vessel.core.model.identity import Evidence, shows_it
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.readings import NeighbourReading, StationReading
from vessel.core.model.setup import Setup
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.finding_sentences import explain, headline, next_step

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
OFFSETS = np.array([0.8, 0.4, 0.0, -0.4, -0.8])


def across(aside_m=0.0, ragged=0.0, lopsided=0.0):
    """Signals across a line `aside_m` left of the peak: read unevenly, or differently on both sides."""
    read = 100 / (1 + (OFFSETS / 0.85) ** 2) * (1 + ragged * np.array([1, -1, 1, -1, 1]))
    read[[0, -1]] += 50 * lopsided * np.array([-1, 1])
    return replace(GOOD, profile=tuple(zip((OFFSETS + aside_m).tolist(), read.tolist(), strict=True)))


def giving(measure, value, most, make):
    """The station that `make` gives for the number at which its measure is `value`."""
    found = brentq(lambda x: measured(measure, make(x)) - value, 1e-6, most)
    return make(found)


def measured(rule_id, reading):
    return float(BY_ID[rule_id].measure(Batch.of([reading], [CONTEXT], rules=RULES))[0])


# for each rule: how to give its measure the value v, through readings or context
MAKE = {
    "frequency": lambda v: (GOOD, replace(CONTEXT, rx_freq_hz=8960.0 * (1 + v))),
    "loop": lambda v: (GOOD, replace(CONTEXT, loop_gap=v)),
    "signal": lambda v: (GOOD, replace(CONTEXT, noise_t=2e-7 * 0.0286 / 0.85 / v)),
    "steady": lambda v: (replace(GOOD, currents_a=(0.028, 0.028, 0.028 * (1 + v))), CONTEXT),
    "told": lambda v: (GOOD, replace(CONTEXT, forecast_a=(0.029 * v, 0.029))),
    "current_low": lambda v: (GOOD, replace(CONTEXT, forecast_a=(0.0286 / v, 1.0))),
    "current_high": lambda v: (GOOD, replace(CONTEXT, forecast_a=(1e-6, 0.0286 / v))),
    "between": lambda v: (GOOD, replace(CONTEXT, between=v)),
    "shown": lambda v: (GOOD, replace(CONTEXT, unshown=v)),
    "identity": lambda v: (GOOD, replace(CONTEXT, wrong=v)),
    "aside": lambda v: (GOOD, replace(CONTEXT, aside=v)),
    "surplus": lambda v: (GOOD, replace(CONTEXT, surplus=v)),
    "lift": lambda v: (replace(GOOD, depth_lifted_m=0.80 + 0.5 * (1 - v)), CONTEXT),
    # without noise to speak of
    "lift_sure": lambda v: (replace(GOOD, depth_lifted_m=0.80 + 0.5 * (1 - v)), replace(CONTEXT, noise_t=1e-20)),
    "peak_null": lambda v: (replace(GOOD, peak_null_m=v), CONTEXT),
    "guidance": lambda v: (replace(GOOD, lost=v > 0.5), CONTEXT),
    "direction": lambda v: (replace(GOOD, direction="towards" if v > 0.5 else "away"), CONTEXT),
    "neighbour": lambda v: (replace(GOOD, neighbour_a=0.0286 * v), CONTEXT),
    "louder": lambda v: (replace(GOOD, signal=50.0, neighbours=(NeighbourReading(1.2, 0.004, 50.0 * v),)), CONTEXT),
    "symmetry": lambda v: (across(lopsided=v), CONTEXT),
    "explained": lambda v: (giving("explained", v, 0.4, lambda a: across(ragged=a)), CONTEXT),
    "placed": lambda v: (giving("placed", v + 1e-9, 2.0, lambda x: across(aside_m=x)), CONTEXT),
    "gain": lambda v: (
        replace(GOOD, signal=50.0 * math.exp(v)),
        replace(CONTEXT, previous=(replace(GOOD, signal=50.0), 0.0285)),
    ),
    "depth": lambda v: (GOOD, replace(CONTEXT, depth_range_m=(0.1, 0.80 / (1 + v)))),
    "ends": lambda v: (GOOD, replace(CONTEXT, end_m=0.80 * v)),
    "turns": lambda v: (GOOD, replace(CONTEXT, turn_m=0.80 * v)),
    "crossings": lambda v: (GOOD, replace(CONTEXT, crossing_m=0.80 * v)),
    "passive": lambda v: (GOOD, replace(CONTEXT, passive_m=v)),
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
    assert {r.id for r in RULES} == set(MAKE)


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
    assert next_step(j) == CRITERION_WORDS[j.deciding[0].rule.id].ask
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


def test_a_neighbour_of_a_list_counts_as_one_entered_alone():
    beside = (NeighbourReading(1.2, 0.0286 * 0.9, 30.0), NeighbourReading(-2.0, None, 10.0))
    j = judge(replace(GOOD, neighbour_a=0.0, neighbours=beside, signal=50.0), CONTEXT)
    assert j.verdict == "hold"
    assert j.deciding[0].rule.id == "neighbour"
    louder = next(f for f in j.findings if f.rule.id == "louder")
    assert (louder.outcome, louder.value) == ("pass", pytest.approx(0.6))


def test_a_profile_that_is_that_of_one_line_under_the_peak_passes_and_narrows_the_estimate():
    j = judge(across(), CONTEXT)
    assert j.verdict == "mark"
    assert {f.outcome for f in j.findings if f.rule.id in ("symmetry", "explained", "placed")} == {"pass"}
    alone, with_it = (best_estimate(r, noise_t=20e-12, receiver=SAMPLE_KIT.receiver) for r in (GOOD, across()))
    assert with_it.across
    assert with_it.depth_pm_m < 0.8 * alone.depth_pm_m
    assert with_it.depth_m == pytest.approx(0.80, abs=0.02)


def test_a_line_beside_the_peak_moves_the_estimate_there():
    found = best_estimate(across(aside_m=0.3), noise_t=20e-12, receiver=SAMPLE_KIT.receiver)
    assert 0.0 < found.offset_m <= 0.3
    assert abs(found.offset_m - 0.3) < found.offset_pm_m  # peak and shape contradict each other: that stays open
    assert judge(across(aside_m=0.4), CONTEXT).verdict == "hold"


def test_readings_across_of_two_lines_are_lopsided():
    offsets = np.arange(-1.6, 1.61, 0.4)
    fields = [field_across(offsets, [(0.0, 1.0, 0.02), *more], low_m=0.05)[0] for more in ((), ((1.0, 1.0, -0.006),))]
    one, two = (asymmetry(tuple(zip(offsets.tolist(), f.tolist(), strict=True))) for f in fields)
    assert one < 1e-9
    assert two > 0.12
    assert asymmetry(((0.0, 90.0), (0.5, 60.0), (1.0, 30.0), (1.5, 12.0), (2.0, 7.0))) is None  # one side only
    # two readings at what is one place are one, however little a file says they are apart
    twice = ((-1.0, 30.0), (-0.5, 60.0), (0.0, 90.0), (1e-51, 90.0), (0.5, 60.0), (1.0, 30.0))
    assert asymmetry(twice) == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize(("most", "verdict"), [("care", "mark_with_care"), ("pass", "mark")])
def test_what_is_weighed_otherwise_holds_no_more_and_says_so(most, verdict):
    loud = Batch.of([replace(GOOD, neighbour_a=0.0286 * 0.9)], [CONTEXT], rules=RULES)
    assert judgements(loud)[0].verdict == "hold"
    settled = {"softened": {"neighbour": most}, "wrong": np.array([0.001])}
    (found,) = judgements(replace(loud, **settled))
    assert found.verdict == verdict
    said = explain(next(f for f in found.findings if f.rule.id == "neighbour"), "metric")
    assert "carries 90 % of the current here" in said
    assert "No longer a hold: you most likely follow the right line." in said
    # where a wrong mark is not unlikely it holds as ever
    assert judgements(replace(loud, **settled | {"wrong": np.array([0.04])}))[0].verdict == "hold"
    # and who did not look aside is asked to
    not_looked = Batch.of([replace(GOOD, neighbour_a=None)], [CONTEXT], rules=RULES)
    assert judgements(replace(not_looked, **settled))[0].verdict == "mark_with_care"


def test_the_current_is_held_against_the_lines_own():
    less = replace(GOOD, currents_a=tuple(0.6 * a for a in GOOD.currents_a))
    batch = Batch.of([less], [CONTEXT], rules=RULES)
    low, high = (BY_ID[r].measure for r in ("current_low", "current_high"))
    assert low(batch)[0] < BY_ID["current_low"].care
    drawn = replace(batch, pull=np.array([0.6]))  # a line drawn beside it takes that much off the display
    assert low(drawn)[0] == pytest.approx(0.0286 / 0.027, rel=1e-6)
    assert high(drawn)[0] == pytest.approx(0.0286 / 0.030, rel=1e-6)


def test_another_share_at_another_frequency_is_cleared_by_what_lights_up_this_line_alone():
    heard = [Evidence("ends_at", "for"), Evidence("second_frequency", "against")]
    by = Setup("direct", 8960.0, 0.06).by
    assert not shows_it(heard, by)
    assert not shows_it([*heard, Evidence("clamp", "cannot")], by)
    assert not shows_it([*heard, Evidence("clamp", "for")], by)  # nothing tells it from a line that is bonded to it
    assert shows_it([*heard, Evidence("clamp", "for"), Evidence("access", "for")], by)


def test_where_the_trace_ends_tells_no_line_from_one_that_shares_its_box():
    ends = [Evidence("access", "cannot"), Evidence("ends_at", "for"), Evidence("second_hookup", "for")]
    assert not shows_it(ends, Setup("direct", 8960.0, 0.06).by)
    assert shows_it([*ends, Evidence("conductors", "for")], Setup("direct", 8960.0, 0.06).by)
    assert shows_it(ends, Setup("induction", 35840.0, 0.12).by)  # by coil the chances alone decide
