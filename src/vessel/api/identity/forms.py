"""What an answer sends."""

from __future__ import annotations

from pydantic import BaseModel, Field

from vessel.core.base.errors import BadInput
from vessel.core.model.identity import EVIDENCE, Answer, EvidenceId
from vessel.core.text.entry import understand
from vessel.core.text.units import Units


class EvidenceForm(BaseModel):
    """Evidence of which line it is, tapped; `distance` along the line, as typed, of what speaks for one place."""

    kind: EvidenceId
    answer: Answer
    distance: str = Field(default="", max_length=40)
    note: str = Field(default="", max_length=4000)
    technician: str = Field(default="", max_length=200)

    def at_m(self, units: Units) -> float | None:
        """Return where it was found along the line [m]; None for what has no place. Raises `BadInput`."""
        if not EVIDENCE[self.kind].placed or self.answer == "cannot":
            return None
        if not self.distance.strip():
            raise BadInput("The place is empty.", field="distance", fix="Enter the distance along the line, like 52.")
        return understand(self.distance, quantity="distance", units=units, field="distance").value
