"""Judge entered stations: forecast from every plausible explanation of the hookup, then the judge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.diagnose.circuit import Diagnosis, diagnose
from vessel.core.judge.carry import carried
from vessel.core.judge.events import Event, Taken, events
from vessel.core.judge.measures import Batch, StationContext
from vessel.core.judge.rules import rules_of
from vessel.core.judge.verdict import Judgement, judge_codes, judgements
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.reading import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.explained import Explained, explained
from vessel.core.plan.forecast import PROVED_CODES
from vessel.core.plan.simulate import Simulator, end_distance
from vessel.core.plan.world import World
from vessel.core.signal.field import Floats
from vessel.core.signal.layout import look_aside
from vessel.core.signal.line_circuit import LineCircuit, excite
from vessel.core.signal.sources import Excitation, output

_PLACE_DOUBT = 0.1
"""How far off a forecast may be along the line, as a share of the way from the hookup."""


@dataclass(frozen=True)
class Band:
    """Expected line current (low, high) [A] at `distance_m` (n,) [m]."""

    distance_m: tuple[float, ...]
    low_a: tuple[float, ...]
    high_a: tuple[float, ...]

    def along(self, distances_m: Floats) -> tuple[Floats, Floats]:
        """Return (low, high) (n,) [A] at distances (n,) [m]; zero beyond the line."""
        low, high = (np.interp(distances_m, self.distance_m, e, right=0.0) for e in (self.low_a, self.high_a))
        return np.asarray(low), np.asarray(high)

    def at(self, distance_m: float) -> tuple[float, float]:
        """Return (low, high) [A] at one distance [m]; zero beyond the line."""
        low, high = self.along(np.array([distance_m]))
        return float(low[0]), float(high[0])


@dataclass(frozen=True)
class HookupState:
    """What the hookup is known to do: diagnosis of its readings (direct only), forecast bands, what they rest on.

    `band` is the line's own current, `beside` that of each neighbour; `likely` the line's own if the first of what is
    possible is true.
    """

    diagnosis: Diagnosis | None
    band: Band
    likely: Band
    beside: tuple[Band, ...]
    tx_read: bool

    @property
    def loop_gap(self) -> float | None:
        """Gap for the judge: None without a reading; NaN where the transmitter cannot tell."""
        if self.diagnosis is not None:
            return self.diagnosis.gap
        return float("nan") if self.tx_read else None


def hookup_state(line: Line, soil: Soil, kit: Kit, setup: Setup, readings: Sequence[TransmitterReading]) -> HookupState:
    """Return the state of a hookup: the band spans the plausible explanations, scaled to the measured current.

    Without a reading the band spans the far-end cases at the transmitter's forecast output.
    """
    x_m = np.linspace(0, line.length_m, 81)
    tx_read = bool(readings) or setup.method == "induction"  # induction has nothing to read
    if setup.method != "direct" or not readings:
        rows = _forecast(line, soil, kit, setup, x_m)
        band, *beside = _bands(x_m, rows)
        return HookupState(None, band, _bands(x_m, rows[:1])[0], tuple(beside), tx_read)
    found = diagnose(line, setup, soil, kit, readings)
    at_freq = [r for r in readings if r.freq_hz == setup.freq_hz]
    if at_freq:
        last = at_freq[-1]
        now = [explained(h, line, soil, setup, last.changes) for h in found.plausible]
        rows = [_currents(x, soil, kit, x_m) * last.amps for x in now]
    else:
        rows = _forecast(line, soil, kit, setup, x_m)
    band, *beside = _bands(x_m, rows)
    return HookupState(found, band, _bands(x_m, rows[:1])[0], tuple(beside), True)


def _bands(x_m: Floats, cases: Sequence[Floats]) -> list[Band]:
    """Bands of the line and of each neighbour over `cases`, each (1 + neighbours, n) [A]."""
    stack = np.stack(cases)
    x = tuple(x_m.tolist())
    return [
        Band(x, tuple(low.tolist()), tuple(high.tolist())) for low, high in zip(stack.min(0), stack.max(0), strict=True)
    ]


def _forecast(line: Line, soil: Soil, kit: Kit, setup: Setup, x_m: Floats) -> list[Floats]:
    """Currents (1 + neighbours, n) [A] of each far-end case at the transmitter's forecast output."""
    circuit = LineCircuit(line, soil, freq_hz=setup.freq_hz)
    far = tuple(ohm for _, ohm in line.far_cases())
    return [
        _at(circuit, e, x_m) * output(e.load_ohm, setup, kit).drive for e in excite(circuit, setup, kit, far_ohms=far)
    ]


