"""The first sweep: centre lines met on the circle round a hookup."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.requests import REFUSALS, Db, Saving, get, load_setup, stored
from vessel.api.striking import Why, restore, strike
from vessel.api.sweep.forms import CandidateForm
from vessel.api.sweep.present import sweep_view
from vessel.api.sweep.views import SweepView
from vessel.formats.adapters import candidate_of
from vessel.formats.loaded_job import LoadedJob
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import CandidateRow

router = APIRouter(prefix="/api", tags=["sweep"], responses=REFUSALS)


@router.get("/setups/{setup_id}/sweep")
def sweep(setup_id: int, db: Db) -> SweepView:
    """Return the first sweep of a hookup with its verdict."""
    return sweep_view(load_setup(db, setup_id))


@router.post("/setups/{setup_id}/candidates", status_code=201)
def add_candidate(setup_id: int, form: CandidateForm, db: Saving) -> SweepView:
    """Add a centre line that was logged; the verdict comes back."""
    setup = load_setup(db, setup_id)
    row = CandidateRow(
        **form.values(setup.job.units),
        technician=entered_by(db, form.technician, setup.job.row),
        taken_at=now(),
        deleted_at=None,
    )
    candidate_of(row)
    setup.row.candidates.append(row)
    stored(db)
    return sweep_view(setup)


@router.put("/candidates/{candidate_id}")
def change_candidate(candidate_id: int, form: CandidateForm, db: Saving) -> SweepView:
    """Correct a centre line in place."""
    row = get(db, CandidateRow, candidate_id, "centre line")
    setup = LoadedJob(row.setup.line.job).setup(row.setup)
    values = form.values(setup.job.units)
    with db.no_autoflush:
        for key, value in values.items():
            setattr(row, key, value)
        candidate_of(row)
    stored(db)
    return sweep_view(setup)


@router.delete("/candidates/{candidate_id}", status_code=204)
def strike_candidate(candidate_id: int, db: Saving, why: Why = "") -> None:
    """Strike a centre line out: it counts no more, stays on record with the reason, and can be restored."""
    strike(db, get(db, CandidateRow, candidate_id, "centre line"), why)


@router.post("/candidates/{candidate_id}/restore", status_code=204)
def restore_candidate(candidate_id: int, db: Saving) -> None:
    """Let a centre line that was struck out count again."""
    restore(get(db, CandidateRow, candidate_id, "centre line", removed=True))
