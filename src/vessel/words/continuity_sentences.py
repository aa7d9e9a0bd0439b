"""The proof at low frequency in words."""

from __future__ import annotations

from vessel.core.hookup.continuity import Continuity
from vessel.core.signal.circuit.transmitter_output import Output
from vessel.core.text.figures import show_hz, show_ma


def _shows(out: Output) -> str:
    return f"{out.volts or 0.0:.1f} V, {show_ma(out.amps or 0.0)}"


def continuity_text(c: Continuity) -> str:
    """Return what the reading at low frequency proves, or what to read and to expect."""
    at = show_hz(c.freq_hz)
    read = "" if c.read is None else f"At {at} the transmitter drives {show_ma(c.read.amps)} at {c.read.volts:g} V"
    return {
        "not_read": (
            f"First read at {at}. Whole, with the far end earthed, it should show about {_shows(c.earthed)}; with an "
            f"open end or a break about {_shows(c.opened)}."
        ),
        "outdated": f"Something was changed since the reading at {at}. Read there again: only that proves it.",
        "proved": f"{read}, which fits metal all the way to an earth. A bond on the way would read the same.",
        "not_proved": (
            f"{read}: the far end is not earthed, or the metal is broken before it. Earth the far end and read "
            "again. Until then nothing proves that the line is whole. Go on only at a frequency that leaks to the soil."
        ),
        "between": (
            f"{read}, neither as a whole earthed line ({_shows(c.earthed)}) nor as an open one ({_shows(c.opened)}): "
            "check stake and clip first, then read again."
        ),
        "says_nothing": (f"At {at} this line reads the same whole or broken. The trace must prove it."),
    }[c.state]
