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
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.branch_currents import BranchCurrents
from vessel.core.signal.circuit.ports import Port, PortSpec
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.physics.inductive_coupling import Segments

PortKey = tuple[str, int, int]


class SiteCircuit(BranchCurrents):
    """The factored circuit of a site at `freq_hz` [Hz], in its own soil or in `soil`.

    Solved once without `refined`: good to six digits at least, in three quarters of the time.
    """

    def __init__(
        self, geometry: SiteGeometry, *, freq_hz: float, soil: Soil | None = None, refined: bool = True
    ) -> None:
        super().__init__(geometry, freq_hz=freq_hz, soil=soil)
        self.refined = refined
        self._ports: dict[PortKey, Port] = {}
        self._prepared: dict[PortKey, PortSpec] = {}

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
