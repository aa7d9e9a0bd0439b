"""Seeded walks along one line on which something happens, or nothing: what it was only the figures see."""

import numpy as np

from tests.core.corpus_traces import displayed, noisy
from vessel.core.base.errors import BadInput
from vessel.core.hookup.events_along import events_along
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import OPEN_END, FarEnd
from vessel.core.model.network import Bond, Feature, Hookup, Site, SiteLine
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.receiver.field_gains import across_of
from vessel.core.signal.solved_site import SolvedSite

HAPPENS = ("nothing", "depth", "drop", "jump", "end", "bend")
# where signal and guidance are gone for good a line may end, break or bend: which, only circling shows
NAMES = {"depth": {"depth"}, "drop": {"drop"}, "jump": {"jump"}, "end": {"end", "lost"}, "bend": {"bend"}}
LINES = ("tracer_wire", "armoured_cable", "pair_cable")
FREQS = (4480.0, 8960.0, 8960.0, 35840.0)
AWAY_M = 40.0


def walk(seed):
    """Return what happened, where [m], and the events found on one walk; None where there is nothing to walk on."""
    rng = np.random.default_rng(seed)
    what = HAPPENS[seed % len(HAPPENS)]
    length, depth = float(rng.uniform(70, 160)), float(rng.uniform(0.6, 1.2))
    at = float(rng.uniform(0.35, 0.65) * length)
    metal = PRESETS[str(rng.choice(LINES))].construction
    soil = Soil(float(10 ** rng.uniform(1.5, 2.6)))
    really = Soil(float(soil.resistivity_ohm_m * np.exp(rng.normal(0, 0.4))))
    far_ohm = float(10 ** rng.uniform(0.7, 1.6))
    line = Line(metal, length, 0.4, 2.2, far=FarEnd("earthed", far_ohm * float(np.exp(rng.normal(0, 0.3)))))
    freq = float(rng.choice(FREQS))
    setup = Setup("direct", freq, 0.06, Stake())
    site, follow = really_there(rng, what, metal, really, length, depth, at, far_ohm)
    hookup = Hookup("direct", freq, 0.06, "target", 0.0, Stake(), (0.0, 8.0 * float(rng.choice([-1, 1]))))
    solved = SolvedSite(site, hookup, SAMPLE_KIT)
    out = solved.output
    shown = (TransmitterReading(float(f"{out.volts:.3g}"), float(f"{out.amps:.3g}"), freq),)
    state = hookup_state(line, soil, SAMPLE_KIT, setup, shown)
    taken = list(walked(rng, solved, follow, length, at, what))
    if what not in ("end", "nothing") and sum(r.distance_m > at and not r.lost for r in taken) < 2:
        return None
    return what, at, events_along(soil, SAMPLE_KIT, setup, state, taken)


def really_there(rng, what, metal, soil, length, depth, at, far_ohm):
    """The ground with what happens in it, and which line is followed before and after `at`."""
    deeper = depth * float(rng.choice([rng.uniform(1.3, 1.9), rng.uniform(0.5, 0.75)])) if what == "depth" else depth
    route = ((0.0, 0.0, depth), (at - 0.5, 0.0, depth), (at + 0.5, 0.0, deeper), (length, 0.0, deeper))
    if what == "bend":
        turn = np.radians(rng.uniform(40, 110)) * rng.choice([-1, 1])
        route = (route[0], (at, 0.0, depth), (at + AWAY_M * np.cos(turn), AWAY_M * np.sin(turn), depth))
    if what == "end":
        route = (route[0], (at, 0.0, depth))
    features = (Feature("earth", at, float(rng.uniform(5, 20))),) if what == "drop" and rng.random() < 0.5 else ()
    end = OPEN_END if what == "end" else FarEnd("earthed", far_ohm)
    lines, bonds = [SiteLine("target", metal, route, OPEN_END, end, features)], ()
    if what == "drop" and not features:
        side = float(rng.choice([-1, 1]))
        lateral = ((at, 0.0, depth), (at, 25.0 * side, depth))
        lines.append(SiteLine("lateral", metal, lateral, OPEN_END, FarEnd("earthed", float(rng.uniform(5, 20)))))
        bonds = (Bond("target", at, "lateral", 0.0, 0.01),)
    if what == "jump":
        off, other = float(rng.uniform(0.8, 2.5) * rng.choice([-1, 1])), depth * float(rng.choice([0.6, 1.6]))
        earths = FarEnd("earthed", float(rng.uniform(3, 20))), FarEnd("earthed", float(rng.uniform(3, 20)))
        lines.append(SiteLine("other", metal, ((-15.0, off, other), (length + 15.0, off, other)), *earths))
        bonds = (Bond("target", 2.0, "other", 17.0, float(rng.uniform(0.1, 5.0))),)
    return Site(soil, tuple(lines), bonds), {"before": "target", "after": "other" if what == "jump" else "target"}


