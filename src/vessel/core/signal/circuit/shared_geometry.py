"""What all circuits of a site share, at every frequency and in every soil: the mesh and its integrals in space."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.sparse import csr_array

from vessel.core.base.arrays import Floats, Index
from vessel.core.signal.circuit.mesh import Mesh
from vessel.core.signal.physics.inductive_coupling import Coupling, Segments, between_lines
from vessel.core.signal.physics.magnetic_field import CoilReach
from vessel.core.signal.physics.soil_potential import SoilPaths

Located = tuple[Index, Index, Floats, Floats]


class SiteGeometry:
    """What all frequencies share: the mesh and its integrals in space."""

    def __init__(self, mesh: Mesh) -> None:
        self.mesh = mesh
        w = mesh.metal
        radii = [0.0 if line.construction is None else line.construction.outer_radius_m for line in mesh.site.lines]
        self.segments = Segments(
            mesh.nodes_m[mesh.start[:w]], mesh.nodes_m[mesh.end[:w]], np.array(radii)[mesh.line] if w else np.zeros(0)
        )
        self.coupling = between_lines(self.segments, mesh.line, size=len(mesh.start))
        owner = mesh.owner
        # a line's own cells share their soil already in its per-metre shunt path; earths belong to no cell
        apart = (owner[:, None] != owner[None]) | (owner[:, None] < 0)
        self.paths = SoilPaths(mesh.cells_m, mesh.cells_m, wanted=np.triu(apart, 1), either_way=True)
        m, n = len(mesh.start), len(mesh.nodes_m)
        rows, columns = np.concatenate([mesh.start, mesh.end]), np.tile(np.arange(m), 2)
        self.incidence = csr_array((np.repeat([1.0, -1.0], m), (rows, columns)), shape=(n, m))
        self._reaches: dict[tuple[bytes, ...], tuple[SoilPaths, Coupling]] = {}
        self._coils: dict[tuple[bytes, bytes], CoilReach] = {}
        self._located: dict[tuple[tuple[int, bytes], ...], Located] = {}

    def reach(self, stakes_m: Floats, leads: Segments) -> tuple[SoilPaths, Coupling]:
        """Return what stakes and their leads reach.

        Args:
            stakes_m: Places of stakes, shape (k, 3) [m].
            leads: Their leads.

        Returns:
            Ways through the soil from every node to the stakes, and the coupling of the leads.
        """
        key = tuple(each.tobytes() for each in (stakes_m, leads.start_m, leads.end_m))
        if key not in self._reaches:
            wanted = np.ones((len(self.mesh.nodes_m), len(stakes_m)), dtype=bool)
            i, j = np.indices((self.mesh.metal, len(leads.start_m))).reshape(2, -1)
            self._reaches[key] = (
                SoilPaths(self.mesh.cells_m, np.repeat(stakes_m[:, None], 2, 1), wanted=wanted),
                Coupling(self.segments, leads, i, j),
            )
        return self._reaches[key]

    def located(self, places: Sequence[tuple[int, Floats]]) -> Located:
        """Return where distances along lines lie in the mesh.

        The branch each is in, its line, how far along the branch [m] it is and how long [m] that is, all (k,).

        Args:
            places: Line and distances along it [m], of lines with metal; k in all.

        Returns:
            Branch, line, distance into the branch [m] and its length [m], each of shape (k,), one line after the
            other.
        """
        key = tuple((line, distances_m.tobytes()) for line, distances_m in places)
        if key not in self._located:
            found = []
            for line, distances_m in places:
                own = self.mesh.of_line(line)
                if not len(own):
                    raise AssertionError("a line without metal has no current")
                k = np.searchsorted(self.mesh.s_start[own], distances_m, side="right") - 1
                branch = own[np.clip(k, 0, len(own) - 1)]
                length = self.mesh.lengths_m[branch]
                s = np.clip(distances_m - self.mesh.s_start[branch], 0, length)
                found.append((branch, np.full(len(branch), line), s, length))
            branch, lines, s, length = (np.concatenate(each) for each in zip(*found, strict=True))
            self._located[key] = branch, lines, s, length
        return self._located[key]

    def coil_reach(self, at_m: Floats, axis: Floats) -> CoilReach:
        """Return what coils reach.

        Args:
            at_m: Places, shape (k, 3) [m].
            axis: Axes of their moments, shape (k, 3).

        Returns:
            Geometry of their fields along every branch.
        """
        key = at_m.tobytes(), axis.tobytes()
        if key not in self._coils:
            self._coils[key] = CoilReach(self.segments.start_m, self.segments.end_m, at_m=at_m, axis=axis)
        return self._coils[key]
