"""A site cut into short branches: nodes in space, branches between them, the stretch of soil each node leaks from.

Axes: x east, y north, z up, ground at z = 0.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

import numpy as np

from vessel.core.base.arrays import Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.model.network import Site


@dataclass(frozen=True)
class Mesh:
    """Metal branches first, then connections (earths, bonds). `n` nodes, `m` branches, `w` of them metal.

    `start`, `end` (m,): nodes. `line` (w,): index of the line. `s_start`, `s_end` (w,) [m] along it. `cells_m`
    (n, 2, 3): both ends of the stretch a node leaks from, one point for an earth. `owner` (n,): line, -1 for an
    earth. `earth_ohm` (n,): NaN for metal. `link_ohm` (m - w,): resistance of the connections.
    `features`: (branch, line, index of the feature) for what sits in series; `far`: node of each open-or-earthed end
    and of its earth, keyed (line, "start" or "end").
    """

    site: Site
    nodes_m: Floats
    start: Index
    end: Index
    line: Index
    s_start: Floats
    s_end: Floats
    cells_m: Floats
    owner: Index
    earth_ohm: Floats
    link_ohm: Floats
    features: tuple[tuple[int, int, int], ...]
    far: Mapping[tuple[int, str], tuple[int, int]]

    @property
    def metal(self) -> int:
        """Number of metal branches."""
        return len(self.line)

    @lazy
    def _runs(self) -> list[tuple[slice, slice, slice]]:
        """Branches one after the other whose nodes are too: they, their first nodes and their last."""
        breaks = np.flatnonzero((np.diff(self.start) != 1) | (np.diff(self.end) != 1)) + 1
        edges = [0, *breaks.tolist(), len(self.start)]
        return [
            (slice(a, b), slice(self.start[a], self.start[a] + b - a), slice(self.end[a], self.end[a] + b - a))
            for a, b in pairwise(edges)
            if a < b
        ]

    def along_branches(self, at_nodes: Any) -> Any:
        """Return the difference of node values along every branch.

        Args:
            at_nodes: Values at the nodes, shape (n, ...).

        Returns:
            Value at the start less that at the end, shape (m, ...).
        """
        found = np.empty((len(self.start), *at_nodes.shape[1:]), dtype=at_nodes.dtype)
        for rows, first, last in self._runs:  # stretches of rows: to pick them one by one would copy each first
            np.subtract(at_nodes[first], at_nodes[last], out=found[rows])
        return found

    @property
    def lengths_m(self) -> Floats:
        """Lengths (w,) [m] of the metal branches."""
        return self.s_end - self.s_start

    def of_line(self, line: int) -> Index:
        """Return the branches of a line.

        Args:
            line: Index of the line.

        Returns:
            Indices of its branches, in order.
        """
        return np.flatnonzero(self.line == line)

    def node_at(self, line: int, at_m: float) -> int:
        """Return the node of a line nearest to a place.

        Args:
            line: Index of the line.
            at_m: Distance along it [m].

        Returns:
            Index of the node.
        """
        own = self.of_line(line)
        s = np.append(self.s_start[own], self.s_end[own][-1])
        nodes = np.append(self.start[own], self.end[own][-1])
        return int(nodes[np.abs(s - at_m).argmin()])

    def branch_at(self, line: int, at_m: float) -> int:
        """Return the branch of a line that holds a place.

        Args:
            line: Index of the line.
            at_m: Distance along it [m].

        Returns:
            Index of the branch.
        """
        own = self.of_line(line)
        return int(own[np.clip(np.searchsorted(self.s_start[own], at_m, side="right") - 1, 0, len(own) - 1)])
