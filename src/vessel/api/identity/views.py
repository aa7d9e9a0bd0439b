"""Which line it is, as a view."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.requests import Created
from vessel.api.striking import StruckView
from vessel.core.judge.rivals.identity_finding import IdentityState
from vessel.core.judge.rivals.rival_kinds import RivalId
from vessel.core.model.identity import Answer, EvidenceId, LineEnd

Changed = Literal["bond", "far_bond", "both_bonds", "stake"]
"""What is changed on the ground for a new trace: a bond stays open where the line is hooked up, where else it ends, or
at both; or the stake stands elsewhere."""


class AnswerView(BaseModel):
    """One answer to tap. `along`: what it says of what is answered in the same go, None if it says nothing of it."""

    answer: Answer
    label: str
    along: Answer | None = None


class AnswerCreated(Created):
    """The id of an answer, and of the one that was given along with it."""

    along_id: int | None


class QuestionView(BaseModel):
    """Evidence that can be given: the question, how to find out, the answers. `given`: what was answered last.

    `distance`: of what speaks for one place, where it says most, as it would be typed; None for the rest. `currents`:
    whether the current on this line and the most on another may be entered with it; `depth`: whether the depth measured
    there may. `opens`: the end of the line at
    which a bond is kept open for it, and the line traced again; None for the rest.
    """

    kind: EvidenceId
    question: str
    how: str
    answers: list[AnswerView]
    given: Answer | None
    distance: str | None
    currents: bool
    depth: bool
    opens: LineEnd | None


class EvidenceView(BaseModel):
    """Evidence that was given."""

    id: int
    kind: EvidenceId
    question: str
    answer: Answer
    answer_text: str
    note: str
    technician: str
    taken_at: str


class RivalView(BaseModel):
    """A rival that is still possible, and the chance that it makes a mark wrong."""

    kind: RivalId
    text: str
    chance_text: str


class BondStepView(BaseModel):
    """One step of opening a bond."""

    id: str
    text: str
    protects: bool


class BondGuideView(BaseModel):
    """How one bond after the other is opened: the steps of each, and the names of what is bonded to the line."""

    steps: list[BondStepView]
    names: list[str]


class BondReadView(BaseModel):
    """What the current with a bond open says of the line, and how that is kept on record."""

    answer: Answer
    text: str
    note: str


class IdentityView(BaseModel):
    """Identity of a line under one hookup. `ask`: what decides next, and `why`; `rest`: what else can be given.

    `bond`: how bonds are opened one by one, None where no metal is touched. `stake_spoils`: the current comes home
    through other metal, and the line has to be traced again with the stake elsewhere.
    """

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
    bond: BondGuideView | None
    stake_spoils: bool