def walked(rng, solved, follow, length, at, what):
    """Stations as they are taken: read at the peak, with noise and a hand that is not steady."""
    noise, receiver = solved.kit.frequency(solved.hookup.freq_hz).noise_t, solved.kit.receiver
    x = np.cumsum(rng.uniform(3.0, 7.0, 60))
    x = np.sort(np.append(x, at + 1.0)) if what in ("bend", "end") else x
    x = x[(x > 3.0) & (x < (at + AWAY_M if what == "bend" else length) - 3.0)]
    for distance in x:
        name = follow["after"] if distance > at else follow["before"]
        line = solved.site.lines[solved.site.index(name)]
        near_end = what == "end" and distance > line.length_m
        if (what == "bend" and abs(distance - at) < 2.0) or (what == "end" and 0 <= distance - at < 2.0):
            yield StationReading(round(float(distance), 1), lost=True)
            continue
        along = distance + (15.0 if name == "other" else 0.0)
        here = line.places(np.array([min(along, line.length_m)]))[:, :2]
        run = line.headings(np.array([min(along, line.length_m)]))
        if near_end:  # straight on, where there is nothing any more
            here = here + (along - line.length_m) * run
        scan = solved.field(here, run)
        if what == "jump" and abs(scan.peak_m[0]) > 0.3:
            raise BadInput("Nobody would follow that line: it has no peak of its own.")
        peak = here if near_end else here + scan.peak_m[:, None] * across_of(run)[:, :2]
        b = noisy(rng, solved.field(peak, run).over_t[0], noise, 4)
        depths, amps = displayed(b, receiver)
        if not len(depths) or b[:, 0].mean() < 3 * noise:
            yield StationReading(round(float(distance), 1), lost=True)
            continue
        amps = amps * np.exp(rng.normal(0, 0.02))
        depth = float(np.median(depths) * np.exp(rng.normal(0, 0.02)))
        yield StationReading(round(float(distance), 1), tuple(amps.tolist()), round(depth, 2))


def tally(count, first=0):
    """Return, by what happened: walks, named right at the right place; and how often nothing was taken for something.

    Right: the event nearest to the place has the right name and lies within 10 m of it.
    """
    by, wrong = {k: [0, 0] for k in HAPPENS}, []
    for seed in range(first, first + count):
        try:
            found = walk(seed)
        except Exception as e:
            if type(e).__module__.startswith("vessel"):
                continue
            raise
        if found is None:
            continue
        what, at, named = found
        by[what][0] += 1
        if what == "nothing":
            right = not named
        else:
            nearest = min(named, key=lambda e: max(e.start_m - at, at - e.end_m, 0.0), default=None)
            right = nearest is not None and nearest.kind in NAMES[what]
            right = right and max(nearest.start_m - at, at - nearest.end_m, 0.0) < 10.0
        by[what][1] += right
        if not right:
            wrong.append(
                (seed, what, round(at), [(e.kind, round(e.at_m), e.current_ratio, e.depth_ratio) for e in named])
            )
    return by, wrong
