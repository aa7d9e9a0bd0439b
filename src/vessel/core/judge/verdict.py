"""The verdict on a station: run the table, keep every finding, let the gravest decide."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from vessel.core.judge.measures import MEASURES, StationContext
from vessel.core.judge.rules import CRITERIA_VERSION, RULES, Rule
from vessel.core.model.reading import StationReading

Outcome = Literal["pass", "care", "hold", "need", "skip"]
Verdict = Literal["mark", "mark_with_care", "hold", "need_more"]
PROVED: frozenset[Verdict] = frozenset({"mark", "mark_with_care"})
"""Verdicts that a mark may rest on; any other needs a written reason."""

VERDICT_LABEL: dict[Verdict, str] = {
    "mark": "Mark",
    "mark_with_care": "Mark with care",
    "hold": "Hold",
    "need_more": "Need more",
}


@dataclass(frozen=True)
class Finding:
    """What one rule found: its measure's value (None when it could not be formed) and the outcome."""

    rule: Rule
    outcome: Outcome
    value: float | None


@dataclass(frozen=True)
class Judgement:
    """Verdict with all findings, the deciding ones first, and the version of the criteria."""

    verdict: Verdict
    findings: tuple[Finding, ...]
    criteria_version: str = CRITERIA_VERSION

    @property
    def deciding(self) -> tuple[Finding, ...]:
        """The findings that made the verdict what it is; empty for a plain Mark."""
        wanted = {"hold": "hold", "need_more": "need", "mark_with_care": "care"}.get(self.verdict)
        return tuple(f for f in self.findings if f.outcome == wanted)


def outcome_of(rule: Rule, value: float | None) -> Outcome:
    """Return the outcome of one rule for the value of its measure: None missing, NaN not applicable."""
    if value is None:
        return rule.missing
    if value != value:
        return "skip"
    sign = 1.0 if rule.sense == "above" else -1.0
    if sign * (value - rule.hold) > 0:
        return "hold"
    return "care" if rule.care is not None and sign * (value - rule.care) > 0 else "pass"


def judge(reading: StationReading, context: StationContext, *, rules: Sequence[Rule] = RULES) -> Judgement:
    """Return the judgement of one station. Any hold holds; then missing evidence; then care; else mark."""
    findings = []
    for rule in rules:
        value = MEASURES[rule.id](reading, context)
        findings.append(Finding(rule, outcome_of(rule, value), value))
    outcomes = {f.outcome for f in findings}
    verdict: Verdict = (
        "hold"
        if "hold" in outcomes
        else "need_more"
        if "need" in outcomes
        else "mark_with_care"
        if "care" in outcomes
        else "mark"
    )
    return Judgement(verdict, tuple(findings))
