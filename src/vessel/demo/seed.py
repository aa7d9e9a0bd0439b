"""Seed a database with the demo jobs: the same open job files that anybody can import."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path

from sqlalchemy import select

from vessel.api.app import open_store
from vessel.api.jobs.transfer import import_job
from vessel.formats import job_file
from vessel.store.database import begin_writing
from vessel.store.tables import JobRow

JOBS = ("ostrel-bay.vessel.json", "ostrel-bay-berth-2.vessel.json")
"""One job with a line at work, entered without a plan; one with a whole site drawn."""


def demo_text(name: str = JOBS[0]) -> str:
    """Return the text of a demo job file."""
    return files("vessel.demo").joinpath(name).read_text(encoding="utf-8")


def seed(database: Path) -> bool:
    """Import the demo jobs into `database` unless a job is there already; return whether they were imported."""
    with open_store(database)() as db:
        begin_writing(db)
        if db.scalars(select(JobRow)).first() is not None:
            return False
        for name in JOBS:
            import_job(db, job_file.load(demo_text(name)))
        db.commit()
    return True
