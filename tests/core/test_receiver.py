"""The receiver as an instrument: what it shows beside, above and across a line."""

from dataclasses import replace

import numpy as np
import pytest

from tests.core.bench import geometry, segment_fields, straight
from vessel.core.hookup.air_shares import air_shares
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT, Receiver
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.earth_return import MU0
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.magnetic_field import dipole_field
from vessel.core.signal.receiver.instrument import LIFT_M, peak_and_null

SOIL = Soil(60.0)
LEAD = Segments(
    np.array([[0.0, 8.0, 0.01], [0.0, 0.0, 0.01]]), np.array([[0.0, 0.0, 0.01], [0.0, 0.0, -1.0]]), np.full(2, 2e-3)
)


def read(stations=(0.0,), depth=1.0, kit=SAMPLE_KIT, drive=0.03, noise=0.0, amps=1.0, coil=None, lead_amps=0.0):
    """Readings at stations over a long straight line that carries an even current."""
    line = straight(depth_m=depth)
    g = geometry(line, stations, depth_m=depth, kit=kit)
    flow = np.full(len(line.start_m), amps, complex)
    own = (g.lead(LEAD), lead_amps) if coil is None else (g.coil(*coil), 1.0)
    return g.unit_field(flow, flow, own).read(drive, noise_t=noise)


@pytest.mark.parametrize("depth", [0.3, 1.0, 2.5])
def test_an_even_current_gives_its_depth_current_and_lift_back(depth):
    t = read(depth=depth)
    assert t.depth_m[0] == pytest.approx(depth, rel=5e-3)
    assert t.current_a[0] == pytest.approx(0.03, rel=5e-3)
    assert t.depth_lifted_m[0] - t.depth_m[0] == pytest.approx(LIFT_M, rel=5e-3)
    assert t.peak_null_m[0] < 5e-3


def test_readings_scale_with_the_drive_and_depth_does_not():
    one, two = (read(drive=drive) for drive in (0.03, 0.06))
    assert two.current_a[0] == pytest.approx(2 * one.current_a[0])
    assert two.depth_m[0] == pytest.approx(one.depth_m[0])


@pytest.mark.parametrize("coils", [(0.0, 0.3), (0.05, 0.45), (0.1, 1.0)])
def test_any_pair_of_coils_finds_the_same_line(coils):
    kit = replace(SAMPLE_KIT, receiver=Receiver(*coils))
    t = read(kit=kit)
    assert t.depth_m[0] == pytest.approx(1.0, rel=5e-3)


def test_past_the_end_of_the_line_the_instrument_shows_a_wrong_depth():
    """Half a line gives half the field: the two coils still agree on a ratio, and it is not the depth."""
    at_end, inside = read(stations=(800.0, 0.0)).current_a
    assert at_end == pytest.approx(0.5 * inside, rel=0.1)


def test_noise_makes_a_weak_line_look_deep():
    clean, noisy = (read(drive=0.002, noise=n).depth_m[0] for n in (0.0, 100e-12))
    assert noisy > 1.05 * clean


def test_the_leads_vertical_field_pulls_the_null_but_not_the_peak():
    with_lead, without = (read(stations=(2.0, 30.0), lead_amps=a).peak_null_m for a in (1.0, 0.0))
    assert with_lead[0] > without[0] + 0.05
    assert with_lead[1] == pytest.approx(without[1], abs=0.01)


def test_air_coupling_fails_the_lift_test():
    """Over a coil close by, lifting hardly changes the field: the depth grows by anything but the lift."""
    coil = np.array([0.0, 0.0, 0.25]), np.array([0.0, 10.0, 0.0])
    t = read(stations=(3.0, 40.0), amps=0.01, coil=coil, drive=1.0, noise=1e-15)
    gained = t.depth_lifted_m - t.depth_m
    assert not abs(gained[0] - LIFT_M) < 0.15
    assert gained[1] == pytest.approx(LIFT_M, abs=0.05)
    assert t.air_share[0] > 1 > 0.05 > t.air_share[1]


