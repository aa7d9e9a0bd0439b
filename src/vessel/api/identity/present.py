"""Which line it is, presented."""

from __future__ import annotations

from vessel.api.identity.views import AnswerView, EvidenceView, IdentityView, QuestionView, RivalView
from vessel.api.job_answers import ask_of, identity_finding, judged_of, rivals_left
from vessel.core.model.identity import EVIDENCE, Answer, EvidenceId
from vessel.formats.loaded_job import LoadedSetup
from vessel.words.identity_sentences import (
    EVIDENCE_WORDS,
    NOTHING_HELPS,
    answer_label,
    ask_text,
    chance_text,
    identity_headline,
    identity_text,
    rival_text,
)

_MOST = 4
_ANSWERS: tuple[Answer, ...] = ("for", "against", "cannot")


def identity_view(setup: LoadedSetup) -> IdentityView:
    """Return what shows which line a stored hookup's stations are on, and what to ask for next."""
    found, ask, units = identity_finding(setup), ask_of(setup), setup.job.units
    weighed = judged_of(setup).weighed
    given = {e.kind: e.answer for e in setup.evidence}
    alive = rivals_left(setup)
    why = ask_text(ask, alive, units) if ask is not None else ""
    if ask is None and found.state != "shown" and weighed.read.any():
        why = NOTHING_HELPS
    return IdentityView(
        setup_id=setup.row.id,
        state=found.state,
        contradicted=bool(found.against),
        headline=identity_headline(found),
        reason=identity_text(found),
        ask=None if ask is None else _question(ask.kind, None),
        why=why,
        rest=[
            _question(k.id, given.get(k.id))
            for k in EVIDENCE.values()
            if k.suits(setup.setup.by) and (ask is None or k.id != ask.kind)
        ],
        given=[
            EvidenceView(
                id=row.id,
                kind=row.kind,
                question=EVIDENCE_WORDS[row.kind].question,
                answer=row.answer,
                answer_text=answer_label(row.kind, row.answer),
                technician=row.technician,
                taken_at=row.taken_at,
            )
            for row in setup.live_evidence
        ],
        rivals=[
            RivalView(kind=a.kind, text=rival_text(a.kind, a.of_m, units), chance_text=chance_text(a.chance))
            for a in alive[:_MOST]
        ],
    )


def _question(kind: EvidenceId, given: Answer | None) -> QuestionView:
    words = EVIDENCE_WORDS[kind]
    answers = [AnswerView(answer=a, label=answer_label(kind, a)) for a in _ANSWERS]
    return QuestionView(kind=kind, question=words.question, how=words.how, answers=answers, given=given)
