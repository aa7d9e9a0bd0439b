"""The journal in words: what was done to which entry, and figures as they were and are."""

from __future__ import annotations

import json
import re
from collections.abc import Sequence
from statistics import median
from typing import Any

from vessel.core.model.entry_fields import (
    CANDIDATE_FIELDS,
    READING_FIELDS,
    STATION_FIELDS,
)
from vessel.core.model.special_fields import (
    FRAME_FIELDS,
    STOP_FIELDS,
)
from vessel.core.text.figures import show_hz, show_length, show_ma
from vessel.core.text.units import Units
from vessel.words.entry_labels import label_of

_KIND = {
    "kits": "kit",
    "jobs": "job",
    "lines": "line",
    "backgrounds": "background",
    "setups": "hookup",
    "transmitter_readings": "transmitter reading",
    "candidates": "centre line",
    "identity_evidence": "evidence",
    "stations": "station",
    "sonde_runs": "sonde run",
    "sonde_stops": "sonde stop",
    "fault_walks": "walk with the frame",
    "frame_readings": "frame reading",
    "marks": "mark",
}
_DONE = {
    "made": "Entered",
    "changed": "Changed",
    "struck": "Struck out",
    "restored": "Restored",
    "withdrawn": "Withdrawn",
    "imported": "Imported",
}
_LABELS = {
    **{
        f.column: label_of(f)
        for f in (*CANDIDATE_FIELDS, *READING_FIELDS, *STATION_FIELDS, *STOP_FIELDS, *FRAME_FIELDS)
    },
    "site": "Site plan",
    "near": "Access point",
    "near_note": "Where it is",
    "length_m": "Approximate length",
    "depth_min_m": "Minimum depth",
    "depth_max_m": "Maximum depth",
    "far_kind": "Far end",
    "before": "Checks before the work",
    "marking": "Marking rule",
    "steps_done": "Steps done",
    "start_m": "Put in at",
    "check_m": "Function check, distance",
    "check_signal": "Function check, signal",
    "rx_freq_hz": "Receiver's frequency",
    "soil_resistivity_ohm_m": "Soil resistivity",
    "far_earth_ohm": "Far-end earth",
    "stake_away_m": "Stake distance",
    "stake_ohm": "Stake measured",
    "painted_off_m": "Paint beside the line",
    "route": "Route drawn",
    "pins": "Points placed",
    "fade": "Strength",
    "points": "What is on it",
    "anew": "Starts again here",
}
_LONG = 80
_UNIT = re.compile(r"_(ohm_m|ohm|m|a|hz|deg)$")


def entry_name(kind: str, place: str, of: str) -> str:
    """Return an entry's name: `station at 52 m of Gas service`."""
    name = _KIND.get(kind, kind)
    if kind in ("jobs", "lines", "kits", "backgrounds"):
        return f"{name} {of}".strip()
    return f"{name}{f' at {place}' if place else ''}{f' of {of}' if of else ''}"


def done_text(action: str, name: str) -> str:
    """Return what was done to an entry: `Struck out: station at 52 m of Gas service`."""
    return f"{_DONE[action]}: {name}"


def meanwhile_text(who: str, at: str, changes: Sequence[tuple[str, str, str]]) -> str:
    """Return what somebody changed while a form was open: `M. Irsa changed this at 10:35 UTC: Depth 1.0 m → 1.2 m.`"""
    what = "; ".join(f"{label} {was} → {now}" for label, was, now in changes)
    return f"{who or 'Somebody'} changed this at {at[11:16]} UTC{f': {what}' if what else ''}."


def column_label(column: str) -> str:
    """Return what a figure is called."""
    return _LABELS.get(column) or _UNIT.sub("", column).replace("_", " ").capitalize()


def changed_value(column: str, value: Any, units: Units) -> str:
    """Return a stored figure as a screen shows it."""
    if value is None or value in ("", []):
        return "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    if isinstance(value, int | float):
        return _figure(column, float(value), units)
    if column == "currents_a":
        return f"{show_ma(median(value))} ({len(value)}×)"
    text = value if isinstance(value, str) else json.dumps(value, ensure_ascii=False)
    return text if len(text) <= _LONG else f"{text[:_LONG]} …"


def _figure(column: str, value: float, units: Units) -> str:
    if column.endswith("_m") and not column.endswith("ohm_m"):
        return show_length(value, units, fine=True)
    if column == "amps" or column.endswith("_a"):
        return show_ma(value)
    if column.endswith("_hz"):
        return show_hz(value)
    unit = {"volts": " V", "soil_resistivity_ohm_m": " ohm m"}.get(column, " ohm" if column.endswith("_ohm") else "")
    return f"{value:g}{unit}"
