"""One buried line as a chain of short branches, with its ports: near end, far end, any EMF along it.

The far end is left open in the factorised network and closed through its port, so that "far end earthed"
costs one division instead of another factorisation.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.signal.line_params import LineParams, line_params
from vessel.core.signal.network import Complex, Network

BREAK_OHM = 1e9
MAX_NODES = 1500
"""Cap on the mesh of one line; sections are exact for a uniform piece, so only the field gets coarser."""
Floats = NDArray[np.float64]


@dataclass(frozen=True)
class LineFault:
    """Something wrong at `at_m` [m]: a break (huge series resistance) or an earth fault of `ohm` [ohm]."""

    kind: Literal["break", "earth_fault"]
    at_m: float
    ohm: float = BREAK_OHM


@dataclass(frozen=True)
class Response:
    """Answer of the line to one source: node volts (n,) [V], branch currents (n-1,) [A], far-earth current [A]."""

    volts: Complex
    amps: Complex
    far_amps: complex


def mesh(
    length_m: float, *, gamma_max: float = 0.0, fine_at: tuple[float, ...] = (0.0,), step_m: float = 0.0
) -> Floats:
    """Return node positions (n,) [m] from 0 to `length_m`.

    Steps are at most a 120th of the line and 5 m, a quarter of 1/|gamma| for the largest `gamma_max` [1/m],
    and graded down to a 0.25 m step around every `fine_at` [m]; `step_m` > 0 forces a uniform step.
    """
    if step_m > 0:
        return np.linspace(0.0, length_m, max(2, round(length_m / step_m) + 1))
    base = min(5.0, max(length_m / 120, 0.25))
    if gamma_max > 0:
        base = min(base, max(0.25 / gamma_max, 0.05))
    nodes = [0.0]
    while nodes[-1] < length_m:
        near = min(abs(nodes[-1] - f) for f in fine_at)
        nodes.append(nodes[-1] + min(base, 0.25 + 0.15 * near))
    points = np.asarray(nodes)
    points *= length_m / points[-1]
    if len(points) > MAX_NODES:
        points = np.interp(np.linspace(0, len(points) - 1, MAX_NODES), np.arange(len(points)), points)
    return np.asarray(points)


class LineCircuit:
    """The circuit of `line` in `soil` at `freq_hz` [Hz] on nodes `x_m` (n,) [m], with optional faults."""

    def __init__(
        self,
        line: Line,
        soil: Soil,
        *,
        freq_hz: float,
        x_m: Floats | None = None,
        depth_m: float | None = None,
        faults: tuple[LineFault, ...] = (),
    ) -> None:
        self.line, self.soil, self.freq_hz = line, soil, freq_hz
        self.depth_m = line.mid_depth_m if depth_m is None else depth_m
        self.params: LineParams = line_params(line.construction, soil, freq_hz=freq_hz, depth_m=self.depth_m)
        self.x_m = mesh(line.length_m, gamma_max=abs(self.params.gamma)) if x_m is None else x_m
        self.mid_m = 0.5 * (self.x_m[1:] + self.x_m[:-1])
        self._faults = faults

    @cached_property
    def network(self) -> Network:
        """The nodal network: equivalent-pi sections, joints and faults lumped in, far end open."""
        dl = np.diff(self.x_m)
        g = self.params.gamma * dl
        # lumped Z'dl and Y'dl/2 with the factors that make a uniform piece exact at any length
        z = self.params.z * dl * np.sinh(g) / g
        half = 0.5 * self.params.y * dl * np.tanh(g / 2) / (g / 2)
        y = np.zeros(len(self.x_m), dtype=np.complex128)
        y[:-1] += half
        y[1:] += half
        z = z + self._joint_ohms()
        for node, ohm in self.concentrated_earths().items():
            y[node] += 1 / ohm
        for fault in self._faults:
            if fault.kind == "break":
                z[self.branch_at(fault.at_m)] += fault.ohm
        n = np.arange(len(self.x_m))
        return Network(n[:-1], n[1:], z, y)

    def concentrated_earths(self) -> dict[int, float]:
        """Return the earths lumped at nodes (node: ohm): the near end's bond and earth faults."""
        siemens: dict[int, float] = {}
        if self.line.near.earth_ohm is not None:
            siemens[0] = 1 / self.line.near.earth_ohm
        for fault in self._faults:
            if fault.kind == "earth_fault":
                node = int(np.argmin(np.abs(self.x_m - fault.at_m)))
                siemens[node] = siemens.get(node, 0.0) + 1 / fault.ohm
        return {node: 1 / s for node, s in siemens.items()}

    def _joint_ohms(self) -> Complex:
        c = self.line.construction
        if c.joint_spacing_m <= 0 or c.joint_ohm <= 0:
            return np.zeros(len(self.mid_m), dtype=np.complex128)
        w = 2 * np.pi * self.freq_hz
        each = 1 / (1 / c.joint_ohm + 1j * w * c.joint_f)
        # joints at spacing, 2 spacing, ...: counted up to each node so none is lost or doubled by the mesh
        upto = np.floor((self.x_m + 1e-9) / c.joint_spacing_m)
        return np.asarray(np.diff(upto) * each, dtype=np.complex128)

    def branch_at(self, at_m: float) -> int:
        """Return the index of the branch that holds position `at_m` [m]."""
        return int(np.clip(np.searchsorted(self.x_m, at_m) - 1, 0, len(self.mid_m) - 1))

    @cached_property
    def _far_port(self) -> tuple[Complex, Complex]:
        inject = np.zeros((len(self.x_m), 1), dtype=np.complex128)
        inject[-1] = 1.0
        volts, amps = self.network.solve(inject, np.zeros((len(self.mid_m), 1), dtype=np.complex128))
        return volts[:, 0], amps[:, 0]

    def respond(self, *, injected: Complex | None = None, emf: Complex | None = None) -> Response:
        """Return the open-far-end response to node injections (n,) [A] and/or branch EMFs (n-1,) [V]."""
        i = np.zeros(len(self.x_m), dtype=np.complex128) if injected is None else injected
        e = np.zeros(len(self.mid_m), dtype=np.complex128) if emf is None else emf
        volts, amps = self.network.solve(i[:, None], e[:, None])
        return Response(volts[:, 0], amps[:, 0], 0j)

    def close_far(self, r: Response, far_ohm: float | None) -> Response:
        """Return `r` with the far end earthed through `far_ohm` [ohm]; None leaves it open."""
        if far_ohm is None:
            return r
        volts, amps = self._far_port
        out = r.volts[-1] / (far_ohm + volts[-1])
        return Response(r.volts - out * volts, r.amps - out * amps, complex(out))
