"""The rivals weighed: everything read and seen against what each would show, and the chance of a wrong mark.

Bayes' rule over all explanations at once: the weight of each before any reading, times how well it foretold what was
read (`likelihood`), times what evidence of identity says of it (`identity_evidence`).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.special import logsumexp

from vessel.core.base.arrays import Floats, Mask
from vessel.core.judge.rivals.at_stations import (
    PLACE_SPREAD_M,
    AtStations,
    Lies,
    Unexplained,
    aside_under,
    at_stations,
    column,
    lies_at,
    misjudged_depth,
    noise_in,
    pull_doubt,
    unexplained,
)
from vessel.core.judge.rivals.explanations import Rivals
from vessel.core.judge.rivals.identity_evidence import Astray, speaks_for_each
from vessel.core.judge.rivals.likelihood import CurrentDoubt, of_ohms, of_profiles, of_stations
from vessel.core.judge.rivals.refinement import Read, refine, worth_fitting
from vessel.core.judge.rivals.rival_kinds import RivalId
from vessel.core.model.identity import EVIDENCE, Evidence, EvidenceId
from vessel.core.model.kit import Receiver
from vessel.core.model.readings import StationReading

_MANY, _NO_CHANCE = 300, 1e-6
_WITHIN = 1.96
_ALIVE = 5e-4
_RULED_OUT = 1 / 3
_LED_OFF_M = 2.0  # where another line goes on it is well off
_UNKNOWN_M = 0.46  # what nobody thought of is about as likely within as without
_ANYTHING, _ANYTHING_ACROSS = 2.5, 2.5  # how badly anything is foretold, a station and readings across, as logarithms
_ANYTHING_AT_ALL = 5.0


@dataclass(frozen=True)
class Alive:
    """A kind of rival that is still possible, and how likely it is that it makes a mark wrong.

    `of_m`: of its likeliest case, how far aside the other conductor runs, or where it begins along the line [m].
    """

    kind: RivalId
    chance: float
    of_m: float


@dataclass(frozen=True, eq=False)
class WeighedPlace:
    """Where the line lies at s stations: depth and place left of the peak [m] with half-ranges that hold in 95 %.

    NaN where current or depth was not read.
    """

    depth_m: Floats
    depth_pm_m: Floats
    offset_m: Floats
    offset_pm_m: Floats


@dataclass(frozen=True, eq=False)
class Weighed:
    """The rivals after all evidence: `chance` (h,) of each explanation, `wrong` (h, s) of a mark at each station.

    `aside` (h, s): of one whose place is wrong, whatever its depth. `read` (s,): where current and depth were read.
    `placed`: where the line lies, all explanations weighed; `left`: what they leave of lift and null (s,).
    """

    rivals: Rivals
    chance: Floats
    wrong: Floats
    aside: Floats
    read: Mask
    astray: Astray
    placed: WeighedPlace
    left: Unexplained
    hookup_m: float

    @property
    def wrong_chance(self) -> Floats:
        """Chance that a mark at each station would be wrong, shape (s,); NaN where nothing was read."""
        return np.where(self.read, self.chance @ self.wrong, np.nan)

    @property
    def aside_chance(self) -> Floats:
        """Chance that the line lies outside the tolerance of a mark at each station, shape (s,); NaN as above."""
        return np.where(self.read, self.chance @ self.aside, np.nan)

    @property
    def other_line(self) -> float:
        """Chance that another conductor is followed somewhere."""
        return float(self.chance @ self.astray.somewhere)

    def alive(self) -> list[Alive]:
        """Return the rivals under which marks would be wrong, likeliest first.

        Returns:
            One for each kind, about the likeliest of its cases.
        """
        worst, found = self._worst, []
        for kind in dict.fromkeys(e.kind for e in self.rivals.explanations):
            own = [k for k, e in enumerate(self.rivals.explanations) if e.kind == kind]
            share = self.chance[own] * worst[own]
            if kind is not None and share.sum() >= _ALIVE:
                lead = self.rivals.explanations[own[int(share.argmax())]]
                found.append(Alive(kind, float(share.sum()), lead.of_m))
        return sorted(found, key=lambda a: -a.chance)

    def with_answer(self, kind: EvidenceId) -> Floats:
        """Return the chance of a wrong mark at each station if one more answer speaks for the line.

        Args:
            kind: What is asked.

        Returns:
            Chance, shape (s,); NaN where nothing was read.
        """
        chance = self.chance * self._likely(kind)
        return np.where(self.read, (chance / max(float(chance.sum()), 1e-300)) @ self.wrong, np.nan)

    def answer_chance(self, kind: EvidenceId) -> float:
        """Return how likely an answer is to speak for the line.

        Args:
            kind: What is asked.

        Returns:
            Probability.
        """
        return float(self.chance @ self._likely(kind))

    def ruled_out(self, kind: EvidenceId) -> tuple[RivalId, ...]:
        """Return the rivals that an answer for the line would rule out.

        Args:
            kind: What is asked.

        Returns:
            Kinds of rivals that would be at most a third as likely, likeliest first.
        """
        harm = self.chance * self._worst
        left, found = harm * self._likely(kind), []
        for rival in self.alive():
            own = np.array([e.kind == rival.kind for e in self.rivals.explanations])
            if left[own].sum() < _RULED_OUT * harm[own].sum():
                found.append(rival.kind)
        return tuple(found)

    def place_for(self, kind: EvidenceId) -> float | None:
        """Return where evidence is best found: at the furthest station, for it speaks for what lies before it.

        Args:
            kind: What is asked.

        Returns:
            Distance along the line [m]; None for what has no place, or without a station.
        """
        if not EVIDENCE[kind].placed or not self.read.any():
            return None
        at_m = self.astray.at_m
        return float(at_m[np.abs(at_m - self.hookup_m).argmax()])

    @property
    def _worst(self) -> Floats:
        """The greatest chance that a mark anywhere is wrong under each explanation, shape (h,)."""
        return np.asarray(self.wrong[:, self.read].max(1) if self.read.any() else self.astray.somewhere)

    def _likely(self, kind: EvidenceId) -> Floats:
        return speaks_for_each(self.rivals.explanations, kind, self.astray, self.place_for(kind))


@dataclass(frozen=True)
class Circumstances:
    """What stations are weighed under.

    `drive`: what the transmitter puts out, in the unit the explanations' currents are per. `depth_range_m`: least and
    greatest depth expected of the line; `tolerance_m`: half-width of the zone round a mark [m]. `noise_t`: rms noise in
    each coil [T]. `read_ohms`: what the transmitter showed [ohm], None if it was not read or cannot tell; `stake_ohm`:
    stake and clip by their formula [ohm]. `hookup_m`: where along the line it is hooked up [m]. `depth_known` (n,): how
    well each depth is known for the soil's sake, as a logarithm.
    """

    drive: float
    depth_range_m: tuple[float, float]
    tolerance_m: float
    noise_t: float
    receiver: Receiver
    read_ohms: float | None
    stake_ohm: float
    hookup_m: float
    depth_known: Floats


def weigh(
    rivals: Rivals,
    readings: Sequence[StationReading],
    doubt: CurrentDoubt,
    under: Circumstances,
    evidence: Sequence[Evidence] = (),
) -> Weighed:
    """Weigh all explanations of a hookup by everything that was read and seen.

    Args:
        rivals: The explanations, worked out.
        readings: s stations.
        doubt: What the forecast of the current leaves open at the stations.
        under: What they are weighed under.
        evidence: What shows which line it is.

    Returns:
        The chance of each explanation, and of a wrong mark under it at each station.
    """
    if len(readings) > _MANY:  # what some of the stations rule out, the rest do not bring back
        some = slice(None, None, -(-len(readings) // (_MANY // 2)))
        part = replace(under, depth_known=under.depth_known[some])
        few = weigh(rivals, readings[some], CurrentDoubt(doubt.common[:, some], doubt.own[some]), part)
        rivals = rivals.only((few.chance > _NO_CHANCE) | rivals.entered)
    log_chance = np.log(np.maximum(rivals.weights, 1e-12))
    if under.read_ohms is not None:
        log_chance += of_ohms(rivals.explanations, under.read_ohms, under.stake_ohm)
    read = np.array([bool(r.current_a) and r.depth_m is not None for r in readings], dtype=bool)
    used = [r for r, use in zip(readings, read, strict=True) if use]
    wrong, aside = np.zeros((2, len(rivals.explanations), len(readings)))
    there, lies = None, None
    far = np.abs(rivals.shown.offset_m.mean(1)) > under.tolerance_m  # (h, n)
    far |= rivals.like_entered[:, None]
    astray = Astray(rivals.at_m, far.astype(float), far[:, -1].astype(float), far.mean(1))
    if used:
        at_m, depth, amps = (
            column(used, of) for of in (lambda r: r.distance_m, lambda r: r.depth_m, lambda r: r.current_a)
        )
        there = at_stations(rivals, at_m, depth)
        noise = noise_in(used, under.noise_t, under.receiver)
        known = Read(
            used,
            np.log(amps / under.drive),
            CurrentDoubt(doubt.common[:, read], doubt.own[read]),
            noise,
            under.receiver,
            under.depth_range_m,
        )
        foretold = _foretold(rivals, there, known)
        which = worth_fitting(rivals, log_chance + foretold)
        pull, off_m = pull_doubt(used, there), np.zeros(there.offset_m.shape)
        if len(which):
            fitted = refine(rivals, which, known)
            rivals = rivals.replaced(which, fitted.rivals)
            there = at_stations(rivals, at_m, depth)
            foretold[which] = fitted.log_part + _foretold(fitted.rivals, there.of(which), known)
            pull[which], off_m[which] = fitted.depth_spread, fitted.aside_spread_m
        log_chance += foretold
        log_chance[rivals.like_entered] = _like_entered(rivals, there, known, under)
        there = _led_on(rivals, there, at_m)
        lies = lies_at(used, there, noise, np.hypot(pull, under.depth_known[read]))
        marked = np.exp(_normal(log_chance) @ np.log(lies.depth_m))
        aside[:, read] = aside_under(there, under.tolerance_m, np.hypot(PLACE_SPREAD_M, off_m))
        wrong[:, read] = 1 - (1 - aside[:, read]) * (1 - misjudged_depth(lies, marked))
        seen = np.abs(there.offset_m) > under.tolerance_m
        astray = Astray(
            at_m,
            seen.astype(float),
            seen[:, int(np.abs(at_m - under.hookup_m).argmax())].astype(float),
            wrong[:, read].mean(1),
        )
    every = rivals.explanations
    for e in evidence:
        if e.answer != "cannot":
            likely = speaks_for_each(every, e.kind, astray, e.at_m)
            log_chance += np.log(likely if e.answer == "for" else 1 - likely)
    chance = _normal(log_chance)
    # past where another line goes on, the line may be anywhere: no range holds that
    told = _normal(np.where(rivals.like_entered, -np.inf, log_chance))
    placed = _placed(told, rivals.sided, there, lies, read)
    return Weighed(rivals, chance, wrong, aside, read, astray, placed, _left(told, used, there, read), under.hookup_m)


def _foretold(rivals: Rivals, there: AtStations, known: Read) -> Floats:
    """How well each explanation foretold what was read, as a logarithm."""
    found = of_stations(known.used, there, known.log_amps, known.doubt, known.depth_range_m, known.noise)
    return found + of_profiles(rivals, known.used, there, known.receiver)


def _like_entered(rivals: Rivals, there: AtStations, known: Read, under: Circumstances) -> Floats:
    """Chances of what reads like the line as entered, all along or up to a place past which anything may be read."""
    line = rivals.only(rivals.entered)
    prior = np.log(np.maximum(line.weights, 1e-12))
    if under.read_ohms is not None:
        prior = prior + of_ohms(line.explanations, under.read_ohms, under.stake_ohm)
    at_m = column(known.used, lambda r: r.distance_m)

    def entered(which: Mask) -> float:
        if not which.any():
            return float(logsumexp(prior))
        return float(logsumexp(prior + _foretold(line, there.part(rivals.entered, which), known.part(which))))

    whole, found = entered(np.ones(len(at_m), dtype=bool)), []
    for k in np.flatnonzero(rivals.like_entered):
        e, log_chance = rivals.explanations[k], whole
        if e.anything:
            before = ~e.past(at_m) if e.kind == "goes_on" else np.zeros(len(at_m), dtype=bool)
            past = [r for r, seen in zip(known.used, before.tolist(), strict=True) if not seen]
            badly = sum(_ANYTHING + (_ANYTHING_ACROSS if r.profile else 0.0) for r in past)
            log_chance = entered(before) - badly - _ANYTHING_AT_ALL
        found.append(np.log(e.weight) + log_chance)
    return np.array(found)


def _led_on(rivals: Rivals, there: AtStations, at_m: Floats) -> AtStations:
    """Where the followed line lies under what reads like the line as entered: off it from some place on."""
    offset = there.offset_m.copy()
    for k in np.flatnonzero(rivals.like_entered):
        e = rivals.explanations[k]
        offset[k] = np.where(e.past(at_m), _LED_OFF_M, 0.0) if e.kind == "goes_on" else _UNKNOWN_M
    return replace(there, offset_m=offset)


def _normal(log_chance: Floats) -> Floats:
    chance = np.exp(log_chance - log_chance.max())
    return np.asarray(chance / chance.sum())


def _left(chance: Floats, used: Sequence[StationReading], there: AtStations | None, read: Mask) -> Unexplained:
    found = Unexplained(*np.full((3, len(read)), np.nan))
    if there is not None:
        some = unexplained(used, there, chance)
        for name, values in vars(some).items():
            getattr(found, name)[read] = values
    return found


def _placed(chance: Floats, sided: Floats, there: AtStations | None, lies: Lies | None, read: Mask) -> WeighedPlace:
    """Mean and spread of place and depth over all explanations."""
    found = [np.full(len(read), np.nan) for _ in range(4)]
    if there is not None and lies is not None:
        log_depth = np.log(lies.depth_m)
        depth, aside = chance @ log_depth, (chance * sided) @ there.offset_m
        depth_spread = np.sqrt(chance @ ((log_depth - depth) ** 2 + lies.spread**2))
        aside_spread = np.sqrt(np.maximum(chance @ there.offset_m**2 - aside**2, 0.0) + PLACE_SPREAD_M**2)
        values = np.exp(depth), _WITHIN * depth_spread * np.exp(depth), -aside, _WITHIN * aside_spread
        for each, value in zip(found, values, strict=True):
            each[read] = value
    return WeighedPlace(*found)
