"""One line of a world under any setup: currents and fields at the stations of a simulated trace."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from copy import copy
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.ends import FarEnd
from vessel.core.model.lazy import lazy
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.site import Hookup
from vessel.core.plan.disturbed import crossed_m, nearest_m, turns_m
from vessel.core.plan.world import World
from vessel.core.signal.carried import CarriedCoil
from vessel.core.signal.field import Floats
from vessel.core.signal.layout import Aside, LineFault, hookup_on, look_aside, target_of
from vessel.core.signal.line_circuit import LineCircuit
from vessel.core.signal.receiver import Complex, Own, OwnField, ReceiverGeometry, peak_and_null
from vessel.core.signal.site_circuit import Ends, SiteCircuit
from vessel.core.signal.sources import Excitations, Group, Joined, coil_geometry, excite_all, stake_lead

_NEAR_M = (0.5, 1.5, 2.5, 4.0, 6.0, 9.0, 13.0, 18.0)
_ROUND_ACCESS_M = (1.5, 4.0)
_CLOSEST_M, _MOST_INNER = 1.5, 32  # stations on the way: no closer than anybody takes them, and no more than these
Solved = list[tuple[int, list[Excitations]]]
"""One line's setups of each method in turn: how many, and their excitations for each of its far ends."""


def end_distance(line: Line, hookup_m: Any, at_m: Any) -> Any:
    """Return the distance [m] from `at_m` to the hookup at `hookup_m` along the line or the nearer end."""
    ends = np.minimum(np.abs(at_m), np.abs(line.length_m - at_m))
    return np.minimum(np.abs(at_m - hookup_m), ends)


def station_grid(length_m: float, access_m: Sequence[float] = ()) -> tuple[Floats, Floats]:
    """Return stations (n,) [m] and the edges (n+1,) [m] of the stretch each stands for.

    Denser at both ends and round the access points `access_m` on the way.
    """
    near = [d for d in _NEAR_M if d < 0.4 * length_m]
    inner = np.linspace(0, length_m, int(np.clip(length_m / _CLOSEST_M + 2, 4, _MOST_INNER)))[1:-1]
    inner = inner[(inner > max(near)) & (inner < length_m - max(near))]
    round_access = [a + s * d for a in access_m for d in _ROUND_ACCESS_M for s in (-1, 1)]
    extra = [x for x in round_access if max(near) < x < length_m - max(near)]
    points = np.unique(np.concatenate([near, inner, extra, length_m - np.array(near)]))
    edges = np.concatenate([[0.0], 0.5 * (points[1:] + points[:-1]), [length_m]])
    return points, edges


@dataclass(frozen=True, eq=False)
class Cases:
    """One hookup's far-end cases (c), per unit of transmitter drive: currents of the line and of others, fields.

    `loads_ohm` (c,): what the transmitter drives into [ohm], None for induction. `ends_a`: current (s, c) [A] into and
    out of every segment of the site.
    """

    setup: Setup
    names: tuple[str, ...]
    loads_ohm: tuple[complex | None, ...]
    current_a: Floats
    beside_a: Floats
    over_t: NDArray[np.complex128]
    air_share: Floats
    own: Own | None
    ends_a: tuple[NDArray[np.complex128], NDArray[np.complex128]]


@dataclass(frozen=True, eq=False)
class Carried:
    """Places (k) of a coil carried along, each read at one station, per unit of its full moment, by far end (c).

    `current_a` (k, c) of the line, `beside_a` (k, c) the most of any other, `over_t` (k, c, 4), `air_share` (k, c).
    `peak_null_m` gives the distance (i, c) [m] between peak and null of some of them (i,).
    """

    current_a: Floats
    beside_a: Floats
    over_t: Complex
    air_share: Floats
    peak_null_m: Callable[[NDArray[np.intp]], Floats]