def test_a_segments_field_points_round_the_current_by_the_right_hand():
    b = segment_fields(np.array([[0.0, 0.0, 0.5]]), np.array([[-900.0, 0, -0.5]]), np.array([[900.0, 0, -0.5]]))[0, 0]
    assert b[1] == pytest.approx(-MU0 / (2 * np.pi), rel=1e-3)  # above a current along +x the field points to -y
    assert abs(b[0]) + abs(b[2]) < 1e-12


def test_segments_add_up_to_the_whole():
    point = np.array([[3.0, 0.7, 0.2]])
    nodes = np.array([[-5.0, 0, -1.0], [1.0, 0, -1.0], [9.0, 0, -1.0]])
    pieces = segment_fields(point, nodes[:-1], nodes[1:]).sum(1)
    whole = segment_fields(point, nodes[:1], nodes[2:])[:, 0]
    assert pieces == pytest.approx(whole, rel=1e-12)


def test_a_dipole_is_twice_as_strong_on_its_axis_and_falls_with_the_cube():
    at, moment = np.zeros(3), np.array([1.0, 0, 0])
    on, beside, twice = (
        np.linalg.norm(dipole_field(np.array([p]), at_m=at, moment_a_m2=moment))
        for p in ([2.0, 0, 0], [0, 2.0, 0], [4.0, 0, 0])
    )
    assert on == pytest.approx(2 * beside)
    assert on == pytest.approx(8 * twice)
    assert on == pytest.approx(MU0 / (2 * np.pi * 8))


def test_the_forecast_band_narrows_when_the_far_end_is_told():
    line = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0)
    setup = Setup("direct", 35840.0, 0.03)
    one = (TransmitterReading(7.6, 0.03, 35840.0),)
    both = (*one, TransmitterReading(40.0, 0.0043, 560.0))
    widths = []
    for readings in ((), one, both):
        low, high = hookup_state(line, Soil(120.0), SAMPLE_KIT, setup, readings).band.at(100.0)
        widths.append(high - low)
    assert widths[0] > 0.01
    assert widths[1] > 0.01
    assert widths[2] < 0.1 * widths[1]


def test_beyond_the_line_no_current_is_expected():
    line = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0)
    band = hookup_state(line, SOIL, SAMPLE_KIT, Setup("direct", 35840.0, 0.03), ()).band
    assert band.at(150.0) == (0.0, 0.0)


def test_air_share_is_asked_only_of_induction():
    line = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0)
    assert air_shares(line, SOIL, SAMPLE_KIT, Setup("direct", 35840.0, 0.03), [12.0]) == [None]
    coil = Setup("induction", 35840.0, 0.12, position_m=10.0)
    near, far = air_shares(line, SOIL, SAMPLE_KIT, coil, [12.0, 90.0])
    assert near > far > 0


def test_the_current_of_a_station_is_the_median_of_its_repeats():
    assert StationReading(1.0, (0.03, 0.01, 0.02)).current_a == 0.02
    assert StationReading(1.0).current_a is None


def test_peak_and_null_stay_where_the_receiver_was_carried():
    offsets = np.linspace(-1.5, 1.5, 7)
    # still rising at the last place: the peak is not in what was scanned, and no parabola may put it elsewhere
    rising, falling = np.exp(offsets) + 0j, (2.0 - offsets) + 0j
    peak, null = peak_and_null(offsets[None], rising[None], falling[None])
    assert 1.0 <= peak[0] <= 1.5
    assert 1.0 <= null[0] <= 1.5
    # inside, the parabola through the squares finds it between the places
    field = 1 / np.hypot(offsets - 0.13, 0.9) + 0j
    peak, _ = peak_and_null(offsets[None], field[None], (offsets - 0.13)[None] + 0j)
    assert peak[0] == pytest.approx(0.13, abs=0.03)
