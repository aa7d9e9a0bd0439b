"""Where the stations of a hookup say that an insulated wire ends."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from vessel.core.judge.trace.taper import TaperedEnd, tapered_end
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.line_parameters import line_params

_KNOWN_TO = 2.0
_BALANCE = 1.15


def trace_end(
    line: Line,
    soil: Soil,
    setup: Setup,
    stations: Sequence[StationReading],
    readings: Sequence[TransmitterReading] = (),
) -> TaperedEnd | None:
    """Return where the current past the hookup tapers to nothing, as on a wire with an open end.

    Only an insulated wire without an earth beyond the hookup has such an end, and only what is connected or clamped
    drives it from one place. A valve's coil of inductance L takes some current of the opposite sense, so that nothing
    is left `1 / (w^2 L C)` before the valve already, C being the wire's capacitance per metre; an inductance is known
    to a factor of two.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        setup: Method, place, frequency and output.
        stations: Stations of the trace, in any order.
        readings: Transmitter readings of the hookup: what it puts on has to be what the curve has at the hookup, or
            another conductor carries some of it.

    Returns:
        The place of the end, or of the valve; None where the line has no such end or the stations do not show it.
    """
    metal, here = line.construction, setup.position_m
    earthed = any(a.point.earth_ohm is not None and a.at_m > here for a in line.accesses)
    if metal.bare or metal.coating_s_m2 > 0 or setup.by.through_air or earthed:
        return None
    read = [(s.distance_m, s.current_a, s.current_off) for s in stations if s.distance_m > here and not s.lost]
    used = sorted((d, amps, off) for d, amps, off in read if amps)
    if not used:
        return None
    params, w = line_params(metal, soil, freq_hz=setup.freq_hz, depth_m=line.mid_depth_m), 2 * np.pi * setup.freq_hz
    found = tapered_end(*(tuple(each) for each in zip(*used, strict=True)), gamma=params.gamma)
    if found is None or not _balanced(found, params.gamma, setup, readings):
        return None
    if not line.solenoids:
        return found
    coils = [(abs(v.at_m - found.at_m), v.solenoid.henry) for v in line.solenoids if v.solenoid is not None]
    henry = min(coils)[1]
    before_m = 1 / (w * henry * float(params.y.imag))
    low_m, high_m = found.low_m + before_m / _KNOWN_TO, found.high_m + before_m * _KNOWN_TO
    return replace(found, at_m=found.at_m + before_m, low_m=low_m, high_m=high_m)


def _balanced(found: TaperedEnd, gamma: complex, setup: Setup, readings: Sequence[TransmitterReading]) -> bool:
    """Whether the curve has at the hookup what the transmitter puts on; unknown counts as yes."""
    shown = [r.amps for r in readings if r.freq_hz == setup.freq_hz]
    if not (shown and setup.by.connects):
        return True
    return 1 / _BALANCE < found.current_at(setup.position_m, gamma) / max(shown[-1], 1e-9) < _BALANCE
