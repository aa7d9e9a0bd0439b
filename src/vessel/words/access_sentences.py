"""An access point in words: what fits there, and what to mind."""

from __future__ import annotations

from vessel.core.model.hum import Hum
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units


def access_text(
    *, bare_metal: bool, core_only: bool, live: bool, in_service: bool, cased: bool, earth_ohm: float | None
) -> str:
    """Return what fits at an access point and what it is like, in one phrase."""
    connects, clamps = bare_metal and not live and not core_only, not cased
    fits = {
        (True, True): "fits: direct connection or clamp",
        (True, False): "fits: direct connection, no clamp",
        (False, True): "fits: clamp, no direct connection",
        (False, False): "fits: neither direct connection nor clamp",
    }[connects, clamps]
    parts = ["LIVE"] if live else ["in service"] if in_service else []
    parts += ["only the centre conductor in reach"] if bare_metal and core_only else []
    parts += ["metal casing round the line"] if cased else []
    parts += [] if earth_ohm is None else [f"earthed, {earth_ohm:g} ohm"]
    return ", ".join([fits, *parts])


def hum_text(hum: Hum, units: Units) -> str:
    """Return what plant does to the receiver near it."""
    return f"hums: low frequencies are noisy within {show_length(hum.reach_m, units)}"
