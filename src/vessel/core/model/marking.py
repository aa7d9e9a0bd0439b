"""The local rule of marking: each kind of line's colour, pattern and letter, and how wide the tolerance zone is."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from vessel.core.base.errors import BadInput, require_range
from vessel.core.model.utility import UTILITIES, Utility, utility

PATTERNS = ("solid", "dash", "long-dash", "double-dash", "dash-dot", "long-dash-dot", "dot", "sparse-dot")
"""Patterns a line may be drawn in, so that no kind is shown by colour alone."""
USUAL_TOLERANCE_M = 0.45
"""Half-width of the zone round a mark in which the line must lie, unless a local rule says otherwise [m]."""
TOLERANCE_M = (0.1, 3.0)
_HEX = re.compile(r"#[0-9a-f]{6}")
_MOST_LETTERS = 3
_MOST_COLOUR = 24


@dataclass(frozen=True)
class Look:
    """How one kind of line is marked: colour (name and sRGB hex), letter and pattern.

    Raises `BadInput` naming the field.
    """

    colour: str
    hex: str
    letter: str
    pattern: str

    def __post_init__(self) -> None:
        if not 0 < len(self.colour.strip()) <= _MOST_COLOUR:
            raise BadInput("no_colour_name", field="colour")
        if not _HEX.fullmatch(self.hex):
            raise BadInput("no_such_colour", field="hex", text=self.hex)
        if not 0 < len(self.letter.strip()) <= _MOST_LETTERS:
            raise BadInput("letter_too_long", field="letter", text=self.letter)
        if self.pattern not in PATTERNS:
            raise BadInput("no_such_pattern", field="pattern", text=self.pattern)

    @classmethod
    def of(cls, u: Utility) -> Look:
        """Return how a kind of line looks by Vessel's own table.

        Args:
            u: The kind of line.

        Returns:
            Colour, letter and pattern.
        """
        return cls(u.colour, u.hex, u.letter, u.pattern)


@dataclass(frozen=True)
class Marking:
    """A local rule: `looks` by kind of line where it differs from the table, the half-width `tolerance_m` [m].

    `source`: which rule it follows, in the crew's words. Raises `BadInput` where two kinds would be marked alike.
    """

    looks: Mapping[str, Look] = field(default_factory=dict)
    tolerance_m: float = USUAL_TOLERANCE_M
    source: str = ""

    def __post_init__(self) -> None:
        require_range(
            self.tolerance_m,
            low=TOLERANCE_M[0],
            high=TOLERANCE_M[1],
            field="tolerance",
            name="The tolerance zone to either side",
            unit="m",
        )
        for key in self.looks:
            if key not in UTILITIES:
                raise BadInput("no_such_utility", field=f"looks.{key}", name=key)
        seen: dict[str, str] = {}
        for key in UTILITIES:
            u = self.utility(key)
            other = seen.setdefault(u.letter.casefold(), u.label)
            if other != u.label:
                raise BadInput("letter_twice", field=f"looks.{key}.letter", other=other, name=u.label, letter=u.letter)

    def utility(self, name: str) -> Utility:
        """Return a kind of line as this rule marks it.

        Args:
            name: Id of the kind.

        Returns:
            The kind with its colour, letter and pattern.

        Raises:
            BadInput: If there is no such kind.
        """
        base, look = utility(name), self.looks.get(name)
        return base if look is None else replace(base, **vars(look))

    @property
    def usual(self) -> bool:
        """Whether nothing differs from the table."""
        return not self.looks and self.tolerance_m == USUAL_TOLERANCE_M
