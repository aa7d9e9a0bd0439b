"""Cables with ground faults, made without core's frame: soil in two layers, leaks along the way, a hand that wobbles.

The potential of a point current in two layers is the series of images of Tagg (Earth Resistances, 1964): each weaker by
the reflection at the layer's bottom, two thicknesses deeper.
"""

import itertools
from dataclasses import dataclass

import numpy as np

from vessel.core.model.fault_walk import EARTHS_OFF, FAULT_STEPS, FaultWalk, FrameReading

KINDS = ("one", "two", "three", "none")
HELD_BACK = ("two layers", "not straight", "far earth on")


@dataclass(frozen=True)
class Cable:
    """A cable with its faults as they are (place, share of what leaves at faults), and what the walk brought."""

    kind: str
    length_m: float
    faults: tuple
    leak: float
    walk: FaultWalk
    readings: tuple
    depth_range_m: tuple


def potential(at, sources, *, layer_m=None, reflection=0.0):
    """Return the potential (p,) at places (p, 2) of sources (x, y, depth, current), times 2 pi / rho."""
    found = np.zeros(len(at))
    for x, y, depth, amps in sources:
        r2 = ((at - (x, y)) ** 2).sum(1)
        found += amps / np.sqrt(r2 + depth**2)
        for n in range(1, 12 if layer_m else 0):
            for z in (2 * n * layer_m - depth, 2 * n * layer_m + depth):
                found += amps * reflection**n / np.sqrt(r2 + z**2)
    return found


def cable(kind, seed):
    """Return a cable, walked from end to end."""
    rng = np.random.default_rng([seed, [*KINDS, *HELD_BACK].index(kind), 7])
    length = rng.uniform(30, 160)
    depth = rng.uniform(0.45, 1.2)
    count = {"one": 1, "two": 2, "three": 3, "none": 0}.get(kind, 1)
    at = _places(rng, length, count)
    amps = rng.uniform(0.4, 1.0, count)
    leak = rng.uniform(0.0, 0.15) * (amps.sum() or 1.0) if kind != "none" else 1.0
    if kind == "far earth on":
        at, amps = [*at, length], [*amps, 3.0]
    sources = [(x, 0.0, depth, a) for x, a in zip(at, amps, strict=True)]
    sources += [(x, 0.0, depth, leak / 60) for x in np.linspace(0.5, length - 0.5, 60)]
    stake_along, stake_away = rng.uniform(-12, 0), rng.uniform(6, 15)
    whole = sum(s[3] for s in sources)
    sources.append((stake_along, stake_away, 0.2, -whole))
    layer = (rng.uniform(0.8, 2.5), rng.uniform(-0.6, 0.6)) if kind == "two layers" else (None, 0.0)
    bend = rng.uniform(-0.5, 0.5) if kind == "not straight" else 0.0  # the walk is beside the cable by so much
    frame = rng.choice([0.5, 0.6, 1.0])
    gain = 10 ** rng.uniform(0, 3)
    noise = rng.uniform(0.002, 0.01)

    def volts(x, y=0.0, heading=(1.0, 0.0)):
        x, y = np.atleast_1d(x), np.atleast_1d(y)
        d = 0.5 * frame * np.array(heading)
        mid = np.column_stack([x, y + np.zeros(len(x))])
        ahead, behind = (potential(mid + s * d, sources, layer_m=layer[0], reflection=layer[1]) for s in (1, -1))
        return (ahead - behind) + noise * rng.normal(size=len(x))

    def reading(x, across=False):
        v = float(volts(x, bend)[0]) * np.exp(rng.normal(0, 0.08))
        null = abs(v) < 1.5 * noise
        side = ""
        if across:
            w = float(volts(x, bend, (0.0, 1.0))[0])
            side = "null" if abs(w) < 0.15 * top else "left" if w > 0 else "right"
        return FrameReading(
            float(round(max(x + rng.normal(0, 0.05), 0.0), 2)),
            "null" if null else "on" if v > 0 else "back",
            None if null else gain * abs(v),
            side,
        )

    pace = rng.uniform(1.6, 2.6)
    coarse = [reading(x) for x in np.arange(1.0, length - 0.5, pace)]
    top = max((abs(r.level) / gain for r in coarse if r.level), default=1.0)
    found = list(coarse)
    for a, b in itertools.pairwise(coarse):
        if a.arrow == "on" and b.arrow != "on":  # back in small steps where it flips
            found += [reading(x) for x in np.arange(a.distance_m - 0.6, b.distance_m + 0.9, 0.4)]
            near = sorted((r for r in found if abs(r.distance_m - a.distance_m) < pace + 1), key=lambda r: r.distance_m)
            over = next(
                (r.distance_m for r, s in itertools.pairwise(near) if r.arrow == "on" and s.arrow != "on"),
                a.distance_m,
            )
            found.append(reading(over + 0.2, across=True))
    at_stake = potential(np.array([[0.5 + frame, 0.0], [0.5, 0.0]]), [(0.0, 0.0, 0.2, whole)])
    ohms = 10 ** rng.uniform(2.5, 4.5) if kind != "none" else 10 ** rng.uniform(4.5, 6.5)
    walk = FaultWalk(
        560.0,
        volts=30.0,
        amps=30.0 / ohms,
        frame_m=float(frame),
        stake_along_m=float(stake_along),
        stake_away_m=float(stake_away),
        reference=gain * float(at_stake[1] - at_stake[0]) * float(np.exp(rng.normal(0, 0.1))),
        done=tuple(s for s in FAULT_STEPS if not (kind == "far earth on" and s == EARTHS_OFF[1])),
    )
    seen = {r.distance_m: r for r in found}
    faults = tuple(zip(at, np.array(amps) / sum(amps), strict=True)) if count else ()
    spread = rng.uniform(0.75, 0.95)
    return Cable(kind, length, faults, leak, walk, tuple(seen.values()), (depth * spread, depth / spread))


def _places(rng, length, count):
    while True:
        at = np.sort(rng.uniform(4, length - 3, count))
        if count < 2 or np.diff(at).min() > 5:
            return at.tolist()
