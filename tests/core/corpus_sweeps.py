"""Seeded sites for the first sweep: a plan with what a plan gets wrong, and the ground as it is, walked with a receiver.

The verdict sees the plan and what was read; which conductor really was under each candidate only the figures see.
"""

from dataclasses import dataclass, replace

import numpy as np

from tests.core.bench import horizontal_field, turned_for_best
from vessel.core.hookup.expected_sweep import sweep_circle
from vessel.core.judge.sweep_verdict import judge_sweep
from vessel.core.model.construction import PRESETS
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.first_sweep import Candidate
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Bond
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.site_plan import Course, SitePlan
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.sources import coil_geometry, stake_lead
from vessel.core.signal.layout.line_on_site import lay_out
from vessel.core.signal.layout.placed_hookup import hookup_on
from vessel.core.signal.physics.magnetic_field import dipole_field
from vessel.core.signal.receiver.sweep_circle import on_circle
from vessel.core.signal.solved_site import SolvedSite

KINDS = ("tracer_wire", "armoured_cable", "coated_steel_pipe", "pair_cable", "bare_copper_service", "jointed_iron_main")
FREQS = (8960.0, 8960.0, 35840.0, 4480.0, 71680.0)
STEP_DEG = 1.0
LIFT_M = 0.5
LEAST_SNR, PROMINENCE = 8.0, 1.1


@dataclass(frozen=True)
class Walked:
    """A site walked: the verdict, which candidates really are the target, and whether any is."""

    verdict: object
    truly: tuple[bool, ...]


def route(rng, start, heading_deg, length_m):
    corners = [np.array(start, dtype=float)]
    bend = rng.uniform(0.5, 0.8) * length_m
    for leg, turn in ((bend, 0.0), (length_m - bend, rng.uniform(-60, 60))):
        heading_deg += turn
        corners.append(corners[-1] + leg * np.array([np.sin(np.radians(heading_deg)), np.cos(np.radians(heading_deg))]))
    return corners


def drawn(name, kind, corners, depth, start, end):
    c = PRESETS[kind].construction
    return Drawn(name, c, tuple((float(x), float(y)) for x, y in corners), depth[0], depth[1], start, end)


def earths(rng):
    return [
        FarEnd("earthed", float(10 ** rng.uniform(0.5, 1.8))) if rng.random() < 0.6 else FarEnd("open") for _ in "ab"
    ]


def site_of(rng):
    """A plan of a target and one to four others, bonded here and there."""
    length = rng.uniform(50, 150)
    heading = rng.uniform(0, 360)
    own = route(rng, (0.0, 0.0), heading, length)
    low = rng.uniform(0.4, 1.2)
    far = FarEnd(str(rng.choice(["unknown", "earthed", "open"])), float(10 ** rng.uniform(0.7, 1.8)))
    kind = KINDS[0] if rng.random() < 0.5 else str(rng.choice(KINDS[1:5]))
    lines = [drawn("target", kind, own, (low, low + 0.4), FarEnd("open"), far)]
    for k in range(rng.integers(1, 5)):
        depth = rng.uniform(0.5, 1.6)
        if rng.random() < 0.6:  # alongside
            off = rng.uniform(0.6, 5.0) * rng.choice([-1, 1])
            side = off * np.array([np.cos(np.radians(heading)), -np.sin(np.radians(heading))])
            back = -rng.uniform(0, 40) * np.array([np.sin(np.radians(heading)), np.cos(np.radians(heading))])
            corners = [own[0] + side + back, *(c + side for c in own[1:])]
        else:
            across = heading + rng.uniform(50, 130)
            through = own[0] + rng.uniform(-15, 40) * np.array(
                [np.sin(np.radians(heading)), np.cos(np.radians(heading))]
            )
            reach = np.array([np.sin(np.radians(across)), np.cos(np.radians(across))])
            corners = [through - rng.uniform(15, 50) * reach, through + rng.uniform(15, 50) * reach]
        lines.append(drawn(f"other {k}", str(rng.choice(KINDS)), corners, (depth, depth + 0.2), *earths(rng)))
    return SitePlan(tuple(lines))


