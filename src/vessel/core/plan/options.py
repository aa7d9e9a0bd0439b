"""All options for one line: hookup x place x frequency x output, safety first, ranked by what a trace would prove."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from vessel.core.judge.verdict import PROVED
from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.lazy import lazy
from vessel.core.model.setup import METHODS, Setup, usual_stake
from vessel.core.plan.forecast import Forecast, Moving
from vessel.core.plan.places import Place, kit_rejection
from vessel.core.plan.rated import forecasts
from vessel.core.plan.school import School, frequency_order
from vessel.core.plan.simulate import Simulator, solve_together

_SAME_DRIVE = 1.01


@dataclass(frozen=True)
class Option:
    """One setup: its forecasts per far-end case (empty where safety or the kit rules it out) and why it is rejected.

    `rejected` is a reason id, None for a ranked option; `same_as_a` the lower step [A] that already gives as much.
    `access`: the access point it is made at, empty for induction; `disturbs`: it is in service there.
    """

    setup: Setup
    forecasts: tuple[Forecast, ...]
    rejected: str | None = None
    same_as_a: float | None = None
    access: str = ""
    disturbs: bool = False

    @lazy
    def proved_m(self) -> float:
        """Length to be located [m] that is **Mark** whichever way the far end is."""
        return min((f.length_m("mark") for f in self.forecasts), default=0.0)

    @lazy
    def usable_m(self) -> float:
        """Length to be located [m] that is Mark or Mark with care whichever way the far end is."""
        return min((f.length_m(*PROVED) for f in self.forecasts), default=0.0)

    @lazy
    def bleed_share(self) -> float:
        """Greatest share of the line's own current that a neighbour takes."""
        return max((float(f.bleed_shares.max(initial=0.0)) for f in self.forecasts), default=0.0)


@dataclass(frozen=True)
class Plan:
    """Ranked options, best first, and the rejected ones. `wanted_m`: length of the line to be located [m].

    `moving`: what moving induction would do, tried only where setups that stand still leave much unproved.
    """

    ranked: tuple[Option, ...]
    rejected: tuple[Option, ...]
    wanted_m: float
    moving: Moving | None = None


def base_setup(kit: Kit) -> Setup:
    """Return what a plan varies: the kit's first step and frequency, with the usual stake within its lead."""
    return Setup("direct", kit.frequencies[0].freq_hz, kit.outputs_a[0], usual_stake(kit.lead_m))


def gathered(options: Sequence[Option], *, wanted_m: float, school: School) -> Plan:
    """Return the plan of a line from all its options."""
    ranked = in_order([o for o in options if not o.rejected], wanted_m=wanted_m, school=school)
    rejected = [o for o in options if o.rejected]
    rejected.sort(key=lambda o: (METHODS.index(o.setup.method), o.setup.freq_hz, o.setup.output_a))
    return Plan(ranked, tuple(rejected), wanted_m)


def in_order(options: Sequence[Option], *, wanted_m: float, school: School) -> tuple[Option, ...]:
    """Return options best first: most proved length (to 2 % of what is wanted), usable length, hookup order.

    Then the school's order of frequencies, least output, bleed-off (to 5 %), way to walk and disturbance.
    """
    whole = max(wanted_m, 1e-9)

    def key(o: Option) -> tuple[float, ...]:
        s = o.setup
        return (
            -round(50 * o.proved_m / whole),
            -round(50 * o.usable_m / whole),
            METHODS.index(s.method),
            frequency_order(s.freq_hz, school),
            s.output_a,
            round(20 * min(o.bleed_share, 10.0)),
            s.position_m,
            o.disturbs,
        )

    return tuple(sorted(options, key=key))


def at_frequency(
    sims: Sequence[Simulator],
    found: Sequence[Sequence[tuple[Place, str | None]]],
    frequency: Frequency,
    base: Setup,
) -> list[list[Option]]:
    """Return every option of each line at one frequency; `found` are its places with what rules each out.

    All hookups of all lines that share a world are solved together.
    """
    rated: list[list[Option]] = []
    tried: list[list[tuple[Place, Setup]]] = []
    for sim, each in zip(sims, found, strict=True):
        refused: list[Option] = []
        possible: list[tuple[Place, Setup]] = []
        for place, unsafe in each:
            setup = setup_at(place, base, frequency.freq_hz)
            why = unsafe or kit_rejection(place.method, frequency, sim.kit)
            if why is None:
                possible.append((place, setup))
            else:
                refused += [
                    Option(replace(setup, output_a=a), (), why, access=place.access) for a in sorted(sim.kit.outputs_a)
                ]
        rated.append(refused)
        tried.append(possible)
    solved = solve_together(sims, [[s for _, s in each] for each in tried])
    for sim, possible, excited, options in zip(sims, tried, solved, rated, strict=True):
        if possible:
            steps = sorted(sim.kit.outputs_a)
            rated_ones = forecasts(sim, [s for _, s in possible], steps, solved=excited)
            for (place, setup), each_step in zip(possible, rated_ones, strict=True):
                options += _steps(setup, place, steps, each_step)
    return rated


def setup_at(place: Place, base: Setup, freq_hz: float) -> Setup:
    """Return `base` made at `place` at `freq_hz` [Hz]."""
    stake = base.stake if place.stake_away_m is None else replace(base.stake, away_m=place.stake_away_m)
    return replace(
        base,
        method=place.method,
        freq_hz=freq_hz,
        position_m=place.position_m,
        stake=stake,
        stake_at=place.stake_at,
    )


def _steps(
    setup: Setup, place: Place, steps: Sequence[float], forecasts: Sequence[tuple[Forecast, ...]]
) -> list[Option]:
    """The output steps of one hookup; one that drives no more than a lower one is rejected for it."""
    rated: list[Option] = []
    for amps, each in zip(steps, forecasts, strict=True):
        at, before = replace(setup, output_a=amps), rated[-1] if rated else None
        if before and all(
            f.output.drive <= _SAME_DRIVE * b.output.drive for f, b in zip(each, before.forecasts, strict=True)
        ):
            same_as = before.same_as_a or before.setup.output_a
            rated.append(Option(at, before.forecasts, "no_more_current", same_as, place.access, place.disturbs))
            continue
        useless = not any(f.length_m(*PROVED) > 0 for f in each)
        rated.append(Option(at, each, "nothing_markable" if useless else None, None, place.access, place.disturbs))
    return rated
