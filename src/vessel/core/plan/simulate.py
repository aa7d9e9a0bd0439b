"""Simulated traces along one line, rated by the judge: the planner's only measure of an option."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from vessel.core.judge.measures import StationContext
from vessel.core.judge.verdict import PROVED, Verdict, judge
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.reading import StationReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.signal.field import Floats
from vessel.core.signal.line_circuit import TARGET, LineCircuit, excite, lay_out
from vessel.core.signal.mesh import lay_mesh
from vessel.core.signal.receiver import LIFT_M, ReceiverGeometry, Trace, UnitField
from vessel.core.signal.site_circuit import SiteGeometry
from vessel.core.signal.sources import Excitation, Output, coil_geometry, output, stake_lead

NOISE_MARGIN = 3.0
"""Forecasts assume this many times the kit's noise: a bad day, so that a plan holds on an ordinary one."""
_REPEATS = (-1.2, -0.5, 0.0, 0.5, 1.2)  # spread of five repeated readings, in standard deviations


@dataclass(frozen=True)
class Zone:
    """A stretch from `start_m` to `end_m` [m] along the line with one verdict and the rule that decided it."""

    start_m: float
    end_m: float
    verdict: Verdict
    rule_id: str | None


@dataclass(frozen=True)
class BleedOff:
    """What one neighbour takes: its greatest current [A] beside the line, where [m], against the line's own there."""

    name: str
    current_a: float
    at_m: float
    share: float


@dataclass(frozen=True)
class Forecast:
    """What one setup does on the line with the far end as in `far_case`. SI.

    `distance_m` and `current_a` (n,) are the line's own current; `zones` the judged stretches; `bleed_off` of each
    neighbour, in the order they are told.
    """

    far_case: str
    output: Output
    distance_m: tuple[float, ...]
    current_a: tuple[float, ...]
    zones: tuple[Zone, ...]
    bleed_off: tuple[BleedOff, ...] = ()

    def length_m(self, *verdicts: Verdict) -> float:
        """Return the total length [m] with one of `verdicts`."""
        return sum(z.end_m - z.start_m for z in self.zones if z.verdict in verdicts)

    @property
    def first_good_m(self) -> float | None:
        """Return the distance [m] at which the first markable stretch starts, None without any."""
        return next((z.start_m for z in self.zones if z.verdict in PROVED), None)

    @property
    def main_obstacle(self) -> str | None:
        """Return the rule that holds back the longest stretch, None if none is held back."""
        lengths: dict[str, float] = {}
        for z in self.zones:
            if z.verdict not in PROVED and z.rule_id:
                lengths[z.rule_id] = lengths.get(z.rule_id, 0.0) + z.end_m - z.start_m
        return max(lengths, key=lambda k: lengths[k]) if lengths else None


def end_distance(line: Line, setup: Setup, at_m: float) -> float:
    """Return the distance [m] from `at_m` to the hookup (a coil or clamp may stand along the line) or the far end."""
    return min(abs(at_m - setup.position_m), abs(line.length_m - at_m))


def station_grid(length_m: float) -> tuple[Floats, Floats]:
    """Return stations (n,) [m] and the edges (n+1,) [m] of the stretch each stands for, denser at both ends."""
    near = [d for d in (0.5, 1.5, 2.5, 4.0, 6.0, 9.0, 13.0, 18.0) if d < 0.4 * length_m]
    inner = np.linspace(0, length_m, 32)[1:-1]
    points = np.unique(
        np.concatenate([near, inner[(inner > max(near)) & (inner < length_m - max(near))], length_m - np.array(near)])
    )
    edges = np.concatenate([[0.0], 0.5 * (points[1:] + points[:-1]), [length_m]])
    return points, edges


