"""What a change would do to the verdicts of a job's stations, before it is saved."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from pydantic import BaseModel
from sqlalchemy import exists, or_, select
from sqlalchemy.orm import Session

from vessel.api.job_answers import judged_stations
from vessel.api.requests import load_job
from vessel.api.special_answers import fault_near, judged_stops
from vessel.core.judge.station.verdict import PROVED, VERDICTS, Verdict
from vessel.core.text.figures import show_station
from vessel.formats.loaded_job import LoadedJob, LoadedStation
from vessel.formats.loaded_sonde import LoadedStop
from vessel.store.special_tables import SondeRunRow, StopRow
from vessel.store.tables import JobRow, LineRow, SetupRow, StationRow
from vessel.words.consequence_sentences import (
    changed_text,
    marks_text,
    nothing_text,
    said_text,
    verdict_change,
    withdrawn_because,
)


class Unproved(BaseModel):
    """A standing mark that a change leaves unproved, and why it would be withdrawn."""

    mark_id: int
    reason: str


class ChangedStation(BaseModel):
    """A station, a stop of a sonde run, or a marked ground fault, whose verdict would be another, `worse` or better.

    `marked`: a mark stands on it, `unproved` by the change.
    """

    id: int
    what: Literal["station", "stop", "fault"]
    line: str
    distance_text: str
    was: Verdict
    now: Verdict
    text: str
    worse: bool
    marked: bool
    unproved: Unproved | None


class Consequences(BaseModel):
    """What a change would do: to which stations, and to the marks that stand on them. None of it is stored.

    `said`: the same in one line, for after the save; empty where nothing changes.
    """

    text: str
    said: str
    marks_text: str
    stations: list[ChangedStation]


@dataclass(frozen=True)
class MarkedFault:
    """A ground fault that is marked, `distance_m` along its line [m]."""

    id: int
    distance_m: float
    mark: Any

    @property
    def row(self) -> MarkedFault:
        """Itself: it has no row but its mark's."""
        return self


@dataclass(frozen=True)
class _Judged:
    line: str
    at: LoadedStation | LoadedStop | MarkedFault
    verdict: Verdict


_Key = tuple[Literal["station", "stop", "fault"], int]


def _judged(job: LoadedJob) -> Iterator[tuple[_Key, _Judged]]:
    for line in job.lines:
        for setup in line.setups if line.has_metal else ():
            for station, judgement in judged_stations(setup):
                yield ("station", station.row.id), _Judged(line.row.name, station, judgement.verdict)
        for run in line.runs:
            for stop, judgement in judged_stops(run):
                yield ("stop", stop.row.id), _Judged(line.row.name, stop, judgement.verdict)
        for walk in line.walks:
            for mark in walk.marks:
                at_m = mark.at_m
                near = fault_near(walk, at_m)
                verdict: Verdict = "hold" if near is None else near[1].verdict
                yield ("fault", mark.id), _Judged(line.row.name, MarkedFault(mark.id, at_m, mark), verdict)


def consequences(db: Session, job_ids: Sequence[int], change: Callable[[JobRow], None]) -> Consequences:
    """Return what a change of jobs would do to their verdicts; afterwards they are as they were.

    `change` alters the rows of one job as saving would and raises what saving would.
    """
    found, stations = list[ChangedStation](), 0
    for job_id in job_ids:
        changed, count = _of_job(db, job_id, change, named=len(job_ids) > 1)
        found, stations = found + changed, stations + count
    worse = sum(x.unproved is not None for x in found)
    return Consequences(
        text=changed_text(len(found), stations) if found else nothing_text(stations),
        said=said_text([(x.text, x.distance_text) for x in found]),
        marks_text=marks_text(sum(x.marked for x in found), worse),
        stations=found,
    )


def jobs_read_with(db: Session, kit_id: int) -> Sequence[int]:
    """Return the jobs that use a kit and have stations."""
    own = LineRow.job_id == JobRow.id
    stations = exists().where(own, SetupRow.line_id == LineRow.id, StationRow.setup_id == SetupRow.id)
    stops = exists().where(own, SondeRunRow.line_id == LineRow.id, StopRow.run_id == SondeRunRow.id)
    using = select(JobRow.id).where(JobRow.kit_id == kit_id, JobRow.deleted_at.is_(None), or_(stations, stops))
    return db.scalars(using).all()


def _unproved(x: _Judged, now: Verdict) -> Unproved | None:
    """What the change makes of a mark that was painted as proved."""
    mark = x.at.mark
    if mark is None or mark.verdict not in PROVED or now in PROVED:
        return None
    return Unproved(mark_id=mark.id, reason=withdrawn_because(x.verdict, now))


def _of_job(
    db: Session, job_id: int, change: Callable[[JobRow], None], *, named: bool
) -> tuple[list[ChangedStation], int]:
    """The stations of one job that would change, `named` with the job, and how many it has.

    Changed first: what cannot be saved is refused before anything is judged.
    """
    row = load_job(db, job_id).row
    with db.no_autoflush:
        try:
            change(row)
            # a line that would have no metal any more carries no signal: nothing on it is proved
            after = {k: x.verdict for k, x in _judged(LoadedJob(row))}
        finally:
            # drops what was added and altered; nothing of it was written
            for new in list(db.new):
                db.expunge(new)
            db.expire_all()
    job = load_job(db, job_id)
    before, units, of = dict(_judged(job)), job.units, f", {job.row.name}" if named else ""
    found = [
        ChangedStation(
            id=k[1],
            what=k[0],
            line=f"{x.line}{of}",
            distance_text=show_station(x.at.row.distance_m, units),
            was=x.verdict,
            now=after.get(k, "hold"),
            text=verdict_change(x.verdict, after.get(k, "hold")),
            worse=VERDICTS.index(after.get(k, "hold")) > VERDICTS.index(x.verdict),
            marked=x.at.mark is not None,
            unproved=_unproved(x, after.get(k, "hold")),
        )
        for k, x in before.items()
        if after.get(k, "hold") != x.verdict
    ]
    return found, len(before)
