"""What every explanation of a hookup shows along the line, worked out once for a few depths of the line."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from vessel.core.base.arrays import Complex, Floats, Index, Mask
from vessel.core.base.cached import lazy
from vessel.core.judge.rivals.explanations import Explanation
from vessel.core.judge.rivals.filaments import Apparent, apparent
from vessel.core.model.kit import Receiver

_DEPTHS = 6
_TOGETHER = 64  # explanations worked out at once: what is in between stays in the processor's cache


@dataclass(frozen=True, eq=False)
class Together:
    """The conductors of h explanations, as many (m) for each: currents and offsets (h, n, m), the rest (h, m)."""

    amps: Complex
    offset_m: Floats
    depth_m: Floats
    depth_ratio: Floats

    def down_m(self, depth_m: Floats) -> Floats:
        """Return how deep each conductor lies.

        Args:
            depth_m: Depth of the line under each explanation, shape (h, ...) [m].

        Returns:
            Depths, shape (h, ..., m) [m].
        """
        more = (slice(None), *(None,) * (np.ndim(depth_m) - 1), slice(None))
        ratio, fixed = self.depth_ratio[more], self.depth_m[more]
        return np.asarray(np.where(np.isnan(fixed), ratio * np.asarray(depth_m)[..., None], fixed))


@dataclass(frozen=True, eq=False)
class Rivals:
    """All explanations of a hookup with what each would show: arrays of shape (h, d, n).

    `at_m` (n,) places along the line [m]; `depths_m` (d,) [m] for which they were worked out.
    """

    explanations: tuple[Explanation, ...]
    at_m: Floats
    depths_m: Floats
    shown: Apparent
    together: Together

    def before(self, at_m: Floats) -> Index:
        """Return the last place before each distance, or the first of all.

        Args:
            at_m: Distances along the line, shape (s,) [m].

        Returns:
            Indices of places that another follows, shape (s,).
        """
        return np.clip(np.searchsorted(self.at_m, at_m) - 1, 0, len(self.at_m) - 2)

    def beside(self, at_m: Floats) -> Index:
        """Return the places between which distances lie.

        Args:
            at_m: Distances along the line, shape (s,) [m].

        Returns:
            Indices of places, each once and in order.
        """
        first = self.before(at_m)
        return np.unique(np.concatenate([first, first + 1]))

    def only(self, which: Mask) -> Rivals:
        """Return some of the explanations.

        Args:
            which: Those to keep, shape (h,).

        Returns:
            The same, the others left out.
        """
        return self._picked(np.flatnonzero(which))

    def rows(self, rows: slice) -> Rivals:
        """Return some of the explanations that follow one another.

        Args:
            rows: Which of them.

        Returns:
            The same, the others left out.
        """
        return self._picked(np.arange(len(self.explanations))[rows])

    def _picked(self, which: Index) -> Rivals:
        kept = tuple(self.explanations[k] for k in which.tolist())
        shown = Apparent(*(getattr(self.shown, f)[which] for f in Apparent.__dataclass_fields__))
        together = Together(*(getattr(self.together, f)[which] for f in Together.__dataclass_fields__))
        return Rivals(kept, self.at_m, self.depths_m, shown, together)

    def replaced(self, which: Index, by: Rivals) -> Rivals:
        """Return these with some explanations in another form.

        Args:
            which: Which are replaced, shape (r,).
            by: As many others, with room for as many conductors.

        Returns:
            The explanations.
        """
        place = np.arange(len(self.explanations))
        place[which] = len(place) + np.arange(len(which))
        every = (*self.explanations, *by.explanations)

        def of(a: Any, b: Any) -> list[Any]:
            return [np.concatenate([mine, vars(b)[name]])[place] for name, mine in vars(a).items()]

        return Rivals(
            tuple(every[k] for k in place.tolist()),
            self.at_m,
            self.depths_m,
            Apparent(*of(self.shown, by.shown)),
            Together(*of(self.together, by.together)),
        )

    @lazy
    def weights(self) -> Floats:
        """Return the weight of each before any reading.

        Returns:
            Weights, shape (h,).
        """
        return np.array([e.weight for e in self.explanations])

    @lazy
    def log_depth(self) -> Floats:
        """Return the logarithm of the depth shown.

        Returns:
            ln of the depth, shape (h, d, n) [ln m].
        """
        return np.log(self.shown.depth_m)

    @lazy
    def log_current(self) -> Floats:
        """Return the logarithm of the current shown.

        Returns:
            ln of the current per unit of drive, shape (h, d, n).
        """
        return np.log(np.maximum(self.shown.current, 1e-12))

    @lazy
    def like_entered(self) -> Mask:
        """Return which read like the line as entered, at least up to some place.

        Returns:
            Mask, shape (h,).
        """
        return np.array([e.like_entered for e in self.explanations])

    @lazy
    def sided(self) -> Floats:
        """Return which stand for one side of the line only.

        Returns:
            1 for those, 0 for what may run on either side, shape (h,).
        """
        return np.array([0.0 if e.either_side else 1.0 for e in self.explanations])

    @lazy
    def entered(self) -> Mask:
        """Return which are the line as entered.

        Returns:
            Mask, shape (h,).
        """
        return np.array([e.kind is None for e in self.explanations])


def depths_to_work_out(depth_range_m: tuple[float, float]) -> Floats:
    """Return the depths of the line that explanations are worked out for.

    Args:
        depth_range_m: Least and greatest depth expected of it [m].

    Returns:
        Depths from half the least to twice the greatest, shape (d,) [m].
    """
    low, high = depth_range_m
    return np.geomspace(0.5 * low, 2.0 * high, _DEPTHS)


def worked_out(
    explanations: Sequence[Explanation],
    at_m: Floats,
    depths_m: Floats,
    receiver: Receiver,
    *,
    width: int = 0,
) -> Rivals:
    """Work out what every explanation would show to somebody who follows its peak.

    Args:
        explanations: h explanations at the same places.
        at_m: Those places along the line, shape (n,) [m].
        depths_m: Depths of the line to work them out for, evenly spaced in their logarithm, shape (d,) [m].
        receiver: The kit's receiver.
        width: How many conductors each has room for; 0: as many as the most have.

    Returns:
        The explanations with what they show.
    """
    most = max(width, *(len(e.conductors.amps) for e in explanations))
    shape = (len(explanations), len(at_m), most)
    amps, offset = np.zeros(shape, dtype=np.complex128), np.zeros(shape)
    fixed, ratio = np.full((shape[0], most), np.nan), np.ones((shape[0], most))
    follows = np.zeros((shape[0], len(at_m)))
    for k, e in enumerate(explanations):
        c, m = e.conductors, len(e.conductors.amps)
        amps[k, :, :m], offset[k, :, :m] = c.amps.T, c.offset_m.T
        fixed[k, :m], ratio[k, :m] = c.depth_m, c.depth_ratio
        follows[k] = c.offset_m[e.follows]
    together = Together(amps, offset, fixed, ratio)
    rows = [slice(first, first + _TOGETHER) for first in range(0, shape[0], _TOGETHER)]
    each = []
    for depth in depths_m:
        down = np.broadcast_to(together.down_m(np.full((shape[0], 1), depth)), shape)
        each.append([apparent(amps[r], offset[r], down[r], follows[r], receiver) for r in rows])
    fields = Apparent.__dataclass_fields__
    found = Apparent(*(np.stack([np.concatenate([getattr(a, f) for a in one]) for one in each], 1) for f in fields))
    return Rivals(tuple(explanations), at_m, depths_m, found, together)
