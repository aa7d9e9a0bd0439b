"""Ports of a solved circuit and what happens when something is joined to them: a small hybrid system, no new solution.

A port is a pair of terminals (driven by 1 A) or the inside of a branch (driven by 1 V); a pair (port, ohm) joins `ohm`
between terminals, or adds it in series with a branch, infinite being a break (Chua, Desoer and Kuh 1987, ch. 13).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from vessel.core.base.arrays import Complex, Index
from vessel.core.base.cached import lazy


@dataclass(frozen=True)
class PortSpec:
    """A place where something can be joined, or any other source, per unit of it.

    `j` (n,) injected at the nodes, `emf` (m,) along the branches, `stake` (n,) volts that a stake outside the nodes
    raises there. `own_ohm`: impedance of the port itself (lead, clip, stake). `branch`: it sits inside one, in series.
    Many of one kind can stand as columns: (n, k), (m, k), with (k,) of `own_ohm` and `branch`.
    """

    j: Complex
    emf: Complex
    stake: Complex
    own_ohm: complex | Complex = 0j
    branch: int | Index | None = None

    @lazy
    def along_only(self) -> bool:
        """Return whether it drives volts along branches and nothing else, as a coil's field does.

        Returns:
            True if it does.
        """
        return self.branch is None and not self.j.any() and not self.stake.any()

    @classmethod
    def as_columns(cls, specs: Sequence[PortSpec]) -> PortSpec:
        """Return ports of one kind as columns.

        Args:
            specs: Ports, all inside branches or none.

        Returns:
            One description with k columns.
        """
        j, emf, stake = (np.column_stack([getattr(s, name) for s in specs]) for name in ("j", "emf", "stake"))
        inside = specs[0].branch is not None
        branch = np.array([s.branch for s in specs], dtype=np.intp) if inside else None
        return cls(j, emf, stake, np.array([s.own_ohm for s in specs], dtype=np.complex128), branch)

    def columns(self, which: slice) -> PortSpec:
        """Return some of the columns.

        Args:
            which: Which of them.

        Returns:
            The description of those.
        """
        own, branch = np.asarray(self.own_ohm), self.branch
        return PortSpec(
            self.j[:, which],
            self.emf[:, which],
            self.stake[:, which],
            own[which] if own.ndim else complex(own),
            branch[which] if isinstance(branch, np.ndarray) else branch,
        )

    def column(self, k: int) -> PortSpec:
        """Return one of the columns.

        Args:
            k: Its number.

        Returns:
            Its description.
        """
        branch = None if self.branch is None else int(np.asarray(self.branch)[k])
        return PortSpec(self.j[:, k], self.emf[:, k], self.stake[:, k], complex(np.asarray(self.own_ohm)[k]), branch)


@dataclass(frozen=True, eq=False)
class Port:
    """A port with its solution, everything else open: `amps`, `drops` (m,) of the branches, `leak`, `volts` (n,).

    `drops` are the volts across the branches' impedances, Z times `amps`. Columns where the spec has columns. `follows`
    gives volts and drops, which not every source is asked for.
    """

    spec: PortSpec
    amps: Complex
    leak: Complex
    follows: Callable[[], tuple[Complex, Complex]]

    @lazy
    def _both(self) -> tuple[Complex, Complex]:
        return self.follows()

    @property
    def volts(self) -> Complex:
        """Volts (n,) [V] against remote soil."""
        return self._both[0]

    @property
    def drops(self) -> Complex:
        """Volts (m,) [V] across the branches' impedances."""
        return self._both[1]

    def columns(self, which: slice) -> Port:
        """Return some of the columns.

        Args:
            which: Which of them.

        Returns:
            The port of those.
        """
        return Port(
            self.spec.columns(which),
            self.amps[:, which],
            self.leak[:, which],
            lambda: (self.volts[:, which], self.drops[:, which]),
        )

    def sees(self, other: Port) -> Complex:
        """Return what another port causes here.

        (k,) where either stands as columns; two that do are taken column by column.

        Args:
            other: The port that is driven with one unit.

        Returns:
            Open volts (terminals) or current (branch), () or (k,) if either has columns; two that do are taken column
            by column.
        """
        s = self.spec
        if s.branch is not None:
            amps = other.amps[s.branch]
            return np.asarray(np.diagonal(amps) if amps.ndim == 2 else amps)
        if other.spec.along_only:
            # reciprocity: what it raises here is what a current from here would drive against it
            return -_paired(other.spec.emf, self.amps)
        # j.V - e.I written with both solutions (leak = j - A I, A^T V + e = Z I): errors of either enter only squared,
        # where insulated wire of many megohms would cost the plain difference its digits
        flow = _paired(self.amps, other.drops - other.spec.emf) - _paired(s.emf, other.amps)
        return np.asarray(_paired(self.leak, other.volts) + _paired(s.stake, other.leak) + flow)


def _paired(a: Complex, b: Complex) -> Complex:
    """`a` times `b` summed over nodes or branches, for each column of either or, where both have them, of both."""
    return np.asarray((a * b).sum(0) if a.ndim == b.ndim == 2 else a.T @ b)


