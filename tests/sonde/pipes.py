"""Sonde runs made without core's dipole or fit: pipes, heads that tilt and yaw, iron round them, a hand that wobbles.

Field by the vector formula of a dipole, `3 (m.r) r / r^5 - m / r^3`, summed over the pieces of what carries the flux.
"""

from dataclasses import dataclass

import numpy as np

from vessel.core.model.sonde import SondeRun, SondeStop

LOW, HIGH = 0.05, 0.45
START_M = 20.0
KINDS = ("plain", "line mode", "iron", "corner")
HELD_BACK = ("mesh over it", "off to the side", "yawed")


@dataclass(frozen=True)
class Stop:
    """One stop as it is and as it was read: the head at `x` [m], `depth` of the pipe there [m]; in which mode."""

    x: float
    depth: float
    in_line_mode: bool
    read: SondeStop


@dataclass(frozen=True)
class Run:
    """A run of one kind; `corner_after`: index of the stop after which the pipe turns, None if it is straight;
    `iron_known`: that there is iron round the pipe stands on the line."""

    kind: str
    run: SondeRun
    stops: tuple
    depth_range_m: tuple
    fall: float
    corner_after: int | None
    iron_known: bool


def field(points, heads, moments):
    """Return the field (p, 3) of dipoles (d, 3) with their moments (d, 3), in units of mu0 / (4 pi)."""
    r = points[:, None, :] - heads[None, :, :]
    dist = np.linalg.norm(r, axis=-1, keepdims=True)
    along = (r * moments).sum(-1, keepdims=True)
    return (3 * along * r / dist**5 - moments / dist**3).sum(1)


def run_of(kind, seed):
    """Return a run with everything that was read on it."""
    rng = np.random.default_rng([seed, [*KINDS, *HELD_BACK].index(kind)])
    depth0, fall = rng.uniform(0.6, 3.0), rng.uniform(0.0, 0.03)
    at = START_M + np.cumsum(rng.uniform(1.5, 4.0, rng.integers(4, 8)))
    check_m = 1.0
    noise = 10 ** rng.uniform(-4.0, -2.6)  # against the field at 1 m
    corner = int(rng.integers(1, len(at) - 1)) if kind == "corner" else None
    wrong_from = 0 if kind == "line mode" and rng.random() < 0.5 else int(rng.integers(0, len(at)))
    stops, rod = [], 0.0
    for k, x in enumerate(at):
        rod += (x - (at[k - 1] if k else START_M)) * (
            1.0 if corner is None or k != corner + 1 else 1 / np.cos(np.radians(50))
        )
        depth = depth0 + fall * (x - START_M)
        line_mode = kind == "line mode" and k >= wrong_from
        tilt = rng.normal(0, 3) if rng.random() < 0.85 else rng.uniform(-30, 30)
        read = _read(rng, kind, x, depth, np.radians(tilt), noise, line_mode=line_mode, rod=rod)
        stops.append(Stop(x, depth, line_mode, read))
    run = SondeRun(560.0, start_m=START_M, check_m=check_m, check_signal=100 / check_m**3)
    spread = rng.uniform(0.7, 0.95)
    return Run(
        kind,
        run,
        tuple(stops),
        (depth0 * spread, (depth0 + fall * (at[-1] - START_M)) / spread),
        fall,
        corner,
        kind == "iron" and rng.random() < 0.5,
    )


def _iron(rng, kind):
    """Half length of the iron that carries the flux along [m], and what is left of the signal."""
    return (rng.uniform(0.1, 0.8), 10 ** rng.uniform(-1.5, -0.1)) if kind == "iron" else (0.0, 1.0)


def _read(rng, kind, x, depth, tilt, noise, *, line_mode, rod):
    long_m, left = _iron(rng, kind)
    yaw = np.radians(rng.uniform(15, 40)) if kind == "yawed" else 0.0
    aside = rng.uniform(0.1, 0.35) * depth if kind == "off to the side" else 0.0
    axis = np.array([np.cos(tilt) * np.cos(yaw), np.cos(tilt) * np.sin(yaw), np.sin(tilt)])
    pieces = np.linspace(-long_m, long_m, 1 if long_m == 0 else 9)
    heads = np.array([x, 0.0, -depth]) + pieces[:, None] * axis
    moments = np.tile(left * axis / len(pieces), (len(pieces), 1))
    if kind == "mesh over it":  # eddies in reinforcement: a weaker dipole the other way, above the head
        share, up = rng.uniform(0.05, 0.3), depth * rng.uniform(0.3, 0.7)
        heads = np.vstack([heads, [x + rng.uniform(-0.5, 0.5), 0.0, -depth + up]])
        moments = np.vstack([moments, -share * axis])

    def coil(at, z, turned=0.0):
        points = np.column_stack([at, np.full(len(at), aside), np.full(len(at), z)])
        b = field(points, heads, moments)
        heard = b[:, 0] * np.cos(turned) + b[:, 1] * np.sin(turned)
        return heard + noise * rng.normal(size=len(at))

    h = depth + LOW
    walk = np.arange(x - 2.6 * h, x + 2.6 * h, 0.01 * h)
    heard = coil(walk, LOW)
    smooth = np.convolve(heard, np.ones(9) / 9, mode="same")
    near = np.abs(walk - x) < 0.6 * h
    peak = float(walk[near][np.argmax(np.abs(smooth[near]))] + rng.normal(0, 0.01 + 0.015 * h))

    def null(side):
        """Where the signal changes sign first beyond the peak, as a hand finds it."""
        sign, way = np.sign(smooth), (walk - peak) * side
        over = np.argmin(np.abs(walk - peak))
        turned = np.flatnonzero((sign != sign[over]) & (way > 0.15 * h))
        if not len(turned):
            return None
        first = turned[np.argmin(way[turned])]
        return float(walk[first] + rng.normal(0, 0.01 + 0.01 * h))

    before, after = null(-1), null(1)

    def ghost(edge, side):
        if edge is None or rng.random() < 0.3:
            return None
        beyond = (walk - edge) * side > 0
        return float(100 * np.abs(smooth[beyond]).max() * np.exp(rng.normal(0, 0.05)))

    def shown(up):
        low, high = (float(np.abs(coil(np.full(5, peak), z + up)).mean()) for z in (LOW, HIGH))
        low *= 1 + rng.normal(0, 0.008)
        ratio = low / high
        s = HIGH - LOW
        d = (s / (ratio - 1) if line_mode else s / (np.cbrt(ratio) - 1)) - LOW if ratio > 1 else None
        return None if d is None or not 0.01 < d < 15 else round(d, 2)

    lift = 0.4 if rng.random() < 0.6 else None
    lifted = None if lift is None else shown(lift)
    turned = float(np.abs(coil(np.array([peak]), LOW, np.pi / 2)[0])) * 100 if rng.random() < 0.5 else None
    return SondeStop(
        round(peak, 2),
        rod_m=round(rod * (1 + rng.normal(0, 0.004)), 2),
        null_before_m=None if before is None else round(before, 2),
        null_after_m=None if after is None else round(after, 2),
        depth_m=shown(0.0),
        mode="" if rng.random() < 0.2 else "sonde",
        signal=float(100 * np.abs(coil(np.array([peak]), LOW)[0])),
        lift_height_m=lift if lifted else None,
        depth_lifted_m=lifted,
        ghost_before=ghost(before, -1),
        ghost_after=ghost(after, 1),
        signal_turned=turned,
    )
