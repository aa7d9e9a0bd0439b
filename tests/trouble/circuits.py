"""Circuits for the diagnosis that are not core's: what is told, what is true, and what the transmitter then shows.

The network is this folder's own. Soil, stake, depth and far end are not quite as told; one cause is hidden.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from tests.trouble.grounds import TARGET, along, wire_of
from tests.trouble.network import Ground, Net
from vessel.core.diagnose.diagnosis import Diagnosis
from vessel.core.diagnose.ranking import diagnose
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil

CAUSES = ("far_open", "far_earthed", "break", "poor_stake", "bad_clip", "earth_fault", "bonded")
KINDS = ("tracer_wire", "armoured_cable", "pair_cable")
BESIDE = "Water main"
LOW_HZ, WORK_HZ = 560.0, 8960.0
MORE = 3
MUCH = 0.2


@dataclass(frozen=True)
class Circuit:
    """One circuit: the line as told, its setup and soil, the cause, and how the transmitter reads it.

    `bonded_share`: what the line beside takes of the current at the bond, 0 without one; `far_kind`: what a look at the far
    end finds.
    """

    line: Line
    setup: Setup
    soil: Soil
    cause: str
    read: Callable[..., TransmitterReading]
    beside: Callable[[], str]
    bonded_share: float
    far_kind: str


def circuit(seed: int, causes=CAUSES) -> Circuit:
    """Return a circuit; every cause in turn."""
    rng = np.random.default_rng([seed, 41])
    cause = causes[seed % len(causes)]
    length, depth = float(rng.uniform(40, 160)), float(rng.uniform(0.7, 1.1))
    preset, rho = str(rng.choice(KINDS)), float(10 ** rng.uniform(1.5, 2.7))
    far_ohm = float(10 ** rng.uniform(0.8, 1.8))
    earthed = cause == "far_earthed" or (cause in ("poor_stake", "bad_clip", "bonded") and rng.random() < 0.5)
    known = rng.random() < 0.5
    told_far = FarEnd("unknown", 30.0) if not known else FarEnd("earthed" if earthed else "open", far_ohm)
    stake_ohm = rho / (2 * np.pi * 0.4) * (np.log(4 * 0.4 / 0.006) - 1) * float(np.exp(rng.normal(0, 0.25)))
    clip_ohm, broken, earths, bonds, told = 0.5, (), [], [], ()
    at_m = float(rng.uniform(0.15, 0.85)) * length
    stake = stake_ohm
    if cause == "break":
        broken = (0.8 * at_m,)
    elif cause == "earth_fault":
        earths = [(TARGET, at_m, float(rng.uniform(5, 30)))]
    elif cause == "poor_stake":
        stake = stake_ohm * float(rng.uniform(3, 15))
    elif cause == "bad_clip":
        clip_ohm = float(10 ** rng.uniform(2.3, 3.3))
    off = float(rng.choice([-1, 1]) * rng.uniform(0.8, 2.0))
    if cause == "bonded" or rng.random() < 0.4:
        construction = PRESETS["coated_steel_pipe"].construction
        told = (Neighbour(BESIDE, construction, off, -20.0, length + 20.0, 1.2, 12.0, 12.0),)
    if cause == "bonded":
        bonds = [(TARGET, at_m, BESIDE, at_m + 20.0, 0.02)]
    soil = Soil(rho * float(np.exp(rng.normal(0, 0.25))))
    line = Line(
        PRESETS[preset].construction, round(length, 1), round(0.8 * depth, 2), round(1.2 * depth, 2), far=told_far
    )
    line = replace(line, neighbours=told)
    measured = Stake(measured_ohm=stake_ohm) if rng.random() < 0.5 else Stake()
    setup = Setup("direct", WORK_HZ, 0.03, measured)
    left, made = float(rng.uniform(0.3, 0.8)), float(10 ** rng.uniform(0.9, 1.6))

    def net(freq_hz, end_ohm, changes=()):
        target = wire_of(preset, TARGET, along(length, depth), freq_hz, end=end_ohm, broken=broken)
        wires = [target]
        if told:
            path = along(length + 20.0, 1.2, off, -20.0)
            wires.append(wire_of("coated_steel_pipe", BESIDE, path, freq_hz, start=12.0, end=12.0))
        return Net(Ground(wires, rho, [] if "bond" in changes else bonds, earths), freq_hz)

    def read(freq_hz, changes=()):
        end = far_ohm if earthed else made if "far" in changes else None
        ohms = net(freq_hz, end, changes).direct(TARGET, 0.0)[1]
        ohms = ohms + stake * (left if "stake" in changes else 1.0) + (0.5 if "clip" in changes else clip_ohm)
        watts = SAMPLE_KIT.frequency(freq_hz).watts
        amps = min(setup.output_a, SAMPLE_KIT.volts_max / abs(ohms), np.sqrt(watts / max(ohms.real, 1e-9)))
        shown = [float(f"{v * (1 + 0.01 * rng.standard_normal()):.3g}") for v in (amps * abs(ohms), amps)]
        volts = min(max(shown[0], 0.01), SAMPLE_KIT.volts_max)
        return TransmitterReading(volts, max(shown[1], 1e-5), freq_hz, tuple(sorted(changes)))

    share = 0.0
    if bonds:
        solved = net(WORK_HZ, far_ohm if earthed else None)
        amps = solved.direct(TARGET, 0.0)[0]
        before, after = (solved.phasor_on(amps, TARGET, at_m + d) for d in (-2.0, 2.0))
        share = float(abs(before - after) / abs(before))

    def beside():
        """What somebody reads of the line beside against this one, at three places along it."""
        solved = net(WORK_HZ, far_ohm if earthed else None)
        amps = solved.direct(TARGET, 0.0)[0]
        own = [float(solved.current_on(amps, TARGET, s * length)) for s in (0.3, 0.6, 0.9)]
        other = [float(solved.current_on(amps, BESIDE, 20.0 + s * length)) for s in (0.3, 0.6, 0.9)]
        return "carries" if max(other) > MUCH * max(own) else "quiet"

    return Circuit(line, setup, soil, cause, read, beside, share, "earthed" if earthed else "open")


def asked(c: Circuit) -> tuple[Diagnosis, int]:
    """Read at two frequencies, then do what is asked for; return the diagnosis and how many readings it took."""
    readings, changes = [c.read(WORK_HZ), c.read(LOW_HZ)], ()
    for _ in range(MORE):
        d = diagnose(c.line, c.setup, c.soil, SAMPLE_KIT, readings)
        wanted = d.next_reading
        if d.told_apart or not wanted.asks:
            break
        if wanted.change == "bond" and not c.bonded_share:
            break  # none is found that could be opened
        if wanted.look_far:
            c = replace(c, line=replace(c.line, far=FarEnd(c.far_kind, c.line.far.earth_ohm)))
        elif wanted.beside:
            readings.append(replace(c.read(WORK_HZ, changes), beside=c.beside()))
        elif wanted.change is not None:
            changes = (*changes, wanted.change)
            readings.append(c.read(WORK_HZ, changes))
        elif any((r.freq_hz, r.changes) == (wanted.freq_hz, tuple(sorted(changes))) for r in readings):
            break
        else:
            readings.append(c.read(wanted.freq_hz, changes))
    return diagnose(c.line, c.setup, c.soil, SAMPLE_KIT, readings), len(readings)


def one(seed: int) -> dict:
    """What the diagnosis makes of one circuit."""
    c = circuit(seed)
    d, taken = asked(c)
    order = [h.family.id for h in d.hypotheses]
    return {
        "cause": c.cause,
        "order": order[:3],
        "told_apart": d.told_apart,
        "sound": d.sound,
        "lead_sound": d.hypotheses[0].sound,
        "share": c.bonded_share,
        "gap": d.gap,
        "readings": taken,
    }


def figures(rows: list[dict]) -> dict:
    """Shares over played circuits."""
    bonded = [r for r in rows if r["cause"] == "bonded"]
    others = [r for r in rows if r["cause"] != "bonded"]
    return {
        "circuits": len(rows),
        "others_first": float(np.mean([r["order"][0] == r["cause"] for r in others])),
        "bonds_two": float(np.mean([r["cause"] in r["order"][:2] for r in bonded])) if bonded else 1.0,
        "sure_wrong": float(np.mean([r["told_apart"] and r["order"][0] != r["cause"] for r in rows])),
        "bonds_called_sound": sum(r["sound"] and r["order"][0] != "bonded" and r["share"] > MUCH for r in bonded),
        "bonds": len(bonded),
        "readings": float(np.mean([r["readings"] for r in rows])),
    }
