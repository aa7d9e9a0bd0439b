"""The lessons, the exercises of a technician, and what the crew did, presented."""

from __future__ import annotations

from collections import defaultdict

from sqlalchemy import select
from sqlalchemy.orm import Session, defer, joinedload

from vessel.api.practice.lessons import lessons
from vessel.api.practice.views import CrewRow, CrewTable, DifficultyView, ExerciseListed, LessonListed, PracticeView
from vessel.core.practice.random_site import LEVELS
from vessel.store.server_tables import ExerciseRow
from vessel.words.practice_sentences import LEVEL_LABEL

_LATEST = 20
_UNREAD = tuple(defer(c) for c in (ExerciseRow.ground, ExerciseRow.names, ExerciseRow.state, ExerciseRow.events))
"""What no list of exercises shows."""


def practice_view(db: Session, technician: str) -> PracticeView:
    """Return the lessons with a technician's results, and the exercises begun and ended."""
    asked = select(ExerciseRow).options(joinedload(ExerciseRow.job), *_UNREAD).order_by(ExerciseRow.id.desc())
    rows = list(db.scalars(asked))
    mine: dict[str, list[ExerciseRow]] = defaultdict(list)
    for row in rows:
        if row.ended_at is not None and row.technician == technician:
            mine[row.lesson].append(row)
    open_rows = [r for r in rows if r.ended_at is None and r.job.deleted_at is None]
    return PracticeView(
        lessons=[
            LessonListed(
                id=each.id,
                order=each.order,
                name=each.name,
                point=each.point,
                tries=len(mine[each.id]),
                passed=any(r.passed for r in mine[each.id]),
                best=max((r.score or 0 for r in mine[each.id]), default=None),
            )
            for each in lessons()
        ],
        levels=[DifficultyView(id=each, label=LEVEL_LABEL[each][0], note=LEVEL_LABEL[each][1]) for each in LEVELS],
        running=[_listed(r) for r in open_rows],
        ended=[_listed(r) for r in rows if r.ended_at is not None][:_LATEST],
    )


def _listed(row: ExerciseRow) -> ExerciseListed:
    return ExerciseListed(**{k: getattr(row, k) for k in ExerciseListed.model_fields})


def crew_table(db: Session) -> CrewTable:
    """Return what each technician of the crew did in the yard."""
    by: dict[str, list[ExerciseRow]] = defaultdict(list)
    for row in db.scalars(select(ExerciseRow).options(*_UNREAD).where(ExerciseRow.ended_at.is_not(None))):
        by[row.technician].append(row)
    rows = [
        CrewRow(
            technician=name,
            exercises=len(done),
            lessons_passed=len({r.lesson for r in done if r.passed and not r.level}),
            mean_score=round(sum(r.score or 0 for r in done) / len(done)),
            strikes=sum(r.strikes or 0 for r in done),
            last_at=max(r.ended_at or "" for r in done),
        )
        for name, done in sorted(by.items())
    ]
    return CrewTable(lessons=len(lessons()), rows=rows)
