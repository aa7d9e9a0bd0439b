"""Tables of the server itself: the journal, what was sent, exercises in the yard, who may sign in."""

from __future__ import annotations

from sqlalchemy import ForeignKey, Index
from sqlalchemy.orm import Mapped, mapped_column, relationship

from vessel.store.table_base import Base, Json
from vessel.store.tables import JobRow


class JournalRow(Base):
    """One change of one entry, never altered: who, when, on which device, what, old and new values by column, why.

    `kind` and `entry_id` say of which row; `what` names it where it came with a job file.
    """

    __tablename__ = "journal"
    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[str]
    who: Mapped[str]
    device: Mapped[str]
    job_id: Mapped[int | None] = mapped_column(index=True)
    kind: Mapped[str]
    entry_id: Mapped[int | None]
    what: Mapped[str]
    action: Mapped[str]
    changes: Mapped[Json]
    why: Mapped[str]


class PostRow(Base):
    """What a device named an entry it sent: the same name again is the same entry sent again."""

    __tablename__ = "posts"
    key: Mapped[str] = mapped_column(primary_key=True)
    at: Mapped[str] = mapped_column(index=True)


class ExerciseRow(Base):
    """An exercise in the practice yard: the lesson it is of, and the job of whoever practises.

    `ground`: the lesson as plain data, hidden until the debrief and kept out of the journal. `names`: by id of a line
    of the job, which line of the ground it is. `state`: what is on and what was done; `events`: what was done when.
    """

    __tablename__ = "exercises"
    __table_args__ = (Index("uq_exercises_job", "job_id", unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"))
    lesson: Mapped[str]
    name: Mapped[str]
    level: Mapped[str]
    seed: Mapped[int]
    technician: Mapped[str]
    ground: Mapped[Json]
    names: Mapped[Json]
    state: Mapped[Json]
    events: Mapped[list[Json]]
    started_at: Mapped[str]
    ended_at: Mapped[str | None]
    passed: Mapped[bool | None]
    score: Mapped[int | None]
    strikes: Mapped[int | None]
    job: Mapped[JobRow] = relationship()


class CrewPasswordRow(Base):
    """The crew's password as a hash; one row, or none."""

    __tablename__ = "crew_password"
    id: Mapped[int] = mapped_column(primary_key=True)
    hash: Mapped[str]
    set_at: Mapped[str]


class DeviceRow(Base):
    """A device that signed in, by the hash of its token; `ended_at`: it was signed out."""

    __tablename__ = "devices"
    __table_args__ = (Index("uq_devices_token", "token_hash", unique=True),)
    id: Mapped[int] = mapped_column(primary_key=True)
    token_hash: Mapped[str]
    name: Mapped[str]
    signed_in_at: Mapped[str]
    ended_at: Mapped[str | None]
