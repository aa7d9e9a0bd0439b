"""What others changed of an entry since a form was loaded: told before it is overwritten."""

from __future__ import annotations

from collections.abc import Collection
from typing import Annotated, cast

from pydantic import Field
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from vessel.api.form_reading import Id
from vessel.api.history.present import entries_of
from vessel.core.base.errors import Conflict
from vessel.core.text.units import Units
from vessel.store.server_tables import JournalRow
from vessel.store.tables import JobRow
from vessel.words.journal_sentences import meanwhile_text

Seen = Annotated[
    Id | None,
    Field(description="`seen` of what the form was filled from; None: overwrite what others changed since"),
]


class ChangedMeanwhile(Conflict):
    """Somebody else changed the entry since the form was loaded."""

    code = "changed_meanwhile"


def seen_of(db: Session, job_id: int) -> int:
    """Return the newest change of a job: what a form that is filled now has seen."""
    return db.scalar(select(func.max(JournalRow.id)).where(JournalRow.job_id == job_id)) or 0


def since(db: Session, job_id: int, seen: int, *, kind: str, entry: int | None = None) -> list[JournalRow]:
    """Return the changes of a job's entries of one kind, or of one entry, that came after `seen`, oldest first."""
    asked = select(JournalRow).where(
        JournalRow.job_id == job_id, JournalRow.id > seen, JournalRow.kind == kind, JournalRow.action != "made"
    )
    if entry is not None:
        asked = asked.where(JournalRow.entry_id == entry)
    return list(db.scalars(asked.order_by(JournalRow.id)))


def require_unchanged(
    db: Session, job: JobRow, seen: int | None, *, kind: str, entry: int, apart_from: Collection[str] = ()
) -> None:
    """Raise `ChangedMeanwhile` if others changed an entry since it was `seen`; None asks for no such check.

    `apart_from`: columns by which another form's changes are known; those are no changes of this one.
    """
    if seen is None:
        return
    found = [r for r in since(db, job.id, seen, kind=kind, entry=entry) if not set(r.changes) & {*apart_from}]
    if found:
        raise changed(db, job, found)


def changed(db: Session, job: JobRow, rows: list[JournalRow]) -> ChangedMeanwhile:
    """Return the refusal that says what was changed, by whom and when."""
    said = entries_of(db, rows, cast(Units, job.units))
    return ChangedMeanwhile(
        " ".join(meanwhile_text(e.who, e.at, [(c.label, c.was, c.now) for c in e.changes]) for e in said),
        fix="Take theirs, put yours into theirs, or save yours over it.",
    )
