"""Seeded circuits for the diagnosis: a line as told, the fault it really has, and what the transmitter then shows."""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from vessel.core.diagnose.ranking import diagnose
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.line import Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.neighbour import Neighbour
from vessel.core.model.readings import TransmitterReading
from vessel.core.model.setup import Setup, Stake
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.line_on_site import LineFault
from vessel.core.signal.physics.stake_resistance import stake_ohm

INSULATED = ("tracer_wire", "armoured_cable", "pair_cable")
LEAKING = (
    "coated_steel_pipe",
    "bare_steel_service",
    "bare_copper_service",
    "jointed_iron_main",
    "power_bare_neutral",
    "tracer_wire_clad",
)
CAUSES = ("far_open", "far_earthed", "break", "poor_stake", "bad_clip", "earth_fault")
FREQS = (8960.0, 560.0, 35840.0)
TELLS = 0.12  # what a fault must change of the ohms somewhere to be seen at all: two standard deviations of a reading
MAIN = Neighbour("Water main", PRESETS["coated_steel_pipe"].construction, 1.2, -20.0, 320.0, 1.3, 10.0, 10.0)


@dataclass(frozen=True)
class Case:
    """A circuit: what is told, what is true, and where ([m], None where a place means nothing); `read` reads it.

    `observable`: whether anything the transmitter shows differs from a sound line's, open or earthed.
    `far_kind`: what a look at the far end finds.
    """

    line: Line
    setup: Setup
    soil: Soil
    cause: str
    at_m: float | None
    read: Callable[..., TransmitterReading]
    observable: bool = True
    far_kind: str = "unknown"


def case(seed, kinds=INSULATED, causes=CAUSES):
    """Return a circuit with one cause; soil, depth, stake and far end are not quite as told."""
    rng = np.random.default_rng(seed)
    cause = causes[seed % len(causes)]
    length = float(rng.uniform(40, 300))
    far_ohm = float(10 ** rng.uniform(0.7, 1.9))
    earthed = cause == "far_earthed" or (cause in ("poor_stake", "bad_clip") and rng.random() < 0.5)
    # a crew knows the far end of half of its lines
    known = rng.random() < 0.5
    kind = "unknown" if not known else "earthed" if earthed else "open"
    line = Line(
        PRESETS[str(rng.choice(kinds))].construction,
        length,
        0.6,
        1.2,
        far=FarEnd(kind, 30.0 if not known else far_ohm),
    )
    soil = Soil(float(10 ** rng.uniform(1.4, 2.8)))
    # the stake was driven and measured, or its resistance goes by the soil
    measured = rng.random() < 0.5
    sound = stake_ohm(Stake(), soil) * float(np.exp(rng.normal(0, 0.25)))
    really = replace(soil, resistivity_ohm_m=soil.resistivity_ohm_m * float(np.exp(rng.normal(0, 0.25))))
    true_line, at_m, faults = replace(line, depth_min_m=0.9, depth_max_m=0.9), None, ()
    clip, stake = 0.5, sound
    if cause == "break":
        at_m = float(rng.uniform(0.15, 0.7)) * length
        true_line = replace(true_line, length_m=at_m)
    elif cause == "earth_fault":
        at_m = float(rng.uniform(0.1, 0.9)) * length
        faults = (LineFault("earth_fault", at_m, float(rng.uniform(5, 30))),)
    elif cause == "poor_stake":
        stake = sound * float(rng.uniform(3, 15))
    elif cause == "bad_clip":
        clip = float(10 ** rng.uniform(2.3, 3.3))
    elif cause == "far_open":
        at_m = length
    elif cause == "bonded":
        line, true_line = (replace(x, neighbours=(MAIN,)) for x in (line, true_line))
        at_m = float(rng.uniform(0.1, 0.9)) * length
        true_line = replace(true_line, neighbours=(replace(MAIN, bond_m=at_m),))
    setup = Setup("direct", FREQS[0], 0.03, Stake(measured_ohm=sound if measured else None))
    truth = replace(setup, stake=Stake(measured_ohm=stake), clip_ohm=clip)
    better = float(rng.uniform(0.25, 0.6)) if cause == "poor_stake" else float(rng.uniform(0.5, 0.85))
    far_made = float(10 ** rng.uniform(0.9, 1.7))

    def read(freq_hz, changes=()):
        at = replace(truth, freq_hz=freq_hz)
        if "stake" in changes:
            at = replace(at, stake=Stake(measured_ohm=stake * better))
        if "clip" in changes:
            at = replace(at, clip_ohm=0.5)
        far = far_ohm if earthed else far_made if "far" in changes and cause != "break" else None
        laid = true_line
        if "bond" in changes:
            laid = replace(laid, neighbours=tuple(replace(n, bond_m=None) for n in laid.neighbours))
        circuit = LineCircuit(laid, really, freq_hz=freq_hz, faults=faults)
        out = output(excite(circuit, at, SAMPLE_KIT, far_ohms=(far,))[0].load_ohm, at, SAMPLE_KIT)
        volts, amps = (float(f"{v * (1 + 0.01 * rng.standard_normal()):.3g}") for v in (out.volts, out.amps))
        return TransmitterReading(max(volts, 0.01), max(amps, 1e-5), freq_hz, tuple(sorted(changes)))

    def ohms(on, freq_hz, far, *, at=truth, faults=()):
        circuit = LineCircuit(on, really, freq_hz=freq_hz, faults=faults)
        return abs(excite(circuit, replace(at, freq_hz=freq_hz), SAMPLE_KIT, far_ohms=(far,))[0].load_ohm)

    def differs(far):
        """How much what is true differs from a sound line with this far end, at the frequency that shows it best."""
        plain, sound_setup = replace(line, depth_min_m=0.9, depth_max_m=0.9), replace(setup, stake=truth.stake)
        if cause == "poor_stake":
            sound_setup = replace(setup, stake=Stake(measured_ohm=sound))
        pairs = [
            (ohms(true_line, f, far_ohm if earthed else None, faults=faults), ohms(plain, f, far, at=sound_setup))
            for f in FREQS
        ]
        return max(abs(np.log(a / b)) for a, b in pairs)

    others = {"far_open": (far_ohm,), "far_earthed": (None,)}.get(cause, (None, 10.0, 30.0))
    observable = set(kinds) == set(INSULATED) or min(differs(far) for far in others) > TELLS
    return Case(line, setup, soil, cause, at_m, read, observable, "earthed" if earthed else "open")


