"""Seeded sites traced to the mark: a plan with what a plan gets wrong, and a receiver walked over the ground as it is.

The judge sees the plan, the transmitter and what was read; where the line really is only the figures see.
"""

from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from tests.core.bench import horizontal_field
from tests.core.corpus_sweeps import FREQS, ground, site_of, target_line
from vessel.core.diagnose.ranking import diagnose
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.hookup.taught import lesson
from vessel.core.judge.across.best_estimate import best_estimate
from vessel.core.judge.station.verdict import PROVED
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.marking import USUAL_TOLERANCE_M as TOLERANCE_M
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.layout.beside_line import off_line
from vessel.core.signal.layout.line_on_site import lay_out
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.physics.magnetic_field import electronic_depth
from vessel.core.signal.receiver.field_gains import across_of
from vessel.core.signal.receiver.instrument import LIFT_M, current_for
from vessel.core.signal.receiver.return_undone import undoing
from vessel.core.signal.solved_site import SolvedSite

"""Half-width of the zone round a mark in which the line must lie."""
DEPTH_WITHIN = 0.1
EVERY_M = (4.0, 9.0)
ASIDE_M, ASIDE_STEP_M = 5.0, 0.2
ACROSS_M = tuple(round(0.4 * k, 1) for k in range(-4, 5))
"""Where signals across the line are read, if they are [m from the peak]."""
REPEATS = 4
LEAST_SNR = 8.0
FOLLOWED = ("target", "target", "target", "wrong", "jumped")


@dataclass(frozen=True)
class Traced:
    """Stations (n,): the verdict, how far the mark would be off [m], the depth's error as a share of the true depth,
    and whether it lies in its stated range.

    `strongest_m`: how far off the loudest place within reach is; `plausible`: the depth read is one to be expected.
    `ahead`: see `foretold`. `alone`: the rule that holds a station and no other does, else "". `aside` (n, 3): how far
    left of the peak the line really is, is estimated to be, and the range of that [m].
    """

    scenario: str
    verdicts: list
    off_m: np.ndarray
    depth_error: np.ndarray
    in_range: np.ndarray
    strongest_m: np.ndarray
    plausible: np.ndarray
    ahead: np.ndarray
    alone: list
    aside: np.ndarray


@dataclass(frozen=True)
class Walk:
    """A site hooked up and walked, before anything is judged: what was known, what was read, and where that really was.

    `read`: (station, its peak [m], the loudest place near [m]) for each station.
    """

    scenario: str
    line: Line
    soil: Soil
    setup: Setup
    readings: tuple
    read: list
    target: Drawn


_state = lru_cache(maxsize=64)(hookup_state)


@lru_cache(maxsize=64)
def walk_of(seed, across_m=()):
    """Return a site hooked up and walked; raises what core refuses where plan or ground cannot be hooked up.

    Kept, because solving and walking a site takes far longer than judging it.
    """
    rng = np.random.default_rng(seed)
    plan = site_of(rng)
    truth = ground(rng, plan)
    soil = Soil(float(10 ** rng.uniform(1.5, 2.7)))
    really = Soil(float(soil.resistivity_ohm_m * np.exp(rng.normal(0, 0.5))))
    line, there = target_line(plan), target_line(truth)
    freq = float(rng.choice(FREQS))
    method = "induction" if freq > 30e3 and rng.random() < 0.3 else "direct"
    setup = Setup(
        method, freq, float(rng.choice([0.03, 0.06])), Stake(), position_m=0.0 if method == "direct" else 10.0
    )
    hookup = hookup_on(line, setup)
    if method == "direct":
        at = replace(hookup_on(there, replace(setup, stake_at=hookup.stake_at)), stake_at=hookup.stake_at)
    else:
        at = replace(hookup, line="target")
    solved = SolvedSite(lay_out(there, really), at, SAMPLE_KIT, unknown="open")
    readings = ()
    if method == "direct":
        readings = (shown(solved, freq),)
        asked = diagnose(line, setup, soil, SAMPLE_KIT, readings).next_reading.freq_hz
        if asked is not None:
            again = SolvedSite(solved.site, replace(at, freq_hz=asked), SAMPLE_KIT, unknown="open")
            readings = (*readings, shown(again, asked))
    scenario = str(rng.choice(FOLLOWED))
    places, headings = route_walked(rng, truth, scenario)
    read = list(stations_on(rng, solved, line, places, headings, across_m))
    return Walk(scenario, line, soil, setup, readings, read, truth.drawn[0])


