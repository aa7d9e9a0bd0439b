"""Simulated traces along one line, rated by the judge: the planner's only measure of an option."""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vessel.core.judge.measures import Batch
from vessel.core.judge.verdict import judge_codes
from vessel.core.model.ends import FarEnd
from vessel.core.model.lazy import lazy
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.model.site import Hookup
from vessel.core.plan.forecast import PROVED_CODES, Forecast
from vessel.core.plan.world import World
from vessel.core.signal.field import Floats
from vessel.core.signal.layout import Aside, look_aside, target_of
from vessel.core.signal.line_circuit import LineCircuit
from vessel.core.signal.receiver import LIFT_M, Own, OwnField, ReceiverGeometry, Shown, peak_and_null, shown
from vessel.core.signal.site_circuit import SiteCircuit
from vessel.core.signal.sources import Excitation, coil_geometry, excite_all, output, stake_lead

NOISE_MARGIN = 3.0
"""Forecasts assume this many times the kit's noise: a bad day, so that a plan holds on an ordinary one."""
_REPEATS = (-1.2, 1.2)  # furthest of five repeated readings, in standard deviations
_NEAR_M = (0.5, 1.5, 2.5, 4.0, 6.0, 9.0, 13.0, 18.0)
_ROUND_ACCESS_M = (1.5, 4.0)
_CLOSEST_M, _MOST_INNER = 1.5, 32  # stations on the way: no closer than anybody takes them, and no more than these
Solved = list[list[Excitation]]


