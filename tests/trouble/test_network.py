"""The network of this folder and core's circuit, made apart, carry alike: with the stake in the ground of both."""

import numpy as np

from tests.trouble.grounds import TARGET, Maker
from tests.trouble.network import Net
from tests.trouble.technician import KIT, rod_of
from vessel.core.judge.rivals.rival_sites import entered_conductors
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite


def test_bare_metal_side_by_side_carries_alike_in_both():
    m = Maker(5, "known_beside")
    m.plant, m.preset, m.rho, m.freq, m.depth, m.length = "pipe", "bare_copper_service", 110.0, 8960.0, 1.2, 90.0
    m.far_ohm, m.told_far = 20.0, "earthed"
    m.lay("known", 1.7, depth=1.0, ohms=(20.0, 20.0), told=(1.7, 1.0, None))
    truth, x = m.truth(), np.array([10.0, 25.0, 45.0, 60.0])
    circuit = LineCircuit(truth.line, Soil(truth.ground.rho), freq_hz=m.freq)
    (found,) = excite(circuit, truth.setup, KIT, far_ohms=[20.0])
    ours = entered_conductors(truth.line, circuit, found.response, x).amps

    def apart(rod):
        net = Net(truth.ground, m.freq, rod=rod)
        amps = net.direct(TARGET, 0.0)[0]
        theirs = np.array([net.phasor_on(amps, TARGET, x), net.phasor_on(amps, "known", x + 20.0)])
        return np.abs(ours - theirs).max()  # per ampere driven

    assert apart(rod_of(truth)) < 0.045
    assert apart(None) > 0.07  # what leaks near the stake comes home to it
    assert np.abs(ours[1] / ours[0]).min() > 0.2
