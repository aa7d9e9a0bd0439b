"""The practice yard: exercises, the transmitter and receiver in them, the coach, and the debrief."""

from __future__ import annotations

from contextlib import suppress
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Depends
from sqlalchemy import select
from sqlalchemy.orm import Session

from vessel.api.hookup.beginning import begin_setup
from vessel.api.jobs import transfer
from vessel.api.practice.forms import (
    ActForm,
    FrameSetForm,
    MoveForm,
    ReceiverForm,
    RemarkForm,
    RodForm,
    StartForm,
    SwitchForm,
)
from vessel.api.practice.ground import Exercise, exercise_of, put_on_in, put_walk_on, require_running
from vessel.api.practice.instrument_views import face_view, frame_view
from vessel.api.practice.lessons import lesson_called
from vessel.api.practice.moving import moved_to
from vessel.api.practice.present import debrief_view, newest_setup, newest_walk, open_guards, target_line, yard_view
from vessel.api.practice.provable import provable
from vessel.api.practice.remarks import said_of
from vessel.api.practice.views import DebriefView, FaceView, FrameFaceView, RemarkView, YardView
from vessel.api.requests import REFUSALS, Created, Db, Saving, load_job, stored
from vessel.core.base.errors import BadInput, Conflict, VesselError
from vessel.core.practice.coach import Remark, hint, on_switching
from vessel.core.practice.energised import alone_at
from vessel.core.practice.expert import asking_what_can_be_proved
from vessel.core.practice.frame_held import frame_faces
from vessel.core.practice.passive_field import PASSIVE_HZ
from vessel.core.practice.random_site import MOST_SEED, random_site
from vessel.core.practice.receiver_held import faces
from vessel.core.practice.yard_lesson import YardLesson
from vessel.formats import lesson_file
from vessel.formats.lesson_file import OPEN_SEA, data_of, job_of
from vessel.formats.loaded_job import LoadedJob
from vessel.store.database import now
from vessel.store.journal import signed_by
from vessel.store.server_tables import ExerciseRow
from vessel.store.tables import LineRow
from vessel.words.practice_sentences import told_random

router = APIRouter(prefix="/api", tags=["practice"], responses=REFUSALS)


def chosen(form: StartForm) -> tuple[StartForm, YardLesson, int]:
    """Return the lesson that is asked for, and its seed: before the write lock is taken, for a site takes a while."""
    seed = form.seed if form.seed is not None else int(np.random.default_rng().integers(MOST_SEED))
    return form, _lesson(form, seed), seed


@router.post("/practice", status_code=201)
def start(asked: Annotated[tuple[StartForm, YardLesson, int], Depends(chosen)], db: Saving) -> Created:
    """Start an exercise; the id is that of its job."""
    form, lesson, seed = asked
    technician = form.technician or signed_by(db) or "Trainee"
    job = transfer.import_job(db, job_of(lesson, technician=technician, now=now(), units=form.units))
    names = {line.id: line.name for line in db.scalars(select(LineRow).where(LineRow.job_id == job.id))}
    db.add(
        ExerciseRow(
            job_id=job.id,
            lesson=lesson.id,
            name=lesson.name,
            level="" if form.level is None else form.level,
            seed=seed,
            technician=technician,
            ground=data_of(lesson),
            names={str(k): v for k, v in names.items()},
            state={},
            events=[],
            started_at=now(),
        )
    )
    db.flush()
    return Created(id=job.id)


def _lesson(form: StartForm, seed: int) -> YardLesson:
    if form.level is not None:
        site = random_site(form.level, seed)
        share = provable(site)
        return told_random(asking_what_can_be_proved(site, share), share)
    if form.file:
        return lesson_file.load(form.file)
    if not form.lesson:
        raise BadInput("Nothing is chosen.", field="lesson", fix="Choose a lesson, or a level for a random site.")
    return lesson_called(form.lesson)


@router.get("/jobs/{job_id}/yard")
def yard(job_id: int, db: Db) -> YardView:
    """Return an exercise: what is seen and what is on."""
    return yard_view(db, load_job(db, job_id), exercise_of(db, job_id))


