"""The judge's table with a crew's own limits in it: how far they may be moved, and which of them let more pass."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

from vessel.core.base.errors import BadInput
from vessel.core.judge.rule import Rule
from vessel.core.judge.station.criteria import BY_ID, CRITERIA_VERSION, RULES
from vessel.core.model.kit import Bound, Kit

_FURTHEST = 3.0  # times Vessel's own limit: beyond that a rule would say nothing any more


def version_of(rules: Sequence[Rule]) -> str:
    """Return the version of a set of criteria.

    Args:
        rules: The criteria to judge by.

    Returns:
        The table's version, marked as edited if a limit was changed.
    """
    return CRITERIA_VERSION if all(rule == BY_ID.get(rule.id) for rule in rules) else f"{CRITERIA_VERSION}, edited"


@lru_cache(maxsize=64)
def rules_of(bounds: tuple[Bound, ...], table: tuple[Rule, ...] = RULES) -> tuple[Rule, ...]:
    """Return the table of criteria with a crew's own limits.

    A limit may be moved. A rule cannot gain a zone it does not have, or lose one.

    Args:
        bounds: The limits of the crew.
        table: The criteria as they stand: those of stations, or of a sonde's stops.

    Returns:
        The criteria in their order.

    Raises:
        BadInput: If a limit names no rule, or is on the wrong side of another; names the rule.
    """
    own = {b.rule: b for b in bounds}
    for name, b in own.items():
        _check_bound(name, b)
    return tuple(
        replace(rule, care=own[rule.id].care, hold=own[rule.id].hold) if rule.id in own else rule for rule in table
    )


def _check_bound(name: str, b: Bound) -> None:
    rule = BY_ID.get(name)
    if rule is None:
        raise BadInput("no_such_rule", field="bounds", name=name)
    if rule.fixed:
        raise BadInput("limit_fixed", field="care", rule=rule.id)
    for zone in ("care", "hold"):
        told, usual = getattr(b, zone), getattr(rule, zone)
        if (told is None) != (usual is None):
            raise BadInput("limit_missing" if told is None else "limit_not_there", field=zone, rule=rule.id, zone=zone)
        # a bound that is passed below it is made looser by lowering it: that goes no further either
        least = 0.0 if usual is None or rule.sense == "above" else usual / _FURTHEST
        if told is not None and not (least <= told <= _FURTHEST * usual and told > 0):
            raise BadInput("limit_out_of_reason", field=zone, rule=rule.id, zone=zone, value=told, furthest=_FURTHEST)
    if b.care is not None and b.hold is not None and (b.care >= b.hold) == (rule.sense == "above"):
        raise BadInput("limits_swapped", field="care", rule=rule.id)


def rule_of(kit: Kit, rule_id: str) -> Rule:
    """Return a rule with the limits that a kit's crew judges by.

    Args:
        kit: Transmitter and receiver in use.
        rule_id: Id of the rule.

    Returns:
        The rule.
    """
    return next(rule for rule in rules_of(kit.bounds) if rule.id == rule_id)


def looser(rule: Rule) -> bool:
    """Return whether a rule lets more pass than Vessel's own limits do.

    Args:
        rule: One criterion with its limits.

    Returns:
        True if it does in any zone.
    """
    usual, sign = BY_ID[rule.id], 1 if rule.sense == "above" else -1
    pairs = ((rule.care, usual.care), (rule.hold, usual.hold))
    return any(told is not None and own is not None and sign * (told - own) > 0 for told, own in pairs)
