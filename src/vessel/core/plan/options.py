"""All options for one line: hookup x place x frequency x output, safety first, ranked by what a trace would prove."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from math import inf, isfinite
from typing import Literal

from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.judge.station.verdict import outcome_of
from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import Line
from vessel.core.model.methods import METHODS
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.plan.frequency_order import School, frequency_order
from vessel.core.simulate.currents import Currents
from vessel.core.simulate.forecast import Forecast, Moving
from vessel.core.simulate.hookup_places import Place, kit_rejection, places
from vessel.core.simulate.line_simulator import Simulator, currents_together
from vessel.core.simulate.ratings import Rating, Ratings, ratings
from vessel.core.simulate.valves import past_valves

_SAME_DRIVE = 1.01
_LEAST_MORE_M, _WORTH_MOVING = 1.0, 0.05
"""Of what is wanted: moving induction takes two people, so it has to give that much more."""

Proves = Literal["mark", "care", "earthed", "depends"]
"""What an option is good for: plain marks, marks with care, marks once the far end is earthed; else it depends."""


@dataclass(frozen=True, eq=False)
class Option:
    """One setup and its rating (None where safety or the kit rules it out), and why it is rejected.

    `rejected` is a reason id, None for a ranked option; `same_as_a` the lower step [A] that already gives as much.
    `access`: the access point it is made at, empty for induction; `disturbs`: it is in service there. `in_soils_m`:
    length [m] it proves in the wettest and in the driest soil expected, where that was looked at.
    """

    setup: Setup
    rating: Rating | None
    rejected: str | None = None
    same_as_a: float | None = None
    access: str = ""
    disturbs: bool = False
    in_soils_m: tuple[float, ...] | None = None

    @property
    def forecasts(self) -> tuple[Forecast, ...]:
        """The forecast of each far-end case; none where it was ruled out."""
        return () if self.rating is None else self.rating.forecasts

    @property
    def proved_m(self) -> float:
        """Length to be located [m] that is **Mark** for every far end considered."""
        return 0.0 if self.rating is None else self.rating.proved_m

    @property
    def earthed_m(self) -> float:
        """Length to be located [m] that is **Mark** with the far end earthed, NaN where that was not rated."""
        return float("nan") if self.rating is None else self.rating.earthed_m

    @property
    def proves(self) -> Proves:
        """What it is good for, at least over a stretch worth walking: nothing it only might do counts."""
        worth_m = inf if self.rating is None else self.rating.of.worth_m
        if self.proved_m >= worth_m:
            return "mark"
        if self.usable_m >= worth_m:
            return "care"
        return "earthed" if self.earthed_m >= worth_m else "depends"

    @property
    def earthed_besides(self) -> bool:
        """Whether it was rated with the far end earthed although neither is entered for the line."""
        return self.rating is not None and (self.rating.of.earthed or 0) >= self.rating.of.told

    @property
    def usable_m(self) -> float:
        """Length to be located [m] that is Mark or Mark with care for every far end considered."""
        return 0.0 if self.rating is None else self.rating.usable_m

    @property
    def far_end_a(self) -> tuple[float, ...]:
        """Current at the last station before the far end [A], one for each way the far end may be."""
        return tuple(float(f.current_a[-1]) for f in self.forecasts)

    @property
    def peak_null_m(self) -> float | None:
        """Widest peak-to-null distance [m] where a mark may rest on it; None where there is none or it is unknown."""
        apart = [float(d) for f in self.forecasts for d, ok in zip(f.peak_null_m, f.proved, strict=True) if ok]
        return max(apart) if apart and all(isfinite(d) for d in apart) else None

    @property
    def stand_off_m(self) -> float | None:
        """Distance [m] from the coil at which the first station can be marked, for every far end considered.

        None where no station can be.
        """
        worst = 0.0
        for f in self.forecasts:
            off = abs(f.distance_m - self.setup.position_m)[f.proved]
            if not len(off):
                return None
            worst = max(worst, float(off.min()))
        return worst if self.forecasts else None

    def loud(self, share: float) -> bool:
        """Return whether a neighbour takes more than the judge lets pass.

        Args:
            share: Its share of the line's current.

        Returns:
            True if it does.
        """
        return self.rating is not None and outcome_of(rule_of(self.rating.of.kit, "neighbour"), share) != "pass"

    @property
    def bleed_share(self) -> float:
        """Greatest share of the line's own current that a neighbour takes."""
        return 0.0 if self.rating is None else self.rating.bleed_share