def _solved_first(job_id: int, form: SwitchForm, db: Db) -> None:
    """Solve the ground before the write lock is taken: under it the answer is only looked up."""
    exercise = exercise_of(db, job_id)
    if not form.on or exercise.row.ended_at is not None:
        return
    # what is wrong with it the route itself says, in its own order
    with db.no_autoflush, suppress(VesselError):
        exercise.row.state = {**exercise.row.state, "freq_hz": form.freq_hz}
        if form.walk_id is not None:
            put_walk_on(db, exercise, form.walk_id)
        elif form.setup_id is not None:
            put_on_in(db, exercise, form.setup_id)
    db.rollback()


@router.put("/jobs/{job_id}/yard/transmitter", dependencies=[Depends(_solved_first)])
def switch(job_id: int, form: SwitchForm, db: Saving) -> YardView:
    """Switch the transmitter on or off; what it shows comes back."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    if form.walk_id is not None:
        return _switched_for_walk(db, job, exercise, form)
    setup = newest_setup(job)
    if setup is None or setup.row.id != form.setup_id:
        raise Conflict("That hookup is not in use.", field="setup_id", fix="Hook up again, then switch on.")
    moved = exercise.on and exercise.setup_id != form.setup_id
    if form.freq_hz is not None:
        job.stock_kit.require(setup.row.hookup, form.freq_hz, at="freq_hz")
    exercise.row.state = {
        **exercise.row.state,
        "on": form.on,
        "setup_id": form.setup_id,
        "walk_id": None,
        "freq_hz": form.freq_hz,
    }
    if form.on:
        put_on_in(db, exercise, setup.row.id)  # says where nothing can be connected
    exercise.happened("on" if form.on else "off")
    stored(db)
    said = None
    if form.on:
        said = Remark("changed_while_on") if moved else on_switching(len(open_guards(setup)))
        said = said or hint(exercise.lesson, "on", setup.row.hookup)
    return yard_view(db, job, exercise, said)


def _switched_for_walk(db: Session, job: LoadedJob, exercise: Exercise, form: SwitchForm) -> YardView:
    walk = newest_walk(job)
    if walk is None or walk.row.id != form.walk_id:
        raise Conflict("That walk is not in use.", field="walk_id", fix="Start the walk again, then switch on.")
    state = {"on": form.on, "setup_id": None, "walk_id": form.walk_id, "freq_hz": None}
    exercise.row.state = {**exercise.row.state, **state}
    if form.on:
        put_walk_on(db, exercise, walk.row.id)
    exercise.happened("on" if form.on else "off")
    stored(db)
    earths = walk.walk.earths_on if form.on else 0
    said = Remark("earths_on", float(earths)) if earths else hint(exercise.lesson, "on", "direct") if form.on else None
    return yard_view(db, job, exercise, said)


@router.post("/jobs/{job_id}/yard/moves")
def move(job_id: int, form: MoveForm, db: Saving) -> YardView:
    """Set transmitter or stake down somewhere else: that is another hookup, and the transmitter is off."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    setup = newest_setup(job)
    if setup is None:
        raise Conflict("Nothing is hooked up.", field="what", fix="Choose a setup on the plan first.")
    begin_setup(db, setup.line, moved_to(setup, form.what, (form.east, form.north)), "")
    said = Remark("changed_while_on") if exercise.on else Remark("moved")
    exercise.row.state = {**exercise.row.state, "on": False}
    exercise.happened(f"{form.what}_moved")
    stored(db)
    db.expire(setup.line.row, ["setups"])
    return yard_view(db, load_job(db, job_id), exercise, said)


@router.put("/jobs/{job_id}/yard/rod")
def push(job_id: int, form: RodForm, db: Saving) -> YardView:
    """Push the sonde's rod in, or draw it back."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    if exercise.lesson.tool != "sonde":
        raise Conflict("This lesson has no sonde.", field="rod_m", fix="Use transmitter and receiver.")
    exercise.row.state = {**exercise.row.state, "rod_m": form.rod_m}
    stored(db)
    return yard_view(db, job, exercise)


@router.post("/jobs/{job_id}/yard/frame")
def frame(job_id: int, form: FrameSetForm, db: Db) -> list[FrameFaceView]:
    """Return what the frame shows where it is set; nothing is stored."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    walk, spiked = newest_walk(job), form.as_spiked()
    on = exercise.on and walk is not None and exercise.walk_id == walk.row.id
    put = put_walk_on(db, exercise, walk.row.id) if on and walk is not None else None
    frame_m = job.kit.frame_m if walk is None else walk.walk.frame_m
    chance = np.random.default_rng([exercise.row.seed, form.tick])
    shown = frame_faces(put, spiked, frame_m, chance)
    target = target_line(job, exercise)
    return [frame_view(f, s, target, job.units) for f, s in zip(shown, spiked, strict=True)]