class Simulator:
    """One line of a world under any setup: stations, fields per geometry, currents per frequency."""

    def __init__(
        self, line: Line, world: World, *, stations_m: Floats | None = None, faults: Sequence[LineFault] = ()
    ) -> None:
        self.line, self.world, self.kit, self.faults = line, world, world.kit, tuple(faults)
        grid, self.edges_m = station_grid(line.length_m, [a.at_m for a in line.accesses])
        self.stations_m = grid if stations_m is None else stations_m
        self.depth_m = line.depth_max_m  # the least favourable of what is expected
        self._circuits: dict[float, LineCircuit] = {}
        self._own_fields: dict[tuple[float, ...], OwnField] = {}
        self._hookups: dict[tuple[object, ...], Hookup] = {}
        self._on_site = world.geometry.mesh.site.lines[target_of(line)]

    @lazy
    def wanted_m(self) -> Floats:
        """Length (n,) [m] to be located of the stretch each station stands for."""
        a, b = self.edges_m[:-1], self.edges_m[1:]
        lengths = [np.clip(np.minimum(b, end) - np.maximum(a, start), 0, None) for start, end in self.line.wanted_m]
        return np.asarray(np.sum(lengths, axis=0) if lengths else np.zeros(len(a)))

    @lazy
    def turn_m(self) -> Floats:
        """Distance (n,) [m] from each station to the nearest bend or tee, NaN without any."""
        return np.asarray(nearest_m(turns_m(self.line), self.stations_m))

    @lazy
    def crossing_m(self) -> Floats:
        """Distance (n,) [m] from each station to the nearest line that crosses, NaN without any."""
        return np.asarray(nearest_m(crossed_m(self.line), self.stations_m))

    @lazy
    def geometry(self) -> ReceiverGeometry:
        """The receiver's fields at the stations, shared by every frequency and hookup."""
        return ReceiverGeometry(
            self.world.geometry.segments,
            at_m=self._on_site.places(self.stations_m)[:, :2],
            headings=self._on_site.headings(self.stations_m),
            depths_m=np.full(len(self.stations_m), self.depth_m),
            receiver=self.kit.receiver,
        )

    def with_far(self, far: FarEnd) -> Simulator:
        """Return the same line on the same site, its far end told otherwise."""
        found = copy(self)
        found.line, found._circuits = replace(self.line, far=replace(far, earth_ohm=self.line.far.earth_ohm)), {}
        return found

    def in_world(self, world: World) -> Simulator:
        """Return the same line on the same site in other soil: a world of the same mesh."""
        found = copy(self)
        found.world, found._circuits = world, {}
        return found

    def hookup(self, setup: Setup) -> Hookup:
        """Return `setup` placed on the site; of one place it is worked out once for every frequency and output."""
        key = (setup.method, setup.position_m, setup.stake, setup.stake_at, setup.clip_ohm)
        at, of = (*key, 0.0, 0.0), (*key, setup.freq_hz, setup.output_a)
        if of not in self._hookups:
            if at not in self._hookups:
                self._hookups[at] = hookup_on(self.line, setup)
            self._hookups[of] = replace(self._hookups[at], freq_hz=setup.freq_hz, output_a=setup.output_a)
        return self._hookups[of]

    def circuit(self, freq_hz: float) -> LineCircuit:
        """Return the line's circuit at `freq_hz` [Hz]."""
        if freq_hz not in self._circuits:
            shared = self.world.circuit(freq_hz)
            self._circuits[freq_hz] = LineCircuit(self.line, self.world.soil, freq_hz=freq_hz, circuit=shared)
        return self._circuits[freq_hz]

    def joined(self, freq_hz: float) -> list[Joined]:
        """Return what joins the line's ports at `freq_hz` [Hz] for each of its far ends, with what is wrong on it."""
        circuit = self.circuit(freq_hz)
        wrong = [circuit.joined_fault(f) for f in self.faults]
        return [(*circuit.joined_far(ohm), *wrong) for _, ohm in self.line.far_cases()]

    def cases(self, setups: Sequence[Setup], solved: Solved | None = None) -> list[Cases]:
        """Return the far-end cases of setups at one frequency, method by method, already `solved` or not.

        Outputs do not matter here.
        """
        circuit = self.circuit(setups[0].freq_hz)
        site, far = circuit.site_circuit, self.line.far_cases()
        hookups = [self.hookup(s) for s in setups]
        if solved is None:
            (solved,) = solve_together([self], [setups])
        into, out = _ends(site, solved)
        loads = [
            tuple(None if e.load_ohm is None else complex(e.load_ohm[k]) for e in each)
            for count, each in solved
            for k in range(count)
        ]
        own = [self._own(site, h) for h in hookups]
        over, air = self.geometry.over(into, out, [o for o in own for _ in far])
        current = circuit.currents_at((into, out), self.stations_m)
        beside = circuit.currents_beside((into, out), self.asides, len(self.stations_m))
        found = []
        for k, setup in enumerate(setups):
            mine = slice(k * len(far), (k + 1) * len(far))
            found.append(
                Cases(
                    setup,
                    tuple(name for name, _ in far),
                    loads[k],
                    current[mine],
                    beside[mine],
                    over[mine],
                    air[mine],
                    own[k],
                    (into[:, mine], out[:, mine]),
                )
            )
        return found

    @lazy
    def asides(self) -> tuple[Aside, ...]:
        """What a look aside from each station meets."""
        return look_aside(self.line, self.world.geometry.mesh.site, self.stations_m)

    def _own(self, site: SiteCircuit, h: Hookup) -> Own | None:
        """The transmitter's own field; of one place it is the same at every frequency but for the coil's moment."""
        if h.method == "direct":
            key = (h.at_m, *h.stake_at)
            if key not in self._own_fields:
                self._own_fields[key] = self.geometry.lead(stake_lead(site, h))
            return self._own_fields[key], 1.0
        if h.method != "induction":
            return None
        at, moment = coil_geometry(h, self.kit)
        size, key = float(np.linalg.norm(moment)), (*h.coil_at, h.coil_heading_deg)
        if key not in self._own_fields:
            self._own_fields[key] = self.geometry.coil(at, moment / size)
        return self._own_fields[key], size

    def peak_null(self, cases: Sequence[Cases], stations: NDArray[np.intp]) -> Floats:
        """Return the distance between peak and null (cases, far ends, n) [m] of hookups just solved.

        Looked for at `stations` only, NaN elsewhere.
        """
        into, out = (np.hstack([c.ends_a[k] for c in cases]) for k in range(2))
        own = [c.own for c in cases for _ in c.names]
        fields = self.geometry.across(into, out, own, stations=stations)
        peak, null = peak_and_null(self.geometry.offsets_m[stations], *fields)
        found = np.full((len(own), len(self.stations_m)), np.nan)
        found[:, stations] = np.abs(peak - null)
        return found.reshape(len(cases), -1, len(self.stations_m))

    def carried(self, setups: Sequence[Setup], stations: NDArray[np.intp], solved: Solved) -> Carried:
        """Return what is read of each of k places of the coil (all at one frequency) at its own station (k,)."""
        circuit = self.circuit(setups[0].freq_hz)
        site, far = circuit.site_circuit, len(self.line.far_cases())
        into, out = (i.reshape(len(i), len(setups), far) for i in _ends(site, solved))
        at_m, moment = (
            np.array(x) for x in zip(*(coil_geometry(self.hookup(s), self.kit) for s in setups), strict=True)
        )
        size = float(np.linalg.norm(moment[0]))
        coil = CarriedCoil(self.geometry, stations=stations, at_m=at_m, axis=moment / size)
        over_t, air_share = coil.over(into, out, size)
        return Carried(
            circuit.currents_at_own((into, out), self.stations_m, stations),
            circuit.loudest_beside_own((into, out), self.asides, stations),
            over_t,
            air_share,
            lambda which: self._peak_null_of(coil.across(into, out, size, which), stations[which]),
        )

    def _peak_null_of(self, fields_t: tuple[Complex, Complex], stations: NDArray[np.intp]) -> Floats:
        peak, null = peak_and_null(self.geometry.offsets_m[stations][:, None], *fields_t)
        return np.asarray(np.abs(peak - null))


def _ends(site: SiteCircuit, solved: Solved) -> Ends:
    """Currents (w, columns) into and out of every branch; columns: the far ends of the first hookup, then the next."""
    amps, leak = (
        np.concatenate(
            [
                np.stack([getattr(e.response, name) for e in each], axis=2).reshape(-1, count * len(each))
                for count, each in solved
            ],
            axis=1,
        )
        for name in ("amps", "leak")
    )
    return site.ends_of(amps, leak)


def solve_together(sims: Sequence[Simulator], setups: Sequence[Sequence[Setup]]) -> list[Solved]:
    """Return the excitations of each line's setups (all at one frequency) for each of its far ends.

    What lines of one world need is one right-hand side: solved one by one, reading the matrices would take the time.
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
            joined = sims[k].joined(circuit.freq_hz)
            for _, alike in groupby(map(sims[k].hookup, setups[k]), key=lambda h: h.method):
                groups.append((list(alike), joined))
                of.append(k)
        for k, (hookups, _), each in zip(of, groups, excite_all(site, groups, sims[mine[0]].kit), strict=True):
            found.setdefault(k, []).append((len(hookups), each))
    return [found.get(k, []) for k in range(len(sims))]
