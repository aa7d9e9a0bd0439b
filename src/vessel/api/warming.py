"""Work out the newest jobs in the background after a start, so that opening them takes no time."""

from __future__ import annotations

import logging
from threading import Event, Thread

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from vessel.api.job_answers import (
    identity_finding,
    judged_stations,
    plan_of,
)
from vessel.api.requests import load_job
from vessel.core.base.wanted import GivenUp, wanted_while
from vessel.formats.loaded_job import LoadedJob
from vessel.store.tables import JobRow

MOST_JOBS = 3
MOST_PLANS = 8
_log = logging.getLogger("vessel.warming")


def warm(sessions: sessionmaker[Session], stopping: Event) -> Thread:
    """Start a thread that works them out; it ends by itself, or soon after `stopping` is set."""
    thread = Thread(target=_warm, args=(sessions, stopping), daemon=True, name="warming")
    thread.start()
    return thread


def _warm(sessions: sessionmaker[Session], stopping: Event) -> None:
    newest = select(JobRow.id).where(JobRow.deleted_at.is_(None)).order_by(JobRow.id.desc()).limit(MOST_JOBS)
    with wanted_while(lambda: not stopping.is_set()), sessions() as db:
        for job_id in db.scalars(newest).all():
            try:
                _job(load_job(db, job_id))
            except GivenUp:
                return
            except Exception:  # opening the job says what is wrong with it
                _log.info("Job %s was not worked out ahead", job_id, exc_info=True)


def _job(job: LoadedJob) -> None:
    """Work out what the pages of a job ask first: verdicts and identity, then the plans of its lines."""
    for line in job.lines:
        if line.in_use is not None:
            judged_stations(line.in_use)
            identity_finding(line.in_use)
    for line in [x for x in job.lines if x.has_metal][:MOST_PLANS]:
        plan_of(line)