@router.post("/jobs/{job_id}/yard/acts")
def act(job_id: int, form: ActForm, db: Saving) -> YardView:
    """Do something at the hookup, or at its far end."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    acts = sorted({*exercise.acts, form.act})
    exercise.row.state = {**exercise.row.state, "acts": acts}
    exercise.happened(form.act)
    stored(db)
    said = hint(exercise.lesson, "acted", form.act)
    if exercise.on and form.act in ("stake_deeper", "clean_clip"):
        said = Remark("changed_while_on")
    return yard_view(db, job, exercise, said)


def _seen_first(job_id: int, db: Db) -> None:
    """Solve the ground before the write lock is taken, as for the transmitter."""
    exercise, setup = exercise_of(db, job_id), newest_setup(load_job(db, job_id))
    if setup is None or setup.setup.by.through_air or exercise.row.ended_at is not None:
        return
    with suppress(VesselError):
        put_on_in(db, exercise, setup.row.id)
    db.rollback()


@router.post("/jobs/{job_id}/yard/look", dependencies=[Depends(_seen_first)])
def look(job_id: int, db: Saving) -> YardView:
    """Look what else is connected where leads or clamp are."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    setup = newest_setup(job)
    if setup is None or setup.setup.by.through_air:
        raise Conflict("Nothing is connected to look at.", field="exercise", fix="Connect to the line, or clamp it.")
    alone = alone_at(put_on_in(db, exercise, setup.row.id))
    exercise.happened("looked")
    stored(db)
    return yard_view(db, job, exercise, Remark("box_alone" if alone else "box_shared"))


@router.post("/jobs/{job_id}/yard/receiver")
def receiver(job_id: int, form: ReceiverForm, db: Db) -> list[FaceView]:
    """Return what the receiver shows where it is held; nothing is stored."""
    exercise = exercise_of(db, job_id)
    require_running(exercise)
    put, held = None, form.as_held()
    if exercise.on and exercise.setup_id is not None:
        put = put_on_in(db, exercise, exercise.setup_id, held_at=held[0].at)
    job = LoadedJob(exercise.row.job)
    chance = np.random.default_rng([exercise.row.seed, form.tick])
    passive = exercise.lesson if form.freq_hz == PASSIVE_HZ else None
    shown = faces(put, held, job.stock_kit, exercise.lesson.plant, chance, passive=passive, head=exercise.head)
    origin = job.drawing.origin or OPEN_SEA
    carried = put.at if put is not None and put.through_air else None
    target = target_line(job, exercise)
    return [face_view(f, h, job.units, origin, target, carried) for f, h in zip(shown, held, strict=True)]


@router.post("/jobs/{job_id}/yard/remark")
def remark(job_id: int, form: RemarkForm, db: Db) -> RemarkView:
    """Return what the coach says of what was just done."""
    return RemarkView(text=said_of(db, exercise_of(db, job_id), form))


def _judged_first(job_id: int, db: Db) -> None:
    """Judge before the write lock is taken: under it the answers are only looked up."""
    exercise = exercise_of(db, job_id)
    if exercise.row.ended_at is None:
        debrief_view(load_job(db, job_id), exercise)


@router.post("/jobs/{job_id}/yard/finish", dependencies=[Depends(_judged_first)])
def finish(job_id: int, db: Saving) -> DebriefView:
    """End an exercise; the ground is laid open."""
    exercise, job = exercise_of(db, job_id), load_job(db, job_id)
    require_running(exercise)
    exercise.row.ended_at = now()
    found = debrief_view(job, exercise)
    exercise.row.passed, exercise.row.score = found.passed, found.score
    exercise.row.strikes = sum(m.strike for m in found.marks)
    stored(db)
    return found


@router.get("/jobs/{job_id}/yard/debrief")
def debriefed(job_id: int, db: Db) -> DebriefView:
    """Return how an ended exercise went."""
    exercise = exercise_of(db, job_id)
    if exercise.row.ended_at is None:
        raise Conflict("This exercise has not ended.", field="exercise", fix="End it to see what lay in the ground.")
    return debrief_view(load_job(db, job_id), exercise)
