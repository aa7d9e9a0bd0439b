"""What an answer sends."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from vessel.api.form_reading import Form, NameText, Reader, Typed, need, sent_as
from vessel.api.identity.views import Changed
from vessel.core.base.errors import BadInput
from vessel.core.hookup.bond_opening import BOND_STEPS, BondOpened
from vessel.core.model.identity import EVIDENCE, Answer, EvidenceId
from vessel.core.text.entry import understand
from vessel.core.text.units import Units
from vessel.words.bond_sentences import BOND_STEP_TEXT


class EvidenceForm(BaseModel):
    """Evidence of which line it is, tapped; `distance` along the line, as typed, of what speaks for one place.

    `along`: the answer given in the same go to what is answered along with this one, None without. `own_a`, `other_a`:
    currents on this line and the most on another conductor, as typed, where they were read. `depth_m`: of the line
    dug up, as typed, if it was measured.
    """

    kind: EvidenceId
    answer: Answer
    along: Answer | None = None
    distance: str = Field(default="", max_length=40)
    own_a: Typed = Field("", alias="own")
    other_a: Typed = Field("", alias="other")
    depth_m: Typed = Field("", alias="depth")
    note: str = Field(default="", max_length=4000)
    technician: str = Field(default="", max_length=200)

    def at_m(self, units: Units) -> float | None:
        """Return where it was found along the line [m]; None for what has no place. Raises `BadInput`."""
        if not EVIDENCE[self.kind].placed or self.answer == "cannot":
            return None
        if not self.distance.strip():
            raise BadInput("The place is empty.", field="distance", fix="Enter the distance along the line, like 52.")
        return understand(self.distance, quantity="distance", units=units, field="distance").value

    def read_with_it(self, units: Units) -> dict[str, float | None]:
        """Return currents [A] and depth [m], None for what is empty or not asked for; raises `BadInput`."""
        kind = EVIDENCE[self.kind]
        currents, depth = kind.currents and self.answer != "cannot", kind.deep and self.answer == "for"

        def read(name: str, quantity: Literal["current", "depth"], asked: bool) -> float | None:
            text = getattr(self, name).strip() if asked else ""
            field = sent_as(EvidenceForm, name)
            return understand(text, quantity=quantity, units=units, field=field).value if text else None

        found = {name: read(name, "current", currents) for name in ("own_a", "other_a")}
        return {**found, "depth_m": read("depth_m", "depth", depth)}


_OPENED: dict[Changed, tuple[EvidenceId, ...]] = {
    "bond": ("kept_open",),
    "far_bond": ("far_kept_open",),
    "both_bonds": ("kept_open", "far_kept_open"),
    "stake": (),
}


class AgainForm(Form):
    """The line traced again on ground that was changed for it: bonds kept open, or the stake moved."""

    changed: Changed
    consent: NameText = ""
    technician: NameText = ""

    @property
    def opened(self) -> tuple[EvidenceId, ...]:
        """The evidence that the bonds are kept open; none where the stake was moved."""
        return _OPENED[self.changed]

    def require_consent(self) -> None:
        """Check that somebody agreed to open a bond; raises `BadInput`."""
        if self.opened:
            need(self.consent, field="consent", name="Who agreed")


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
