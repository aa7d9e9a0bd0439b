"""What `import vessel` gives: plan a line, read its transmitter, judge its stations, solve a site; in SI units.

Each function takes plain values or the records of core, and returns a result with `explain()` for people and `rows()`
for tables.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

from vessel.core.base.errors import BadInput
from vessel.core.diagnose.diagnosis import Diagnosis
from vessel.core.diagnose.ranking import diagnose as _diagnose
from vessel.core.hookup.hookup_state import hookup_state
from vessel.core.hookup.judge_trace import judge_stations
from vessel.core.judge.across.best_estimate import best_estimate
from vessel.core.judge.station.verdict import Judgement
from vessel.core.model.construction import preset
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import SAMPLE_KIT, Kit
from vessel.core.model.line import AccessPoint, Line
from vessel.core.model.line_ends import FarEnd
from vessel.core.model.network import Hookup, Site
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.frequency_order import School
from vessel.core.plan.plan_option import Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.signal.receiver.return_undone import Undoing, undoing
from vessel.core.signal.solved_site import SolvedSite
from vessel.core.text.units import Units
from vessel.words.diagnosis_sentences import advice, cause_title
from vessel.words.diagnosis_sentences import explain as explain_cause
from vessel.words.finding_sentences import explain, headline, next_step
from vessel.words.labels import METHOD_LABEL
from vessel.words.option_sentences import reason
from vessel.words.work_sentences import setup_words


def buried(
    construction: str,
    *,
    length_m: float,
    depth_m: float | Sequence[float],
    far: str = "unknown",
    far_ohm: float = 30.0,
    near: AccessPoint | None = None,
) -> Line:
    """Return a line of a usual construction.

    Args:
        construction: Name of a preset, such as "tracer_wire"; `vessel.PRESETS` has them all.
        length_m: Length [m].
        depth_m: Depth to its centre [m], or the least and greatest expected.
        far: Far end: "open", "earthed" or "unknown".
        far_ohm: Resistance of the far end's earth, if it has one [ohm].
        near: Access point at the near end; bare metal in reach by default.

    Returns:
        The line, with nothing beside it.

    Raises:
        BadInput: An unknown construction or far end; lengths and depths that cannot be.
    """
    made = preset(construction).construction
    if made is None:
        raise BadInput(f"“{construction}” has no metal.", field="construction", fix="Choose one that carries a signal.")
    depths = [float(depth_m)] * 2 if isinstance(depth_m, (int, float)) else [float(d) for d in depth_m]
    if len(depths) != 2:
        raise BadInput(f"{len(depths)} depths.", field="depth_m", fix="Give one, or the least and the greatest.")
    if far not in ("open", "earthed", "unknown"):
        raise BadInput(f"“{far}” is not a far end.", field="far", fix="Use open, earthed or unknown.")
    low, high = depths
    return Line(made, length_m, low, high, near or AccessPoint(), FarEnd(far, far_ohm))  # type: ignore[arg-type]


@dataclass(frozen=True)
class PlanResult:
    """Setups of one line, best first."""

    line: Line
    plan: Plan
    units: Units = "metric"

    @property
    def best(self) -> Setup | None:
        """The setup that proves most, None where none proves anything."""
        return self.plan.ranked[0].setup if self.plan.ranked else None

    def rows(self) -> list[dict[str, Any]]:
        """Return one row a setup that proves something: what it is, and the lengths it proves [m]."""
        return [
            {
                "method": o.setup.method,
                "freq_hz": o.setup.freq_hz,
                "output_a": o.setup.output_a,
                "position_m": o.setup.position_m,
                "markable_m": o.proved_m,
                "with_care_m": o.usable_m - o.proved_m,
                "bleed_share": o.bleed_share,
            }
            for o in self.plan.ranked
        ]

    def explain(self) -> str:
        """Return the best setup and why, in a sentence."""
        if not self.plan.ranked:
            return "No setup would prove this line: report it as not located, or use another access point."
        best = self.plan.ranked[0]
        return f"{METHOD_LABEL[best.setup.method]}, {setup_words(best.setup)}: {reason(best, self.line, self.units)}"


@dataclass(frozen=True)
class DiagnosisResult:
    """Ranked explanations of the transmitter's readings."""

    line: Line
    diagnosis: Diagnosis
    units: Units = "metric"

    def rows(self) -> list[dict[str, Any]]:
        """Return one row an explanation, likeliest first: cause, probability, figure and its range."""
        return [
            {
                "cause": h.family.id,
                "probability": h.probability,
                "figure": h.parameter,
                "range": tuple(h.parameter_range),
            }
            for h in self.diagnosis.hypotheses
        ]

    def explain(self) -> str:
        """Return the likeliest explanation, and the reading that would tell it from the next."""
        first = self.diagnosis.hypotheses[0]
        means = explain_cause(first, line_m=self.line.length_m, units=self.units)
        asked = "" if self.diagnosis.told_apart else f" {advice(self.diagnosis)}"
        return f"{cause_title(first)} ({100 * first.probability:.0f} %). {means}{asked}"


