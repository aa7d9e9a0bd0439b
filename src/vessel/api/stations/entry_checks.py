"""What is asked or refused before a station is kept."""

from __future__ import annotations

from sqlalchemy import Select, func, select
from sqlalchemy.orm import Session

from vessel.api.on_the_line import refuse_far_beyond
from vessel.core.base.errors import Conflict
from vessel.core.judge.across.cross_section import fit_across
from vessel.core.judge.station.entry_slips import slip
from vessel.core.text.figures import show_station
from vessel.core.text.units import Units
from vessel.formats.adapters import station_of
from vessel.formats.loaded_job import LoadedSetup
from vessel.store.tables import StationRow

_LOOKED_BACK = 40  # stations


SAME_STATION_M = 0.05


def live_but(setup: LoadedSetup, row: StationRow) -> Select[StationRow]:
    """Return the statement that selects the stations of a hookup that were not struck out, but for one."""
    live = select(StationRow).where(StationRow.setup_id == setup.row.id, StationRow.deleted_at.is_(None))
    return live if row.id is None else live.where(StationRow.id != row.id)


def check_station(setup: LoadedSetup, row: StationRow) -> None:
    """Refuse readings that cannot be, or that tell no place across the line."""
    kit = setup.job.kit
    fit_across(station_of(row), noise_t=kit.frequency(setup.setup.freq_hz).noise_t, receiver=kit.receiver)


def ask_about_slips(db: Session, setup: LoadedSetup, row: StationRow) -> None:
    """Raise what one would ask about a station's readings, beside those taken before it."""
    before = live_but(setup, row).order_by(StationRow.id.desc()).limit(_LOOKED_BACK)
    if row.id is not None:
        before = before.where(StationRow.id < row.id)
    asked = slip(station_of(row), [station_of(s) for s in reversed(db.scalars(before).all())])
    if asked is not None:
        raise asked


def refuse_twice(db: Session, setup: LoadedSetup, row: StationRow) -> None:
    """Refuse a station far beyond the line, or where there is one already."""
    refuse_far_beyond(setup.line, row.distance_m)
    there = live_but(setup, row).where(func.abs(StationRow.distance_m - row.distance_m) < SAME_STATION_M)
    other = db.scalars(there.limit(1)).first()
    if other is not None:
        raise same_station(other.distance_m, setup.job.units)


def same_station(at_m: float, units: Units) -> Conflict:
    """Return what is said where there is a station at `at_m` [m] already."""
    return Conflict(
        f"There is a station at {show_station(at_m, units)} already.",
        field="distance",
        fix="Open that one and correct it, or enter another distance.",
    )