def diagnosed(c, more=3):
    """Read at two frequencies, then do what the diagnosis asks for, up to `more` times."""
    readings = [c.read(f) for f in FREQS[:2]]
    changes = ()
    for _ in range(more):
        d = diagnose(c.line, c.setup, c.soil, SAMPLE_KIT, readings)
        wanted = d.next_reading
        if d.told_apart or not wanted.asks:
            break
        if wanted.change == "bond" and c.cause != "bonded":
            break  # none is found that could be opened
        if wanted.look_far:
            c = replace(c, line=replace(c.line, far=FarEnd(c.far_kind, c.line.far.earth_ohm)))
        elif wanted.beside:
            seen = "carries" if c.cause == "bonded" else "quiet"
            readings.append(replace(c.read(c.setup.freq_hz, changes), beside=seen))
        elif wanted.change is not None:
            changes = (*changes, wanted.change)
            readings.append(c.read(c.setup.freq_hz, changes))
        elif any((r.freq_hz, r.changes) == (wanted.freq_hz, tuple(sorted(changes))) for r in readings):
            break
        else:
            readings.append(c.read(wanted.freq_hz, changes))
    return diagnose(c.line, c.setup, c.soil, SAMPLE_KIT, readings), len(readings)


def tally(count, first=0, kinds=INSULATED, causes=CAUSES):
    """Return shares over `count` circuits: named first, among two, told apart and wrong; places within 15 %.

    What cannot be observed is counted apart: there only being sure of something else is wrong.
    """
    named = among = wrong = placed = placeable = apart = taken = seen = 0
    by_cause = {c: [0, 0, 0] for c in causes}
    for seed in range(first, first + count):
        c = case(seed, kinds, causes)
        d, readings = diagnosed(c)
        order = [h.family.id for h in d.hypotheses]
        taken += readings
        apart += d.told_apart
        wrong += order[0] != c.cause and d.told_apart
        if not c.observable:
            continue
        seen += 1
        named += order[0] == c.cause
        among += c.cause in order[:2]
        row = by_cause[c.cause]
        row[0] += 1
        row[1] += order[0] == c.cause
        row[2] += c.cause in order[:2]
        if c.cause in ("far_open", "break") and order[0] == c.cause:
            placeable += 1
            placed += abs(d.hypotheses[0].parameter / c.at_m - 1) <= 0.15
    return {
        "circuits": count,
        "observable": seen,
        "first": named / max(seen, 1),
        "two": among / max(seen, 1),
        "apart_wrong": wrong / count,
        "told_apart": apart / count,
        "placed": placed / max(placeable, 1),
        "readings": taken / count,
        "by_cause": by_cause,
    }
