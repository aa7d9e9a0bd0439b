"""Changes of a job as they come: server-sent events for the pages that are open on it.

The journal is asked twice a second, for another process of the same server may have written.
"""

from __future__ import annotations

import asyncio
import json
from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import StreamingResponse
from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from vessel.api.requests import REFUSALS, Db, get
from vessel.store.server_tables import JournalRow
from vessel.store.tables import JobRow

router = APIRouter(prefix="/api/jobs/{job_id}/changes", tags=["history"], responses=REFUSALS)
_EVERY_S = 0.5
_STILL_THERE_S = 15.0
_DIGITS = 16


@router.get("", response_class=StreamingResponse)
async def changes(job_id: int, request: Request, db: Db) -> StreamingResponse:
    """Tell of every change of a job from now on: its number, who made it and on which device."""
    await run_in_threadpool(get, db, JobRow, job_id, "job")
    return StreamingResponse(
        _told(request, job_id), media_type="text/event-stream", headers={"Cache-Control": "no-store"}
    )


async def _told(request: Request, job_id: int) -> AsyncIterator[str]:
    state = request.app.state
    last = await run_in_threadpool(_newest, state.sessions, job_id)
    # a page whose connection dropped says what it has seen last
    known = request.headers.get("last-event-id", "")
    seen, quiet_s = int(known) if known.isdigit() and len(known) < _DIGITS else (last[0] if last else 0), 0.0
    yield "retry: 2000\n\n"
    while not state.stopping.is_set() and not await request.is_disconnected():
        await asyncio.sleep(_EVERY_S)
        quiet_s += _EVERY_S
        last = await run_in_threadpool(_newest, state.sessions, job_id)
        if last and last[0] > seen:
            seen, quiet_s = last[0], 0.0
            yield f"id: {seen}\ndata: {json.dumps({'seen': seen, 'who': last[1], 'device': last[2]})}\n\n"
        elif quiet_s >= _STILL_THERE_S:
            quiet_s = 0.0
            yield ": still there\n\n"


def _newest(sessions: sessionmaker[Session], job_id: int) -> tuple[int, str, str] | None:
    asked = select(JournalRow.id, JournalRow.who, JournalRow.device).where(JournalRow.job_id == job_id)
    with sessions() as db:
        row = db.execute(asked.order_by(JournalRow.id.desc()).limit(1)).first()
    return None if row is None else (row[0], row[1], row[2])
