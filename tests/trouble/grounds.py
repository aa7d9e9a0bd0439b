"""Kinds of ground: a line that is right, and what makes a clean field somewhere else. Seeded; what Vessel is told of
each stands beside what is really there."""

from dataclasses import dataclass, replace

import numpy as np

from tests.trouble.network import Ground, Wire
from vessel.core.model.construction import PRESETS
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil

FREQS = (4480.0, 8960.0, 35840.0)
TARGET = "target"
_PLANT = {
    "wire": ("tracer_wire", "tracer_wire_clad"),
    "cable": ("armoured_cable",),
    "pipe": ("coated_steel_pipe", "bare_copper_service"),
}


@dataclass
class Truth:
    """What is in the ground, and what was entered of it."""

    kind: str
    ground: Ground
    line: Line
    soil: Soil
    setup: Setup
    coil: tuple | None = None  # where the coil really stands
    returns: tuple = ()  # a line that the stake's current goes home through, and how much of it
    taken_off: frozenset = frozenset()  # lines that were bonded, each with the end at which the bond is kept open


def wire_of(preset, name, path, freq, *, start=None, end=None, broken=()):
    c = PRESETS[preset].construction
    delta = np.sqrt(2 / (2 * np.pi * freq * 4e-7 * np.pi * c.rel_permeability * c.conductivity_s_m))
    wall = min(delta, c.wall_m or c.radius_m)
    ohm = 1 / (c.conductivity_s_m * 2 * np.pi * c.radius_m * min(wall, c.radius_m / 2))
    return Wire(
        name, path, c.bare, c.radius_m, max(c.insulation_m, 1e-4), ohm, start, end, c.coating_s_m2, tuple(broken)
    )


def along(length, depth, off=0.0, start=0.0):
    return np.array([[start, off, -depth], [length, off, -depth]])


class Maker:
    """Draws what is common to every kind, and lays wires."""

    def __init__(self, seed, kind):
        self.rng = np.random.default_rng([seed, KINDS.index(kind)])
        rng = self.rng
        self.kind, self.length = kind, float(rng.uniform(45, 120))
        self.depth = float(rng.uniform(0.6, 1.6))
        self.freq = float(rng.choice(FREQS[:2] if rng.random() < 0.75 else FREQS))
        self.plant = str(rng.choice(list(_PLANT)))
        self.preset = str(rng.choice(_PLANT[self.plant]))
        self.rho = float(10 ** rng.uniform(1.4, 2.6))
        self.side = float(rng.choice([-1.0, 1.0]))
        self.far_ohm = None if rng.random() < 0.3 and self.plant == "wire" else float(rng.uniform(8, 60))
        self.told_far = "unknown" if rng.random() < 0.3 else "open" if self.far_ohm is None else "earthed"
        self.near_ohm = None
        self.wires, self.bonds, self.told, self.broken = [], [], [], ()
        self.method, self.coil, self.target_path, self.returns = "direct", None, None, ()

    def off(self, low=0.7, high=1.3):
        return self.side * float(self.rng.uniform(low, high))

    def lay(self, name, off, *, preset=None, depth=None, start=-20.0, end=None, ohms=(15.0, 15.0), told=None):
        """Lay a line beside; `told`: (offset, depth, ohms) as it is entered, None if it is not."""
        depth = self.depth * float(self.rng.uniform(0.85, 1.15)) if depth is None else depth
        end = self.length + 20.0 if end is None else end
        preset = preset or self.preset
        self.wires.append(wire_of(preset, name, along(end, depth, off, start), self.freq, start=ohms[0], end=ohms[1]))
        if told is not None:
            off_told, depth_told, bond = told
            self.told.append(
                Neighbour(
                    name, PRESETS[preset].construction, off_told, start, end, depth_told, ohms[0], ohms[1], bond_m=bond
                )
            )

    def twin(self, off, *, near=True, far=True, preset=None, depth=None, far_ohm=15.0, name="twin"):
        """A cable of the same cabinets, bonded where it says."""
        depth = self.depth * float(self.rng.uniform(0.9, 1.1)) if depth is None else depth
        path = [[0.0, off, -depth], [self.length, off, -depth]]
        ohms = (None if near else 15.0, None if far else far_ohm)
        self.wires.append(wire_of(preset or self.preset, name, path, self.freq, start=ohms[0], end=ohms[1]))
        for here, at in ((near, 0.0), (far, self.length)):
            if here:
                self.bonds.append((TARGET, at, name, at, 0.02))

    def truth(self):
        path = along(self.length, self.depth) if self.target_path is None else self.target_path
        target = wire_of(
            self.preset, TARGET, path, self.freq, start=self.near_ohm, end=self.far_ohm, broken=self.broken
        )
        spread = float(self.rng.uniform(0.15, 0.4))
        low, high = self.depth * (1 - spread), self.depth * (1 + spread)
        line = Line(
            PRESETS[self.preset].construction,
            round(self.length, 1),
            round(low, 2),
            round(high, 2),
            near=AccessPoint(earth_ohm=self.near_ohm),
            far=FarEnd(self.told_far, 20.0),
            neighbours=tuple(self.told),
        )
        soil = Soil(float(self.rho * np.exp(self.rng.normal(0, 0.5))))
        at = 0.0 if self.method == "direct" else 6.0
        setup = Setup(self.method, self.freq, 0.06 if self.method == "direct" else 0.12, Stake(), position_m=at)
        ground = Ground([target, *self.wires], self.rho, self.bonds)
        return Truth(self.kind, ground, line, soil, setup, self.coil, self.returns)


