"""What is said of attached instruments."""

from __future__ import annotations

from vessel.core.text.figures import counted, show_hz, show_length, show_ma
from vessel.core.text.units import Units

LOW_BATTERY = 0.15
"""A battery below this share is said to be low."""

STATE_TEXT = {
    "connecting": "Connecting.",
    "connected": "Connected.",
    "lost": "Connection lost. Type on: nothing is lost, and it comes back by itself.",
}


def receiver_text(ma: float | None, depth_m: float | None, freq_hz: float, units: Units) -> str:
    """Return what a receiver shows."""
    shown = [show_ma(ma / 1e3)] if ma is not None else ["no current"]
    shown.append(show_length(depth_m, units, fine=True) + " deep" if depth_m is not None else "no depth")
    return f"{', '.join(shown)} at {show_hz(freq_hz)}"


def sonde_text(level: float | None, depth_m: float | None, freq_hz: float, units: Units) -> str:
    """Return what a receiver in sonde mode shows."""
    signal = "no signal" if level is None else "overdriven" if level > 1 else f"signal {100 * level:.3g}"
    depth = "no depth" if depth_m is None else f"{show_length(depth_m, units, fine=True)} deep"
    return f"{signal}, {depth}, sonde at {show_hz(freq_hz)}"


def frame_text(direction: str, level_db: float | None) -> str:
    """Return what a frame shows."""
    level = "no level" if level_db is None else f"{level_db:g} dB"
    return f"points {_POINTS[direction]}, {level}"


_POINTS = {"forward": "to its front", "back": "to its rear", "": "neither way"}


def transmitter_text(*, on: bool, volts: float | None, ma: float | None, freq_hz: float) -> str:
    """Return what a transmitter shows."""
    if not on:
        return "off"
    if volts is None or ma is None:
        return f"on at {show_hz(freq_hz)}"
    return f"{volts:.3g} V, {show_ma(ma / 1e3)} at {show_hz(freq_hz)}"


def stream_warning(*, clock_off_s: float | None, jumped_m: float, broken: int, low: bool, units: Units) -> str:
    """Return what is wrong with a stream, empty for nothing; `clock_off_s` None: its clock is right."""
    said = []
    if low:
        said.append("Battery low.")
    if clock_off_s is not None:
        said.append(f"Its clock is off by {counted(round(abs(clock_off_s) / 60), 'minute')}. Vessel uses its own.")
    if jumped_m:
        said.append(f"The position jumped {show_length(jumped_m, units)}. Check it before you log.")
    if broken:
        said.append(f"{counted(broken, 'line')} could not be read.")
    return " ".join(said)


def other_frequency_text(receiver_hz: float, transmitter_hz: float) -> str:
    """Return that the two are not set alike; empty where they are."""
    if receiver_hz == transmitter_hz:
        return ""
    return f"The receiver is on {show_hz(receiver_hz)}, the transmitter on {show_hz(transmitter_hz)}."
