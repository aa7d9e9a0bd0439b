"""The practice yard as views; of the ground only what is seen, until the debrief."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy.orm import Session

from vessel.api.practice.ground import Exercise, attempt_of, debrief_of, put_on_in, put_walk_on
from vessel.api.practice.views import (
    ActView,
    DebriefView,
    FrequencyChoice,
    GoalView,
    HappenedView,
    HookedUp,
    MarkedView,
    OldPaintView,
    RodView,
    TruthView,
    WalkInYard,
    YardView,
)
from vessel.core.hookup.safe_order import checklist
from vessel.core.model.fault_walk import FAULT_STEPS
from vessel.core.model.sonde import SONDE_STEPS
from vessel.core.practice.coach import Remark, hint
from vessel.core.practice.frame_held import stands_at
from vessel.core.practice.passive_field import PASSIVE_HZ
from vessel.core.practice.yard_lesson import Act
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.text.figures import show_hz, show_length
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup
from vessel.formats.loaded_walk import LoadedWalk
from vessel.words.practice_sentences import (
    ACT_LABEL,
    PASSIVE_LABEL,
    goal_text,
    happened_text,
    headline_text,
    hooked_text,
    mark_text,
    old_paint_text,
    output_text,
    painted_happened,
    reached_text,
    remark_text,
    station_happened,
    walk_hooked_text,
    why_text,
)


def newest_setup(job: LoadedJob) -> LoadedSetup | None:
    """Return the hookup made last in a job."""
    setups = [s for line in job.lines if line.has_metal for s in line.setups]
    return max(setups, key=lambda s: int(s.row.id), default=None)


def yard_view(db: Session, job: LoadedJob, exercise: Exercise, said: Remark | None = None) -> YardView:
    """Return what is seen of an exercise."""
    lesson, row = exercise.lesson, exercise.row
    target, setup = target_line(job, exercise), newest_setup(job)
    walk = newest_walk(job) if lesson.tool == "frame" else None
    on, output = False, None
    if exercise.on and setup is not None and exercise.setup_id == setup.row.id:
        on, output = True, put_on_in(db, exercise, setup.row.id).solved.output
    elif exercise.on and walk is not None and exercise.walk_id == walk.row.id:
        on, output = True, put_walk_on(db, exercise, walk.row.id).solved.output
    said = said or (hint(lesson, "started") if not row.events else None)
    place = target.drawn_as.places([0.0])[0] if target is not None and target.drawn_as is not None else (0.0, 0.0)  # type: ignore[arg-type]
    return YardView(
        job_id=job.row.id,
        lesson=row.lesson,
        name=row.name,
        point=lesson.point,
        task=lesson.task,
        level=row.level,
        seed=row.seed,
        target=lesson.target,
        target_line_id=None if target is None else target.row.id,
        goals=[goal_text(g, job.units) for g in lesson.goals],
        tool=lesson.tool,
        rod=None if lesson.tool != "sonde" else _rod(exercise, target, job.units),
        walk=None if walk is None else _walk(walk),
        on=on,
        hooked=None if setup is None else _hooked(setup),
        volts=None if output is None else output.volts,
        milliamps=None if output is None or output.amps is None else 1e3 * output.amps,
        shows="" if output is None else output_text(output),
        looks=setup is not None and not setup.setup.by.through_air,
        acts=[ActView(id=a, label=ACT_LABEL[a], done=a in exercise.acts) for a in acts_of(setup)],
        frequencies=[
            FrequencyChoice(freq_hz=PASSIVE_HZ, label=PASSIVE_LABEL),
            *(FrequencyChoice(freq_hz=f.freq_hz, label=show_hz(f.freq_hz)) for f in job.stock_kit.frequencies),
        ],
        old_paint=[
            OldPaintView(
                text=old_paint_text(job.marking.utility(x.utility).label),
                hex=job.marking.utility(x.utility).hex,
                route=[[*at] for at in x.route],
            )
            for x in lesson.old_paint
        ],
        hits=[[h.at[0], h.at[1]] for h in job.pre_start.passive.hits if h.at is not None],
        sends_hz=None if setup is None else exercise.freq_hz or setup.row.freq_hz,
        receiver_hz=lesson.receiver_hz or job.kit.frequencies[0].freq_hz,
        start=[float(place[0]), float(place[1])],
        remark=remark_text(said, job.units),
        ended=row.ended_at is not None,
    )


def target_line(job: LoadedJob, exercise: Exercise) -> LoadedLine | None:
    """Return the line of the job that is to be located."""
    return next((x for x in job.lines if exercise.row.names.get(str(x.row.id)) == exercise.lesson.target), None)


def newest_walk(job: LoadedJob) -> LoadedWalk | None:
    """Return the walk with the frame begun last in a job."""
    return max((w for line in job.lines for w in line.walks), key=lambda w: int(w.row.id), default=None)


def _rod(exercise: Exercise, target: LoadedLine | None, units: Units) -> RodView:
    run, head = None if target is None else target.run_in_use, exercise.head
    return RodView(
        rod_m=exercise.rod_m,
        rod=show_length(exercise.rod_m, units),
        stuck=head is not None and head.at_end,
        run_id=None if run is None else run.row.id,
        steps_open=0 if run is None else len(set(SONDE_STEPS) - set(run.row.steps_done)),
    )


def _walk(walk: LoadedWalk) -> WalkInYard:
    at, stake_at = stands_at(walk.line.line, walk.walk)
    return WalkInYard(
        walk_id=walk.row.id,
        text=walk_hooked_text(walk.walk),
        at=[*at],
        stake_at=[*stake_at],
        steps_open=len(set(FAULT_STEPS) - set(walk.row.steps_done)),
    )


def acts_of(setup: LoadedSetup | None) -> tuple[Act, ...]:
    """Return what can be done at a hookup."""
    if setup is None:
        return ()
    if setup.setup.by.connects:
        return ("stake_deeper", "clean_clip", "earth_far", "open_bonds")
    return ("earth_far", "open_bonds")


def open_guards(setup: LoadedSetup) -> list[str]:
    """Return the steps of the safe order that protect a person and are not ticked."""
    steps = checklist(setup.line.line, setup.setup, bonds_open=setup.bonds_open)
    return [s.id for s in steps if s.protects and s.id not in setup.row.steps_done]


def _hooked(setup: LoadedSetup) -> HookedUp:
    row, line = setup.row, setup.line.line
    drawn = setup.line.drawn_as
    on_plan = hookup_on(line, setup.setup)
    at = on_plan.coil_at if drawn is not None else (0.0, 0.0)
    stake = on_plan.stake_at if setup.setup.by.connects else None
    return HookedUp(
        setup_id=row.id,
        line_id=setup.line.row.id,
        line=setup.line.row.name,
        text=hooked_text(setup.setup),
        freq_hz=row.freq_hz,
        freq_text=show_hz(row.freq_hz),
        receiver_hz=row.rx_freq_hz,
        at=[*at],
        stake_at=None if stake is None else [*stake],
        through_air=setup.setup.by.through_air,
        steps_open=open_guards(setup),
    )


def debrief_view(job: LoadedJob, exercise: Exercise) -> DebriefView:
    """Return how an exercise went, with the ground laid open."""
    row, lesson, units = exercise.row, exercise.lesson, job.units
    found = debrief_of(job, exercise)
    return DebriefView(
        job_id=job.row.id,
        name=row.name,
        lesson=row.lesson,
        level=row.level,
        seed=row.seed,
        headline=headline_text(found),
        passed=found.passed,
        score=found.score,
        minutes=_minutes(row.started_at, row.ended_at or row.started_at),
        setups=attempt_of(job, exercise).setups,
        goals=[GoalView(text=goal_text(g.goal, units), met=g.met, reached=reached_text(g, units)) for g in found.goals],
        truth=[
            TruthView(
                name=x.name,
                hex=job.marking.utility(x.utility).hex,
                route=[[e, n] for e, n, _ in x.route],
                depths_m=[d for _, _, d in x.route],
                known=x.known,
                target=x.name == lesson.target,
            )
            for x in lesson.lines
        ],
        marks=[
            MarkedView(
                number=k,
                line=m.mark.line,
                at=[*m.mark.at],
                verdict=m.mark.verdict,
                right=m.right,
                strike=m.strike,
                heeded=m.heeded,
                text=mark_text(m, units),
                why=why_text(m),
            )
            for k, m in enumerate(found.marks, start=1)
        ],
        timeline=_timeline(job, exercise.row.events, units),
    )


def _minutes(start: str, end: str) -> int:
    began, ended = (datetime.fromisoformat(x) for x in (start, end))
    return max(1, round((ended - began).total_seconds() / 60))


def _timeline(job: LoadedJob, events: Sequence[dict[str, object]], units: Units) -> list[HappenedView]:
    """Return what happened in its order; the clock counts seconds, within one of them the order of the work decides."""
    hooked, logged = list[HappenedView](), list[HappenedView]()
    for line in job.lines:
        for setup in line.setups:
            said = f"{line.row.name}: {hooked_text(setup.setup)}"
            hooked.append(HappenedView(at=setup.row.created_at, text=said, at_place=None))
            for s in setup.stations:
                place = s.row.place and s.row.place.get("at")
                where = [float(x) for x in place] if place else None
                said = station_happened(s.row.distance_m, line.row.name, units)
                logged.append(HappenedView(at=s.row.taken_at, text=said, at_place=where))
                if s.mark is not None:
                    logged.append(
                        HappenedView(at=s.mark.marked_at, text=painted_happened(s.mark.label), at_place=where)
                    )
    acted = [HappenedView(at=str(e["at"]), text=happened_text(str(e["what"])), at_place=None) for e in events]
    return sorted([*hooked, *acted, *logged], key=lambda h: h.at)