def lone(m):
    pass


def known_beside(m):
    off = m.off(1.2, 3.0)
    m.lay("known", off, depth=1.0, ohms=(20.0, 20.0), told=(off, 1.0, None))


def known_two(m):
    for name, side in (("known", 1), ("other", -1)):
        off = side * float(m.rng.uniform(1.0, 4.0))
        m.lay(name, off, depth=1.0, ohms=(20.0, 20.0), told=(off, 1.0, None))


def twin_both(m):
    m.twin(m.off())


def twin_both_wide(m):
    m.twin(m.off(1.3, 2.4))


def twin_near(m):
    m.twin(m.off(), far=False)


def twin_far(m):
    m.twin(m.off(), near=False)


def twin_bare(m):
    m.twin(m.off(0.6, 1.6), preset="bare_copper_service")


def three_twins(m):
    m.twin(m.off(0.6, 1.0))
    m.twin(-m.off(0.6, 1.0), name="twin 2")


def parallel(m):
    m.lay("unknown", m.off(0.5, 2.0), ohms=(10.0, 10.0))


def parallel_bare(m):
    m.lay("unknown", m.off(0.5, 1.5), preset="jointed_iron_main" if m.rng.random() < 0.3 else "bare_copper_service")


def leaves(m):
    at, turn = float(m.rng.uniform(8, 0.5 * m.length)), m.side * np.radians(m.rng.uniform(12, 40))
    rest = m.length - at + 10
    path = [[at, 0, -m.depth], [at + rest * np.cos(turn), rest * np.sin(turn), -m.depth]]
    m.wires.append(wire_of(m.preset, "branch", path, m.freq, end=float(m.rng.uniform(3, 15))))
    m.bonds.append((TARGET, at, "branch", 0.0, 0.02))
    if m.plant == "wire" or m.rng.random() < 0.5:
        m.far_ohm = None
        m.told_far = "unknown"


def lateral(m):
    """A tee the target goes on from: a drop of current that is no trouble."""
    at = float(m.rng.uniform(15, 0.6 * m.length))
    path = [[at, 0, -m.depth], [at, m.side * 20, -m.depth]]
    m.wires.append(wire_of(m.preset, "branch", path, m.freq, end=40.0))
    m.bonds.append((TARGET, at, "branch", 0.0, 0.02))
    m.far_ohm, m.told_far = 10.0, "earthed"


def coil_over_other(m):
    m.freq = FREQS[-1]
    m.method, off = "induction", m.off(0.8, 2.3)
    m.lay("other", off)
    m.far_ohm, m.near_ohm, m.told_far = 20.0, 20.0, "earthed"
    m.coil = (6.0, off)


