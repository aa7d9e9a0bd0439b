"""Somebody who follows the loudest peak from the hookup, reads what the form asks for, and answers when asked."""

from dataclasses import dataclass, replace

import numpy as np

from tests.trouble.grounds import TARGET
from tests.trouble.network import Ground, Net, Rod
from tests.trouble.receiver import Ears
from vessel.core.diagnose.ranking import diagnose
from vessel.core.model.construction import PRESETS
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.signal.layout.placed_hookup import hookup_on

KIT = SAMPLE_KIT
REACH_M, LOOK_M, LIFT_M = 1.5, 4.0, 0.5
ACROSS_M = (-1.6, -1.2, -0.8, -0.4, 0.0, 0.4, 0.8, 1.2, 1.6)
CANNOT = 0.2


@dataclass
class Walked:
    """What was read, where each mark would go (n, 2), how far off the target that is and its true depth [m]."""

    truth: object
    transmitter: tuple
    stations: list
    marks: np.ndarray
    off_m: np.ndarray
    depth_m: np.ndarray
    final: np.ndarray | None


def driven(truth, freq=None, at=None, coil=None):
    """Currents of every piece at the transmitter's output, and its volts and amps."""
    freq = freq or truth.setup.freq_hz
    rod = rod_of(truth)
    net = Net(truth.ground, freq, wanted=[(TARGET, at or 0.0)], rod=rod)
    frequency = KIT.frequency(freq)
    if truth.setup.method == "induction":
        place = np.array([*(coil or truth.coil), KIT.coil.height_m])
        # full output, as a trace by coil has it
        share = truth.setup.output_a / max(KIT.outputs_a)
        return net, net.by_emf(net.coil(place, np.array([0.0, 1.0, 0.0]), KIT.coil.moment_at(freq) * share)), None
    amps, z = net.direct(TARGET, at or 0.0)
    if truth.returns:
        name, share = truth.returns
        amps = amps - share * net.direct(name, 0.0)[0]
        z = z + stake_of(truth).ohms(truth.ground.rho)
    z = z + 0.5
    drive = min(truth.setup.output_a, KIT.volts_max / abs(z), np.sqrt(frequency.watts / max(z.real, 1e-9)))
    return net, amps * drive, (drive * abs(z), drive)


def stake_of(truth):
    """The stake as a rod, where the safe order has it: away from what is entered."""
    stake = truth.setup.stake
    return Rod(hookup_on(truth.line, truth.setup).stake_at, stake.length_m, stake.radius_m)


def rod_of(truth):
    """What the current comes home through: the stake. None by coil, or where it comes home over a line."""
    return None if truth.setup.method == "induction" or truth.returns else stake_of(truth)


def walk(truth, seed):
    """Walk from the hookup along the loudest peak; None where nothing can be heard."""
    rng = np.random.default_rng([seed, 7])
    net, amps, shown = driven(truth)
    ears = ears_of(net, amps, rng)
    target = truth.ground.wire(TARGET)
    end = truth.line.length_m
    heading, place = np.array([1.0, 0.0]), np.array([4.0, 0.0])
    if truth.setup.method == "induction":
        place = np.array([truth.coil[0] + 18.0, truth.coil[1]])
    stations, marks = [], []
    first = True
    while place[0] < end - 2.0 and len(stations) < 14:
        found = ears.peaks(place, heading, 2.5 if first else REACH_M)[0]
        if not found or found[0][1] < 8 * ears.noise:
            again = None if first else circled(ears, marks[-1], heading)
            if again is None:
                break
            heading = again
            place = marks[-1] + 4.0 * heading
            found = ears.peaks(place, heading, REACH_M)[0]
            if not found:
                break
        left = np.array([-heading[1], heading[0]])
        mark = place + found[0][0] * left
        if not first:
            way = mark - marks[-1]
            heading = 0.3 * heading + 0.7 * way / np.linalg.norm(way)
            heading /= np.linalg.norm(heading)
        reading = read(ears, mark, heading, rng, truth, across=len(stations) % 5 == 2)
        if reading is None:
            break
        stations.append(reading)
        marks.append(mark)
        place, first = mark + heading * float(rng.uniform(4.0, 9.0)), False
    if not stations:
        return None
    final = followed_on(ears, marks[-1], heading, end)
    marks = np.array(marks)
    _, off, depth = target.nearest(marks)
    transmitter = ()
    if shown is not None:
        volts, milli = (float(f"{x:.3g}") for x in shown)
        transmitter = (TransmitterReading(volts, milli, truth.setup.freq_hz),)
        asked = diagnose(truth.line, truth.setup, truth.soil, KIT, transmitter).next_reading.freq_hz
        if asked is not None:  # what the diagnosis asks for costs no walk
            volts, milli = (float(f"{x:.3g}") for x in driven(truth, asked)[2])
            transmitter = (*transmitter, TransmitterReading(volts, milli, asked))
    return Walked(truth, transmitter, stations, marks, off, depth, final)


