"""Opening one bond at a time where several conductors share one: the steps, and what the current says then.

Conductors on one bar share what the transmitter puts on it. With the bond of the conductor under the receiver open its
current goes; with that of any other open it stays, or grows by what the other took.
"""

from __future__ import annotations

from dataclasses import dataclass

from vessel.core.base.errors import BadInput, require_range
from vessel.core.hookup.safe_order import Step
from vessel.core.model.identity import Answer

BOND_STEPS: tuple[Step, ...] = (
    Step("bond_consent", True, "line"),
    Step("bond_before", part="walk"),
    Step("bond_off", True, "transmitter"),
    Step("bond_open", True, "line"),
    Step("bond_on", part="transmitter"),
    Step("bond_after", part="walk"),
    Step("bond_close", True, "line"),
)
"""The steps for one bond; their words are in `words.bond_sentences`."""
STAYS, GONE = 0.7, 0.3
"""Shares of the current before from which it stays, and down to which it is gone."""


@dataclass(frozen=True)
class BondOpened:
    """What was read at one place with a bond closed and open: `before_a`, `after_a` [A].

    `own`: it is the bond of the line under the receiver.
    """

    own: bool
    before_a: float
    after_a: float

    def __post_init__(self) -> None:
        for field, amps in (("before_a", self.before_a), ("after_a", self.after_a)):
            require_range(amps, low=0.0, high=10.0, field=field, name="Current", unit="A")
        if self.before_a <= 0.0:
            raise BadInput("no_current_before", field="before_a")

    @property
    def share(self) -> float:
        """The current with the bond open against that before."""
        return self.after_a / self.before_a

    @property
    def says(self) -> Answer:
        """What it says of the line: for it, against it, or nothing where the current changed by half."""
        if GONE < self.share < STAYS:
            return "cannot"
        return "for" if (self.share <= GONE) == self.own else "against"
