"""Setups of several lines of one world, solved together at one frequency."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cache, partial
from itertools import groupby

from vessel.core.model.setup import Setup
from vessel.core.signal.circuit.line_circuit import excite
from vessel.core.signal.circuit.sources import Excitations, Group, excite_all
from vessel.core.simulate.currents import Cases, Currents
from vessel.core.simulate.line_simulator import Simulator, Solved


def solve_together(sims: Sequence[Simulator], setups: Sequence[Sequence[Setup]]) -> list[Solved]:
    """Return the excitations of several lines' setups at one frequency.

    What lines of one world need is one right-hand side: solved one by one, reading the matrices would take the time.

    Args:
        sims: Simulators of the lines, of one kit.
        setups: Setups of each line.

    Returns:
        For each line: its excitations for each of its far ends.
    """
    worlds = {id(sim.world): sim.world for sim in sims}
    found: dict[int, Solved] = {}
    for key in worlds:
        mine = [k for k, sim in enumerate(sims) if id(sim.world) == key and setups[k]]
        if not mine:
            continue
        circuits = [sims[k].circuit(setups[k][0].freq_hz) for k in mine]
        site = circuits[0].site_circuit
        site.prepare_inside([branch for c in circuits if (branch := c.far_branch) is not None])
        site.prepare_far([(c.target, "end") for c in circuits if c.far_branch is None])
        groups: list[Group] = []
        of: list[int] = []
        for k, circuit in zip(mine, circuits, strict=True):
            joined = cache(partial(sims[k].joined, circuit.freq_hz))
            together = [s for s in setups[k] if not s.by.between]
            for _, alike in groupby(map(sims[k].hookup, together), key=lambda h: h.method):
                groups.append((list(alike), joined))
                of.append(k)
        excited = excite_all(site, groups, sims[mine[0]].kit) if groups else []
        for k, (hookups, _), each in zip(of, groups, excited, strict=True):
            found.setdefault(k, []).append((len(hookups), each))
        for k in mine:
            found.setdefault(k, []).extend(_on_pairs(sims[k], setups[k]))
    return [found.get(k, []) for k in range(len(sims))]


def _on_pairs(sim: Simulator, setups: Sequence[Setup]) -> Solved:
    """The excitations of hookups on pairs: of the last method there is, so they come last."""
    found: Solved = []
    for setup in (s for s in setups if s.by.between):
        each = excite(sim.circuit(setup.freq_hz), setup, sim.kit, far_ohms=[ohm for _, ohm in sim.far_cases])
        found.append((1, [Excitations.of_one(e) for e in each]))
    return found


def currents_together(sims: Sequence[Simulator], setups: Sequence[Sequence[Setup]]) -> list[list[Currents]]:
    """Return the currents of several lines' setups at one frequency, solved together.

    Args:
        sims: Simulators of the lines, of one kit.
        setups: Setups of each line.

    Returns:
        For each line: its currents, none without setups.
    """
    solved = solve_together(sims, setups)
    return [[sim.currents(mine, each)] if mine else [] for sim, mine, each in zip(sims, setups, solved, strict=True)]


def cases_of(sim: Simulator, setups: Sequence[Setup]) -> Cases:
    """Return what the receiver reads with several setups of one line.

    Setups of one frequency and method are solved together.

    Args:
        sim: Simulator of the line.
        setups: The setups.

    Returns:
        The readings.
    """
    by_freq = [list(alike) for _, alike in groupby(setups, key=lambda s: s.freq_hz)]
    return sim.read([currents_together([sim], [same])[0][0] for same in by_freq])