def traced(seed, checked_every=1, across_m=()):
    """Return a walked site judged, None where nothing was read.

    Lift, null and a look aside are taken at every `checked_every`-th station only; signals at `across_m` [m] from the
    peak at each.
    """
    w = walk_of(seed, across_m)
    line, soil, setup, read = w.line, w.soil, w.setup, w.read
    if not read:
        return None
    stations = [r if k % checked_every == 0 else unchecked(r) for k, (r, _, _) in enumerate(read)]
    state = _state(line, soil, SAMPLE_KIT, setup, w.readings)
    judged = judge_stations(
        line,
        soil,
        SAMPLE_KIT,
        setup,
        state,
        stations,
        rx_freq_hz=setup.freq_hz,
        transmitter=w.readings,
        evidence=seen(w),
    )
    marks, loudest = (np.array([x[k] for x in read]) for k in (1, 2))
    target = w.target
    along, off, under = off_line(target, marks)
    noise = SAMPLE_KIT.frequency(setup.freq_hz).noise_t
    free = undoing(setup, soil, SAMPLE_KIT.receiver)
    best = [best_estimate(r, noise_t=noise, receiver=SAMPLE_KIT.receiver, free=free) for r in stations]
    depth, within = (
        np.array([np.nan if e is None else getattr(e, k) for e in best]) for k in ("depth_m", "depth_pm_m")
    )
    wrong = np.abs(depth / target.depth_min_m - 1)
    good = (off <= TOLERANCE_M) & (wrong <= DEPTH_WITHIN) & (w.scenario == "target")
    return Traced(
        w.scenario,
        [j.verdict for j in judged.judgements],
        off,
        wrong,
        np.abs(depth - target.depth_min_m) <= within,
        off_line(target, loudest)[1],
        (depth > line.depth_min_m * 0.85) & (depth < line.depth_max_m * 1.15),
        foretold(setup, state, stations, judged.judgements, good),
        [held_alone(j) for j in judged.judgements],
        np.column_stack(
            [
                ((under - marks) * across_of(runs(target, along))[:, :2]).sum(1),
                [np.nan if e is None else e.offset_m for e in best],
                [np.nan if e is None or e.offset_pm_m is None else e.offset_pm_m for e in best],
            ]
        ),
    )


def seen(w):
    """What somebody who looks finds: the box holds nothing else; who left the line has not followed it to its end."""
    ends = "for" if w.scenario == "target" else "cannot"
    return Evidence("access", "for"), Evidence("ends_at", ends), Evidence("beside_located", ends)


def held_alone(judgement):
    """The rule that holds a station where no other does, else ""."""
    held = [f.rule.id for f in judgement.findings if f.outcome == "hold"]
    return held[0] if len(held) == 1 else ""