@dataclass(frozen=True, eq=False)
class Response:
    """Answer of the site to one unit of a source. `amps` (m,) [A] along the branches, `leak` (n,) [A] into the soil.

    `joined` (p,) [A or V]: what flows in each port that was joined. A source that stands as columns has columns here.
    """

    amps: Complex
    leak: Complex
    joined: Complex
    found_volts: Callable[[], Complex]

    @lazy
    def volts(self) -> Complex:
        """Return the volts of every node against remote soil.

        Returns:
            Volts, shape (n,) [V].
        """
        return self.found_volts()

    def at_own(self, found: NDArray[Any]) -> NDArray[Any]:
        """Return of what every column does at every place what each does at its own: column k at place k.

        Args:
            found: Values, shape (k, ..., k) of a response in columns, (..., n) of one.

        Returns:
            Values, shape (..., k); of a single response as they are.
        """
        return found if self.amps.ndim == 1 else np.diagonal(found, axis1=0, axis2=-1)

    def times(self, factor: complex | Complex) -> Response:
        """Return the response to another drive.

        Args:
            factor: Units, one for each column.

        Returns:
            The response.
        """
        return Response(self.amps * factor, self.leak * factor, self.joined * factor, lambda: self.volts * factor)

    def column(self, k: int) -> Response:
        """Return one of the columns.

        Args:
            k: Its number.

        Returns:
            Its response.
        """
        return Response(self.amps[:, k], self.leak[:, k], self.joined[:, k], lambda: self.volts[:, k])


def flows(source: Port, joined: Sequence[tuple[Port, complex]]) -> Complex:
    """Return what flows in each joined port per unit of a source.

    A pair (port, ohm) joins `ohm` between terminals, or adds it in series with a branch (infinite: a break).

    Args:
        source: The port that is driven.
        joined: Pairs (port, ohm): p of them.

    Returns:
        Shape (p,), or (p, k) if the source has columns.
    """
    if not joined:
        return np.zeros((0, *source.amps.shape[1:]), dtype=np.complex128)
    ports = [p for p, _ in joined]
    own = np.array([_added(p, ohm) for p, ohm in joined])
    return np.asarray(np.linalg.solve(mutual(ports) + np.diag(own), -np.array([p.sees(source) for p in ports])))


def _added(port: Port, ohm: complex) -> complex:
    """What is joined adds to what a port sees of itself: ohms between terminals, siemens in series with a branch."""
    return ohm if port.spec.branch is None else 0j if np.isinf(ohm) else 1 / ohm


def mutual(ports: Sequence[Port]) -> Complex:
    """Return what single ports cause at one another, as `Port.sees` has it, in one go.

    Args:
        ports: p of them, none in columns.

    Returns:
        What each (row) sees of each (column), shape (p, p).
    """
    amps, branches = np.column_stack([p.amps for p in ports]), [p.spec.branch for p in ports]
    inside = [k for k, branch in enumerate(branches) if branch is not None]
    found = np.empty((len(ports), len(ports)), dtype=np.complex128)
    found[inside] = amps[np.array([branches[k] for k in inside], dtype=np.intp)]
    open_to = [k for k, branch in enumerate(branches) if branch is None]
    if open_to:
        leak, volts, drops = (np.column_stack([getattr(p, f) for p in ports]) for f in ("leak", "volts", "drops"))
        emf, stake = (np.column_stack([getattr(p.spec, f) for p in ports]) for f in ("emf", "stake"))
        own = leak[:, open_to].T @ volts + stake[:, open_to].T @ leak
        found[open_to] = own + amps[:, open_to].T @ (drops - emf) - emf[:, open_to].T @ amps
    return found


class SeenBy:
    """The loads a source works into with now these, now those ports joined; what they cause is worked out once.

    `ports`: all that may be joined, none in columns; the source neither.
    """

    def __init__(self, source: Port, ports: Sequence[Port]) -> None:
        self._own_ohm = complex(source.spec.own_ohm)
        every = [source, *{id(p): p for p in ports}.values()]
        self._place = {id(p): k for k, p in enumerate(every)}
        self._kept, self._mutual = every, mutual(every)

    def seen(self, joined: Sequence[tuple[Port, complex]]) -> complex:
        """Return the load, as `seen` has it.

        Args:
            joined: Pairs (port, ohm).

        Returns:
            Impedance [ohm] for terminals, admittance [S] for a branch.
        """
        m, at = self._mutual, [self._place[id(p)] for p, _ in joined]
        found = self._own_ohm + m[0, 0]
        if not at:
            return complex(found)
        own = np.diag([_added(p, ohm) for p, ohm in joined])
        return complex(found - m[0, at] @ np.linalg.solve(m[np.ix_(at, at)] + own, m[at, 0]))


def seen(port: Port, joined: Sequence[tuple[Port, complex]] = (), *, flowing: Complex | None = None) -> Complex:
    """Return the load a source works into.

    Args:
        port: The port that is driven.
        joined: Pairs (port, ohm).
        flowing: The `flows`, if they are known.

    Returns:
        Impedance [ohm] for terminals, admittance [S] for a branch; () or (k,).
    """
    found = port.sees(port) + port.spec.own_ohm
    for (p, _), flow in zip(joined, flows(port, joined) if flowing is None else flowing, strict=True):
        found = found + port.sees(p) * flow
    return np.asarray(found)


def drive(source: Port, joined: Sequence[tuple[Port, complex]] = (), *, flowing: Complex | None = None) -> Response:
    """Return the response to one unit of a source, others joined.

    Args:
        source: The port that is driven: 1 A between terminals, 1 V inside a branch.
        joined: Pairs (port, ohm).
        flowing: The `flows`, if they are known.

    Returns:
        The response.
    """
    if flowing is None:
        flowing = flows(source, joined)
    parts = [(port, flow) for (port, _), flow in zip(joined, flowing, strict=True)]

    def sum_of(name: str) -> Complex:
        total = getattr(source, name)
        for port, flow in parts:
            total = total + np.multiply.outer(getattr(port, name), flow)
        return np.asarray(total)

    return Response(sum_of("amps"), sum_of("leak"), flowing, lambda: sum_of("volts"))
