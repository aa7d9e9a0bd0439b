"""Whether it is shown which line is under the receiver, and by what."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from vessel.core.judge.rivals.chances import PLAIN, Weighed
from vessel.core.judge.rivals.next_ask import LIKELY
from vessel.core.model.identity import EVIDENCE, Evidence, EvidenceId, bonds_kept_open, shows_it
from vessel.core.model.methods import HookupMethod

_SPOIL_ONLY: frozenset[EvidenceId] = frozenset(("access", "far_access", "stake_moved"))
IdentityState = Literal["not_shown", "likely", "shown"]


@dataclass(frozen=True)
class Identity:
    """Identity of a line under one hookup: its state, the chance of another line, and what speaks for and against it.

    `by`: evidence that speaks for the line; `against`: evidence that speaks against it.
    """

    state: IdentityState
    other_line: float
    by: tuple[EvidenceId, ...]
    against: tuple[EvidenceId, ...]

    @property
    def contradicted(self) -> bool:
        """Whether anything says that this is another line; what spoils the trace of this one does not."""
        return bool(set(self.against) - _SPOIL_ONLY)

    @property
    def stake_spoils(self) -> bool:
        """Whether current comes home over other metal: the line is traced again with the stake elsewhere."""
        return "stake_moved" in self.against


def identity_of(w: Weighed, evidence: Sequence[Evidence], by: HookupMethod) -> Identity:
    """Return the finding on the identity of a line.

    Without evidence it is never shown, however well the readings fit: a clean field shows a line, not which one.

    Args:
        w: The rivals, weighed with that evidence.
        evidence: What shows which line it is.
        by: The hookup's method.

    Returns:
        The finding.
    """
    speaks = tuple(dict.fromkeys(e.kind for e in evidence if e.answer == "for" and not e.earlier))
    opened = bonds_kept_open(evidence)
    off = {kind.id for kind in EVIDENCE.values() if kind.look and kind.end in opened}  # what was seen carries nothing
    now = [e for e in evidence if e.kind not in off and not e.earlier]
    against = tuple(dict.fromkeys(e.kind for e in now if e.answer == "against"))
    other = w.other_line
    state: IdentityState = "not_shown"
    if shows_it(evidence, by) and other <= PLAIN:
        state = "shown"
    elif speaks and other <= LIKELY:
        state = "likely"
    return Identity(state, other, speaks, against)
