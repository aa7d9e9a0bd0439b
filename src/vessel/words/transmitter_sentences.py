"""What the transmitter should show, in words, and the stake behind it."""

from __future__ import annotations

from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.transmitter_output import Output
from vessel.core.signal.physics.stake_resistance import stake_ohm
from vessel.core.text.figures import show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.safe_order_sentences import stake_side_text

_LIMIT = {
    "asked": "The transmitter reaches the current asked for.",
    "volts": "It stops at its volts ceiling, below the current asked for.",
    "watts": "It stops at its power ceiling, below the current asked for.",
}


def transmitter_text(out: Output) -> str:
    """Return what the transmitter shows: `16.1 V, 30 mA, 537 ohm`."""
    if out.volts is None or out.amps is None or out.ohms is None:
        return "nothing to read (induction)"
    return f"{out.volts:.1f} V, {show_ma(out.amps)}, {out.ohms:.0f} ohm"


def limit_text(out: Output) -> str:
    """Return what limits the output; empty for induction."""
    return "" if out.volts is None else _LIMIT[out.limited_by]


def stake_text(line: Line, setup: Setup, soil: Soil, units: Units) -> str:
    """Return the stake in the forecast: how far off, on which side, its resistance; empty without one."""
    if not setup.by.connects:
        return ""
    how = "measured" if setup.stake.measured_ohm is not None else "from the soil"
    side = f"{text}, " if (text := stake_side_text(line, setup)) else ""
    away, ohms = show_length(setup.stake.away_m, units), stake_ohm(setup.stake, soil)
    return f"{away} off, {side}about {ohms:.0f} ohm {how}"
