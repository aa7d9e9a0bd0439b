"""Tables of the store. SI units; times are ISO 8601 UTC text; rows are hidden (`deleted_at`), never lost."""

from __future__ import annotations

from typing import Any

from sqlalchemy import (
    JSON,
    Boolean,
    Double,
    ForeignKey,
    Index,
    Integer,
    LargeBinary,
    MetaData,
    String,
    text,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column, relationship

from vessel.core.model.entry_fields import (
    CANDIDATE_FIELDS,
    READING_FIELDS,
    STATION_FIELDS,
    EntryField,
)
from vessel.core.model.special_fields import (
    FRAME_FIELDS,
    STOP_FIELDS,
)

Json = dict[str, Any]


class Base(DeclarativeBase):
    """Base of all tables, with named constraints so that migrations can address them."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(table_name)s_%(column_0_N_name)s",
            "fk": "fk_%(table_name)s_%(column_0_name)s_%(referred_table_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = dict.fromkeys(
        (Json, list[Json], list[float], list[str], list[list[float]], list[list[float | None]]), JSON
    )


class KitRow(Base):
    """A crew's kit: `data` is the kit as in `core.model.kit`."""

    __tablename__ = "kits"
    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    data: Mapped[Json]
    deleted_at: Mapped[str | None]


class JobRow(Base):
    """A job: site, soil, units and who is in charge."""

    __tablename__ = "jobs"
    id: Mapped[int] = mapped_column(primary_key=True)
    kit_id: Mapped[int] = mapped_column(ForeignKey("kits.id"))
    name: Mapped[str]
    dig: Mapped[str]
    address: Mapped[str] = mapped_column(server_default="", default="")
    notice: Mapped[str] = mapped_column(server_default="", default="")
    client: Mapped[str] = mapped_column(server_default="", default="")
    contact: Mapped[str] = mapped_column(server_default="", default="")
    due_at: Mapped[str | None]
    units: Mapped[str]
    soil_kind: Mapped[str]
    soil_resistivity_ohm_m: Mapped[float | None]
    technician: Mapped[str]
    site: Mapped[Json] = mapped_column(server_default="{}")
    before: Mapped[Json] = mapped_column("before_work", server_default="{}")
    marking: Mapped[Json] = mapped_column(server_default="{}")
    typed: Mapped[Json]
    created_at: Mapped[str]
    deleted_at: Mapped[str | None]
    kit: Mapped[KitRow] = relationship()
    lines: Mapped[list[LineRow]] = relationship(back_populates="job", order_by="LineRow.id")
    backgrounds: Mapped[list[BackgroundRow]] = relationship(order_by="BackgroundRow.id")


class LineRow(Base):
    """A line of a job with its construction as used (preset plus overrides)."""

    __tablename__ = "lines"
    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"), index=True)
    name: Mapped[str]
    utility: Mapped[str]
    preset: Mapped[str]
    construction: Mapped[Json | None] = mapped_column(JSON, nullable=False)
    length_m: Mapped[float]
    depth_min_m: Mapped[float]
    depth_max_m: Mapped[float]
    near: Mapped[Json]
    near_note: Mapped[str]
    far_kind: Mapped[str]
    far_earth_ohm: Mapped[float]
    neighbours: Mapped[list[Json]] = mapped_column(server_default="[]")
    points: Mapped[list[Json]] = mapped_column(server_default="[]")
    route: Mapped[list[list[float]]] = mapped_column(server_default="[]")
    typed: Mapped[Json]
    created_at: Mapped[str]
    deleted_at: Mapped[str | None]
    job: Mapped[JobRow] = relationship(back_populates="lines")
    setups: Mapped[list[SetupRow]] = relationship(back_populates="line", order_by="SetupRow.id")
    sonde_runs: Mapped[list[SondeRunRow]] = relationship(back_populates="line", order_by="SondeRunRow.id")
    fault_walks: Mapped[list[FaultWalkRow]] = relationship(back_populates="line", order_by="FaultWalkRow.id")


class SetupRow(Base):
    """One hookup of a line; a change of setup is a new row, so the history stays."""

    __tablename__ = "setups"
    id: Mapped[int] = mapped_column(primary_key=True)
    line_id: Mapped[int] = mapped_column(ForeignKey("lines.id"), index=True)
    hookup: Mapped[str]
    freq_hz: Mapped[float]
    rx_freq_hz: Mapped[float | None]
    output_a: Mapped[float]
    position_m: Mapped[float]
    stake_away_m: Mapped[float]
    stake_at: Mapped[list[float] | None]
    apart_m: Mapped[float | None]
    stake_ohm: Mapped[float | None]
    clip_ohm: Mapped[float]
    steps_done: Mapped[list[str]]
    technician: Mapped[str]
    created_at: Mapped[str]
    line: Mapped[LineRow] = relationship(back_populates="setups")
    readings: Mapped[list[ReadingRow]] = relationship(back_populates="setup", order_by="ReadingRow.id")
    candidates: Mapped[list[CandidateRow]] = relationship(back_populates="setup", order_by="CandidateRow.bearing_deg")
    evidence: Mapped[list[EvidenceRow]] = relationship(back_populates="setup", order_by="EvidenceRow.id")
    stations: Mapped[list[StationRow]] = relationship(back_populates="setup", order_by="StationRow.distance_m")


class TakenOnSite:
    """What every entry taken on site has: a note, who and when, and who struck it out, when and why."""

    note: Mapped[str]
    technician: Mapped[str]
    taken_at: Mapped[str]
    deleted_at: Mapped[str | None]
    struck_by: Mapped[str | None]
    struck_why: Mapped[str | None]


class ReadingRow(TakenOnSite, Base):
    """A reading of the transmitter; the columns of `READING_FIELDS` are added below."""

    __tablename__ = "transmitter_readings"
    id: Mapped[int] = mapped_column(primary_key=True)
    setup_id: Mapped[int] = mapped_column(ForeignKey("setups.id"), index=True)
    setup: Mapped[SetupRow] = relationship(back_populates="readings")


class CandidateRow(TakenOnSite, Base):
    """A centre line met on the first sweep of a hookup, as typed; the columns of `CANDIDATE_FIELDS` are added below."""

    __tablename__ = "candidates"
    id: Mapped[int] = mapped_column(primary_key=True)
    setup_id: Mapped[int] = mapped_column(ForeignKey("setups.id"), index=True)
    bearing_deg: Mapped[float]
    typed: Mapped[Json]
    setup: Mapped[SetupRow] = relationship(back_populates="candidates")


class EvidenceRow(TakenOnSite, Base):
    """Evidence of which line it is under a hookup: its kind, what it says, and where it belongs to a place."""

    __tablename__ = "identity_evidence"
    id: Mapped[int] = mapped_column(primary_key=True)
    setup_id: Mapped[int] = mapped_column(ForeignKey("setups.id"), index=True)
    kind: Mapped[str]
    answer: Mapped[str]
    at_m: Mapped[float | None]
    setup: Mapped[SetupRow] = relationship(back_populates="evidence")


class StationRow(TakenOnSite, Base):
    """Receiver readings at one station, with the text as typed; the columns of `STATION_FIELDS` are added below."""

    __tablename__ = "stations"
    __table_args__ = (
        Index("ix_stations_setup_id_distance_m", "setup_id", "distance_m"),
        Index("uq_stations_place", "setup_id", "distance_m", unique=True, sqlite_where=text("deleted_at IS NULL")),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    setup_id: Mapped[int] = mapped_column(ForeignKey("setups.id"))
    distance_m: Mapped[float]
    place: Mapped[Json | None]
    typed: Mapped[Json]
    setup: Mapped[SetupRow] = relationship(back_populates="stations")
    # a trace asks for the marks of all its stations: one by one that would be a query each
    marks: Mapped[list[MarkRow]] = relationship(back_populates="station", order_by="MarkRow.id", lazy="selectin")


class BackgroundRow(TakenOnSite, Base):
    """A scanned plan or photo under the site plan; another picture is a new row, so the history stays.

    `pins`: pixels right and down, then metres east and north, of two points; empty until it is placed. The picture
    itself is read only where it is asked for.
    """

    __tablename__ = "backgrounds"
    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(ForeignKey("jobs.id"), index=True)
    name: Mapped[str]
    media: Mapped[str]
    width_px: Mapped[int]
    height_px: Mapped[int]
    image: Mapped[bytes] = mapped_column(LargeBinary, deferred=True)
    pins: Mapped[list[list[float]]]
    fade: Mapped[str]
    typed: Mapped[Json]


class SondeRunRow(Base):
    """One run of a sonde through a line; a change of sonde or entry is a new row, so the history stays."""

    __tablename__ = "sonde_runs"
    id: Mapped[int] = mapped_column(primary_key=True)
    line_id: Mapped[int] = mapped_column(ForeignKey("lines.id"), index=True)
    freq_hz: Mapped[float]
    start_m: Mapped[float]
    way: Mapped[str]
    check_m: Mapped[float | None]
    check_signal: Mapped[float | None]
    fall: Mapped[float | None]
    steps_done: Mapped[list[str]]
    typed: Mapped[Json]
    technician: Mapped[str]
    created_at: Mapped[str]
    line: Mapped[LineRow] = relationship(back_populates="sonde_runs")
    stops: Mapped[list[StopRow]] = relationship(back_populates="run", order_by="StopRow.distance_m")


class StopRow(TakenOnSite, Base):
    """What was read at one stop of a sonde run, as typed; the columns of `STOP_FIELDS` are added below."""

    __tablename__ = "sonde_stops"
    __table_args__ = (
        Index("uq_sonde_stops_place", "run_id", "distance_m", unique=True, sqlite_where=text("deleted_at IS NULL")),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    run_id: Mapped[int] = mapped_column(ForeignKey("sonde_runs.id"), index=True)
    distance_m: Mapped[float]
    typed: Mapped[Json]
    run: Mapped[SondeRunRow] = relationship(back_populates="stops")
    marks: Mapped[list[MarkRow]] = relationship(back_populates="stop", order_by="MarkRow.id", lazy="selectin")


class FaultWalkRow(Base):
    """One walk with the frame along a line; a walk made anew is a new row, so the history stays."""

    __tablename__ = "fault_walks"
    id: Mapped[int] = mapped_column(primary_key=True)
    line_id: Mapped[int] = mapped_column(ForeignKey("lines.id"), index=True)
    freq_hz: Mapped[float]
    start_m: Mapped[float]
    volts: Mapped[float | None]
    amps: Mapped[float | None]
    frame_m: Mapped[float]
    stake_along_m: Mapped[float]
    stake_away_m: Mapped[float]
    reference: Mapped[float | None]
    steps_done: Mapped[list[str]]
    typed: Mapped[Json]
    technician: Mapped[str]
    created_at: Mapped[str]
    line: Mapped[LineRow] = relationship(back_populates="fault_walks")
    readings: Mapped[list[FrameReadingRow]] = relationship(back_populates="walk", order_by="FrameReadingRow.distance_m")
    marks: Mapped[list[MarkRow]] = relationship(back_populates="walk", order_by="MarkRow.id")


class FrameReadingRow(TakenOnSite, Base):
    """What the frame showed at a place, as typed; the columns of `FRAME_FIELDS` are added below."""

    __tablename__ = "frame_readings"
    id: Mapped[int] = mapped_column(primary_key=True)
    walk_id: Mapped[int] = mapped_column(ForeignKey("fault_walks.id"), index=True)
    distance_m: Mapped[float]
    typed: Mapped[Json]
    walk: Mapped[FaultWalkRow] = relationship(back_populates="readings")


class MarkRow(Base):
    """A mark on the ground, at a station, at a stop of a sonde run, or at a ground fault.

    `snapshot` keeps setup, readings, verdict and criteria version; it never changes.
    """

    __tablename__ = "marks"
    __table_args__ = (
        Index("uq_marks_standing", "station_id", unique=True, sqlite_where=text("withdrawn_at IS NULL")),
        Index("uq_marks_standing_at_stop", "stop_id", unique=True, sqlite_where=text("withdrawn_at IS NULL")),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    station_id: Mapped[int | None] = mapped_column(ForeignKey("stations.id"), index=True)
    stop_id: Mapped[int | None] = mapped_column(ForeignKey("sonde_stops.id"), index=True)
    walk_id: Mapped[int | None] = mapped_column(ForeignKey("fault_walks.id"), index=True)
    label: Mapped[str]
    colour: Mapped[str]
    verdict: Mapped[str]
    criteria_version: Mapped[str]
    reason: Mapped[str]
    painted_off_m: Mapped[float | None]
    snapshot: Mapped[Json]
    technician: Mapped[str]
    marked_at: Mapped[str]
    withdrawn_at: Mapped[str | None]
    withdrawn_by: Mapped[str | None]
    withdrawn_reason: Mapped[str | None]
    station: Mapped[StationRow | None] = relationship(back_populates="marks")
    stop: Mapped[StopRow | None] = relationship(back_populates="marks")
    walk: Mapped[FaultWalkRow | None] = relationship(back_populates="marks")

    @property
    def at_m(self) -> float:
        """Where along its line it was painted [m]: a later correction of what was read does not move the paint."""
        return float(self.snapshot["station"]["distance_m"])

    @property
    def line(self) -> LineRow:
        """The line that it marks."""
        if self.station is not None:
            return self.station.setup.line
        if self.stop is not None:
            return self.stop.run.line
        assert self.walk is not None
        return self.walk.line


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


_TYPES: dict[str, tuple[Any, Any]] = {
    "number": (Double(), None),
    "numbers": (JSON(), list),
    "pairs": (JSON(), list),
    "beside": (JSON(), list),
    "tick": (Boolean(), False),
}
"""SQL type and default of each shape that is not a choice."""


def _column(f: EntryField) -> Any:
    if f.shape == "choice":
        kind: Any = Integer() if isinstance(f.nothing, int) else String()
        return mapped_column(kind, nullable=False, default=f.nothing)
    kind, default = _TYPES[f.shape]
    return mapped_column(kind, nullable=f.shape == "number" and not f.required, default=default)


_TABLES = (
    (StationRow, STATION_FIELDS),
    (ReadingRow, READING_FIELDS),
    (CandidateRow, CANDIDATE_FIELDS),
    (StopRow, STOP_FIELDS),
    (FrameReadingRow, FRAME_FIELDS),
)
for _row, _fields in _TABLES:
    for _field in _fields:
        if not hasattr(_row, _field.column):
            setattr(_row, _field.column, _column(_field))
