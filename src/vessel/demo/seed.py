"""Seed a database with the demo jobs: the same open job files that anybody can import."""

from __future__ import annotations

from pathlib import Path

from sqlalchemy import select

from vessel.api.app import open_store
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text
from vessel.api.jobs.transfer import import_job
from vessel.formats import job_file
from vessel.store.database import begin_writing
from vessel.store.tables import JobRow


def seed(database: Path) -> bool:
    """Import the demo jobs into `database` unless a job is there already; return whether they were imported."""
    with open_store(database)() as db:
        begin_writing(db)
        if db.scalars(select(JobRow)).first() is not None:
            return False
        for name in DEMO_JOBS:
            import_job(db, job_file.load(demo_text(name)))
        db.commit()
    return True
