"""A line traced again on changed ground: what of the hookup before goes over to the new one."""

from __future__ import annotations

from typing import Any

from vessel.store.database import now
from vessel.store.tables import EvidenceRow, SetupRow
from vessel.words.bond_sentences import kept_open_note

_STAYS = ("hookup", "freq_hz", "output_a", "position_m", "stake_away_m", "stake_at", "apart_m", "clip_ohm")
STILL_HOLDS = ("access", "kept_open")
"""Answers that go over to the new hookup: of what is at the access point."""
_SAID = ("kind", "answer", "at_m", "own_a", "other_a", "note", "technician", "taken_at", "deleted_at")


def again_from(row: SetupRow) -> dict[str, Any]:
    """Return the columns of a hookup like another one; receiver and stake are checked and measured anew."""
    return {**{name: getattr(row, name) for name in _STAYS}, "rx_freq_hz": None, "stake_ohm": None}


def copied(e: EvidenceRow) -> EvidenceRow:
    """Return an answer for another hookup, with who gave it and when."""
    return EvidenceRow(**{name: getattr(e, name) for name in _SAID})


def kept_open(consent: str, technician: str) -> EvidenceRow:
    """Return the answer that what else is connected is kept off, with who agreed to it."""
    return EvidenceRow(
        kind="kept_open",
        answer="for",
        at_m=None,
        own_a=None,
        other_a=None,
        note=kept_open_note(consent),
        technician=technician,
        taken_at=now(),
        deleted_at=None,
    )
