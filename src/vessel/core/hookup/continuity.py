"""Proof at low frequency: whether the metal goes all the way to an earth, before the working frequency is trusted.

Low frequency hardly leaks and hardly couples, so next to nothing flows unless the line is whole and its end earthed.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import Output, output

ContinuityState = Literal["not_read", "outdated", "proved", "not_proved", "between", "says_nothing"]
_LOW_HZ = 1500.0
_TELLS = 2.0  # an earthed and an open end must differ this much in ohms to be told apart
_NEAR = 0.3  # of the way from one to the other, by the logarithm of the ohms


@dataclass(frozen=True)
class Continuity:
    """What the transmitter would show at `freq_hz` [Hz] with the far end earthed and open, and what was read there.

    `outdated`: something was changed at the hookup since. `between`: neither the one nor the other. `says_nothing`:
    this line would read alike, whole or not.
    """

    freq_hz: float
    earthed: Output
    opened: Output
    read: TransmitterReading | None
    state: ContinuityState


def continuity(
    line: Line, soil: Soil, kit: Kit, setup: Setup, readings: Sequence[TransmitterReading]
) -> Continuity | None:
    """Return the proof of continuity at the kit's lowest frequency.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        readings: Readings of the transmitter, in the order they were taken.

    Returns:
        The proof; None for any method but a direct connection, or if the kit has no low frequency.
    """
    low = min(f.freq_hz for f in kit.frequencies)
    if not setup.by.connects or low > _LOW_HZ:
        return None
    at = replace(setup, freq_hz=low)
    circuit = LineCircuit(line, soil, freq_hz=low)
    far = (line.far.earth_ohm, None)
    earthed, opened = (output(e.load_ohm, at, kit) for e in excite(circuit, at, kit, far_ohms=far))
    read = last_at(readings, low)
    state = _state(earthed, opened, read)
    if read is not None and state != "says_nothing" and set(read.changes) != set(readings[-1].changes):
        state = "outdated"
    return Continuity(low, earthed, opened, read, state)


def _state(earthed: Output, opened: Output, read: TransmitterReading | None) -> ContinuityState:
    if earthed.ohms is None or opened.ohms is None or opened.ohms < _TELLS * earthed.ohms:
        return "says_nothing"
    if read is None:
        return "not_read"
    share = float(np.log(read.ohms / earthed.ohms) / np.log(opened.ohms / earthed.ohms))
    return "proved" if share < _NEAR else "not_proved" if share > 1 - _NEAR else "between"
