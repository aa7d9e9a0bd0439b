"""Nodal network: branches with series impedance and EMF, shunts to remote earth, one factorisation."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.linalg import splu

Complex = NDArray[np.complex128]
Index = NDArray[np.intp]


@dataclass(frozen=True)
class Network:
    """Branches `start`->`end` (m,) of impedance `z` (m,) [ohm]; node shunts `y` (n,) [S] to remote earth."""

    start: Index
    end: Index
    z: Complex
    y: Complex

    @cached_property
    def _lu(self) -> Any:
        n, g = len(self.y), 1 / self.z
        rows = np.concatenate([self.start, self.end, self.start, self.end, np.arange(n)])
        cols = np.concatenate([self.start, self.end, self.end, self.start, np.arange(n)])
        data = np.concatenate([g, g, -g, -g, self.y])
        return splu(coo_array((data, (rows, cols)), shape=(n, n)).tocsc())

    def solve(self, injected: Complex, emf: Complex) -> tuple[Complex, Complex]:
        """Return (node volts (n, k), branch currents (m, k)).

        `injected` (n, k) [A] flows into the nodes, `emf` (m, k) [V] drives each branch from start to end.
        """
        drive = emf / self.z[:, None]
        rhs = injected.astype(np.complex128)
        np.add.at(rhs, self.start, -drive)
        np.add.at(rhs, self.end, drive)
        volts = self._lu.solve(np.ascontiguousarray(rhs))
        amps = (volts[self.start] - volts[self.end] + emf) / self.z[:, None]
        return volts, amps
