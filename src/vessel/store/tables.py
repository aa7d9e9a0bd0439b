"""Tables of the store. SI units; times are ISO 8601 UTC text; rows are hidden (`deleted_at`), never lost."""

from __future__ import annotations

from sqlalchemy import JSON, ForeignKey, Index, LargeBinary, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from vessel.core.model.entry_fields import CANDIDATE_FIELDS, READING_FIELDS, STATION_FIELDS
from vessel.store.special_tables import FaultWalkRow, SondeRunRow, StopRow
from vessel.store.table_base import Base, Json, TakenOnSite, with_columns


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
    """Evidence of which line it is under a hookup: its kind, what it says, and what was read with it."""

    __tablename__ = "identity_evidence"
    id: Mapped[int] = mapped_column(primary_key=True)
    setup_id: Mapped[int] = mapped_column(ForeignKey("setups.id"), index=True)
    kind: Mapped[str]
    answer: Mapped[str]
    at_m: Mapped[float | None]
    own_a: Mapped[float | None]
    other_a: Mapped[float | None]
    earlier: Mapped[bool] = mapped_column(default=False)
    depth_m: Mapped[float | None]
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


with_columns(StationRow, STATION_FIELDS)
with_columns(ReadingRow, READING_FIELDS)
with_columns(CandidateRow, CANDIDATE_FIELDS)
