"""A station in words: where the line most likely is, how it was placed, what to expect along the trace."""

from __future__ import annotations

from vessel.core.judge.across.best_estimate import Estimate
from vessel.core.model.setup import Setup
from vessel.core.signal.layout.beside_line import Beside
from vessel.core.text.figures import show_length, show_ma
from vessel.core.text.units import Units

_BESIDE_M = 0.05  # nearer to the peak than this no paint is worth moving


def estimate_text(best: Estimate | None, units: Units) -> str:
    """Return where the line most likely is at a station; empty without a depth and a current."""
    if best is None:
        return ""
    depth, off = (show_length(v, units, fine=True) for v in (best.depth_m, best.depth_pm_m))
    how = "" if best.lifted else " A lift would narrow it."
    if best.offset_pm_m is None:
        return f"Most likely {depth} deep, ± {off}.{how}"
    beside = show_length(best.offset_pm_m, units, fine=True)
    side = "left" if best.offset_m > 0 else "right"
    place = f"{show_length(abs(best.offset_m), units, fine=True)} {side} of the peak"
    if not best.across:
        if abs(best.offset_m) < _BESIDE_M:
            return f"Most likely {depth} deep, ± {off}, within {beside} of the peak.{how}"
        return f"Most likely {depth} deep, ± {off}, {place}, ± {beside}: its neighbours pull the peak.{how}"
    return f"Most likely {depth} deep, ± {off}, {place}, ± {beside}: the readings across count in this.{how}"


def pair_depth_text(shown_m: float, depth_m: float, units: Units) -> str:
    """Return what a depth on the display means over two conductors that carry the current there and back."""
    shown, depth = (show_length(v, units, fine=True) for v in (shown_m, depth_m))
    return f"Over a pair {shown} on the display is about {depth}, if nothing else carries signal there."


def coil_text(setup: Setup, at_m: float, units: Units) -> str:
    """Return where the transmitter stood while a station was read; empty where it never moves."""
    if not setup.moving:
        return ""
    return f"transmitter at {show_length(setup.standing(at_m).position_m, units)}"


def carried_text(setup: Setup, units: Units) -> str:
    """Return where the transmitter goes while the line is walked; empty where it stands."""
    if setup.apart_m is None:
        return ""
    apart = show_length(setup.apart_m, units)
    return f"Transmitter {apart} behind you at every station; for the first {apart} it goes {apart} ahead."


def placed_text(how: str, *, astray: bool) -> str:
    """Return how a station was placed, and what to find out if that is far off the line as drawn."""
    if not astray:
        return f"{how}."
    return f"{how}. Is the drawing wrong there, or is this another line? Find that out before you mark."


def band_text(*, read: bool) -> str:
    """Return what the expected current comes from; `read`: the transmitter's readings narrow it."""
    if read:
        return "Expected current from what the transmitter reading leaves possible."
    return "Expected current from the forecast only: the transmitter reading does not narrow it."


def beside_text(n: Beside, most_a: float, at_m: float, units: Units) -> str:
    """Return where a neighbour runs and the most current to expect on it."""
    off = ("" if n.follows else "at its nearest ") + show_length(abs(n.offset_m), units)
    side = "left" if n.offset_m > 0 else "right"
    return f"{n.name}, {off} to the {side}: up to {show_ma(most_a)}, at {show_length(at_m, units)}"
