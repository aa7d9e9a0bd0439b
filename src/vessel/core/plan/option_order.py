"""Which of a line's options comes first, and which an approach would use."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from vessel.core.model.methods import METHODS
from vessel.core.plan.frequency_order import School, frequency_order
from vessel.core.plan.plan_option import Option, Plan


def gathered(options: Sequence[Option], *, wanted_m: float, school: School) -> Plan:
    """Return the plan of a line from all its options.

    Args:
        options: Every option, in any order.
        wanted_m: Length of the line that is to be located [m].
        school: The crew's frequency approach.

    Returns:
        The plan.
    """
    ranked = in_order([o for o in options if not o.rejected], wanted_m=wanted_m, school=school)
    rejected = [o for o in options if o.rejected]
    rejected.sort(key=lambda o: (METHODS.index(o.setup.method), o.setup.freq_hz, o.setup.output_a))
    return Plan(ranked, tuple(rejected), wanted_m)


def as_told(o: Option) -> tuple[float, float]:
    """Return the lengths an option proves for every far end considered.

    Args:
        o: The option.

    Returns:
        Length that is Mark, and Mark or Mark with care [m].
    """
    return o.proved_m, o.usable_m


_SAME = 0.02
"""Share of what is wanted by which two lengths may differ and still count as the same."""


def in_order(
    options: Sequence[Option],
    *,
    wanted_m: float,
    school: School,
    lengths_m: Callable[[Option], tuple[float, float]] = as_told,
) -> tuple[Option, ...]:
    """Sort options, best first.

    By how many steps of 2 % of what is wanted proved length falls short of the best, usable length and method; then
    by the approach's order of frequencies, least output, bleed-off (to 5 %), way to walk and disturbance.

    Args:
        options: Options of one line.
        wanted_m: Length of the line that is to be located [m].
        school: The crew's frequency approach.
        lengths_m: Returns what an option proves, and proves with care [m].

    Returns:
        The options in order.
    """
    lengths = [lengths_m(o) for o in options]
    most = [max(each, default=0.0) for each in zip(*lengths, strict=True)]

    def key(o: Option) -> tuple[float, ...]:
        s = o.setup
        return (
            *(_steps_short(a, b, wanted_m) for a, b in zip(lengths_m(o), most, strict=True)),
            METHODS.index(s.method),
            frequency_order(s.freq_hz, school),
            s.output_a,
            round(20 * min(o.bleed_share, 10.0)),
            s.position_m,
            o.disturbs,
        )

    return tuple(sorted(options, key=key))


def _steps_short(length_m: float, most_m: float, wanted_m: float) -> int:
    """How many steps of what counts as a difference a length falls short of the most."""
    return int((most_m - length_m) / max(_SAME * wanted_m, 1e-9) + 1e-6)


def pick(ranked: Sequence[Option], school: School, wanted_m: float) -> Option | None:
    """Return what an approach would use, even if it proves little.

    Its first useful frequency with the best hookup; of the outputs there the one that proves most, then the least.

    Args:
        ranked: Options, best first.
        school: The crew's frequency approach.
        wanted_m: Length of the line that is to be located [m].

    Returns:
        The option; None if there is none.
    """
    if not ranked:
        return None
    same = [o for o in ranked if o.setup.method == ranked[0].setup.method]
    first = min(same, key=lambda o: frequency_order(o.setup.freq_hz, school)).setup.freq_hz
    here = [o for o in same if o.setup.freq_hz == first]
    most = max(o.proved_m for o in here), max(o.usable_m for o in here)
    return min(
        here,
        key=lambda o: (
            *(_steps_short(a, b, wanted_m) for a, b in zip((o.proved_m, o.usable_m), most, strict=True)),
            o.setup.output_a,
        ),
    )
