"""Where a sonde lies, from everything that was read over it: place along the pipe, depth and tilt with their ranges.

For a given tilt, peak, nulls and depths are linear in place and depth, so every tilt of a grid has its least squares in
closed form; the answer is their mixture, weighted by how well each explains what was read. The same is done for a
receiver that was left in line mode, which tells how likely that is.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.cached import remembered
from vessel.core.model.kit import Receiver
from vessel.core.model.sonde import SondeStop
from vessel.core.signal.physics.dipole_field import DipoleShape, along_field, dipole_shape, meant_in_line_mode

LIKELY = 1.96  # standard deviations that hold in 95 %
_TILTS = np.radians(np.arange(-45.0, 45.5, 1.0))


def _tilts_before() -> Floats:
    """Log of how likely each tilt is: most heads lie flat in the pipe, some stand in a bend or on a step."""
    parts = ((0.85, np.radians(4.0)), (0.15, np.radians(20.0)))
    return np.asarray(np.log(sum(share / sd * np.exp(-0.5 * (_TILTS / sd) ** 2) for share, sd in parts)))


_TILT_PRIOR = _tilts_before()
_SHAPES: tuple[DipoleShape, ...] = tuple(dipole_shape(t) for t in _TILTS)
_OVER, _BEHIND, _AHEAD, _GHOST_BEFORE, _GHOST_AFTER = (
    np.array([getattr(s, k) for s in _SHAPES])
    for k in ("peak", "null_before", "null_after", "ghost_before", "ghost_after")
)
# how well a hand finds and a receiver shows each: a share of the depth, or of the figure itself
_PEAK_OFF, _NULL_OFF, _LEVEL_OFF, _DEPTH_OFF = 0.04, 0.02, 0.12, 0.03
_PEAK_M, _NULL_M = 0.03, 0.02
_IN_LINE_MODE = {"sonde": 0.03, "": 0.5, "line": 0.97}
"""How likely it is that a depth was read in line mode, by what was said of the receiver."""


@dataclass(frozen=True)
class SondeFit:
    """Where the sonde most likely lies.

    `x_m` along the line, `depth_m` below the ground, `tilt_rad` of its front end up the way distances grow; `x_pm_m`
    and `depth_pm_m` hold in 95 %. `depths_m`: the depth that each way of reading it gives. `misfit`: what is not
    explained, against what hand and display leave open. `in_line_mode`: how likely depth was read in line mode; None
    where nothing tells.
    """

    x_m: float
    x_pm_m: float
    depth_m: float
    depth_pm_m: float
    tilt_rad: float
    depths_m: tuple[float, ...]
    misfit: float
    in_line_mode: float | None

    @property
    def apart(self) -> float | None:
        """How far the depths disagree, against their middle; None with fewer than two."""
        if len(self.depths_m) < 2:
            return None
        return (max(self.depths_m) - min(self.depths_m)) / float(np.median(self.depths_m))


@remembered(4096)
def fit_sonde(stop: SondeStop, receiver: Receiver) -> SondeFit | None:
    """Return where the sonde lies under a stop.

    Args:
        stop: What was read there.
        receiver: The receiver's coils.

    Returns:
        The fit; None where neither nulls nor a depth were read.
    """
    guess = _first_guess(stop, receiver)
    if guess is None:
        return None
    as_sonde = _solve(stop, receiver, guess, line_mode=False)
    if stop.depth_m is None:
        return as_sonde.told(stop, receiver, None)
    as_line = _solve(stop, receiver, guess, line_mode=True)
    prior = _IN_LINE_MODE[stop.mode]
    odds = np.log(prior / (1 - prior)) + as_line.evidence - as_sonde.evidence
    chance = float(1 / (1 + np.exp(-np.clip(odds, -500, 500))))
    undecided = stop.mode == "" and not _two_ways(stop)
    return (as_line if chance > 0.5 else as_sonde).told(stop, receiver, None if undecided else chance)


def _two_ways(stop: SondeStop) -> bool:
    """Whether anything but the display's depth speaks of depth."""
    return stop.nulls_apart_m is not None or stop.depth_lifted_m is not None


def _first_guess(stop: SondeStop, r: Receiver) -> float | None:
    """A depth below the lower coil to begin with [m]."""
    if stop.nulls_apart_m is not None:
        return max(stop.nulls_apart_m / float(np.sqrt(2)), 0.1)
    for null in (stop.null_before_m, stop.null_after_m):
        if null is not None:
            return max(abs(null - stop.distance_m) * float(np.sqrt(2)), 0.1)
    return None if stop.depth_m is None else stop.depth_m + r.low_m


