"""A small network of buried wires and the field above it, with formulas of its own: nothing of core's signal model.

Wires are cut into pieces of a metre or two. Coupling is Neumann's integral against an image at Carson's complex
depth (Carson 1926: 658 sqrt(rho/f) for the return); metal leaks by potential coefficients in a half space (Sunde
1949), insulated wire through its capacitance. The field is Biot and Savart's, piece by piece.
"""

from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np

MU0 = 4e-7 * np.pi
EPS0 = 8.854e-12
STEP_M = 1.8
_GAUSS = np.array([-0.7745966692, 0.0, 0.7745966692]), np.array([5, 8, 5]) / 18


@dataclass
class Wire:
    """A wire along corners (k, 3) [m], z up; `bare` or insulated by `skin_m` over `radius_m`; ends earthed or open.

    `broken_at_m`: where it is broken, or goes on through a coil of `broken_ohm` and `broken_henry`.
    """

    name: str
    path: np.ndarray
    bare: bool = False
    radius_m: float = 1e-3
    skin_m: float = 0.8e-3
    ohm_m: float = 5e-3
    start_ohm: float | None = None
    end_ohm: float | None = None
    coating_s_m2: float = 0.0
    broken_at_m: tuple = ()
    broken_ohm: float = 1e8
    broken_henry: float = 0.0

    def __post_init__(self):
        self.path = np.asarray(self.path, dtype=float)
        self.run = np.concatenate([[0.0], np.linalg.norm(np.diff(self.path, axis=0), axis=1).cumsum()])

    @property
    def length_m(self):
        return float(self.run[-1])

    def at(self, s):
        return np.column_stack([np.interp(s, self.run, self.path[:, k]) for k in range(3)])

    def heading(self, s):
        d = self.at(np.atleast_1d(s) + 0.05) - self.at(np.atleast_1d(s) - 0.05)
        return d[:, :2] / np.linalg.norm(d[:, :2], axis=1, keepdims=True)

    def nearest(self, places):
        """Distance along and off of the point nearest to each place (n, 2), and the depth there."""
        a, run = self.path[:-1, :2], np.diff(self.path[:, :2], axis=0)
        length = np.diff(self.run)
        t = np.clip(((places[:, None] - a) * run).sum(-1) / (run**2).sum(-1), 0, 1)
        d = np.linalg.norm(places[:, None] - a - t[..., None] * run, axis=2)
        k = d.argmin(1)
        each = np.arange(len(places))
        s = self.run[k] + t[each, k] * length[k]
        return s, d[each, k], -self.at(s)[:, 2]


@dataclass
class Ground:
    """Wires, bonds (wire, at, wire, at, ohm) between them, earths (wire, at, ohm), the soil's resistivity [ohm m]."""

    wires: list
    rho: float
    bonds: list = field(default_factory=list)
    earths: list = field(default_factory=list)

    def wire(self, name):
        return next(w for w in self.wires if w.name == name)


@dataclass(frozen=True)
class Rod:
    """A rod driven into the ground at (2,) [m], which the current comes home through."""

    at: tuple
    length_m: float
    radius_m: float

    def ohms(self, rho):
        return rho / (2 * np.pi * self.length_m) * (np.log(4 * self.length_m / self.radius_m) - 1)


