"""Plant that hums: its mains harmonics drown low signal frequencies close by."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Hum:
    """Noise within about `reach_m` of plant [m]: at most `times` the quiet level, as 1/f above `upto_hz` [Hz]."""

    times: float
    reach_m: float
    upto_hz: float = 1200.0


HUMS: dict[str, Hum] = {
    "substation": Hum(60.0, 25.0),
    "turbine": Hum(40.0, 15.0),
    "rectifier": Hum(15.0, 8.0),
}
"""Typical plant by the kind of its access point; a noise check on site says how it really is."""


@dataclass(frozen=True)
class Humming:
    """Plant that hums, by name, at `at` on the site plan [m]."""

    name: str
    at: tuple[float, float]
    hum: Hum
