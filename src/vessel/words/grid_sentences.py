"""The grid of the passive sweep in words: its ways, its strips, and what is missing for them."""

from __future__ import annotations

from vessel.core.prestart.grid_walk import Strip, WayId
from vessel.core.text.figures import show_length
from vessel.core.text.route_text import show_route
from vessel.core.text.units import Units

WAY_LABEL: dict[WayId, str] = {"A": "Along the dig area", "B": "Across the dig area"}
WAY_WHOLE: dict[WayId, str] = {"A": "Grid walked one way", "B": "Walked again, receiver turned 90°"}
"""Their labels where there are no strips."""
WAY_HOW: dict[WayId, str] = {
    "A": "Hold the receiver the way you walk.",
    "B": "Walk across the first strips: the receiver is now turned 90°.",
}
GRID_LACKS = {
    "": "",
    "area": "Draw the dig area on the site plan: Vessel then lays out the strips to walk.",
    "spacing": "Set the distance between walks: Vessel then lays out the strips to walk.",
    "closer": "The dig area is too large for walks this close. Enter a greater distance between them.",
}


def strip_text(strip: Strip, units: Units) -> str:
    """Return where a strip runs: `from 20 E, 14 S to 100 E, 14 S, 80 m`."""
    start, end = (show_route([at], units=units) for at in strip.leg)
    return f"from {start} to {end}, {show_length(strip.length_m, units)}"


def count_text(done: int, of: int) -> str:
    """Return how many strips of a way are walked; empty without strips."""
    return f"{done} of {of}" if of else ""


def walked_text(technician: str, when: str) -> str:
    """Return who walked a strip, and when."""
    return f"walked by {technician}, {when[:10]} {when[11:16]}" if technician else f"walked {when[:10]}"