def _currents(x: Explained, soil: Soil, kit: Kit, x_m: Floats) -> Floats:
    """Currents (1 + neighbours, n) per ampere of transmitter on the line as explained; zero past its end."""
    circuit = LineCircuit(x.line, soil, freq_hz=x.setup.freq_hz, faults=x.faults)
    return _at(circuit, excite(circuit, x.setup, kit, far_ohms=(x.far_ohm,))[0], x_m)


def _at(circuit: LineCircuit, e: Excitation, x_m: Floats) -> Floats:
    own, ends = circuit.current_at(e.response, x_m), circuit.site_circuit.ends(e.response)
    asides = look_aside(circuit.line, circuit.mesh.site, x_m)
    return np.vstack([own, circuit.currents_beside(ends, asides, len(x_m))])


def air_shares(
    line: Line, soil: Soil, kit: Kit, setup: Setup, distances_m: Sequence[float]
) -> list[float] | list[None]:
    """Return the transmitter's own field against the line's field at each station (induction), else Nones."""
    if setup.method != "induction" or not distances_m:
        return [None] * len(distances_m)
    stations = np.clip(np.asarray(distances_m, dtype=float), 0.1, line.length_m)
    world = World([line], soil, kit, freqs_hz=(setup.freq_hz,), extra=((line, setup.position_m, None),))
    (cases,) = Simulator(line, world, stations_m=stations).cases([setup])
    return [float(worst) for worst in cases.air_share.max(0)]


def judge_stations(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    state: HookupState,
    readings: Sequence[StationReading],
    *,
    rx_freq_hz: float | None,
) -> list[Judgement]:
    """Return the judgement of each station, in the order given. `readings` need not be sorted by distance."""
    if not readings:
        return []
    frequency = kit.frequency(setup.freq_hz)
    at_m = np.array([r.distance_m for r in readings])
    low, high = state.band.along(at_m)
    contexts = [
        StationContext(
            tx_freq_hz=setup.freq_hz,
            rx_freq_hz=rx_freq_hz,
            noise_t=frequency.noise_t,
            receiver=kit.receiver,
            reads_depth=frequency.reads_depth,
            depth_range_m=(line.depth_min_m, line.depth_max_m),
            end_m=float(end_m),
            loop_gap=state.loop_gap,
            forecast_a=(float(a), float(b)),
            air_share=air,
        )
        for end_m, a, b, air in zip(
            end_distance(line, setup, at_m), low, high, air_shares(line, soil, kit, setup, at_m.tolist()), strict=True
        )
    ]
    batch = Batch.of(readings, contexts, rules=rules_of(kit.bounds))
    batch = _each_after_a_proved_one(batch, at_m)
    return judgements(batch, carried=carried(batch, at_m))


def _each_after_a_proved_one(batch: Batch, at_m: Floats) -> Batch:
    """Each station with the last one before it that passed; whether one did depends on those before it in turn."""
    order = np.argsort(at_m, kind="stable")
    usable = ~np.isnan(batch.depth_m) & ~np.isnan(batch.amps)
    before = np.full(len(at_m), -1, dtype=np.intp)
    while True:  # what is settled before a station settles it, so every round settles one more at least
        codes, _ = judge_codes(batch)
        passed = (PROVED_CODES[np.broadcast_to(codes, at_m.shape)] & usable)[order]
        last = np.maximum.accumulate(np.where(passed, np.arange(len(order)), -1))
        found = np.full(len(at_m), -1, dtype=np.intp)
        found[order[1:]] = np.where(last[:-1] >= 0, order[last[:-1]], -1)
        if (found == before).all():
            return batch
        before, batch = found, batch.after(found)


def events_along(setup: Setup, state: HookupState, readings: Sequence[StationReading]) -> tuple[Event, ...]:
    """Return what happened along the stations of one hookup, against its likeliest forecast."""
    at_m = np.array([r.distance_m for r in readings])
    off = _PLACE_DOUBT * np.abs(at_m - setup.position_m)
    here, near, far = (state.likely.along(at_m + d)[0] for d in (0.0, -off, off))
    doubt = 0.5 * np.abs(np.log(np.maximum(near, 1e-6) / np.maximum(far, 1e-6)))
    taken = [_taken(r, float(a), float(d)) for r, a, d in zip(readings, here, doubt, strict=True)]
    return events(taken, hookup_m=setup.position_m)


def _taken(r: StationReading, forecast_a: float, doubt: float) -> Taken:
    amps = r.current_a
    spread = float(np.std(r.currents_a) / amps / np.sqrt(len(r.currents_a))) if amps and len(r.currents_a) > 1 else 0.0
    return Taken(r.distance_m, amps or None, r.depth_m, forecast_a, spread, doubt, r.lost, r.direction == "towards")
