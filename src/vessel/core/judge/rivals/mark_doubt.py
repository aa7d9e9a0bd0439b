"""How deep and how far aside each explanation puts the line under a mark, and what a depth measured in a hole says."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from scipy.special import ndtr

from vessel.core.base.arrays import Floats
from vessel.core.judge.rivals.at_stations import AtStations, Noise
from vessel.core.judge.rivals.used_stations import UsedStations

DEPTH_WITHIN = 0.10
"""Share of its depth by which a mark's depth may be off."""
_DEPTH_MODEL = 0.012  # what a depth is off by however quiet it is, soil and ends undone, as a logarithm
_PULL_DOUBT = 0.25  # how well what pulls a depth is known, against the pull
_FROM_LIFT, _USUAL_PULL_M, _HAND_M = 0.7, 0.05, 0.04  # the hand that lifts errs as well
_DUG = 0.03  # how well a depth is measured in a hole, as a logarithm
_DUG_WRONG = 0.02  # how often that is not the line's depth there
_ALIKE_M = 40.0  # how far along a line what pulls its depth stays alike


@dataclass(frozen=True, eq=False)
class Lies:
    """How deep the line lies at s stations `at_m` [m] under each of h explanations.

    `depth_m` [m] and its spread as a logarithm, (h, s); `common` (h, s): the part of that spread which is alike along
    the line: what lies beside it and the soil pull all its depths.
    """

    at_m: Floats
    depth_m: Floats
    spread: Floats
    common: Floats

    def agrees(self, place_m: float, depth_m: float) -> Floats:
        """Return how well a depth measured in a hole agrees with each explanation.

        Args:
            place_m: Distance along the line [m].
            depth_m: Depth of the line there [m].

        Returns:
            From 0 to 1, shape (h,).
        """
        depth, spread, _ = self._there(place_m)
        return np.asarray(np.exp(-0.5 * np.log(depth_m / depth) ** 2 / (spread**2 + _DUG**2)))

    def likely(self, place_m: float, depth_m: float) -> Floats:
        """Return how likely each explanation makes a depth measured in a hole.

        Args:
            place_m: Distance along the line [m].
            depth_m: Depth of the line there [m].

        Returns:
            Density, to a common factor, shape (h,).
        """
        against = np.hypot(self._there(place_m)[1], _DUG)
        return np.asarray((1 - _DUG_WRONG) * self.agrees(place_m, depth_m) / against + _DUG_WRONG)

    def dug(self, place_m: float, depth_m: float) -> Lies:
        """Return the depths as one measured in a hole leaves them.

        Depths that are pulled alike move together: the mean and spread of one normal value where another that goes
        with it is known. What an explanation does not leave open is the pull of something unknown: as much as it takes,
        alike along the line.

        Args:
            place_m: Distance along the line [m].
            depth_m: Depth of the line there [m].

        Returns:
            The depths under each explanation with that one known.
        """
        depth, spread, common = self._there(place_m)
        off = np.log(depth_m / depth)
        more = np.maximum(off**2 - spread**2 - _DUG**2, 0.0)
        here, along = np.sqrt(common**2 + more)[:, None], np.sqrt(self.common**2 + more[:, None])
        alike = here * along * np.exp(-np.abs(self.at_m - place_m) / _ALIKE_M)
        gain = alike / (spread**2 + more + _DUG**2)[:, None]
        known = gain * alike
        return replace(
            self,
            depth_m=self.depth_m * np.exp(gain * off[:, None]),
            spread=np.sqrt(np.maximum(self.spread**2 + more[:, None] - known, _DEPTH_MODEL**2)),
            common=np.sqrt(np.maximum(along**2 - known, 0.0)),
        )

    def _there(self, place_m: float) -> tuple[Floats, Floats, Floats]:
        """Depth, its spread and the common part of it at a place, between the stations beside it, (h,)."""
        order = np.argsort(self.at_m, kind="stable")
        along = self.at_m[order]
        k = int(np.clip(np.searchsorted(along, place_m) - 1, 0, max(len(along) - 2, 0)))
        after = min(k + 1, len(along) - 1)
        share = float(np.clip((place_m - along[k]) / max(along[after] - along[k], 1e-9), 0.0, 1.0))

        def at(values: Floats) -> Floats:
            return np.asarray(values[:, order[k]] * (1 - share) + values[:, order[after]] * share)

        return np.exp(at(np.log(self.depth_m))), at(self.spread), at(self.common)


def pull_doubt(used: UsedStations, there: AtStations) -> Floats:
    """Return how well what pulls a depth is known where nothing was fitted.

    Args:
        used: s stations with depth and current.
        there: What every explanation shows at them.

    Returns:
        Standard deviation as a logarithm, shape (h, s).
    """
    return np.asarray(_PULL_DOUBT * np.abs(np.log(there.true_depth_m / used.depth_m)))


def lies_at(used: UsedStations, there: AtStations, noise: Noise, pull: Floats) -> Lies:
    """What the depth read means under each explanation, and how well it tells the depth there.

    What pulls a lift beyond what an explanation has makes its depth wrong by about as much, one way or the other: a
    twin near by makes it too deep, a return on the far side too shallow, and both shorten the lift. What noise does to
    the lift says nothing.

    Args:
        used: s stations with depth and current.
        there: What every explanation shows at them.
        noise: What the noise does to their depths.
        pull: How well what pulls each depth is known, as a logarithm, shape (h, s).

    Returns:
        Depth and spread.
    """
    left = np.nan_to_num(np.clip(used.lift_error - there.lift, -1.0, 1.0) * used.lift_height_m)
    pull2 = _USUAL_PULL_M**2
    weight = _FROM_LIFT * pull2 / (pull2 + _HAND_M**2 + noise.depth_m**2 + noise.lifted_m**2)
    depth = np.maximum(there.true_depth_m, 0.02)
    own = _DEPTH_MODEL**2 + (noise.depth_m / depth) ** 2
    return Lies(used.distance_m, depth, np.sqrt(own + pull**2 + (weight * left / depth) ** 2), pull)


@dataclass(frozen=True, eq=False)
class MarkDoubt:
    """What is in doubt of a mark at each of s stations under each of h explanations.

    `aside` (h, s): the chance that its place is wrong; `gone` (h, s): that a branch is followed which began before.
    """

    aside: Floats
    gone: Floats
    lies: Lies

    def wrong(self, marked_m: Floats) -> Floats:
        """Return the chance that a mark is wrong, in place or depth.

        Args:
            marked_m: The depths that marks give, shape (s,) [m].

        Returns:
            Chance, shape (h, s).
        """
        bias, spread = np.log(marked_m / self.lies.depth_m), self.lies.spread
        deep = 1 - (ndtr((DEPTH_WITHIN - bias) / spread) - ndtr((-DEPTH_WITHIN - bias) / spread))
        return np.asarray(np.maximum(1 - (1 - self.aside) * (1 - deep), self.gone))

    def dug(self, place_m: float, depth_m: float) -> MarkDoubt:
        """Return the same with the depth measured in a hole.

        Args:
            place_m: Distance along the line [m].
            depth_m: Depth of the line there [m].

        Returns:
            What is in doubt then.
        """
        return replace(self, lies=self.lies.dug(place_m, depth_m))
