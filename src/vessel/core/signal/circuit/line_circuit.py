"""The circuit of one line on its site, in the line's own terms.

Its far end is a port, so that "far end earthed" costs one division instead of another factorisation.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property

import numpy as np

from vessel.core.base.arrays import Floats, Index
from vessel.core.base.errors import BadInput
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.network import Hookup
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.branch_currents import Ends, Inside
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.pair_line import on_site
from vessel.core.signal.circuit.ports import Port, Response
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.circuit.sources import Excitation, excite_carried
from vessel.core.signal.circuit.sources import excite as excite_site
from vessel.core.signal.layout.beside_line import Aside
from vessel.core.signal.layout.line_on_site import LineFault, lay_out, target_of
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.physics.line_parameters import LineParams

Beside = tuple[Index, Index, Inside]


class LineCircuit:
    """The circuit of `line` in `soil` at `freq_hz` [Hz] with what runs beside it and any `faults`.

    `circuit` or `geometry` shares a site that is already solved or meshed; without them the mesh is laid for this
    frequency, `refine` times finer than usual.
    """

    def __init__(
        self,
        line: Line,
        soil: Soil,
        *,
        freq_hz: float,
        faults: Sequence[LineFault] = (),
        geometry: SiteGeometry | None = None,
        circuit: SiteCircuit | None = None,
        refine: float = 1.0,
    ) -> None:
        self.line, self.soil, self.freq_hz, self.target = line, soil, freq_hz, target_of(line)
        if circuit is None:
            if geometry is None:
                geometry = SiteGeometry(lay_mesh(lay_out(line, soil, faults=faults), top_hz=freq_hz, refine=refine))
            circuit = SiteCircuit(geometry, freq_hz=freq_hz)
        self.site_circuit = circuit
        self.mesh = circuit.mesh
        # the same places along the line and beside it are asked for again and again; a look aside is known by itself
        self._on_line: dict[bytes, Inside] = {}
        self._insides: dict[tuple[int, ...], tuple[Sequence[Aside], Beside]] = {}

    @property
    def params(self) -> LineParams:
        """Per-metre properties of the line."""
        found = self.site_circuit.params[self.target]
        if found is None:
            raise AssertionError("a line always has a construction")
        return found

    def hookup(self, setup: Setup) -> Hookup:
        """Return a setup placed on the site.

        Args:
            setup: Method, place, frequency and output.

        Returns:
            The hookup.
        """
        return hookup_on(self.line, setup)

    @cached_property
    def far_port(self) -> Port:
        """Port of the line's far end: between it and the earth that may be there, or inside that earth's lead."""
        if self.far_branch is not None:
            return self.site_circuit.inside(self.far_branch)
        return self.site_circuit.far(self.target, "end")

    @cached_property
    def far_branch(self) -> int | None:
        """The lead of the far end's earth where the site has one, else None."""
        if not self._far_is_earthed:
            return None
        node, earth = self.mesh.far[self.target, "end"]
        links = slice(self.mesh.metal, None)
        at = np.flatnonzero((self.mesh.start[links] == node) & (self.mesh.end[links] == earth))[0]
        return self.mesh.metal + int(at)

    @property
    def _far_is_earthed(self) -> bool:
        return self.mesh.site.lines[self.target].end.kind == "earthed"

    def joined_far(self, far_ohm: float | None) -> tuple[tuple[Port, complex], ...]:
        """Return what joins the far end to earth.

        Args:
            far_ohm: Resistance of the earth [ohm]; None leaves the end open.

        Returns:
            Pairs (port, ohm) to join.
        """
        # the circuit has an earth of the line's own typical resistance; the difference is added outside it
        more = (np.inf if far_ohm is None else far_ohm) - self.line.far.earth_ohm
        if self._far_is_earthed:
            return () if more == 0 else ((self.far_port, more),)
        return () if far_ohm is None else ((self.far_port, more),)

    def joined_fault(self, fault: LineFault) -> tuple[Port, complex]:
        """Return what a fault joins to the line.

        Args:
            fault: Break, earth fault or bond; the mesh needs a node there, on both lines for a bond.

        Returns:
            A pair (port, ohm) to join.
        """
        site, own = self.site_circuit, self.target
        if fault.kind == "break":
            return site.inside(self.mesh.branch_at(own, fault.at_m)), complex(np.inf)
        return site.between(*self._terminals(fault)), complex(fault.ohm)

    def prepare_faults(self, faults: Sequence[LineFault]) -> None:
        """Solve the ports of many faults with the next solution.

        Args:
            faults: Breaks, earth faults or bonds, as for `joined_fault`.
        """
        site, own, mesh = self.site_circuit, self.target, self.mesh
        site.prepare_inside([mesh.branch_at(own, f.at_m) for f in faults if f.kind == "break"])
        site.prepare_between([self._terminals(f) for f in faults if f.kind != "break"])

    def _terminals(self, fault: LineFault) -> tuple[int, int | None]:
        other = self.mesh.node_at(fault.to, fault.to_m) if fault.kind == "bond" else None
        return self.mesh.node_at(self.target, fault.at_m), other

    def current_at(self, r: Response, x_m: Floats) -> Floats:
        """Return the current of one response along the line.

        Args:
            r: A solved response; of n columns, each is asked for at its own place.
            x_m: Distances along the line, shape (n,) [m].

        Returns:
            Magnitude, shape (n,) [A]; zero beyond the line.
        """
        return np.asarray(r.at_own(self.currents_at(self.site_circuit.ends(r), x_m)))

    def currents_at(self, ends_a: Ends, x_m: Floats) -> Floats:
        """Return the current of many cases along the line.

        From the currents (w, ...) [A] into and out of every branch.

        Args:
            ends_a: Current (w, ...) [A] into each of w metal branches at its start, and out of it at its end.
            x_m: Distances along the line, shape (n,) [m].

        Returns:
            Magnitude, shape (..., n) [A]; zero beyond the line.
        """
        x = np.asarray(x_m, dtype=float)
        amps = np.abs(self.site_circuit.current_in(ends_a, self._along(x)))
        length = self.mesh.site.lines[self.target].length_m
        return np.asarray(np.where((x >= 0) & (x <= length), amps, 0.0))

    def currents_at_own(self, ends_a: Ends, x_m: Floats, own: Index) -> Floats:
        """Return the current of many columns, each at its own distance.

        From the currents (w, k, ...) [A] into and out of every branch; the distances are on the line.

        Args:
            ends_a: Current (w, k, ...) [A] into each of w metal branches at its start, and out of it at its end.
            x_m: Distances on the line, shape (n,) [m].
            own: Index into `x_m` of each column, shape (k,).

        Returns:
            Magnitude, shape (k, ...) [A].
        """
        found = self.site_circuit.current_in_each(ends_a, self._along(x_m), own, np.arange(len(own)))
        return np.asarray(np.abs(found))

    def currents_beside(self, ends_a: Ends, asides: Sequence[Aside], count: int) -> Floats:
        """Return the current of each neighbour where a look aside meets it.

        From the currents (w, ...) [A] into and out of every branch; `count` stations (n) look aside.

        Args:
            ends_a: Current (w, ...) [A] into each of w metal branches at its start, and out of it at its end.
            asides: How each of k neighbours is met.
            count: Number n of stations that look aside.

        Returns:
            Magnitude, shape (..., k, n) [A]; zero where a neighbour is not met.
        """
        found = np.zeros((*ends_a[0].shape[1:], len(asides), count))
        beside = self._beside(asides)
        if beside is not None:
            rows, columns, inside = beside
            found[..., rows, columns] = np.abs(self.site_circuit.current_in(ends_a, inside))
        return found

    def loudest_beside_own(self, ends_a: Ends, asides: Sequence[Aside], own: Index) -> Floats:
        """Return the most current of any neighbour, of each column at its own station.

        From the currents (w, k, ...) [A] into and out of every branch.

        Args:
            ends_a: Current (w, k, ...) [A] into each of w metal branches at its start, and out of it at its end.
            asides: How each neighbour is met.
            own: Station of each column, shape (k,).

        Returns:
            Magnitude, shape (k, ...) [A].
        """
        found = np.zeros(ends_a[0].shape[1:])
        beside = self._beside(asides)
        if beside is not None:
            _, columns, inside = beside
            of, which = np.nonzero(own[:, None] == columns)
            np.maximum.at(found, of, np.abs(self.site_circuit.current_in_each(ends_a, inside, which, of)))
        return found

    def _along(self, x: Floats) -> Inside:
        key = x.tobytes()
        if key not in self._on_line:
            self._on_line[key] = self.site_circuit.inside_of([(self.target, x)])
        return self._on_line[key]

    def _beside(self, asides: Sequence[Aside]) -> Beside | None:
        """Which line beside and which station each place is of that a look aside meets, and where it is."""
        met = [(k, np.flatnonzero(a.met)) for k, a in enumerate(asides)]
        if not any(len(at) for _, at in met):
            return None
        key = tuple(id(a) for a in asides)
        if key not in self._insides:
            where = [(asides[k].beside.index, asides[k].along_m[at]) for k, at in met if len(at)]
            rows = np.concatenate([np.full(len(at), k) for k, at in met])
            columns = np.concatenate([at for _, at in met])
            self._insides[key] = asides, (rows, columns, self.site_circuit.inside_of(where))
        return self._insides[key][1]


