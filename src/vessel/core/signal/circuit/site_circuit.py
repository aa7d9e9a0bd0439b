"""The circuit of a whole site at one frequency: factored once, every hookup and far end from its ports.

Unknowns are the branch currents I. Nodes hold V = P (J - A I): `P` the impedance from each node to remote soil and, off
its diagonal, the soil potential nodes raise at each other; `J` what is injected; `A` the incidence. With branch
impedances Z (coupled between lines) and EMFs E: (Z + A^T P A) I = E + A^T P J. A port is a pair of terminals (a unit of
J, with the EMF its lead induces) or the inside of a branch (a unit of E); `circuit.ports` joins what comes later, with
columns already solved.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from functools import cache, partial
from typing import Any

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.base.symmetric_solve import Factored, factored
from vessel.core.base.wanted import require_wanted
from vessel.core.model.network import Feature, Site
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.ports import Port, PortSpec, Response
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.physics.inductive_coupling import Segments
from vessel.core.signal.physics.line_parameters import LineParams, line_params

Ends = tuple[Complex, Complex]
"""Current (w, ...) [A] entering each metal branch at its start and leaving it at its end."""

Inside = tuple[Index, Complex, Complex]
"""Places (k,) along lines: the branch each is in, and how much of what enters and leaves that flows there."""

PortKey = tuple[str, int, int]
BREAK_OHM = 1e9


class SiteCircuit:
    """The factored circuit of a site at `freq_hz` [Hz], in its own soil or in `soil`.

    Solved once without `refined`: good to six digits at least, in three quarters of the time.
    """

    def __init__(
        self, geometry: SiteGeometry, *, freq_hz: float, soil: Soil | None = None, refined: bool = True
    ) -> None:
        self.geometry, self.mesh, self.freq_hz = geometry, geometry.mesh, freq_hz
        self.site: Site = self.mesh.site
        self.soil, self.refined = soil or self.site.soil, refined
        self._ports: dict[PortKey, Port] = {}
        self._prepared: dict[PortKey, PortSpec] = {}

    @lazy
    def params(self) -> tuple[LineParams | None, ...]:
        """Return the per-metre properties of each line at its mean depth.

        Returns:
            One for each line; None without metal.
        """
        return tuple(
            None
            if line.construction is None
            else line_params(
                line.construction,
                self.soil,
                freq_hz=self.freq_hz,
                depth_m=float(-np.average(self._mid_heights(i), weights=self.mesh.lengths_m[self.mesh.of_line(i)])),
            )
            for i, line in enumerate(self.site.lines)
        )

    def _mid_heights(self, line: int) -> Floats:
        own = self.mesh.of_line(line)
        z = self.mesh.nodes_m[:, 2]
        return np.asarray(0.5 * (z[self.mesh.start[own]] + z[self.mesh.end[own]]))

    @lazy
    def sections(self) -> tuple[Complex, Complex, Floats]:
        """Return the equivalent-pi section of each metal branch.

        sinh(g)/g and tanh(g/2)/(g/2) make a uniform piece exact at any length.

        Returns:
            Series impedance (w,) [ohm], half shunt (w,) [S] and half soil resistance (w,) [ohm].
        """
        series, shunt = np.zeros((2, self.mesh.metal), dtype=np.complex128)
        soil = np.zeros(self.mesh.metal)
        for i, p in enumerate(self.params):
            if p is None:
                continue
            own = self.mesh.of_line(i)
            dl = self.mesh.lengths_m[own]
            g = p.gamma * dl
            series[own] = p.z * dl * np.sinh(g) / g + self._joint_ohms(i, own)
            shunt[own] = 0.5 * p.y * dl * np.tanh(g / 2) / (g / 2)
            soil[own] = 1 / (0.5 * abs(p.y_soil) * dl)
        for branch, i, k in self.mesh.features:
            series[branch] += self._feature_ohm(self.site.lines[i].features[k])
        return series, shunt, soil

    def _joint_ohms(self, i: int, own: Index) -> Complex:
        c = self.site.lines[i].construction
        if c is None or c.joint_spacing_m <= 0 or c.joint_ohm <= 0:
            return np.zeros(len(own), dtype=np.complex128)
        each = 1 / (1 / c.joint_ohm + 2j * np.pi * self.freq_hz * c.joint_f)
        # joints at spacing, 2 spacing, ...: counted up to each node so none is lost or doubled by the mesh
        s = np.append(self.mesh.s_start[own], self.mesh.s_end[own][-1])
        upto = np.floor((s + 1e-9) / c.joint_spacing_m)
        return np.asarray(np.diff(upto) * each, dtype=np.complex128)

    def _feature_ohm(self, f: Feature) -> complex:
        w = 2 * np.pi * self.freq_hz
        if f.kind == "break":
            return f.ohm or BREAK_OHM
        if f.kind == "solenoid":
            return f.ohm + 1j * w * f.henry
        if f.ohm == 0:
            return 0j
        return 1 / (1 / f.ohm + 1j * w * f.farad)

    @lazy
    def _node_shunt(self) -> Complex:
        _, half, _ = self.sections
        w, y = self.mesh.metal, np.zeros(len(self.mesh.nodes_m), dtype=np.complex128)
        np.add.at(y, self.mesh.start[:w], half)
        np.add.at(y, self.mesh.end[:w], half)
        return y

    @lazy
    def soil_ohm(self) -> Floats:
        """Return the resistance of each node's own way into remote soil, without insulation.

        Returns:
            Resistance, shape (n,) [ohm].
        """
        _, _, half = self.sections
        w, siemens = self.mesh.metal, np.zeros(len(self.mesh.nodes_m))
        np.add.at(siemens, self.mesh.start[:w], 1 / half)
        np.add.at(siemens, self.mesh.end[:w], 1 / half)
        earth = self.mesh.earth_ohm
        return np.where(np.isnan(earth), 1 / np.maximum(siemens, 1e-30), earth)

    @lazy
    def potentials(self) -> Complex:
        """Return the impedance from nodes to remote soil.

        Returns:
            P, shape (n, n) [ohm].
        """
        p = self.geometry.paths.at(self.soil, freq_hz=self.freq_hz, self_a=self.soil_ohm, self_b=self.soil_ohm)
        earth = self.mesh.earth_ohm
        metal = np.isnan(earth)
        own = np.where(metal, 0, earth).astype(np.complex128)
        own[metal] = 1 / self._node_shunt[metal]
        p[np.diag_indices_from(p)] = own
        return p

    @lazy
    def series(self) -> Complex:
        """Return the series impedance of all branches.

        Returns:
            Z, shape (m, m) [ohm]: sections and links on the diagonal, coupling between lines off it.
        """
        z = self.geometry.coupling.at(self.soil, freq_hz=self.freq_hz)
        z[np.diag_indices_from(z)] = np.concatenate([self.sections[0], self.mesh.link_ohm])
        return z

    @lazy
    def _factored(self) -> Factored:
        half = self.mesh.along_branches(self.potentials)
        # turned round in between, so that both differences are of rows, which lie together
        k = self.mesh.along_branches(np.ascontiguousarray(half.T))
        k += self.series
        return factored(k)

    def solve(self, specs: Sequence[PortSpec]) -> list[Port]:
        """Solve ports together: their currents are one right-hand side.

        Ports that were prepared for are solved along with them. If `refined`, one step of refinement takes the
        residual node by node: insulated wire has P of many megohms, whose differences alone would cost the small
        series part its digits.

        Args:
            specs: Ports, single or as columns.

        Returns:
            One port for each description.
        """
        # threads may ask one circuit: what one of them takes from another here is solved again when it is asked for
        prepared, self._prepared = dict(self._prepared), {}
        every = [*specs, *prepared.values()]
        j, emf, stake = (np.column_stack([getattr(s, name) for s in every]) for name in ("j", "emf", "stake"))
        # few nodes are injected at: their columns of P are all that the first pass needs
        require_wanted()
        fed = np.flatnonzero(np.abs(j).any(1))
        leak, volts, drops = j, self.potentials[:, fed] @ j[fed] + stake, np.zeros_like(emf)
        amps = np.zeros_like(emf)
        for again in (True, False) if self.refined else (False,):
            residual = emf + self.mesh.along_branches(volts) - drops
            amps = amps + self._factored.solve(residual)
            leak = self._leak(amps, j)
            if again:
                volts, drops = self.potentials @ leak + stake, self.series @ amps
        found = self._ports_of(every, amps, leak)
        self._ports.update(zip(prepared, found[len(specs) :], strict=True))
        return found[: len(specs)]

    def _ports_of(self, specs: Sequence[PortSpec], amps: Complex, leak: Complex) -> list[Port]:
        """Make ports of solved columns; what is seldom asked for, volts and drops, is worked out when it is."""
        edges = np.cumsum([0, *(s.emf.shape[1] if s.emf.ndim == 2 else 1 for s in specs)]).tolist()
        single = [k for s, k in zip(specs, edges, strict=False) if s.emf.ndim == 1]

        @cache
        def of_singles() -> tuple[Complex, Complex]:
            # in one go, for reading the matrices is what takes the time
            return self.potentials @ leak[:, single], self.series @ amps[:, single]

        def follows(s: PortSpec, mine: slice) -> tuple[Complex, Complex]:
            if s.emf.ndim == 2:
                return self.potentials @ leak[:, mine] + s.stake, self.series @ amps[:, mine]
            volts, drops = of_singles()
            k = single.index(mine.start)
            return volts[:, k] + s.stake, drops[:, k]

        found = []
        for s, first, last in zip(specs, edges, edges[1:], strict=False):
            mine = slice(first, last)
            own = mine if s.emf.ndim == 2 else first
            found.append(Port(s, amps[:, own], leak[:, own], partial(follows, s, mine)))
        return found

    def _leak(self, amps: Complex, injected: Complex) -> Complex:
        return np.asarray(injected - self.geometry.incidence @ amps)

    # ---- ports -------------------------------------------------------------------------------------------------

    def spec(self, *, columns: int | None = None, **parts: Any) -> PortSpec:
        """Return a port's description.

        Args:
            columns: Number of columns; None: a single port.
            **parts: Parts of `PortSpec`; those not given are zero.

        Returns:
            The description.
        """
        n, m = len(self.mesh.nodes_m), len(self.mesh.start)
        shape = () if columns is None else (columns,)
        zeros = {"j": n, "emf": m, "stake": n}
        return PortSpec(**{**{k: np.zeros((size, *shape), dtype=np.complex128) for k, size in zeros.items()}, **parts})

    def between(self, node: int, other: int | None) -> Port:
        """Return the port between two nodes.

        Args:
            node: Index of one node.
            other: Index of the other; None is remote earth.

        Returns:
            The port.
        """
        return self._port("nodes", node, -1 if other is None else other)

    def _port(self, *key: Any) -> Port:
        if key not in self._ports:
            self._prepared.pop(key, None)
            (self._ports[key],) = self.solve([self._spec_of(*key)])
        return self._ports[key]

    def _spec_of(self, kind: str, first: int, second: int) -> PortSpec:
        if kind == "branch":
            return self.inside_spec(first)
        return self._between_spec(first, None if second < 0 else second)

    def _prepare(self, keys: Iterable[PortKey]) -> None:
        self._prepared |= {key: self._spec_of(*key) for key in keys if key not in self._ports}

    def _between_spec(self, node: int, other: int | None) -> PortSpec:
        spec = self.spec()
        spec.j[node] = 1.0
        if other is not None:
            spec.j[other] -= 1.0
        return spec

    def far(self, line: int, end: str) -> Port:
        """Return the port between an end of a line and the earth that may be there.

        Args:
            line: Index of the line.
            end: Name of the end.

        Returns:
            The port; its earth is in it.
        """
        return self.between(*self.mesh.far[line, end])

    def prepare_far(self, ends: Sequence[tuple[int, str]]) -> None:
        """Solve the ports of many ends with the next solution.

        Args:
            ends: Line and name of each end.
        """
        self._prepare(("nodes", *self.mesh.far[e]) for e in ends)

    def prepare_inside(self, branches: Sequence[int]) -> None:
        """Solve the ports inside many branches with the next solution.

        Args:
            branches: Their indices.
        """
        self._prepare(("branch", branch, -1) for branch in branches)

    def prepare_between(self, pairs: Sequence[tuple[int, int | None]]) -> None:
        """Solve the ports between many pairs of nodes with the next solution.

        Args:
            pairs: Index of one node and of the other; None is remote earth.
        """
        self._prepare(("nodes", node, -1 if other is None else other) for node, other in pairs)

    def inside_spec(self, branch: int) -> PortSpec:
        """Return the description of the port in series with a branch.

        Args:
            branch: Index of the branch.

        Returns:
            The description.
        """
        spec = self.spec(branch=branch)
        spec.emf[branch] = 1.0
        return spec

    def inside(self, branch: int) -> Port:
        """Return the port in series with a branch.

        Args:
            branch: Index of the branch.

        Returns:
            The port.
        """
        return self._port("branch", branch, -1)

    def staked_spec(
        self, nodes: Index, stakes_m: Floats, *, stakes_ohm: Floats, leads: Segments, own_ohm: Complex
    ) -> PortSpec:
        """Return the ports from nodes to stakes as columns.

        No stake is in the factored circuit: moving it costs one column, not a factorisation.

        Args:
            nodes: Nodes, shape (k,).
            stakes_m: Places of the stakes, shape (k, 3) [m].
            stakes_ohm: Resistance of each stake, shape (k,) [ohm].
            leads: Leads, one for each stake.
            own_ohm: Impedance of lead and clip, shape (k,) [ohm].

        Returns:
            The description.
        """
        paths, coupling = self.geometry.reach(stakes_m, leads)
        count, w = len(nodes), self.mesh.metal
        mutual = paths.at(self.soil, freq_hz=self.freq_hz, self_a=self.soil_ohm, self_b=stakes_ohm)
        spec = self.spec(columns=count, stake=-mutual, own_ohm=own_ohm + stakes_ohm)
        spec.j[nodes, np.arange(count)] = 1.0
        spec.emf[:w] = -coupling.at(self.soil, freq_hz=self.freq_hz).reshape(w, count, -1).sum(2)
        return spec

    # ---- results -----------------------------------------------------------------------------------------------

    def ends(self, r: Response) -> Ends:
        """Return the current at both ends of each metal branch.

        Args:
            r: A solved response.

        Returns:
            Current entering at the start and leaving at the end, each of shape (w,), or (w, k) in columns [A].
        """
        if r.amps.ndim == 2:
            return self.ends_of(r.amps, r.leak)
        into, out = self.ends_of(r.amps[:, None], r.leak[:, None])
        return into[:, 0], out[:, 0]

    def ends_of(self, amps: Complex, leak: Complex) -> Ends:
        """Return the current at both ends of each metal branch for many cases.

        The half shunts of a section are at its ends, so its own leakage is inside it.

        Args:
            amps: Currents along the branches, shape (m, k) [A].
            leak: Currents into the soil, shape (n, k) [A].

        Returns:
            Current entering at the start and leaving at the end, each of shape (w, k) [A].
        """
        w, (_, half, _) = self.mesh.metal, self.sections
        share = leak / np.where(self._node_shunt == 0, 1, self._node_shunt)[:, None]
        start, end, half = self.mesh.start[:w], self.mesh.end[:w], half[:, None]
        return amps[:w] + half * share[start], amps[:w] - half * share[end]

    def along(self, r: Response, line: int) -> tuple[Floats, Complex]:
        """Return the current along a line.

        A jump in current appears as two values at one distance.

        Args:
            r: A solved response.
            line: Index of the line.

        Returns:
            Distances (2s,) [m] and the current (2s,) [A] at both ends of each of its s branches.
        """
        own = self.mesh.of_line(line)
        into, out = self.ends(r)
        s = np.column_stack([self.mesh.s_start[own], self.mesh.s_end[own]]).ravel()
        return s, np.column_stack([into[own], out[own]]).ravel()

    def current_on(self, ends_a: Ends, line: int, distances_m: Floats) -> Complex:
        """Return the current at distances along a line that has metal.

        From the currents (w, ...) [A] into and out of every branch.

        Args:
            ends_a: Current (w, ...) [A] into each of w metal branches at its start, and out of it at its end.
            line: Index of the line.
            distances_m: Distances along it, shape (k,) [m].

        Returns:
            Current, shape (..., k) [A].
        """
        return self.current_in(ends_a, self.inside_of([(line, distances_m)]))

    def inside_of(self, places: Sequence[tuple[int, Floats]]) -> Inside:
        """Return the weights that give the current between the ends of a section.

        I(s) sinh(g L) = I_in sinh(g (L - s)) + I_out sinh(g s).

        Args:
            places: Line and distances along it [m], of lines with metal; k in all.

        Returns:
            Branches and weights, one line after the other.
        """
        branch, line, s, length = self.geometry.located(places)
        g = self._gammas[line]
        whole = np.sinh(g * length)
        first, last = (np.sinh(g * part) / whole for part in (length - s, s))
        return branch, first.astype(np.complex128), last.astype(np.complex128)

    @lazy
    def _gammas(self) -> Complex:
        """Propagation constant of each line [1/m], NaN without metal."""
        none = complex("nan")
        return np.array([none if p is None else p.gamma for p in self.params])

    def current_in(self, ends_a: Ends, inside: Inside) -> Complex:
        """Return the current at places found by `inside_of`.

        Args:
            ends_a: Current (w, ...) [A] into each of w metal branches at its start, and out of it at its end.
            inside: Those k places.

        Returns:
            Current, shape (..., k) [A].
        """
        branch, first, last = inside
        into, out = (np.moveaxis(i[branch], 0, -1) for i in ends_a)
        return np.asarray(into * first + out * last)

    def current_in_each(self, ends_a: Ends, inside: Inside, which: Index, of: Index) -> Complex:
        """Return the current of single columns at single places.

        From the currents (w, k, ...) [A] into and out of every branch.

        Args:
            ends_a: Current (w, k, ...) [A] into each of w metal branches at its start, and out of it at its end.
            inside: Places found by `inside_of`.
            which: Place of each, shape (i,).
            of: Column of each, shape (i,).

        Returns:
            Current, shape (i, ...) [A].
        """
        branch, first, last = (each[which] for each in inside)
        into, out = (np.moveaxis(i[branch, of], 0, -1) for i in ends_a)
        return np.asarray(np.moveaxis(into * first + out * last, -1, 0))
