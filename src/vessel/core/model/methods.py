"""Hookup methods as one table: what each does, needs and shows. Everything that differs by method asks it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Method = Literal["direct", "clamp", "induction", "pair"]
"""How signal is put on; with a pair (both leads on one cable) a line is looked for, never marked."""


@dataclass(frozen=True, kw_only=True)
class HookupMethod:
    """How signal gets on a line.

    Attributes:
        id: Name in records and files.
        connects: A lead on the line's bare metal and one on a ground stake, which the current returns through.
        between: Both leads on two conductors of the line itself, which carry the current there and back.
        encloses: A transformer closed round the line, which has to be earthed on both sides of it.
        through_air: The transmitter's own coil beside the line, with no contact: it has nothing to read.
        tool: The kit's part that it needs beyond the transmitter, empty for none.
    """

    id: str
    connects: bool = False
    between: bool = False
    encloses: bool = False
    through_air: bool = False
    tool: Literal["", "clamp", "coil"] = ""

    @property
    def touches(self) -> bool:
        """Whether a lead is put on metal of the line, at an access point where that may be done."""
        return self.connects or self.between


METHOD_TABLE: dict[str, HookupMethod] = {
    m.id: m
    for m in (
        HookupMethod(id="direct", connects=True),
        HookupMethod(id="clamp", encloses=True, tool="clamp"),
        HookupMethod(id="induction", through_air=True, tool="coil"),
        HookupMethod(id="pair", between=True),
    )
}
METHODS: tuple[Method, ...] = ("direct", "clamp", "induction", "pair")
"""Every method, the surest first."""
