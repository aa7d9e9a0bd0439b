"""Judge entered stations: forecast from every plausible explanation of the hookup, then the judge."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from vessel.core.diagnose.circuit import Diagnosis, diagnose
from vessel.core.judge.events import Event, Taken, events
from vessel.core.judge.measures import StationContext
from vessel.core.judge.verdict import PROVED, Judgement, judge
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.reading import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.explained import Explained, explained
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

    def at(self, distance_m: float) -> tuple[float, float]:
        """Return (low, high) [A] at one distance [m]; zero beyond the line."""
        low = np.interp(distance_m, self.distance_m, self.low_a, right=0.0)
        high = np.interp(distance_m, self.distance_m, self.high_a, right=0.0)
        return float(low), float(high)


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
    frequency = kit.frequency(setup.freq_hz)
    air = air_shares(line, soil, kit, setup, [r.distance_m for r in readings])
    ordered = sorted(range(len(readings)), key=lambda i: readings[i].distance_m)
    found: dict[int, Judgement] = {}
    previous: tuple[StationReading, float] | None = None
    for i in ordered:
        r = readings[i]
        forecast = state.band.at(r.distance_m)
        found[i] = judge(
            r,
            StationContext(
                tx_freq_hz=setup.freq_hz,
                rx_freq_hz=rx_freq_hz,
                noise_t=frequency.noise_t,
                receiver=kit.receiver,
                reads_depth=frequency.reads_depth,
                depth_range_m=(line.depth_min_m, line.depth_max_m),
                end_m=end_distance(line, setup, r.distance_m),
                loop_gap=state.loop_gap,
                forecast_a=forecast,
                air_share=air[i],
                previous=previous,
            ),
        )
        if r.depth_m is not None and r.currents_a and found[i].verdict in PROVED:
            previous = (r, 0.5 * sum(forecast))
    return [found[i] for i in range(len(readings))]


def events_along(setup: Setup, state: HookupState, readings: Sequence[StationReading]) -> tuple[Event, ...]:
    """Return what happened along the stations of one hookup, against its likeliest forecast."""
    return events([_taken(setup, state.likely, r) for r in readings], hookup_m=setup.position_m)


def _taken(setup: Setup, likely: Band, r: StationReading) -> Taken:
    amps, here = r.current_a, likely.at(r.distance_m)[0]
    off = _PLACE_DOUBT * abs(r.distance_m - setup.position_m)
    near, far = (max(likely.at(r.distance_m + d)[0], 1e-6) for d in (-off, off))
    spread = float(np.std(r.currents_a) / amps / np.sqrt(len(r.currents_a))) if amps and len(r.currents_a) > 1 else 0.0
    return Taken(
        r.distance_m,
        amps or None,
        r.depth_m,
        here,
        spread,
        0.5 * abs(float(np.log(near / far))),
        r.lost,
        r.direction == "towards",
    )
