"""Transmitter readings that cannot be: named at once, kept if the technician insists, never used."""

from __future__ import annotations

from vessel.core.base.errors import BadInput, Doubtful
from vessel.core.model.kit import Kit
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup

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
        return Doubtful(e.what, field="freq", **e.facts)
    if reading.volts > _TOLERANCE * kit.volts_max:
        return Doubtful("volts_above_ceiling", field="volts", volts=reading.volts, most=kit.volts_max)
    if reading.amps > _TOLERANCE * setup.output_a + _LAST_DIGIT_A:
        return Doubtful(
            "more_than_asked", field="milliamps", amps=reading.amps, freq_hz=reading.freq_hz, asked_a=setup.output_a
        )
    return None
