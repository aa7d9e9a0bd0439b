"""Labels and hints of what is entered; a field without an entry here goes by the trade's term."""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType

from vessel.core.model.entry_fields import EntryField
from vessel.core.text.units import Units

_LABELS: dict[str, str] = {
    "distance_m": "Distance along",
    "currents_a": "Current ×3, mA",
    "depth_m": "Depth on the ground",
    "peak_null_m": "Peak to null",
    "lift_height_m": "Lifted by",
    "depth_lifted_m": "Depth when lifted",
    "neighbour_a": "Best neighbour, mA",
    "direction": "Current runs",
    "lost": "Signal and guidance gone here",
    "signal": "Signal here, gain locked",
    "neighbours": "Neighbours: way aside, mA, signal at the same gain",
    "profile": "Readings across the line: offset and signal of each, at one gain",
    "arrow": "Frame points",
    "level": "Level",
    "across": "Turned across",
    "rod_m": "Rod out",
    "null_before_m": "Null before, at",
    "null_after_m": "Null after, at",
    "mode": "Receiver's mode",
    "ghost_before": "Ghost peak before",
    "ghost_after": "Ghost peak after",
    "signal_turned": "Signal, turned a quarter",
    "off_m": "Peak beside the line as drawn",
    "side": "To which side",
}
_HINTS: dict[str, tuple[str, str]] = {
    "distance_m": ("metres", "feet"),
    "currents_a": ("71 71.4 70.8", "71 71.4 70.8"),
    "depth_m": ("0.74 or 74", "3'4 or 40"),
    "peak_null_m": ("0.02 or 2cm", "1 (inches)"),
    "neighbour_a": ("0 if none found", "0 if none found"),
    "signal": ("at the gain used before", "at the gain used before"),
    "rod_m": ("on the counter", "on the counter"),
    "null_before_m": ("the smaller distance", "the smaller distance"),
    "null_after_m": ("the greater distance", "the greater distance"),
    "ghost_before": ("at the same gain", "at the same gain"),
    "ghost_after": ("at the same gain", "at the same gain"),
    "signal_turned": ("at the same gain", "at the same gain"),
    "neighbours": ("L1.2 9.5 62; R2.0 4.1", "L48 9.5 62; R80 4.1 (inches)"),
    "profile": (
        "L1.0 38; L0.5 62; 0 88; R0.5 60; R1.0 36: five or more, from one side to the other",
        "L40 38; L20 62; 0 88; R20 60; R40 36 (inches): five or more, from one side to the other",
    ),
}
_CHOICES: dict[str, str] = {
    "": "not read",
    "away": "away from the hookup",
    "towards": "back towards it",
    "sonde": "sonde mode",
    "on": "on, to the far end",
    "back": "back, to the near end",
    "null": "it nulls",
    "line": "line mode",
}


STOP_LABELS = {"distance_m": "Peak at", "depth_m": "Depth shown", "signal": "Signal at the peak"}
"""Labels of a sonde's stop that differ from those of a station."""


def label_of(field: EntryField, own: Mapping[str, str] = MappingProxyType({})) -> str:
    """Return the label of a field in forms and lists; `own`: labels of this form, by column."""
    return own.get(field.column) or _LABELS.get(field.column, field.name)


def hint_of(field: EntryField, units: Units) -> str:
    """Return an example of what is typed, empty where there is none."""
    metric, imperial = _HINTS.get(field.column, ("", ""))
    return metric if units == "metric" else imperial


def choice_label(choice: str) -> str:
    """Return the label of one choice of a field."""
    return _CHOICES.get(choice, choice.capitalize())