def end_distance(line: Line, setup: Setup, at_m: Any) -> Any:
    """Return the distance [m] from `at_m` to the hookup (it may stand along the line) or the nearer end."""
    ends = np.minimum(np.abs(at_m), np.abs(line.length_m - at_m))
    return np.minimum(np.abs(at_m - setup.position_m), ends)


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

    `ends_a`: current (s, c) [A] into and out of every segment of the site.
    """

    setup: Setup
    names: tuple[str, ...]
    excitations: tuple[Excitation, ...]
    current_a: Floats
    beside_a: Floats
    over_t: NDArray[np.complex128]
    air_share: Floats
    own: Own | None
    ends_a: tuple[NDArray[np.complex128], NDArray[np.complex128]]


class Simulator:
    """One line of a world under any setup: stations, fields per geometry, currents per frequency."""

    def __init__(self, line: Line, world: World, *, stations_m: Floats | None = None) -> None:
        self.line, self.world, self.kit = line, world, world.kit
        grid, self.edges_m = station_grid(line.length_m, [a.at_m for a in line.accesses])
        self.stations_m = grid if stations_m is None else stations_m
        self.depth_m = line.depth_max_m  # the least favourable of what is expected
        self._circuits: dict[float, LineCircuit] = {}
        self._own_fields: dict[tuple[float, ...], OwnField] = {}
        self._on_site = world.geometry.mesh.site.lines[target_of(line)]

    @lazy
    def wanted_m(self) -> Floats:
        """Length (n,) [m] to be located of the stretch each station stands for."""
        a, b = self.edges_m[:-1], self.edges_m[1:]
        lengths = [np.clip(np.minimum(b, end) - np.maximum(a, start), 0, None) for start, end in self.line.wanted_m]
        return np.asarray(np.sum(lengths, axis=0) if lengths else np.zeros(len(a)))

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

    def circuit(self, freq_hz: float) -> LineCircuit:
        """Return the line's circuit at `freq_hz` [Hz]."""
        if freq_hz not in self._circuits:
            shared = self.world.circuit(freq_hz)
            self._circuits[freq_hz] = LineCircuit(self.line, self.world.soil, freq_hz=freq_hz, circuit=shared)
        return self._circuits[freq_hz]

    def cases(self, setups: Sequence[Setup], solved: Solved | None = None) -> list[Cases]:
        """Return the far-end cases of setups at one frequency, already `solved` or not; outputs do not matter here."""
        circuit = self.circuit(setups[0].freq_hz)
        site, far = circuit.site_circuit, self.line.far_cases()
        hookups = [circuit.hookup(s) for s in setups]
        if solved is None:
            (solved,) = solve_together([self], [setups])
        into, out = self._columns(circuit, solved)
        own = [self._own(site, h) for h in hookups]
        over, air = self.geometry.over(into, out, [o for o in own for _ in far])
        current = circuit.currents_at((into, out), self.stations_m)
        beside = circuit.currents_beside((into, out), self.asides, len(self.stations_m))
        found = []
        for k, (setup, each) in enumerate(zip(setups, solved, strict=True)):
            mine = slice(k * len(far), (k + 1) * len(far))
            found.append(
                Cases(
                    setup,
                    tuple(name for name, _ in far),
                    tuple(each),
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

    def _columns(self, circuit: LineCircuit, solved: Sequence[Sequence[Excitation]]) -> tuple[Any, Any]:
        ends = [circuit.site_circuit.ends(e.response) for each in solved for e in each]
        return np.column_stack([a for a, _ in ends]), np.column_stack([b for _, b in ends])

    def peak_null(self, cases: Sequence[Cases]) -> list[Floats]:
        """Return the distance between peak and null (far ends, n) [m] of hookups just solved."""
        if not cases:
            return []
        into, out = (np.hstack([c.ends_a[k] for c in cases]) for k in range(2))
        own = [c.own for c in cases for _ in c.names]
        peak, null = peak_and_null(self.geometry.offsets_m, *self.geometry.across(into, out, own))
        return list(np.abs(peak - null).reshape(len(cases), -1, len(self.stations_m)))

    def peak_null_at(self, cases: Sequence[Cases], stations: NDArray[np.intp]) -> Floats:
        """Return the distance between peak and null (k, far ends) [m] of each of k hookups at a station of its own."""
        found = [
            self.geometry.across_at(int(i), *c.ends_a, [c.own] * len(c.names))
            for i, c in zip(stations, cases, strict=True)
        ]
        horizontal, vertical = (np.array([f[k] for f in found]) for k in range(2))
        offsets = self.geometry.offsets_m[stations]
        peak, null = peak_and_null(offsets[:, None], horizontal, vertical)
        return np.asarray(np.abs(peak - null))

    def forecasts(
        self, setups: Sequence[Setup], outputs_a: Sequence[float], *, solved: Solved | None = None
    ) -> list[list[tuple[Forecast, ...]]]:
        """Return, for each setup and each output step [A], the forecast of each far-end case.

        Rated station by station by the judge; the simulated trace carries the forecast's noise margin.
        """
        found = self.cases(setups, solved)
        noise = NOISE_MARGIN * self.kit.frequency(setups[0].freq_hz).noise_t
        rated = [_Rated(self, c, outputs_a, noise) for c in found]
        hopeful = [r for r in rated if PROVED_CODES[r.codes].any()]
        # where nothing would be proved even with peak and null together, nobody need look for them
        for r, apart in zip(hopeful, self.peak_null([r.cases for r in hopeful]), strict=True):
            r.judge(apart)
        return [r.forecasts() for r in rated]


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
        hookups = [[c.hookup(s) for s in setups[k]] for k, c in zip(mine, circuits, strict=True)]
        joined = [
            [c.joined_far(ohm) for _, ohm in sims[k].line.far_cases()] for k, c in zip(mine, circuits, strict=True)
        ]
        solved = iter(
            excite_all(
                site,
                [h for each in hookups for h in each],
                sims[mine[0]].kit,
                variants=[j for each, j in zip(hookups, joined, strict=True) for _ in each],
            )
        )
        for k, each in zip(mine, hookups, strict=True):
            found[k] = [next(solved) for _ in each]
    return [found.get(k, []) for k in range(len(sims))]


class _Rated:
    """The simulated traces of one hookup at every output step (o) and far end (c), judged: arrays are (o, c, n)."""

    def __init__(self, sim: Simulator, cases: Cases, outputs_a: Sequence[float], noise_t: float) -> None:
        self.sim, self.cases = sim, cases
        steps = [Setup(cases.setup.method, cases.setup.freq_hz, a) for a in outputs_a]
        self.outputs = [[output(e.load_ohm, s, sim.kit) for e in cases.excitations] for s in steps]
        self.drive = np.array([[o.drive for o in row] for row in self.outputs])[..., None]
        self.shown = shown(cases.over_t, self.drive, noise_t=noise_t, receiver=sim.kit.receiver)
        self.noise_t = noise_t
        self.judge(np.zeros(cases.air_share.shape))
        self.peak_null_m = np.full(cases.air_share.shape, np.nan)

    def judge(self, peak_null_m: Floats) -> None:
        """Judge every station with peak and null that far apart (c, n) [m]."""
        sim, setup = self.sim, self.cases.setup
        own = self.cases.current_a * self.drive
        beside = self.cases.beside_a.max(1, initial=0.0) * self.drive
        batch = simulated(
            self.shown,
            neighbour_a=beside,
            peak_null_m=peak_null_m,
            reads_depth=sim.kit.frequency(setup.freq_hz).reads_depth,
            noise_t=self.noise_t,
            low_m=sim.kit.receiver.low_m,
            depth_range_m=(sim.line.depth_min_m, sim.line.depth_max_m),
            end_m=end_distance(sim.line, setup, sim.stations_m),
            forecast_a=own,
            air_share=self.cases.air_share if setup.method == "induction" else np.nan,
        )
        self.peak_null_m = peak_null_m
        self.codes, self.decided_by = judge_codes(batch)

    def forecasts(self) -> list[tuple[Forecast, ...]]:
        """Return the forecasts, by output step and far end."""
        sim, c = self.sim, self.cases
        names = tuple(a.beside.name for a in sim.asides)
        return [
            tuple(
                Forecast(
                    name,
                    out,
                    sim.stations_m,
                    sim.edges_m,
                    c.current_a[i] * out.drive,
                    names,
                    c.beside_a[i] * out.drive,
                    self.codes[o, i],
                    self.decided_by[o, i],
                    self.peak_null_m[i],
                    sim.wanted_m,
                )
                for i, (name, out) in enumerate(zip(c.names, row, strict=True))
            )
            for o, row in enumerate(self.outputs)
        ]


def simulated(
    s: Shown,
    *,
    neighbour_a: Floats,
    peak_null_m: Floats,
    reads_depth: bool,
    noise_t: float,
    low_m: float,
    depth_range_m: tuple[float, float],
    end_m: Floats,
    forecast_a: Floats,
    air_share: Any,
) -> Batch:
    """Return stations as a technician would read them off the display, five repeats spread by the noise.

    `neighbour_a` is the best current a look to both sides would find [A].
    """
    with np.errstate(invalid="ignore"):
        # comparisons with NaN are false: an instrument that shows nothing gives no reading
        usable = (s.depth_m >= 0.01) & (s.depth_m <= 15.0) & (s.current_a <= 10.0)
        lifted = usable & (s.depth_lifted_m >= 0.01) & (s.depth_lifted_m <= 20.0)
    # where noise drowns the signal the instrument still shows a current: none
    amps = np.where(usable, s.current_a, 0.0)
    low, high = (np.clip(amps * (1 + k * s.noise_share), 0.0, 10.0) for k in _REPEATS)
    return Batch(
        amps=amps,
        spread=np.where(usable, (high - low) / np.where(usable, amps, 1.0), np.inf),
        depth_m=np.where(usable & reads_depth, s.depth_m, np.nan),
        lift_m=LIFT_M,
        lifted_m=np.where(lifted, s.depth_lifted_m, np.nan),
        peak_null_m=np.minimum(peak_null_m, 10.0),
        neighbour_a=np.minimum(neighbour_a, 10.0),
        freq_gap=0.0,
        noise_t=noise_t,
        low_m=low_m,
        depth_range_m=depth_range_m,
        end_m=end_m,
        loop_gap=0.0,
        loop_silent=False,
        forecast_a=(forecast_a, forecast_a),
        air_share=air_share,
    )
