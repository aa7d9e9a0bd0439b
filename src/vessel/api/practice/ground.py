"""An exercise and its hidden ground: the hookup that is on, what it shows, and what was done so far."""

from __future__ import annotations

import json
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import lru_cache
from threading import Lock
from typing import Any

import numpy as np
from sqlalchemy import select
from sqlalchemy.orm import Session

from vessel.api.line_answers import marked_depth_m
from vessel.api.requests import get, load_setup, load_walk
from vessel.core.base.errors import Conflict, NotFound
from vessel.core.model.drawn_line import Drawn, left_of
from vessel.core.model.station_place import painted_at
from vessel.core.practice.debrief import FRAME, Attempt, Debrief, Painted, debrief
from vessel.core.practice.energised import PutOn, put_on
from vessel.core.practice.frame_held import put_walk
from vessel.core.practice.sonde_head import SondeHead, head_in
from vessel.core.practice.yard_lesson import YardLesson
from vessel.formats.lesson_file import lesson_of
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup
from vessel.formats.loaded_sonde import LoadedStop
from vessel.store.database import now
from vessel.store.server_tables import ExerciseRow
from vessel.store.tables import JobRow, MarkRow, SetupRow

_KEPT = 24
_STEP_M = 1.0
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

    @property
    def walk_id(self) -> int | None:
        """The walk with the frame that the transmitter is on, or was on last."""
        found = self.row.state.get("walk_id")
        return None if found is None else int(found)

    @property
    def rod_m(self) -> float:
        """How much of the sonde's rod is out [m]."""
        return float(self.row.state.get("rod_m", 0.0))

    @property
    def head(self) -> SondeHead | None:
        """Where the sonde lies; None where none is handed out."""
        if self.lesson.tool != "sonde":
            return None
        return head_in(self.lesson.site.line(self.lesson.target), self.rod_m)

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


def put_on_in(db: Session, exercise: Exercise, setup_id: int, *, held_at: tuple[float, float] | None = None) -> PutOn:
    """Return the ground under a hookup of the exercise's job; raise `BadInput` where nothing comes up there.

    `held_at`: where the receiver is held (east, north [m]): a coil that is carried along goes with it.
    """
    row = get(db, SetupRow, setup_id, "hookup")
    along_m = None if row.apart_m is None else _along(db, setup_id, held_at)
    told = tuple(repr(getattr(row, c)) for c in ("hookup", "freq_hz", "output_a", "position_m", "stake_at"))
    key = (str(db.get_bind().engine.url), exercise.row.id, exercise.row.started_at, setup_id, told,
           row.stake_away_m, row.apart_m, along_m, exercise.freq_hz, exercise.acts)  # fmt: skip
    return _solved_once(key, lambda: _put_on(load_setup(db, setup_id), exercise, along_m))


def _solved_once(key: tuple[Any, ...], solve: Callable[[], PutOn]) -> PutOn:
    """The ground solved under a hookup, kept while it is among the last that were asked for."""
    with _lock:
        if key in _solved:
            _solved.move_to_end(key)
            return _solved[key]
    found = solve()
    with _lock:
        _solved[key] = found
        while len(_solved) > _KEPT:
            _solved.popitem(last=False)
    return found


def put_walk_on(db: Session, exercise: Exercise, walk_id: int) -> PutOn:
    """Return the ground under a walk with the frame of the exercise's job."""
    walk = load_walk(db, walk_id)
    key = (str(db.get_bind().engine.url), exercise.row.id, exercise.row.started_at, "walk", walk_id, walk.walk)
    name = exercise.row.names.get(str(walk.line.row.id), "")
    return _solved_once(key, lambda: put_walk(exercise.lesson, walk.line.line, name, walk.walk, walk.job.stock_kit))


def _along(db: Session, setup_id: int, held_at: tuple[float, float] | None) -> float:
    """How far along the line as drawn the receiver is held, to the step in which a partner follows [m]."""
    drawn = load_setup(db, setup_id).line.drawn_as
    return 0.0 if drawn is None or held_at is None else round(drawn.nearest(held_at)[0] / _STEP_M) * _STEP_M


def _put_on(setup: LoadedSetup, exercise: Exercise, along_m: float | None) -> PutOn:
    name = exercise.row.names.get(str(setup.line.row.id), "")
    at = setup.setup if exercise.freq_hz is None else replace(setup.setup, freq_hz=exercise.freq_hz)
    at = at.standing(along_m or 0.0)
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
    name, drawn = exercise.row.names.get(str(line.row.id)), line.drawn_as
    if name is None or drawn is None:
        return []
    return [
        *(
            _as_painted(drawn, setup, station.row, station.mark, name)
            for setup in line.setups
            for station in setup.stations
            if station.mark is not None
        ),
        *(_head_painted(drawn, stop, name) for run in line.runs for stop in run.stops if stop.mark is not None),
        *(
            Painted(m.id, name, _on(drawn, m.at_m), None, m.verdict, FRAME, walk.row.freq_hz)
            for walk in line.walks
            for m in walk.marks
        ),
    ]


def _on(drawn: Drawn, at_m: float) -> tuple[float, float]:
    east, north = drawn.places(np.array([at_m]))[0]
    return float(east), float(north)


def _head_painted(drawn: Drawn, stop: LoadedStop, name: str) -> Painted:
    mark, row = stop.mark, stop.row
    assert mark is not None
    way = left_of(drawn, np.array([mark.at_m]))[0]
    east, north = _on(drawn, mark.at_m)
    at = (east + stop.reading.left_m * float(way[0]), north + stop.reading.left_m * float(way[1]))
    return Painted(
        mark.id,
        name,
        at,
        marked_depth_m(mark),
        mark.verdict,
        "sonde",
        stop.run.row.freq_hz,
        row.depth_lifted_m is not None,
        row.null_before_m is not None,
    )


def _as_painted(drawn: Drawn, setup: LoadedSetup, station: Any, mark: MarkRow, name: str) -> Painted:
    placed = station.place and station.place.get("at")
    at = painted_at(drawn, mark.at_m, tuple(placed) if placed else None, mark.painted_off_m or 0.0)
    hook = drawn.places(setup.setup.coil_m(np.array([station.distance_m])))[0]
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