def moved(rng, d):
    """What is really there: routes off by some decimetres and degrees, depths and earths other than told."""
    turn, shift = np.radians(rng.normal(0, 2.5)), rng.normal(0, 0.5, 2)
    c, s = np.cos(turn), np.sin(turn)
    pivot = np.array(d.corners[0])
    corners = [
        pivot + shift * (d.name != "target") + np.array([[c, -s], [s, c]]) @ (np.array(p) - pivot) for p in d.corners
    ]
    depth = float(np.clip(rng.uniform(d.depth_min_m, d.depth_max_m) * np.exp(rng.normal(0, 0.1)), 0.25, 3))
    start, end = (replace(e, earth_ohm=float(e.earth_ohm * np.exp(rng.normal(0, 0.5)))) for e in (d.start, d.end))
    if end.kind == "unknown":
        end = replace(end, kind=str(rng.choice(["open", "earthed"])))
    return replace(
        d,
        corners=tuple((float(x), float(y)) for x, y in corners),
        depth_min_m=depth,
        depth_max_m=depth,
        start=start,
        end=end,
    )


def ground(rng, plan):
    """The plan as it really lies: one more line nobody told of in a third of them, an untold bond in a fifth."""
    lines = [moved(rng, d) for d in plan.drawn]
    if rng.random() < 0.33:
        angle, off = rng.uniform(0, 2 * np.pi), rng.uniform(-12, 12)
        along, aside = np.array([np.cos(angle), np.sin(angle)]), np.array([-np.sin(angle), np.cos(angle)])
        ends = [off * aside - 40 * along, off * aside + 40 * along]
        lines.append(drawn("untold", str(rng.choice(KINDS)), ends, (0.9, 0.9), *earths(rng)))
    bonds = ()
    if rng.random() < 0.2:
        k = int(rng.integers(1, len(lines)))
        at = float(rng.uniform(0.0, 0.8) * lines[0].length_m)
        place = lines[0].places(np.array([at]))[0]
        bonds = (Bond("target", at, lines[k].name, lines[k].nearest((float(place[0]), float(place[1])))[0]),)
    return SitePlan(tuple(lines), bonds)


def target_line(plan, near_ohm=None):
    d = plan.drawn[0]
    return Line(
        d.construction,
        d.length_m,
        d.depth_min_m,
        d.depth_max_m,
        AccessPoint(earth_ohm=near_ohm),
        d.end,
        course=Course(plan, 0),
    )


def candidates_on(rng, solved, circle):
    """Centre lines that somebody with a receiver meets on the circle, with the line that really makes each."""
    bearings = np.arange(0, 360, STEP_DEG)
    places = on_circle(circle.centre_m, circle.radius_m, bearings, zero=circle.zero)
    low = solved.kit.receiver.low_m
    segments, (into, out) = solved.circuit.geometry.segments, solved.ends_a
    strength, headings = turned_for_best(all_round(solved, places, low))
    lifted = along(all_round(solved, places, low + LIFT_M), headings)
    noise = solved.kit.frequency(solved.hookup.freq_hz).noise_t
    tops = [k for k in range(len(bearings)) if is_top(strength, k) and strength[k] > LEAST_SNR * noise]
    if not tops:
        return [], []
    read = solved.read(places[tops], headings[tops])
    met, makers = [], []
    for k, r in zip(tops, read, strict=True):
        depth, amps = (
            None if np.isnan(v) else float(v * np.exp(rng.normal(0, 0.04))) for v in (r.depth_m, r.current_a)
        )
        outward = 0
        if r.direction is not None:
            away = headings[k] @ (places[k] - circle.centre_m)
            outward = int(r.direction * np.sign(away)) if abs(away) > 0.3 * circle.radius_m else 0
        depth = depth if depth is not None and depth < 10 else None
        met.append(
            Candidate(
                float((bearings[k] + rng.normal(0, 2)) % 360),
                amps if depth else None,
                depth,
                float(strength[k] * 1e12),
                outward,
                float(lifted[k] * 1e12),
                LIFT_M,
            )
        )
        point = np.array([[*places[k], low]])
        parts = []
        for i in range(len(solved.site.lines)):
            own = solved.circuit.mesh.line == i
            parts.append(
                float(turned_for_best(horizontal_field(point, masked(segments, own), into[own], out[own]))[0][0])
            )
        through_air = turned_for_best(all_round(solved, places[k : k + 1], low, lines=False))[0][0]
        loudest = int(np.argmax(parts))
        makers.append(solved.site.lines[loudest].name if parts[loudest] > through_air else "transmitter")
    return met, makers


