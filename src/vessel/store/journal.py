"""The journal: every change of an entry is one row, appended in the same transaction and never altered.

One mechanism for all tables: what a session adds or changes is seen when it is written. Who did it, on which device
and why comes from the session; without a name it is who the entry says, else who is in charge of the job.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal

from sqlalchemy import event, insert, inspect
from sqlalchemy.orm import Session, object_session

from vessel.store.database import now
from vessel.store.server_tables import JournalRow
from vessel.store.special_tables import FaultWalkRow, FrameReadingRow, SondeRunRow, StopRow
from vessel.store.tables import (
    BackgroundRow,
    CandidateRow,
    EvidenceRow,
    JobRow,
    KitRow,
    LineRow,
    MarkRow,
    ReadingRow,
    SetupRow,
    StationRow,
)

Action = Literal["made", "changed", "struck", "restored", "withdrawn", "imported"]
KEPT = (
    KitRow,
    JobRow,
    BackgroundRow,
    LineRow,
    SetupRow,
    ReadingRow,
    CandidateRow,
    EvidenceRow,
    StationRow,
    SondeRunRow,
    StopRow,
    FaultWalkRow,
    FrameReadingRow,
    MarkRow,
)
"""The tables whose rows have a history."""
_OF_ACTION = ("deleted_at", "struck_by", "struck_why")


def sign(db: Session, *, who: str = "", device: str = "", why: str = "", imported: bool = False) -> None:
    """Say who makes the changes of a session, on which device and why; an import writes its own single entry."""
    db.info["journal"] = {**db.info.get("journal", {}), "who": who, "device": device, "why": why, "imported": imported}


def because(db: Session, why: str) -> None:
    """Say why the changes that follow are made."""
    db.info["journal"] = {**db.info.get("journal", {}), "why": why}


def signed_by(db: Session) -> str:
    """Return who makes the changes of a session, empty if not said."""
    return str(db.info.get("journal", {}).get("who", ""))


def entered_by(db: Session, said: str, job: JobRow) -> str:
    """Return who signs an entry: who it says, else who works on the device, else who is in charge of the job."""
    return said or signed_by(db) or job.technician


@event.listens_for(Session, "after_flush")
def _write(db: Session, _context: Any) -> None:
    entries = list(_entries(db))
    if entries:
        db.connection().execute(insert(JournalRow), entries)


def _entries(db: Session) -> Iterator[dict[str, Any]]:
    signed = db.info.get("journal", {})
    with db.no_autoflush:
        for row in db.new:
            if isinstance(row, KEPT) and not signed.get("imported"):
                yield _entry(row, "made", {}, signed)
        for row in db.dirty:
            changes = _changes(row) if isinstance(row, KEPT) else {}
            if changes:
                action = _action(changes)
                left = {k: v for k, v in changes.items() if k not in _OF_ACTION}
                yield _entry(row, action, left, signed)


def _changes(row: Any) -> dict[str, list[Any]]:
    """What of a row is another than it was: old and new, by column."""
    found = {}
    state = inspect(row)
    for attribute in state.mapper.column_attrs:
        history = state.attrs[attribute.key].history
        if history.has_changes():
            old = history.deleted[0] if history.deleted else None
            new = history.added[0] if history.added else None
            if old != new:
                found[attribute.key] = [old, new]
    return found


def _action(changes: dict[str, list[Any]]) -> Action:
    if "deleted_at" in changes:
        return "struck" if changes["deleted_at"][1] else "restored"
    return "withdrawn" if "withdrawn_at" in changes else "changed"


def imported_now(db: Session, job: JobRow) -> None:
    """Note that a job came with a file."""
    db.connection().execute(insert(JournalRow), [_entry(job, "imported", {}, db.info.get("journal", {}))])


def _entry(row: Any, action: Action, changes: dict[str, list[Any]], signed: dict[str, Any]) -> dict[str, Any]:
    job = job_of(row)
    return {
        "at": now(),
        "who": signed.get("who") or _named(row, action) or ("" if job is None else job.technician),
        "device": signed.get("device", ""),
        "job_id": None if job is None else job.id,
        "kind": row.__tablename__,
        "entry_id": row.id,
        "what": "",
        "action": action,
        "changes": changes,
        "why": signed.get("why") or getattr(row, "withdrawn_reason", None) or "",
    }


def _named(row: Any, action: Action) -> str:
    """Who the entry itself says did it."""
    by = {"made": "technician", "withdrawn": "withdrawn_by", "struck": "struck_by"}.get(action)
    return "" if by is None else getattr(row, by, None) or ""


def job_of(row: Any) -> JobRow | None:
    """Return the job that a row belongs to, None for a kit."""
    if isinstance(row, JobRow) or row is None:
        return row
    for key, above in _ABOVE.items():
        if getattr(row, key, None) is not None:
            db = object_session(row)
            # by its key: a row that is just being made may not know its relations yet
            return None if db is None else job_of(db.get(above, getattr(row, key)))
    return None


_ABOVE: dict[str, Any] = {
    "job_id": JobRow,
    "line_id": LineRow,
    "setup_id": SetupRow,
    "run_id": SondeRunRow,
    "walk_id": FaultWalkRow,
    "station_id": StationRow,
    "stop_id": StopRow,
}
