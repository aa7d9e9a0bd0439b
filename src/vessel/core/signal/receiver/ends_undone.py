"""Readings near the ends of a line as they would be over one that goes on.

A display takes what is under it for endless. Where the line ends, or current comes onto it, the two coils hear less of
it than that, the upper one less still: depth and current are shown too small, a depth by 6 % at three depths from an
end that carries its whole current into the earth. What leaves into the soil at an end spreads round it and is not heard
above ground. Over a line of piecewise linear current I(s) at depth h below a coil, the coil across it hears
(mu0 / 4 pi) integral I(s) h / ((s - x)^2 + h^2)^(3/2) ds (Biot and Savart), in closed form for each piece.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading
from vessel.core.signal.receiver.return_undone import MOST_A, MOST_LIFTED_M, MOST_M

_ROUNDS = 2  # how far a depth is off decides how much it is
_REACH = 12.0  # depths from an end beyond which nothing of it is left
_SILENT = 0.02  # of the greatest current: so little is not followed
_LEAST, _MOST = 0.4, 1.6  # what a coil hears against an endless line; beyond, nothing is corrected


@dataclass(frozen=True, eq=False)
class Flow:
    """A line's current under each of c explanations: `amps` (c, n) [A] at `along_m` (n,) [m], `likely` (c,).

    `lead_m`: where along the line a lead brings it all from above, None where none does [m].
    """

    along_m: Floats
    amps: Floats
    likely: Floats
    lead_m: float | None = None

    @property
    def ends_m(self) -> Floats:
        """Where current comes onto the line or the line ends [m], shape (e,)."""
        ends = [self.along_m[0], self.along_m[-1], *([] if self.lead_m is None else [self.lead_m])]
        return np.unique(np.array(ends))


def heard_share(flow: Flow, at_m: Floats, below_m: Floats, height_m: Floats, *, lead: bool) -> Floats:
    """Return what a coil across the line hears against one over an endless line with the current it has there.

    Args:
        flow: The line's current.
        at_m: Places along the line, shape (s,) [m].
        below_m: How deep the line lies below the coil there, under each explanation, shape (c, s) [m].
        height_m: Height of the coil above the ground there, shape (s,) [m].
        lead: Whether the lead is heard that goes down to the line.

    Returns:
        Share, shape (c, s); NaN where the line carries as good as nothing there.
    """
    along, amps = _in_direction(flow)
    here = np.stack([np.interp(at_m, along, row) for row in amps])
    here = np.where(np.abs(here) < _SILENT * np.abs(amps).max(1, keepdims=True), np.nan, here)
    u = along[None, None] - at_m[None, :, None]  # (1, s, n)
    far = np.sqrt(u**2 + below_m[..., None] ** 2)
    slope = np.diff(amps, axis=1) / np.diff(along)  # (c, n - 1)
    level = amps[:, None, :-1] - slope[:, None] * u[..., :-1]  # of each piece, drawn out to the place
    ends = level * np.diff(u / far, axis=-1) - slope[:, None] * below_m[..., None] ** 2 * np.diff(1 / far, axis=-1)
    heard = 0.5 * ends.sum(-1)
    if lead and flow.lead_m is not None:
        aside = np.maximum(np.abs(at_m - flow.lead_m), 1e-3)
        brought = np.abs(np.diff(amps, axis=1)).max(1) if _on_the_way(flow) else np.abs(amps).max(1)
        down = below_m / np.hypot(aside, below_m) - height_m / np.hypot(aside, height_m)
        heard = heard + np.sign(here) * brought[:, None] * below_m / (2 * aside) * down
    return np.asarray(heard / here)


def _on_the_way(flow: Flow) -> bool:
    return flow.lead_m is not None and bool(flow.along_m[0] + 0.5 < flow.lead_m < flow.along_m[-1] - 0.5)


def _in_direction(flow: Flow) -> tuple[Floats, Floats]:
    """Places and currents with their direction: from a lead on the way it flows both ways."""
    if not _on_the_way(flow):
        return flow.along_m, flow.amps
    at = float(flow.lead_m or 0.0)
    before, past = flow.along_m < at, flow.along_m > at
    along = np.concatenate([flow.along_m[before], [at - 1e-4, at + 1e-4], flow.along_m[past]])
    own = [flow.amps[:, before], flow.amps[:, before][:, -1:], flow.amps[:, past][:, :1], flow.amps[:, past]]
    return along, np.hstack([-own[0], -own[1], own[2], own[3]])


class EndsUndone:
    """What the ends of a line do to readings over it, to be read backwards."""

    def __init__(self, flow: Flow, receiver: Receiver) -> None:
        self.flow, self.receiver = flow, receiver
        # a lead may go down elsewhere than drawn, or aside
        self._leads = (True, False) if flow.lead_m is not None else (False,)

    def readings(self, readings: Sequence[StationReading]) -> tuple[tuple[StationReading, ...], Floats]:
        """Return the readings of stations as they would be over an endless line.

        Args:
            readings: Readings at n stations.

        Returns:
            The same, depths and currents corrected, and how well each depth is known then: standard deviation as a
            logarithm, shape (n,).
        """
        at_m = np.array([r.distance_m for r in readings])
        depth = np.array([np.nan if r.depth_m is None else r.depth_m for r in readings])
        spread = np.zeros(len(readings))
        near = np.abs(at_m[:, None] - self.flow.ends_m).min(1, initial=np.inf) < _REACH * (depth + self.receiver.high_m)
        some = [r for r, close in zip(readings, near.tolist(), strict=True) if close]
        if not some:
            return tuple(readings), spread
        at_m, depth = at_m[near], depth[near]
        lift = np.array([r.lift_height_m or 0.0 for r in some])
        lifted = np.array([np.nan if r.depth_lifted_m is None else r.depth_lifted_m for r in some])
        deeper, spread[near], stronger = self._undone(at_m, depth, np.zeros(len(some)))
        deeper_lifted, _, _ = self._undone(at_m, lifted, lift)
        each = zip((depth * deeper).tolist(), (lifted * deeper_lifted).tolist(), stronger.tolist(), strict=True)
        found = tuple(_corrected(r, *next(each)) if close else r for r, close in zip(readings, near, strict=True))
        return found, spread

    def _undone(self, at_m: Floats, shown_m: Floats, lift_m: Floats) -> tuple[Floats, Floats, Floats]:
        """Factor on each depth shown, its spread as a logarithm, and the factor on the current, each (s,)."""
        low, high = self.receiver.low_m, self.receiver.high_m
        ratio = (shown_m + high) / (shown_m + low)
        each = []
        for lead in self._leads:
            depth = np.broadcast_to(shown_m, self.flow.amps.shape[:1] + shown_m.shape)
            for _ in range(_ROUNDS):
                heard = [
                    np.clip(heard_share(self.flow, at_m, depth + up, up + lift_m, lead=lead), _LEAST, _MOST)
                    for up in (low, high)
                ]
                real = ratio * heard[1] / heard[0]
                depth = np.clip((high - low) / np.maximum(real - 1, 1e-3) - low, 0.5 * shown_m, 2 * shown_m)
            more = (depth + low) / ((shown_m + low) * heard[0])
            each.append((np.log(depth / shown_m), np.log(more)))
        deeper, stronger = (np.concatenate(values) for values in zip(*each, strict=True))
        weight = np.where(np.isnan(deeper), 0.0, np.tile(self.flow.likely, len(self._leads))[:, None])
        total = np.maximum(weight.sum(0), 1e-12)
        deeper, stronger = np.nan_to_num(deeper), np.nan_to_num(stronger)
        mean = (weight * deeper).sum(0) / total
        spread = np.sqrt((weight * (deeper - mean) ** 2).sum(0) / total)
        return np.exp(mean), spread, np.exp((weight * stronger).sum(0) / total)


def _corrected(r: StationReading, depth_m: float, depth_lifted_m: float, stronger: float) -> StationReading:
    return r.corrected(
        depth_m=min(depth_m, MOST_M),
        depth_lifted_m=None if r.depth_lifted_m is None else min(depth_lifted_m, MOST_LIFTED_M),
        currents_a=tuple(min(a * stronger, MOST_A) for a in r.currents_a),
    )