class Net:
    """A ground at one frequency, cut into pieces and solved for any injection; `rod`: where it comes home, if near."""

    def __init__(self, ground, freq_hz, wanted=(), rod=None):
        self.ground, self.w, self.rod = ground, 2 * np.pi * freq_hz, rod
        self.freq_hz = freq_hz
        self.nodes, starts, ends, wires, lengths = {}, [], [], [], []
        a, b, count = [], [], 0
        for k, wire in enumerate(ground.wires):
            must = [0.0, wire.length_m, *wire.run, *(at for w, at in wanted if w == wire.name)]
            must += [at for i, at, _ in ground.earths if i == wire.name]
            must += [x for i, at, j, to, _ in ground.bonds for x, n in ((at, i), (to, j)) if n == wire.name]
            must += [x for at in wire.broken_at_m for x in (at, at + 0.2)]
            must = np.unique(np.round(np.clip(must, 0, wire.length_m), 3))
            cuts = np.concatenate(
                [np.linspace(u, v, max(1, int(np.ceil((v - u) / STEP_M))) + 1)[:-1] for u, v in pairwise(must)]
                + [must[-1:]]
            )
            on = wire.at(cuts)
            for i, s in enumerate(cuts):
                self.nodes[k, round(float(s), 3)] = count + i
            starts.append(on[:-1])
            ends.append(on[1:])
            wires += [k] * (len(cuts) - 1)
            a += range(count, count + len(cuts) - 1)
            b += range(count + 1, count + len(cuts))
            lengths.append(np.diff(cuts))
            count += len(cuts)
        self.start, self.end = np.concatenate(starts), np.concatenate(ends)
        self.wire_of, self.count = np.array(wires), count
        self.a, self.b = np.array(a), np.array(b)
        self.length = np.concatenate(lengths)
        self._solve()

    def node(self, name, at):
        k = next(i for i, w in enumerate(self.ground.wires) if w.name == name)
        return min((abs(s - at), n) for (j, s), n in self.nodes.items() if j == k)[1]

    def _impedance(self):
        wires, rho, w = self.ground.wires, self.ground.rho, self.w
        t = (self.end - self.start) / self.length[:, None]
        x, g = _GAUSS
        points = 0.5 * (self.start + self.end)[:, None] + 0.5 * x[None, :, None] * (self.end - self.start)[:, None]
        n = len(t)
        away = 658.5 * np.sqrt(rho / self.freq_hz) * np.exp(-0.25j * np.pi)
        flat = points.reshape(-1, 3)
        r2 = ((flat[:, None] - flat[None]) ** 2).sum(-1)
        weight = np.outer(np.tile(g, n), np.tile(g, n)) * np.repeat(
            np.repeat(np.outer(self.length, self.length), 3, 0), 3, 1
        )
        kernel = 1 / np.sqrt(np.maximum(r2, 1e-4)) - 1 / np.sqrt(r2 + away**2)
        m = (weight * kernel).reshape(n, 3, n, 3).sum((1, 3)) * (t @ t.T)
        own = np.array([wires[k].radius_m + (0 if wires[k].bare else wires[k].skin_m) for k in self.wire_of])
        itself = 2 * self.length * (np.log(2 * self.length / own) - 1) - self.length**2 / away
        m[np.arange(n), np.arange(n)] = itself
        for i in range(n - 1):  # pieces that follow one another: their common end
            if self.wire_of[i] == self.wire_of[i + 1] and self.b[i] == self.a[i + 1]:
                u, v = self.length[i], self.length[i + 1]
                near = (u + v) * np.log(u + v) - u * np.log(u) - v * np.log(v)
                m[i, i + 1] = m[i + 1, i] = (near - u * v / away) * (t[i] @ t[i + 1])
        z = 1j * w * MU0 / (4 * np.pi) * m
        metal = np.array([wires[k].ohm_m for k in self.wire_of]) * self.length
        return z + np.diag(metal)

    def _leak(self):
        """Admittance (n, n) of all nodes to the soil and, through it, to one another [S].

        Potential coefficients of pieces in a half space (Sunde 1949), the skin of each in series.
        """
        rho, n = self.ground.rho, len(self.length)
        mid = 0.5 * (self.start + self.end)
        under = mid * np.array([1.0, 1.0, -1.0])
        straight, image = (np.linalg.norm(mid[:, None] - each[None], axis=2) for each in (mid, under))
        blur = np.maximum.outer(self.length, self.length) / 3
        p = rho / (4 * np.pi) * (1 / np.hypot(straight, blur * 0.5) + 1 / np.hypot(image, blur))
        skin = np.zeros(n, dtype=complex)
        for k, wire in enumerate(self.ground.wires):
            own = self.wire_of == k
            outer = wire.radius_m + (0 if wire.bare else wire.skin_m)
            here = np.flatnonzero(own)
            length = self.length[here]
            p[here, here] = rho / (2 * np.pi * length) * (np.log(2 * length / outer) - 1)
            p[here, here] += rho / (4 * np.pi) / np.hypot(image[here, here], length / 3)
            if not wire.bare:
                y = 1j * self.w * 2 * np.pi * 2.3 * EPS0 / np.log(1 + wire.skin_m / wire.radius_m)
                skin[here] = 1 / ((y + wire.coating_s_m2 * 2 * np.pi * outer) * length)
        to = np.zeros((self.count, n))
        to[self.a, np.arange(n)] = to[self.b, np.arange(n)] = 0.5
        if self.rod is not None:
            p, skin = self._with_rod(p, mid), np.append(skin, 0.0)
            to = np.pad(to, ((0, 1), (0, 1)))
            to[-1, -1] = 1.0
        return to @ np.linalg.inv(p + np.diag(skin)) @ to.T

    def _with_rod(self, p, mid):
        """Potential coefficients with the rod's as the last: what leaks near it has a shorter way home."""
        rod, rho = self.rod, self.ground.rho
        middle = np.array([*rod.at, -0.5 * rod.length_m])
        under = middle * np.array([1.0, 1.0, -1.0])
        mutual = rho / (4 * np.pi) * sum(1 / np.linalg.norm(mid - at, axis=1) for at in (middle, under))
        return np.block([[p, mutual[:, None]], [mutual[None], np.array([[rod.ohms(rho)]])]])

    def _solve(self):
        self.z = self._impedance()
        for k, wire in enumerate(self.ground.wires):
            for at in wire.broken_at_m:
                cut = self.a[self.wire_of == k], self.wire_of == k
                first = self.node(wire.name, at)
                i = np.flatnonzero(cut[1])[np.flatnonzero(cut[0] == first)[0]]
                self.z[i, i] += wire.broken_ohm + 1j * self.w * wire.broken_henry
        n, m = self.count + (self.rod is not None), len(self.a)
        inc = np.zeros((n, m))
        inc[self.a, np.arange(m)], inc[self.b, np.arange(m)] = 1.0, -1.0
        self.inc, self.zi = inc, np.linalg.inv(self.z)
        y = inc @ self.zi @ inc.T
        y = y + self._leak()
        for wire in self.ground.wires:
            for at, ohm in ((0.0, wire.start_ohm), (wire.length_m, wire.end_ohm)):
                if ohm is not None:
                    i = self.node(wire.name, at)
                    y[i, i] += 1 / ohm
        for name, at, ohm in self.ground.earths:
            i = self.node(name, at)
            y[i, i] += 1 / ohm
        for i, at, j, to, ohm in self.ground.bonds:
            p, q = self.node(i, at), self.node(j, to)
            for u, v, sign in ((p, p, 1), (q, q, 1), (p, q, -1), (q, p, -1)):
                y[u, v] += sign / max(ohm, 1e-3)
        self.y = y + 1e-12 * np.eye(n)

    def direct(self, name, at):
        """Currents of every piece per ampere into a wire, and the ohms seen: with the rod's, or to far away."""
        j = np.zeros(len(self.y), dtype=complex)
        i = self.node(name, at)
        j[i] = 1.0
        if self.rod is not None:
            j[-1] = -1.0
        v = np.linalg.solve(self.y, j)
        return self.zi @ (self.inc.T @ v), v @ j

    def by_emf(self, emf):
        """Currents of every piece under EMFs [V] along the pieces."""
        v = np.linalg.solve(self.y, -self.inc @ (self.zi @ emf))
        return self.zi @ (self.inc.T @ v + emf)

    def coil(self, at, axis, moment):
        """EMF along each piece of a coil at a place (3,), its moment along the unit vector `axis`."""
        mid, t = 0.5 * (self.start + self.end), self.end - self.start
        r = mid - at
        a = (
            MU0
            / (4 * np.pi)
            * moment
            * np.cross(np.broadcast_to(axis, r.shape), r)
            / np.linalg.norm(r, axis=1, keepdims=True) ** 3
        )
        return -1j * self.w * (a * t).sum(1)

    def current_on(self, amps, name, s):
        return np.abs(self.phasor_on(amps, name, s))

    def phasor_on(self, amps, name, s):
        k = next(i for i, w in enumerate(self.ground.wires) if w.name == name)
        own = np.flatnonzero(self.wire_of == k)
        middles = np.cumsum(self.length[own]) - 0.5 * self.length[own]
        return np.interp(s, middles, amps[own])

    def field(self, points, amps):
        """Biot and Savart's field (p, 3) at points (p, 3) of straight pieces that carry `amps`."""
        t = (self.end - self.start) / self.length[:, None]
        r = points[:, None] - self.start[None]
        s = (r * t).sum(-1)
        off = np.cross(np.broadcast_to(t, r.shape), r)
        rho2 = np.maximum((off**2).sum(-1), 1e-8)
        rest = self.length - s
        ends = rest / np.sqrt(rest**2 + rho2) + s / np.sqrt(s**2 + rho2)
        return ((MU0 / (4 * np.pi) * ends / rho2 * amps)[..., None] * off).sum(1)
