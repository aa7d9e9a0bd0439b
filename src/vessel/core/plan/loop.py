"""The verdict on the loop as read: as forecast, different, not explained, or not to be told from the transmitter."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.diagnose.circuit import SOUND
from vessel.core.diagnose.wording import advice
from vessel.core.judge.bounds import rule_of
from vessel.core.model.kit import Kit
from vessel.core.model.setup import Method
from vessel.core.plan.state import HookupState

LoopState = Literal["not_read", "as_forecast", "different", "unexplained", "cannot_tell"]


@dataclass(frozen=True)
class LoopVerdict:
    """State of the loop, the sentence for it, and what to do next."""

    state: LoopState
    headline: str
    advice: str


def judge_loop(method: Method, state: HookupState, kit: Kit) -> LoopVerdict:
    """Return the verdict on a hookup's loop from what its readings leave possible."""
    if method == "induction":
        return LoopVerdict(
            "cannot_tell",
            "With induction the transmitter cannot show whether signal is on the line.",
            "Prove it with the receiver: lift it straight up, the signal must fall smoothly.",
        )
    if not state.tx_read:
        return LoopVerdict(
            "not_read", "The hookup is not proved.", "Enter the volts and milliamps that the transmitter shows."
        )
    d = state.diagnosis
    if d is None:
        return LoopVerdict(
            "cannot_tell",
            "The clamp's own current hides what the line takes.",
            "Prove the current with the receiver a few metres along the line.",
        )
    if d.gap > (rule_of(kit, "loop").care or 0.0):
        return LoopVerdict(
            "unexplained",
            f"Nothing this line can do explains {100 * d.gap:.0f} % difference in ohms: check the reading, the line "
            "and the frequency.",
            "Switch off, go over stake, clip and leads, and read again.",
        )
    lead = d.hypotheses[0].family
    likely = lead.title[0].lower() + lead.title[1:]
    if d.sound:
        more = "" if d.told_apart else " Some more resistance at the stake or the clip would read the same."
        return LoopVerdict("as_forecast", f"{likely}. Volts and milliamps fit.{more}", lead.remedy)
    if not d.told_apart:
        doubt = f"Most likely: {likely}. But what was read does not prove it."
        return LoopVerdict(
            "different", doubt if lead.id in SOUND else f"Not as forecast. Perhaps: {likely}.", advice(d)
        )
    return LoopVerdict("different", f"Likely cause: {likely}.", lead.remedy)
