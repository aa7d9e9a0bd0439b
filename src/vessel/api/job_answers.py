"""The core's answers for stored rows, remembered while nothing they depend on changes."""

from __future__ import annotations

from functools import lru_cache

from vessel.core.hookup.across_forecast import Across, across
from vessel.core.hookup.continuity import Continuity, continuity
from vessel.core.hookup.expected_sweep import Circle, sweep_circle
from vessel.core.hookup.hookup_state import HookupState, hookup_state
from vessel.core.hookup.judge_trace import Judged, events_along, judge_stations
from vessel.core.hookup.transmitter_forecast import LoopForecast, loop_forecasts
from vessel.core.judge.across.best_estimate import Estimate, best_estimate
from vessel.core.judge.across.cross_section import AcrossFit, placed_across
from vessel.core.judge.station.verdict import PROVED, Judgement
from vessel.core.judge.sweep_verdict import SweepVerdict, judge_sweep
from vessel.core.judge.trace.coverage import Coverage, Placed, coverage
from vessel.core.judge.trace.events import Event
from vessel.core.judge.trace.marks_due import Due, Places, marks_due
from vessel.core.model.kit import Kit
from vessel.core.model.landmarks import landmarks
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading, TransmitterReading
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.plan.options import Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.work_order import Order, in_sequence
from vessel.core.remedies.remedy_search import Remedies, remedies
from vessel.core.simulate.crossings import Crossing, crossings
from vessel.formats.adapters import (
    candidate_of,
    kit_on,
    line_of,
    lines_of,
    readings_of,
    setup_of,
    soil_measured,
    soil_of,
    station_of,
)
from vessel.formats.site_plan import drawn_lines, plan_doc, site_plan_of
from vessel.store.tables import CandidateRow, JobRow, LineRow, MarkRow, ReadingRow, SetupRow, StationRow

_plans = lru_cache(maxsize=64)(plan_lines)
_state = lru_cache(maxsize=256)(hookup_state)
_loops = lru_cache(maxsize=256)(loop_forecasts)
_across = lru_cache(maxsize=256)(across)
_continuity = lru_cache(maxsize=256)(continuity)
_remedies = lru_cache(maxsize=64)(remedies)
_circle = lru_cache(maxsize=64)(sweep_circle)


@lru_cache(maxsize=256)
def _judged(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    readings: tuple[TransmitterReading, ...],
    stations: tuple[StationReading, ...],
    rx_freq_hz: float | None,
    *,
    measured: bool,
) -> Judged:
    state = _state(line, soil, kit, setup, readings, measured=measured)
    return judge_stations(line, soil, kit, setup, state, stations, rx_freq_hz=rx_freq_hz)


@lru_cache(maxsize=256)
def _happened(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    readings: tuple[TransmitterReading, ...],
    stations: tuple[StationReading, ...],
    *,
    measured: bool,
) -> tuple[Event, ...]:
    return events_along(setup, _state(line, soil, kit, setup, readings, measured=measured), stations)


def world(line: LineRow) -> tuple[Line, Soil, Kit]:
    """Return line, soil and kit of a stored line."""
    return line_of(line, line.job), soil_of(line.job), kit_on(line.job)


def live_readings(setup: SetupRow) -> list[ReadingRow]:
    """Return the transmitter readings that were not removed."""
    return [r for r in setup.readings if r.deleted_at is None]


def sound_readings(setup: SetupRow) -> tuple[TransmitterReading, ...]:
    """Return the transmitter readings of a stored hookup that can be reckoned with."""
    return readings_of(setup, kit_on(setup.line.job))


def standing_mark(s: StationRow) -> MarkRow | None:
    """Return the mark of a station that was not withdrawn."""
    return next((m for m in s.marks if m.withdrawn_at is None), None)


def live_stations(setup: SetupRow) -> list[StationRow]:
    """Return the stations that were not removed, by distance."""
    return sorted((s for s in setup.stations if s.deleted_at is None), key=lambda s: s.distance_m)


