"""The setups that a chosen one stands against when something turns out otherwise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_option import Option, Plan
from vessel.core.plan.what_if import what_if
from vessel.core.simulate.soil_range import soils_expected

MOST = 4
"""Setups compared at most."""
CLEARLY = 0.05
"""Share of what is to be located: less is no reason to change a plan."""


@dataclass(frozen=True)
class Sounder:
    """A setup that proves more in the worst soil expected: `least_m` [m] there, `instead_of_m` the chosen one."""

    option: Option
    least_m: float
    instead_of_m: float


def rivals(plan: Plan, setup: Setup) -> tuple[Option, ...]:
    """Return the setups to hold a plan's first one against in other soil.

    The same with more output, the best of each other method, and of another place and frequency. Least output leads a
    plan; in worse soil it is the first to fall short.

    Args:
        plan: The plan of one line.
        setup: Method, place, frequency and output.

    Returns:
        Options, best first.
    """
    key = (setup.method, setup.position_m, setup.freq_hz)
    alike = [o for o in plan.ranked if (o.setup.method, o.setup.position_m, o.setup.freq_hz) == key]
    louder = [o for o in alike if o.setup.output_a > setup.output_a]
    found: list[Option] = louder[:1]
    for method in dict.fromkeys(o.setup.method for o in plan.ranked):
        if method != setup.method:
            found.append(next(o for o in plan.ranked if o.setup.method == method))
    same = [o for o in plan.ranked if o.setup.method == setup.method]
    found += [o for o in same if o.setup.position_m != setup.position_m][:1]
    found += [o for o in same if o.setup.freq_hz != setup.freq_hz and o not in found][:1]
    return tuple(found[:MOST])


def sounder(
    lines: Sequence[Line],
    own: int,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    others: Sequence[Option],
    *,
    measured: bool,
    wanted_m: float,
) -> Sounder | None:
    """Return a setup that proves clearly more in the worst soil expected.

    Args:
        lines: Lines that share one site plan.
        own: Index of the line in question among `lines`.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        others: Options to compare with.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.
        wanted_m: Length of the line that is to be located [m].

    Returns:
        The sounder one and what it proves; None if none does.
    """

    def least_m(s: Setup) -> float:
        return min(what_if(lines, own, x, kit, s).proved_m for x in soils_expected(soil, measured=measured))

    chosen = least_m(setup)
    rated = [(least_m(o.setup), o) for o in others]
    most, option = max(rated, key=lambda r: r[0], default=(0.0, None))
    if option is None or most < chosen + CLEARLY * wanted_m:
        return None
    return Sounder(option, most, chosen)
