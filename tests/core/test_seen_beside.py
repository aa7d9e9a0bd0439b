"""What is seen beside a line, on the first sweep, across it, at one gain and against the drawing, tells of others."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.traced_cable import CABLE, SETUP, SOIL, chance_of, found, hooked_cable, stations
from vessel.core.hookup.circle_look import circle_look
from vessel.core.hookup.expected_sweep import sweep_circle
from vessel.core.hookup.rivals_of_hookup import weighed
from vessel.core.judge.rivals.at_stations import at_stations
from vessel.core.judge.rivals.explained_across import ReadAcross
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.first_sweep import Candidate
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import NeighbourReading
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.vicinity import vicinity
from vessel.core.plan.plan_site import plan_lines
from vessel.core.signal.layout.beside_line import lines_beside


@pytest.fixture(scope="module")
def hooked():
    return hooked_cable()


def test_what_the_first_sweep_met_beside_the_line_speaks_for_a_twin_and_a_quiet_circle_against_it(hooked):
    circle = sweep_circle(CABLE, SOIL, SAMPLE_KIT, SETUP)
    own = Candidate(0.0, 0.05, 0.9)

    def twins(*met):
        look = circle_look(CABLE, circle, met, 0) if met else None
        w = weighed(CABLE, SOIL, SAMPLE_KIT, SETUP, *hooked, (), tolerance_m=0.45, swept=look)
        return chance_of("twin_both", w)

    beside, opposite = Candidate(12.0, 0.03), Candidate(180.0, 0.03)
    assert circle_look(CABLE, circle, (own, opposite), 0) == circle_look(CABLE, circle, (own,), 0)
    assert circle_look(CABLE, circle, (own, beside), 0).distance_m == pytest.approx(circle.radius_m)
    assert twins(own) < 0.9 * twins() < 0.8 * twins(own, beside)
    # one that was met and not read tells nothing, nor does a centre line that leaves the circle elsewhere
    assert circle_look(CABLE, circle, (own, Candidate(12.0)), 0) is None
    assert circle_look(CABLE, circle, (opposite,), 0) is None


def test_a_signal_at_one_gain_beside_the_line_speaks_as_a_current_read_there_does(hooked):
    read = [replace(r, neighbour_a=None, signal=100.0) for r in stations(hooked[0])[:1]]

    def twins(current_a, signal):
        beside = NeighbourReading(1.2, current_a, signal)
        return chance_of("twin_both", found(hooked, [replace(read[0], neighbours=(beside,))]))

    amps = read[0].current_a
    assert twins(None, 50.0) == pytest.approx(twins(0.5 * amps, None))
    assert twins(None, 50.0) > 1.05 * twins(None, 3.0)


ACROSS = np.linspace(-1.6, 1.6, 9)


def across(r, *lines, stood_m=0.0):
    """The station with readings across it, of lines that carry a current at an offset and a depth."""
    low = SAMPLE_KIT.receiver.low_m
    x = ACROSS + stood_m
    signal = sum(i * (d + low) / ((x - at) ** 2 + (d + low) ** 2) for i, at, d in lines)
    return replace(r, profile=tuple(zip(ACROSS.tolist(), np.abs(signal).tolist(), strict=True)))


def test_readings_across_tell_a_line_alone_from_two_wherever_somebody_stood_near_the_peak(hooked):
    read = stations(hooked[0])[4]
    rivals = found(hooked, [read]).rivals
    alone = next(k for k, e in enumerate(rivals.explanations) if e.kind is None)
    twin = next(k for k, e in enumerate(rivals.explanations) if e.kind == "twin_far" and e.of_m == pytest.approx(1.3))
    there = at_stations(rivals, np.array([read.distance_m]), np.array([read.depth_m]))
    there = replace(there, true_depth_m=np.full_like(there.true_depth_m, read.depth_m))
    c, n = rivals.together, int(np.abs(rivals.at_m - read.distance_m).argmin())

    def seen(of, beside_m=0.0):
        lines = zip(c.amps[of, n], c.offset_m[of, n], np.full(c.amps.shape[2], read.depth_m), strict=True)
        used = UsedStations.of([across(read, *lines, stood_m=there.offset_m[of, 0] + beside_m)])
        return ReadAcross(rivals, used, there, SAMPLE_KIT.receiver)

    def for_it(of, other, beside_m=0.0):
        likely = seen(of, beside_m).likely()
        return likely[of] - likely[other]

    assert min(for_it(alone, twin), for_it(twin, alone)) > 1.0
    assert for_it(alone, twin, 0.05) == pytest.approx(for_it(alone, twin), rel=0.3)
    far_off, near = (seen(alone, beside_m).likely()[alone] for beside_m in (0.3, 0.05))
    assert far_off < near - 1.0
    # what makes the readings leaves nothing of them, what does not leaves more than may be let pass
    (by_twin,), _ = seen(twin).left(np.eye(len(c.amps))[twin])
    (by_alone,), _ = seen(twin).left(np.eye(len(c.amps))[alone])
    assert by_twin < 0.02 < 0.12 < by_alone


def test_marks_far_off_the_line_as_drawn_are_likelier_over_another(hooked):
    read = stations(hooked[0])

    def followed(off_m):
        placed = None if off_m is None else (off_m, 0.05)
        w = found(hooked, [r.corrected(placed=placed) for r in read])
        return sum(c for e, c in zip(w.rivals.explanations, w.chance, strict=True) if e.follows)

    assert followed(0.0) < followed(None) < followed(2.0)
    assert followed(-2.0) == pytest.approx(followed(2.0))  # it may lie on either side


def test_among_many_lines_close_together_those_that_carry_signal_are_looked_for():
    end = FarEnd("earthed", 20.0)
    routes = [((0.0, 0.15 * k), (60.0, 0.15 * k)) for k in range(30)]
    drawn = tuple(Drawn(f"L{k}", CABLE.construction, r, 0.8, 1.0, end, end) for k, r in enumerate(routes))
    line = Line(CABLE.construction, 60.0, 0.8, 1.0, far=end, course=Course(SitePlan(drawn), 10))
    near = vicinity(line.course.plan, 10)
    assert {b.index for b in lines_beside(line)} == near - {10} < set(range(30)) - {10}
    assert plan_lines((line,), SOIL, SAMPLE_KIT)[0].ranked