def excite(
    circuit: LineCircuit, setup: Setup, kit: Kit, *, far_ohms: Sequence[float | None], at_m: Floats | None = None
) -> list[Excitation]:
    """Return the excitation of a line under a setup for each far end.

    Output limits are not in it: see `output`.

    Args:
        circuit: The line's circuit at one frequency.
        setup: Method, place, frequency and output.
        kit: Transmitter and receiver in use.
        far_ohms: Earth resistance of each far end [ohm]; None for open.
        at_m: With moving induction the stations that are read, shape (n,) [m].

    Returns:
        One excitation for each far end; with moving induction in columns, the coil as it stands for each station.

    Raises:
        BadInput: If the kit lacks the clamp or coil.
    """
    setup.require_on(circuit.line.length_m)
    if setup.freq_hz != circuit.freq_hz:
        raise BadInput("frequencies_differ", field="freq_hz")
    if setup.by.between:
        low_m = kit.receiver.low_m
        return [
            Excitation(*on_site(circuit.mesh, circuit.target, circuit.line, setup, joined=ohm is not None, low_m=low_m))
            for ohm in far_ohms
        ]
    variants = [circuit.joined_far(ohm) for ohm in far_ohms]
    if setup.moving and at_m is not None:
        carried = [circuit.hookup(setup.standing(x)) for x in at_m.tolist()]
        return excite_carried(circuit.site_circuit, carried, kit, variants=variants)
    return excite_site(circuit.site_circuit, circuit.hookup(setup), kit, variants=variants)
