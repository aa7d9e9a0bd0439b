"""Hookups: safe order, transmitter readings, diagnosis; stations under a hookup."""

from __future__ import annotations

from dataclasses import replace
from typing import cast

from fastapi import APIRouter

from vessel.api import views
from vessel.api.compute import live_readings, live_stations
from vessel.api.inputs import Reader, ReadingForm, SetupPatch
from vessel.api.present.across import across_view
from vessel.api.present.hookup import hookup_view, preview_view, remedies_view
from vessel.api.present.trace import trace_view
from vessel.api.routes import REFUSALS, Db, get
from vessel.api.station_inputs import PlacedStationForm
from vessel.core.base.errors import BadInput, Conflict
from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.hookup.safe_order import checklist, require_order
from vessel.core.hookup.transmitter_forecast import require_place, stake_moved
from vessel.core.judge.across.cross_section import fit_across
from vessel.core.judge.station.entry_slips import slip
from vessel.core.model.kit import Kit
from vessel.core.model.readings import Change
from vessel.core.text.figures import show_length, show_station
from vessel.core.text.units import Units
from vessel.formats.to_core import kit_on, line_of, reading_of, setup_of, station_of
from vessel.store.database import now
from vessel.store.tables import ReadingRow, SetupRow, StationRow

_ROUNDING_M = 0.06
_LOOKED_BACK = 40  # stations
router = APIRouter(prefix="/api", tags=["hookups"], responses=REFUSALS)
SAME_STATION_M = 0.05


def _units(setup: SetupRow) -> Units:
    return cast(Units, setup.line.job.units)


def _kit(setup: SetupRow) -> Kit:
    return kit_on(setup.line.job)


@router.get("/setups/{setup_id}")
def hookup(setup_id: int, db: Db) -> views.HookupView:
    """Return a hookup with forecast, readings and diagnosis."""
    return hookup_view(get(db, SetupRow, setup_id, "hookup"))


@router.get("/setups/{setup_id}/across")
def across(setup_id: int, at_m: float, db: Db) -> views.AcrossView:
    """Return the forecast across the line at one place [m] along it."""
    return across_view(get(db, SetupRow, setup_id, "hookup"), at_m)


@router.patch("/setups/{setup_id}")
def change_hookup(setup_id: int, form: SetupPatch, db: Db) -> views.HookupView:
    """Tick steps, or record the receiver's frequency and what the stake measured."""
    row = get(db, SetupRow, setup_id, "hookup")
    values = form.values(_units(row))
    if values.get("rx_freq_hz") is not None:
        values["rx_freq_hz"] = _kit(row).frequency(values["rx_freq_hz"], at="rx_freq").freq_hz
    before_m = row.stake_away_m
    with db.no_autoflush:
        for key, value in values.items():
            setattr(row, key, value)
        if row.stake_at is not None and row.stake_away_m != before_m:
            _move_stake(row, before_m)
        setup = setup_of(row)
        if form.steps_done is not None:
            require_order(checklist(line_of(row.line, row.line.job), setup), row.steps_done)
        _kit(row).require_lead(row.stake_away_m)
    db.flush()
    return hookup_view(row)


def _move_stake(row: SetupRow, before_m: float) -> None:
    """Put a stake of the site plan at another distance on the same bearing; the form rounds, so a hair is no move."""
    if abs(row.stake_away_m - before_m) < _ROUNDING_M:
        row.stake_away_m = before_m
        return
    line = line_of(row.line, row.line.job)
    row.stake_at = list(stake_moved(line, setup_of(row), before_m))
    require_place(line, setup_of(row))


def _typed_reading(setup: SetupRow, form: ReadingForm) -> ReadingRow:
    reader = Reader(form, _units(setup))
    freq = reader.read("freq", "frequency")
    return ReadingRow(
        volts=reader.must("volts", "volts", "Volts"),
        amps=reader.must("milliamps", "current", "Milliamps"),
        freq_hz=setup.freq_hz if freq is None else _kit(setup).meant_hz(freq),
        change=form.change,
        note=form.note,
        technician=form.technician or setup.line.job.technician,
        taken_at=now(),
    )


