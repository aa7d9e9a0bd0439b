"""A whole site under one hookup: what the transmitter shows, what every line carries, what a receiver reads."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.base.errors import BadInput
from vessel.core.model.kit import Kit
from vessel.core.model.network import Hookup, Site
from vessel.core.signal.circuit.laid_mesh import lay_mesh
from vessel.core.signal.circuit.limits import Validity, overlapping_earths, passivity, validity
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.circuit.site_circuit import SiteCircuit
from vessel.core.signal.circuit.sources import Excitation, coil_geometry, excite, stake_lead
from vessel.core.signal.circuit.transmitter_output import Output, output
from vessel.core.signal.layout.site_checks import check_site, check_stake
from vessel.core.signal.receiver.field_at_coils import ReceiverGeometry, UnitField
from vessel.core.signal.receiver.instrument import CLEAR_COS

FULL_SCALE_T = 1e-6
"""Horizontal field that fills a receiver's display at 0 dB gain [T]."""


@dataclass(frozen=True)
class LineCurrent:
    """Current along a line: `distance_m` (n,) [m] from its first corner, `amps` (n,) [A].

    Phasors against the drive. A jump appears as two values at one distance.
    """

    name: str
    distance_m: Floats
    amps: Complex


@dataclass(frozen=True)
class PointReading:
    """What a receiver shows at one place, SI; NaN where it would show nothing.

    `level` is the share of full scale at the gain used, `over_range` whether it is exceeded. `direction`: +1 with the
    heading, -1 against it, None where the frequency or the phase does not tell. `peak_m`, `null_m`: where across the
    heading (left positive) the field peaks and its vertical part vanishes.
    """

    b_low_t: float
    level: float
    over_range: bool
    noise_share: float
    depth_m: float
    current_a: float
    depth_lifted_m: float
    direction: int | None
    peak_m: float
    null_m: float


