"""Routers, one a thing."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, TypeVar

from fastapi import Depends, Request
from pydantic import BaseModel
from sqlalchemy.orm import Session

from vessel.api.errors import ErrorBody
from vessel.core.base.errors import NotFound
from vessel.store.tables import Base

REFUSALS: dict[int | str, dict[str, Any]] = {
    code: {"model": ErrorBody, "description": text}
    for code, text in (
        (400, "Refused"),
        (403, "Cross-origin"),
        (404, "Not found"),
        (409, "Conflict"),
        (422, "Bad input"),
    )
}
Row = TypeVar("Row", bound=Base)


def session(request: Request) -> Iterator[Session]:
    """Yield a session that commits when the request succeeded."""
    with request.app.state.sessions() as s, s.begin():
        yield s


# scope "function": the commit comes before the answer, so what was answered as done is there and stays there
Db = Annotated[Session, Depends(session, scope="function")]


def get(db: Session, table: type[Row], key: int, name: str, *, removed: bool = False) -> Row:
    """Return a row by id; raise `NotFound` when it is missing, or removed unless `removed`."""
    row = db.get(table, key) if abs(key) < 2**62 else None
    if row is None or (not removed and getattr(row, "deleted_at", None) is not None):
        raise NotFound(f"There is no such {name}.", fix="Go back to the list; it may have been removed.")
    return row


class Created(BaseModel):
    """The id of a new thing."""

    id: int
