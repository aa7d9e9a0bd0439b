"""Valve wires of the independent network, walked to their end: an open end, a valve's coil, or an earth."""

from dataclasses import dataclass, replace

import numpy as np

from tests.trouble.grounds import along, wire_of
from tests.trouble.network import Ground, Net
from vessel.core.hookup.trace_end import trace_end
from vessel.core.model.construction import PRESETS
from vessel.core.model.line import USUAL_SOLENOID, Access, AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.readings import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil

WIRE = PRESETS["valve_wire"].construction
SOIL = Soil(100.0)


def wire(length=120.0, valve=60.0, coil=USUAL_SOLENOID):
    on_it = () if valve is None else (Access("Valve 4", valve, AccessPoint(), solenoid=coil),)
    return Line(WIRE, length, 0.3, 0.5, far=FarEnd("open"), accesses=on_it)


def walked(seed, *, freq, end_ohm=None, coil=None, more=0.0):
    """Return (soil, setup, stations, length) of a wire of the independent network, walked to its end and read with noise.

    `coil`: (ohm, henry) of a valve there, past which the wire goes on for `more`.
    """
    rng = np.random.default_rng([seed, 3])
    length, depth, rho = float(rng.uniform(30, 150)), float(rng.uniform(0.25, 0.7)), float(10 ** rng.uniform(1.3, 2.8))
    path = along(length + more, depth)
    laid = wire_of("valve_wire", "target", path, freq, end=end_ohm, broken=(length,) if coil else ())
    if coil:
        laid = replace(laid, broken_ohm=coil[0], broken_henry=coil[1])
    net = Net(Ground([laid], rho, []), freq)
    amps, _ = net.direct("target", 0.0)
    x = np.cumsum(rng.uniform(4, 8, 60))
    x = x[x < length - 1.5]
    read = np.array([abs(net.current_on(amps, "target", s)) for s in x]) * 0.05
    shown = read[:, None] * np.exp(rng.normal(0, 0.03, (len(x), 3)))
    at = np.maximum(x + rng.normal(0, 0.1, len(x)), 0.1)
    stations = [StationReading(float(d), tuple(i)) for d, i in zip(at, shown, strict=True) if i.min() > 5e-4]
    return Soil(rho * float(np.exp(rng.normal(0, 0.5)))), Setup("direct", freq, 0.05), stations, length


@dataclass(frozen=True)
class Ended:
    """How far off the end was put [m], infinite where none was named; whether it lies within its range, if one was."""

    off_m: float
    inside: bool | None


def ended(seed, kind, freq):
    """Walk one wire and say where it ends: `kind` is valve, open or earthed."""
    rng = np.random.default_rng([seed, 9])
    if kind == "valve":
        coil = float(rng.uniform(20, 60)), float(np.exp(rng.uniform(np.log(0.02), np.log(0.1))))
        soil, setup, stations, length = walked(seed, freq=freq, coil=coil, more=float(rng.uniform(5, 60)))
        line = wire(length + 80.0, length + float(rng.normal(0, 3)))
    else:
        soil, setup, stations, length = walked(seed, freq=freq, end_ohm=30.0 if kind == "earthed" else None)
        line = wire(length + 40.0, None)
    found = trace_end(line, soil, setup, stations)
    if found is None:
        return Ended(float("inf"), None)
    return Ended(abs(found.at_m - length), bool(found.low_m <= length <= found.high_m))
