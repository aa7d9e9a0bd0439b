"""Figures over many sonde runs: how often a mark is right, line mode is caught and a corner is seen."""

from collections import Counter
from dataclasses import dataclass, field

from tests.sonde.pipes import LOW, run_of
from vessel.core.hookup.judge_sonde import judge_run, writes_depth
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT


@dataclass
class Tally:
    """Verdicts; marks with place within 0.1 h and, where it is written, depth within 5 %; stops read in line mode, and those caught."""

    verdicts: Counter = field(default_factory=Counter)
    marks: int = 0
    right: int = 0
    with_care: int = 0
    care_right: int = 0
    in_line_mode: int = 0
    caught: int = 0
    ranges: int = 0
    in_range: int = 0
    corners: int = 0
    corners_seen: int = 0
    false_corners: int = 0
    wrong: list = field(default_factory=list)

    def share(self, part, of):
        """Return one count against another, None where there is none."""
        return getattr(self, part) / getattr(self, of) if getattr(self, of) else None


def tally(kinds, seeds):
    """Play runs of some kinds and count."""
    t = Tally()
    for kind in kinds:
        for seed in seeds:
            _count(t, run_of(kind, seed))
    return t


def _count(t, r):
    pipe = PRESETS["jointed_iron_main"].construction if r.iron_known else None
    judged = judge_run([s.read for s in r.stops], r.run, SAMPLE_KIT, depth_range_m=r.depth_range_m, pipe=pipe)
    for s, f, j in zip(r.stops, judged.fits, judged.judgements, strict=True):
        t.verdicts[j.verdict] += 1
        caught = f is not None and f.in_line_mode is not None and f.in_line_mode > 0.5
        if s.in_line_mode and s.read.depth_m is not None:
            t.in_line_mode += 1
            t.caught += caught and j.verdict == "hold"
        if f is None:
            continue
        h = s.depth + LOW
        depth_right = abs(f.depth_m - s.depth) < 0.05 * h or not writes_depth(j)
        good = abs(f.x_m - s.x) < 0.1 * h and depth_right
        t.ranges += 2
        t.in_range += int(abs(f.x_m - s.x) < f.x_pm_m) + int(abs(f.depth_m - s.depth) < f.depth_pm_m)
        if j.verdict == "mark":
            t.marks, t.right = t.marks + 1, t.right + good
            if not good:
                t.wrong.append((r.kind, s, f))
        if j.verdict == "mark_with_care":
            t.with_care, t.care_right = t.with_care + 1, t.care_right + good
    seen = [c.end_m for c in judged.corners]
    if r.corner_after is not None:
        t.corners += 1
        t.corners_seen += any(abs(at - r.stops[r.corner_after + 1].read.distance_m) < 1e-6 for at in seen)
        seen = [at for at in seen if abs(at - r.stops[r.corner_after + 1].read.distance_m) > 1e-6]
    t.false_corners += len(seen)
