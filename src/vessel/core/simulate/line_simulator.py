"""One line of a world under any setup: currents and fields at the stations of a simulated trace."""

from __future__ import annotations

from collections.abc import Sequence
from copy import copy
from dataclasses import replace

import numpy as np

from vessel.core.base.arrays import Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Hookup
from vessel.core.model.setup import Setup
from vessel.core.signal.circuit.branch_currents import Ends
from vessel.core.signal.circuit.line_circuit import LineCircuit
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.circuit.sources import Excitations, Joined, coil_geometry, stake_lead
from vessel.core.signal.layout.beside_line import Aside, look_aside
from vessel.core.signal.layout.line_on_site import LineFault, target_of
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.receiver.field_at_coils import ReceiverGeometry
from vessel.core.signal.receiver.field_gains import Own, OwnField
from vessel.core.signal.receiver.instrument import peak_and_null
from vessel.core.signal.receiver.moving_coil import CarriedCoil
from vessel.core.signal.receiver.return_field import ReturnField
from vessel.core.simulate.currents import Carried, Cases, Currents
from vessel.core.simulate.disturbances import crossed_m, nearest_m, turns_m
from vessel.core.simulate.solved_world import World
from vessel.core.simulate.station_grid import station_grid

Solved = list[tuple[int, list[Excitations]]]
"""One line's setups of each method in turn: how many, and their excitations for each of its far ends."""