def followed_on(ears, place, heading, end):
    """Where the trace ends, followed on without readings; None where it is lost."""
    for _ in range(60):
        if place[0] >= end - 2.5:
            return place
        found = ears.peaks(place + 2.5 * heading, heading, 1.0)[0]
        if not found or found[0][1] < 4 * ears.noise:
            return None
        mark = place + 2.5 * heading + found[0][0] * np.array([-heading[1], heading[0]])
        way = mark - place
        heading = 0.4 * heading + 0.6 * way / np.linalg.norm(way)
        heading /= np.linalg.norm(heading)
        place = mark
    return None


def circled(ears, place, heading):
    """The heading of the loudest centre line ahead on a circle, None where nothing is to be heard."""
    turns = np.arctan2(heading[1], heading[0]) + np.radians(np.arange(-100, 101, 4))
    ways = np.column_stack([np.cos(turns), np.sin(turns)])
    heard = [ears.coils((place + 4.0 * way)[None], way, ears.low)[0][0] for way in ways]
    k = int(np.argmax(heard))
    return ways[k] if heard[k] > 8 * ears.noise else None


def ears_of(net, amps, rng):
    r = KIT.receiver
    return Ears(net, amps, KIT.frequency(net.freq_hz).noise_t, r.low_m, r.high_m, rng)


def read(ears, mark, heading, rng, truth, *, across):
    """One station at a peak: everything its form asks for."""
    each = [ears.display(mark, heading) for _ in range(4)]
    depth = np.median([d for d, _, _ in each])
    lifted = np.median([ears.display(mark, heading, lift=LIFT_M)[0] for _ in range(4)])
    amps = [a for _, a, _ in each]
    if not (np.isfinite(depth) and 0.02 < depth < 14 and np.isfinite(lifted) and 0.02 < lifted < 19):
        return None
    if not all(np.isfinite(a) and 0 < a < 9 for a in amps):
        return None
    tops, x, _, v = ears.peaks(mark, heading, LOOK_M)
    near = np.abs(x) < 1.0
    null = x[near][v[near].argmin()]
    own = min(tops, key=lambda t: abs(t[0]), default=(0.0, 1.0))
    gap = abs(null - own[0]) + abs(rng.normal(0, 0.015))
    left = np.array([-heading[1], heading[0]])
    beside = [ears.display(mark + t * left, heading) for t, s in tops if abs(t - own[0]) > 0.5 and s > 8 * ears.noise]
    best = max((a for d, a, _ in beside if np.isfinite(d) and 0.1 < d < 4.0), default=0.0)
    profile = ()
    if across:
        s = ears.coils(mark + np.array(ACROSS_M)[:, None] * left, heading, ears.low)[0]
        s = np.abs(s * np.exp(rng.normal(0, 0.01, len(s))) + rng.normal(0, ears.noise, len(s)))
        profile = tuple((o, float(f"{1e9 * b:.3g}")) for o, b in zip(ACROSS_M, s, strict=True))
    return StationReading(
        round(float(np.clip(mark[0], 0.0, truth.line.length_m)), 1),
        tuple(float(f"{a:.3g}") for a in amps),
        round(float(depth), 2),
        LIFT_M,
        round(float(lifted), 2),
        round(min(float(gap), 9.9), 2),
        min(9.0, float(f"{best:.3g}")),
        profile=profile,
    )


def answer(w, ask, seed):
    """What somebody finds who is asked for evidence: "for", "against" or "cannot"."""
    rng = np.random.default_rng([seed, 11, len(ask.kind), ord(ask.kind[0])])
    if rng.random() < CANNOT:
        return "cannot"
    found = dug_at(w, ask.at_m) if ask.kind == "exposed" else FINDS[ask.kind](w)
    return "cannot" if found is None else "for" if found else "against"