@dataclass(frozen=True)
class Plan:
    """Ranked options, best first, and the rejected ones. `wanted_m`: length of the line to be located [m].

    `moving`: what moving induction would do, tried only where setups that stand still leave much unproved.
    `instead_of`: the setup that the assumed soil alone would have put first. `if_earthed`: the setup to use once the
    far end is earthed, where that would clearly prove more than the plan does as it is.
    """

    ranked: tuple[Option, ...]
    rejected: tuple[Option, ...]
    wanted_m: float
    moving: Moving | None = None
    instead_of: Option | None = None
    if_earthed: Option | None = None

    @property
    def standing_m(self) -> float:
        """Length to be located [m] that is Mark or Mark with care by the best setup that stands still."""
        return max((o.usable_m for o in self.ranked), default=0.0)

    @property
    def worth_moving(self) -> Moving | None:
        """Moving induction where a mark could rest on clearly more than by any setup that stands still; else None."""
        enough_m = self.standing_m + max(_WORTH_MOVING * self.wanted_m, _LEAST_MORE_M)
        return self.moving if self.moving is not None and self.moving.proved_m >= enough_m else None


def base_setup(kit: Kit) -> Setup:
    """Return the setup that a plan varies.

    Args:
        kit: Transmitter and receiver in use.

    Returns:
        The kit's first output step and frequency, with the usual stake within its lead.
    """
    return Setup("direct", kit.frequencies[0].freq_hz, kit.outputs_a[0], usual_stake(kit.lead_m))


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


@dataclass(frozen=True)
class Tried:
    """Every place of a line at one frequency: `setups` with their places, and those ruled out beforehand."""

    setups: tuple[tuple[Place, Setup], ...]
    refused: tuple[Option, ...]


def tried_at(places: Sequence[tuple[Place, str | None]], frequency: Frequency, kit: Kit) -> Tried:
    """Return what is tried at one frequency.

    Args:
        places: Places of a line, each with why it is ruled out or None.
        frequency: The kit's entry.
        kit: Transmitter and receiver in use.

    Returns:
        Setups to solve, and those ruled out with their reasons.
    """
    base, possible, refused = base_setup(kit), [], []
    for place, unsafe in places:
        setup = setup_at(place, base, frequency.freq_hz)
        why = unsafe or kit_rejection(place.method, frequency, kit)
        if why is None:
            possible.append((place, setup))
        else:
            refused += [
                Option(replace(setup, output_a=a), None, why, access=place.access) for a in sorted(kit.outputs_a)
            ]
    return Tried(tuple(possible), tuple(refused))


def all_options(sims: Sequence[Simulator], kit: Kit) -> list[list[Option]]:
    """Return every option of each line.

    Method x place x frequency x output, with those ruled out beforehand. Hookups at one frequency of all lines that
    share a world are solved together, then each line is rated at once.

    Args:
        sims: Simulators of the lines, of one kit.
        kit: Transmitter and receiver in use.

    Returns:
        The options of each line.
    """
    where = [places(sim.line, kit) for sim in sims]
    tried = [[tried_at(each, f, kit) for f in kit.frequencies] for each in where]
    currents: list[list[Currents]] = [[] for _ in sims]
    for at in zip(*tried, strict=True):
        setups = [[s for _, s in each.setups] for each in at]
        for found, each in zip(currents, currents_together(sims, setups), strict=True):
            found += each
    return [_of_line(*each) for each in zip(sims, tried, currents, strict=True)]


def _of_line(sim: Simulator, tried: Sequence[Tried], currents: Sequence[Currents]) -> list[Option]:
    steps = sorted(sim.kit.outputs_a)
    found = [o for each in tried for o in each.refused]
    if currents:
        rated = ratings(sim, sim.read(currents), steps)
        for h, (place, setup) in enumerate(pair for each in tried for pair in each.setups):
            found += _steps(sim.line, rated, h, setup, place)
    return found


def setup_at(place: Place, base: Setup, freq_hz: float) -> Setup:
    """Return a setup made at another place and frequency.

    Args:
        place: Where and how to hook up.
        base: The setup to vary.
        freq_hz: Signal frequency [Hz].

    Returns:
        The setup.
    """
    stake = base.stake if place.stake_away_m is None else replace(base.stake, away_m=place.stake_away_m)
    return replace(
        base,
        method=place.method,
        freq_hz=freq_hz,
        position_m=place.position_m,
        stake=stake,
        stake_at=place.stake_at,
    )


def _steps(line: Line, rated: Ratings, h: int, setup: Setup, place: Place) -> list[Option]:
    """The output steps of one hookup; one that drives no more than a lower one is rejected for it."""
    found: list[Option] = []
    drives, useful = rated.drive[h, :, : rated.told].tolist(), rated.useful[h].tolist()
    before = 0  # the last step that drove more than those below it
    for o, amps in enumerate(rated.outputs_a):
        at = replace(setup, output_a=amps)
        if o and all(now <= _SAME_DRIVE * then for now, then in zip(drives[o], drives[before], strict=True)):
            same_as = rated.outputs_a[before]
            found.append(Option(at, rated.of(h, o), "no_more_current", same_as, place.access, place.disturbs))
            continue
        before = o
        rating = rated.of(h, o)
        useless = None if useful[o] else "nothing_markable"
        if line.solenoids and any(v.resonates for v in past_valves(rating.forecasts, at, line)):
            useless = "coil_resonates"
        found.append(Option(at, rating, useless, None, place.access, place.disturbs))
    return found


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