class Simulator:
    """Everything about one line, soil and kit that setups share: circuits per frequency, fields per geometry.

    `base` carries the stake, which all setups share.
    """

    def __init__(self, line: Line, soil: Soil, kit: Kit, *, base: Setup, stations_m: Floats | None = None) -> None:
        self.line, self.soil, self.kit, self.base = line, soil, kit, base
        self.depth_m = line.depth_max_m  # the least favourable of what is expected
        grid, self.edges_m = station_grid(line.length_m)
        self.stations_m = grid if stations_m is None else stations_m
        self.position_m = {"direct": 0.0, "clamp": min(0.5, 0.25 * line.length_m)}
        self.position_m["induction"] = min(10.0, 0.25 * line.length_m)
        site = lay_out(line, soil, depth_m=self.depth_m)
        top = max(f.freq_hz for f in kit.frequencies)
        access = {TARGET: tuple(self.position_m.values())}
        self.site = SiteGeometry(lay_mesh(site, top_hz=top, access=access))
        self._circuits: dict[float, LineCircuit] = {}

    @cached_property
    def geometry(self) -> ReceiverGeometry:
        """The receiver's fields at the stations, shared by every frequency and hookup."""
        n = len(self.stations_m)
        circuit = self.circuit(self.kit.frequencies[0].freq_hz)
        return ReceiverGeometry(
            self.site.segments,
            at_m=np.column_stack([self.stations_m, np.zeros(n)]),
            headings=np.tile([1.0, 0.0], (n, 1)),
            depths_m=np.full(n, self.depth_m),
            receiver=self.kit.receiver,
            lead=stake_lead(circuit.site_circuit, circuit.hookup(self.base)),
        )

    def circuit(self, freq_hz: float) -> LineCircuit:
        """Return the circuit at `freq_hz` [Hz], factorised once."""
        if freq_hz not in self._circuits:
            self._circuits[freq_hz] = LineCircuit(self.line, self.soil, freq_hz=freq_hz, geometry=self.site)
        return self._circuits[freq_hz]

    def excitations(self, setup: Setup) -> list[tuple[str, Excitation]]:
        """Return (far case, excitation per unit) for the far-end cases of the line."""
        cases = self.line.far_cases()
        found = excite(self.circuit(setup.freq_hz), setup, self.kit, far_ohms=tuple(ohm for _, ohm in cases))
        return [(name, e) for (name, _), e in zip(cases, found, strict=True)]

    def unit_field(self, setup: Setup, e: Excitation) -> UnitField:
        """Return the receiver's field at the stations per unit of drive."""
        circuit = self.circuit(setup.freq_hz)
        coil = None
        if setup.method == "induction":
            coil = self.geometry.coil(*coil_geometry(circuit.hookup(setup), self.kit))
        lead = 1.0 if setup.method == "direct" else 0.0
        into, out = circuit.site_circuit.ends(e.response)
        return self.geometry.unit_field(into, out, lead_amps=lead, coil=coil)

    def forecast(self, setup: Setup, case: str, e: Excitation, field: UnitField) -> Forecast:
        """Return the forecast of `setup` in one far-end case, rated station by station by the judge.

        The simulated trace carries the forecast's noise margin.
        """
        out = output(e.load_ohm, setup, self.kit)
        circuit = self.circuit(setup.freq_hz)
        current = circuit.current_at(e.response, self.stations_m) * out.drive
        beside = circuit.currents_beside(e.response, self.stations_m) * out.drive
        noise = NOISE_MARGIN * self.kit.frequency(setup.freq_hz).noise_t
        zones = self._zones(setup, field.read(out.drive, noise_t=noise), current, beside.max(0, initial=0.0))
        return Forecast(
            case,
            out,
            tuple(self.stations_m.tolist()),
            tuple(current.tolist()),
            zones,
            tuple(self._bleed_off(current, beside)),
        )

    def _bleed_off(self, current: Floats, beside: Floats) -> list[BleedOff]:
        found = []
        for n, amps in zip(self.line.neighbours, beside, strict=True):
            k = int(amps.argmax())
            share = float(amps[k] / max(current[k], 1e-12))
            found.append(BleedOff(n.name, float(amps[k]), float(self.stations_m[k]), share))
        return found

    def _zones(self, setup: Setup, trace: Trace, current: Floats, beside: Floats) -> tuple[Zone, ...]:
        frequency = self.kit.frequency(setup.freq_hz)
        zones: list[Zone] = []
        for i, at in enumerate(self.stations_m):
            reading = simulated_reading(trace, i, at_m=float(at), neighbour_a=float(beside[i]))
            j = judge(
                reading,
                StationContext(
                    tx_freq_hz=setup.freq_hz,
                    rx_freq_hz=setup.freq_hz,
                    noise_t=NOISE_MARGIN * frequency.noise_t,
                    low_m=self.kit.receiver.low_m,
                    reads_depth=frequency.reads_depth,
                    depth_range_m=(self.line.depth_min_m, self.line.depth_max_m),
                    end_m=end_distance(self.line, setup, float(at)),
                    loop_gap=0.0,
                    forecast_a=(float(current[i]), float(current[i])),
                    air_share=float(trace.air_share[i]) if setup.method == "induction" else None,
                ),
            )
            rule = j.deciding[0].rule.id if j.deciding else None
            start, end = float(self.edges_m[i]), float(self.edges_m[i + 1])
            if zones and zones[-1].verdict == j.verdict and zones[-1].rule_id == rule:
                zones[-1] = Zone(zones[-1].start_m, end, j.verdict, rule)
            else:
                zones.append(Zone(start, end, j.verdict, rule))
        return tuple(zones)


def simulated_reading(trace: Trace, i: int, *, at_m: float, neighbour_a: float) -> StationReading:
    """Return station `i` of a simulated trace, at `at_m` [m] along the line, with five repeats spread by the noise.

    `neighbour_a` is the best current a look to both sides would find [A].
    """
    depth, lifted, amps = float(trace.depth_m[i]), float(trace.depth_lifted_m[i]), float(trace.current_a[i])
    # comparisons with NaN are false: an instrument that shows nothing gives no reading
    usable = 0.01 <= depth <= 15.0 and amps <= 10.0
    lifted_ok = usable and 0.01 <= lifted <= 20.0
    # where noise drowns the signal the instrument still shows a current: none
    mean, spread = (amps, float(trace.noise_share[i])) if usable else (0.0, 0.0)
    repeats = tuple(min(max(mean * (1 + k * spread), 0.0), 10.0) for k in _REPEATS)
    return StationReading(
        distance_m=at_m,
        currents_a=repeats,
        depth_m=depth if usable else None,
        lift_height_m=LIFT_M if lifted_ok else None,
        depth_lifted_m=lifted if lifted_ok else None,
        peak_null_m=float(min(trace.peak_null_m[i], 10.0)),
        neighbour_a=min(neighbour_a, 10.0),
    )
