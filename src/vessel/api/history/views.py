"""The history of a job and of its entries."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.store.journal import Action

Kind = Literal[
    "kits",
    "jobs",
    "lines",
    "backgrounds",
    "setups",
    "transmitter_readings",
    "candidates",
    "identity_evidence",
    "stations",
    "sonde_runs",
    "sonde_stops",
    "fault_walks",
    "frame_readings",
    "marks",
]


class ChangeView(BaseModel):
    """One figure that is another now."""

    label: str
    was: str
    now: str


class HistoryEntry(BaseModel):
    """One change: who, when, on which device, of what, and why."""

    id: int
    at: str
    who: str
    device: str
    action: Action
    text: str
    changes: list[ChangeView]
    why: str


class HistoryView(BaseModel):
    """Changes, newest first; `more`: there are older ones."""

    entries: list[HistoryEntry]
    more: bool