@dataclass(frozen=True)
class JudgeResult:
    """Verdicts on stations, in the order they were given."""

    stations: tuple[StationReading, ...]
    judgements: tuple[Judgement, ...]
    setup: Setup
    kit: Kit
    free: Undoing
    units: Units = "metric"

    def rows(self) -> list[dict[str, Any]]:
        """Return one row a station: verdict, the checks that decide, best estimate of depth and place [m]."""
        found = []
        noise_t = self.kit.frequency(self.setup.freq_hz).noise_t
        for s, j in zip(self.stations, self.judgements, strict=True):
            best = best_estimate(s, noise_t=noise_t, receiver=self.kit.receiver, free=self.free)
            found.append(
                {
                    "distance_m": s.distance_m,
                    "verdict": j.verdict,
                    "deciding": tuple(f.rule.id for f in j.deciding),
                    **(
                        dict.fromkeys(("offset_m", "offset_pm_m", "depth_m", "depth_pm_m"))
                        if best is None
                        else {k: v for k, v in asdict(best).items() if k.endswith("_m")}
                    ),
                }
            )
        return found

    def explain(self) -> str:
        """Return a line a station: its verdict, why, and what to do next."""
        lines = []
        for s, j in zip(self.stations, self.judgements, strict=True):
            verdict = j.verdict.replace("_", " ").capitalize()
            lines.append(f"{s.distance_m:g} m: {verdict}. {headline(j, self.units)} {next_step(j)}")
        return "\n".join(lines)

    def findings(self, k: int) -> list[str]:
        """Return what every check found at the k-th station."""
        return [explain(f, self.units) for f in self.judgements[k].findings]


def plan(
    line: Line, soil: Soil, kit: Kit = SAMPLE_KIT, *, school: School = "lowest", units: Units = "metric"
) -> PlanResult:
    """Return every setup of a line, rated by a simulated trace; nothing else is known of the site.

    Args:
        line: The line.
        soil: The soil.
        kit: Transmitter, clamp, coil and receiver.
        school: Which frequency goes first among equals: "lowest", "middle" or "high".
        units: Units of `explain()`.

    Returns:
        The setups, best first.

    Raises:
        OutOfRange: A value outside the range the model is valid for.
    """
    return PlanResult(line, plan_lines([line], soil, kit, school=school)[0], units)


def diagnose(
    line: Line,
    setup: Setup,
    soil: Soil,
    readings: Iterable[TransmitterReading | Sequence[float]],
    kit: Kit = SAMPLE_KIT,
    *,
    units: Units = "metric",
) -> DiagnosisResult:
    """Return what explains the transmitter's readings of a direct connection.

    Args:
        line: The line as entered.
        setup: The hookup, a direct connection.
        soil: The soil as assumed.
        readings: Readings, or (volts [V], current [A]) or (volts, current, frequency [Hz]); at the setup's frequency
            where none is given.
        kit: The kit.
        units: Units of `explain()`.

    Returns:
        Explanations, likeliest first.

    Raises:
        BadInput: Not a direct connection; no reading; volts or amperes out of reason.
    """
    if not setup.by.connects:
        raise BadInput(
            f"A {setup.method} hookup shows nothing of the line's circuit.",
            field="setup",
            fix="Diagnose a direct connection; prove the others with the receiver.",
        )
    read = [_reading(r, setup.freq_hz) for r in readings]
    if not read:
        raise BadInput("There is no reading.", field="readings", fix="Give volts and amperes at least once.")
    return DiagnosisResult(line, _diagnose(line, setup, soil, kit, read), units)


