"""Which line it is, as a view."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.striking import StruckView
from vessel.core.judge.rivals.identity_finding import IdentityState
from vessel.core.judge.rivals.rival_kinds import RivalId
from vessel.core.model.identity import Answer, EvidenceId


class AnswerView(BaseModel):
    """One answer to tap."""

    answer: Answer
    label: str


class QuestionView(BaseModel):
    """Evidence that can be given: the question, how to find out, the answers. `given`: what was answered last.

    `distance`: of what speaks for one place, where it says most, as it would be typed; None for the rest.
    """

    kind: EvidenceId
    question: str
    how: str
    answers: list[AnswerView]
    given: Answer | None
    distance: str | None


class EvidenceView(BaseModel):
    """Evidence that was given."""

    id: int
    kind: EvidenceId
    question: str
    answer: Answer
    answer_text: str
    technician: str
    taken_at: str


class RivalView(BaseModel):
    """A rival that is still possible, and the chance that it makes a mark wrong."""

    kind: RivalId
    text: str
    chance_text: str


class IdentityView(BaseModel):
    """Identity of a line under one hookup. `ask`: what decides next, and `why`; `rest`: what else can be given."""

    setup_id: int
    state: IdentityState
    contradicted: bool
    headline: str
    reason: str
    ask: QuestionView | None
    why: str
    rest: list[QuestionView]
    given: list[EvidenceView]
    struck: list[StruckView]
    rivals: list[RivalView]
