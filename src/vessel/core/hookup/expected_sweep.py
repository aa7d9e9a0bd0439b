"""What the first sweep should meet: how far off to walk the circle, and every line that crosses it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.judge.station.crew_bounds import rule_of
from vessel.core.judge.station.verdict import outcome_of
from vessel.core.model.first_sweep import Direction, OnCircle
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.line_on_site import target_of
from vessel.core.signal.layout.placed_hookup import square_to
from vessel.core.signal.receiver.instrument import CLEAR_COS, signal_at
from vessel.core.signal.receiver.sweep_circle import bearing_of, met_by
from vessel.core.simulate.line_simulator import Simulator
from vessel.core.simulate.soil_range import soils_expected
from vessel.core.simulate.solved_together import cases_of, currents_together
from vessel.core.simulate.solved_world import World

RADII_M = (5.0, 8.0, 12.0, 16.0, 20.0, 25.0, 30.0)
"""Circles that are walked [m]."""
_PAST_STAKE_M = 2.0
_UNTOLD_DEPTH = 0.3  # of a neighbour entered without a range


@dataclass(frozen=True, eq=False)
class Circle:
    """The circle to walk: `radius_m` [m] round `centre_m` (2,) [m], bearings from `zero` (2,), and what crosses it.

    `air`: whether the transmitter's own field is still in the way at every circle tried. `reaches`: the line does.
    """

    centre_m: Floats
    zero: Floats
    radius_m: float
    expected: tuple[OnCircle, ...]
    air: bool
    reaches: bool


def sweep_circle(
    line: Line, soil: Soil, kit: Kit, setup: Setup, *, measured: bool = False, amps: float | None = None
) -> Circle:
    """Return the circle to walk round a hookup and what to expect on it.

    Over the soils and far ends expected.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.
        amps: Current read on the transmitter [A]; None for its forecast output.

    Returns:
        Centre, radius and the lines expected on the circle.
    """
    here, left = square_to(line, setup.position_m)
    # a drawn line has north; along one that is only told, the line itself is where bearings count from
    zero = np.array([0.0, 1.0]) if line.course is not None else np.array([left[1], -left[0]])
    world = World([line], soil, kit, freqs_hz=(setup.freq_hz,), extra=((line, setup.position_m, setup.stake_at),))
    radius, air, reaches = _radius(line, kit, setup, world)
    sims = [Simulator(line, world.in_soil(s)) for s in soils_expected(soil, measured=measured)]
    site = world.geometry.mesh.site
    asked: list[tuple[int, float]] = []
    for i, other in enumerate(site.lines):
        if other.construction is not None:
            asked += [(i, float(s)) for s in met_by(other.corners_m[:, :2], here, radius)]
    amps_at = _currents(sims, setup, kit, asked, here, amps)
    # lines that are not drawn carry a number on their site, as they may share a name
    names = {} if line.course is not None else {1 + k: n.name for k, n in enumerate(line.neighbours)}
    names[target_of(line)] = "this line"
    depths, frequency = _depths(line), kit.frequency(setup.freq_hz)
    found = []
    for k, (i, s) in enumerate(asked):
        place = site.lines[i].places(np.array([s]))[0]
        sizes = np.abs(amps_at[:, k])
        depth = depths.get(i, (0.9 * -place[2], 1.1 * -place[2]))
        weakest = signal_at(float(sizes.min()), depth_m=depth[1], low_m=kit.receiver.low_m)
        found.append(
            OnCircle(
                names.get(i, site.lines[i].name),
                i == target_of(line),
                float(bearing_of(place[None, :2], here, zero=zero)[0]),
                depth,
                (float(sizes.min()), float(sizes.max())),
                _outward(amps_at, asked, k, target_of(line)) if frequency.reads_direction else 0,
                float(weakest / frequency.noise_t),
            )
        )
    order = sorted(found, key=lambda x: (not x.ours, -x.current_a[1]))
    return Circle(here, zero, radius, tuple(order), air, reaches)


def _radius(line: Line, kit: Kit, setup: Setup, world: World) -> tuple[float, bool, bool]:
    """The least circle outside stake and leads, and for induction beyond what comes through the air."""
    longest = max(setup.position_m, line.length_m - setup.position_m)
    least = setup.stake.away_m + _PAST_STAKE_M if setup.by.connects else RADII_M[0]
    tried = [r for r in RADII_M if r >= least and r < longest]
    if not tried:
        return float(min(max(least, RADII_M[0]), 0.9 * longest)), False, longest > least
    if not setup.by.through_air:
        return tried[0], False, True
    away = np.array([setup.position_m + side * r for r in tried for side in (-1, 1)])
    on = np.clip(away, 0.1, line.length_m - 0.1)
    cases = cases_of(Simulator(line, world, stations_m=on), [setup])
    worst = np.where(on == away, cases.air_share[0].max(0), 0.0).reshape(len(tried), 2).max(1)
    for r, share in zip(tried, worst, strict=True):
        if outcome_of(rule_of(kit, "air"), float(share)) == "pass":
            return r, False, True
    return tried[-1], True, True


def _currents(
    sims: Sequence[Simulator],
    setup: Setup,
    kit: Kit,
    asked: Sequence[tuple[int, float]],
    here: Floats,
    amps: float | None,
) -> Complex:
    """Current (cases, k) [A] at each crossing, positive away from the hookup."""
    found = []
    for sim in sims:
        circuit = sim.circuit(setup.freq_hz)
        currents = currents_together([sim], [[setup]])[0][0]
        for c, load in enumerate(currents.loads_ohm[0].tolist()):
            contactless = np.isnan(load)
            drive = output(None if contactless else load, setup, kit).drive if amps is None or contactless else amps
            ends = currents.ends_a[0][:, 0, c], currents.ends_a[1][:, 0, c]
            row = []
            for i, s in asked:
                on = circuit.site_circuit.site.lines[i]
                run = on.headings(np.array([s]))[0]
                outward = np.sign(run @ (on.places(np.array([s]))[0, :2] - here)) or 1.0
                row.append(complex(circuit.site_circuit.current_on(ends, i, np.array([s]))[0]) * outward * drive)
            found.append(row)
    return np.array(found, dtype=np.complex128).reshape(len(found), len(asked))


def _outward(amps: Complex, asked: Sequence[tuple[int, float]], k: int, target: int) -> Direction:
    """The direction of a crossing's current against that of the target, which leaves the hookup."""
    own = [j for j, (i, _) in enumerate(asked) if i == target]
    if not own:
        return 0
    loudest = own[int(np.abs(amps[:, own]).mean(0).argmax())]
    cos = np.cos(np.angle(amps[:, k] * np.conj(amps[:, loudest])))
    if (cos > CLEAR_COS).all():
        return 1
    return -1 if (cos < -CLEAR_COS).all() else 0


def _depths(line: Line) -> dict[int, tuple[float, float]]:
    """Depth ranges [m] by the index of what is on the line's site."""
    own = {target_of(line): (line.depth_min_m, line.depth_max_m)}
    if line.course is not None:
        return {i: (d.depth_min_m, d.depth_max_m) for i, d in enumerate(line.course.plan.drawn)} | own
    told = enumerate(line.neighbours)
    return {1 + k: ((1 - _UNTOLD_DEPTH) * n.depth_m, (1 + _UNTOLD_DEPTH) * n.depth_m) for k, n in told} | own
