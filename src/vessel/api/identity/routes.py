"""Which line it is: evidence given and taken back."""

from __future__ import annotations

from fastapi import APIRouter

from vessel.api.consequences import Consequences, consequences
from vessel.api.hookup.beginning import begin_setup
from vessel.api.identity.again import again_from, kept_open, still_holding
from vessel.api.identity.answer_rows import answered
from vessel.api.identity.forms import AgainForm, EvidenceForm, OpenedBondForm
from vessel.api.identity.present import identity_view
from vessel.api.identity.views import AnswerCreated, BondReadView, IdentityView
from vessel.api.requests import REFUSALS, Created, Db, Saving, get, load_setup
from vessel.api.striking import Why, restore, strike
from vessel.core.base.errors import Conflict
from vessel.core.model.identity import EVIDENCE
from vessel.store.journal import entered_by
from vessel.store.tables import EvidenceRow, JobRow
from vessel.words.bond_sentences import bond_note, bond_read_text

router = APIRouter(prefix="/api", tags=["identity"], responses=REFUSALS)


@router.get("/setups/{setup_id}/identity")
def identity(setup_id: int, db: Db) -> IdentityView:
    """Return what shows which line a hookup's stations are on, and what to ask for next."""
    return identity_view(load_setup(db, setup_id))


@router.post("/setups/{setup_id}/identity", status_code=201)
def add_evidence(setup_id: int, form: EvidenceForm, db: Saving) -> AnswerCreated:
    """Add an answer; of each kind the last one counts, and earlier ones stay on record."""
    setup = load_setup(db, setup_id)
    if EVIDENCE[form.kind].anew and form.answer == "for":
        raise Conflict(
            "What was read before the bond was opened does not count with it open.",
            field="answer",
            fix="Say who agreed and trace the line again.",
        )
    rows = answered(form, setup.job.units, entered_by(db, form.technician, setup.job.row))
    setup.row.evidence += rows
    db.flush()
    return AnswerCreated(id=rows[0].id, along_id=rows[1].id if len(rows) > 1 else None)


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
    if not all(EVIDENCE[kind].suits(before.setup.by) for kind in form.opened):
        raise Conflict("By coil no bond of this line is opened.", field="changed", fix="Hook up to metal first.")
    anew = bool(before.live_readings or before.stations)
    row = begin_setup(db, before.line, again_from(before, form.changed), form.technician) if anew else before.row
    by = entered_by(db, form.technician, before.job.row)
    if anew:
        row.evidence += still_holding(before, form.changed)
    else:
        row.steps_done = []  # the transmitter is off while anything is changed
    row.evidence += [kept_open(kind, form.consent, by) for kind in form.opened]
    db.flush()
    return Created(id=row.id)


@router.post("/setups/{setup_id}/identity/consequences")
def consequences_of_answer(setup_id: int, form: EvidenceForm, db: Db) -> Consequences:
    """Return which verdicts an answer would alter; nothing is stored."""
    setup = load_setup(db, setup_id)
    answers = answered(form, setup.job.units, form.technician)

    def change(job: JobRow) -> None:
        next(s for line in job.lines for s in line.setups if s.id == setup_id).evidence.extend(answers)

    return consequences(db, [setup.line.row.job_id], change)


@router.delete("/identity/{evidence_id}", status_code=204)
def strike_evidence(evidence_id: int, db: Saving, why: Why = "") -> None:
    """Strike an answer out: it counts no more, stays on record with the reason, and can be restored."""
    strike(db, get(db, EvidenceRow, evidence_id, "answer"), why)


@router.post("/identity/{evidence_id}/restore", status_code=204)
def restore_evidence(evidence_id: int, db: Saving) -> None:
    """Let an answer that was struck out count again."""
    restore(get(db, EvidenceRow, evidence_id, "answer", removed=True))
