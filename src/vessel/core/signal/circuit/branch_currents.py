"""What flows along the branches of a site: at their ends, and at any place on a line."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.signal.circuit.ports import Response
from vessel.core.signal.circuit.site_matrices import SiteMatrices

Ends = tuple[Complex, Complex]
"""Current (w, ...) [A] entering each metal branch at its start and leaving it at its end."""

Inside = tuple[Index, Complex, Complex]
"""Places (k,) along lines: the branch each is in, and how much of what enters and leaves that flows there."""


class BranchCurrents(SiteMatrices):
    """The impedances of a site, and what flows in them once they are solved."""

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
        share = leak / np.where(self.node_shunt == 0, 1, self.node_shunt)[:, None]
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
        g = self.gammas[line]
        whole = np.sinh(g * length)
        first, last = (np.sinh(g * part) / whole for part in (length - s, s))
        return branch, first.astype(np.complex128), last.astype(np.complex128)

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
