"""Hookups: safe order, transmitter readings, diagnosis."""

from __future__ import annotations

from dataclasses import replace
from typing import Any, cast

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.hookup.beginning import begin_setup
from vessel.api.hookup.forms import ReadingForm, ReadingPatch, SetupForm, SetupPatch
from vessel.api.hookup.present import hookup_view, preview_view, remedies_view
from vessel.api.hookup.views import HookupView, PreviewView, RemediesView
from vessel.api.requests import REFUSALS, Created, Db, Saving, get, load_line, load_setup, stored
from vessel.api.striking import Why, restore, strike
from vessel.core.diagnose.impossible_readings import doubt
from vessel.core.hookup.safe_order import checklist, receiver_set, require_order
from vessel.core.hookup.transmitter_forecast import require_place, stake_moved
from vessel.core.model.line import Line
from vessel.core.model.readings import Change
from vessel.formats.adapters import reading_of, setup_of
from vessel.formats.loaded_job import LoadedSetup
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import JobRow, ReadingRow, SetupRow

_ROUNDING_M = 0.06
router = APIRouter(prefix="/api", tags=["hookups"], responses=REFUSALS)


@router.get("/setups/{setup_id}")
def hookup(setup_id: int, db: Db) -> HookupView:
    """Return a hookup with forecast, readings and diagnosis."""
    return hookup_view(load_setup(db, setup_id))


@router.patch("/setups/{setup_id}")
def change_hookup(setup_id: int, form: SetupPatch, db: Saving) -> HookupView:
    """Tick steps, or record the receiver's frequency and what the stake measured."""
    loaded = load_setup(db, setup_id)
    row, job = loaded.row, loaded.job
    values = form.values(job.units)
    if values.get("rx_freq_hz") is not None:
        values["rx_freq_hz"] = job.kit.frequency(values["rx_freq_hz"], at="rx_freq").freq_hz
    before_m, before = row.stake_away_m, row.steps_done
    with db.no_autoflush:
        for key, value in values.items():
            setattr(row, key, value)
        if row.stake_at is not None and row.stake_away_m != before_m:
            _move_stake(loaded.line.line, row, before_m)
        setup = setup_of(row)
        if form.steps_done is not None:
            require_order(checklist(loaded.line.line, setup, bonds_open=loaded.bonds_open), row.steps_done)
            row.rx_freq_hz = receiver_set(row.freq_hz, row.rx_freq_hz, before=before, after=row.steps_done)
        job.kit.require_lead(row.stake_away_m)
    stored(db)
    return hookup_view(loaded)


def _move_stake(line: Line, row: SetupRow, before_m: float) -> None:
    """Put a stake of the site plan at another distance on the same bearing; the form rounds, so a hair is no move."""
    if abs(row.stake_away_m - before_m) < _ROUNDING_M:
        row.stake_away_m = before_m
        return
    row.stake_at = list(stake_moved(line, setup_of(row), before_m))
    require_place(line, setup_of(row))


def _typed_reading(db: Db, setup: LoadedSetup, form: ReadingForm) -> Any:
    found, _ = form.at(setup.row.freq_hz).read(setup.job.units)
    if form.freq_hz:
        found["freq_hz"] = setup.job.kit.meant_hz(found["freq_hz"])
    return ReadingRow(
        **found,
        note=form.note,
        technician=entered_by(db, form.technician, setup.job.row),
        taken_at=now(),
    )


@router.post("/setups/{setup_id}/readings/preview")
def preview(setup_id: int, form: ReadingForm, db: Db) -> PreviewView:
    """Return what a reading would say while it is being typed; nothing is stored."""
    setup = load_setup(db, setup_id)
    row = _typed_reading(db, setup, form)
    made = {cast(Change, r.change) for r in (row, *setup.live_readings) if r.change}
    reading = replace(reading_of(row), changes=tuple(sorted(made)))
    return preview_view(setup, reading)


@router.post("/setups/{setup_id}/readings", status_code=201)
def add_reading(setup_id: int, form: ReadingForm, db: Saving) -> HookupView:
    """Add a transmitter reading."""
    setup = load_setup(db, setup_id)
    row = _typed_reading(db, setup, form)
    wrong = doubt(reading_of(row), setup.setup, setup.job.kit)
    if wrong is not None and not form.insist:
        raise wrong
    setup.row.readings.append(row)
    stored(db)
    return hookup_view(setup)


@router.post("/setups/{setup_id}/readings/consequences")
def consequences_of_reading(setup_id: int, form: ReadingForm, db: Db) -> Consequences:
    """Return which verdicts one more reading would alter; nothing is stored."""
    setup = load_setup(db, setup_id)
    reading = _typed_reading(db, setup, form)
    wrong = doubt(reading_of(reading), setup.setup, setup.job.kit)

    def change(job: JobRow) -> None:
        row = next(s for line in job.lines for s in line.setups if s.id == setup_id)
        if wrong is None:  # one that cannot be is kept and not used
            row.readings.append(reading)

    return consequences(db, [setup.line.row.job_id], change)


@router.get("/setups/{setup_id}/remedies")
def remedies(setup_id: int, db: Db) -> RemediesView:
    """Return what would help a hookup, each remedy tried on the line as its readings explain it."""
    return remedies_view(load_setup(db, setup_id))


@router.patch("/readings/{reading_id}", status_code=204)
def start_again(reading_id: int, form: ReadingPatch, db: Saving) -> None:
    """Let what is known of the loop start with a transmitter reading, or let those before it count again."""
    row: Any = get(db, ReadingRow, reading_id, "reading")
    row.anew = form.anew


@router.delete("/readings/{reading_id}", status_code=204)
def strike_reading(reading_id: int, db: Saving, why: Why = "") -> None:
    """Strike a transmitter reading out: it counts no more, stays on record with the reason, and can be restored."""
    strike(db, get(db, ReadingRow, reading_id, "reading"), why)


@router.post("/readings/{reading_id}/restore", status_code=204)
def restore_reading(reading_id: int, db: Saving) -> None:
    """Let a transmitter reading that was struck out count again."""
    restore(get(db, ReadingRow, reading_id, "reading", removed=True))


@router.post("/lines/{line_id}/setups", status_code=201)
def create_setup(line_id: int, form: SetupForm, db: Saving) -> Created:
    """Start a hookup; earlier ones stay on record with their readings."""
    line = load_line(db, line_id)
    values = form.values(line.job.units, lead_m=line.job.kit.lead_m)
    return Created(id=begin_setup(db, line, values, form.technician).id)
