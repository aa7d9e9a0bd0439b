"""What a hookup is known to do: its diagnosis, what is still possible, and the currents to be expected from that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.base.arrays import Floats
from vessel.core.base.cached import lazy
from vessel.core.diagnose.current_family import CurrentFamily
from vessel.core.diagnose.diagnosis import Diagnosis, Hypothesis
from vessel.core.diagnose.hypotheses import FAMILIES, Cause
from vessel.core.diagnose.ranking import diagnose
from vessel.core.hookup.explained_setup import Explained, explained
from vessel.core.hookup.taught import Possible, families
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.circuit.line_circuit import LineCircuit, excite
from vessel.core.signal.circuit.sources import Excitation
from vessel.core.signal.circuit.transmitter_output import output
from vessel.core.signal.layout.beside_line import look_aside


@dataclass(frozen=True)
class Band:
    """Expected line current (low, high) [A] at `distance_m` (n,) [m]."""

    distance_m: tuple[float, ...]
    low_a: tuple[float, ...]
    high_a: tuple[float, ...]

    def along(self, distances_m: Floats) -> tuple[Floats, Floats]:
        """Return the band at several distances.

        Args:
            distances_m: Distances along the line, shape (n,) [m].

        Returns:
            Low and high edge, each of shape (n,) [A]; zero beyond the line.
        """
        low, high = (np.interp(distances_m, self.distance_m, e, right=0.0) for e in (self.low_a, self.high_a))
        return np.asarray(low), np.asarray(high)

    def at(self, distance_m: float) -> tuple[float, float]:
        """Return the band at one distance.

        Args:
            distance_m: Distance along the line [m].

        Returns:
            Low and high edge [A]; zero beyond the line.
        """
        low, high = self.along(np.array([distance_m]))
        return float(low[0]), float(high[0])


@dataclass(frozen=True, eq=False)
class HookupState:
    """What the hookup is known to do: diagnosis of its readings (direct only), forecast bands, what they rest on.

    `causes`: what the readings leave, likeliest first. `possible`: what the bands span, those or, with nothing read at
    this frequency, the far ends as entered; `levels_a` the line's own current (n,) [A] under each. `band` is the
    line's own current, `beside` that of each neighbour; `likely` the line's own if the first of what is possible is
    true. `measured`: the soil's resistivity was. `doubted`: what the readings make too unlikely for a forecast, and
    stations may still show.
    """

    diagnosis: Diagnosis | None
    causes: tuple[Possible, ...]
    possible: tuple[Possible, ...]
    doubted: tuple[Possible, ...]
    levels_a: tuple[Floats, ...]
    band: Band
    likely: Band
    beside: tuple[Band, ...]
    tx_read: bool
    soil: Soil
    kit: Kit
    measured: bool

    @property
    def loop_gap(self) -> float | None:
        """Gap for the judge: None without a reading; NaN where the transmitter cannot tell."""
        if self.diagnosis is not None:
            return self.diagnosis.gap
        return float("nan") if self.tx_read else None

    @lazy
    def families(self) -> tuple[CurrentFamily, ...]:
        """Return the currents that each explanation allows while soil, far end and coating are not known for sure.

        Returns:
            One family for each explanation that is still possible.
        """
        x_m = np.array(self.band.distance_m)
        return families(self.possible, self.levels_a, x_m, self.soil, self.kit, measured=self.measured)


def hookup_state(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    readings: Sequence[TransmitterReading],
    *,
    measured: bool = False,
) -> HookupState:
    """Return the state of a hookup: diagnosis, forecast and their band.

    The band spans the plausible explanations, scaled to the measured current. Without a reading it spans the far-end
    cases at the transmitter's forecast output.

    Args:
        line: The line to locate.
        soil: Soil of the site.
        kit: Transmitter and receiver in use.
        setup: Method, place, frequency and output.
        readings: Readings of the transmitter, in the order they were taken.
        measured: Whether the soil's resistivity was measured; a typical value may be further off.

    Returns:
        The state.
    """
    x_m = np.linspace(0, line.length_m, 81)
    tx_read = bool(readings) or setup.by.through_air  # induction has nothing to read
    found = diagnose(line, setup, soil, kit, readings, measured=measured) if setup.by.connects and readings else None
    last = last_at(readings, setup.freq_hz)
    now = (last or readings[-1]).changes if readings else ()

    def as_causes(some: Sequence[Hypothesis]) -> list[Possible]:
        told = [(h, explained(h, line, soil, setup, now)) for h in some]
        return [Possible(_as_it_is(h, x), x, h.probability, read=last is not None) for h, x in told]

    causes = as_causes(found.plausible) if found else []
    doubted = as_causes(found.doubted) if found and last is not None else []
    longer: list[Floats] = []
    if last is None or not causes:
        possible, rows = _forecast(line, soil, kit, setup, x_m)
    else:
        possible, rows = causes, [_currents(p.explained, soil, kit, x_m) * last.amps for p in causes]
        as_long = [x.explained for p in causes for x in p.also_as_long_as(line)[1:]]
        longer = [_currents(x, soil, kit, x_m) * last.amps for x in as_long]
    band, *beside = _bands(x_m, [*rows, *longer, *_loose(line, setup, rows, kit)])
    levels = tuple(row[0] for row in rows)
    likely = _bands(x_m, rows[:1])[0]
    return HookupState(
        found,
        tuple(causes),
        tuple(possible),
        tuple(doubted),
        levels,
        band,
        likely,
        tuple(beside),
        tx_read,
        soil,
        kit,
        measured,
    )


def _as_it_is(h: Hypothesis, x: Explained) -> Cause:
    """The cause of an explanation as things stand now: what was put right is a sound loop."""
    return FAMILIES["far_open" if x.far_ohm is None else "far_earthed"] if h.mended else h.family


def _loose(line: Line, setup: Setup, rows: Sequence[Floats], kit: Kit) -> list[Floats]:
    """What a pair may show too: nothing where it is twisted or lies flat, more where it is less deep."""
    if not setup.by.between:
        return []
    low = kit.receiver.low_m
    shallow = (line.depth_m(deepest=False) + low) / (line.depth_min_m + low)
    return [0.0 * rows[0], *(row * shallow for row in rows)]


def _bands(x_m: Floats, cases: Sequence[Floats]) -> list[Band]:
    """Bands of the line and of each neighbour over `cases`, each (1 + neighbours, n) [A]."""
    stack = np.stack(cases)
    x = tuple(x_m.tolist())
    return [
        Band(x, tuple(low.tolist()), tuple(high.tolist())) for low, high in zip(stack.min(0), stack.max(0), strict=True)
    ]


def _forecast(line: Line, soil: Soil, kit: Kit, setup: Setup, x_m: Floats) -> tuple[list[Possible], list[Floats]]:
    """Each far-end case, and its currents (1 + neighbours, n) [A] at the transmitter's forecast output."""
    circuit = LineCircuit(line, soil, freq_hz=setup.freq_hz)
    cases = line.far_cases(between=setup.by.between)
    possible, rows = [], []
    found = excite(circuit, setup, kit, far_ohms=[ohm for _, ohm in cases], at_m=x_m)
    for (_, ohm), e in zip(cases, found, strict=True):
        drive = output(e.load_ohm, setup, kit).drive
        possible.append(Possible(None, Explained(line, setup, ohm), 1 / len(cases), read=False))
        rows.append(_at(circuit, e, x_m) * drive)
    return possible, rows


def _currents(x: Explained, soil: Soil, kit: Kit, x_m: Floats) -> Floats:
    """Currents (1 + neighbours, n) per ampere of transmitter on the line as explained; zero past its end."""
    circuit = LineCircuit(x.line, soil, freq_hz=x.setup.freq_hz, faults=x.faults)
    return _at(circuit, excite(circuit, x.setup, kit, far_ohms=(x.far_ohm,))[0], x_m)


def _at(circuit: LineCircuit, e: Excitation, x_m: Floats) -> Floats:
    own, ends = circuit.current_at(e.response, x_m), circuit.site_circuit.ends(e.response)
    asides = look_aside(circuit.line, circuit.mesh.site, x_m)
    return np.vstack([own, e.response.at_own(circuit.currents_beside(ends, asides, len(x_m)))])
