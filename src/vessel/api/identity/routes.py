"""Which line it is: evidence given and taken back."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.hookup.beginning import begin_setup
from vessel.api.identity.again import STILL_HOLDS, again_from, copied, kept_open
from vessel.api.identity.forms import AgainForm, EvidenceForm, OpenedBondForm
from vessel.api.identity.present import identity_view
from vessel.api.identity.views import BondReadView, IdentityView
from vessel.api.requests import REFUSALS, Created, Db, Saving, get, load_setup
from vessel.api.striking import Why, restore, strike
from vessel.core.base.errors import Conflict
from vessel.core.model.identity import EVIDENCE
from vessel.formats.adapters import evidence_of
from vessel.formats.loaded_job import LoadedSetup
from vessel.store.database import now
from vessel.store.journal import entered_by
from vessel.store.tables import EvidenceRow, JobRow
from vessel.words.bond_sentences import bond_note, bond_read_text

router = APIRouter(prefix="/api", tags=["identity"], responses=REFUSALS)


@router.get("/setups/{setup_id}/identity")
def identity(setup_id: int, db: Db) -> IdentityView:
    """Return what shows which line a hookup's stations are on, and what to ask for next."""
    return identity_view(load_setup(db, setup_id))


@router.post("/setups/{setup_id}/identity", status_code=201)
def add_evidence(setup_id: int, form: EvidenceForm, db: Saving) -> Created:
    """Add an answer; of each kind the last one counts, and earlier ones stay on record."""
    setup = load_setup(db, setup_id)
    if EVIDENCE[form.kind].anew and form.answer == "for":
        raise Conflict(
            "What was read before the bond was opened does not count with it open.",
            field="answer",
            fix="Say who agreed and trace the line again.",
        )
    row = _answer(form, setup, entered_by(db, form.technician, setup.job.row))
    setup.row.evidence.append(row)
    db.flush()
    return Created(id=row.id)


@router.post("/setups/{setup_id}/identity/bond")
def read_bond(setup_id: int, form: OpenedBondForm, db: Db) -> BondReadView:
    """Return what the current with one bond open says of the line; nothing is stored."""
    setup = load_setup(db, setup_id)
    # of one kind the last answer counts: another bond must not outweigh one that says this is another line
    if any(e.kind == "bond_opened" and e.answer == "against" for e in setup.evidence):
        raise Conflict(
            "A bond opened before says that you are over another line.",
            field="steps_done",
            fix="Trace the line again. Strike that answer out only if it was misread.",
        )
    opened = form.opened(setup.job.units)
    note = bond_note(form.name, opened, form.consent)
    return BondReadView(answer=opened.says, text=bond_read_text(opened), note=note)


@router.post("/setups/{setup_id}/again", status_code=201)
def trace_again(setup_id: int, form: AgainForm, db: Saving) -> Created:
    """Start the line's trace again on ground that was changed for it; what was read before stays on record, as it was.

    Where nothing was read yet, the hookup itself goes on, its safe order from the start.
    """
    form.require_consent()
    before = load_setup(db, setup_id)
    anew = bool(before.live_readings or before.stations)
    row = begin_setup(db, before.line, again_from(before.row), form.technician) if anew else before.row
    by = entered_by(db, form.technician, before.job.row)
    if anew:  # what was seen in the box, and that a bond is open there, still holds
        row.evidence += [copied(e) for e in {e.kind: e for e in before.live_evidence if e.kind in STILL_HOLDS}.values()]
    else:
        row.steps_done = []  # the transmitter is off while anything is changed
    if form.changed == "bond":
        row.evidence.append(kept_open(form.consent, by))
    db.flush()
    return Created(id=row.id)


@router.post("/setups/{setup_id}/identity/consequences")
def consequences_of_answer(setup_id: int, form: EvidenceForm, db: Db) -> Consequences:
    """Return which verdicts an answer would alter; nothing is stored."""
    setup = load_setup(db, setup_id)
    answer = _answer(form, setup, form.technician)

    def change(job: JobRow) -> None:
        next(s for line in job.lines for s in line.setups if s.id == setup_id).evidence.append(answer)

    return consequences(db, [setup.line.row.job_id], change)


def _answer(form: EvidenceForm, setup: LoadedSetup, technician: str) -> EvidenceRow:
    row = EvidenceRow(
        kind=form.kind,
        answer=form.answer,
        at_m=form.at_m(setup.job.units),
        **form.currents_a(setup.job.units),
        note=form.note,
        technician=technician,
        taken_at=now(),
        deleted_at=None,
    )
    evidence_of(row)
    return row


@router.delete("/identity/{evidence_id}", status_code=204)
def strike_evidence(evidence_id: int, db: Saving, why: Why = "") -> None:
    """Strike an answer out: it counts no more, stays on record with the reason, and can be restored."""
    strike(db, get(db, EvidenceRow, evidence_id, "answer"), why)


@router.post("/identity/{evidence_id}/restore", status_code=204)
def restore_evidence(evidence_id: int, db: Saving) -> None:
    """Let an answer that was struck out count again."""
    restore(get(db, EvidenceRow, evidence_id, "answer", removed=True))
