"""The list of jobs: found by words and by how they stand, a page at a time, counted by the database."""

from __future__ import annotations

from collections import defaultdict
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import ColumnElement, Select, distinct, func, or_, select
from sqlalchemy.orm import Session

from vessel.api.jobs.views import JobListed, JobsView, SketchedLine
from vessel.formats.marking_doc import marking_of
from vessel.store.server_tables import ExerciseRow
from vessel.store.special_tables import SondeRunRow, StopRow
from vessel.store.tables import JobRow, LineRow, MarkRow, SetupRow, StationRow

Standing = Literal["all", "unmarked", "marked", "overdue"]
_SEARCHED = (JobRow.name, JobRow.dig, JobRow.address, JobRow.notice, JobRow.client, JobRow.technician, JobRow.due_at)
_MOST_SKETCHED = 40


def jobs_page(db: Session, *, words: str, standing: Standing, before: int | None, limit: int) -> JobsView:
    """Return a page of the jobs, the newest first: every word is found in the job or in the name of a line."""
    marks, marked_lines, lines = (_counted(what) for what in _COUNTS)
    practised = select(ExerciseRow.id).where(ExerciseRow.job_id == JobRow.id).exists()
    asked = select(JobRow, lines, marked_lines, marks).where(JobRow.deleted_at.is_(None), ~practised)
    asked = asked.order_by(JobRow.id.desc())
    now = datetime.now().isoformat(timespec="minutes")
    if before is not None:
        asked = asked.where(JobRow.id < before)
    for word in words.split():
        asked = asked.where(_has(word))
    if standing == "unmarked":
        asked = asked.where(marks == 0)
    elif standing == "marked":
        asked = asked.where(marks > 0)
    elif standing == "overdue":
        asked = asked.where(JobRow.due_at < now)
    rows = db.execute(asked.limit(limit + 1)).all()
    sketches = _sketches(db, [row[0] for row in rows[:limit]])
    return JobsView(
        jobs=[
            JobListed(
                id=job.id,
                name=job.name,
                dig=job.dig,
                address=job.address,
                notice=job.notice,
                due_at=job.due_at,
                overdue=bool(job.due_at and job.due_at < now),
                technician=job.technician,
                lines=of_lines,
                with_marks=of_marked,
                marks=of_marks,
                sketch=sketches[job.id],
            )
            for job, of_lines, of_marked, of_marks in rows[:limit]
        ],
        more=len(rows) > limit,
    )


_LIVE = LineRow.job_id == JobRow.id, LineRow.deleted_at.is_(None)


def _standing_marks(what: ColumnElement[Any]) -> Select[Any]:
    """How many there are with a standing mark, at a station or at a stop of a sonde run."""
    joined = (
        select(func.count(distinct(what)))
        .select_from(MarkRow)
        .outerjoin(StationRow, StationRow.id == MarkRow.station_id)
        .outerjoin(SetupRow, SetupRow.id == StationRow.setup_id)
        .outerjoin(StopRow, StopRow.id == MarkRow.stop_id)
        .outerjoin(SondeRunRow, SondeRunRow.id == StopRow.run_id)
        .join(LineRow, LineRow.id == func.coalesce(SetupRow.line_id, SondeRunRow.line_id))
    )
    alive = StationRow.deleted_at.is_(None), StopRow.deleted_at.is_(None)
    return joined.where(*_LIVE, *alive, MarkRow.withdrawn_at.is_(None))


_COUNTS = (
    _standing_marks(MarkRow.id.expression),
    _standing_marks(LineRow.id.expression),
    select(func.count()).select_from(LineRow).where(*_LIVE),
)


def _counted(what: Select[Any]) -> Any:
    return what.correlate(JobRow).scalar_subquery()


def _has(word: str) -> ColumnElement[bool]:
    """Whether a job or one of its lines has a word, `%` and `_` taken as they are."""
    line = select(LineRow.id).where(*_LIVE, LineRow.name.icontains(word, autoescape=True)).correlate(JobRow).exists()
    return or_(line, *(column.icontains(word, autoescape=True) for column in _SEARCHED))


def _sketches(db: Session, jobs: list[JobRow]) -> dict[int, list[SketchedLine]]:
    """The drawn lines of each job in one query, in the job's marking colours."""
    rules = {job.id: marking_of(job) for job in jobs}
    drawn = select(LineRow.job_id, LineRow.utility, LineRow.route).where(
        LineRow.job_id.in_(rules), LineRow.deleted_at.is_(None)
    )
    found: dict[int, list[SketchedLine]] = defaultdict(list)
    for job_id, utility, route in db.execute(drawn):
        if len(route) > 1 and len(found[job_id]) < _MOST_SKETCHED:
            corners = [[float(east), float(north)] for east, north, *_ in route]
            found[job_id].append(SketchedLine(corners=corners, hex=rules[job_id].utility(utility).hex))
    return found
