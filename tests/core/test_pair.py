"""Both leads on one cable against two conductors solved on a site, and against what two wires do above them."""

from dataclasses import replace

import numpy as np
import pytest

from vessel.core.model.construction import COPPER_S_M, PRESETS, Construction
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import USUAL_SOLENOID, Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Bond, Hookup, Site, SiteLine
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.pair_hookup import pair_depth_shown, pair_reach, pair_signal
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.pair_line import PairLine, spacing_m
from vessel.core.signal.receiver.return_undone import undoing
from vessel.core.signal.solved_site import SolvedSite

SOIL, OPEN = Soil(60.0), FarEnd("open")
WIRE = Construction("solid", 0.9e-3, COPPER_S_M, insulation_m=2.6e-3, insulation_eps_r=2.3)
CABLE = Line(PRESETS["pair_cable"].construction, 100.0, 0.5, 0.7, paired=True)


@pytest.mark.parametrize("joined", [True, False])
@pytest.mark.parametrize("freq_hz", [560.0, 8960.0, 71680.0])
def test_a_pair_is_what_two_conductors_on_a_site_are(freq_hz, joined):
    lines = [
        SiteLine(n, WIRE, ((0, y, 0.8), (200.0, y, 0.8)), OPEN, OPEN) for n, y in (("A", 0), ("B", spacing_m(WIRE)))
    ]
    site = Site(SOIL, tuple(lines), (Bond("A", 200.0, "B", 200.0),) if joined else ())
    both = SolvedSite(site, Hookup("pair", freq_hz, 0.03, "A", other="B", clip_ohm=0.0), SAMPLE_KIT)
    pair = PairLine(Line(WIRE, 200.0, 0.7, 0.9), freq_hz=freq_hz, at_m=0.0, joined=joined)
    # the bond that joins the site's conductors has about an ohm of its own, whatever their length
    assert both.excitation.load_ohm == pytest.approx(pair.ohm, rel=0.06, abs=1.5)
    found = both.current_at("A", np.array([100.0]))[0] / both.output.drive
    assert abs(found) == pytest.approx(abs(pair.currents(np.array([100.0]))[0]), rel=0.01)


def test_from_the_middle_it_runs_to_where_the_ends_are_joined_and_through_a_coil_on_the_way():
    pair = PairLine(CABLE, freq_hz=560.0, at_m=40.0, joined=True)
    amps = np.abs(pair.currents(np.array([5.0, 35.0, 45.0, 95.0])))
    assert max(amps[:2]) < 1e-3
    assert min(amps[2:]) > 0.99
    valve = Access("Valve", 70.0, AccessPoint(), solenoid=USUAL_SOLENOID)
    through = PairLine(replace(CABLE, accesses=(valve,)), freq_hz=560.0, at_m=40.0, joined=True)
    more = USUAL_SOLENOID.ohm + 2j * np.pi * 560.0 * USUAL_SOLENOID.henry
    assert through.ohm - pair.ohm == pytest.approx(more, rel=0.02)


def test_two_opposite_currents_leave_a_small_field_that_shows_too_little_depth():
    a, r, amps = 3.2e-3, 0.6, 0.1
    # two straight wires one above the other, each by Biot and Savart
    exact = 2e-7 * amps / (r - a / 2) - 2e-7 * amps / (r + a / 2)
    assert pair_signal(amps, a, away_m=r) == pytest.approx(exact, rel=1e-4)
    low, high = (pair_signal(amps, a, away_m=0.5 + z) for z in (0.05, 0.45))
    assert pair_depth_shown(0.5, SAMPLE_KIT.receiver) == pytest.approx(0.4 / (low / high - 1) - 0.05)
    reach = pair_reach(CABLE, SAMPLE_KIT)
    assert 0.2 < reach.heard_m < 2.0
    assert reach.shown_m < 0.5 * reach.heard_m


@pytest.mark.parametrize("depth_m", [0.3, 0.6, 1.2])
def test_what_the_display_shows_over_it_is_read_back_to_depth_and_to_what_the_site_has(depth_m):
    setup, receiver = Setup("pair", 8960.0, 0.1), SAMPLE_KIT.receiver
    shown = pair_depth_shown(depth_m, receiver)
    lifted = pair_depth_shown(depth_m + 0.5, receiver)
    # the display takes the field for that of one long conductor at the depth it shows
    field = pair_signal(0.1, spacing_m(CABLE.construction), away_m=depth_m + receiver.low_m)
    amps = field * (shown + receiver.low_m) / 2e-7
    read = StationReading(10.0, (amps,) * 3, shown, depth_lifted_m=lifted, lift_height_m=0.5)
    free = undoing(setup, SOIL, receiver).reading(read)
    assert free.depth_m == pytest.approx(depth_m, abs=0.002)
    assert free.depth_lifted_m == pytest.approx(depth_m + 0.5, abs=0.002)
    line = replace(CABLE, depth_min_m=depth_m, depth_max_m=depth_m)
    circuit = LineCircuit(line, SOIL, freq_hz=8960.0)
    (e,) = excite(circuit, setup, SAMPLE_KIT, far_ohms=(1.0,))
    on_site = float(circuit.current_at(e.response, np.array([10.0]))[0]) * 0.1
    assert free.current_a == pytest.approx(on_site, rel=0.01)
