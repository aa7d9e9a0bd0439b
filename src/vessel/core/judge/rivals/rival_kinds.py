"""Explanations under which a mark would be wrong, as data: how likely each is before anything is read, and what
evidence of identity says of each.

The shares are judgements of ours, not statistics: what is laid from one cabinet is mostly laid and bonded together,
pipes have laterals, a lone tracer wire has neither as a rule.
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Literal

from vessel.core.model.construction import Construction
from vessel.core.model.identity import EvidenceId, LineEnd

Plant = Literal["wire", "cable", "pipe"]
RivalId = Literal[
    "twin_both",
    "twin_near",
    "twin_far",
    "parallel",
    "leaves",
    "goes_on",
    "broken",
    "known_moved",
    "known_followed",
    "coil",
    "returns",
    "nothing_known",
]
_WIRE_M = 2.5e-3  # metal thinner than this is a wire
_CABLE_M = 0.02  # and insulated metal thinner than this a cable


def plant_of(c: Construction) -> Plant:
    """Return which kind of plant a construction is.

    Args:
        c: Make of the line.

    Returns:
        A single wire, a cable, or a pipe.
    """
    if c.metal != "tube" and c.radius_m <= _WIRE_M:
        return "wire"
    return "cable" if not c.bare and c.radius_m <= _CABLE_M else "pipe"


@dataclass(frozen=True, kw_only=True)
class RivalKind:
    """One kind of rival.

    Attributes:
        id: Name in files and words.
        prior: How likely one is, by kind of plant, on a line that was entered and drawn with care.
        speaks_for: By kind of evidence: how likely it speaks for the line although another line is under the receiver.
    """

    id: RivalId
    prior: Mapping[Plant, float]
    speaks_for: Mapping[EvidenceId, float] = field(default_factory=lambda: MappingProxyType({}))


def _by_plant(wire: float, cable: float, pipe: float) -> dict[Plant, float]:
    return {"wire": wire, "cable": cable, "pipe": pipe}


RIVALS: dict[RivalId, RivalKind] = {
    k.id: k
    for k in (
        RivalKind(
            id="twin_both",
            prior=_by_plant(0.015, 0.10, 0.03),
            speaks_for={"ends_at": 0.8, "second_hookup": 0.8, "second_frequency": 0.85, "clamp": 0.4},
        ),
        RivalKind(
            id="twin_near",
            prior=_by_plant(0.015, 0.08, 0.03),
            speaks_for={"ends_at": 0.3, "second_hookup": 0.1, "second_frequency": 0.85, "clamp": 0.2},
        ),
        RivalKind(
            id="twin_far",
            prior=_by_plant(0.005, 0.04, 0.015),
            speaks_for={"ends_at": 0.8, "second_hookup": 0.3, "second_frequency": 0.6, "clamp": 0.4},
        ),
        RivalKind(
            id="parallel",
            prior=_by_plant(0.05, 0.08, 0.06),
            speaks_for={"ends_at": 0.15, "second_hookup": 0.1, "second_frequency": 0.4, "clamp": 0.05},
        ),
        RivalKind(
            id="leaves",
            prior=_by_plant(0.03, 0.04, 0.05),
            speaks_for={"ends_at": 0.03, "second_hookup": 0.03, "second_frequency": 0.9, "clamp": 0.8},
        ),
        RivalKind(
            id="goes_on",
            prior=_by_plant(0.05, 0.05, 0.05),
            speaks_for={"ends_at": 0.05, "second_hookup": 0.03, "second_frequency": 0.95, "clamp": 0.9},
        ),
        RivalKind(
            id="broken",
            prior=_by_plant(0.02, 0.03, 0.02),
            # what a clamp drives into the stub comes back along the other one
            speaks_for={"ends_at": 0.8, "second_hookup": 0.8, "second_frequency": 0.9, "clamp": 0.3},
        ),
        RivalKind(
            id="known_moved",
            prior=_by_plant(0.15, 0.15, 0.15),
            speaks_for={"ends_at": 0.15, "second_hookup": 0.2, "second_frequency": 0.5, "clamp": 0.1},
        ),
        RivalKind(
            id="known_followed",
            prior=_by_plant(0.03, 0.05, 0.05),
            speaks_for={"ends_at": 0.1, "second_hookup": 0.1, "second_frequency": 0.5, "clamp": 0.05},
        ),
        RivalKind(
            id="coil",
            prior=_by_plant(0.20, 0.25, 0.20),
            speaks_for={"ends_at": 0.15, "second_hookup": 0.1, "second_frequency": 0.8, "coil_aside": 0.1},
        ),
        RivalKind(
            id="returns",
            prior=_by_plant(0.02, 0.02, 0.02),
            speaks_for={"ends_at": 0.5, "second_hookup": 0.1, "second_frequency": 0.6, "clamp": 0.5},
        ),
        RivalKind(
            id="nothing_known",
            prior=_by_plant(0.002, 0.002, 0.002),
            speaks_for={"ends_at": 0.15, "second_hookup": 0.1, "second_frequency": 0.3, "clamp": 0.2},
        ),
    )
}

_ALONG = 0.5  # how often what begins at the same box runs along the line
_FAR_TOO = 3.0  # what shares a box at one end shares the one at the other as a rule


def left_by_open_bonds(plant: Plant, opened: Collection[LineEnd]) -> Mapping[RivalId, float]:
    """Return how much likelier rivals are where what else is connected to the line is kept off it.

    Another line begins there for certain, and is bonded at the other end as well, or not. Off at both ends it lies
    beside without a bond.

    Args:
        plant: Kind of plant.
        opened: Where bonds are kept open.

    Returns:
        By rival, against a line that nothing begins beside; empty where none is open.
    """
    if not opened:
        return {}
    odds: dict[RivalId, float] = {"parallel": _ALONG + _FAR_TOO}
    if len(opened) == 1:
        odds = {"parallel": _ALONG, ("twin_far" if "here" in opened else "twin_near"): _FAR_TOO}
    return {kind: times / RIVALS[kind].prior[plant] for kind, times in odds.items()}


SPEAKS_FOR_IT = 0.95
"""How likely evidence speaks for the line when it is the one under the receiver."""
STAKE_AWAY = 0.25
"""How much likelier than anywhere else current comes home over other metal, once the stake was moved for it."""
BESIDE_LOCATED, BOND_OPENED, STAKE_MOVED, EXPOSED = 0.06, 0.04, 0.08, 0.003
"""How likely these speak for the line although another is under the receiver, whatever the rival."""
ALL_LOCATED = 0.8
"""How likely every line near is located by a hookup of its own: what crosses the line or is joined to it may not be."""
FOUND_BESIDE: Mapping[RivalId, float] = {
    "known_moved": 0.1,
    "parallel": 0.08,
    "coil": 0.08,
    "returns": 0.1,
    "twin_far": 0.3,
}
"""How likely hookups on everything near find nothing that is not entered, although it is there."""
JOINED_BESIDE: Mapping[RivalId, float] = {
    "leaves": 0.5,
    "goes_on": 0.5,
    "twin_both": 0.3,
    "twin_near": 0.3,
    "broken": 0.3,
}
"""The same of what is joined to the line and followed in its place: it may be unknown, or have no hookup of its own."""
MENDED: Mapping[EvidenceId, frozenset[RivalId]] = {
    "beside_located": frozenset(("parallel", "known_moved", "returns", "coil")),
    "stake_moved": frozenset(("returns",)),
    "far_access": frozenset(("twin_far",)),
    "conductors": frozenset(("twin_both", "twin_near", "broken")),
}
"""Rivals that evidence against the line leads to put right: entered where they were found, the stake
elsewhere, a bond open."""
SEEN_WRONG = 0.02
"""How likely nothing else is seen in a box although something is bonded there, or the other way."""
BOX_OF_ANOTHER = 0.2
"""How likely the box where the line should end is another line's, and taken for its own."""
SAME_TRENCH_M = 0.12
"""How far aside one above the other is taken to lie in one trench [m]."""
