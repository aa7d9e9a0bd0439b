"""What is done before anything is switched on: no answer opens the work, noise moves the plan, hits prove nothing."""

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely

from vessel.core.base.errors import BadInput, OutOfRange
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Area, Drawn
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.pre_start import Ambient, Check, Hit, PassiveSweep
from vessel.core.model.site_plan import SitePlan
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_site import plan_lines
from vessel.core.prestart.checks_and_noise import (
    ITEMS,
    against_plan,
    kit_here,
    noise_here,
    readiness,
    unexplained_m,
)
from vessel.core.prestart.grid_walk import grid_walk, strips_over
from vessel.core.signal.receiver.instrument import current_for, signal_at
from vessel.words.prestart_sentences import hit_text, noise_advice, passive_text, readiness_text

ALL = [Check(i.id, "yes") for i in ITEMS]
MAIN = SitePlan((Drawn("Main", PRESETS["coated_steel_pipe"].construction, ((0.0, 0.0), (50.0, 0.0)), 1.0, 1.2),))

DIG = Area("Dig area", ((0.0, 0.0), (40.0, 0.0), (40.0, 10.0), (0.0, 10.0)))


def said(passive, area=None):
    return passive_text(grid_walk(passive, area), against_plan(passive, MAIN))


def test_one_no_stops_the_work_whatever_else_is_answered():
    assert readiness([]).state == "open"
    assert readiness(ALL[:-1]).state == "open"
    done = readiness(ALL)
    assert (done.state, done.answered) == ("answered", done.asked)
    assert "not permission to dig" in readiness_text(done)[1]
    stopped = readiness([Check("traffic", "no"), *(c for c in ALL if c.id != "traffic")])
    assert stopped.state == "stop"
    assert "Do not start" in readiness_text(stopped)[1]
    assert readiness([Check("output", "no")]).state == "stop"


def test_what_is_not_needed_says_why():
    with pytest.raises(BadInput, match="no reason is given"):
        Check("traffic", "not_needed", " ")
    excused = [Check("traffic", "not_needed", "Fenced yard"), *(c for c in ALL if c.id != "traffic")]
    assert readiness(excused).state == "answered"


def test_noise_asks_for_more_current_and_a_frequency_that_was_not_read_keeps_its_own():
    found = {f.freq_hz: f for f in noise_here(SAMPLE_KIT, [Ambient(8960.0, 60.0, 6.0), Ambient(4480.0, 5.0, None)])}
    own = {f.freq_hz: f for f in noise_here(SAMPLE_KIT, [])}
    assert found[8960.0].least_a == pytest.approx(10 * own[8960.0].least_a)
    assert found[8960.0].noisiness == "noisy"
    assert found[4480.0].noise_t == own[4480.0].noise_t
    assert found[4480.0].noisiness == "unknown"
    assert "8.96 kHz" in noise_advice(list(found.values()))
    # twenty times the noise a metre down, as the judge's table has it
    told = signal_at(own[560.0].least_a, depth_m=1.0, low_m=SAMPLE_KIT.receiver.low_m)
    assert told == pytest.approx(20 * SAMPLE_KIT.frequency(560.0).noise_t)
    assert current_for(told, depth_m=1.0, low_m=0.05) == pytest.approx(own[560.0].least_a)


def test_the_plan_leaves_a_frequency_that_is_drowned_on_site():
    line = Line(PRESETS["coated_steel_pipe"].construction, 120.0, 0.9, 1.2)
    quiet = plan_lines([line], Soil(100.0), SAMPLE_KIT)[0].ranked[0].setup
    drowned = kit_here(SAMPLE_KIT, [Ambient(quiet.freq_hz, 300.0, 1.0)])
    best = plan_lines([line], Soil(100.0), drowned)[0].ranked[0].setup
    assert best.freq_hz != quiet.freq_hz
    assert kit_here(SAMPLE_KIT, [Ambient(999.0, 300.0, 1.0)]) == SAMPLE_KIT


@pytest.mark.parametrize(("here", "quiet"), [(0.0, 1.0), (1.0, 0.0), (5000.0, 1.0), (1.0, 50.0)])
def test_levels_that_cannot_be_are_refused(here, quiet):
    with pytest.raises((BadInput, OutOfRange)):
        Ambient(8960.0, here, quiet)