def bonded_at_hookup(w):
    return any((i == TARGET and at < 1.5) or (j == TARGET and to < 1.5) for i, at, j, to, _ in w.truth.ground.bonds)


def currents_at_access(w):
    """Each conductor is read a little past the box: the current on the line, and the most on another one [A]."""
    net, amps, _ = driven(w.truth)
    others = [j if i == TARGET else i for i, at, j, to, _ in w.truth.ground.bonds if min(at, to) < 1.5]
    most = max((net.current_on(amps, o, 1.0) for o in others), default=0.0)
    return net.current_on(amps, TARGET, 1.0), most


def most_at_access(w):
    own, other = currents_at_access(w)
    return other <= own


def said(w, ask, seed):
    """The answer to an ask as evidence, with the currents that were read for it."""
    found, read = answer(w, ask, seed), ()
    if ask.kind == "conductors" and found != "cannot":
        read = tuple(float(f"{amps:.3g}") for amps in currents_at_access(w))
    return Evidence(ask.kind, found, ask.at_m, *read)


def ends_at_its_own(w):
    """Whether the trace ends at the box where the line ends; what shares that box ends there too. None if lost."""
    target, length = w.truth.ground.wire(TARGET), w.truth.line.length_m
    if w.final is None:
        return None
    if target.length_m < length - 1.0:
        return False  # no box of this line there
    ends = [0.0]
    for i, at, j, to, _ in w.truth.ground.bonds:
        there, far = ((j, to), at) if i == TARGET else ((i, at), to)
        if far > target.length_m - 1.0:
            ends.append(float(w.truth.ground.wire(there[0]).at(np.array([there[1]]))[0, 1]))
    return bool(min(abs(w.final[1] - y) for y in ends) < 0.6)