def plan_of(line: LineRow) -> Plan:
    """Return the plan of a stored line; drawn lines are planned together, on one site."""
    return planned_together(line.job, *lines_together(line))


def planned_together(job: JobRow, lines: tuple[Line, ...], own: int) -> Plan:
    """Return the plan of one of the lines that share a site of a stored job."""
    measured = soil_measured(job)
    return _plans(lines, soil_of(job), kit_on(job), school=plan_doc(job).school, measured=measured)[own]


def lines_together(line: LineRow) -> tuple[tuple[Line, ...], int]:
    """Return the lines with metal that share a site with a stored line, and its own place among them."""
    together = [x for x in drawn_lines(line.job) if x.construction is not None] if line.route else [line]
    return lines_of(together, line.job), next(k for k, x in enumerate(together) if x is line)


def order_of(rows: list[LineRow]) -> Order:
    """Return the order of work for stored lines of one job that have metal."""
    job = rows[0].job
    lines = lines_of(rows, job)
    drawn = tuple(line for line in lines if line.course is not None)
    plans = [
        planned_together(job, drawn, drawn.index(line)) if line in drawn else planned_together(job, (line,), 0)
        for line in lines
    ]
    return in_sequence(lines, plans)


def state_of(setup: SetupRow) -> HookupState:
    """Return what a stored hookup is known to do."""
    measured = soil_measured(setup.line.job)
    return _state(*world(setup.line), setup_of(setup), sound_readings(setup), measured=measured)


def live_candidates(setup: SetupRow) -> list[CandidateRow]:
    """Return the centre lines of the first sweep that were not removed, by bearing."""
    return sorted((c for c in setup.candidates if c.deleted_at is None), key=lambda c: c.bearing_deg)


def circle_of(setup: SetupRow) -> Circle:
    """Return the circle of a stored hookup's first sweep, from what the transmitter last read if it was read."""
    line, soil, kit = world(setup.line)
    read = [r.amps for r in sound_readings(setup) if r.freq_hz == setup.freq_hz]
    measured = soil_measured(setup.line.job)
    return _circle(line, soil, kit, setup_of(setup), measured=measured, amps=read[-1] if read else None)


def sweep_of(setup: SetupRow) -> SweepVerdict:
    """Return the verdict on the first sweep of a stored hookup."""
    circle, met = circle_of(setup), [candidate_of(c) for c in live_candidates(setup)]
    induction = setup.hookup == "induction"
    return judge_sweep(met, circle.expected, radius_m=circle.radius_m, induction=induction)


def loops_of(setup: SetupRow) -> tuple[LoopForecast, ...]:
    """Return the forecast at the transmitter of a stored hookup."""
    return _loops(*world(setup.line), setup_of(setup))


def continuity_of(setup: SetupRow) -> Continuity | None:
    """Return the proof at low frequency of a stored hookup."""
    return _continuity(*world(setup.line), setup_of(setup), sound_readings(setup))


def state_with(setup: SetupRow, more: TransmitterReading) -> HookupState:
    """Return what a stored hookup would be known to do after one more reading; nothing is kept."""
    return hookup_state(*world(setup.line), setup_of(setup), (*sound_readings(setup), more))


def remedies_of(setup: SetupRow) -> Remedies:
    """Return what would help a stored hookup, on its line as its readings and stations explain it."""
    lines, own = lines_together(setup.line)
    soil, kit = soil_of(setup.line.job), kit_on(setup.line.job)
    return _remedies(lines, own, soil, kit, setup_of(setup), state_of(setup), judged_of(setup).lesson)


def across_of(setup: SetupRow, at_m: float) -> Across:
    """Return the forecast across the line at one place under a stored hookup."""
    readings = sound_readings(setup)
    return _across(*world(setup.line), setup_of(setup), state_of(setup), readings, at_m=at_m)


