"""An exercise and its hidden ground: the hookup that is on, what it shows, and what was done so far."""

from __future__ import annotations

import json
from collections import OrderedDict
from dataclasses import dataclass, replace
from functools import lru_cache
from threading import Lock
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from vessel.api.line_answers import marked_depth_m
from vessel.api.requests import get, load_setup
from vessel.core.base.errors import Conflict, NotFound
from vessel.core.model.station_place import painted_at
from vessel.core.practice.debrief import Attempt, Debrief, Painted, debrief
from vessel.core.practice.energised import PutOn, put_on
from vessel.core.practice.yard_lesson import YardLesson
from vessel.formats.lesson_file import lesson_of
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup
from vessel.store.database import now
from vessel.store.tables import ExerciseRow, JobRow, MarkRow, SetupRow

_KEPT = 8
_solved: OrderedDict[tuple[Any, ...], PutOn] = OrderedDict()
_lock = Lock()


@dataclass(frozen=True)
class Exercise:
    """An exercise with its lesson."""

    row: ExerciseRow
    lesson: YardLesson

    @property
    def on(self) -> bool:
        """Whether the transmitter is on."""
        return bool(self.row.state.get("on"))

    @property
    def setup_id(self) -> int | None:
        """The hookup that the transmitter is on, or was on last."""
        found = self.row.state.get("setup_id")
        return None if found is None else int(found)

    @property
    def freq_hz(self) -> float | None:
        """The frequency that the transmitter was turned to, None for the hookup's own."""
        found = self.row.state.get("freq_hz")
        return None if found is None else float(found)

    @property
    def acts(self) -> frozenset[Any]:
        """What was done at the hookup."""
        return frozenset(self.row.state.get("acts", ()))

    def happened(self, what: str) -> None:
        """Note what was done and when."""
        self.row.events = [*self.row.events, {"at": now(), "what": what}]


def exercise_of(db: Session, job_id: int) -> Exercise:
    """Return the exercise of a job; raise `NotFound` where it is none."""
    row = db.scalars(select(ExerciseRow).where(ExerciseRow.job_id == job_id)).first()
    if row is None:
        raise NotFound("This job is no exercise.", fix="Start one in the practice yard.")
    get(db, JobRow, job_id, "job")
    return Exercise(row, _lesson(json.dumps(row.ground)))


@lru_cache(maxsize=32)
def _lesson(ground: str) -> YardLesson:
    return lesson_of(json.loads(ground))


def put_on_in(db: Session, exercise: Exercise, setup_id: int) -> PutOn:
    """Return the ground under a hookup of the exercise's job; raise `BadInput` where nothing comes up there."""
    row = get(db, SetupRow, setup_id, "hookup")
    told = tuple(repr(getattr(row, c)) for c in ("hookup", "freq_hz", "output_a", "position_m", "stake_at"))
    key = (str(db.get_bind().engine.url), exercise.row.id, exercise.row.started_at, setup_id, told,
           row.stake_away_m, exercise.freq_hz, exercise.acts)  # fmt: skip
    with _lock:
        if key in _solved:
            _solved.move_to_end(key)
            return _solved[key]
    found = _put_on(load_setup(db, setup_id), exercise)
    with _lock:
        _solved[key] = found
        while len(_solved) > _KEPT:
            _solved.popitem(last=False)
    return found


def _put_on(setup: LoadedSetup, exercise: Exercise) -> PutOn:
    name = exercise.row.names.get(str(setup.line.row.id), "")
    at = setup.setup if exercise.freq_hz is None else replace(setup.setup, freq_hz=exercise.freq_hz)
    return put_on(exercise.lesson, setup.line.line, name, at, setup.job.stock_kit, exercise.acts)


def require_running(exercise: Exercise) -> None:
    """Raise `Conflict` once an exercise has ended."""
    if exercise.row.ended_at is not None:
        raise Conflict("This exercise has ended.", field="exercise", fix="Start it again from the practice yard.")


def attempt_of(job: LoadedJob, exercise: Exercise) -> Attempt:
    """Return what was done in an exercise's job."""
    marks = [m for line in job.lines for m in _painted(line, exercise)]
    setups = [s for line in job.lines for s in line.setups]
    return Attempt(
        tuple(marks),
        len(setups),
        tuple(float(r.freq_hz) for s in setups for r in s.live_readings),
        sum(len(s.live_candidates) for s in setups),
        exercise.acts,
        tuple((h.at[0], h.at[1]) for h in job.pre_start.passive.hits if h.at is not None),
    )


def _painted(line: LoadedLine, exercise: Exercise) -> list[Painted]:
    name = exercise.row.names.get(str(line.row.id))
    if name is None or line.drawn_as is None:
        return []
    return [
        _as_painted(line, setup, station.row, station.mark, name)
        for setup in line.setups
        for station in setup.stations
        if station.mark is not None
    ]


def _as_painted(line: LoadedLine, setup: LoadedSetup, station: Any, mark: MarkRow, name: str) -> Painted:
    drawn = line.drawn_as
    assert drawn is not None
    placed = station.place and station.place.get("at")
    at = painted_at(drawn, mark.at_m, tuple(placed) if placed else None, mark.painted_off_m or 0.0)
    hook = drawn.places([setup.row.position_m])[0]  # type: ignore[arg-type]
    coil = float(((at[0] - hook[0]) ** 2 + (at[1] - hook[1]) ** 2) ** 0.5) if setup.setup.by.through_air else None
    return Painted(
        mark.id,
        name,
        at,
        marked_depth_m(mark),
        mark.verdict,  # type: ignore[arg-type]
        setup.row.hookup,
        setup.row.freq_hz,
        station.depth_lifted_m is not None,
        station.peak_null_m is not None,
        coil,
    )


def debrief_of(job: LoadedJob, exercise: Exercise) -> Debrief:
    """Return how an exercise went."""
    return debrief(exercise.lesson, attempt_of(job, exercise), tolerance_m=job.marking.tolerance_m)
