"""How the criteria of a sonde run are formed, for all its stops at once; NaN where what it needs was not read."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.rule import AsMeasured, Rule
from vessel.core.judge.sonde.sonde_fit import SondeFit, fit_sonde
from vessel.core.model.construction import Construction
from vessel.core.model.kit import Receiver
from vessel.core.model.sonde import SondeRun, SondeStop
from vessel.core.signal.physics.dipole_field import along_field, dipole_shape, through_pipe

_GOOD_DEPTH, _GOOD_PLACE = 0.05, 0.1
"""How far off a mark may be: of the depth, and in depths along the pipe."""
_STEP_M = 0.3  # a shorter step says nothing of rod and ground


@dataclass(frozen=True)
class SondeBatch(AsMeasured):
    """The stops of one run (n,) in the order the rod passed them, and what they are judged against.

    `depth_range_m`: expected depth of the pipe [m]; `pipe`: what it is made of, None without metal.
    """

    stops: tuple[SondeStop, ...]
    fits: tuple[SondeFit | None, ...]
    run: SondeRun
    receiver: Receiver
    depth_range_m: tuple[float, float]
    pipe: Construction | None
    rules: tuple[Rule, ...]

    @classmethod
    def of(
        cls,
        stops: Sequence[SondeStop],
        run: SondeRun,
        receiver: Receiver,
        *,
        depth_range_m: tuple[float, float],
        pipe: Construction | None,
        rules: tuple[Rule, ...],
    ) -> SondeBatch:
        """Return the stops of a run with their fits.

        Args:
            stops: What was read, in the order the rod passed.
            run: The run.
            receiver: The receiver's coils.
            depth_range_m: Expected depth of the pipe [m].
            pipe: What the pipe is made of; None without metal.
            rules: The criteria to judge by.

        Returns:
            The batch.
        """
        fits = tuple(fit_sonde(s, receiver) for s in stops)
        return cls(tuple(stops), fits, run, receiver, depth_range_m, pipe, rules)

    @property
    def count(self) -> int:
        """How many stops there are."""
        return len(self.stops)

    @property
    def depth_m(self) -> Floats:
        """Depth of the fitted sonde, shape (n,) [m]; NaN without a fit."""
        return _of_fits(self, lambda _, f: f.depth_m)


def _of_fits(b: SondeBatch, value: Callable[[SondeStop, SondeFit], float | None]) -> Floats:
    found = (None if f is None else value(s, f) for s, f in zip(b.stops, b.fits, strict=True))
    return np.array([np.nan if v is None else v for v in found], dtype=float)


def in_line_mode(b: SondeBatch) -> Floats:
    """Return how likely it is that depth was read in line mode.

    Args:
        b: n stops.

    Returns:
        Chance, shape (n,).
    """
    return _of_fits(b, lambda _, f: f.in_line_mode)


def off_middle(b: SondeBatch) -> Floats:
    """Return how far the peak stands from the middle of its nulls.

    Args:
        b: n stops.

    Returns:
        Way, shape (n,) [depths].
    """

    def of(s: SondeStop, f: SondeFit) -> float | None:
        if s.null_before_m is None or s.null_after_m is None:
            return None
        return abs(s.distance_m - 0.5 * (s.null_before_m + s.null_after_m)) / max(f.depth_m + b.receiver.low_m, 0.05)

    return _of_fits(b, of)


def ghosts_apart(b: SondeBatch) -> Floats:
    """Return how unequal the ghost peaks are.

    Args:
        b: n stops.

    Returns:
        The greater against the lesser, shape (n,).
    """

    def of(s: SondeStop, _: SondeFit) -> float | None:
        if not s.ghost_before or not s.ghost_after:
            return None
        return max(s.ghost_before, s.ghost_after) / min(s.ghost_before, s.ghost_after)

    return _of_fits(b, of)


def depths_apart(b: SondeBatch) -> Floats:
    """Return how far the depths by nulls, display and lift disagree.

    Args:
        b: n stops.

    Returns:
        Share of their middle, shape (n,).
    """
    return _of_fits(b, lambda _, f: f.apart)


def misfit(b: SondeBatch) -> Floats:
    """Return what no sonde explains, against what hand and display leave open.

    Args:
        b: n stops.

    Returns:
        Times, shape (n,).
    """
    return _of_fits(b, lambda _, f: f.misfit)


def too_wide(b: SondeBatch) -> Floats:
    """Return the range of depth or place against what a mark may be off, whichever is more.

    Args:
        b: n stops.

    Returns:
        Times, shape (n,).
    """

    def of(_: SondeStop, f: SondeFit) -> float:
        h = max(f.depth_m + b.receiver.low_m, 0.05)
        return max(f.depth_pm_m / (_GOOD_DEPTH * h), f.x_pm_m / (_GOOD_PLACE * h))

    return _of_fits(b, of)


def tilted(b: SondeBatch) -> Floats:
    """Return the slope that the sonde lies at.

    Args:
        b: n stops.

    Returns:
        Rise over run, shape (n,).
    """
    return _of_fits(b, lambda _, f: float(abs(np.tan(f.tilt_rad))))


def rod_short(b: SondeBatch) -> Floats:
    """Return how far the rod falls short of the ground walked since the stop before: a rod cannot.

    Args:
        b: n stops.

    Returns:
        Share of the rod, shape (n,).
    """
    return np.maximum(_ground_and_rod(b), 0.0)


def rod_spare(b: SondeBatch) -> Floats:
    """Return how much more rod went in than ground was gained since the stop before: the head turned, or rod coiled.

    Args:
        b: n stops.

    Returns:
        Share of the rod, shape (n,).
    """
    return np.maximum(-_ground_and_rod(b), 0.0)


def ground_gained(b: SondeBatch) -> tuple[Floats, Floats]:
    """Return rod and ground since the stop before, the mouth of the pipe before the first.

    Args:
        b: n stops.

    Returns:
        Rod and ground, each of shape (n,) [m]; NaN where the rod was not read.
    """
    rod, ground = np.full(b.count, np.nan), np.full(b.count, np.nan)
    last: tuple[float, float, float, float] | None = (0.0, b.run.start_m, 0.0, np.nan)
    for k, (s, f) in enumerate(zip(b.stops, b.fits, strict=True)):
        if s.rod_m is None:
            continue
        x, depth = (s.distance_m, np.nan) if f is None else (f.x_m, f.depth_m)
        if last is not None:
            drop = 0.0 if np.isnan(depth - last[3]) else depth - last[3]
            rod[k], ground[k] = s.rod_m - last[0], float(np.linalg.norm((x - last[1], s.left_m - last[2], drop)))
        last = (s.rod_m, x, s.left_m, depth)
    return rod, ground


def _ground_and_rod(b: SondeBatch) -> Floats:
    rod, ground = ground_gained(b)
    own = np.array([0.0 if f is None else f.x_pm_m for f in b.fits])
    loose = np.hypot(own, np.concatenate([[0.0], own[:-1]])) if b.count else own  # places are known only so well
    off = np.sign(ground - rod) * np.maximum(np.abs(ground - rod) - loose, 0.0)
    return np.where(rod >= _STEP_M, off / np.maximum(rod, _STEP_M), np.nan)


def fall_between(b: SondeBatch) -> Floats:
    """Return the steepest that the pipe would have to lie between a stop and the one before, their ranges allowed for.

    Args:
        b: n stops.

    Returns:
        Rise over run, shape (n,).
    """
    found = np.full(b.count, np.nan)
    known = [(k, f) for k, f in enumerate(b.fits) if f is not None]
    for (_, a), (k, c) in pairwise(known):
        loose = float(np.hypot(a.depth_pm_m, c.depth_pm_m))
        found[k] = max(abs(c.depth_m - a.depth_m) - loose, 0.0) / max(abs(c.x_m - a.x_m), _STEP_M)
    return found


def level(b: SondeBatch) -> Floats:
    """Return the signal against what the function check promises at that depth, through the pipe's wall.

    Args:
        b: n stops.

    Returns:
        The lesser of that ratio and its inverse, shape (n,).
    """
    run = b.run
    if run.check_m is None or run.check_signal is None:
        return np.full(b.count, np.nan)
    through = float(through_pipe(b.pipe, run.freq_hz))

    def of(s: SondeStop, f: SondeFit) -> float | None:
        if s.signal is None or run.check_m is None or run.check_signal is None:
            return None
        h = max(f.depth_m + b.receiver.low_m, 0.05)
        over = float(abs(along_field(dipole_shape(f.tilt_rad).peak, f.tilt_rad)))
        ratio = s.signal / (run.check_signal * (run.check_m / h) ** 3 * over * through)
        return float(min(ratio, 1 / ratio))

    return _of_fits(b, of)


def let_through(b: SondeBatch) -> Floats:
    """Return how much of the signal comes out of the pipe: iron that takes much of it also bends the rest.

    Args:
        b: n stops.

    Returns:
        Share, shape (n,).
    """
    return np.full(b.count, float(through_pipe(b.pipe, b.run.freq_hz)))


def turned(b: SondeBatch) -> Floats:
    """Return the signal with the receiver turned a quarter against the signal in line with the pipe.

    Args:
        b: n stops.

    Returns:
        Share, shape (n,).
    """
    return _of_fits(b, lambda s, _: None if s.signal_turned is None or not s.signal else s.signal_turned / s.signal)
