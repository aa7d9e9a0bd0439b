"""Figures over many cables: how often a fault that is called found lies there, and none where there is none."""

from collections import Counter
from dataclasses import dataclass, field

from tests.fault.ground import cable
from vessel.core.hookup.judge_fault import fault_verdict, judge_walk
from vessel.core.model.kit import SAMPLE_KIT


@dataclass
class Tally:
    """Verdicts; faults called found and those that are within 0.5 m or 2 %; faults there are and those found."""

    verdicts: Counter = field(default_factory=Counter)
    found: int = 0
    right: int = 0
    there: int = 0
    called: int = 0
    in_range: int = 0
    ranges: int = 0
    walks: int = 0
    false: int = 0
    wrong: list = field(default_factory=list)

    def share(self, part, of):
        """Return one count against another, None where there is none."""
        return getattr(self, part) / getattr(self, of) if getattr(self, of) else None


def tally(kinds, seeds):
    """Walk cables of some kinds and count."""
    t = Tally()
    for kind in kinds:
        for seed in seeds:
            _count(t, cable(kind, seed))
    return t


def _count(t, c):
    judged = judge_walk(c.readings, c.walk, SAMPLE_KIT, length_m=c.length_m, depth_range_m=c.depth_range_m, earths_m=())
    faults = () if judged.fit is None else judged.fit.faults
    t.walks += 1
    sure = 0
    hit = set()
    for f, j in zip(faults, judged.judgements, strict=True):
        said = fault_verdict(j)
        t.verdicts[said] += 1
        nearest = min(c.faults, key=lambda x: abs(x[0] - f.at_m), default=None)
        off = float("inf") if nearest is None else abs(nearest[0] - f.at_m)
        good = off <= max(0.5, 0.02 * c.length_m)
        if nearest is not None and off < 3:
            t.ranges += 1
            t.in_range += off <= f.pm_m + 0.1
        if said == "found":
            sure += 1
            t.found += 1
            t.right += good
            hit |= {nearest} if good else set()
            if not good:
                t.wrong.append((c.kind, c, f))
    t.there += len(c.faults)
    t.called += len(hit)
    t.false += not c.faults and sure > 0
