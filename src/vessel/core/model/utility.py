"""What a line carries, with marking colour, pattern and letter.

Defaults follow the public-works colour convention common in North America; the local rule decides.
"""

from __future__ import annotations

from dataclasses import dataclass

from vessel.core.base.errors import BadInput


@dataclass(frozen=True)
class Utility:
    """Label, marking colour (name and sRGB hex), letter and pattern for one kind of line.

    `carries_mains`: live at one place, such a line is live all along.
    """

    label: str
    colour: str
    hex: str
    letter: str
    pattern: str
    carries_mains: bool = False


UTILITIES: dict[str, Utility] = {
    "gas": Utility("Gas", "Yellow", "#f2c200", "G", "dash"),
    "oil": Utility("Oil or steam", "Yellow", "#f2c200", "O", "dash-dot"),
    "power": Utility("Electric power", "Red", "#d11f2a", "E", "solid", carries_mains=True),
    "telecom": Utility("Telecom", "Orange", "#f07c12", "T", "dot"),
    "water": Utility("Drinking water", "Blue", "#1d5fd0", "W", "long-dash"),
    "reclaimed": Utility("Reclaimed water", "Purple", "#7b3fa8", "R", "long-dash-dot"),
    "sewer": Utility("Sewer or drain", "Green", "#1a8a3f", "S", "double-dash"),
    "unknown": Utility("Unknown", "Pink", "#e75aa7", "?", "sparse-dot"),
}


def utility(name: str) -> Utility:
    """Return a kind of line.

    Args:
        name: Its id.

    Returns:
        The kind with its colour, letter and pattern.

    Raises:
        BadInput: If there is no such kind.
    """
    if name not in UTILITIES:
        raise BadInput("no_such_utility", field="utility", name=name)
    return UTILITIES[name]
