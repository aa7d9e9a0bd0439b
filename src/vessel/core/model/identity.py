"""What shows that the line under the receiver is the one that was asked for: kinds of evidence and one piece of it."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.methods import HookupMethod

EvidenceId = Literal[
    "access",
    "far_access",
    "conductors",
    "ends_at",
    "second_frequency",
    "coil_aside",
    "clamp",
    "second_hookup",
    "bond_opened",
    "kept_open",
    "far_kept_open",
    "stake_moved",
    "beside_located",
    "exposed",
]
Answer = Literal["for", "against", "cannot"]
"""It speaks for the line, against it, or could not be had."""
LineEnd = Literal["here", "far"]
"""Where the line is hooked up, by coil where it begins; and where else it ends."""


@dataclass(frozen=True, kw_only=True)
class EvidenceKind:
    """One kind of evidence; its question and answers are in `words.identity_sentences`.

    Attributes:
        id: Name in files and words.
        effort: What it costs to get, against a look into the box at one's feet.
        needs: What the hookup must be for it to make sense: metal touched, a stake in the ground, a coil, or any ("").
        placed: Whether it speaks for one place along the line and what lies before it, not for the whole line.
        currents: Whether the current on the line and the most on another conductor are read for it.
        anew: Whether it changes the ground: what was read before no longer counts, and the line is traced again.
        end: At which end of the line it is about what is bonded there; None: it is not.
        along: What is answered in the same go, if it speaks for the line; None: nothing.
        lasts: Whether an answer for the line tells where it goes, whatever is bonded to it.
        deep: Whether the depth of the line is measured for it.
    """

    id: EvidenceId
    effort: float
    needs: Literal["", "metal", "stake", "coil"] = ""
    placed: bool = False
    currents: bool = False
    anew: bool = False
    end: LineEnd | None = None
    along: EvidenceId | None = None
    lasts: bool = False
    deep: bool = False

    @property
    def answers(self) -> tuple[Answer, ...]:
        """The answers it can have: what a new trace is made for is done or cannot be done."""
        return ("for", "cannot") if self.anew else ("for", "against", "cannot")

    @property
    def look(self) -> bool:
        """Whether it is a look at what is bonded to the line at one of its ends."""
        return self.end is not None and not self.anew

    def suits(self, by: HookupMethod) -> bool:
        """Return whether it can be asked for under a method.

        Args:
            by: The hookup's method.

        Returns:
            True if it can.
        """
        needs = {"": True, "metal": not by.through_air, "stake": by.connects, "coil": by.through_air}
        return needs[self.needs]


EVIDENCE: dict[EvidenceId, EvidenceKind] = {
    k.id: k
    for k in (
        EvidenceKind(id="access", effort=1.0, end="here"),
        EvidenceKind(id="conductors", effort=1.5, needs="metal", currents=True),
        EvidenceKind(id="ends_at", effort=1.5, along="far_access", lasts=True),
        EvidenceKind(id="far_access", effort=2.0, end="far"),
        EvidenceKind(id="second_frequency", effort=2.0),
        EvidenceKind(id="coil_aside", effort=2.0, needs="coil"),
        EvidenceKind(id="clamp", effort=3.0, needs="metal"),
        EvidenceKind(id="stake_moved", effort=3.0, needs="stake"),
        EvidenceKind(id="second_hookup", effort=5.0),
        EvidenceKind(id="bond_opened", effort=8.0, needs="metal"),
        EvidenceKind(id="beside_located", effort=8.0),
        EvidenceKind(id="kept_open", effort=10.0, needs="metal", anew=True, end="here", along="far_kept_open"),
        EvidenceKind(id="far_kept_open", effort=10.0, needs="metal", anew=True, end="far"),
        EvidenceKind(id="exposed", effort=25.0, placed=True, deep=True),
    )
}
"""Kinds of evidence, the cheapest first."""


@dataclass(frozen=True)
class Evidence:
    """One answer: `kind`, what it says of the line, and `at_m` along the line where it belongs to a place [m].

    `own_a`, `other_a`: of conductors at the access point, the current on this line and the most on another one [A];
    None if only compared. `depth_m`: of a line that was dug up, how deep it lies there [m]; None if not measured.
    `earlier`: found on the trace before the ground was changed for this one: it tells where the
    line goes or why the stake was moved, and not which line is traced now.
    """

    kind: EvidenceId
    answer: Answer
    at_m: float | None = None
    own_a: float | None = None
    other_a: float | None = None
    earlier: bool = False
    depth_m: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in EVIDENCE:
            raise BadInput("no_such_evidence", field="kind", name=self.kind)
        if self.answer not in EVIDENCE[self.kind].answers:
            raise BadInput("no_such_answer", field="answer", name=self.answer)
        if self.at_m is not None:
            require_range(self.at_m, low=0.0, high=2e4, field="at_m", name="Distance", unit="m")
        if self.own_a is not None or self.other_a is not None:
            self._require_currents()
        if self.depth_m is not None:
            if not EVIDENCE[self.kind].deep or self.answer != "for":
                raise BadInput("dug_depth_not_asked", field="depth_m")
            require_range(self.depth_m, low=0.05, high=15.0, field="depth_m", name="Depth of the line", unit="m")

    @property
    def other_share(self) -> float | None:
        """The most on another conductor against the current on this line; None if it was not read."""
        return None if self.own_a is None or self.other_a is None else self.other_a / self.own_a

    def _require_currents(self) -> None:
        if not EVIDENCE[self.kind].currents or self.answer == "cannot":
            raise BadInput("currents_not_asked", field="own_a")
        if self.own_a is None:
            raise BadInput("own_current_missing", field="own_a")
        if self.other_a is None:
            raise BadInput("other_current_missing", field="other_a")
        require_range(self.own_a, low=1e-6, high=20.0, field="own_a", name="Current on this line", unit="A")
        require_range(self.other_a, low=0.0, high=20.0, field="other_a", name="Current on another one", unit="A")
        if self.other_a > self.own_a if self.answer == "for" else self.other_a < self.own_a:
            raise BadInput("currents_say_otherwise", field="own_a")


_CLEARS: dict[EvidenceId, tuple[EvidenceId, ...]] = {
    "access": ("conductors", "clamp", "bond_opened", "kept_open", "exposed"),
    "second_frequency": ("second_hookup", "clamp", "beside_located", "exposed"),
}
"""What else is connected at the access point is cleared up by what tells the conductors there apart; another share at
another frequency, which a line beside makes as well, by what lights up this one alone."""


NEXT_TO_NOTHING = 0.12
"""What a conductor that is not bonded to the line carries at most, against the line."""
TELLS_TWINS: frozenset[EvidenceId] = frozenset(("access", "conductors", "bond_opened", "kept_open", "exposed"))
"""What tells a line from one that is bonded to it where it is hooked up: over the ground the two may read as one, and a
clamp on either drives both."""


def bonds_kept_open(evidence: Iterable[Evidence]) -> frozenset[LineEnd]:
    """Return at which ends of the line nothing else is connected while it is traced.

    Args:
        evidence: What was answered.

    Returns:
        The ends where bonds are open for the whole trace.
    """
    kept = (EVIDENCE[e.kind] for e in evidence if e.answer == "for")
    return frozenset(kind.end for kind in kept if kind.anew and kind.end is not None)


def alone_here(evidence: Iterable[Evidence]) -> bool:
    """Return whether nothing else is connected at the hookup, carries next to nothing there, or is kept open.

    Args:
        evidence: What was answered.

    Returns:
        True if somebody looked, or read every conductor; False as long as it was not looked at.
    """
    found = list(evidence)
    alone = any(e.kind == "access" and e.answer == "for" for e in found)
    quiet = any(_quiet(e) for e in found)
    return alone or quiet or "here" in bonds_kept_open(found)


def after_a_change(evidence: Iterable[Evidence], *, stake: bool = False) -> tuple[Evidence, ...]:
    """Return what still tells something of a line once the ground was changed for a new trace.

    Args:
        evidence: What was answered before the change.
        stake: Whether the stake was moved; otherwise a bond was opened.

    Returns:
        What is connected at its ends; where it goes, if it was the one traced: not where a line bonded to it at the
        hookup may have been followed; and that the stake was moved away from what carried the current home.
    """
    found, kept = list(evidence), []
    alone = alone_here(found)
    for e in found:
        goes = EVIDENCE[e.kind].lasts and e.answer == "for" and alone
        moved = e.kind == "stake_moved" and e.answer == "against" and (stake or e.earlier)
        if EVIDENCE[e.kind].end is not None or _quiet(e):
            kept.append(e)
        elif goes or moved:
            kept.append(replace(e, earlier=True))
    return tuple(kept)


def can_be_given(
    kind: EvidenceKind, by: HookupMethod, evidence: Iterable[Evidence], drawn: frozenset[LineEnd] = frozenset()
) -> bool:
    """Return whether evidence makes sense under a hookup with the answers so far: only a bond that is known can open.

    It is known where it was seen, is entered, or where another conductor carries part of the current.

    Args:
        kind: Kind of evidence.
        by: The hookup's method.
        evidence: What was answered.
        drawn: Ends at which a bond is entered.

    Returns:
        True if it can be given.
    """
    if not kind.anew or not kind.suits(by):
        return kind.suits(by)
    found = list(evidence)
    against = [EVIDENCE[e.kind] for e in found if e.answer == "against"]
    seen = {"here" if kind.currents else kind.end for kind in against if kind.currents or kind.look}
    if any(_carries(e) for e in found):
        seen.add("here")
    return kind.end in seen | drawn and kind.end not in bonds_kept_open(found)


def _carries(e: Evidence) -> bool:
    """Whether another conductor was read that carries more than next to nothing: it is bonded to the line."""
    return e.other_share is not None and e.other_share > NEXT_TO_NOTHING


def _quiet(e: Evidence) -> bool:
    """Whether every other conductor was read and carries next to nothing: none of them is bonded to the line."""
    return e.other_share is not None and not _carries(e)


def shows_it(evidence: Iterable[Evidence], by: HookupMethod) -> bool:
    """Return whether something speaks for the line and nothing that was not cleared up speaks against it.

    On metal at an access point that takes something which tells bonded lines apart. What is connected at the far end
    shows nothing of which line it is, either way.

    Args:
        evidence: What was answered.
        by: The hookup's method.

    Returns:
        True if the line may count as shown, the chances allowing it.
    """
    found = [e for e in evidence if EVIDENCE[e.kind].end != "far" and not e.earlier]
    speaks = {e.kind for e in found if e.answer == "for"}
    against = {e.kind for e in found if e.answer == "against"}
    told = bool(speaks) if by.through_air else not speaks.isdisjoint(TELLS_TWINS)
    return told and not any(speaks.isdisjoint(_CLEARS.get(kind, ())) for kind in against)
