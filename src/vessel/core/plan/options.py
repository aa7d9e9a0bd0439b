"""All options for one line: hookup x place x frequency x output, safety first, rated by what a trace would prove."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup, usual_stake
from vessel.core.plan.plan_option import Option
from vessel.core.simulate.currents import Currents
from vessel.core.simulate.hookup_places import Place, kit_rejection, places
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.ratings import Ratings, ratings
from vessel.core.simulate.solved_together import currents_together
from vessel.core.simulate.valves import past_valves

_SAME_DRIVE = 1.01


def base_setup(kit: Kit) -> Setup:
    """Return the setup that a plan varies.

    Args:
        kit: Transmitter and receiver in use.

    Returns:
        The kit's first output step and frequency, with the usual stake within its lead.
    """
    return Setup("direct", kit.frequencies[0].freq_hz, kit.outputs_a[0], usual_stake(kit.lead_m))


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
