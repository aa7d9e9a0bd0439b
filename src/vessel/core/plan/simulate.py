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
from vessel.core.signal.line_circuit import LineCircuit, mesh
from vessel.core.signal.line_params import line_params
from vessel.core.signal.receiver import LIFT_M, ReceiverGeometry, Trace, UnitField
from vessel.core.signal.sources import Excitation, Output, coil_geometry, excite, output

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
class Forecast:
    """What one setup does on the line with the far end as in `far_case`. SI.

    `distance_m` and `current_a` (n,) are the line's own current; `zones` the judged stretches.
    """

    far_case: str
    output: Output
    distance_m: tuple[float, ...]
    current_a: tuple[float, ...]
    zones: tuple[Zone, ...]

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
    """Everything about one line, soil and kit that setups share: circuits per frequency, fields per geometry."""

    def __init__(self, line: Line, soil: Soil, kit: Kit, *, lead_m: float, stations_m: Floats | None = None) -> None:
        self.line, self.soil, self.kit, self.lead_m = line, soil, kit, lead_m
        self.depth_m = line.depth_max_m  # the least favourable of what is expected
        grid, self.edges_m = station_grid(line.length_m)
        self.stations_m = grid if stations_m is None else stations_m
        self.position_m = {"direct": 0.0, "clamp": min(0.5, 0.25 * line.length_m)}
        self.position_m["induction"] = min(10.0, 0.25 * line.length_m)
        top = max(f.freq_hz for f in kit.frequencies)
        gamma = abs(line_params(line.construction, soil, freq_hz=top, depth_m=self.depth_m).gamma)
        self.x_m = mesh(line.length_m, gamma_max=gamma, fine_at=(0.0, self.position_m["induction"], line.length_m))
        self._circuits: dict[float, LineCircuit] = {}

    @cached_property
    def geometry(self) -> ReceiverGeometry:
        """The receiver's fields at the stations, shared by every frequency and hookup."""
        return ReceiverGeometry(
            x_m=self.x_m, depth_m=self.depth_m, stations_m=self.stations_m, kit=self.kit, lead_m=self.lead_m
        )

    def circuit(self, freq_hz: float) -> LineCircuit:
        """Return the circuit at `freq_hz` [Hz], factorised once."""
        if freq_hz not in self._circuits:
            self._circuits[freq_hz] = LineCircuit(
                self.line, self.soil, freq_hz=freq_hz, x_m=self.x_m, depth_m=self.depth_m
            )
        return self._circuits[freq_hz]

    def excitations(self, setup: Setup) -> list[tuple[str, Excitation]]:
        """Return (far case, excitation per unit) for the far-end cases of the line."""
        cases = self.line.far_cases()
        found = excite(self.circuit(setup.freq_hz), setup, self.kit, far_ohms=tuple(ohm for _, ohm in cases))
        return [(name, e) for (name, _), e in zip(cases, found, strict=True)]

    def unit_field(self, setup: Setup, e: Excitation) -> UnitField:
        """Return the receiver's field at the stations per unit of drive."""
        coil = None
        if setup.method == "induction":
            at, moment = coil_geometry(setup, self.kit, freq_hz=setup.freq_hz)
            coil = self.geometry.coil(at, moment)
        lead = 1.0 if setup.method == "direct" else 0.0
        return self.geometry.unit_field(e.response.amps, lead_amps=lead, coil=coil)

    def forecast(self, setup: Setup, case: str, e: Excitation, field: UnitField) -> Forecast:
        """Return the forecast of `setup` in one far-end case, rated station by station by the judge.

        The simulated trace carries the forecast's noise margin.
        """
        out = output(e.load_ohm, setup, self.kit)
        current = np.interp(self.stations_m, self.circuit(setup.freq_hz).mid_m, np.abs(e.response.amps)) * out.drive
        noise = NOISE_MARGIN * self.kit.frequency(setup.freq_hz).noise_t
        zones = self._zones(setup, field.read(out.drive, noise_t=noise), current)
        return Forecast(case, out, tuple(self.stations_m.tolist()), tuple(current.tolist()), zones)

    def _zones(self, setup: Setup, trace: Trace, current: Floats) -> tuple[Zone, ...]:
        frequency = self.kit.frequency(setup.freq_hz)
        zones: list[Zone] = []
        for i, at in enumerate(trace.distance_m):
            reading = simulated_reading(trace, i)
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


def simulated_reading(trace: Trace, i: int) -> StationReading:
    """Return station `i` of a simulated trace as a reading, with five repeats spread by the noise."""
    depth, lifted, amps = float(trace.depth_m[i]), float(trace.depth_lifted_m[i]), float(trace.current_a[i])
    # comparisons with NaN are false: an instrument that shows nothing gives no reading
    usable = 0.01 <= depth <= 15.0 and amps <= 10.0
    lifted_ok = usable and 0.01 <= lifted <= 20.0
    # where noise drowns the signal the instrument still shows a current: none
    mean, spread = (amps, float(trace.noise_share[i])) if usable else (0.0, 0.0)
    repeats = tuple(min(max(mean * (1 + k * spread), 0.0), 10.0) for k in _REPEATS)
    return StationReading(
        distance_m=float(trace.distance_m[i]),
        currents_a=repeats,
        depth_m=depth if usable else None,
        lift_height_m=LIFT_M if lifted_ok else None,
        depth_lifted_m=lifted if lifted_ok else None,
        peak_null_m=float(min(trace.peak_null_m[i], 10.0)),
        neighbour_a=0.0,
    )
