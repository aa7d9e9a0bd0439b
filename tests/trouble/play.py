"""The whole exchange on one site: walk, judge, answer what is asked for, judge again; and figures over many."""

from dataclasses import dataclass

import numpy as np

from tests.trouble.answering import changed_by, said
from tests.trouble.grounds import KINDS, truth_of
from tests.trouble.located import located_beside
from tests.trouble.technician import KIT, walk
from vessel.core.base.cached import remembered
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.judge.rivals.next_ask import Ask, next_ask
from vessel.core.model.identity import after_a_change
from vessel.core.model.marking import USUAL_TOLERANCE_M

_state = remembered(4)(hookup_state)  # an answer changes nothing of it
ASKS = 3
DEPTH_WITHIN = 0.1


@dataclass(frozen=True)
class Played:
    """Stations (n,) of one site: verdicts at first and after the answers, whether a mark would be right, how far off
    it and its depth are; whether place and depth lie in their ranges; questions asked and the answers given; the chance
    of a wrong mark."""

    kind: str
    seed: int
    first: list
    last: list
    good: np.ndarray
    off_m: np.ndarray
    depth_ratio: np.ndarray
    depth_in: np.ndarray
    place_in: np.ndarray
    asked: int
    answers: list
    alive: list
    chance: np.ndarray


def played(kind, seed):
    """Return one site played to the end; None where nothing can be heard."""
    truth = truth_of(seed, kind)
    w = walk(truth, seed)
    if w is None:
        return None
    line, setup = truth.line, truth.setup

    def judged(evidence):
        return judge_stations(
            line,
            truth.soil,
            KIT,
            setup,
            _state(line, truth.soil, KIT, setup, w.transmitter),
            w.stations,
            rx_freq_hz=setup.freq_hz,
            transmitter=w.transmitter,
            evidence=evidence,
        )

    first = [j.verdict for j in judged(()).judgements]
    # the look at one's feet is a step of the safe order, and done before anything is traced
    evidence = [] if setup.by.through_air else said(w, Ask("access", (), 0.0, 0.0), seed)
    given, asked = list(evidence), 0
    found = judged(evidence)
    while asked < ASKS:
        ask = next_ask(found.weighed, setup.by, evidence, found.short)
        if ask is None:
            break
        answers, asked = said(w, ask, seed), asked + 1
        given += answers
        changed = changed_by(w.truth, answers)
        if changed is not None:  # what was seen in a box still holds, what was read over the ground does not
            w, line, setup = walk(changed, seed), changed.line, changed.setup
            if w is None:
                return silent(kind, seed, first, asked, given)
            stake = answers[0].kind == "stake_moved"
            evidence, answers = list(after_a_change([*evidence, *answers], stake=stake)), []
        evidence += answers
        if ask.kind == "beside_located" and evidence[-1].answer != "cannot":
            line, setup = located_beside(w, line, setup, seed)
        found = judged(evidence)
    p = found.weighed.placed
    good = (w.off_m <= USUAL_TOLERANCE_M) & (np.abs(p.depth_m / w.depth_m - 1) <= DEPTH_WITHIN)
    return Played(
        kind,
        seed,
        first,
        [j.verdict for j in found.judgements],
        good,
        w.off_m,
        p.depth_m / w.depth_m,
        np.abs(p.depth_m - w.depth_m) <= p.depth_pm_m,
        # the line lies to the right of a peak that stands left of it
        np.abs(-w.marks[:, 1] - p.offset_m) <= p.offset_pm_m,
        asked,
        [(e.kind, e.answer) for e in given],
        [(a.kind, round(a.chance, 4)) for a in found.weighed.alive()][:4],
        found.weighed.wrong_chance,
    )


def silent(kind, seed, first, asked, given):
    """A site where nothing is heard any more once the ground was changed: nothing to mark."""
    none = np.array([])
    answers = [(e.kind, e.answer) for e in given]
    ranges = none.astype(bool), none.astype(bool)
    return Played(kind, seed, first, [], none.astype(bool), none, none, *ranges, asked, answers, [], none)


def share(of, among):
    """How often it holds among some stations; NaN without any."""
    return float(of[among].mean()) if among.any() else float("nan")


def figures(every):
    """Return counts and shares over played sites."""

    def each(name):
        return np.concatenate([np.asarray(getattr(p, name)) for p in every])

    last, good = each("last"), each("good")
    within = each("off_m") <= USUAL_TOLERANCE_M
    marks, held = last == "mark", np.isin(last, ["hold", "need_more"])
    return {
        "sites": len(every),
        "stations": len(last),
        "marks": int(marks.sum()),
        "wrong_marks": int((marks & ~good).sum()),
        "unanswered_marks": int((each("first") == "mark").sum()),
        "good": int(good.sum()),
        "good_marked": share(marks, good),
        "good_held": share(held, good),
        "wrong_held": share(held, ~good),
        "asks": float(np.mean([p.asked for p in every])),
        "depth_in": share(each("depth_in"), within),
        "place_in": share(each("place_in"), within),
    }


def _one(job):
    return played(*job)


def play_all(count, first=0, kinds=KINDS, workers=1):
    """Return `count` sites of each kind, played; in several processes if asked."""
    jobs = [(kind, seed) for kind in kinds for seed in range(first, first + count)]
    if workers == 1:
        found = map(_one, jobs)
        return [p for p in found if p is not None]
    from concurrent.futures import ProcessPoolExecutor

    with ProcessPoolExecutor(workers) as pool:
        return [p for p in pool.map(_one, jobs, chunksize=1) if p is not None]
