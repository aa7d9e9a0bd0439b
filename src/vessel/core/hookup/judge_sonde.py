"""A sonde run judged: every stop by the table, then what they show together."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.judge.sonde.sonde_events import Corner, Fall, corners, fall_of
from vessel.core.judge.sonde.sonde_fit import SondeFit
from vessel.core.judge.sonde.sonde_measures import SondeBatch
from vessel.core.judge.station.crew_bounds import rules_of
from vessel.core.judge.station.criteria import SONDE_RULES
from vessel.core.judge.station.verdict import PROVED, Judgement, judgements
from vessel.core.model.construction import Construction
from vessel.core.model.kit import Kit
from vessel.core.model.sonde import SondeRun, SondeStop
from vessel.core.signal.physics.dipole_field import along_field, dipole_shape, through_pipe

_MUCH_LOST, _ALL_LOST = 0.5, 0.03


@dataclass(frozen=True)
class JudgedRun:
    """The stops of a run with their fits and judgements, in the order they were given, and what they show together."""

    fits: tuple[SondeFit | None, ...]
    judgements: tuple[Judgement, ...]
    corners: tuple[Corner, ...]
    fall: Fall | None


def judge_run(
    stops: Sequence[SondeStop],
    run: SondeRun,
    kit: Kit,
    *,
    depth_range_m: tuple[float, float],
    pipe: Construction | None,
) -> JudgedRun:
    """Judge the stops of a sonde run.

    Args:
        stops: What was read, in any order.
        run: The run.
        kit: The receiver, and the limits its crew judges by.
        depth_range_m: Expected depth of the pipe [m].
        pipe: What it is made of; None without metal.

    Returns:
        Fits and judgements in the order of `stops`.
    """
    passed = sorted(range(len(stops)), key=lambda k: run.forward * stops[k].distance_m)
    batch = SondeBatch.of(
        [stops[k] for k in passed],
        run,
        kit.receiver,
        depth_range_m=depth_range_m,
        pipe=pipe,
        rules=rules_of(kit.bounds, SONDE_RULES),
    )
    judged = judgements(batch) if stops else []
    own = np.argsort(passed)
    return JudgedRun(
        tuple(batch.fits[k] for k in own),
        tuple(judged[k] for k in own),
        corners(batch),
        fall_of(batch, [j.verdict in PROVED for j in judged]),
    )


_DEPTH_DOUBTED = ("level", "shield", "two_depths", "sonde_fit", "sonde_range")


def writes_depth(j: Judgement) -> bool:
    """Return whether a mark may say the depth: not where iron is suspected, or readings do not pin it down.

    Args:
        j: Judgement of a stop.

    Returns:
        True if it may.
    """
    return j.verdict in PROVED and not any(
        f.rule.id in _DEPTH_DOUBTED and f.outcome == "care" and f.value is not None for f in j.findings
    )


@dataclass(frozen=True)
class Over:
    """The signal along the ground over a head: `at_m` (n,) along the line [m], `level` (n,) of its greatest.

    `ghosts`: place [m] and level of each ghost peak within those places.
    """

    at_m: Floats
    level: Floats
    ghosts: tuple[tuple[float, float], ...]


@dataclass(frozen=True)
class Head:
    """A head `x_m` along the line, `depth_m` below the ground [m], its end away from the near end `tilt_rad` up."""

    x_m: float
    depth_m: float
    tilt_rad: float


def signal_over(head: Head, low_m: float, *, count: int = 161) -> Over:
    """Return the signal along the pipe over a head, ghost peaks and nulls included.

    Args:
        head: Where it lies.
        low_m: Height of the receiver's lower coil [m].
        count: Number of places.

    Returns:
        The signal, to two and a half depths on either side.
    """
    u = np.linspace(-2.5, 2.5, count)
    level = np.abs(along_field(u, head.tilt_rad))
    below, shape = head.depth_m + low_m, dipole_shape(head.tilt_rad)
    ghosts = tuple(
        (head.x_m + g * below, share)
        for g, share in ((shape.behind, shape.ghost_before), (shape.ahead, shape.ghost_after))
        if u[0] < g < u[-1]
    )
    return Over(head.x_m + u * below, level / level.max(), ghosts)


def level_head(depth_range_m: tuple[float, float], low_m: float) -> tuple[Head, tuple[float, float]]:
    """Return a level head in the middle of the expected depth, at zero along the line, and where its nulls lie.

    Args:
        depth_range_m: Expected depth of the pipe [m].
        low_m: Height of the receiver's lower coil [m].

    Returns:
        The head, and its nulls before and after it [m].
    """
    head = Head(0.0, 0.5 * sum(depth_range_m), 0.0)
    return head, _nulls(head.depth_m, low_m)


def _nulls(depth_m: float, low_m: float) -> tuple[float, float]:
    level = dipole_shape(0.0)
    return level.null_before * (depth_m + low_m), level.null_after * (depth_m + low_m)


@dataclass(frozen=True)
class SondeForecast:
    """What to expect of a run: `nulls_m`: least and greatest distance between the nulls [m]; `through`: share of the
    signal that comes out of the pipe."""

    nulls_m: tuple[float, float]
    through: float

    @property
    def shielded(self) -> str:
        """How much the pipe takes: "" for next to nothing, "much", or "all"."""
        return "all" if self.through < _ALL_LOST else "much" if self.through < _MUCH_LOST else ""


def sonde_forecast(
    run: SondeRun, low_m: float, *, depth_range_m: tuple[float, float], pipe: Construction | None
) -> SondeForecast:
    """Return what to expect of a run before it begins.

    Args:
        run: The run.
        low_m: Height of the receiver's lower coil [m].
        depth_range_m: Expected depth of the pipe [m].
        pipe: What it is made of; None without metal.

    Returns:
        The forecast.
    """
    apart = [after - before for before, after in (_nulls(d, low_m) for d in depth_range_m)]
    return SondeForecast((apart[0], apart[1]), float(through_pipe(pipe, run.freq_hz)))
