"""One check of the judge as a record, and what can be judged by a table of them."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal, Protocol

Sense = Literal["above", "below"]
Missing = Literal["need", "care", "skip"]
Unit = Literal["ratio", "times", "length", "depths", "ohm"]
Outcome = Literal["pass", "care", "hold", "need", "skip"]


@dataclass(frozen=True, kw_only=True)
class Rule:
    """One check: the limits of its measure and what it means when that cannot be formed.

    Attributes:
        id: Name in findings, files and words.
        measure: Forms the measure for a batch of stations (`measures`); NaN where what it needs was not taken.
        unit: Unit of the measure and its limits: a ratio, times, metres, depths of the line or ohms.
        sense: "above": care and hold apply above their limits; "below": below them.
        care: Limit from which the verdict asks for care; None: no care zone.
        hold: Limit from which the verdict holds; None: it never holds by itself.
        missing: What a missing measure means: more is needed, care, or the rule is left out.
        worth: Share of stations off the line that nothing but this evidence holds (`tests/core/test_corpus.py`);
            1 where without it nothing else counts.
        fixed: Whether no crew may move its limits.
    """

    id: str
    measure: Callable[[Any], Any]
    unit: Unit
    sense: Sense
    care: float | None
    hold: float | None
    missing: Missing
    worth: float = 1.0
    fixed: bool = False


class Judgeable(Protocol):
    """What a table of rules is run on: stations of a trace, or the stops of a sonde run."""

    @property
    def rules(self) -> tuple[Rule, ...]:
        """The table they are judged by."""

    @property
    def count(self) -> int:
        """How many there are."""

    @property
    def softened(self) -> Mapping[str, Outcome]:
        """The gravest outcome of what some rules measure, by id: what they would hold for is weighed otherwise."""

    @property
    def settled(self) -> Any:
        """Where it is: shape (n,), or one for all."""

    def silent(self, rule_id: str) -> bool:
        """Return whether a rule does not apply to how the signal was put on.

        Args:
            rule_id: Id of the rule.

        Returns:
            True if it does not apply.
        """


class AsMeasured:
    """What a table of rules is run on with no exception: all of them apply, and none is weighed otherwise."""

    @property
    def softened(self) -> Mapping[str, Outcome]:
        """None."""
        return {}

    @property
    def settled(self) -> bool:
        """Nowhere."""
        return False

    def silent(self, rule_id: str) -> bool:
        """Return whether a rule does not apply.

        Args:
            rule_id: Id of the rule.

        Returns:
            False: all of them apply.
        """
        return False