def agrees(w, net, amps, within=0.3, depth_too=False):
    """Whether another way of driving the line puts the peaks where they were marked."""
    ears = ears_of(net, amps, np.random.default_rng(3))
    for k in range(0, len(w.marks), max(1, len(w.marks) // 5)):
        way = w.marks[min(k + 1, len(w.marks) - 1)] - w.marks[max(k - 1, 0)]
        heading = way / np.linalg.norm(way) if len(w.marks) > 1 else np.array([1.0, 0.0])
        found = ears.peaks(w.marks[k], heading, REACH_M)[0]
        if not found:
            continue
        if abs(found[0][0]) > within:
            return False
        if depth_too:
            d = ears.display(w.marks[k] + found[0][0] * np.array([-heading[1], heading[0]]), heading)[0]
            if np.isfinite(d) and abs(d / w.stations[k].depth_m - 1) > 0.06:
                return False
    return True


def from_far_end(w):
    """Hooked up at the far end and followed back: the second trace must run over the first. None if it is lost."""
    target, t = w.truth.ground.wire(TARGET), w.truth
    if target.length_m < t.line.length_m - 1.0:
        return None  # the far end is not where it is looked for
    net = Net(t.ground, t.setup.freq_hz)
    ears = ears_of(net, net.direct(TARGET, target.length_m)[0] * 0.06, np.random.default_rng(3))
    heading = -target.heading(target.length_m - 0.5)[0]
    place, track = target.path[-1, :2] + 3.0 * heading, []
    while place[0] > w.marks[0, 0] - 1.0 and len(track) < 60:
        found = ears.peaks(place, heading, 2.0 if not track else REACH_M)[0]
        if not found or found[0][1] < 8 * ears.noise:
            break
        mark = place + found[0][0] * np.array([-heading[1], heading[0]])
        if track:
            way = mark - track[-1]
            heading = 0.3 * heading + 0.7 * way / np.linalg.norm(way)
            heading /= np.linalg.norm(heading)
        track.append(mark)
        place = mark + 3.0 * heading
    lost = place[0] > w.marks[0, 0] - 1.0
    if len(track) < 3:
        return None
    track = np.array(track)[::-1]
    inside = (w.marks[:, 0] > track[0, 0]) & (w.marks[:, 0] < track[-1, 0])
    if inside.sum() < 2:
        return None if lost else False
    there = np.interp(w.marks[inside, 0], track[:, 0], track[:, 1])
    return bool((np.abs(there - w.marks[inside, 1]) < 0.35).mean() > 0.85)


def at_second_frequency(w):
    freq = 4480.0 if w.truth.setup.freq_hz > 5000 else 8960.0
    if w.truth.setup.method == "induction":
        freq = 71680.0
    net, amps, _ = driven(w.truth, freq)
    return agrees(w, net, amps, 0.12, depth_too=True)


def by_clamp(w):
    net, _, _ = driven(w.truth)
    emf = np.zeros(len(net.a), dtype=complex)
    k = next(i for i, x in enumerate(w.truth.ground.wires) if x.name == TARGET)
    emf[np.flatnonzero(net.wire_of == k)[0]] = 1.0
    return agrees(w, net, net.by_emf(emf))


def coil_moved(w):
    """The coil a metre aside: the current here must fall as it would from the line the mark is over."""
    if w.truth.setup.method != "induction":
        return True
    read = [s.current_a for s in w.stations]
    x, y = w.truth.coil
    net, amps, _ = driven(w.truth, coil=(x, y + 1.0))
    ears = ears_of(net, amps, np.random.default_rng(5))
    now = ears.display(w.marks[0], np.array([1.0, 0.0]), noisy=False)[1]
    h = KIT.coil.height_m + w.stations[0].depth_m
    # EMF of a coil beside a long line goes with h / (h2 + y2); the crew believes the coil stands over the line
    return bool(abs(np.log(now / read[0] * (h**2 + 1.0) / h**2)) < 0.25)


def bond_opened(w):
    if not bonded_at_hookup(w):
        return True
    t = w.truth
    bonds = [b for b in t.ground.bonds if min(b[1], b[3]) > 1.5]
    net = Net(Ground(t.ground.wires, t.ground.rho, bonds), t.setup.freq_hz, rod=rod_of(t))
    return agrees(w, net, net.direct(TARGET, 0.0)[0] * 0.03)


def by_themselves(w):
    """Lines near the marks that a hookup of their own lights up, and no other: straight beside, bonded to nothing."""
    bonded = {name for i, _, j, _, _ in w.truth.ground.bonds for name in (i, j)}
    near = [x for x in w.truth.ground.wires if x.name != TARGET and x.nearest(w.marks)[1].min() <= 2.6]
    return near, [x for x in near if x.name not in bonded and np.ptp(x.path[:, 1]) < 0.5]


def beside_located(w):
    """Everything near is hooked up for itself and drawn where it was found: is that all, and none at the marks?"""
    near, apart = by_themselves(w)
    return len(near) == len(apart) and all((x.nearest(w.marks)[1] < 0.4).mean() <= 0.3 for x in near)


def located_beside(w, seed):
    """The line with its neighbours as hookups of their own found them, what nobody had entered among them."""
    rng = np.random.default_rng([seed, 13])
    told, found = {n.name: n for n in w.truth.line.neighbours}, {}
    for wire in by_themselves(w)[1]:
        off = float(wire.path[0, 1] + rng.normal(0, 0.05))
        depth = float(-wire.path[0, 2] * np.exp(rng.normal(0, 0.04)))
        known = told.get(wire.name)
        if known is not None:
            found[wire.name] = replace(known, offset_m=off, depth_m=depth)
        else:  # what it is made of nobody knows
            make = PRESETS["bare_copper_service"].construction
            found[wire.name] = Neighbour(wire.name, make, off, wire.path[0, 0], wire.path[-1, 0], depth, 20.0, 20.0)
    return replace(w.truth.line, neighbours=tuple({**told, **found}.values()))


def dug_at(w, at_m):
    """Whether the line is under the mark nearest to where it is dug."""
    return bool(w.off_m[int(np.abs(np.array([s.distance_m for s in w.stations]) - at_m).argmin())] < 0.3)


FINDS = {
    "access": lambda w: not bonded_at_hookup(w),
    "conductors": most_at_access,
    "ends_at": ends_at_its_own,
    "second_frequency": at_second_frequency,
    "coil_aside": coil_moved,
    "clamp": by_clamp,
    "second_hookup": from_far_end,
    "bond_opened": bond_opened,
    "beside_located": beside_located,
}
