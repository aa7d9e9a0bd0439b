"""Somebody who follows the loudest peak from the hookup and reads what the form asks for."""

from dataclasses import dataclass

import numpy as np

from tests.trouble.grounds import TARGET
from tests.trouble.network import Net, Rod
from tests.trouble.receiver import Ears
from vessel.core.diagnose.ranking import diagnose
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.signal.layout.placed_hookup import hookup_on

KIT = SAMPLE_KIT
REACH_M, LOOK_M, LIFT_M = 1.5, 4.0, 0.5
STANDS_M = 0.05  # how far off a peak somebody stands, one standard deviation
ACROSS_M = (-1.6, -1.2, -0.8, -0.4, 0.0, 0.4, 0.8, 1.2, 1.6)


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
    rng, stance = np.random.default_rng([seed, 7]), np.random.default_rng([seed, 19])
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
        mark = place + (found[0][0] + stance.normal(0, STANDS_M)) * left
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
