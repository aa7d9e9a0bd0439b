"""A cable with its transmitter read, and stations read exactly as forecast: what rivals and evidence are tried on."""

from functools import cache

import numpy as np

from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.rivals_of_hookup import weighed
from vessel.core.hookup.transmitter_forecast import loop_forecasts
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil

CABLE = Line(PRESETS["armoured_cable"].construction, 100.0, 0.6, 1.2, far=FarEnd("earthed", 20.0))
SOIL, SETUP = Soil(100.0), Setup("direct", 8960.0, 0.06)


@cache
def hooked_cable():
    """State and transmitter's reading of the hookup."""
    (loop,) = loop_forecasts(CABLE, SOIL, SAMPLE_KIT, SETUP)
    shown = (TransmitterReading(loop.output.volts, loop.output.amps, SETUP.freq_hz),)
    return hookup_state(CABLE, SOIL, SAMPLE_KIT, SETUP, shown), shown


def stations(state, *, of=1.0, from_m=0.0, depth=0.9):
    at = np.arange(8.0, 96.0, 8.0)
    amps = np.mean(state.band.along(at), axis=0) * np.where(at > from_m, of, 1.0)
    return [
        StationReading(float(x), (a, 1.01 * a, 0.99 * a), depth, 0.5, depth + 0.5, 0.02, 0.0)
        for x, a in zip(at, amps, strict=True)
    ]


def found(hooked, read, evidence=()):
    state, shown = hooked
    return weighed(CABLE, SOIL, SAMPLE_KIT, SETUP, state, shown, read, tolerance_m=0.45, evidence=evidence)


def chance_of(kind, w):
    """How likely it is that an explanation of a kind holds, whether marks are wrong under it or not."""
    return float(sum(c for e, c in zip(w.rivals.explanations, w.chance, strict=True) if e.kind == kind))
