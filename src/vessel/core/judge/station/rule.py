"""One check of the judge as a record."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

Sense = Literal["above", "below"]
Missing = Literal["need", "care", "skip"]
Unit = Literal["ratio", "times", "length", "depths"]


@dataclass(frozen=True, kw_only=True)
class Rule:
    """One check: the limits of its measure and what it means when that cannot be formed.

    Attributes:
        id: Name in findings, files and words.
        measure: Forms the measure for a batch of stations (`measures`); NaN where what it needs was not taken.
        unit: Unit of the measure and its limits: a ratio, times, metres or depths of the line.
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
