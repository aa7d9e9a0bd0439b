"""Entries that are struck out: with who, when and why; they count no more and stay in sight."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Annotated, Any

from fastapi import Query
from pydantic import BaseModel
from sqlalchemy.orm import Session

from vessel.api.form_reading import need
from vessel.store.database import now
from vessel.store.journal import because, entered_by, job_of, signed_by

Why = Annotated[str, Query(max_length=500, description="why it is struck out or removed; it stays on record")]


class StruckView(BaseModel):
    """An entry that counts no more: what it said, who struck it out, when and why."""

    id: int
    text: str
    by: str
    at: str
    why: str


def strike(db: Session, row: Any, why: str) -> None:
    """Strike an entry out; raise `BadInput` without a reason."""
    row.struck_why = need(why.strip(), field="why", name="The reason")
    job = job_of(row)
    row.struck_by = signed_by(db) if job is None else entered_by(db, "", job)
    row.deleted_at = now()
    because(db, row.struck_why)


def restore(row: Any) -> None:
    """Let an entry that was struck out count again."""
    row.deleted_at = row.struck_by = row.struck_why = None


def struck(rows: Iterable[Any], text: Callable[[Any], str]) -> list[StruckView]:
    """Return what is struck out among entries, in their order; `text`: what an entry said."""
    return [
        StruckView(id=r.id, text=text(r), by=r.struck_by or "", at=r.deleted_at, why=r.struck_why or "")
        for r in rows
        if r.deleted_at is not None
    ]
