"""Answers as they are stored."""

from __future__ import annotations

from vessel.api.identity.forms import EvidenceForm
from vessel.core.base.errors import BadInput
from vessel.core.model.identity import EVIDENCE, Answer, EvidenceId
from vessel.core.text.units import Units
from vessel.formats.adapters import evidence_of
from vessel.store.database import now
from vessel.store.tables import EvidenceRow


def answer_row(
    kind: EvidenceId,
    answer: Answer,
    technician: str,
    *,
    at_m: float | None = None,
    own_a: float | None = None,
    other_a: float | None = None,
    depth_m: float | None = None,
    note: str = "",
) -> EvidenceRow:
    """Return an answer given now; raises `BadInput` if it cannot be."""
    row = EvidenceRow(
        kind=kind,
        answer=answer,
        at_m=at_m,
        own_a=own_a,
        other_a=other_a,
        earlier=False,
        depth_m=depth_m,
        note=note,
        technician=technician,
        taken_at=now(),
        deleted_at=None,
    )
    evidence_of(row)
    return row


def answered(form: EvidenceForm, units: Units, technician: str) -> list[EvidenceRow]:
    """Return the answer to what was asked, and to what was answered in the same go; raises `BadInput`."""
    along = EVIDENCE[form.kind].along
    said = answer_row(
        form.kind, form.answer, technician, at_m=form.at_m(units), note=form.note, **form.read_with_it(units)
    )
    if form.along is None:
        return [said]
    if along is None or form.answer != "for":
        raise BadInput("Nothing else is answered along with this.", field="along", fix="Leave it out.")
    return [said, answer_row(along, form.along, technician)]