def test_a_hit_is_something_here_and_never_which_line():
    over, off, told = Hit("mains", (20.0, 0.4)), Hit("radio", (20.0, 9.0)), Hit("mains", None, "by the gate")
    hits = PassiveSweep(True, True, hits=(over, off, told))
    # what carries no mains by itself explains none: something else hums there
    stray = against_plan(hits, MAIN)
    assert [(m.near, m.beside) for m in stray] == [(None, "Main"), (None, None), (None, None)]
    assert "carries none by itself" in hit_text(stray[0], "metric")
    assert unexplained_m(stray, [(20.0, 0.0), (90.0, 0.0)], tolerance_m=0.3) == pytest.approx((0.1, 69.7), abs=0.1)
    met = against_plan(hits, MAIN, live=["Main"])
    assert [m.near for m in met] == ["Main", None, None]
    assert "0.4 m" in hit_text(met[0], "metric")
    assert "another line" in hit_text(met[0], "metric")
    assert "not drawn" in hit_text(met[1], "metric")
    with pytest.raises(BadInput, match="where"):
        Hit("mains", None)


def test_one_pass_is_not_enough_and_silence_proves_nothing():
    assert "one pass misses" in said(PassiveSweep(first=True))[1]
    whole = PassiveSweep(first=True, second=True, hits=(Hit("radio", (20.0, 9.0)),))
    assert "1 hit that no drawn line explains" in said(whole)[0]
    words = PassiveSweep(first=True, second=True, hits=(Hit("mains", None, "by the gate"),))
    assert "without a place" in said(words)[0]
    assert "proves nothing" in said(PassiveSweep(True, True))[1]


@pytest.mark.parametrize("turn", [0.0, 0.3, 1.2, 2.5])
def test_strips_lie_evenly_over_the_dig_area_both_ways_however_it_is_turned(turn):
    c, s = math.cos(turn), math.sin(turn)
    area = Area("Dig area", tuple((7 + c * x - s * y, s * x + c * y - 3) for x, y in DIG.corners))
    strips = strips_over(area, 2.5)
    assert [x.id for x in strips] == [*(f"A{k}" for k in range(1, 5)), *(f"B{k}" for k in range(1, 17))]
    assert {round(x.length_m, 6) for x in strips if x.way == "A"} == {40.0}
    assert {round(x.length_m, 6) for x in strips if x.way == "B"} == {10.0}
    # the furthest that anything in the area lies from a walk is half the distance between walks
    outline, inside = shapely.Polygon(area.corners), np.random.default_rng(5).uniform(-60, 60, (4000, 2))
    inside = shapely.points(inside[shapely.contains_xy(outline, *inside.T)])
    for way in "AB":
        off = shapely.distance(inside[:, None], shapely.linestrings([x.leg for x in strips if x.way == way])).min(1)
        assert 1.1 < off.max() <= 1.25 + 1e-9
    # the next walk begins where the last one ended
    ends = [math.dist(a.end, b.start) for a, b in pairwise(strips[:4])]
    assert ends == pytest.approx([2.5] * 3)


def test_a_strip_is_walked_from_end_to_end_and_what_was_walked_counts_after_the_grid_is_changed():
    strips = strips_over(DIG, 2.5)
    a1, a2 = strips[0].leg, strips[1].leg
    walk = grid_walk(PassiveSweep(spacing_m=2.5, walked=(a2, a1[::-1])), DIG)
    assert walk.by[:3] == (1, 0, None)
    assert walk.next.id == "A3"
    assert "18 strips of 20 left" in said(PassiveSweep(spacing_m=2.5, walked=(a1, a2)), DIG)[0]
    half = ((a1[0][0], a1[0][1]), (20.0, a1[1][1]))
    assert grid_walk(PassiveSweep(spacing_m=2.5, walked=(half,)), DIG).by[0] is None
    # twice as close: only the strips that lie where somebody walked are done
    closer = grid_walk(PassiveSweep(spacing_m=1.25, walked=(a1, a2)), DIG)
    assert sum(by is not None for by in closer.by) <= 4
    every = PassiveSweep(spacing_m=2.5, walked=tuple(s.leg for s in strips))
    assert grid_walk(every, DIG).next is None
    assert said(every, DIG)[0].startswith("Walked both ways")
    # without an area nothing is laid out, and a tick of the whole way is what counts
    assert grid_walk(PassiveSweep(first=True, spacing_m=2.5), None).done("A")
    with pytest.raises(BadInput) as refused:
        strips_over(DIG, 0.2)
    assert refused.value.field == "spacing"
    least = refused.value.facts["least_m"]
    assert strips_over(DIG, least)
