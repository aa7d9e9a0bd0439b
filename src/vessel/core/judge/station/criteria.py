"""The judge's criteria as data: limits and what missing evidence means.

The judge runs this table; the Rules screen and docs/judge.md show it with the words of `words.criterion_words`.
How each is measured is under the same id in `measures.MEASURES`.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from vessel.core.judge.across.cross_section import NOT_EXPLAINED

CRITERIA_VERSION = "5"
"""Raised whenever a rule, a limit or a measure changes; kept with every saved verdict."""

Sense = Literal["above", "below"]
Missing = Literal["need", "care", "skip"]
Unit = Literal["ratio", "times", "length", "depths"]


@dataclass(frozen=True, kw_only=True)
class Rule:
    """One check: the limits of its measure and what it means when that cannot be formed.

    Attributes:
        id: Name in findings, files and words.
        unit: Unit of the measure and its limits: a ratio, times, metres or depths of the line.
        sense: "above": care and hold apply above their limits; "below": below them.
        care: Limit from which the verdict asks for care; None: no care zone.
        hold: Limit from which the verdict holds; None: it never holds by itself.
        missing: What a missing measure means: more is needed, care, or the rule is left out.
        worth: Share of stations off the line that nothing but this evidence holds (`tests/core/test_corpus.py`);
            1 where without it nothing else counts.
    """

    id: str
    unit: Unit
    sense: Sense
    care: float | None
    hold: float | None
    missing: Missing
    worth: float = 1.0


RULES: tuple[Rule, ...] = (
    Rule(id="frequency", unit="ratio", sense="above", care=None, hold=0.001, missing="need"),
    Rule(id="loop", unit="ratio", sense="above", care=0.2, hold=0.5, missing="need"),
    Rule(id="guidance", unit="ratio", sense="above", care=None, hold=0.5, missing="skip"),
    Rule(id="signal", unit="times", sense="below", care=40.0, hold=20.0, missing="need"),
    Rule(id="steady", unit="ratio", sense="above", care=0.1, hold=0.25, missing="need", worth=0.04),
    Rule(id="told", unit="ratio", sense="below", care=0.25, hold=None, missing="skip"),
    Rule(id="current_low", unit="times", sense="below", care=0.75, hold=0.5, missing="skip"),
    Rule(id="current_high", unit="times", sense="above", care=1.25, hold=1.6, missing="skip"),
    Rule(id="lift", unit="ratio", sense="above", care=0.15, hold=0.75, missing="need", worth=0.005),
    Rule(id="lift_sure", unit="ratio", sense="above", care=None, hold=0.3, missing="skip"),
    Rule(id="peak_null", unit="length", sense="above", care=0.08, hold=0.2, missing="need", worth=0.1),
    Rule(id="neighbour", unit="ratio", sense="above", care=0.35, hold=0.75, missing="care", worth=0.01),
    Rule(id="louder", unit="ratio", sense="above", care=1.0, hold=None, missing="skip"),
    Rule(id="direction", unit="ratio", sense="above", care=None, hold=0.5, missing="skip"),
    Rule(id="symmetry", unit="ratio", sense="above", care=0.12, hold=0.25, missing="skip"),
    Rule(id="explained", unit="times", sense="above", care=NOT_EXPLAINED, hold=16.0, missing="skip"),
    Rule(id="placed", unit="length", sense="above", care=0.08, hold=0.2, missing="skip"),
    Rule(id="depth", unit="ratio", sense="above", care=0.15, hold=0.5, missing="need"),
    Rule(id="ends", unit="depths", sense="below", care=3.0, hold=1.5, missing="skip"),
    Rule(id="turns", unit="depths", sense="below", care=3.0, hold=None, missing="skip"),
    Rule(id="crossings", unit="depths", sense="below", care=1.0, hold=None, missing="skip"),
    Rule(id="air", unit="ratio", sense="above", care=0.05, hold=0.2, missing="skip"),
    Rule(id="jump", unit="ratio", sense="above", care=0.25, hold=0.45, missing="skip"),
    Rule(id="gain", unit="ratio", sense="above", care=0.25, hold=None, missing="skip"),
)

BY_ID: dict[str, Rule] = {rule.id: rule for rule in RULES}
