"""What the coach says of what was just done in the yard."""

from __future__ import annotations

import numpy as np
from sqlalchemy.orm import Session

from vessel.api.job_answers import judgement_of
from vessel.api.practice.forms import RemarkForm
from vessel.api.practice.ground import Exercise
from vessel.api.requests import load_station, load_stop, load_walk
from vessel.api.special_answers import stop_judgement
from vessel.core.practice.coach import Remark, hint, on_frame, on_log, on_mark, on_stop
from vessel.core.practice.yard_lesson import YardLesson
from vessel.formats.adapters import frame_reading_of
from vessel.formats.loaded_job import LoadedStation
from vessel.formats.loaded_sonde import LoadedStop
from vessel.formats.loaded_walk import LoadedWalk
from vessel.words.practice_sentences import remark_text


def said_of(db: Session, exercise: Exercise, form: RemarkForm) -> str:
    """Return what the coach says, empty for nothing."""
    if form.stop_id is not None:
        stop = load_stop(db, form.stop_id)
        return remark_text(_of_stop(exercise.lesson, stop), stop.run.job.units)
    if form.walk_id is not None:
        walk = load_walk(db, form.walk_id)
        return remark_text(_of_frame(exercise.lesson, walk), walk.job.units)
    if form.station_id is None:
        return remark_text(hint(exercise.lesson, "read"), "metric")
    station = load_station(db, form.station_id)
    return remark_text(_of_station(exercise, station, form), station.setup.job.units)


def _of_stop(lesson: YardLesson, stop: LoadedStop) -> Remark | None:
    verdict = stop_judgement(stop).verdict
    return hint(lesson, "log", verdict) or on_stop(stop.reading, verdict)


def _of_frame(lesson: YardLesson, walk: LoadedWalk) -> Remark | None:
    taken = [frame_reading_of(r) for r in sorted(walk.live_readings, key=lambda r: int(r.id))[-2:]]
    said = None if not taken else on_frame(taken[-1], taken[0] if len(taken) > 1 else None)
    return said or hint(lesson, "log")


def _of_station(exercise: Exercise, station: LoadedStation, form: RemarkForm) -> Remark | None:
    verdict, setup, row = judgement_of(station).verdict, station.setup, station.row
    if form.freq_hz is not None and form.freq_hz != (exercise.freq_hz or setup.row.freq_hz):
        return Remark("other_frequency")
    if form.after == "mark":
        return on_mark(verdict) or hint(exercise.lesson, "mark", verdict)
    drawn, at = setup.line.drawn_as, (row.place or {}).get("at")
    coil_m = setup.setup.coil_m(np.array([row.distance_m]))
    hook = drawn.places(coil_m)[0] if drawn is not None else (0.0, 0.0)
    return hint(exercise.lesson, "log", verdict) or on_log(
        setup.setup,
        (float(hook[0]), float(hook[1])),
        at=(float(at[0]), float(at[1])) if at else (0.0, 0.0),
        bends=() if drawn is None else drawn.corners[1:-1],
        has_depth=row.depth_m is not None,
        lifted=row.depth_lifted_m is not None,
        verdict=verdict,
    )
