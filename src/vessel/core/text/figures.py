"""How quantities are written: figure, unit, and no more digits than are known."""

from __future__ import annotations

from vessel.core.text.units import FOOT_M, INCH_M, Units


def show_length(value_m: float, units: Units, *, fine: bool = False) -> str:
    """Return a length [m] in the user's system: `0.58 m` or `1'11"` where `fine`; else `63 m`, `63.5 ft`."""
    if units == "metric":
        return f"{value_m:.2f} m" if fine else f"{round(value_m, 1):g} m"
    if not fine:
        return f"{round(value_m / FOOT_M, 1):g} ft"
    feet, inches = divmod(round(value_m / INCH_M, 1), 12)
    return f"{feet:.0f}'{inches:g}\""


def show_station(distance_m: float, units: Units) -> str:
    """Return a distance along a line [m] to the centimetre where it was given so: two stations must not look alike."""
    if units == "metric":
        return f"{round(distance_m, 2):g} m"
    return f"{round(distance_m / FOOT_M, 2):g} ft"


def show_hz(freq_hz: float) -> str:
    """Return a frequency as the trade writes it: 560 Hz, 8.96 kHz."""
    return f"{freq_hz:g} Hz" if freq_hz < 1000 else f"{freq_hz / 1000:g} kHz"


def show_ma(amps: float) -> str:
    """Return a current as `28.6 mA`, `4.12 mA`, `0.35 mA`, or `under 0.01 mA`."""
    ma = amps * 1e3
    if ma < 0.01:
        return "under 0.01 mA"
    return f"{ma:.3g} mA" if ma >= 1 else f"{ma:.2g} mA"


def percent(share: float) -> str:
    """Return a share as `14 %`, at most 999 %, never broken over two lines."""
    return f"{100 * min(share, 9.99):.0f}\u00a0%"


def counted(count: int, one: str, several: str = "") -> str:
    """Return a number of things, singular and plural right: `1 line`, `2 lines`."""
    return f"{count} {one if count == 1 else several or one + 's'}"
