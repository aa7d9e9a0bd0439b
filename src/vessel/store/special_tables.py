"""Tables of sonde runs and of walks with the frame. SI units."""

from __future__ import annotations

from typing import TYPE_CHECKING

from sqlalchemy import ForeignKey, Index, text
from sqlalchemy.orm import Mapped, mapped_column, relationship

from vessel.core.model.special_fields import FRAME_FIELDS, STOP_FIELDS
from vessel.store.table_base import Base, Json, TakenOnSite, with_columns

if TYPE_CHECKING:
    from vessel.store.tables import LineRow, MarkRow


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


with_columns(StopRow, STOP_FIELDS)
with_columns(FrameReadingRow, FRAME_FIELDS)
