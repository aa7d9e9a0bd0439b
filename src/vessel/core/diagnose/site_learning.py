"""Learning the site from stations: soil, far end and leakage by regularised least squares, station by station.

Each explanation of a hookup is a family of currents: the logarithm of the current along the line, quadratic in unknowns
that are standard normal before anything is read. What the stations leave of each, and of the explanations among
themselves, is the posterior of Gauss and Laplace (Tarantola 2005, ch. 3); which explanation they speak for follows from
how well each foretold them, one after the other.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.optimize import least_squares

from vessel.core.base.arrays import Floats, Mask
from vessel.core.diagnose.current_family import CurrentFamily, UnknownId

STILL_LIKELY = 0.05
"""An explanation this likely, against the leader, still widens the band."""
LEAST = 3
"""Stations from which on they narrow a forecast."""
_FORETOLD = 2.0  # surprise a station, on the mean (1 is as expected), beyond which no explanation is any good
_SURPRISE = 9.0  # one station speaks no louder than three standard deviations against an explanation
_TOLD = 0.8  # of what was unknown before: with this much left an unknown counts as known
_WILD = 2.0  # standard deviations from which on a station counts less and less


@dataclass(frozen=True, eq=False)
class Seen:
    """Stations (k,): distance [m], ln of the current [ln A], its spread; whether each `counts`; `from_m` the hookup."""

    at_m: Floats
    log_a: Floats
    spread: Floats
    counts: Mask
    from_m: float


@dataclass(frozen=True, eq=False)
class Left:
    """What stations leave of one explanation, the `index`-th of those asked about, and how likely it is now.

    Its unknowns (p,) with covariance (p, p).
    """

    index: int
    family: CurrentFamily
    z: Floats
    covariance: Floats
    likely: float

    def factor(self, of: UnknownId) -> float:
        """Return the factor by which an unknown is off what was assumed.

        Args:
            of: Which unknown.

        Returns:
            The factor; 1 if this explanation does not have that unknown.
        """
        k = self._place(of)
        return 1.0 if k is None else float(np.exp(self.family.unknowns[k].spread * self.z[k]))

    def _place(self, of: UnknownId) -> int | None:
        return next((k for k, u in enumerate(self.family.unknowns) if u.id == of), None)

    def off(self, of: UnknownId) -> float | None:
        """Return the spread that is left of an unknown.

        Args:
            of: Which unknown.

        Returns:
            Standard deviation of the factor's logarithm; None if this explanation does not have that unknown.
        """
        k = self._place(of)
        return None if k is None else self.family.unknowns[k].spread * float(np.sqrt(self.covariance[k, k]))

    def told(self, of: UnknownId) -> bool:
        """Return whether the stations narrow an unknown clearly.

        Args:
            of: Which unknown.

        Returns:
            True if clearly less of it is unknown than before.
        """
        k = self._place(of)
        return k is not None and float(np.sqrt(self.covariance[k, k])) <= _TOLD

    def band(self, at_m: Floats) -> tuple[Floats, Floats]:
        """Return the band that should hold the line's own current.

        Args:
            at_m: Distances along the line, shape (k,) [m].

        Returns:
            Low and high edge, each of shape (k,) [A].
        """
        here = self.family.along(at_m)
        j = here.jacobian(self.z)
        return here.band(here.log_a(self.z), np.einsum("np,pq,nq->n", j, self.covariance, j))


@dataclass(frozen=True, eq=False)
class Lesson:
    """What `count` stations taught: what they leave of each explanation, likeliest first.

    `narrows`: there are enough of them, and what is left foretells them. `before_a`: between which currents (low, high)
    (k,) [A] each station should lie by those nearer the hookup, anything where those do not narrow it.
    """

    left: tuple[Left, ...]
    count: int
    narrows: bool
    before_a: tuple[Floats, Floats]

    def band(self, at_m: Floats) -> tuple[Floats, Floats]:
        """Return the band that should hold the line's own current by all stations.

        Args:
            at_m: Distances along the line, shape (k,) [m].

        Returns:
            Low and high edge, each of shape (k,) [A].
        """
        each = [x.band(at_m) for x in self.left if x.likely >= STILL_LIKELY * self.left[0].likely]
        return np.min([low for low, _ in each], 0), np.max([high for _, high in each], 0)


def learn(families: Sequence[CurrentFamily], seen: Seen) -> Lesson:
    """Return what stations teach about the explanations of a hookup.

    Args:
        families: One for each explanation, at least one.
        seen: Currents read at stations, with their spread.

    Returns:
        How likely each explanation is now, and what is left of its unknowns.
    """
    order = np.argsort(np.abs(seen.at_m - seen.from_m), kind="stable")
    there = Seen(seen.at_m[order], seen.log_a[order], seen.spread[order], seen.counts[order], seen.from_m)
    each = [_of_one(f, there) for f in families]
    # (explanations, stations + 1): how likely before each station, and after the last
    log_likely = np.array([np.log(max(f.likely, 1e-12)) - one.cost for f, one in zip(families, each, strict=True)])
    likely = np.exp(log_likely - log_likely.max(0))
    likely /= likely.sum(0)
    counted = np.concatenate([[0], np.cumsum(there.counts)])
    surprised = np.array([one.surprised for one in each])[likely.argmax(0), np.arange(len(counted))]
    narrows = (counted >= LEAST) & (surprised <= _FORETOLD * np.maximum(counted, 1))
    open_ = likely >= STILL_LIKELY * likely.max(0)
    edges = np.array([one.band for one in each])
    low, high = (np.empty(len(order)) for _ in range(2))
    low[order] = np.where(narrows[:-1], np.where(open_[:, :-1], edges[:, 0], np.inf).min(0), 0.0)
    high[order] = np.where(narrows[:-1], np.where(open_[:, :-1], edges[:, 1], -np.inf).max(0), np.inf)
    now = likely[:, -1].tolist()
    left = [Left(k, f, *one.posterior, p) for k, (f, one, p) in enumerate(zip(families, each, now, strict=True))]
    left.sort(key=lambda x: -x.likely)
    return Lesson(tuple(left), int(counted[-1]), bool(narrows[-1]), (low, high))


@dataclass(frozen=True, eq=False)
class _One:
    """Unknowns and covariance by all stations; the band (2, k) [A] before each; cost and surprise (k + 1,) so far."""

    posterior: tuple[Floats, Floats]
    band: Floats
    cost: Floats
    surprised: Floats


def _of_one(family: CurrentFamily, seen: Seen) -> _One:
    """What stations, one after the other, leave of one explanation.

    Linear about where all stations put the unknowns: information sums up station by station.
    """
    here, p = family.along(seen.at_m), len(family.unknowns)
    z = _fitted(here, seen)
    model2 = here.model_off(here.log_a(z)) ** 2
    j, off = here.jacobian(z), np.where(seen.counts, seen.log_a - here.log_a(z), 0.0)
    scale2 = seen.spread**2 + model2
    weight = seen.counts / scale2 / np.sqrt(1 + off**2 / scale2 / _WILD**2)
    aimed = off + j @ z
    known = np.concatenate([[np.zeros((p, p))], np.cumsum(weight[:, None, None] * j[:, :, None] * j[:, None], axis=0)])
    pulled = np.concatenate([[np.zeros(p)], np.cumsum((weight * aimed)[:, None] * j, axis=0)])
    covariance = np.linalg.inv(known + np.eye(p))
    at = np.einsum("kpq,kq->kp", covariance, pulled)
    middle = here.log_a(z) + np.einsum("kp,kp->k", j, at[:-1] - z)
    variance = np.einsum("kp,kpq,kq->k", j, covariance[:-1], j)
    total = variance + model2 + seen.spread**2
    surprise = np.minimum(np.where(seen.counts, seen.log_a - middle, 0.0) ** 2 / total, _SURPRISE)
    cost = np.concatenate([[0.0], np.cumsum(np.where(seen.counts, 0.5 * (surprise + np.log(total)), 0.0))])
    surprised = np.concatenate([[0.0], np.cumsum(surprise)])
    return _One((at[-1], covariance[-1]), np.stack(here.band(middle, variance)), cost, surprised)


def _fitted(here: CurrentFamily, seen: Seen) -> Floats:
    """The unknowns (p,) that fit the stations best against what is likely of them; one wild station counts little."""
    k, p = seen.counts, len(here.unknowns)
    if not k.any() or not p:
        return np.zeros(p)
    # of the level: a spread that changed with the unknowns would draw them to where it is wide
    scale = np.hypot(seen.spread, here.model_off(here.level))[k]

    def off(z: Floats) -> Floats:
        return np.concatenate([(here.log_a(z)[k] - seen.log_a[k]) / scale, z])

    def slopes(z: Floats) -> Floats:
        return np.vstack([here.jacobian(z)[k] / scale[:, None], np.eye(p)])

    return np.asarray(
        least_squares(off, np.zeros(p), jac=slopes, loss="soft_l1", f_scale=_WILD, ftol=1e-6, xtol=1e-4).x
    )
