"""The return current in the soil: its table, what a receiver shows over a site, and readings with it undone."""

import numpy as np
import pytest

from tests.core.bench import geometry
from tests.core.soil_figures import CLAY, HIGH, LOW, RETURN_CASES, displayed, pollaczek, shown
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.soil_return import soil_per_m, soil_return
from vessel.core.signal.receiver.return_undone import undoing


@pytest.mark.parametrize("m_times_d", [0.01, 0.1, 0.3, 1.0])
@pytest.mark.parametrize(("offset", "height"), [(0.0, LOW), (0.0, 0.95), (0.7, LOW), (-2.0, HIGH)])
def test_the_table_has_pollaczeks_field(m_times_d, offset, height):
    depth = 1.7
    m = m_times_d / depth * np.exp(0.25j * np.pi)
    up = depth + height
    horizontal, vertical = soil_return(abs(m), depth, offset, height)
    whole = pollaczek(m, depth, offset, height)
    assert abs(up / (up**2 + offset**2) + horizontal - whole) < 0.005 * abs(whole)
    assert vertical == pytest.approx(-soil_return(abs(m), depth, -offset, height)[1])


@pytest.mark.parametrize(
    ("case", "error", "share"),
    [*zip(RETURN_CASES, (-0.065, -0.100, -0.133, -0.101, -0.32), (0.88, 0.82, 0.75, 0.82, 0.37), strict=True)],
)
def test_a_display_over_a_long_line_shows_what_pollaczek_has(case, error, share):
    solved, integral = shown(*case)
    # noise adds to a weak field what it takes off a depth
    assert solved == pytest.approx(integral, rel=0.01)
    assert solved[0] / case[2] - 1 == pytest.approx(error, abs=0.02)
    assert solved[1] == pytest.approx(share, abs=0.02)


def test_a_leg_past_a_bend_takes_its_part_of_the_return_with_it():
    def returned(*corners):
        nodes = np.array(corners, dtype=float)
        legs = Segments(nodes[:-1], nodes[1:], np.full(len(nodes) - 1, 1e-3))
        amps = np.ones(len(nodes) - 1, dtype=complex)
        there = geometry(legs, (60.0, 100.0, 119.0), depth_m=1.5)
        return np.abs(there.returning(CLAY, 35840.0).over(amps, amps))[:, 0]

    start, corner = (-200, 0, -1.5), (120, 0, -1.5)
    straight = returned(start, (0, 0, -1.5), corner, (440, 0, -1.5))
    bent = returned(start, corner, (120, 320, -1.5))
    assert straight == pytest.approx(np.full(3, straight[0]), rel=0.01)
    assert bent[0] == pytest.approx(straight[0], rel=0.02)
    assert bent[2] == pytest.approx(0.55 * straight[2], rel=0.1)


@pytest.mark.parametrize("depth", [0.5, 1.2, 2.5])
def test_a_reading_with_the_return_undone_has_the_true_depth_lift_and_current(depth):
    soil, freq = CLAY, 35840.0
    m = soil_per_m(soil, freq_hz=freq) * np.exp(0.25j * np.pi)
    shown, share = displayed(m, depth)
    lifted = [abs(pollaczek(m, depth, 0.0, z + 0.5)) for z in (LOW, HIGH)]
    up = (HIGH - LOW) / (lifted[0] / lifted[1] - 1) - LOW
    across = tuple((x, 50 * abs(pollaczek(m, depth, x, LOW))) for x in (-1.0, -0.5, 0.0, 0.5, 1.0))
    read = StationReading(20.0, (0.02 * share,) * 3, shown, 0.5, up, profile=across, neighbour_a=0.01 * share)
    free = undoing(Setup("direct", freq, 0.03), soil, SAMPLE_KIT.receiver)
    found = free.reading(read)
    assert (found.depth_m, found.depth_lifted_m) == (
        pytest.approx(depth, rel=3e-3),
        pytest.approx(depth + 0.5, rel=3e-3),
    )
    assert found.current_a == pytest.approx(0.02, rel=5e-3)
    assert found.best_neighbour_a == pytest.approx(0.01, rel=5e-3)
    high = depth + LOW
    assert [s for _, s in found.profile] == pytest.approx([50 * high / (high**2 + x**2) for x, _ in across], rel=0.01)
    # the soil is a guess: so is the correction
    assert free.spread(np.array(shown)) == pytest.approx(0.35 * np.log(depth / shown), rel=0.02)
    assert undoing(Setup("direct", 560.0, 0.03), Soil(2000.0), SAMPLE_KIT.receiver).reading(
        read
    ).depth_m == pytest.approx(shown, rel=2e-3)
