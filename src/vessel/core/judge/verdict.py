"""The verdict on a station: run the table, keep every finding, let the gravest decide."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from numpy.typing import NDArray

from vessel.core.judge.measures import MEASURES, Batch, StationContext, not_applicable
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
    return _OUTCOMES[int(_codes(rule, np.array([value]))[0])]


_OUTCOMES: tuple[Outcome, ...] = ("pass", "care", "need", "hold")
VERDICTS: tuple[Verdict, ...] = ("mark", "mark_with_care", "need_more", "hold")
"""Verdicts from the best to the gravest: the order of their codes."""
_MISSING = {"skip": 0, "care": 1, "need": 2}
Codes = NDArray[np.int8]


def _codes(rule: Rule, values: Any) -> Codes:
    """Outcome (n,) of one rule as an index of `_OUTCOMES`; NaN is missing."""
    past = np.greater if rule.sense == "above" else np.less
    codes = np.zeros(np.shape(values), dtype=np.int8)
    if rule.care is not None:
        codes[past(values, rule.care)] = 1
    if rule.hold is not None:
        codes[past(values, rule.hold)] = 3
    if _MISSING[rule.missing]:  # of a comparison with NaN nothing comes
        codes[np.isnan(values)] = _MISSING[rule.missing]
    return codes


def judge_codes(batch: Batch, *, rules: Sequence[Rule] = RULES) -> tuple[Codes, NDArray[np.intp]]:
    """Return the verdict of each station as an index of `VERDICTS`, and the index of the first rule that decided it."""
    found = [
        np.zeros(1, dtype=np.int8) if not_applicable(r.id, batch) else _codes(r, np.asarray(MEASURES[r.id](batch)))
        for r in rules
    ]
    worst = np.zeros(np.broadcast_shapes(*(f.shape for f in found)), dtype=np.int8)
    first = np.zeros(worst.shape, dtype=np.intp)
    for k, codes in enumerate(found):
        if not codes.any():
            continue
        graver = codes > worst
        worst, first = np.where(graver, codes, worst), np.where(graver, k, first)
    return worst, first


def judge(reading: StationReading, context: StationContext, *, rules: Sequence[Rule] = RULES) -> Judgement:
    """Return the judgement of one station. Any hold holds; then missing evidence; then care; else mark."""
    batch = Batch.of(reading, context)
    findings = []
    for rule in rules:
        value = float(np.asarray(MEASURES[rule.id](batch)).reshape(-1)[0])
        shown = value if not_applicable(rule.id, batch) or value == value else None
        findings.append(Finding(rule, outcome_of(rule, shown), shown))
    (worst, *_), _ = judge_codes(batch, rules=rules)
    return Judgement(VERDICTS[worst], tuple(findings))