@dataclass(frozen=True)
class _Solved:
    """The mixture over tilts: weight (t,), place and depth (t,) [m] with their variances, misfit (t,), log evidence."""

    weight: Floats
    x: Floats
    h: Floats
    var_x: Floats
    var_h: Floats
    chi2: Floats
    count: int
    evidence: float
    shown_as: Floats
    lifted_as: Floats
    line_mode: bool

    def told(self, stop: SondeStop, r: Receiver, in_line_mode: float | None) -> SondeFit:
        """Return the mixture's mean with its range."""
        w = self.weight
        x, h, tilt = (float(w @ v) for v in (self.x, self.h, _TILTS))
        misfit = float(np.sqrt(w @ self.chi2 / max(self.count - 2, 1)))
        wider = LIKELY * max(1.0, misfit)
        x_sd = float(np.sqrt(w @ (self.var_x + (self.x - x) ** 2)))
        h_sd = float(np.sqrt(w @ (self.var_h + (self.h - h) ** 2)))
        return SondeFit(
            x_m=x,
            x_pm_m=wider * x_sd,
            depth_m=h - r.low_m,
            depth_pm_m=wider * h_sd,
            tilt_rad=tilt,
            depths_m=self._ways(stop, r),
            misfit=misfit,
            in_line_mode=in_line_mode,
        )

    def _ways(self, stop: SondeStop, r: Receiver) -> tuple[float, ...]:
        """The depth that nulls, display and lift give, each for itself [m]."""
        w, found = self.weight, []
        if stop.nulls_apart_m is not None:
            found.append(stop.nulls_apart_m / float(w @ (_AHEAD - _BEHIND)))
        if stop.depth_m is not None:
            found.append(_meant(stop.depth_m, r, line_mode=self.line_mode) / float(w @ self.shown_as))
        if stop.depth_lifted_m is not None and stop.lift_height_m is not None:
            lifted = _meant(stop.depth_lifted_m, r, line_mode=self.line_mode) / float(w @ self.lifted_as)
            found.append(lifted - stop.lift_height_m)
        return tuple(h - r.low_m for h in found)


def _meant(shown_m: float, r: Receiver, *, line_mode: bool) -> float:
    """What a shown depth means as a depth below the lower coil [m]."""
    low = shown_m + r.low_m
    return float(meant_in_line_mode(low, separation_m=r.separation_m)) if line_mode else low


def _shown_as(h_m: float, r: Receiver, lift_m: float = 0.0) -> Floats:
    """What sonde mode shows over the main peak of a tilted sonde, against its depth below the coil, for every tilt."""
    above = h_m + lift_m
    u, q = _OVER * h_m / above, 1 + r.separation_m / above
    ratio = np.abs(along_field(u, _TILTS) / along_field(u / q, _TILTS)) * q**3
    return np.asarray((q - 1) / (np.cbrt(ratio) - 1))


@dataclass(frozen=True)
class _Read:
    """One figure that was read: `of_x` place + `of_h` depth = `value` (t,) [m], off by `sd` [m].

    `own_sd`: how far the figure itself is off, in its own unit: what its likelihood is measured in.
    """

    of_x: float
    of_h: Floats
    value: Floats
    sd: float
    own_sd: float


def _solve(stop: SondeStop, r: Receiver, guess_m: float, *, line_mode: bool) -> _Solved:
    flat, lift = np.ones(len(_TILTS)), stop.lift_height_m or 0.0
    shown_as = flat if line_mode else _shown_as(guess_m, r)
    lifted_as = flat if line_mode else _shown_as(guess_m, r, lift)
    peak_sd, null_sd = (
        float(np.hypot(at_least, share * guess_m)) for at_least, share in ((_PEAK_M, _PEAK_OFF), (_NULL_M, _NULL_OFF))
    )
    places = (
        (stop.distance_m, _OVER, peak_sd),
        (stop.null_before_m, _BEHIND, null_sd),
        (stop.null_after_m, _AHEAD, null_sd),
    )
    rows = [_Read(1.0, where, flat * at, sd, sd) for at, where, sd in places if at is not None]
    for shown, up, factor in ((stop.depth_m, 0.0, shown_as), (stop.depth_lifted_m, lift, lifted_as)):
        if shown is not None:
            own_sd = _DEPTH_OFF * (shown + r.low_m)
            h = _meant(shown, r, line_mode=line_mode)
            # in line mode a figure that small means a depth that is off by more
            steeper = (_meant(shown + own_sd, r, line_mode=line_mode) - h) / own_sd
            rows.append(_Read(0.0, factor, h - up * factor, own_sd * steeper, own_sd))
    return _mixed(rows, stop, shown_as, lifted_as, guess_m, line_mode=line_mode)


def _mixed(
    rows: list[_Read],
    stop: SondeStop,
    shown_as: Floats,
    lifted_as: Floats,
    guess_m: float,
    *,
    line_mode: bool,
) -> _Solved:
    ax, sd = (np.array([[getattr(row, k)] for row in rows]) for k in ("of_x", "sd"))
    ah, y = np.array([row.of_h for row in rows]), np.array([row.value for row in rows])
    wide = 10.0 * guess_m  # next to nothing is known of depth beforehand
    sxx, sxh = (ax * ax / sd**2).sum(0), (ax * ah / sd**2).sum(0)
    shh = (ah * ah / sd**2).sum(0) + 1 / wide**2
    bx, bh = (ax * y / sd**2).sum(0), (ah * y / sd**2).sum(0) + guess_m / wide**2
    det = sxx * shh - sxh**2
    x, h = (shh * bx - sxh * bh) / det, (sxx * bh - sxh * bx) / det
    chi2 = (((y - ax * x - ah * h) / sd) ** 2).sum(0)
    count = len(rows)
    for level, expected in ((stop.ghost_before, _GHOST_BEFORE), (stop.ghost_after, _GHOST_AFTER)):
        if level and stop.signal:
            chi2 = chi2 + (np.log(level / stop.signal / expected) / _LEVEL_OFF) ** 2
            count += 1
    log_p = -0.5 * (chi2 + np.log(det)) + _TILT_PRIOR - sum(float(np.log(row.own_sd)) for row in rows)
    most = float(log_p.max())
    weight = np.exp(log_p - most)
    return _Solved(
        weight / weight.sum(),
        x,
        h,
        shh / det,
        sxx / det,
        chi2,
        count,
        most + float(np.log(weight.sum())),
        shown_as,
        lifted_as,
        line_mode,
    )