def all_round(solved, places, height_m, *, lines=True):
    """Horizontal field of everything, the transmitter's own included; or of that alone."""
    points, drive = np.column_stack([places, np.full(len(places), height_m)]), solved.output.drive
    field = lines * horizontal_field(points, solved.circuit.geometry.segments, *solved.ends_a)
    if solved.hookup.method == "direct":
        lead = stake_lead(solved.circuit, solved.hookup)
        return field + drive * horizontal_field(points, lead, *(np.ones(len(lead.start_m)) for _ in "ab"))
    at, moment = coil_geometry(solved.hookup, solved.kit)
    return field + drive * dipole_field(points, at_m=at, moment_a_m2=moment)[:, :2]


def along(field, headings):
    """Response of coils that lie across headings."""
    return np.abs(-headings[:, 1] * field[:, 0] + headings[:, 0] * field[:, 1])


def masked(segments, own):
    return replace(segments, start_m=segments.start_m[own], end_m=segments.end_m[own], radius_m=segments.radius_m[own])


def is_top(values, k):
    """A local maximum that stands out from the lows to either side, as one notices turning with a receiver."""
    n = len(values)
    if not (values[k] >= values[k - 1] and values[k] > values[(k + 1) % n]):
        return False
    for step in (-1, 1):
        lowest, j = values[k], k
        while True:
            j = (j + step) % n
            lowest = min(lowest, values[j])
            if j == k:
                break
            if values[j] > values[k]:
                break
        if values[k] < PROMINENCE * lowest:
            return False
    return True


def walked(seed):
    """Return a site swept, None where plan or ground cannot be hooked up."""
    rng = np.random.default_rng(seed)
    plan = site_of(rng)
    truth = ground(rng, plan)
    soil = Soil(float(10 ** rng.uniform(1.5, 2.7)))
    really = Soil(float(soil.resistivity_ohm_m * np.exp(rng.normal(0, 0.5))))
    line = target_line(plan)
    freq = float(rng.choice(FREQS))
    method = "induction" if freq > 30e3 and rng.random() < 0.4 else "direct"
    setup = Setup(method, freq, 0.03, Stake(), position_m=0.0 if method == "direct" else 10.0)
    circle = sweep_circle(line, soil, SAMPLE_KIT, setup)
    there = target_line(truth)
    site = lay_out(there, really)
    at = hookup_on(line, setup)
    if method == "direct":
        at = replace(hookup_on(there, replace(setup, stake_at=at.stake_at)), stake_at=at.stake_at)
    else:
        at = replace(at, line="target")
    solved = SolvedSite(site, at, SAMPLE_KIT, unknown="open")
    met, makers = candidates_on(rng, solved, circle)
    verdict = judge_sweep(met, circle.expected, radius_m=circle.radius_m, induction=method == "induction")
    return Walked(verdict, tuple(m == "target" for m in makers)), circle, met, makers


def tally(count, first=0):
    """Return shares over `count` sites: named right, of those with the target met; sure and wrong, sure, of all."""
    right = met = wrong = sure = done = 0
    for seed in range(first, first + count):
        try:
            found, *_ = walked(seed)
        except Exception as e:
            if type(e).__module__.startswith("vessel"):
                continue
            raise
        done += 1
        v = found.verdict
        if any(found.truly):
            met += 1
            right += v.target is not None and found.truly[v.target]
        sure += v.sure
        wrong += v.sure and not found.truly[v.target]
    return {"sites": done, "met": met, "right": right / max(met, 1), "sure": sure / done, "sure_wrong": wrong / done}
