"""Seed a database with the demo job: the same open job file that anybody can import."""

from __future__ import annotations

from importlib.resources import files
from pathlib import Path

from sqlalchemy import select

from vessel.api.app import open_store
from vessel.api.jobs_io import import_job
from vessel.formats import job_file
from vessel.store.tables import JobRow


def demo_text() -> str:
    """Return the demo job file's text."""
    return files("vessel.demo").joinpath("ostrel-bay.vessel.json").read_text(encoding="utf-8")


def seed(database: Path) -> bool:
    """Import the demo job into `database` unless a job is there already; return whether it was imported."""
    with open_store(database)() as db, db.begin():
        if db.scalars(select(JobRow)).first() is not None:
            return False
        import_job(db, job_file.load(demo_text()))
    return True
