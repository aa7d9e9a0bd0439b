"""What every explanation shows at the stations, and how deep it puts the line there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.special import ndtr

from vessel.core.base.arrays import Floats, Index, Mask
from vessel.core.judge.rivals.filaments import shown_beside
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.judge.rivals.worked_out_rivals import Rivals
from vessel.core.model.kit import Receiver
from vessel.core.signal.physics.magnetic_field import depth_spread
from vessel.core.signal.receiver.instrument import signal_at

STANDS_M = 0.05
"""How well somebody stands on a peak [m]."""
PLACE_SPREAD_M = 0.06
"""The same, and the model's error across (3 cm) [m]."""
ALONG_M = 15.0
"""How far along a trace lifts are taken together [m]."""
_LEAST, _NOTHING = 1e-12, 0.02
_FAINTEST_T, _DROWNED = 1e-30, 1e3  # a signal below these, in itself or against the noise, tells no depth
_TOGETHER = 4000  # explanations at stations worked out at once: what is in between stays in the processor's cache


@dataclass(frozen=True, eq=False)
class AtStations:
    """What every explanation shows at s stations at the depth that the depth read there calls for, (h, s).

    `log_pull`: logarithm of the current shown against the line's own; `beside`: the greatest current shown over another
    centre line against the one shown, 0 without one.
    """

    true_depth_m: Floats
    log_current: Floats
    log_pull: Floats
    offset_m: Floats
    lift: Floats
    gap_m: Floats
    beside: Floats
    runs: Floats

    def part(self, rows: Mask, columns: Mask) -> AtStations:
        """Return some explanations at some stations.

        Args:
            rows: Which explanations, shape (h,).
            columns: Which stations, shape (s,).

        Returns:
            The same, the others left out.
        """
        return AtStations(*(getattr(self, f)[rows][:, columns] for f in AtStations.__dataclass_fields__))

    def of(self, rows: Index | slice) -> AtStations:
        """Return some explanations at all stations.

        Args:
            rows: Which of them.

        Returns:
            The same, the others left out.
        """
        return AtStations(*(getattr(self, f)[rows] for f in AtStations.__dataclass_fields__))

    def replaced(self, rows: Index, by: AtStations) -> AtStations:
        """Return these with some explanations in another form.

        Args:
            rows: Which are replaced, shape (r,).
            by: As many others, at the same stations.

        Returns:
            The explanations.
        """
        found = []
        for f in AtStations.__dataclass_fields__:
            values = getattr(self, f).copy()
            values[rows] = getattr(by, f)
            found.append(values)
        return AtStations(*found)