def foretold(setup, state, stations, judgements, good):
    """What the half of the stations nearer the hookup foretells of the `good` ones further on, where it narrows.

    (k, 5): current read; low and high edge of the hookup's own forecast; of what the stations alone leave [A].
    """
    order = np.argsort([abs(s.distance_m - setup.position_m) for s in stations])
    nearer, further = np.split(order, [len(order) // 2])
    counts = np.zeros(len(stations), dtype=bool)
    counts[nearer] = [judgements[k].verdict in PROVED for k in nearer]
    taught = lesson(state.families, stations, counts, hookup_m=setup.position_m)
    at = [k for k in further if good[k] and stations[k].current_a]
    if taught is None or not taught.narrows or not at:
        return np.zeros((0, 5))
    at_m = np.array([stations[k].distance_m for k in at])
    amps = [stations[k].current_a for k in at]
    return np.column_stack([amps, *state.band.along(at_m), *taught.band(at_m)])


def unchecked(r):
    """A station at which only current and depth were read."""
    return replace(r, lift_height_m=None, depth_lifted_m=None, peak_null_m=None, neighbour_a=None)


def shown(solved, freq):
    """What the transmitter shows, in three digits."""
    return TransmitterReading(float(f"{solved.output.volts:.3g}"), float(f"{solved.output.amps:.3g}"), freq)


def route_walked(rng, truth, scenario):
    """Places (n, 2) and headings (n, 2) over the line that is followed: the target, another, or one after the other."""
    target, *others = truth.drawn
    alongs = np.cumsum(rng.uniform(*EVERY_M, 60))
    alongs = alongs[alongs < target.length_m]
    places, headings = target.places(alongs), runs(target, alongs)
    if scenario == "target":
        return places, headings
    # somebody who steps aside steps onto what runs nearest
    middle = places[len(places) // 2][None]
    other = min(others, key=lambda d: off_line(d, middle)[1][0])
    along, off, at = off_line(other, places)
    near = (off < 6.0) & (along > 1.0) & (along < other.length_m - 1.0)
    if scenario == "jumped":
        near &= alongs > alongs[len(alongs) // 2]
    chosen = np.where(near[:, None], at, places)
    turned = runs(other, along)
    turned *= np.sign((turned * headings).sum(1, keepdims=True) + 1e-12)
    return chosen, np.where(near[:, None], turned, headings)


def runs(drawn, along):
    ahead = drawn.places(np.minimum(along + 0.1, drawn.length_m)) - drawn.places(np.maximum(along - 0.1, 0.0))
    return ahead / np.linalg.norm(ahead, axis=1, keepdims=True)


def stations_on(
    rng, solved, line, places, headings, across_m=()
) -> Iterator[tuple[StationReading, np.ndarray, np.ndarray]]:
    """What somebody reads at the peak over each place, where that peak is, and where the loudest place near is."""
    noise, kit = solved.kit.frequency(solved.hookup.freq_hz), solved.kit
    scan = solved.field(places, headings)
    left = across_of(headings)[:, :2]
    peaks = places + scan.peak_m[:, None] * left
    over = solved.field(peaks, headings)
    low, apart = kit.receiver.low_m, kit.receiver.separation_m
    sideways = np.arange(-ASIDE_M, ASIDE_M + 1e-9, ASIDE_STEP_M)
    for i in range(len(places)):
        if abs(over.over_t[i, 0]) < 2 * noise.noise_t:
            continue
        b = noisy(rng, over.over_t[i], noise.noise_t, REPEATS)
        depths, amps = displayed(b, kit.receiver)
        depth = float(np.median(depths)) if len(depths) and noise.reads_depth else None
        lifted = float(np.median(electronic_depth(b[:, 2], b[:, 3], low_m=low, separation_m=apart)))
        line_up = peaks[i] + sideways[:, None] * left[i]
        strength = across_strength(solved, line_up, headings[i])
        beside = best_beside(rng, solved, line_up, strength, headings[i], noise.noise_t)
        gap = abs(scan.peak_m[i] - scan.null_m[i]) + rng.normal(0, 0.015)
        at = float(off_line(line.course.drawn, peaks[i][None])[0][0])
        yield (
            StationReading(
                round(float(np.clip(at, 0.0, line.length_m)), 1),
                tuple(float(f"{a:.3g}") for a in amps),
                None if depth is None else round(max(depth, 0.02), 2),
                LIFT_M,
                round(lifted, 2) if np.isfinite(lifted) and 0.02 < lifted < 19 else None,
                round(min(abs(float(gap)), 9.9), 2),
                beside,
                profile=profile_at(rng, solved, peaks[i], left[i], headings[i], across_m, noise.noise_t),
            ),
            peaks[i],
            line_up[int(strength.argmax())],
        )


def profile_at(rng, solved, peak, left, heading, across_m, noise_t):
    """Signals across the line as they are read at one gain: display, hand and noise on each."""
    if not len(across_m):
        return ()
    offsets = np.asarray(across_m)
    strength = across_strength(solved, peak + offsets[:, None] * left, heading)
    hand = np.exp(rng.normal(0, 0.01, len(offsets)))
    read = np.abs(strength * hand + rng.normal(0, noise_t, len(offsets)))
    return tuple((float(x), float(f"{s:.3g}")) for x, s in zip(offsets, 1e9 * read, strict=True))


def noisy(rng, over_t, noise_t, times):
    """Magnitudes (times, 4) [T] as read again and again, each coil with noise of its own."""
    z = rng.normal(0, noise_t / np.sqrt(2), (2, times, len(over_t)))
    return np.abs(over_t + z[0] + 1j * z[1])


def displayed(b, receiver):
    """Depths [m] and currents [A] of those repeats at which the display would show any."""
    depths = electronic_depth(b[:, 0], b[:, 1], low_m=receiver.low_m, separation_m=receiver.separation_m)
    amps = current_for(b[:, 0], depth_m=depths, low_m=receiver.low_m)
    good = np.isfinite(depths) & (depths > 0.02) & (depths < 14.0) & (amps < 9.0)
    return depths[good], amps[good]


def across_strength(solved, points, heading):
    """Response (n,) [T] of coils across the heading at places on the ground."""
    up = np.column_stack([points, np.full(len(points), solved.kit.receiver.low_m)])
    field = horizontal_field(up, solved.circuit.geometry.segments, *solved.ends_a)
    return np.abs(-heading[1] * field[:, 0] + heading[0] * field[:, 1])


def best_beside(rng, solved, points, strength, heading, noise_t):
    """The best current on another centre line to either side, 0 where none is met [A]."""
    middle = len(points) // 2
    tops = [
        k
        for k in range(2, len(points) - 2)
        if strength[k] == strength[k - 2 : k + 3].max() and strength[k] > LEAST_SNR * noise_t and abs(k - middle) > 2
    ]
    if not tops:
        return 0.0
    read = solved.read(points[tops], np.tile(heading, (len(tops), 1)))
    amps = [r.current_a for r in read if np.isfinite(r.current_a) and 0.1 < r.depth_m < 4.0]
    return float(f"{max(amps) * np.exp(rng.normal(0, 0.05)):.3g}") if amps else 0.0


def walked(count, first=0, checked_every=1, across_m=()):
    """Return `count` sites traced, those left out that cannot be hooked up."""
    every = []
    for seed in range(first, first + count):
        try:
            found = traced(seed, checked_every, across_m)
        except Exception as e:
            if type(e).__module__.startswith("vessel"):
                continue
            raise
        if found is not None:
            every.append(found)
    return every


def figures(every):
    """Return shares over the stations of traced sites: of marks, of good stations, and of three naive habits."""
    off, depth, strongest = (
        np.concatenate([getattr(w, k) for w in every]) for k in ("off_m", "depth_error", "strongest_m")
    )
    plausible = np.concatenate([w.plausible for w in every])
    verdicts = np.array([v for w in every for v in w.verdicts])
    amps, low, high, least, most = np.concatenate([w.ahead for w in every]).T
    shared = np.clip(np.minimum(high, most) - np.maximum(low, least), 0.0, None)
    inside, right = off <= TOLERANCE_M, depth <= DEPTH_WITHIN
    mark = verdicts == "mark"
    proved = np.isin(verdicts, list(PROVED))
    # what stands over another line is not good because that line happens to lie near
    followed = np.concatenate([np.full(len(w.off_m), w.scenario != "wrong") for w in every])
    good = inside & right & followed
    really, told, within = np.concatenate([w.aside for w in every]).T
    told_aside = mark & np.isfinite(within)
    return {
        "sites": len(every),
        "stations": len(off),
        "marks": int(mark.sum()),
        "mark_inside": inside[mark].mean(),
        "mark_depth": right[mark].mean(),
        "mark_range": np.concatenate([w.in_range for w in every])[mark].mean(),
        "mark_aside": (np.abs(really - told) <= within)[told_aside].mean(),
        "proved_inside": inside[proved].mean(),
        "good": int(good.sum()),
        "good_let": proved[good].mean(),
        "peak_inside": inside.mean(),
        "strongest_inside": (strongest <= TOLERANCE_M).mean(),
        "plausible_inside": inside[plausible].mean(),
        "alone": Counter(
            rule for rule, fine in zip((a for w in every for a in w.alone), good, strict=True) if not fine
        ),
        "ahead": len(amps),
        "ahead_in": ((least <= amps) & (amps <= most)).mean(),
        "ahead_width": shared.sum() / (high - low).sum(),
    }
