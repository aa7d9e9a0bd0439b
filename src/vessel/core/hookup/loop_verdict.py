"""The verdict on the loop as read: as forecast, different, not explained, or not visible at the transmitter."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.diagnose.diagnosis import Diagnosis
from vessel.core.hookup.hookup_state import HookupState
from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.model.kit import Kit
from vessel.core.model.methods import METHOD_TABLE, HookupMethod, Method

LoopState = Literal["not_read", "as_forecast", "different", "unexplained", "cannot_tell"]


@dataclass(frozen=True)
class LoopVerdict:
    """State of a hookup's loop, and the diagnosis of its readings where there is one."""

    method: Method
    state: LoopState
    diagnosis: Diagnosis | None = None

    @property
    def by(self) -> HookupMethod:
        """What its method does and needs."""
        return METHOD_TABLE[self.method]


def judge_loop(method: Method, state: HookupState, kit: Kit) -> LoopVerdict:
    """Judge a hookup's loop from what its readings leave possible.

    Args:
        method: How the signal is put on.
        state: What the readings leave possible at the hookup.
        kit: Transmitter and receiver in use.

    Returns:
        The verdict and what decided it.
    """
    if METHOD_TABLE[method].through_air:
        return LoopVerdict(method, "cannot_tell")
    if not state.tx_read:
        return LoopVerdict(method, "not_read")
    d = state.diagnosis
    if d is None:
        return LoopVerdict(method, "cannot_tell")
    if d.gap > (rule_of(kit, "loop").care or 0.0):
        return LoopVerdict(method, "unexplained", d)
    return LoopVerdict(method, "as_forecast" if d.sound else "different", d)
