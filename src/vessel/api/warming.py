"""After a start the answers of the newest jobs are worked out in the background, so that opening them does not wait."""

from __future__ import annotations

import logging
from threading import Event, Thread

from sqlalchemy import select
from sqlalchemy.orm import Session, sessionmaker

from vessel.api.job_answers import identity_finding, judged_stations, plan_of
from vessel.api.requests import load_job
from vessel.core.base.wanted import GivenUp, wanted_while
from vessel.formats.loaded_job import LoadedJob
from vessel.store.tables import JobRow

MOST_JOBS = 3
MOST_PLANS = 8
_log = logging.getLogger("vessel.warming")


def warm(sessions: sessionmaker[Session], stopping: Event) -> Thread:
    """Begin in a thread of its own, which ends by itself, or soon after `stopping` is set."""
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
            except Exception:  # whoever opens the job is told what is wrong with it
                _log.info("Job %s was not worked out ahead", job_id, exc_info=True)


def _job(job: LoadedJob) -> None:
    """What the pages of a job ask first: how its stations stand, then what its lines should be hooked up with."""
    for line in job.lines:
        if line.in_use is not None:
            judged_stations(line.in_use)
            identity_finding(line.in_use)
    for line in [x for x in job.lines if x.has_metal][:MOST_PLANS]:
        plan_of(line)
