"""How quantities are written: figure, unit, and no more digits than are known."""

from __future__ import annotations

from vessel.core.text.units import FOOT_M, INCH_M, Units


def show_length(value_m: float, units: Units, *, fine: bool = False) -> str:
    """Return a length in the user's units.

    Args:
        value_m: Length [m].
        units: The user's system of units.
        fine: Whether it is a depth or an offset: `0.58 m` or `1'11"`; otherwise `63 m`, `63.5 ft`.

    Returns:
        The text.
    """
    if units == "metric":
        return f"{value_m:.2f} m" if fine else f"{round(value_m, 1):g} m"
    if not fine:
        return f"{round(value_m / FOOT_M, 1):g} ft"
    feet, inches = divmod(round(value_m / INCH_M, 1), 12)
    return f"{feet:.0f}'{inches:g}\""


def show_station(distance_m: float, units: Units) -> str:
    """Return a distance along a line, to the centimetre if it was entered so.

    Two stations must not look alike.

    Args:
        distance_m: Distance [m].
        units: The user's system of units.

    Returns:
        The text.
    """
    if units == "metric":
        return f"{round(distance_m, 2):g} m"
    return f"{round(distance_m / FOOT_M, 2):g} ft"


def show_hz(freq_hz: float) -> str:
    """Return a frequency as the trade writes it.

    Args:
        freq_hz: Signal frequency [Hz].

    Returns:
        `560 Hz`, `8.96 kHz`.
    """
    return f"{freq_hz:g} Hz" if freq_hz < 1000 else f"{freq_hz / 1000:g} kHz"


def show_ma(amps: float) -> str:
    """Return a current in milliamps.

    Args:
        amps: Current [A].

    Returns:
        `28.6 mA`, `4.12 mA`, `0.35 mA`, or `under 0.01 mA`.
    """
    ma = amps * 1e3
    if ma < 0.01:
        return "under 0.01 mA"
    return f"{ma:.0f} mA" if ma >= 999.5 else f"{ma:.3g} mA" if ma >= 1 else f"{ma:.2g} mA"


def percent(share: float) -> str:
    """Return a share in per cent, never broken over two lines.

    Args:
        share: Share, 0.14 for 14 %.

    Returns:
        `14 %`, at most 999 %.
    """
    return f"{100 * min(share, 9.99):.0f}\u00a0%"


def show_ohms(ohms: float) -> str:
    """Return a resistance with no more digits than are known.

    Args:
        ohms: Resistance [ohm].

    Returns:
        `850 ohm`, `12 kohm`, `1.5 Mohm`.
    """
    for times, unit in ((1e6, "Mohm"), (1e3, "kohm")):
        if ohms >= times:
            return f"{ohms / times:.3g} {unit}"
    return f"{ohms:.3g} ohm"


def counted(count: int, one: str, several: str = "") -> str:
    """Return a number of things, singular and plural right.

    Args:
        count: How many.
        one: The word for one.
        several: The word for several; empty: with an s.

    Returns:
        `1 line`, `2 lines`.
    """
    return f"{count} {one if count == 1 else several or one + 's'}"
