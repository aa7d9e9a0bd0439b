"""What an answer sends."""

from __future__ import annotations

from pydantic import BaseModel, Field

from vessel.api.form_reading import Form, NameText, Reader, Typed, need
from vessel.core.base.errors import BadInput
from vessel.core.hookup.bond_opening import BOND_STEPS, BondOpened
from vessel.core.model.identity import EVIDENCE, Answer, EvidenceId
from vessel.core.text.entry import understand
from vessel.core.text.units import Units
from vessel.words.bond_sentences import BOND_STEP_TEXT


class EvidenceForm(BaseModel):
    """Evidence of which line it is, tapped; `distance` along the line, as typed, of what speaks for one place.

    `own`, `other`: currents on this line and on the other conductor that carries most, as typed, where they were read.
    """

    kind: EvidenceId
    answer: Answer
    distance: str = Field(default="", max_length=40)
    own: str = Field(default="", max_length=40)
    other: str = Field(default="", max_length=40)
    note: str = Field(default="", max_length=4000)
    technician: str = Field(default="", max_length=200)

    def at_m(self, units: Units) -> float | None:
        """Return where it was found along the line [m]; None for what has no place. Raises `BadInput`."""
        if not EVIDENCE[self.kind].placed or self.answer == "cannot":
            return None
        if not self.distance.strip():
            raise BadInput("The place is empty.", field="distance", fix="Enter the distance along the line, like 52.")
        return understand(self.distance, quantity="distance", units=units, field="distance").value

    def currents_a(self, units: Units) -> dict[str, float | None]:
        """Return the currents that were read [A], None for what is empty or not asked for. Raises `BadInput`."""
        if not EVIDENCE[self.kind].currents or self.answer == "cannot":
            return {"own_a": None, "other_a": None}
        typed = {"own": self.own.strip(), "other": self.other.strip()}
        return {
            f"{name}_a": understand(text, quantity="current", units=units, field=name).value if text else None
            for name, text in typed.items()
        }


class OpenedBondForm(Form):
    """One bond that was opened: whose it is, who agreed, and the current at one place before and with it open."""

    name: NameText = ""
    own: bool
    consent: NameText = ""
    before_a: Typed = Field("", alias="before")
    after_a: Typed = Field("", alias="after")
    steps_done: list[str] = Field(default_factory=list, max_length=20)

    def opened(self, units: Units) -> BondOpened:
        """Return what was read; raises `BadInput` until every step is done and every field filled in."""
        left = next((s for s in BOND_STEPS if s.id not in self.steps_done), None)
        if left is not None:
            raise BadInput(
                "A step is not done yet.", field="steps_done", fix=f"Do and tick it: {BOND_STEP_TEXT[left.id]}"
            )
        need(self.name, field="name", name="The bond")
        need(self.consent, field="consent", name="Who agreed")
        reader = Reader(self, units)
        before, after = (reader.must(k, "current", "The current") for k in ("before_a", "after_a"))
        return BondOpened(self.own, before, after)
