"""Ports of a solved circuit and what happens when something is joined to them: a small hybrid system, no new solution.

A port is a pair of terminals (driven by 1 A) or the inside of a branch (driven by 1 V); a pair (port, ohm) joins `ohm`
between terminals, or adds it in series with a branch, infinite being a break (Chua, Desoer and Kuh 1987, ch. 13).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Complex = NDArray[np.complex128]


@dataclass(frozen=True)
class PortSpec:
    """A place where something can be joined, or any other source, per unit of it.

    `j` (n,) injected at the nodes, `emf` (m,) along the branches, `stake` (n,) volts that a stake outside the nodes
    raises there. `own_ohm`: impedance of the port itself (lead, clip, stake). `branch`: it sits inside one, in series.
    """

    j: Complex
    emf: Complex
    stake: Complex
    own_ohm: complex = 0j
    branch: int | None = None


@dataclass(frozen=True)
class Port:
    """A port with its solution, everything else open: `amps`, `drops` (m,) of the branches, `leak`, `volts` (n,).

    `drops` are the volts across the branches' impedances, Z times `amps`.
    """

    spec: PortSpec
    amps: Complex
    leak: Complex
    volts: Complex
    drops: Complex

    def sees(self, other: Port) -> complex:
        """Return the open volts (terminals) or the current (branch) here per unit of `other`."""
        s = self.spec
        if s.branch is not None:
            return complex(other.amps[s.branch])
        # j.V - e.I written with both solutions (leak = j - A I, A^T V + e = Z I): errors of either enter only squared,
        # where insulated wire of many megohms would cost the plain difference its digits
        flow = self.amps @ (other.drops - other.spec.emf) - s.emf @ other.amps
        return complex(self.leak @ other.volts + s.stake @ other.leak + flow)


@dataclass(frozen=True)
class Response:
    """Answer of the site to one unit of a source. `amps` (m,) [A] along the branches, `leak` (n,) [A] into the soil.

    `volts` (n,) [V] against remote soil; `joined` [A or V]: what flows in each port that was joined.
    """

    amps: Complex
    leak: Complex
    volts: Complex
    joined: tuple[complex, ...]

    def times(self, factor: complex) -> Response:
        """Return the response to `factor` units."""
        return Response(
            self.amps * factor, self.leak * factor, self.volts * factor, tuple(v * factor for v in self.joined)
        )


def flows(source: Port, joined: Sequence[tuple[Port, complex]]) -> Complex:
    """Return what flows in each joined port per unit of `source`.

    A pair (port, ohm) joins `ohm` between terminals, or adds it in series with a branch (infinite: a break).
    """
    if not joined:
        return np.zeros(0, dtype=np.complex128)
    ports = [p for p, _ in joined]
    h = np.array([[p.sees(q) for q in ports] for p in ports])
    for k, (p, ohm) in enumerate(joined):
        h[k, k] += (0 if np.isinf(ohm) else 1 / ohm) if p.spec.branch is not None else ohm
    return np.asarray(np.linalg.solve(h, -np.array([p.sees(source) for p in ports])))


def seen(port: Port, joined: Sequence[tuple[Port, complex]] = ()) -> complex:
    """Return the impedance [ohm] (terminals) or admittance [S] (branch) a source at `port` works into."""
    flowing = flows(port, joined)
    through = sum((port.sees(p) * f for (p, _), f in zip(joined, flowing, strict=True)), start=0j)
    return complex(port.sees(port) + through + port.spec.own_ohm)


def drive(source: Port, joined: Sequence[tuple[Port, complex]] = ()) -> Response:
    """Return the response to one unit of `source` (1 A between terminals, 1 V inside a branch), others joined."""
    flowing = flows(source, joined)
    amps, leak, volts = source.amps.copy(), source.leak.copy(), source.volts.copy()
    for (port, _), flow in zip(joined, flowing, strict=True):
        amps += port.amps * flow
        leak += port.leak * flow
        volts += port.volts * flow
    return Response(amps, leak, volts, tuple(complex(f) for f in flowing))
