"""All options for one line: hookup x frequency x output, safety first, ranked by what a trace would prove."""

from __future__ import annotations

from dataclasses import dataclass, replace

from vessel.core.judge.verdict import PROVED
from vessel.core.model.kit import Frequency, Kit
from vessel.core.model.line import Line
from vessel.core.model.setup import METHODS, Method, Setup, usual_stake
from vessel.core.model.soil import Soil
from vessel.core.plan.simulate import Forecast, Simulator
from vessel.core.signal.sources import output


@dataclass(frozen=True)
class Option:
    """One setup: its forecasts per far-end case (empty where safety or the kit rules it out) and why it is rejected.

    `rejected` is a reason id, None for a ranked option; `same_as_a` the lower step [A] that already gives as much.
    """

    setup: Setup
    forecasts: tuple[Forecast, ...]
    rejected: str | None = None
    same_as_a: float | None = None

    @property
    def proved_m(self) -> float:
        """Length [m] that is **Mark** whichever way the far end is."""
        return min((f.length_m("mark") for f in self.forecasts), default=0.0)

    @property
    def usable_m(self) -> float:
        """Length [m] that is Mark or Mark with care whichever way the far end is."""
        return min((f.length_m(*PROVED) for f in self.forecasts), default=0.0)


@dataclass(frozen=True)
class Plan:
    """Ranked options, best first, and the rejected ones."""

    ranked: tuple[Option, ...]
    rejected: tuple[Option, ...]


def safety_rejection(method: Method, line: Line, kit: Kit) -> str | None:
    """Return why a hookup is out of the question before any computation, or None."""
    if method == "direct" and line.near.live:
        return "live"
    if method == "direct" and not line.near.bare_metal:
        return "no_metal"
    if method == "clamp":
        if kit.clamp is None:
            return "no_clamp"
        if line.near.cased:
            return "cased"
    if method == "induction" and kit.coil is None:
        return "no_coil"
    return None


def kit_rejection(method: Method, frequency: Frequency, kit: Kit) -> str | None:
    """Return why the kit cannot use a hookup at a frequency, or None."""
    tool = kit.clamp if method == "clamp" else kit.coil if method == "induction" else None
    return "too_low_for_tool" if tool is not None and frequency.freq_hz < tool.min_freq_hz else None


def base_setup(kit: Kit) -> Setup:
    """Return what a plan varies: the kit's first step and frequency, with the usual stake within its lead."""
    return Setup("direct", kit.frequencies[0].freq_hz, kit.outputs_a[0], usual_stake(kit.lead_m))


def plan_line(line: Line, soil: Soil, kit: Kit, *, base: Setup) -> Plan:
    """Return the plan of one line. `base` carries stake and clip; its hookup, frequency and output do not matter."""
    sim = Simulator(line, soil, kit, base=base)
    ranked, rejected = list[Option](), list[Option]()
    for method in METHODS:
        unsafe = safety_rejection(method, line, kit)
        for frequency in kit.frequencies:
            why = unsafe or kit_rejection(method, frequency, kit)
            position = sim.position_m[method]
            setups = [
                replace(base, method=method, freq_hz=frequency.freq_hz, output_a=a, position_m=position)
                for a in sorted(kit.outputs_a)
            ]
            for option in [Option(s, (), why) for s in setups] if why else _rate(sim, setups):
                (rejected if option.rejected else ranked).append(option)
    ranked.sort(key=lambda o: _rank_key(o, line.length_m))
    rejected.sort(key=lambda o: (METHODS.index(o.setup.method), o.setup.freq_hz, o.setup.output_a))
    return Plan(tuple(ranked), tuple(rejected))


def _rank_key(o: Option, length_m: float) -> tuple[float, ...]:
    """Most proved length first (to 2 % of the line), then usable length, hookup order, low frequency, low output."""
    return (
        -round(50 * o.proved_m / length_m),
        -round(50 * o.usable_m / length_m),
        METHODS.index(o.setup.method),
        o.setup.freq_hz,
        o.setup.output_a,
    )


def _rate(sim: Simulator, setups: list[Setup]) -> list[Option]:
    """Rate the output steps of one hookup and frequency; the excitation is shared, only the drive differs."""
    cases = [(name, e, sim.unit_field(setups[0], e)) for name, e in sim.excitations(setups[0])]
    rated: list[Option] = []
    for setup in setups:
        before = rated[-1] if rated else None
        drives = [output(e.load_ohm, setup, sim.kit).drive for _, e, _ in cases]
        if before and all(d <= 1.01 * f.output.drive for d, f in zip(drives, before.forecasts, strict=True)):
            same_as = before.same_as_a or before.setup.output_a
            rated.append(Option(setup, before.forecasts, "no_more_current", same_as))
            continue
        forecasts = tuple(sim.forecast(setup, name, e, field) for name, e, field in cases)
        if not any(f.length_m(*PROVED) > 0 for f in forecasts):
            rated.append(Option(setup, forecasts, "nothing_markable"))
        else:
            rated.append(Option(setup, forecasts))
    return rated