class Simulator:
    """One line of a world under any setup: stations, fields per geometry, currents per frequency."""

    def __init__(
        self, line: Line, world: World, *, stations_m: Floats | None = None, faults: Sequence[LineFault] = ()
    ) -> None:
        self.line, self.world, self.kit, self.faults = line, world, world.kit, tuple(faults)
        self.far_cases = line.far_cases()
        grid, self.edges_m = station_grid(line.length_m, [a.at_m for a in line.accesses])
        self.stations_m = grid if stations_m is None else stations_m
        self.depth_m = line.depth_max_m  # the least favourable of what is expected
        self._circuits: dict[float, LineCircuit] = {}
        self._returning: dict[float, ReturnField] = {}
        self._own_fields: dict[tuple[float, ...], OwnField] = {}
        self._hookups: dict[tuple[object, ...], Hookup] = {}
        self._on_site = world.geometry.mesh.site.lines[target_of(line)]

    @lazy
    def wanted_m(self) -> Floats:
        """Return how much of each station's stretch is to be located.

        Returns:
            Length, shape (n,) [m].
        """
        a, b = self.edges_m[:-1], self.edges_m[1:]
        lengths = [np.clip(np.minimum(b, end) - np.maximum(a, start), 0, None) for start, end in self.line.wanted_m]
        return np.asarray(np.sum(lengths, axis=0) if lengths else np.zeros(len(a)))

    @lazy
    def turn_m(self) -> Floats:
        """Return the distance from each station to the nearest bend or tee.

        Returns:
            Distance, shape (n,) [m]; NaN without any.
        """
        return np.asarray(nearest_m(turns_m(self.line), self.stations_m))

    @lazy
    def crossing_m(self) -> Floats:
        """Return the distance from each station to the nearest line that crosses.

        Returns:
            Distance, shape (n,) [m]; NaN without any.
        """
        return np.asarray(nearest_m(crossed_m(self.line), self.stations_m))

    @lazy
    def geometry(self) -> ReceiverGeometry:
        """Return the receiver's geometry at the stations.

        Shared by every frequency and hookup.

        Returns:
            The geometry.
        """
        return ReceiverGeometry(
            self.world.geometry.segments,
            at_m=self._on_site.places(self.stations_m)[:, :2],
            headings=self._on_site.headings(self.stations_m),
            depths_m=np.full(len(self.stations_m), self.depth_m),
            receiver=self.kit.receiver,
        )

    def with_far(self, far: FarEnd) -> Simulator:
        """Return the same line on the same site with another far end.

        Args:
            far: The far end.

        Returns:
            The simulator.
        """
        found = copy(self)
        found.line, found._circuits = replace(self.line, far=replace(far, earth_ohm=self.line.far.earth_ohm)), {}
        found.far_cases = found.line.far_cases()
        return found

    def also_earthed(self) -> Simulator:
        """Return the same with its far end earthed as well, if it is entered as open.

        Returns:
            The simulator.
        """
        _ = self.geometry, self.asides  # the same for both
        found, earthed = copy(self), ("earthed", self.line.far.earth_ohm)
        found.far_cases = (*self.line.far_cases(), *(() if earthed in self.line.far_cases() else (earthed,)))
        return found

    def in_world(self, world: World) -> Simulator:
        """Return the same line on the same site in other soil.

        Args:
            world: A world of the same mesh.

        Returns:
            The simulator.
        """
        found = copy(self)
        found.world, found._circuits, found._returning = world, {}, {}
        return found

    def hookup(self, setup: Setup) -> Hookup:
        """Return a setup placed on the site.

        Worked out once for every frequency and output of one place.

        Args:
            setup: Method, place, frequency and output.

        Returns:
            The hookup.
        """
        key = (setup.method, setup.position_m, setup.stake, setup.stake_at, setup.clip_ohm)
        at, of = (*key, 0.0, 0.0), (*key, setup.freq_hz, setup.output_a)
        if of not in self._hookups:
            if at not in self._hookups:
                self._hookups[at] = hookup_on(self.line, setup)
            self._hookups[of] = replace(self._hookups[at], freq_hz=setup.freq_hz, output_a=setup.output_a)
        return self._hookups[of]

    def circuit(self, freq_hz: float) -> LineCircuit:
        """Return the line's circuit at one frequency.

        Args:
            freq_hz: Signal frequency [Hz].

        Returns:
            The circuit.
        """
        if freq_hz not in self._circuits:
            shared = self.world.circuit(freq_hz)
            self._circuits[freq_hz] = LineCircuit(self.line, self.world.soil, freq_hz=freq_hz, circuit=shared)
        return self._circuits[freq_hz]

    def joined(self, freq_hz: float) -> list[Joined]:
        """Return what joins the line's ports at one frequency.

        Args:
            freq_hz: Signal frequency [Hz].

        Returns:
            For each far end: pairs (port, ohm), with what is wrong on the line.
        """
        circuit = self.circuit(freq_hz)
        wrong = [circuit.joined_fault(f) for f in self.faults]
        return [(*circuit.joined_far(ohm), *wrong) for _, ohm in self.far_cases]

    def currents(self, setups: Sequence[Setup], solved: Solved) -> Currents:
        """Return the currents of setups at one frequency, method by method.

        Outputs do not matter here.

        Args:
            setups: The setups; their outputs do not matter.
            solved: Their excitations.

        Returns:
            The currents.
        """
        circuit = self.circuit(setups[0].freq_hz)
        none = complex("nan")
        ends_a = _ends(circuit.site_circuit, solved)
        return Currents(
            tuple(setups),
            np.array(
                [
                    [none if e.load_ohm is None else e.load_ohm[k] for e in each]
                    for count, each in solved
                    for k in range(count)
                ]
            ),
            circuit.currents_at(ends_a, self.stations_m),
            circuit.currents_beside(ends_a, self.asides, len(self.stations_m)),
            ends_a,
            tuple(self._own(circuit.site_circuit, self.hookup(s)) for s in setups),
            (self.returning(setups[0].freq_hz),) * len(setups),
        )

    def returning(self, freq_hz: float) -> ReturnField:
        """Return the field of the return current in the soil at the stations.

        Args:
            freq_hz: Signal frequency [Hz].

        Returns:
            Its gains, kept for every hookup.
        """
        if freq_hz not in self._returning:
            self._returning[freq_hz] = self.geometry.returning(self.world.soil, freq_hz)
        return self._returning[freq_hz]

    def read(self, currents: Sequence[Currents]) -> Cases:
        """Return what the receiver reads of currents.

        Args:
            currents: Currents of every frequency and soil.

        Returns:
            The readings.
        """
        joined = Currents.joined(currents)
        over_t, air_share = self.geometry.over(*joined.ends_a, joined.own, joined.returning)
        told = len(self.line.far_cases())
        return Cases(tuple(name for name, _ in self.far_cases), told, joined, over_t, air_share)

    @lazy
    def asides(self) -> tuple[Aside, ...]:
        """Return what a look aside from each station meets.

        Returns:
            One for each neighbour.
        """
        return look_aside(self.line, self.world.geometry.mesh.site, self.stations_m)

    def _own(self, site: SiteCircuit, h: Hookup) -> Own | None:
        """The transmitter's own field; of one place it is the same at every frequency but for the coil's moment."""
        if h.by.connects:
            key = (h.at_m, *h.stake_at)
            if key not in self._own_fields:
                self._own_fields[key] = self.geometry.lead(stake_lead(site, h))
            return self._own_fields[key], 1.0
        if not h.by.through_air:
            return None
        at, moment = coil_geometry(h, self.kit)
        size, key = float(np.linalg.norm(moment)), (*h.coil_at, h.coil_heading_deg)
        if key not in self._own_fields:
            self._own_fields[key] = self.geometry.coil(at, moment / size)
        return self._own_fields[key], size

    def peak_null(self, c: Currents, hookups: Index, stations: Index) -> Floats:
        """Return the distance between peak and null of some hookups.

        Looked for at `stations` only, NaN elsewhere.

        Args:
            c: Currents of all hookups.
            hookups: Which hookups, h of them.
            stations: Which stations to look at.

        Returns:
            Distance, shape (h, c, n) [m]; NaN at the other stations.
        """
        into, out = (i[:, hookups] for i in c.ends_a)
        own, returning = ([each[h] for h in hookups] for each in (c.own, c.returning))
        fields = self.geometry.across(into, out, own, returning, stations=stations)
        peak, null = peak_and_null(self.geometry.offsets_m[stations], *fields)
        found = np.full((*into.shape[1:], len(self.stations_m)), np.nan)
        found[..., stations] = np.abs(peak - null)
        return found

    def carried(self, solved: Sequence[tuple[Sequence[Setup], Solved]], stations: Index) -> Carried:
        """Return the reading at each coil position's own station.

        Args:
            solved: By frequency: the setups and their excitations.
            stations: Station of each of k coil positions, shape (k,).

        Returns:
            The readings, frequency by frequency.
        """
        parts, first = [], 0
        for setups, each in solved:
            circuit, own = self.circuit(setups[0].freq_hz), stations[first : first + len(setups)]
            ends_a = _ends(circuit.site_circuit, each)
            along = circuit.currents_at_own(ends_a, self.stations_m, own)
            parts.append((*ends_a, along, circuit.loudest_beside_own(ends_a, self.asides, own)))
            first += len(setups)
        into, out = (np.concatenate([p[k] for p in parts], axis=1) for k in range(2))
        current_a, beside_a = (np.concatenate([p[k] for p in parts]) for k in (2, 3))
        hookups = [self.hookup(s) for setups, _ in solved for s in setups]
        returning = [self.returning(s.freq_hz) for setups, _ in solved for s in setups]
        at_m, moment = (np.array(x) for x in zip(*(coil_geometry(h, self.kit) for h in hookups), strict=True))
        coil = CarriedCoil(self.geometry, stations=stations, at_m=at_m, moment_a_m2=moment)

        def peak_null_m(which: Index) -> Floats:
            offsets_m = self.geometry.offsets_m[stations[which]][:, None]
            peak, null = peak_and_null(offsets_m, *coil.across(into, out, which, [returning[k] for k in which]))
            return np.asarray(np.abs(peak - null))

        return Carried(current_a, beside_a, *coil.over(into, out, returning), tuple(returning), peak_null_m)


def _ends(site: SiteCircuit, solved: Solved) -> Ends:
    """Currents (w, h, c) into and out of every branch, hookup by hookup for each far end."""
    amps, leak = (
        np.concatenate([np.stack([getattr(e.response, name) for e in each], axis=2) for _, each in solved], axis=1)
        for name in ("amps", "leak")
    )
    into, out = site.ends_of(*(i.reshape(len(i), -1) for i in (amps, leak)))
    return into.reshape(-1, *amps.shape[1:]), out.reshape(-1, *amps.shape[1:])
