"""One line and its neighbours as a technician tells them, laid out as a site; setups in the line's own terms.

The line runs east from the origin; left of it is north. Its far end is a port, so that "far end earthed" costs one
division instead of another factorisation.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.errors import BadInput
from vessel.core.model.kit import Kit
from vessel.core.model.line import FarEnd, Line
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site import Bond, Feature, Hookup, Site, SiteLine
from vessel.core.model.soil import Soil
from vessel.core.signal.line_params import LineParams
from vessel.core.signal.mesh import lay_mesh
from vessel.core.signal.ports import Port, Response
from vessel.core.signal.site_check import check_site
from vessel.core.signal.site_circuit import SiteCircuit, SiteGeometry
from vessel.core.signal.sources import Excitation
from vessel.core.signal.sources import excite as excite_site

Floats = NDArray[np.float64]
Complex = NDArray[np.complex128]
TARGET_NAME = "target"
TARGET = 0
"""Index of the line itself among the lines of its site."""


@dataclass(frozen=True)
class LineFault:
    """Something wrong at `at_m` [m]: a break (huge series resistance) or an earth fault of `ohm` [ohm]."""

    kind: Literal["break", "earth_fault"]
    at_m: float
    ohm: float = 0.0


def _end(ohm: float | None) -> FarEnd:
    return FarEnd("open") if ohm is None else FarEnd("earthed", ohm)


def _beside(line: Line, n: Neighbour, k: int) -> tuple[SiteLine, Bond | None]:
    name = f"{k + 1} {n.name}"  # neighbours may share a name
    route = ((n.start_m, n.offset_m, n.depth_m), (n.end_m, n.offset_m, n.depth_m))
    beside = SiteLine(name, n.construction, route, _end(n.start_earth_ohm), _end(n.end_earth_ohm))
    # where the line is thought to end sooner, what joins it further on is not there
    if n.bond_m is None or not 0 <= n.bond_m <= line.length_m:
        return beside, None
    return beside, Bond(TARGET_NAME, n.bond_m, name, n.bond_m - n.start_m)


def lay_out(
    line: Line,
    soil: Soil,
    *,
    depth_m: float | None = None,
    faults: Sequence[LineFault] = (),
) -> Site:
    """Return the site of a line and what runs beside it, at `depth_m` [m]: by default the middle of the expected."""
    depth = line.mid_depth_m if depth_m is None else depth_m
    features = tuple(Feature("break" if f.kind == "break" else "fault", f.at_m, f.ohm) for f in faults)
    target = SiteLine(
        TARGET_NAME,
        line.construction,
        ((0.0, 0.0, depth), (line.length_m, 0.0, depth)),
        _end(line.near.earth_ohm),
        FarEnd("unknown", line.far.earth_ohm),
        features,
    )
    beside = [_beside(line, n, k) for k, n in enumerate(line.neighbours)]
    site = Site(soil, (target, *(b for b, _ in beside)), tuple(bond for _, bond in beside if bond is not None))
    check_site(site)
    return site


def stake_side(neighbours: Sequence[Neighbour], stake: Stake) -> int:
    """Return +1 for a stake on the left, -1 on the right: away from what runs beside the near end; left if equal."""

    def clearance(side: int) -> float:
        return min(
            (float(np.hypot(n.offset_m - side * stake.away_m, max(n.start_m, -n.end_m, 0.0))) for n in neighbours),
            default=np.inf,
        )

    return 1 if clearance(1) >= clearance(-1) else -1


def hookup_on(line: Line, setup: Setup) -> Hookup:
    """Return `setup` placed on the site of `line`: stake off the near end, clamp or coil along the line."""
    return Hookup(
        setup.method,
        setup.freq_hz,
        setup.output_a,
        TARGET_NAME,
        setup.position_m if setup.method == "clamp" else 0.0,
        setup.stake,
        (0.0, stake_side(line.neighbours, setup.stake) * setup.stake.away_m),
        setup.clip_ohm,
        coil_at=(setup.position_m, 0.0),
        coil_heading_deg=90.0,
    )


class LineCircuit:
    """The circuit of `line` in `soil` at `freq_hz` [Hz] with what runs beside it and any `faults`.

    `geometry` shares the mesh between frequencies; without it the mesh is laid for this frequency, `refine` times
    finer than usual.
    """

    def __init__(
        self,
        line: Line,
        soil: Soil,
        *,
        freq_hz: float,
        depth_m: float | None = None,
        faults: Sequence[LineFault] = (),
        geometry: SiteGeometry | None = None,
        refine: float = 1.0,
    ) -> None:
        self.line, self.soil, self.freq_hz = line, soil, freq_hz
        if geometry is None:
            site = lay_out(line, soil, depth_m=depth_m, faults=faults)
            geometry = SiteGeometry(lay_mesh(site, top_hz=freq_hz, refine=refine))
        self.site_circuit = SiteCircuit(geometry, freq_hz=freq_hz)
        self.mesh = geometry.mesh
        self.depth_m = float(-self.mesh.site.lines[TARGET].corners_m[0, 2])

    @property
    def params(self) -> LineParams:
        """Per-metre properties of the line."""
        found = self.site_circuit.params[TARGET]
        if found is None:
            raise AssertionError("a line always has a construction")
        return found

    def hookup(self, setup: Setup) -> Hookup:
        """Return `setup` placed on the site."""
        return hookup_on(self.line, setup)

    @cached_property
    def far_port(self) -> Port:
        """Port between the line's far end and the earth that may be there."""
        return self.site_circuit.far(TARGET, "end")

    def joined_far(self, far_ohm: float | None) -> tuple[tuple[Port, complex], ...]:
        """Return what joins the far end to `far_ohm` [ohm] of earth; None leaves it open."""
        # the earth in the port is of the line's own typical resistance; the difference is added outside it
        return () if far_ohm is None else ((self.far_port, far_ohm - self.line.far.earth_ohm),)

    def profile(self, r: Response, line: int = TARGET) -> tuple[Floats, Complex]:
        """Return distances (2s,) [m] along a line of the site and the current (2s,) [A] there, both ends of branches.

        Distances count along the target; a jump in current stands as two values at one distance.
        """
        s, amps = self.site_circuit.along(r, line)
        return s + self._starts_m(line), amps

    def _starts_m(self, line: int) -> float:
        return float(self.mesh.site.lines[line].corners_m[0, 0])

    def current_at(self, r: Response, x_m: Floats, line: int = TARGET) -> Floats:
        """Return the current [A] at distances `x_m` (n,) [m] along the target, zero where that line does not run."""
        s = np.asarray(x_m, dtype=float) - self._starts_m(line)
        amps = np.abs(self.site_circuit.current_on(r, line, s))
        return np.asarray(np.where((s >= 0) & (s <= self.mesh.site.lines[line].length_m), amps, 0.0))

    def currents_beside(self, r: Response, x_m: Floats) -> Floats:
        """Return the current (k, n) [A] of each neighbour at distances `x_m` (n,) [m] along the line."""
        rows = [self.current_at(r, x_m, 1 + k) for k in range(len(self.line.neighbours))]
        return np.array(rows).reshape(len(rows), len(x_m))


def excite(circuit: LineCircuit, setup: Setup, kit: Kit, *, far_ohms: Sequence[float | None]) -> list[Excitation]:
    """Return the excitation of `circuit` under `setup` for each far-end resistance [ohm] (None: open).

    Raises `BadInput` where the kit lacks the clamp or coil. Output limits are not in it: see `output`.
    """
    if setup.method != "direct":
        setup.require_on(circuit.line.length_m)
    if setup.freq_hz != circuit.freq_hz:
        raise BadInput("Setup and circuit differ in frequency.", field="freq_hz", fix="Solve at the setup's frequency.")
    hookup = circuit.hookup(setup)
    return excite_site(circuit.site_circuit, hookup, kit, variants=[circuit.joined_far(ohm) for ohm in far_ohms])
