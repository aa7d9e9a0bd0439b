"""Both leads on two conductors of one cable: a line of its own, without the soil.

The two currents are equal and opposite, so nothing goes through the soil or onto other lines. What a receiver meets at
a distance r much greater than the conductors' spacing a is the field of one long conductor that carries `I a / r`: that
share of the pair's current stands for it on the site.

References:
    [1] C. R. Paul, Analysis of Multiconductor Transmission Lines, 2nd ed. (Wiley, 2008), section 4.2: two wires.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Complex, Floats
from vessel.core.model.construction import Construction
from vessel.core.model.line import Line
from vessel.core.model.setup import Setup
from vessel.core.signal.circuit.mesh import Mesh
from vessel.core.signal.circuit.ports import Response
from vessel.core.signal.physics.conductor import internal_impedance
from vessel.core.signal.physics.earth_return import EPS0, MU0

_OPEN_OHM = 1e12
_SPACING = 2.0  # touching conductors lie two outer radii apart


@dataclass(frozen=True)
class PairParams:
    """`z` [ohm/m] round the loop and `y` [S/m] between two touching conductors at one frequency."""

    z: complex
    y: complex


def pair_params(c: Construction, *, freq_hz: float) -> PairParams:
    """Return the per-metre properties of a pair of touching conductors.

    Args:
        c: Construction of one conductor.
        freq_hz: Frequency [Hz].

    Returns:
        `2 Z_int + jw mu0/pi acosh(d/2a)` [ohm/m], d their spacing, a the metal's radius [1], and half the admittance of
        one covering [S/m]: the soil between them conducts.
    """
    w = 2 * np.pi * freq_hz
    apart = float(np.arccosh(max(spacing_m(c) / (2 * c.radius_m), 1.01)))
    z = 2 * internal_impedance(c, freq_hz=freq_hz) + 1j * w * MU0 / np.pi * apart
    leak = c.coating_s_m2 * 2 * np.pi * c.outer_radius_m
    covering = leak + 1j * w * 2 * np.pi * EPS0 * c.insulation_eps_r / np.log(c.outer_radius_m / c.radius_m)
    return PairParams(complex(z), complex(covering / 2))


def spacing_m(c: Construction) -> float:
    """Return how far apart two touching conductors lie, centre to centre.

    Args:
        c: Construction of one conductor.

    Returns:
        Spacing [m].
    """
    return _SPACING * c.outer_radius_m


class PairLine:
    """The two conductors of `line` driven at `at_m` [m], their far ends joined or open, their near ends open."""

    def __init__(self, line: Line, *, freq_hz: float, at_m: float, joined: bool) -> None:
        p = pair_params(line.construction, freq_hz=freq_hz)
        self.gamma, self.zc = complex(np.sqrt(p.z * p.y)), complex(np.sqrt(p.z / p.y))
        self.at_m, self.length_m = at_m, line.length_m
        w = 2 * np.pi * freq_hz
        # a valve's coil sits in one of the two conductors
        coils = [(a.at_m, a.solenoid.ohm + 1j * w * a.solenoid.henry) for a in line.accesses if a.solenoid is not None]
        self._forth = self._looking([c for c in coils if c[0] > at_m], joined=joined)
        back = [(2 * at_m - at, ohm) for at, ohm in coils if at <= at_m]
        self._back = self._looking(sorted(back, key=lambda c: c[0]), joined=False, end_m=2 * at_m)

    def _looking(
        self, coils: Sequence[tuple[float, complex]], *, joined: bool, end_m: float | None = None
    ) -> list[tuple[float, float, complex]]:
        """Sections (start, end [m], load at the end [ohm]) one way from the hookup, the first one first."""
        end_m = self.length_m if end_m is None else end_m
        inside = [c for c in sorted(coils, key=lambda c: c[0]) if c[0] < end_m]
        load = 0j if joined else complex(_OPEN_OHM)
        load += sum((ohm for at, ohm in coils if at >= end_m), 0j)
        edges = [self.at_m, *(at for at, _ in inside), end_m]
        found = []
        for k in range(len(edges) - 2, -1, -1):
            found.append((edges[k], edges[k + 1], load))
            load = self._input(edges[k + 1] - edges[k], load)
            if k:
                load += inside[k - 1][1]
        return found[::-1]

    def _input(self, length_m: float, load: complex) -> complex:
        t = np.tanh(self.gamma * length_m)
        return complex(self.zc * (load + self.zc * t) / (self.zc + load * t)) if length_m > 0 else load

    @property
    def ohm(self) -> complex:
        """What the transmitter sees between the two conductors [ohm]."""
        forth, back = (self._seen(s) for s in (self._forth, self._back))
        return forth * back / (forth + back)

    def _seen(self, sections: list[tuple[float, float, complex]]) -> complex:
        start, end, load = sections[0]
        return self._input(end - start, load)

    def currents(self, x_m: Floats) -> Complex:
        """Return the current in one conductor, away from the near end.

        Args:
            x_m: Distances along the line, shape (n,) [m].

        Returns:
            Per ampere of the transmitter, shape (n,); in the other it is opposite.
        """
        x = np.asarray(x_m, dtype=float)
        found = np.zeros(x.shape, dtype=np.complex128)
        ohm = self.ohm
        for sections, sign, at in ((self._forth, 1.0, x), (self._back, -1.0, 2 * self.at_m - x)):
            amps = ohm / self._seen(sections)
            mine = x >= self.at_m if sign > 0 else x < self.at_m
            for start, end, load in sections:
                here = mine & (at >= start) & (at <= end)
                found[here] = sign * amps * self._within(at[here] - start, end - start, load)
                amps *= complex(self._within(np.array([end - start]), end - start, load)[0])
        return found

    def _within(self, s: Floats, length_m: float, load: complex) -> Complex:
        """Current at `s` in a section against the one that enters it."""
        g, ratio = self.gamma, load / self.zc

        def from_end(m: Floats) -> Complex:
            return np.asarray(np.cosh(g * m) + ratio * np.sinh(g * m))

        return from_end(length_m - s) / from_end(np.array(length_m))


def on_site(
    mesh: Mesh, target: int, line: Line, setup: Setup, *, joined: bool, low_m: float
) -> tuple[Response, complex]:
    """Return what a pair puts on a site, as currents of its line that would be heard alike.

    Args:
        mesh: The site's mesh.
        target: Index of the line on it.
        line: The line.
        setup: A hookup on a pair.
        joined: Whether the far ends of the two are joined to each other.
        low_m: Height of the receiver's lower coil [m].

    Returns:
        The response per ampere of the transmitter, and what it drives into with its clips [ohm].
    """
    own = mesh.of_line(target)
    starts, ends = mesh.s_start[own], mesh.s_end[own]
    nodes = np.append(starts, ends[-1])
    at_m = float(nodes[np.abs(nodes - setup.position_m).argmin()])
    pair = PairLine(line, freq_hz=setup.freq_hz, at_m=at_m, joined=joined)
    depth = -0.5 * (mesh.nodes_m[mesh.start[own], 2] + mesh.nodes_m[mesh.end[own], 2])
    heard = spacing_m(line.construction) / (depth + low_m)
    tiny = 1e-6 * (ends - starts)  # just inside: at the hookup itself the current jumps
    into, middle, out = (heard * pair.currents(x) for x in (starts + tiny, 0.5 * (starts + ends), ends - tiny))
    amps = np.zeros(len(mesh.start), dtype=np.complex128)
    leak = np.zeros(len(mesh.nodes_m), dtype=np.complex128)
    amps[own] = middle
    np.add.at(leak, mesh.start[own], into - middle)
    np.add.at(leak, mesh.end[own], middle - out)
    none = np.zeros(0, dtype=np.complex128)
    return Response(amps, leak, none, lambda: np.zeros_like(leak)), pair.ohm + setup.clip_ohm
