"""Another line is followed from some place on: what is read up to there, and past it, says nothing of where that is."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from scipy.special import logsumexp

from vessel.core.base.arrays import Floats, Mask
from vessel.core.judge.rivals.at_stations import AtStations
from vessel.core.judge.rivals.read_over_ground import Read, foretold
from vessel.core.judge.rivals.worked_out_rivals import Rivals

_TRIED_M, _SEEN_AFTER_M = 8.0, 1.5  # how far before the first place tried a branch may begin, and is soon well off
_LED_OFF_M = 2.0  # where another line goes on it is well off
_UNKNOWN_M = 0.46  # what is not among them is about as likely within as without
_ANYTHING, _ANYTHING_ACROSS = 2.5, 2.5  # how badly anything is foretold, a station and readings across, as logarithms
_ANYTHING_AT_ALL = 5.0


def like_entered(rivals: Rivals, prior: Floats, log_chance: Floats, there: AtStations, known: Read) -> Floats:
    """Return the chances of what reads like the line as entered, all along or up to a place past which anything may be.

    Args:
        rivals: h explanations, worked out.
        prior: Logarithm of the chance of each before anything is read over the ground, shape (h,).
        log_chance: The same after all that was read, of what is fitted with what the fit takes off it, shape (h,).
        there: What they show at the stations.
        known: What was read there.

    Returns:
        Logarithms, one for each that reads so.
    """
    line, prior = rivals.only(rivals.entered), prior[rivals.entered]
    at_m, across = known.used.distance_m, np.zeros(known.used.count)
    every = np.ones(len(at_m), dtype=bool)
    fitted = log_chance[rivals.entered] - prior - foretold(line, there.part(rivals.entered, every), known)
    across[list(known.used.profiles)] = _ANYTHING_ACROSS

    def entered(which: Mask) -> float:
        if not which.any():
            return float(logsumexp(prior))
        # what a fit takes off grows with the stations it is made to
        share = np.log1p(which.sum()) / np.log1p(len(which))
        likely = foretold(line, there.part(rivals.entered, which), known.part(which))
        return float(logsumexp(prior + share * fitted + likely))

    whole, found = float(logsumexp(log_chance[rivals.entered])), []
    for k in np.flatnonzero(rivals.like_entered):
        e, chance = rivals.explanations[k], whole
        if e.anything:
            before = ~e.past(at_m) if e.kind == "goes_on" else np.zeros(len(at_m), dtype=bool)
            badly = float((_ANYTHING + across)[~before].sum())
            chance = entered(before) - badly - _ANYTHING_AT_ALL
        found.append(np.log(e.weight) + chance)
    return np.array(found)


def may_have_left(rivals: Rivals, at_m: Floats) -> Floats:
    """Return the chance that a branch that is followed began before a station: anywhere since the last place tried.

    Args:
        rivals: h explanations, worked out.
        at_m: Distances of s stations along the line [m].

    Returns:
        Chance, shape (h, s).
    """
    found = np.zeros((len(rivals.explanations), len(at_m)))
    leaving = [k for k, e in enumerate(rivals.explanations) if e.kind == "leaves"]
    begins = sorted({rivals.explanations[k].of_m for k in leaving})
    for k in leaving:
        last_m = rivals.explanations[k].of_m
        first_m = max((x for x in begins if x < last_m), default=last_m - _TRIED_M)
        share = (at_m - _SEEN_AFTER_M - first_m) / (last_m - first_m)
        found[k] = np.where(at_m <= last_m, np.clip(share, 0.0, 1.0), 0.0)
    return found


def as_entered_before(
    rivals: Rivals, log_chance: Floats, there: AtStations, pull: Floats, off_m: Floats
) -> tuple[AtStations, Floats, Floats]:
    """Return what reads like the line as entered with the line where the likeliest way to enter it has it, fitted.

    Args:
        rivals: h explanations, worked out.
        log_chance: Logarithm of the chance of each, shape (h,).
        there: What they show at s stations.
        pull: How well each depth is known, as a logarithm, shape (h, s).
        off_m: How well each place aside is known, shape (h, s) [m].

    Returns:
        What they show, how well each depth and each place is known.
    """
    best = int(np.where(rivals.entered, log_chance, -np.inf).argmax())
    depth, pull, off_m = there.true_depth_m.copy(), pull.copy(), off_m.copy()
    for each in (depth, pull, off_m):
        each[rivals.like_entered] = each[best]
    return replace(there, true_depth_m=depth), pull, off_m


def led_on(rivals: Rivals, there: AtStations, at_m: Floats) -> AtStations:
    """Return where the followed line lies under what reads like the line as entered: off it from some place on.

    Args:
        rivals: h explanations, worked out.
        there: What they show at s stations.
        at_m: Their distances along the line, shape (s,) [m].

    Returns:
        What they show.
    """
    offset = there.offset_m.copy()
    for k in np.flatnonzero(rivals.like_entered):
        e = rivals.explanations[k]
        offset[k] = np.where(e.past(at_m), _LED_OFF_M, 0.0) if e.kind == "goes_on" else _UNKNOWN_M
    return replace(there, offset_m=offset)
