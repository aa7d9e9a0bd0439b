"""The verdict on a station: run the table, keep every finding, let the gravest decide."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import Any, Literal

import numpy as np

from vessel.core.base.arrays import Codes, Floats, Index, Mask
from vessel.core.judge.rule import Judgeable, Outcome, Rule
from vessel.core.judge.station.batch import Batch, StationContext
from vessel.core.judge.station.crew_bounds import version_of
from vessel.core.judge.station.criteria import CRITERIA_VERSION, RULES
from vessel.core.model.readings import StationReading

Verdict = Literal["mark", "mark_with_care", "hold", "need_more"]
PROVED: frozenset[Verdict] = frozenset({"mark", "mark_with_care"})
"""Verdicts that a mark may rest on; any other needs a written reason."""


@dataclass(frozen=True)
class Finding:
    """What one rule found: its measure's value (None when it could not be formed) and the outcome.

    `carried_m`: it was not checked here but at this distance [m], and passes as far as the stretch is quiet.
    `weighed`: its limits asked for more, but what it measures is weighed otherwise.
    """

    rule: Rule
    outcome: Outcome
    value: float | None
    carried_m: float | None = None
    weighed: bool = False

    @property
    def to_ask(self) -> float:
        """Where it stands among what decides: missing evidence by its worth, what was measured as in the table.

        That the line is in doubt comes last of what holds: what else holds there says why.
        """
        if self.rule.id == "aside":
            return 0.0
        missing = self.value is None and self.outcome in ("need", "care")
        return -self.rule.worth if missing else -1.0


@dataclass(frozen=True)
class Judgement:
    """Verdict with all findings, the deciding ones first, and the version of the criteria."""

    verdict: Verdict
    findings: tuple[Finding, ...]
    criteria_version: str = CRITERIA_VERSION

    @property
    def deciding(self) -> tuple[Finding, ...]:
        """The findings that made the verdict, missing evidence most valuable first; none for a plain Mark."""
        wanted = {"hold": "hold", "need_more": "need", "mark_with_care": "care"}.get(self.verdict)
        return tuple(sorted((f for f in self.findings if f.outcome == wanted), key=lambda f: f.to_ask))


def outcome_of(rule: Rule, value: float | None) -> Outcome:
    """Return the outcome of one rule for one measured value.

    Args:
        rule: One criterion with its limits.
        value: The measure; None if missing, NaN if it does not apply.

    Returns:
        The outcome.
    """
    return rule.missing if value is None else outcomes_of(rule, np.array([value]))[0]


def outcomes_of(rule: Rule, values: Floats) -> list[Outcome]:
    """Return the outcome of one rule for many measured values.

    Args:
        rule: One criterion with its limits.
        values: The measure at each station, shape (n,); NaN if it does not apply.

    Returns:
        One outcome for each value.
    """
    codes = _codes(rule, values).tolist()
    return ["skip" if none else _OUTCOMES[code] for code, none in zip(codes, np.isnan(values).tolist(), strict=True)]


def passing(rule: Rule, values: Floats) -> Mask:
    """Return which measured values pass one rule.

    Args:
        rule: One criterion with its limits.
        values: The measure at each station, shape (n,); a missing one does not pass.

    Returns:
        Which pass, shape (n,).
    """
    return np.asarray((_codes(rule, values) == 0) & ~np.isnan(values))


_OUTCOMES: tuple[Outcome, ...] = ("pass", "care", "need", "hold")
VERDICTS: tuple[Verdict, ...] = ("mark", "mark_with_care", "need_more", "hold")
"""Verdicts from the best to the gravest: the order of their codes."""
_MISSING = {"skip": 0, "care": 1, "need": 2}


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


Carried = Mapping[str, Any]
"""By rule id: from where [m] it is carried to each station (n,), NaN where it is not."""


def judge_codes(batch: Judgeable, *, carried: Carried = MappingProxyType({})) -> tuple[Codes, Index]:
    """Judge a batch of stations as arrays.

    Args:
        batch: Stations of one trace: n of them.
        carried: By rule: where evidence comes from, as `carried_evidence.carried` gives it.

    Returns:
        Index into `VERDICTS` and index of the first rule that decided, each of shape (n,).
    """
    found = [_outcomes(rule, batch, _measured(rule, batch), carried) for rule in batch.rules]
    worst = np.zeros(np.broadcast_shapes(*(f.shape for f in found)), dtype=np.int8)
    first = np.zeros(worst.shape, dtype=np.intp)
    for k, codes in enumerate(found):
        if not codes.any():
            continue
        graver = codes > worst
        worst, first = np.where(graver, codes, worst), np.where(graver, k, first)
    return worst, first


def also_judged(
    rule_id: str, values: Any, codes: Codes, decided_by: Index, *, rules: Sequence[Rule]
) -> tuple[Codes, Index]:
    """Return what `judge_codes` gave with the real values of one rule that it was not given.

    Since that rule passed everywhere, the others need not be asked again.

    Args:
        rule_id: Id of the rule.
        values: Its measure, shape (n,); NaN passes.
        codes: Verdicts so far, shape (n,).
        decided_by: Index of the rule that decided so far, shape (n,).
        rules: The criteria to judge by.

    Returns:
        The two arrays with that rule in them.
    """
    k = next(i for i, rule in enumerate(rules) if rule.id == rule_id)
    own = np.where(np.isnan(values), np.int8(0), _codes(rules[k], np.asarray(values)))
    earlier = (own > codes) | ((own == codes) & (own > 0) & (k < decided_by))
    return np.maximum(codes, own), np.where(earlier, k, decided_by)


def _measured(rule: Rule, batch: Judgeable) -> Any:
    return np.asarray(rule.measure(batch))


def _outcomes(rule: Rule, batch: Judgeable, values: Any, carried: Carried) -> Codes:
    # a plan has much of what a crew may read nowhere: that need not be looked at place by place
    nowhere = rule.missing == "skip" and not values.shape and np.isnan(values)
    if nowhere or batch.silent(rule.id):
        return np.zeros(1, dtype=np.int8)
    codes = _codes(rule, values)
    if rule.id in batch.softened:
        most = np.int8(_OUTCOMES.index(batch.softened[rule.id]))
        codes = np.where(np.isnan(values) | ~np.asarray(batch.settled), codes, np.minimum(codes, most))
    if rule.id in carried:
        codes[np.isnan(values) & ~np.isnan(carried[rule.id])] = 0
    return codes


def judge(reading: StationReading, context: StationContext, *, rules: Sequence[Rule] = RULES) -> Judgement:
    """Judge one station.

    Any hold holds; then missing evidence; then care; else mark.

    Args:
        reading: Readings at one station.
        context: What it is judged against.
        rules: The criteria to judge by.

    Returns:
        Verdict, the checks that decided, and all outcomes.
    """
    return judgements(Batch.of([reading], [context], rules=rules))[0]


def judgements(batch: Judgeable, *, carried: Carried = MappingProxyType({})) -> list[Judgement]:
    """Judge a batch of stations, or of a sonde's stops.

    Args:
        batch: Stations of one trace or stops of one run, made of readings.
        carried: By rule: where evidence comes from, as `carried_evidence.carried` gives it.

    Returns:
        One judgement for each station.
    """
    count = batch.count
    rows = [_findings(rule, batch, carried, count) for rule in batch.rules]
    worst, _ = judge_codes(batch, carried=carried)
    codes = np.broadcast_to(worst, (count,))
    version = version_of(batch.rules)
    found = zip(*rows, strict=True)
    return [Judgement(VERDICTS[code], row, version) for code, row in zip(codes.tolist(), found, strict=True)]


def _findings(rule: Rule, batch: Judgeable, carried: Carried, count: int) -> list[Finding]:
    """What one rule found at each station."""
    silent = batch.silent(rule.id)
    values = np.broadcast_to(_measured(rule, batch), (count,))
    codes = np.broadcast_to(_outcomes(rule, batch, values, carried), (count,))
    came_from = np.broadcast_to(carried.get(rule.id, np.nan), (count,))
    nothing = Finding(rule, "skip", float("nan")) if silent else Finding(rule, rule.missing, None)
    found, softened = [], rule.id in batch.softened
    for value, code, origin in zip(values.tolist(), codes.tolist(), came_from.tolist(), strict=True):
        if value == value:
            found.append(
                Finding(rule, _OUTCOMES[code], value, weighed=softened and outcome_of(rule, value) != _OUTCOMES[code])
            )
        elif silent or origin != origin:
            found.append(nothing)
        else:
            found.append(Finding(rule, "pass", None, origin))
    return found