def coil_between(m):
    m.freq = FREQS[-1]
    m.method, off = "induction", m.off(1.0, 2.0)
    m.lay("other", off)
    m.far_ohm, m.near_ohm, m.told_far = 20.0, 20.0, "earthed"
    m.coil = (6.0, 0.5 * off)


def coil_alone(m):
    m.freq, m.method = FREQS[-1], "induction"
    m.far_ohm, m.near_ohm, m.told_far = 20.0, 20.0, "earthed"
    m.coil = (6.0, 0.0)


def broken_twin(m):
    m.broken = (float(m.rng.choice([2.0, 5.0, 15.0])),)
    m.twin(m.off())


def known_bonded_far(m):
    off = m.off(0.7, 0.9)
    m.lay("known", off, depth=m.depth, start=0.0, end=m.length, ohms=(15.0, None), told=(off, m.depth, m.length))
    m.bonds.append((TARGET, m.length, "known", m.length, 0.02))
    m.told[-1] = replace(m.told[-1], bond_m=m.told[-1].end_m)


def known_nearer(m):
    off = m.off(0.7, 1.2)
    m.lay("known", off, depth=1.0, ohms=(6.0, 6.0), told=(2.0 * off, 1.0, None))


def known_deeper(m):
    off = m.off(0.7, 1.2)
    m.lay("known", off, depth=1.9, ohms=(6.0, 6.0), told=(off, 0.9, None))


def stops_short(m):
    """The target ends early; another line that is bonded there goes on beside it."""
    end = 0.55 * m.length
    m.target_path = along(end, m.depth)
    path = [[end, 0.0, -m.depth], [end + 1.0, m.off(0.7, 1.2), -m.depth], [m.length + 10, m.off(0.7, 1.2), -m.depth]]
    m.wires.append(wire_of(m.preset, "goes on", path, m.freq, end=10.0))
    m.bonds.append((TARGET, end, "goes on", 0.0, 0.02))
    m.far_ohm = None


def stake_by_other(m):
    """The stake stands beside a line that carries the return along the target."""
    m.lay("return", m.off(1.0, 2.0), start=0.0, ohms=(4.0, 4.0), preset="bare_copper_service")
    m.returns = ("return", 0.6)


def far_not_as_told(m):
    m.far_ohm = None if m.far_ohm is not None else 15.0


def soil_off(m):
    m.rho = float(m.rng.choice([15.0, 700.0]))


def crossing(m):
    at = float(m.rng.uniform(0.3, 0.7)) * m.length
    m.wires.append(
        wire_of("bare_copper_service", "crossing", [[at, -25, -0.5], [at + 3, 25, -0.5]], m.freq, start=10, end=10)
    )


def twin_crosses(m):
    """A bonded twin that changes sides on the way."""
    off, mid = m.off(), 0.5 * m.length
    path = [[0, off, -m.depth], [mid - 4, off, -m.depth], [mid + 4, -off, -m.depth * 1.25], [m.length, -off, -m.depth]]
    m.wires.append(wire_of(m.preset, "twin", path, m.freq))
    m.bonds += [(TARGET, 0.0, "twin", 0.0, 0.02), (TARGET, m.length, "twin", m.length_of(path), 0.02)]


def twin_below(m):
    """A bonded twin in the same trench, under the line."""
    m.twin(m.side * float(m.rng.uniform(0.0, 0.2)), depth=m.depth * float(m.rng.uniform(1.2, 1.6)))


Maker.length_of = staticmethod(
    lambda p: float(np.linalg.norm(np.diff(np.asarray(p, dtype=float), axis=0), axis=1).sum())
)

_ALL = (
    lone, known_beside, known_two, twin_both, twin_both_wide, twin_near, twin_far, twin_bare, three_twins, parallel,
    parallel_bare, leaves, lateral, coil_over_other, coil_between, coil_alone, broken_twin, known_bonded_far,
    known_nearer, known_deeper, stops_short, stake_by_other, far_not_as_told, soil_off, crossing, twin_crosses,
    twin_below,
)  # fmt: skip
KINDS = [f.__name__ for f in _ALL]


def truth_of(seed, kind):
    m = Maker(seed, kind)
    _ALL[KINDS.index(kind)](m)
    return m.truth()
