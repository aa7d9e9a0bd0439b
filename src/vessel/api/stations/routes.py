"""Stations and marks."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter
from fastapi.responses import JSONResponse
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from vessel.api.meanwhile import require_unchanged, seen_of
from vessel.api.requests import REFUSALS, Db, Saving, load_setup, load_station, stored
from vessel.api.stations.across import across_view
from vessel.api.stations.entry_checks import ask_about_slips, check_station, refuse_twice
from vessel.api.stations.forms import PlacedStationForm
from vessel.api.stations.present import station_detail, trace_view
from vessel.api.stations.views import AcrossView, StationDetail, StationStored, TraceView
from vessel.api.striking import Why, restore, strike
from vessel.core.base.errors import Conflict
from vessel.formats.loaded_job import LoadedSetup, LoadedStation
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import StationRow

router = APIRouter(prefix="/api", tags=["stations"], responses=REFUSALS)
_LONG = 400
_LATER: dict[int | str, dict[str, Any]] = {
    202: {"model": StationStored, "description": f"Stored; more than {_LONG} stations are judged when asked for"}
}


def _stored(db: Session, setup: LoadedSetup) -> Any:
    """Store what was entered; return the trace, of a long one only that it is stored."""
    setup_id = setup.row.id
    live = select(func.count()).where(StationRow.setup_id == setup_id, StationRow.deleted_at.is_(None))
    stored(db)
    count = db.scalar(live) or 0
    if count <= _LONG:
        return trace_view(setup)
    return JSONResponse(StationStored(setup_id=setup_id, stations=count).model_dump(), 202)


def _unmarked(station: LoadedStation, doing: str) -> None:
    if station.mark:
        raise Conflict(
            f"This station carries a mark, so it cannot be {doing}.",
            field="station",
            fix="Withdraw the mark first; it stays on record.",
        )


@router.get("/stations/{station_id}")
def station(station_id: int, db: Db) -> StationDetail:
    """Return one station with every finding."""
    found = load_station(db, station_id)
    return station_detail(found, seen=seen_of(db, found.setup.line.row.job_id))


@router.put("/stations/{station_id}", response_model=TraceView, responses=_LATER)
def change_station(station_id: int, form: PlacedStationForm, db: Saving) -> Any:
    """Correct a station in place."""
    station = load_station(db, station_id)
    row, setup = station.row, station.setup
    _unmarked(station, "changed")
    require_unchanged(db, setup.line.row.job, form.seen, kind="stations", entry=station_id)
    values = form.on(setup.line)
    with db.no_autoflush:
        for key, value in values.items():
            setattr(row, key, value)
        check_station(setup, row)
        refuse_twice(db, setup, row)
        if not form.insist:
            ask_about_slips(db, setup, row)
    return _stored(db, setup)


@router.delete("/stations/{station_id}", status_code=204)
def strike_station(station_id: int, db: Saving, why: Why = "") -> None:
    """Strike a station out: it counts no more, stays on record with the reason, and can be restored."""
    station = load_station(db, station_id)
    _unmarked(station, "struck out")
    strike(db, station.row, why)


@router.post("/stations/{station_id}/restore", status_code=204)
def restore_station(station_id: int, db: Saving) -> None:
    """Let a station that was struck out count again."""
    station = load_station(db, station_id, removed=True)
    refuse_twice(db, station.setup, station.row)
    restore(station.row)


@router.get("/setups/{setup_id}/trace")
def trace(setup_id: int, db: Db) -> TraceView:
    """Return the stations with their verdicts and the forecast."""
    return trace_view(load_setup(db, setup_id))


@router.get("/setups/{setup_id}/across")
def across(setup_id: int, at_m: float, db: Db) -> AcrossView:
    """Return the forecast across the line at one place [m] along it."""
    return across_view(load_setup(db, setup_id), at_m)


@router.post("/setups/{setup_id}/stations", status_code=201, response_model=TraceView, responses=_LATER)
def add_station(setup_id: int, form: PlacedStationForm, db: Saving) -> Any:
    """Add a station; its verdict comes back with the trace."""
    setup = load_setup(db, setup_id)
    row = StationRow(**form.on(setup.line), technician=entered_by(db, form.technician, setup.job.row), taken_at=now())
    check_station(setup, row)
    refuse_twice(db, setup, row)
    if not form.insist:
        ask_about_slips(db, setup, row)
    row.setup_id = setup.row.id
    db.add(row)
    return _stored(db, setup)
