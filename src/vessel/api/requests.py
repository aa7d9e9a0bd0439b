"""What every route needs: the session, rows by id, and jobs loaded with one statement a table."""

from __future__ import annotations

import asyncio
from collections.abc import AsyncIterator, Iterator, Sequence
from datetime import UTC, datetime, timedelta
from typing import Annotated, Any, TypeVar
from urllib.parse import unquote

from fastapi import Depends, Request
from fastapi.concurrency import run_in_threadpool
from pydantic import BaseModel
from sqlalchemy import Select, delete, event, select
from sqlalchemy.orm import Session, joinedload

from vessel.api.refused import ErrorBody
from vessel.api.waiting import KEY as CLIENT
from vessel.core.base.errors import Conflict, NotFound, VesselError
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup, LoadedStation
from vessel.formats.loaded_sonde import LoadedRun, LoadedStop
from vessel.formats.loaded_walk import LoadedWalk
from vessel.store.database import as_stored, begin_writing, now
from vessel.store.journal import sign
from vessel.store.reading import read_below, read_children
from vessel.store.server_tables import PostRow
from vessel.store.special_tables import FaultWalkRow, SondeRunRow, StopRow
from vessel.store.table_base import Base
from vessel.store.tables import JobRow, LineRow, SetupRow, StationRow

REFUSALS: dict[int | str, dict[str, Any]] = {
    code: {"model": ErrorBody, "description": text}
    for code, text in (
        (400, "Refused"),
        (403, "Cross-origin"),
        (404, "Not found"),
        (409, "Conflict"),
        (422, "Bad input"),
        (503, "Not stored: the disk is full, or others write"),
    )
}
Row = TypeVar("Row", bound=Base)
_READING, _OVER, _POST, _CLIENT, _NAME = "reading", "over", "post", "client", 100
_KEPT_FOR = timedelta(days=7)
"""How long a device may take to send an entry again."""


class StoredAlready(Conflict):
    """An entry that a device sent before: the answer did not reach it."""

    code = "stored_already"


def session(request: Request) -> Iterator[Session]:
    """Yield a session that reads; what was stored after `lock` is committed when the request succeeded.

    A refusal takes the units of the job that was read.
    """
    with request.app.state.sessions() as s:
        s.info[_READING], s.info[_CLIENT] = True, request.scope.get(CLIENT)
        s.info[_POST] = request.headers.get("x-vessel-post", "")[:_NAME]
        who, device = (unquote(request.headers.get(f"x-vessel-{k}", ""))[:_NAME] for k in ("who", "device"))
        sign(s, who=who, device=device)
        try:
            yield s
            if not s.info[_READING]:
                s.commit()
        except VesselError as e:
            e.units = s.info.get("units", e.units)
            raise


# scope "function": the commit comes before the answer, so what was answered as done is there and stays there
Db = Annotated[Session, Depends(session, scope="function")]


def lock(db: Session) -> None:
    """Take the write lock; what was read before is read again, for others may have written since."""
    db.rollback()
    db.info[_READING] = False
    if db.info.get(_CLIENT) is not None:
        db.info[_CLIENT].goes_on = True
    begin_writing(db)
    _only_once(db)


def _only_once(db: Session) -> None:
    """Refuse what a device sends again because it did not hear that it is stored."""
    key = db.info.get(_POST)
    if not key:
        return
    if db.get(PostRow, key) is not None:
        raise StoredAlready("This is stored already: the answer was lost on the way.", fix="It is in the list.")
    db.execute(delete(PostRow).where(PostRow.at < as_stored(datetime.now(UTC) - _KEPT_FOR)))
    db.add(PostRow(key=key, at=now()))


async def saving(request: Request, db: Db) -> AsyncIterator[Session]:
    """Yield the request's session with the write lock, in turn.

    Those who wait hold no thread: enough of them would leave none for the one that writes. SQLite alone lets those who
    wait for its lock try again by chance.
    """
    turn, loop = request.app.state.turn, asyncio.get_running_loop()
    await turn.acquire()
    ended = [False]

    def over() -> None:
        if not ended[0]:
            ended[0] = True
            turn.release()

    db.info[_OVER] = lambda: loop.call_soon_threadsafe(over)
    try:
        await run_in_threadpool(lock, db)
        yield db
        await run_in_threadpool(db.commit)
    finally:
        over()


