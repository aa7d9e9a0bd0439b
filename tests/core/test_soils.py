"""The plan holds in the soil that is there, not only in the one assumed."""

from dataclasses import replace

import pytest

from benchmarks.sites import drawn_lines
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_option import Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.soil_check import robust
from vessel.core.plan.what_if import what_if
from vessel.core.simulate.soil_range import soils_expected
from vessel.words.fact_sentences import facts, for_other_soil

SOIL = Soil(60.0)


@pytest.fixture(scope="module")
def planned():
    lines = drawn_lines(3)
    return lines, plan_lines(lines, SOIL, SAMPLE_KIT)


def test_the_first_setup_is_rated_in_the_wettest_and_driest_soil(planned):
    lines, plans = planned
    wet, _, dry = soils_expected(SOIL, measured=False)
    for k, plan in enumerate(plans):
        first = plan.ranked[0]
        alone = [what_if(lines, k, s, SAMPLE_KIT, first.setup).proved_m for s in (wet, dry)]
        assert list(first.in_soils_m) == pytest.approx(alone, abs=2.6)  # another mesh, one station more or less
        said = dict(facts(first, lines[k], SOIL, SAMPLE_KIT, "metric"))
        assert "driest" in said["In other soil"]


def test_what_is_best_only_in_the_assumed_soil_does_not_lead(planned):
    _, plans = planned
    first, second, third = plans[0].ranked[:3]
    plan = Plan((first, second, third), (), 80.0)

    def led(*lengths):
        return robust(plan, {o.setup: each for o, each in zip((first, second), lengths, strict=True)})

    fragile = led((0.0, 0.0), (80.0, 80.0))
    assert [o.setup for o in fragile.ranked] == [second.setup, first.setup, third.setup]
    said = for_other_soil(fragile, "metric")
    assert "in the worst soil expected 0 m instead of 80 m" in said
    sound = led((80.0, 80.0), (80.0, 80.0))
    assert [o.setup for o in sound.ranked] == [first.setup, second.setup, third.setup]
    assert for_other_soil(sound, "metric") == ""
    assert robust(replace(plan, ranked=()), {}).ranked == ()


def test_a_measured_soil_is_taken_to_vary_less(planned):
    lines, plans = planned
    measured = plan_lines(lines, SOIL, SAMPLE_KIT, measured=True)
    for typical, known in zip(plans, measured, strict=True):
        spread = [max(o.in_soils_m) - min(o.in_soils_m) for o in (typical.ranked[0], known.ranked[0])]
        assert spread[1] <= spread[0] + 1e-9 or typical.ranked[0].setup != known.ranked[0].setup
