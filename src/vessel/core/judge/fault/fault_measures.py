"""How the criteria of a ground fault are formed, for all faults of a walk at once; NaN where nothing tells."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.fault.fault_fit import Fault, FaultFit
from vessel.core.judge.rule import AsMeasured, Rule
from vessel.core.model.fault_walk import EARTHS_OFF, FaultWalk, FrameReading

_ACROSS_M = 0.6  # a cross check this near belongs to a fault


@dataclass(frozen=True)
class FaultBatch(AsMeasured):
    """The faults of one walk (n,), and what they are judged against.

    `earths_m`: where the line is known to be earthed [m]; `lowest_hz`: lowest frequency of the kit.
    """

    fit: FaultFit
    readings: tuple[FrameReading, ...]
    walk: FaultWalk
    earths_m: tuple[float, ...]
    lowest_hz: float
    rules: tuple[Rule, ...]

    @property
    def count(self) -> int:
        """How many faults there are."""
        return len(self.fit.faults)


def _each(b: FaultBatch, value: Callable[[Fault], float | None]) -> Floats:
    found = [value(f) for f in b.fit.faults]
    return np.array([np.nan if v is None else v for v in found], dtype=float)


def loop_ohms(b: FaultBatch) -> Floats:
    """Return the loop as the transmitter shows it.

    Args:
        b: n faults.

    Returns:
        Resistance, shape (n,) [ohm].
    """
    return _each(b, lambda _: b.walk.ohms)


def earths_on(b: FaultBatch) -> Floats:
    """Return how many of the steps that lift an earth are not done.

    Args:
        b: n faults.

    Returns:
        Share of them, shape (n,).
    """
    return _each(b, lambda _: b.walk.earths_on / len(EARTHS_OFF))


def from_earth(b: FaultBatch) -> Floats:
    """Return the distance to the nearest place where the line is known to be earthed.

    Args:
        b: n faults.

    Returns:
        Distance, shape (n,) [m].
    """
    return _each(b, lambda f: min((abs(f.at_m - at) for at in b.earths_m), default=None))


def bracket(b: FaultBatch) -> Floats:
    """Return the stretch between the nearest readings that point at a fault from both sides.

    Args:
        b: n faults.

    Returns:
        Its length, shape (n,) [m].
    """
    return _each(b, lambda f: f.bracket_m)


def half_range(b: FaultBatch) -> Floats:
    """Return how far to either side a fault may lie.

    Args:
        b: n faults.

    Returns:
        Distance, shape (n,) [m].
    """
    return _each(b, lambda f: f.pm_m)


def share(b: FaultBatch) -> Floats:
    """Return a fault's current against all that the stake returns.

    Args:
        b: n faults.

    Returns:
        Share, shape (n,).
    """
    return _each(b, lambda f: f.share)


def part(b: FaultBatch) -> Floats:
    """Return a fault's current against all that leaves the cable on the stretch walked.

    Args:
        b: n faults.

    Returns:
        Share, shape (n,).
    """
    return _each(b, lambda f: f.part)


def fault_misfit(b: FaultBatch) -> Floats:
    """Return what the fitted faults do not explain, against what levels leave open.

    Args:
        b: n faults.

    Returns:
        Times, shape (n,).
    """
    return _each(b, lambda _: b.fit.misfit)


def points_aside(b: FaultBatch) -> Floats:
    """Return whether the frame, turned across over a fault, points off the route.

    Args:
        b: n faults.

    Returns:
        1 where it does, 0 where it nulls, shape (n,).
    """

    def of(f: Fault) -> float | None:
        near = [r for r in b.readings if r.across and abs(r.distance_m - f.at_m) <= max(_ACROSS_M, f.pm_m)]
        return None if not near else float(any(r.across != "null" for r in near))

    return _each(b, of)


def above_lowest(b: FaultBatch) -> Floats:
    """Return the frequency against the lowest of the kit.

    Args:
        b: n faults.

    Returns:
        Times, shape (n,).
    """
    return _each(b, lambda _: b.walk.freq_hz / b.lowest_hz)


def fault_batch(
    fit: FaultFit,
    readings: Sequence[FrameReading],
    walk: FaultWalk,
    *,
    earths_m: Sequence[float],
    lowest_hz: float,
    rules: tuple[Rule, ...],
) -> FaultBatch:
    """Return the faults of a walk with what they are judged against.

    Args:
        fit: The faults that explain the readings.
        readings: What the frame showed.
        walk: How the walk was made.
        earths_m: Where the line is known to be earthed [m].
        lowest_hz: Lowest frequency of the kit [Hz].
        rules: The criteria to judge by.

    Returns:
        The batch.
    """
    return FaultBatch(fit, tuple(readings), walk, tuple(earths_m), lowest_hz, rules)