def _reading(r: TransmitterReading | Sequence[float], freq_hz: float) -> TransmitterReading:
    if isinstance(r, TransmitterReading):
        return r
    if len(r) not in (2, 3):
        raise BadInput(
            f"A reading of {len(r)} figures.", field="readings", fix="Give volts, amperes and, if other, hertz."
        )
    volts, amps = float(r[0]), float(r[1])
    if amps > 10:
        raise BadInput(
            f"A current of {amps:g} A.", field="readings", fix=f"Give amperes: {amps:g} mA is {amps / 1e3:g} A."
        )
    return TransmitterReading(volts, amps, float(r[2]) if len(r) == 3 else freq_hz)


def judge(
    line: Line,
    setup: Setup,
    soil: Soil,
    stations: Iterable[StationReading | Mapping[str, Any]],
    readings: Iterable[TransmitterReading | Sequence[float]] = (),
    kit: Kit = SAMPLE_KIT,
    *,
    rx_freq_hz: float | None = None,
    evidence: Iterable[Evidence | Sequence[str]] = (),
    units: Units = "metric",
) -> JudgeResult:
    """Return the verdict on stations under a hookup.

    Args:
        line: The line as entered.
        setup: The hookup.
        soil: The soil as assumed.
        stations: Readings, or mappings with their fields: `distance_m`, `currents_a`, `depth_m`, `lift_height_m`,
            `depth_lifted_m`, `peak_null_m`, `neighbour_a` and so on, in SI.
        readings: What the transmitter showed, as for `diagnose`.
        kit: The kit.
        rx_freq_hz: Frequency the receiver was set to [Hz]; the transmitter's by default.
        evidence: What shows which line it is: `Evidence`, or pairs such as `("access", "for")`. Without any, no
            station is better than Mark with care.
        units: Units of `explain()`.

    Returns:
        Verdicts in the order of `stations`.

    Raises:
        BadInput: A field that a station does not have; a value that cannot be.
    """
    taken = tuple(_station(s) for s in stations)
    read = tuple(_reading(r, setup.freq_hz) for r in readings)
    state = hookup_state(line, soil, kit, setup, read)
    order = sorted(range(len(taken)), key=lambda k: taken[k].distance_m)
    along = [taken[k] for k in order]
    shown = tuple(e if isinstance(e, Evidence) else Evidence(*e) for e in evidence)  # type: ignore[arg-type]
    judged = judge_stations(
        line,
        soil,
        kit,
        setup,
        state,
        along,
        rx_freq_hz=rx_freq_hz or setup.freq_hz,
        transmitter=read,
        evidence=shown,
    )
    by_place = dict(zip(order, judged.judgements, strict=True))
    free = undoing(setup, soil, kit.receiver)
    return JudgeResult(taken, tuple(by_place[k] for k in range(len(taken))), setup, kit, free, units)


def _station(s: StationReading | Mapping[str, Any]) -> StationReading:
    if isinstance(s, StationReading):
        return s
    unknown = sorted(set(s) - set(StationReading.__dataclass_fields__))
    if unknown:
        known = ", ".join(StationReading.__dataclass_fields__)
        raise BadInput(f"A station has no “{unknown[0]}”.", field="stations", fix=f"It has {known}.")
    listed: dict[str, Any] = {k: tuple(map(float, v)) if k == "currents_a" else v for k, v in s.items()}
    return StationReading(**listed)


def solve(site: Site, hookup: Hookup, kit: Kit = SAMPLE_KIT, *, unknown: str = "open") -> SolvedSite:
    """Return a site solved for one hookup: the transmitter, currents along lines, fields and readings anywhere.

    Args:
        site: Lines, structures, bonds and soil in space.
        hookup: How and where signal is put on.
        kit: The kit.
        unknown: How unknown ends are taken: "open" or "earthed".

    Returns:
        The solution; `output`, `line_current(name)`, `read(places, headings)`.

    Raises:
        BadInput: Lines that lie in each other; a stake on a line.
    """
    if unknown not in ("open", "earthed"):
        raise BadInput(f"“{unknown}” is no way to take unknown ends.", field="unknown", fix="Use open or earthed.")
    return SolvedSite(site, hookup, kit, unknown=unknown)