Saving = Annotated[Session, Depends(saving, scope="function")]


def stored(db: Session) -> None:
    """Commit: what is computed from here on needs no lock, and goes on only while somebody waits for it."""
    db.commit()
    if db.info.get(_CLIENT) is not None:
        db.info[_CLIENT].goes_on = False
    if _OVER in db.info:
        db.info[_OVER]()


@event.listens_for(Session, "before_flush")
def _only_with_the_lock(db: Session, *_: Any) -> None:
    if db.info.get(_READING) and (db.new or db.dirty or db.deleted):
        raise AssertionError("a request that reads wants to write: it needs Saving")


def get(db: Session, table: type[Row], key: int, name: str, *, removed: bool = False, load: Sequence[Any] = ()) -> Row:
    """Return a row by id; raise `NotFound` when it is missing, or removed unless `removed`.

    `load`: what is read along with it.
    """
    row = db.get(table, key, options=load) if abs(key) < 2**62 else None
    if row is None or (not removed and getattr(row, "deleted_at", None) is not None):
        raise NotFound(f"There is no such {name}.", fix="Go back to the list; it may have been removed.")
    job = row if isinstance(row, JobRow) else getattr(row, "job", None)
    if isinstance(job, JobRow):
        db.info["units"] = job.units
    return row


def load_job(db: Session, key: int) -> LoadedJob:
    """Return a job with everything in it; raise `NotFound` when it is missing or removed."""
    row = get(db, JobRow, key, "job", load=[joinedload(JobRow.kit)])
    read_below(db, [row], _with_id(JobRow, key))
    return LoadedJob(row)


def load_line(db: Session, key: int) -> LoadedLine:
    """Return a line with everything under it, on its job; raise `NotFound` when it is missing or removed."""
    row = _line_on_its_job(db, key)
    read_below(db, [row], _with_id(LineRow, key))
    return LoadedJob(row.job).line(row)


def load_setup(db: Session, key: int) -> LoadedSetup:
    """Return a hookup on its line and job; raise `NotFound` when it is missing."""
    row = get(db, SetupRow, key, "hookup")
    return LoadedJob(_line_on_its_job(db, row.line_id, removed=True).job).setup(row)


def load_station(db: Session, key: int, *, removed: bool = False) -> LoadedStation:
    """Return a station under its hookup; raise `NotFound` when it is missing, or removed unless `removed`."""
    row = get(db, StationRow, key, "station", removed=removed)
    return LoadedJob(_line_on_its_job(db, row.setup.line_id, removed=True).job).setup(row.setup).station(row)


def load_run(db: Session, key: int) -> LoadedRun:
    """Return a sonde run on its line and job; raise `NotFound` when it is missing."""
    row = get(db, SondeRunRow, key, "sonde run")
    line = _line_on_its_job(db, row.line_id, removed=True)
    return LoadedJob(line.job).line(line).run(row)


def load_stop(db: Session, key: int, *, removed: bool = False) -> LoadedStop:
    """Return a stop under its run; raise `NotFound` when it is missing, or removed unless `removed`."""
    row = get(db, StopRow, key, "stop", removed=removed)
    return load_run(db, row.run_id).stop(row)


def load_walk(db: Session, key: int) -> LoadedWalk:
    """Return a walk with the frame on its line and job; raise `NotFound` when it is missing."""
    row = get(db, FaultWalkRow, key, "walk")
    line = _line_on_its_job(db, row.line_id, removed=True)
    return LoadedJob(line.job).line(line).walk(row)


def _line_on_its_job(db: Session, key: int, *, removed: bool = False) -> LineRow:
    """A line with its job and the other lines there."""
    row = get(db, LineRow, key, "line", removed=removed, load=[joinedload(LineRow.job).joinedload(JobRow.kit)])
    read_children(db, [row.job], _with_id(JobRow, row.job_id), JobRow.lines)
    return row


def _with_id(table: type[JobRow] | type[LineRow], key: int) -> Select[Any]:
    return select(table.id).where(table.id == key)


class Created(BaseModel):
    """The id of what was created."""

    id: int