class SolvedSite:
    """`site` under `hookup` with `kit`; unknown ends all open ("open") or all earthed ("earthed").

    Raises `BadInput` or `OutOfRange` for what cannot be computed; `flags` tells where the model reaches its limits.
    """

    def __init__(self, site: Site, hookup: Hookup, kit: Kit, *, unknown: str = "open", refine: float = 1.0) -> None:
        check_site(site)
        kit.frequency(hookup.freq_hz)
        if hookup.by.connects:
            site.index(hookup.line)
            check_stake(site, hookup)
        elif hookup.by.through_air:
            coil_geometry(hookup, kit)
        self.site, self.hookup, self.kit = site, hookup, kit
        self.circuit = _circuit(site, hookup, refine)
        ends = [(i, name) for i, line in enumerate(site.lines) for name in ("start", "end")
                if getattr(line, name).kind == "unknown" and line.construction is not None]  # fmt: skip
        joined = [(self.circuit.far(*end), 0j) for end in ends] if unknown == "earthed" else []
        self.excitation: Excitation = excite(self.circuit, hookup, kit, variants=[joined])[0]
        self.output: Output = output(self.excitation.load_ohm, hookup, kit)

    @cached_property
    def flags(self) -> list[Validity]:
        """Limits of the model that this answer touches."""
        earths = overlapping_earths(self.circuit)
        return [*validity(self.site, freq_hz=self.hookup.freq_hz), *earths, *passivity(self.circuit)]

    @cached_property
    def ends_a(self) -> tuple[Complex, Complex]:
        """Currents (s,) [A] into and out of every segment of the site, at this output."""
        into, out = self.circuit.ends(self.excitation.response)
        return into * self.output.drive, out * self.output.drive

    def line_current(self, name: str) -> LineCurrent:
        """Return the current along a line.

        Args:
            name: Name of the line.

        Returns:
            Distances and currents; none if it has no metal.
        """
        x, amps = self.circuit.along(self.excitation.response, self.site.index(name))
        return LineCurrent(name, x, amps * self.output.drive)

    def current_at(self, name: str, distances_m: Floats) -> Complex:
        """Return the current at distances along a line that has metal.

        Args:
            name: Name of the line.
            distances_m: Distances along it, shape (n,) [m].

        Returns:
            Current phasors, shape (n,) [A].
        """
        line = self.site.index(name)
        return self.circuit.current_on(self.ends_a, line, distances_m)

    def field(self, at_m: Floats, headings: Floats) -> UnitField:
        """Return the field at the receiver's coils, at this output.

        Args:
            at_m: Places, shape (n, 2) [m].
            headings: Directions walked, shape (n, 2).

        Returns:
            The field.
        """
        geometry = ReceiverGeometry(
            self.circuit.geometry.segments,
            at_m=at_m,
            headings=headings,
            depths_m=self._depths_near(at_m),
            receiver=self.kit.receiver,
        )
        own = None
        if self.hookup.by.connects:
            own = geometry.lead(stake_lead(self.circuit, self.hookup)), self.output.drive
        elif self.hookup.by.through_air:
            own = geometry.coil(*coil_geometry(self.hookup, self.kit)), self.output.drive
        returning = geometry.returning(self.site.soil, self.hookup.freq_hz)
        return geometry.unit_field(*self.ends_a, own, returning)

    def _depths_near(self, at_m: Floats) -> Floats:
        """Depth of the branch nearest in plan to each place: how far to either side a peak is looked for."""
        s = self.circuit.geometry.segments
        mid = 0.5 * (s.start_m + s.end_m)
        nearest = np.linalg.norm(at_m[:, None] - mid[None, :, :2], axis=2).argmin(1)
        return np.asarray(-mid[nearest, 2])

    def read(self, at_m: Floats, headings: Floats, *, gain_db: float = 0.0) -> list[PointReading]:
        """Return what the receiver shows at several places, with the kit's noise in it.

        Args:
            at_m: Places, shape (n, 2) [m].
            headings: Directions walked, shape (n, 2).
            gain_db: Gain the signal is shown at [dB].

        Returns:
            One reading for each place.

        Raises:
            BadInput: If places or headings are not pairs.
        """
        if at_m.ndim != 2 or at_m.shape[1:] != (2,) or headings.shape != at_m.shape:
            raise BadInput("place_not_a_pair", field="points")
        frequency = self.kit.frequency(self.hookup.freq_hz)
        field = self.field(at_m, headings)
        shown = field.read(1.0, noise_t=frequency.noise_t)
        # without a depth there is no current either: it is computed from both
        told = 1.0 if frequency.reads_depth else np.nan
        found = []
        for i, low in enumerate(shown.b_low_t):
            level = float(low / FULL_SCALE_T * 10 ** (gain_db / 20))
            found.append(
                PointReading(
                    float(low),
                    min(level, 1.0),
                    level > 1.0,
                    float(shown.noise_share[i]),
                    float(shown.depth_m[i] * told),
                    float(shown.current_a[i] * told),
                    float(shown.depth_lifted_m[i] * told),
                    self._direction(complex(field.over_t[i, 0]), frequency.reads_direction),
                    float(field.peak_m[i]),
                    float(field.null_m[i]),
                )
            )
        return found

    def _direction(self, horizontal: complex, told: bool) -> int | None:
        # above a current along the heading the field points to the right, against the coils' axis
        size = abs(horizontal)
        if not told or size == 0 or abs(horizontal.real) < CLEAR_COS * size:
            return None
        return 1 if horizontal.real < 0 else -1


def _circuit(site: Site, hookup: Hookup, refine: float) -> SiteCircuit:
    access: dict[int, list[float]] = {}
    places: list[tuple[float, float]] = []
    if hookup.by.through_air:
        places.append(hookup.coil_at)
    else:
        access[site.index(hookup.line)] = [hookup.at_m]
        if hookup.method == "pair":
            access.setdefault(site.index(hookup.other, field="other"), []).append(hookup.other_m)
        if hookup.by.connects:
            places.append(hookup.stake_at)
    mesh = lay_mesh(site, top_hz=hookup.freq_hz, access=access, attend=places, refine=refine)
    if not mesh.metal:
        raise BadInput("nothing_has_metal", field="lines")
    return SiteCircuit(SiteGeometry(mesh), freq_hz=hookup.freq_hz)


def convergence(coarse: SolvedSite, fine: SolvedSite, names: Sequence[str]) -> dict[str, float]:
    """Return how far the current on each line changes with a finer mesh.

    Args:
        coarse: The site solved on one mesh.
        fine: The same on a finer one.
        names: Names of the lines to compare.

    Returns:
        By line: greatest change against the greatest current on it.
    """
    changes = {}
    for name in names:
        own = coarse.circuit.mesh.of_line(coarse.site.index(name))
        if not len(own):
            continue
        middles = 0.5 * (coarse.circuit.mesh.s_start[own] + coarse.circuit.mesh.s_end[own])
        first, second = (each.current_at(name, middles) for each in (coarse, fine))
        changes[name] = float(np.abs(first - second).max() / max(np.abs(first).max(), 1e-30))
    return changes
