"""Which line it is, presented."""

from __future__ import annotations

from vessel.api.identity.views import (
    AnswerView,
    BondGuideView,
    BondStepView,
    EvidenceView,
    IdentityView,
    QuestionView,
    RivalView,
)
from vessel.api.job_answers import (
    ask_of,
    identity_finding,
    judged_of,
    rivals_left,
)
from vessel.api.striking import struck
from vessel.core.hookup.bond_opening import BOND_STEPS
from vessel.core.model.identity import EVIDENCE, Answer, EvidenceId, can_be_given
from vessel.core.text.figures import show_station
from vessel.formats.adapters import evidence_of
from vessel.formats.loaded_job import LoadedSetup
from vessel.words.bond_sentences import BOND_STEP_TEXT
from vessel.words.identity_sentences import (
    EVIDENCE_WORDS,
    NOTHING_HELPS,
    TRACE_AGAIN,
    along_labels,
    answer_label,
    answered_text,
    ask_text,
    identity_headline,
    identity_text,
)
from vessel.words.rival_sentences import chance_text, rival_text

_MOST = 4


def identity_view(setup: LoadedSetup) -> IdentityView:
    """Return what shows which line a stored hookup's stations are on, and what to ask for next."""
    found, ask, units = identity_finding(setup), ask_of(setup), setup.job.units
    weighed = judged_of(setup).weighed
    given = {e.kind: e.answer for e in setup.evidence if not e.earlier}
    alive = rivals_left(setup)
    why = ask_text(ask, alive, units) if ask is not None else ""
    if found.stake_spoils:
        why = TRACE_AGAIN
    elif ask is None and found.state != "shown" and weighed.read.any():
        why = NOTHING_HELPS
    return IdentityView(
        setup_id=setup.row.id,
        state=found.state,
        contradicted=found.contradicted,
        headline=identity_headline(found),
        reason=identity_text(found),
        ask=None if ask is None else _question(setup, ask.kind, None),
        why=why,
        rest=[
            _question(setup, k.id, given.get(k.id))
            for k in EVIDENCE.values()
            if can_be_given(k, setup.setup.by, setup.evidence, weighed.drawn_bonds)
            and (ask is None or k.id != ask.kind)
            and (not k.placed or weighed.place_for(k.id) is not None)
        ],
        given=[
            EvidenceView(
                id=row.id,
                kind=row.kind,
                question=EVIDENCE_WORDS[row.kind].question,
                answer=row.answer,
                answer_text=answered_text(evidence_of(row), units),
                note=row.note,
                technician=row.technician,
                taken_at=row.taken_at,
            )
            for row in setup.live_evidence
        ],
        struck=struck(
            setup.row.evidence, lambda e: f"{EVIDENCE_WORDS[e.kind].question} {answered_text(evidence_of(e), units)}"
        ),
        rivals=[
            RivalView(kind=a.kind, text=rival_text(a.kind, a.of_m, units), chance_text=chance_text(a.chance))
            for a in alive[:_MOST]
        ],
        stake_spoils=found.stake_spoils,
        bond=_bond_guide(setup) if EVIDENCE["bond_opened"].suits(setup.setup.by) else None,
    )


def _bond_guide(setup: LoadedSetup) -> BondGuideView:
    line, plan = setup.line, setup.job.site
    names = [n.name for n in line.line.neighbours if n.bond_m is not None]
    if plan is not None and line.line.course is not None:
        own = line.line.course.drawn.name
        names += [b.b if b.a == own else b.a for b in plan.bonds if own in (b.a, b.b)]
    return BondGuideView(
        steps=[BondStepView(id=s.id, text=BOND_STEP_TEXT[s.id], protects=s.protects) for s in BOND_STEPS],
        names=list(dict.fromkeys([line.row.name, *names])),
    )


def _answer_views(setup: LoadedSetup, kind: EvidenceId) -> list[AnswerView]:
    """What can be tapped: with what is answered in the same go, unless what is entered there is in the way."""
    own = [AnswerView(answer=a, label=answer_label(kind, a)) for a in EVIDENCE[kind].answers]
    along = EVIDENCE[kind].along
    if along is None or EVIDENCE[along].anew or EVIDENCE[along].end in judged_of(setup).weighed.drawn_bonds:
        return own
    too = [AnswerView(answer="for", label=label, along=a) for a, label in along_labels(kind).items()]
    return [*too, *own[1:]]


def _question(setup: LoadedSetup, kind: EvidenceId, given: Answer | None) -> QuestionView:
    words, at_m = EVIDENCE_WORDS[kind], judged_of(setup).weighed.place_for(kind)
    return QuestionView(
        kind=kind,
        question=words.question,
        how=words.how,
        answers=_answer_views(setup, kind),
        given=given,
        distance=None if at_m is None else show_station(at_m, setup.job.units),
        currents=EVIDENCE[kind].currents,
        depth=EVIDENCE[kind].deep,
        opens=EVIDENCE[kind].end if EVIDENCE[kind].anew else None,
    )
