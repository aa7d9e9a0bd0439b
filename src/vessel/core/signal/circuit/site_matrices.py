"""The impedances of a site at one frequency: along every branch, between lines, and from every node to the soil."""

from __future__ import annotations

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index
from vessel.core.base.cached import lazy
from vessel.core.model.network import Feature, Site
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.shared_geometry import SiteGeometry
from vessel.core.signal.physics.line_parameters import LineParams, line_params

BREAK_OHM = 1e9


class SiteMatrices:
    """The impedances of a site at `freq_hz` [Hz], in its own soil or in `soil`; each worked out when it is wanted."""

    def __init__(self, geometry: SiteGeometry, *, freq_hz: float, soil: Soil | None = None) -> None:
        self.geometry, self.mesh, self.freq_hz = geometry, geometry.mesh, freq_hz
        self.site: Site = self.mesh.site
        self.soil = soil or self.site.soil

    @lazy
    def params(self) -> tuple[LineParams | None, ...]:
        """Return the per-metre properties of each line at its mean depth.

        Returns:
            One for each line; None without metal.
        """
        return tuple(
            None
            if line.construction is None
            else line_params(
                line.construction,
                self.soil,
                freq_hz=self.freq_hz,
                depth_m=float(-np.average(self._mid_heights(i), weights=self.mesh.lengths_m[self.mesh.of_line(i)])),
            )
            for i, line in enumerate(self.site.lines)
        )

    def _mid_heights(self, line: int) -> Floats:
        own = self.mesh.of_line(line)
        z = self.mesh.nodes_m[:, 2]
        return np.asarray(0.5 * (z[self.mesh.start[own]] + z[self.mesh.end[own]]))

    @lazy
    def sections(self) -> tuple[Complex, Complex, Floats]:
        """Return the equivalent-pi section of each metal branch.

        sinh(g)/g and tanh(g/2)/(g/2) make a uniform piece exact at any length.

        Returns:
            Series impedance (w,) [ohm], half shunt (w,) [S] and half soil resistance (w,) [ohm].
        """
        series, shunt = np.zeros((2, self.mesh.metal), dtype=np.complex128)
        soil = np.zeros(self.mesh.metal)
        for i, p in enumerate(self.params):
            if p is None:
                continue
            own = self.mesh.of_line(i)
            dl = self.mesh.lengths_m[own]
            g = p.gamma * dl
            series[own] = p.z * dl * np.sinh(g) / g + self._joint_ohms(i, own)
            shunt[own] = 0.5 * p.y * dl * np.tanh(g / 2) / (g / 2)
            soil[own] = 1 / (0.5 * abs(p.y_soil) * dl)
        for branch, i, k in self.mesh.features:
            series[branch] += self._feature_ohm(self.site.lines[i].features[k])
        return series, shunt, soil

    def _joint_ohms(self, i: int, own: Index) -> Complex:
        c = self.site.lines[i].construction
        if c is None or c.joint_spacing_m <= 0 or c.joint_ohm <= 0:
            return np.zeros(len(own), dtype=np.complex128)
        each = 1 / (1 / c.joint_ohm + 2j * np.pi * self.freq_hz * c.joint_f)
        # joints at spacing, 2 spacing, ...: counted up to each node so none is lost or doubled by the mesh
        s = np.append(self.mesh.s_start[own], self.mesh.s_end[own][-1])
        upto = np.floor((s + 1e-9) / c.joint_spacing_m)
        return np.asarray(np.diff(upto) * each, dtype=np.complex128)

    def _feature_ohm(self, f: Feature) -> complex:
        w = 2 * np.pi * self.freq_hz
        if f.kind == "break":
            return f.ohm or BREAK_OHM
        if f.kind == "solenoid":
            return f.ohm + 1j * w * f.henry
        if f.ohm == 0:
            return 0j
        return 1 / (1 / f.ohm + 1j * w * f.farad)

    @lazy
    def node_shunt(self) -> Complex:
        """Return the admittance of each node to remote soil, through insulation.

        Returns:
            Admittance, shape (n,) [S].
        """
        _, half, _ = self.sections
        w, y = self.mesh.metal, np.zeros(len(self.mesh.nodes_m), dtype=np.complex128)
        np.add.at(y, self.mesh.start[:w], half)
        np.add.at(y, self.mesh.end[:w], half)
        return y

    @lazy
    def soil_ohm(self) -> Floats:
        """Return the resistance of each node's own way into remote soil, without insulation.

        Returns:
            Resistance, shape (n,) [ohm].
        """
        _, _, half = self.sections
        w, siemens = self.mesh.metal, np.zeros(len(self.mesh.nodes_m))
        np.add.at(siemens, self.mesh.start[:w], 1 / half)
        np.add.at(siemens, self.mesh.end[:w], 1 / half)
        earth = self.mesh.earth_ohm
        return np.where(np.isnan(earth), 1 / np.maximum(siemens, 1e-30), earth)

    @lazy
    def potentials(self) -> Complex:
        """Return the impedance from nodes to remote soil.

        Returns:
            P, shape (n, n) [ohm].
        """
        p = self.geometry.paths.at(self.soil, freq_hz=self.freq_hz, self_a=self.soil_ohm, self_b=self.soil_ohm)
        earth = self.mesh.earth_ohm
        metal = np.isnan(earth)
        own = np.where(metal, 0, earth).astype(np.complex128)
        own[metal] = 1 / self.node_shunt[metal]
        p[np.diag_indices_from(p)] = own
        return p

    @lazy
    def series(self) -> Complex:
        """Return the series impedance of all branches.

        Returns:
            Z, shape (m, m) [ohm]: sections and links on the diagonal, coupling between lines off it.
        """
        z = self.geometry.coupling.at(self.soil, freq_hz=self.freq_hz)
        z[np.diag_indices_from(z)] = np.concatenate([self.sections[0], self.mesh.link_ohm])
        return z

    @lazy
    def gammas(self) -> Complex:
        """Return the propagation constant of each line.

        Returns:
            Constant, shape (l,) [1/m]; NaN without metal.
        """
        none = complex("nan")
        return np.array([none if p is None else p.gamma for p in self.params])
