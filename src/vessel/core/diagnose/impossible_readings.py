"""Transmitter readings that cannot be: named at once, kept if the technician insists, never used."""

from __future__ import annotations

from vessel.core.base.errors import BadInput, Doubtful
from vessel.core.model.kit import Kit
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.text.figures import show_hz

_TOLERANCE = 1.1  # what a display may be off
_LAST_DIGIT_A = 0.5e-3


def doubt(reading: TransmitterReading, setup: Setup, kit: Kit) -> Doubtful | None:
    """Return why a reading cannot be what the kit shows under a setup.

    Args:
        reading: One reading of the transmitter.
        setup: Method, place, frequency and output.
        kit: Transmitter and receiver in use.

    Returns:
        The question to ask; None if nothing speaks against the reading.
    """
    try:
        kit.frequency(reading.freq_hz)
    except BadInput as e:
        return Doubtful(e.message, field="freq", fix=e.fix)
    if reading.volts > _TOLERANCE * kit.volts_max:
        return Doubtful(
            f"{reading.volts:g} V is above the {kit.volts_max:g} V this transmitter can give.",
            field="volts",
            fix="Read the display again, or correct the kit.",
        )
    if reading.amps > _TOLERANCE * setup.output_a + _LAST_DIGIT_A:
        return Doubtful(
            f"{reading.amps * 1e3:g} mA at {show_hz(reading.freq_hz)} is more than the {setup.output_a * 1e3:g} mA "
            "asked for: a transmitter gives no more than it is asked.",
            field="milliamps",
            fix="Read the display again, or start a hookup with the output it really stands on.",
        )
    return None
