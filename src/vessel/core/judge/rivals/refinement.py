"""The likeliest explanations fitted to what was read: the line and what lies beside it, together.

Each explanation has other conductors where records, a forecast or a grid put them. What they carry, its phase and how
it changes along the line, how far aside and how deep they lie are let go, as far as each is in doubt, and fitted at all
stations at once by Gauss and Newton's method (least squares, robust by weights; Huber 1964). What the fit leaves in
doubt is in the depth and the place at each station; an explanation's likelihood is integrated over it by Laplace's
approximation.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats, Index, Mask
from vessel.core.judge.rivals.at_stations import AtStations, at_stations
from vessel.core.judge.rivals.explained_across import ReadAcross
from vessel.core.judge.rivals.explanations import Conductors, Explanation
from vessel.core.judge.rivals.likelihood import heavy_weights, shape_residuals
from vessel.core.judge.rivals.read_over_ground import Read
from vessel.core.judge.rivals.worked_out_rivals import Rivals, worked_out

_EACH, _MOST = 2, 20  # how many of a case are fitted, and of all
_ENTERED = 6  # of the line as entered: in what way it is decides what its neighbours carry
_WITHIN = 25.0  # how far behind the best, as a logarithm
_ROUNDS, _DEPTHS = 2, 4
_FREE = 2  # conductors let go in one explanation
_FURTHEST = 2.5  # standard deviations that a fit may go from where it began
_ALONG, _ALONG_SOLVED = 0.3, 0.02  # the make of a line entered by hand is often a guess; a solved one has its own
_STEPS = np.array([0.2, 0.25, 0.08, 0.12, 0.2])
"""Steps of the slopes: strength and phase [rad] of the current, metres aside, depth, and how the strength changes from
the middle of the line to its far end; logarithms but for the metres."""


def _open(e: Explanation, k: int) -> Floats:
    """How far conductor `k` of an explanation may be from where it is put, as standard deviations, shape (5,)."""
    aside = float(np.abs(e.conductors.offset_m[k]).mean())
    if k in e.rivals:  # a point of a grid
        return np.array([0.35, 0.3, 0.15 + 0.1 * aside, 0.15, _ALONG_SOLVED])
    if e.kind == "known_moved":
        return np.array([0.7, 0.5, 0.15 + 0.15 * aside, 0.3, _ALONG])
    return np.array([0.7, 0.5, 0.05 + 0.05 * aside, 0.1, _ALONG])


def _nudged(c: Conductors, k: int, by: Floats) -> Conductors:
    """Conductors of which `k` carries more, turned, lies further aside and deeper, and gains along the line."""
    amps, offset, depth, ratio = c.amps.copy(), c.offset_m.copy(), c.depth_m.copy(), c.depth_ratio.copy()
    along = np.linspace(-1.0, 1.0, amps.shape[1])
    amps[k] *= np.exp(by[0] + 1j * by[1] + by[4] * along)
    offset[k] += by[2] * np.where(offset[k] < 0, -1.0, 1.0)
    depth[k] *= np.exp(by[3])
    ratio[k] *= np.exp(by[3])
    return Conductors(amps, offset, depth, ratio)


@dataclass(frozen=True, eq=False)
class _Fit:
    """One explanation being fitted: which conductors are free, how far (p,), and by how much they are moved (p,)."""

    explanation: Explanation
    free: tuple[int, ...]
    open: Floats
    moved: Floats

    def at(self, moved: Floats) -> Explanation:
        c = self.explanation.conductors
        for k, by in zip(self.free, moved.reshape(-1, len(_STEPS)), strict=True):
            c = _nudged(c, k, by)
        return replace(self.explanation, conductors=c)

    def stepped(self) -> list[Explanation]:
        """The explanation as it is fitted now, then one step along each parameter."""
        steps = np.diag(np.tile(_STEPS, len(self.free)))
        return [self.at(self.moved), *(self.at(self.moved + step) for step in steps)]


@dataclass(frozen=True, eq=False)
class Refined:
    """r fitted explanations: `rivals` with what they show, and what the fit leaves open.

    `log_prior`, `log_width` (r,): logarithms of what the fit takes off their likelihood: for how far it went, and for
    how little of what was open before is left. `depth_spread` as a logarithm and `aside_spread_m`, both (r, s).
    """

    rivals: Rivals
    log_prior: Floats
    log_width: Floats
    depth_spread: Floats
    aside_spread_m: Floats

    def only(self, which: Mask) -> Refined:
        """Return some of the fits.

        Args:
            which: Those to keep, shape (r,).

        Returns:
            The same, the others left out.
        """
        parts = (getattr(self, f)[which] for f in ("log_prior", "log_width", "depth_spread", "aside_spread_m"))
        return Refined(self.rivals.only(which), *parts)


def worth_fitting(rivals: Rivals, log_chance: Floats) -> Index:
    """Return which explanations are fitted: the likeliest of each kind that has anything beside the line.

    Args:
        rivals: h explanations.
        log_chance: Logarithm of the chance of each, shape (h,).

    Returns:
        Their indices, shape (r,).
    """
    found: list[int] = []
    every = rivals.explanations
    best = float(log_chance.max())
    apart = [(e.kind, e.follows > 0) for e in every]  # the line followed and another followed are not one case
    for case in dict.fromkeys(apart):
        own = [k for k, e in enumerate(every) if apart[k] == case and not e.like_entered and len(e.conductors.amps) > 1]
        own = sorted((k for k in own if log_chance[k] > best - _WITHIN), key=lambda k: -log_chance[k])
        found += _one_of_each_grid(own, every)[: _ENTERED if case == (None, False) else _EACH]
    return np.array(sorted(sorted(found, key=lambda k: -log_chance[k])[:_MOST]), dtype=np.intp)


def _one_of_each_grid(own: Sequence[int], every: Sequence[Explanation]) -> list[int]:
    """Of explanations, likeliest first, those that are points of no grid, and of each grid the first."""
    first = {every[k].grid: k for k in reversed(own)}
    return [k for k in own if every[k].grid < 0 or first[every[k].grid] == k]


def standing_for_grids(rivals: Rivals, which: Index, log_chance: Floats) -> Floats:
    """Return the chances where each fitted point of a grid stands for the whole of it.

    Args:
        rivals: h explanations.
        which: Those that were fitted, shape (r,).
        log_chance: Logarithm of the chance of each, shape (h,).

    Returns:
        The same, the weight of the other points with the fitted one, shape (h,).
    """
    found, grids = log_chance.copy(), np.array([e.grid for e in rivals.explanations])
    for k in which.tolist():
        if grids[k] >= 0:
            own = grids == grids[k]
            found[own] = -np.inf
            found[k] = log_chance[k] + np.log(rivals.weights[own].sum() / rivals.weights[k])
    return found


def refine(rivals: Rivals, which: Index, read: Read) -> Refined:
    """Fit explanations to everything that was read.

    Args:
        rivals: h explanations, worked out.
        which: Those to fit, shape (r,).
        read: What they are fitted to.

    Returns:
        The fitted explanations.
    """
    fits = [_begun(rivals.explanations[k]) for k in which.tolist()]
    solved: list[_Solved] = []
    for _ in range(_ROUNDS):
        block = _shown([e for f in fits for e in f.stepped()], rivals, read)
        solved, first = [], 0
        for f in fits:
            rows = slice(first, first + 1 + len(f.open))
            solved.append(_solved(f, block, rows, read))
            first = rows.stop
        fits = [replace(f, moved=s.moved) for f, s in zip(fits, solved, strict=True)]
    width = rivals.together.amps.shape[2]
    last = worked_out([f.at(f.moved) for f in fits], rivals.at_m, rivals.depths_m, read.receiver, width=width)
    return Refined(
        last,
        np.array([-0.5 * float(((f.moved / f.open) ** 2).sum()) for f in fits]),
        np.array([s.log_width for s in solved]),
        np.array([s.depth_spread for s in solved]),
        np.array([s.aside_spread_m for s in solved]),
    )


def _begun(e: Explanation) -> _Fit:
    c = e.conductors
    pull = np.abs(c.amps[1:]).mean(1) / np.maximum(np.abs(c.offset_m[1:]).mean(1), 0.3) ** 2
    free = tuple(sorted((1 + np.argsort(-pull)[:_FREE]).tolist()))
    return _Fit(e, free, np.concatenate([_open(e, k) for k in free]), np.zeros(len(_STEPS) * len(free)))


def _shown(every: Sequence[Explanation], like: Rivals, read: Read) -> tuple[Rivals, AtStations]:
    at_m, depth = read.used.distance_m, read.used.depth_m
    beside = like.beside(at_m)  # a few stations need few of the places
    every = [replace(e, conductors=e.conductors.at_places(beside)) for e in every]
    # no depth is further from what was read than this, or the fit is not worth having
    depths_m = np.geomspace(0.6 * depth.min(), 1.7 * depth.max(), _DEPTHS)
    out = worked_out(every, like.at_m[beside], depths_m, read.receiver, width=like.together.amps.shape[2])
    return out, at_stations(out, at_m, depth)


@dataclass(frozen=True, eq=False)
class _Solved:
    moved: Floats
    log_width: float
    depth_spread: Floats
    aside_spread_m: Floats


def _solved(f: _Fit, block: tuple[Rivals, AtStations], rows: slice, read: Read) -> _Solved:
    """One round for one explanation: residuals of currents, lift, null and readings across, all against doubt."""
    out, there = block
    steps = np.tile(_STEPS, len(f.free))
    own = there.of(rows)
    amps = (read.log_amps - own.log_current) / read.doubt.own
    shape = shape_residuals(read.used, own, read.noise, read.depth_range_m)
    heavy = np.concatenate([shape, *_across(f, out.rows(rows), own, read)], axis=1)
    weights = heavy_weights(heavy[0])
    z = np.concatenate([amps, heavy * np.sqrt(weights)], axis=1)
    slope = (z[1:] - z[0]).T / steps  # (i, p)
    common = np.zeros((z.shape[1], len(read.doubt.common)))
    common[: amps.shape[1]] = -(read.doubt.common / read.doubt.own).T
    j = np.hstack([slope, common])
    prior = np.concatenate([f.open**-2, np.ones(common.shape[1])])
    at = np.concatenate([f.moved, np.zeros(common.shape[1])])
    precision = j.T @ j + np.diag(prior)
    covariance = np.linalg.inv(precision)
    step = -covariance @ (j.T @ z[0] + prior * at)
    p = len(f.open)
    moved = np.clip(f.moved + step[:p], -_FURTHEST * f.open, _FURTHEST * f.open)
    left = covariance[:p, :p]
    log_width = 0.5 * (np.linalg.slogdet(left)[1] - 2 * np.log(f.open).sum())

    def spread(values: Floats) -> Floats:
        """What the fit leaves open of a value at each station."""
        by = (values[1:] - values[0]) / steps[:, None]
        return np.asarray(np.sqrt(np.maximum(np.einsum("ps,pq,qs->s", by, left, by), 0.0)))

    return _Solved(moved, float(log_width), spread(np.log(own.true_depth_m)), spread(own.offset_m))


def _across(f: _Fit, out: Rivals, own: AtStations, read: Read) -> list[Floats]:
    """Residuals of readings across; of what may lie on either side, as seen from the side that fits better."""
    across = ReadAcross(out, read.used, own, read.receiver)
    sides = [list(across.residuals(side)) for side in (1.0, -1.0)]
    if not f.explanation.either_side:
        return sides[0]
    return min(sides, key=lambda each: sum(float((z[0] ** 2).sum()) for z in each))
