"""What an answer sends."""

from __future__ import annotations

from pydantic import BaseModel, Field

from vessel.core.model.identity import Answer, EvidenceId


class EvidenceForm(BaseModel):
    """Evidence of which line it is, tapped."""

    kind: EvidenceId
    answer: Answer
    note: str = Field(default="", max_length=4000)
    technician: str = Field(default="", max_length=200)
