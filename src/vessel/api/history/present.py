"""The journal as views: each entry named as the crew would, figures in the user's units."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any, cast

from sqlalchemy import select
from sqlalchemy.orm import Session

from vessel.api.history.views import ChangeView, HistoryEntry, HistoryView, Kind
from vessel.core.text.figures import show_station
from vessel.core.text.units import Units
from vessel.store.journal import KEPT, Action
from vessel.store.server_tables import JournalRow
from vessel.store.table_base import Base
from vessel.store.tables import JobRow
from vessel.words.journal_sentences import changed_value, column_label, done_text, entry_name

_TABLES: dict[str, type[Base]] = {t.__tablename__: t for t in KEPT}
_PLACE: dict[str, Callable[[Any, Units], str]] = {
    "stations": lambda row, units: show_station(row.distance_m, units),
    "sonde_stops": lambda row, units: show_station(row.distance_m, units),
    "frame_readings": lambda row, units: show_station(row.distance_m, units),
    "marks": lambda row, units: show_station(row.at_m, units),
    "candidates": lambda row, _: f"{row.bearing_deg:.0f} degrees",
}


def history_view(
    db: Session, job: JobRow, *, kind: Kind | None, entry: int | None, before: int | None, limit: int
) -> HistoryView:
    """Return the changes of a job, or of one of its entries, newest first."""
    asked = select(JournalRow).where(JournalRow.job_id == job.id).order_by(JournalRow.id.desc())
    if kind is not None:
        asked = asked.where(JournalRow.kind == kind)
    if entry is not None:
        asked = asked.where(JournalRow.entry_id == entry)
    if before is not None:
        asked = asked.where(JournalRow.id < before)
    rows = db.scalars(asked.limit(limit + 1)).all()
    return HistoryView(entries=entries_of(db, rows[:limit], cast(Units, job.units)), more=len(rows) > limit)


def corrections_of(db: Session, job: JobRow) -> list[HistoryEntry]:
    """Return every change of a job but what was entered for the first time, oldest first: what a record must show."""
    asked = select(JournalRow).where(JournalRow.job_id == job.id, JournalRow.action != "made").order_by(JournalRow.id)
    return entries_of(db, db.scalars(asked).all(), cast(Units, job.units))


def entries_of(db: Session, rows: Sequence[JournalRow], units: Units) -> list[HistoryEntry]:
    """Return rows of the journal as views."""
    names = {row: name_of(db, row, units) for row in {(r.kind, r.entry_id) for r in rows if not r.what}}
    return [
        HistoryEntry(
            id=r.id,
            at=r.at,
            who=r.who,
            device=r.device,
            action=cast(Action, r.action),
            text=done_text(r.action, r.what or names[r.kind, r.entry_id]),
            changes=[
                ChangeView(
                    label=column_label(column),
                    was=changed_value(column, old, units),
                    now=changed_value(column, new, units),
                )
                for column, (old, new) in r.changes.items()
                if column != "typed"
            ],
            why=r.why,
        )
        for r in rows
    ]


def name_of(db: Session, of: tuple[str, int | None], units: Units) -> str:
    """Return an entry's name: `station at 52 m of Gas service`."""
    kind, key = of
    row: Any = None if key is None else db.get(_TABLES[kind], key)
    place = _PLACE.get(kind)
    return entry_name(kind, "" if row is None or place is None else place(row, units), _line(row))


def _line(row: Any) -> str:
    """The line an entry belongs to; a job's or a kit's own name."""
    for above in ("line", "setup", "station", "run", "walk"):
        if row is not None and hasattr(type(row), above):
            return _line(getattr(row, above))
    return "" if row is None else str(getattr(row, "name", ""))