@router.post("/setups/{setup_id}/readings/preview")
def preview(setup_id: int, form: ReadingForm, db: Db) -> views.PreviewView:
    """Return what a reading would say while it is being typed; nothing is stored."""
    setup = get(db, SetupRow, setup_id, "hookup")
    made = {cast(Change, c) for c in (form.change, *(r.change for r in live_readings(setup))) if c}
    reading = replace(reading_of(_typed_reading(setup, form)), changes=tuple(sorted(made)))
    return preview_view(setup, reading)


@router.post("/setups/{setup_id}/readings", status_code=201)
def add_reading(setup_id: int, form: ReadingForm, db: Db) -> views.HookupView:
    """Add a transmitter reading."""
    setup = get(db, SetupRow, setup_id, "hookup")
    row = _typed_reading(setup, form)
    wrong = doubt(reading_of(row), setup_of(setup), _kit(setup))
    if wrong is not None and not form.insist:
        raise wrong
    setup.readings.append(row)
    db.flush()
    return hookup_view(setup)


@router.get("/setups/{setup_id}/remedies")
def remedies(setup_id: int, db: Db) -> views.RemediesView:
    """Return what would help a hookup, each remedy tried on the line as its readings explain it."""
    return remedies_view(get(db, SetupRow, setup_id, "hookup"))


@router.delete("/readings/{reading_id}", status_code=204)
def remove_reading(reading_id: int, db: Db) -> None:
    """Remove a transmitter reading; it can be restored."""
    get(db, ReadingRow, reading_id, "reading").deleted_at = now()


@router.post("/readings/{reading_id}/restore", status_code=204)
def restore_reading(reading_id: int, db: Db) -> None:
    """Undo the removal of a transmitter reading."""
    get(db, ReadingRow, reading_id, "reading", removed=True).deleted_at = None


@router.get("/setups/{setup_id}/trace")
def trace(setup_id: int, db: Db) -> views.TraceView:
    """Return the stations with their verdicts and the forecast."""
    return trace_view(get(db, SetupRow, setup_id, "hookup"))


def check_station(setup: SetupRow, row: StationRow) -> None:
    """Refuse readings that cannot be, or that tell no place across the line."""
    kit = kit_on(setup.line.job)
    fit_across(station_of(row), noise_t=kit.frequency(setup.freq_hz).noise_t, receiver=kit.receiver)


def ask_about_slips(setup: SetupRow, row: StationRow) -> None:
    """Raise what one would ask about a station's readings, beside those taken before it."""
    before = sorted((s for s in live_stations(setup) if s is not row), key=lambda s: s.id)
    if row.id is not None:
        before = [s for s in before if s.id < row.id]
    asked = slip(station_of(row), [station_of(s) for s in before[-_LOOKED_BACK:]], _units(setup))
    if asked is not None:
        raise asked


def refuse_twice(setup: SetupRow, row: StationRow) -> None:
    """Refuse a station far beyond the line, or where there is one already."""
    refuse_beyond(setup, row)
    for other in live_stations(setup):
        if other.id != row.id and abs(other.distance_m - row.distance_m) < SAME_STATION_M:
            raise same_station(other.distance_m, _units(setup))


def refuse_beyond(setup: SetupRow, row: StationRow) -> None:
    """Refuse a station far beyond the line."""
    length = setup.line.length_m
    if row.distance_m > 1.5 * length:
        raise BadInput(
            f"{show_length(row.distance_m, _units(setup))} is far beyond the line's "
            f"{show_length(length, _units(setup))}.",
            field="distance",
            fix="Correct the distance, or first make the line longer.",
        )


def same_station(at_m: float, units: Units) -> Conflict:
    """Return what is said where there is a station at `at_m` [m] already."""
    return Conflict(
        f"There is a station at {show_station(at_m, units)} already.",
        field="distance",
        fix="Open that one and correct it, or enter another distance.",
    )


@router.post("/setups/{setup_id}/stations", status_code=201)
def add_station(setup_id: int, form: PlacedStationForm, db: Db) -> views.TraceView:
    """Add a station; its verdict comes back with the trace."""
    setup = get(db, SetupRow, setup_id, "hookup")
    row = StationRow(**form.on(setup.line), technician=form.technician or setup.line.job.technician, taken_at=now())
    check_station(setup, row)
    refuse_twice(setup, row)
    if not form.insist:
        ask_about_slips(setup, row)
    setup.stations.append(row)
    db.flush()
    return trace_view(setup)
