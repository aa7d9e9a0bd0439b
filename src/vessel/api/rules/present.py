"""The judge's table as a view."""

from __future__ import annotations

from typing import Literal

from vessel.api.rules.views import PriorView, RulesView, RuleView
from vessel.core.judge.rivals.rival_kinds import RIVALS
from vessel.core.judge.rule import Rule
from vessel.core.judge.station.crew_bounds import looser, rules_of, version_of
from vessel.core.judge.station.criteria import BY_ID, FAULT_RULES, SONDE_RULES
from vessel.core.model.kit import Bound
from vessel.core.text.units import Units
from vessel.formats.adapters import kit_of
from vessel.store.tables import KitRow
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.finding_sentences import bound_typed, bounds_text
from vessel.words.labels import MEASURE_UNIT_LABEL, MISSING_LABEL
from vessel.words.rival_sentences import RIVAL_REASON, RIVAL_TITLE, chance_text


def _rule(r: Rule, own: Bound | None, units: Units) -> RuleView:
    edited: Literal["", "stricter", "looser"] = "" if r == BY_ID[r.id] else "looser" if looser(r) else "stricter"
    words = CRITERION_WORDS[r.id]
    return RuleView(
        id=r.id,
        title=words.title,
        measures=words.measures,
        bounds=bounds_text(r, units),
        when_missing=MISSING_LABEL[r.missing],
        why=words.why,
        next_step=words.next_step,
        sense=r.sense,
        unit_text=MEASURE_UNIT_LABEL[r.unit],
        care_typed=bound_typed(r, r.care),
        hold_typed=bound_typed(r, r.hold),
        own_bounds=bounds_text(BY_ID[r.id], units),
        fixed=r.fixed,
        edited=edited,
        reason="" if own is None else own.reason,
        by="" if own is None else own.by,
        at="" if own is None else own.at,
    )


def rules_view(row: KitRow | None, units: Units) -> RulesView:
    """Return the table as the crew of a stored kit uses it, Vessel's own without one."""
    bounds = () if row is None else kit_of(row.data).bounds
    table, own = rules_of(bounds), {b.rule: b for b in bounds}
    sonde = [r for r in rules_of(bounds, SONDE_RULES) if r.id not in {x.id for x in table}]
    faults = rules_of(bounds, FAULT_RULES)
    return RulesView(
        kit_id=None if row is None else row.id,
        criteria_version=version_of((*table, *sonde, *faults)),
        rules=[_rule(r, own.get(r.id), units) for r in table],
        faults=[_rule(r, own.get(r.id), units) for r in faults],
        sonde=[_rule(r, own.get(r.id), units) for r in sonde],
        priors=[
            PriorView(
                kind=k.id,
                title=RIVAL_TITLE[k.id],
                wire_text=chance_text(k.prior["wire"]),
                cable_text=chance_text(k.prior["cable"]),
                pipe_text=chance_text(k.prior["pipe"]),
                why=RIVAL_REASON[k.id],
            )
            for k in RIVALS.values()
        ],
    )
