"""Hookups: safe order, transmitter readings, diagnosis."""

from __future__ import annotations

from dataclasses import replace
from typing import cast

from fastapi import APIRouter

from vessel.api.form_reading import Reader
from vessel.api.hookup.forms import ReadingForm, SetupForm, SetupPatch
from vessel.api.hookup.present import hookup_view, preview_view, remedies_view
from vessel.api.hookup.views import HookupView, PreviewView, RemediesView
from vessel.api.job_answers import live_readings
from vessel.api.requests import REFUSALS, Created, Db, get
from vessel.core.base.errors import Conflict
from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.hookup.safe_order import checklist, require_order
from vessel.core.hookup.transmitter_forecast import require_clear_stake, require_place, stake_away_m, stake_moved
from vessel.core.model.kit import Kit
from vessel.core.model.readings import Change
from vessel.core.simulate.hookup_places import access_at, nearest_access, safety_rejection
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_on, line_of, reading_of, setup_of, soil_of
from vessel.store.database import now
from vessel.store.tables import LineRow, ReadingRow, SetupRow
from vessel.words.option_sentences import REJECTED

_ROUNDING_M = 0.06
router = APIRouter(prefix="/api", tags=["hookups"], responses=REFUSALS)


def _units(setup: SetupRow) -> Units:
    return cast(Units, setup.line.job.units)


def _kit(setup: SetupRow) -> Kit:
    return kit_on(setup.line.job)


@router.get("/setups/{setup_id}")
def hookup(setup_id: int, db: Db) -> HookupView:
    """Return a hookup with forecast, readings and diagnosis."""
    return hookup_view(get(db, SetupRow, setup_id, "hookup"))


@router.patch("/setups/{setup_id}")
def change_hookup(setup_id: int, form: SetupPatch, db: Db) -> HookupView:
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
def preview(setup_id: int, form: ReadingForm, db: Db) -> PreviewView:
    """Return what a reading would say while it is being typed; nothing is stored."""
    setup = get(db, SetupRow, setup_id, "hookup")
    made = {cast(Change, c) for c in (form.change, *(r.change for r in live_readings(setup))) if c}
    reading = replace(reading_of(_typed_reading(setup, form)), changes=tuple(sorted(made)))
    return preview_view(setup, reading)


@router.post("/setups/{setup_id}/readings", status_code=201)
def add_reading(setup_id: int, form: ReadingForm, db: Db) -> HookupView:
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
def remedies(setup_id: int, db: Db) -> RemediesView:
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


@router.post("/lines/{line_id}/setups", status_code=201)
def create_setup(line_id: int, form: SetupForm, db: Db) -> Created:
    """Start a hookup; earlier ones stay on record with their readings."""
    row = get(db, LineRow, line_id, "line")
    kit = kit_on(row.job)
    values = form.values(cast(Units, row.job.units), lead_m=kit.lead_m)
    setup = SetupRow(
        **values, line_id=row.id, steps_done=[], technician=form.technician or row.job.technician, created_at=now()
    )
    setup_of(setup).require_on(row.length_m)
    if setup.stake_at is not None:
        setup.stake_away_m = stake_away_m(line_of(row, row.job), setup_of(setup))
        require_place(line_of(row, row.job), setup_of(setup))
    require_clear_stake(line_of(row, row.job), soil_of(row.job), setup_of(setup))
    frequency = kit.frequency(setup_of(setup).freq_hz)
    setup.freq_hz = frequency.freq_hz
    kit.require_lead(setup.stake_away_m)
    if setup.rx_freq_hz is not None:
        setup.rx_freq_hz = kit.frequency(setup.rx_freq_hz, at="rx_freq").freq_hz
    core_line, core_setup = line_of(row, row.job), setup_of(setup)
    at = core_setup.position_m
    point = access_at(core_line, at) if core_setup.method == "direct" else nearest_access(core_line, at)[2]
    why = safety_rejection(core_setup.method, point, kit)
    if why is not None:
        raise Conflict(REJECTED[why], field="hookup", fix="Choose another hookup.")
    db.add(setup)
    db.flush()
    return Created(id=setup.id)