def coverage_of(line: LineRow) -> Coverage:
    """Return how much of a stored line is marked; stations without a mark count under the hookup in use."""
    placed = [
        Placed(s.distance_m, mark is None or mark.verdict in PROVED, mark is not None)
        for setup in line.setups
        for s in live_stations(setup)
        if (mark := standing_mark(s)) is not None or setup is line.setups[-1]
    ]
    wanted = ((0.0, line.length_m),) if line.construction is None else line_of(line, line.job).wanted_m
    return coverage(placed, length_m=line.length_m, wanted=wanted)


def due_of(line: LineRow) -> tuple[Due, ...]:
    """Return the marks that a stored line still lacks; of what happened along it the hookup in use tells."""
    marks = [s.distance_m for setup in line.setups for s in live_stations(setup) if standing_mark(s) is not None]
    if line.construction is None:
        return marks_due(marks, Places(line.length_m, ((0.0, line.length_m),)))
    known = line_of(line, line.job)
    stands = landmarks(known)
    places = Places(
        known.length_m,
        known.wanted_m,
        [m.at_m for m in stands if m.kind == "bend"],
        [m.at_m for m in stands if m.kind == "bond"],
    )
    return marks_due(marks, places, events_of(line.setups[-1]) if line.setups else ())


def crossings_of(job: JobRow) -> list[tuple[LineRow, LineRow, Crossing]]:
    """Return the crossings of a job's drawn lines, with the depths read near them where a mark may rest on them."""
    rows = drawn_lines(job)
    plan = site_plan_of(job)
    if plan is None:
        return []
    depths = {k: _depths_read(row) for k, row in enumerate(rows)}
    found = crossings(plan.drawn[: len(rows)], depths, plan.bonds)
    return [(rows[c.first], rows[c.second], c) for c in found]


def _depths_read(line: LineRow) -> list[tuple[float, float]]:
    """Depths of stations that passed, under every hookup of a line."""
    return [
        (s.distance_m, s.depth_m)
        for setup in line.setups
        for s, j in zip(live_stations(setup), judgements_of(setup), strict=True)
        if s.depth_m is not None and j.verdict in PROVED
    ]


def events_of(setup: SetupRow) -> tuple[Event, ...]:
    """Return what happened along the live stations of a hookup."""
    stations = tuple(station_of(s) for s in live_stations(setup))
    measured = soil_measured(setup.line.job)
    return _happened(*world(setup.line), setup_of(setup), sound_readings(setup), stations, measured=measured)


def estimate_of(station: StationRow) -> Estimate | None:
    """Return the best estimate of depth and position at a stored station."""
    setup = station.setup
    kit = kit_on(setup.line.job)
    noise_t = kit.frequency(setup.freq_hz).noise_t
    return best_estimate(station_of(station), noise_t=noise_t, receiver=kit.receiver)


def profile_of(station: StationRow) -> AcrossFit | None:
    """Return the fit of the readings across the line at a stored station, None without any that tell a place."""
    setup = station.setup
    kit = kit_on(setup.line.job)
    return placed_across(station_of(station), noise_t=kit.frequency(setup.freq_hz).noise_t, receiver=kit.receiver)


def judgements_of(setup: SetupRow) -> tuple[Judgement, ...]:
    """Return the judgements of the live stations of a hookup, by distance."""
    return judged_of(setup).judgements


def judged_of(setup: SetupRow) -> Judged:
    """Return the judgements of the live stations of a hookup, by distance, and what they taught."""
    return _judged(
        *world(setup.line),
        setup_of(setup),
        sound_readings(setup),
        tuple(station_of(s) for s in live_stations(setup)),
        setup.rx_freq_hz,
        measured=soil_measured(setup.line.job),
    )


def judgement_of(station: StationRow) -> Judgement:
    """Return the judgement of one live station."""
    stations = live_stations(station.setup)
    return judgements_of(station.setup)[stations.index(station)]
