"""The rivals weighed: everything read and seen against what each would show, and the chance of a wrong mark.

Bayes' rule over all explanations at once: the weight of each before any reading, times how well it foretold what was
read (`likelihood`), times what evidence of identity says of it (`identity_evidence`).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.base.arrays import Floats, Index, Mask
from vessel.core.judge.rivals.at_stations import (
    PLACE_SPREAD_M,
    AtStations,
    Unexplained,
    aside_under,
    at_stations,
    noise_in,
    unexplained,
)
from vessel.core.judge.rivals.chances import Weighed, WeighedPlace
from vessel.core.judge.rivals.explained_across import ReadAcross
from vessel.core.judge.rivals.followed_on import as_entered_before, led_on, like_entered, may_have_left
from vessel.core.judge.rivals.identity_evidence import Astray, likely_for_each
from vessel.core.judge.rivals.likelihood import CurrentDoubt, of_looks, of_ohms
from vessel.core.judge.rivals.mark_doubt import MarkDoubt, lies_at, pull_doubt
from vessel.core.judge.rivals.read_over_ground import Read, foretold
from vessel.core.judge.rivals.refinement import Refined, refine, standing_for_grids, worth_fitting
from vessel.core.judge.rivals.rival_kinds import Plant, RivalId, left_by_open_bonds
from vessel.core.judge.rivals.used_stations import UsedStations
from vessel.core.judge.rivals.worked_out_rivals import Rivals
from vessel.core.model.identity import EVIDENCE, Evidence, LineEnd, bonds_kept_open
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading

_MANY, _NO_CHANCE = 300, 1e-6
_WITHIN = 1.96
_LOST = 3.0  # a fit worse by this than where it began, as a logarithm, lost its way


@dataclass(frozen=True)
class Circumstances:
    """What stations are weighed under.

    `drive`: what the transmitter puts out, in the unit the explanations' currents are per. `depth_range_m`: least and
    greatest depth expected of the line; `tolerance_m`: half-width of the zone round a mark [m]. `noise_t` (n,): rms
    noise in each coil at each station [T]. `read_ohms`: what the transmitter showed [ohm], None if it was not read or
    cannot tell; `stake_ohm`: stake and clip by their formula [ohm]. `hookup_m`: where along the line it is hooked up
    [m]. `depth_known` (n,): how well each depth is known for the soil's sake, as a logarithm. `plant`: what kind of
    plant the line is. `drawn_bonds`: ends of the line at which a bond is entered. `leads_m`: where the leads are [m],
    from which currents run away; None by clamp or coil. `begins_beside`: ends of the line at which something that is
    entered beside it begins or ends. `swept`: the line on the circle of the first sweep, with a look aside; None: not
    swept.
    """

    drive: float
    depth_range_m: tuple[float, float]
    tolerance_m: float
    noise_t: Floats
    receiver: Receiver
    read_ohms: float | None
    stake_ohm: float
    hookup_m: float
    depth_known: Floats
    plant: Plant
    drawn_bonds: frozenset[LineEnd] = frozenset()
    leads_m: float | None = None
    begins_beside: frozenset[LineEnd] = frozenset()
    swept: UsedStations | None = None


@dataclass(frozen=True, eq=False)
class ByReadings:
    """The rivals weighed by what was read, before any answer.

    `rivals`, the likeliest fitted; `log_chance` (h,), unscaled; `wrong`, `aside` (h, n), `read` (n,), `astray` as in
    `Weighed`. `used`: s stations with depth and current; `there`, `doubt` at them, None without any. `under`: what they
    were weighed under.
    """

    rivals: Rivals
    log_chance: Floats
    wrong: Floats
    aside: Floats
    read: Mask
    astray: Astray
    used: UsedStations
    there: AtStations | None
    doubt: MarkDoubt | None
    under: Circumstances


def by_readings(
    rivals: Rivals, readings: Sequence[StationReading], doubt: CurrentDoubt, under: Circumstances
) -> ByReadings:
    """Weigh all explanations of a hookup by everything that was read.

    Args:
        rivals: The explanations, worked out.
        readings: n stations.
        doubt: What the forecast of the current leaves open at the stations.
        under: What they are weighed under.

    Returns:
        Their likelihood with their priors, and what a mark at each station would be under each.
    """
    if len(readings) > _MANY:
        rivals = _not_ruled_out(rivals, readings, doubt, under)
    prior = np.log(np.maximum(rivals.weights, 1e-12))
    if under.read_ohms is not None:
        prior += of_ohms(rivals.explanations, under.read_ohms, under.stake_ohm)
    if under.swept is not None:
        prior += of_looks(under.swept, at_stations(rivals, under.swept.distance_m, under.swept.depth_m, under.receiver))
    read = np.array([bool(r.current_a) and r.depth_m is not None for r in readings], dtype=bool)
    used = UsedStations.of([r for r, use in zip(readings, read, strict=True) if use])
    if used.count:
        return _over_the_ground(rivals, prior, read, used, doubt, under)
    far = np.abs(rivals.shown.offset_m.mean(1)) > under.tolerance_m  # (h, n)
    far |= rivals.like_entered[:, None]
    astray = Astray(rivals.at_m, far.astype(float), far[:, -1].astype(float), far.mean(1))
    none = np.zeros((len(prior), len(readings)))
    return ByReadings(rivals, prior, none, none, read, astray, used, None, None, under)


def _not_ruled_out(
    rivals: Rivals, readings: Sequence[StationReading], doubt: CurrentDoubt, under: Circumstances
) -> Rivals:
    """What some of many stations rule out, the rest do not bring back."""
    some = _some(len(readings))
    part = replace(under, depth_known=under.depth_known[some], noise_t=under.noise_t[some])
    read = [r for r, kept in zip(readings, some.tolist(), strict=True) if kept]
    few = by_readings(rivals, read, CurrentDoubt(doubt.common[:, some], doubt.own[some]), part)
    grids = np.array([e.grid for e in rivals.explanations])
    left = _normal(few.log_chance) > _NO_CHANCE
    return rivals.only(left | rivals.entered | np.isin(grids, grids[left & (grids >= 0)]))


def _some(count: int) -> Mask:
    """Which of many stations are enough, evenly taken; all of few."""
    each = 1 if count <= _MANY else -(-count // (_MANY // 2))
    return np.asarray(np.arange(count) % each == 0)


def _between(at_m: Floats, some_m: Floats, values: Floats) -> Floats:
    """Values (r, p) at some places as they are at all of them, (r, s)."""
    order = np.argsort(some_m, kind="stable")
    return np.array([np.interp(at_m, some_m[order], row[order]) for row in values])


def _over_the_ground(
    rivals: Rivals,
    prior: Floats,
    read: Mask,
    used: UsedStations,
    doubt: CurrentDoubt,
    under: Circumstances,
) -> ByReadings:
    at_m, depth, amps = used.distance_m, used.depth_m, used.current_a
    noise = noise_in(used, under.noise_t[read], under.receiver)
    open_there = CurrentDoubt(doubt.common[:, read], doubt.own[read])
    known = Read(
        used, np.log(amps / under.drive), open_there, noise, under.receiver, under.depth_range_m, under.leads_m
    )
    there = at_stations(rivals, at_m, depth, under.receiver)
    likely = foretold(rivals, there, known)
    pull, off_m = pull_doubt(used, there), np.zeros(there.offset_m.shape)
    which = worth_fitting(rivals, prior + likely)
    if len(which):
        some = _some(used.count)
        which, fitted, fitted_there, log_found = _fitted_better(rivals, which, known, likely, some)
        rivals, there = rivals.replaced(which, fitted.rivals), there.replaced(which, fitted_there)
        likely[which] = log_found
        pull[which], off_m[which] = (
            values if some.all() else _between(at_m, at_m[some], values)
            for values in (fitted.depth_spread, fitted.aside_spread_m)
        )
    log_chance = standing_for_grids(rivals, which, prior + likely)
    log_chance[rivals.like_entered] = like_entered(rivals, prior, log_chance, there, known)
    there, pull, off_m = as_entered_before(rivals, log_chance, there, pull, off_m)
    there = led_on(rivals, there, at_m)
    lies = lies_at(used, there, noise, np.hypot(pull, under.depth_known[read]))
    marked = np.exp(_normal(log_chance) @ np.log(lies.depth_m))
    wrong, aside = np.zeros((2, len(prior), len(read)))
    aside[:, read] = aside_under(there, under.tolerance_m, np.hypot(PLACE_SPREAD_M, off_m))
    of_marks = MarkDoubt(aside[:, read], may_have_left(rivals, at_m), lies)
    wrong[:, read] = of_marks.wrong(marked)
    off = np.maximum(np.abs(there.offset_m) > under.tolerance_m, of_marks.gone)
    at_end = off[:, int(np.abs(at_m - under.hookup_m).argmax())]
    astray = Astray(at_m, off, at_end, wrong[:, read].mean(1))
    return ByReadings(rivals, log_chance, wrong, aside, read, astray, used, there, of_marks, under)


def _fitted_better(
    rivals: Rivals, which: Index, known: Read, likely: Floats, some: Mask
) -> tuple[Index, Refined, AtStations, Floats]:
    """Those of `which` that a fit makes better, fitted, what they show, and the logarithm of their likelihood over what
    it left open.

    Where currents nearly cancel, a fit may lose its way: what is much worse than where it began is not taken.
    """
    fitted = refine(rivals, which, known.part(some))
    there = at_stations(fitted.rivals, known.used.distance_m, known.used.depth_m, known.receiver)
    found = fitted.log_prior + foretold(fitted.rivals, there, known)
    better = found > likely[which] - _LOST
    return which[better], fitted.only(better), there.of(np.flatnonzero(better)), (found + fitted.log_width)[better]


def answered(b: ByReadings, evidence: Sequence[Evidence]) -> Weighed:
    """Return the rivals with what answers say of them.

    Args:
        b: The rivals weighed by what was read.
        evidence: What shows which line it is.

    Returns:
        The chance of each explanation, and of a wrong mark under it at each station.
    """
    every, opened = b.rivals.explanations, bonds_kept_open(evidence)
    located = any(e.kind == "beside_located" and e.answer == "for" for e in evidence)
    if located and opened <= b.under.begins_beside:  # what is kept off there is among what is entered
        beside: Mapping[RivalId, float] = {}
    else:
        beside = left_by_open_bonds(b.under.plant, opened)
    log_chance = b.log_chance + np.log([1.0 if e.kind is None else beside.get(e.kind, 1.0) for e in every])
    doubt, wrong = b.doubt, b.wrong
    for e in evidence:
        if e.answer != "cannot" and not _says_nothing(e, opened, b.under.drawn_bonds):
            log_chance += np.log(likely_for_each(every, e, b.astray))
        if doubt is not None and e.at_m is not None and e.depth_m is not None:
            log_chance += np.log(doubt.lies.likely(e.at_m, e.depth_m))
            doubt = doubt.dug(e.at_m, e.depth_m)
    told = _normal(np.where(b.rivals.like_entered, -np.inf, log_chance))
    placed = _placed(_told_at(b, log_chance), b.rivals.sided, b.there, doubt, b.read)
    if doubt is not None and doubt is not b.doubt:
        wrong = wrong.copy()
        wrong[:, b.read] = doubt.wrong(placed.depth_m[b.read])
    drawn = np.array([e.kind in (None, "known_moved") for e in every])
    left = _left(told, _normal(np.where(drawn, log_chance, -np.inf)), b)
    return Weighed(
        b.rivals,
        _normal(log_chance),
        wrong,
        b.aside,
        b.read,
        b.astray,
        placed,
        left,
        b.under.drawn_bonds,
        doubt,
    )


def _says_nothing(e: Evidence, opened: frozenset[LineEnd], drawn: frozenset[LineEnd]) -> bool:
    """Whether a look tells nothing: what was seen there is off now, or may be what is entered there."""
    kind = EVIDENCE[e.kind]
    return kind.look and (kind.end in opened or (e.answer == "against" and kind.end in drawn))


def _told_at(b: ByReadings, log_chance: Floats) -> Floats:
    """Chance of each explanation (e,) at each station read (k,), by which depth and place are told.

    Past where another line goes on, the line may be anywhere: no range holds that. Before it the line lies as entered,
    and what was read past it says nothing of the line here.
    """
    at_m, silent = b.used.distance_m, np.zeros((len(log_chance), b.used.count), dtype=bool)
    for k in np.flatnonzero(b.rivals.like_entered):
        e = b.rivals.explanations[k]
        silent[k] = e.past(at_m) if e.kind == "goes_on" else True
    at = np.where(silent, -np.inf, log_chance[:, None])
    chance = np.exp(at - at.max(0, initial=-np.inf))
    return np.asarray(chance / chance.sum(0))


def _normal(log_chance: Floats) -> Floats:
    chance = np.exp(log_chance - log_chance.max())
    return np.asarray(chance / chance.sum())


def _left(chance: Floats, drawn: Floats, b: ByReadings) -> Unexplained:
    read, there = b.read, b.there
    found = Unexplained(*np.full((6, len(read)), np.nan))
    if there is not None:
        alive = chance > _NO_CHANCE
        across = ReadAcross(b.rivals.only(alive), b.used, there.of(np.flatnonzero(alive)), b.under.receiver)
        some = unexplained(b.used, there, chance, drawn, across.left(chance[alive]))
        for name, values in vars(some).items():
            getattr(found, name)[read] = values
    return found


def _placed(
    chance: Floats, sided: Floats, there: AtStations | None, doubt: MarkDoubt | None, read: Mask
) -> WeighedPlace:
    """Mean and spread of place and depth over all explanations, whose `chance` (e, k) is that at each station read."""
    found = [np.full(len(read), np.nan) for _ in range(4)]
    if there is not None and doubt is not None:
        lies = doubt.lies
        log_depth = np.log(lies.depth_m)
        depth, aside = (chance * log_depth).sum(0), (chance * sided[:, None] * there.offset_m).sum(0)
        depth_spread = np.sqrt((chance * ((log_depth - depth) ** 2 + lies.spread**2)).sum(0))
        aside_spread = np.sqrt(np.maximum((chance * there.offset_m**2).sum(0) - aside**2, 0.0) + PLACE_SPREAD_M**2)
        values = np.exp(depth), _WITHIN * depth_spread * np.exp(depth), -aside, _WITHIN * aside_spread
        for each, value in zip(found, values, strict=True):
            each[read] = value
    return WeighedPlace(*found)
