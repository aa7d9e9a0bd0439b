"""What a receiver shows over a long line's return current in the soil, against Pollaczek's integral."""

import numpy as np
from scipy.integrate import quad

from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Hookup, Site, SiteLine
from vessel.core.model.soil import Soil
from vessel.core.signal.physics.soil_return import soil_per_m
from vessel.core.signal.solved_site import SolvedSite

LOW, HIGH = 0.05, 0.45
CLAY, LOAM = Soil(20.0), Soil(60.0)
RETURN_CASES = (
    (CLAY, 8960.0, 2.0),
    (CLAY, 35840.0, 1.5),
    (CLAY, 35840.0, 2.3),
    (LOAM, 71680.0, 2.0),
    (Soil(5.0), 35840.0, 4.2),
)
"""Soil, frequency [Hz] and depth [m]; in the last one |m| d = 1."""


def pollaczek(m, depth, offset, height):
    """Horizontal field of a long line by its integral, in units of mu0 I / (2 pi)."""

    def under(t, part):
        u = np.sqrt(t * t + m * m)
        return part(2 * t / (u + t) * np.exp(-t * height - u * depth)) * np.cos(t * offset)

    top, bends = 45 / (depth + height), [abs(m) / 10, abs(m), 10 * abs(m)]
    return complex(*(quad(under, 0, top, args=(part,), limit=400, points=bends)[0] for part in (np.real, np.imag)))


def displayed(m, depth):
    """Depth and share of the current that a display shows over a long line, by the integral."""
    low, high = (abs(pollaczek(m, depth, 0.0, z)) for z in (LOW, HIGH))
    shown = (HIGH - LOW) / (low / high - 1) - LOW
    return shown, low * (shown + LOW)


def shown(soil, freq_hz, depth_m):
    """Depth and share of the current shown over a long line: solved, and by the integral, (2,) each."""
    line = SiteLine(
        "A",
        PRESETS["tracer_wire"].construction,
        ((0, 0, depth_m), (500, 0, depth_m)),
        FarEnd("open"),
        FarEnd("earthed", 5),
    )
    solved = SolvedSite(Site(soil, (line,)), Hookup("direct", freq_hz, 0.06, "A", stake_at=(-5.0, 40.0)), SAMPLE_KIT)
    (read,) = solved.read(np.array([[250.0, 0.0]]), np.array([[1.0, 0.0]]))
    amps = abs(solved.current_at("A", np.array([250.0]))[0])
    m = soil_per_m(soil, freq_hz=freq_hz) * np.exp(0.25j * np.pi)
    return np.array([read.depth_m, read.current_a / amps]), np.array(displayed(m, depth_m))


def return_errors(soil, freq_hz, depth_m):
    """How far depth and current shown are off the integral's."""
    solved, integral = shown(soil, freq_hz, depth_m)
    return np.abs(solved / integral - 1).tolist()