def at_stations(rivals: Rivals, at_m: Floats, depth_m: Floats, receiver: Receiver | None = None) -> AtStations:
    """Return what every explanation shows where something was read.

    Args:
        rivals: h explanations, worked out.
        at_m: Distances of s stations along the line [m].
        depth_m: Depths read there, shape (s,) [m].
        receiver: The kit's receiver; None: what is shown beside is not asked for, and 0.

    Returns:
        What is shown at the depth of the line that makes the display show the depth it does.
    """
    a = rivals.shown
    x = rivals.before(at_m)
    part = np.clip((at_m - rivals.at_m[x]) / (rivals.at_m[x + 1] - rivals.at_m[x]), 0.0, 1.0)
    shown = rivals.log_depth[..., x] * (1 - part) + rivals.log_depth[..., x + 1] * part  # (h, K, s)
    wanted = np.log(depth_m)
    # the depth that makes the display show what it shows: the last crossing, or the nearer edge
    k = np.clip((shown < wanted).sum(1) - 1, 0, shown.shape[1] - 2)
    low, high = (np.take_along_axis(shown, k[:, None] + j, 1)[:, 0] for j in (0, 1))
    share = np.clip((wanted - low) / np.maximum(high - low, 1e-6), -0.5, 1.5)
    inside = np.clip(share, 0.0, 1.0)
    each = np.arange(len(k))[:, None]
    corners = [
        (k + i, x + j, (inside if i else 1 - inside) * (part if j else 1 - part)) for i in (0, 1) for j in (0, 1)
    ]

    def at(values: Floats) -> Floats:
        return np.asarray(sum(values[each, row, column] * weight for row, column, weight in corners))

    depths = np.log(rivals.depths_m)
    true = np.exp(depths[k] + share * (depths[1] - depths[0]))
    # a current that falls to nothing at an end does so evenly, its logarithm does not
    least, most = np.sort([a.current[..., x], a.current[..., x + 1]], axis=0)
    ends = (least < _NOTHING * most).any(1)
    log_current = np.where(ends, np.log(np.maximum(at(a.current), _LEAST)), at(rivals.log_current))
    own = np.abs(rivals.together.amps[..., 0])
    log_own = np.log(np.maximum(own[:, x] * (1 - part) + own[:, x + 1] * part, _LEAST))
    offset, lift, gap, runs = (at(values) for values in (a.offset_m, a.lift, a.gap_m, a.runs))
    beside = np.zeros_like(true)
    if receiver is not None:
        for s in np.array_split(np.arange(len(at_m)), 1 + beside.size // _TOGETHER):
            beside[:, s] = _beside(rivals, x[s], part[s], true[:, s], offset[:, s], receiver)
        beside /= np.maximum(np.exp(log_current), _LEAST)
    return AtStations(true, log_current, log_current - log_own, offset, lift, gap, beside, runs)


def _beside(rivals: Rivals, x: Index, part: Floats, depth_m: Floats, peak_m: Floats, receiver: Receiver) -> Floats:
    """The greatest current shown over another centre line at s stations, between places `x` and the next (h, s)."""
    c, part = rivals.together, part[:, None]
    amps = c.amps[:, x] * (1 - part) + c.amps[:, x + 1] * part
    offset = c.offset_m[:, x] * (1 - part) + c.offset_m[:, x + 1] * part
    return shown_beside(amps, offset, c.down_m(depth_m), peak_m, receiver)


@dataclass(frozen=True, eq=False)
class Noise:
    """Standard deviations [m] of the depth (s,) and of the depth lifted (s,) by the noise in the coils."""

    depth_m: Floats
    lifted_m: Floats

    def part(self, columns: Mask) -> Noise:
        """Return that of some stations.

        Args:
            columns: Which of them, shape (s,).

        Returns:
            The same, the others left out.
        """
        return Noise(self.depth_m[columns], self.lifted_m[columns])


def noise_in(used: UsedStations, noise_t: Floats, receiver: Receiver) -> Noise:
    """Return what the noise does to depths.

    Args:
        used: s stations with depth and current.
        noise_t: Rms noise in each coil at each, shape (s,) [T].
        receiver: The kit's receiver.

    Returns:
        Standard deviations.
    """
    depth, amps = used.depth_m, used.current_a
    low, apart = receiver.low_m, receiver.separation_m
    signal = np.maximum(signal_at(amps, depth_m=depth, low_m=low), _FAINTEST_T)
    share = np.minimum(noise_t / signal, _DROWNED)
    # the depth is read as often as the current is
    again = np.sqrt(used.repeats)
    up = depth + np.nan_to_num(used.lift_height_m)
    lifted = depth_spread(up, share * (up + low) / (depth + low), low_m=low, separation_m=apart)
    return Noise(depth_spread(depth, share, low_m=low, separation_m=apart) / again, np.asarray(lifted))


@dataclass(frozen=True, eq=False)
class Unexplained:
    """What lift and null show beyond the explanations, weighed: `lift` against its height, `gap_m` [m], (s,).

    `lift_along`: of the mean of the lifts within `ALONG_M`, in which noise is less. `pull` (s,): the current shown
    against the line's own, by what is drawn beside it. Of readings across: `lopsided` (s,), how much the
    two sides may differ by what is left, against the peak; `misfit` (s,), its mean square against a steady hand's.
    """

    lift: Floats
    gap_m: Floats
    lift_along: Floats
    pull: Floats
    lopsided: Floats
    misfit: Floats


def unexplained(used: UsedStations, there: AtStations, chance: Floats, drawn: Floats, across: Floats) -> Unexplained:
    """Return what the explanations leave unexplained of lift, null and readings across.

    Args:
        used: s stations with depth and current.
        there: What h explanations show at them.
        chance: The chance of each, shape (h,).
        drawn: The same among those with nothing but what is drawn, shape (h,).
        across: What they leave of readings across, lopsided and misfit, shape (2, s).

    Returns:
        Mean of what each leaves; NaN where it was not read.
    """
    left = used.lift_error - there.lift
    along = _means_near(used.distance_m, left)
    gap = np.abs(used.peak_null_m - there.gap_m)
    pull = np.exp(drawn @ np.clip(there.log_pull, -1.0, 1.0))
    return Unexplained(chance @ np.abs(left), chance @ gap, chance @ np.abs(along), pull, *across)


def _means_near(at_m: Floats, left: Floats) -> Floats:
    """Mean of what is left (h, s) of the stations within `ALONG_M` of each; 0 where nothing near was read."""
    order = np.argsort(at_m, kind="stable")
    along = at_m[order]
    first, past = np.searchsorted(along, at_m - ALONG_M), np.searchsorted(along, at_m + ALONG_M, side="right")

    def within(values: Floats) -> Floats:
        sums = np.concatenate([np.zeros((*values.shape[:-1], 1)), np.cumsum(values[..., order], -1)], -1)
        return np.asarray(sums[..., past] - sums[..., first])

    return within(np.nan_to_num(left)) / np.maximum(within(1.0 - np.isnan(left[0])), 1.0)


def aside_under(there: AtStations, tolerance_m: float, spread_m: Floats) -> Floats:
    """Return the chance that the line lies outside the tolerance of a mark at the peak.

    Args:
        there: What h explanations show at s stations.
        tolerance_m: Half-width of the zone round a mark in which the line must lie [m].
        spread_m: Standard deviation of its place under each, shape (h, s) [m].

    Returns:
        Chance, shape (h, s).
    """
    inside = ndtr((tolerance_m - there.offset_m) / spread_m)
    return np.asarray(1 - (inside - ndtr((-tolerance_m - there.offset_m) / spread_m)))
