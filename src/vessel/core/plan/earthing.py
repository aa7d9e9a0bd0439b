"""What earthing the far end is worth: the oldest way to get current to the end of a line."""

from __future__ import annotations

from dataclasses import replace

from vessel.core.model.line import Line
from vessel.core.plan.close_setups import CLEARLY
from vessel.core.plan.frequency_order import School
from vessel.core.plan.option_order import in_order
from vessel.core.plan.plan_option import Plan

_AS_IT_IS = ("nothing_markable", "no_more_current")  # ruled out as the line is, which may not hold with an earth


def with_if_earthed(plan: Plan, line: Line, *, school: School) -> Plan:
    """Return a plan that says which setup to use once the far end is earthed.

    Only if it may not be earthed yet and that clearly proves more than the plan's first setup does as it is: earthing
    it takes a walk and its owner's consent.

    Args:
        plan: The plan of one line.
        line: The line to locate.
        school: The crew's frequency approach.

    Returns:
        The plan, unchanged if an earth gains too little.
    """
    if line.far.kind == "earthed":
        return plan
    rated = [o for o in (*plan.ranked, *plan.rejected) if o.rejected in (None, *_AS_IT_IS) and o.earthed_m > 0]
    now = plan.ranked[0].proved_m if plan.ranked else 0.0
    if not rated or max(o.earthed_m for o in rated) < now + CLEARLY * plan.wanted_m:
        return plan
    first = in_order(rated, wanted_m=plan.wanted_m, school=school, lengths_m=lambda o: (o.earthed_m, o.earthed_m))[0]
    return replace(plan, if_earthed=first)
