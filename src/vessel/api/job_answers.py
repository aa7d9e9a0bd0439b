"""What core answers about a loaded job: asked once a request, and remembered between requests while nothing changes."""

from __future__ import annotations

from vessel.api.on_the_plan import passive_m
from vessel.core.base.cached import remembered
from vessel.core.hookup.across_forecast import Across, across
from vessel.core.hookup.continuity import Continuity, continuity
from vessel.core.hookup.expected_sweep import Circle, sweep_circle
from vessel.core.hookup.hookup_state import HookupState, hookup_state
from vessel.core.hookup.judge_fault import FaultForecast, JudgedWalk, earths_of, fault_forecast, judge_walk
from vessel.core.hookup.judge_sonde import JudgedRun, judge_run
from vessel.core.hookup.judge_trace import Judged, events_along, judge_stations
from vessel.core.hookup.rivals_of_hookup import weighed_estimate
from vessel.core.hookup.transmitter_forecast import LoopForecast, loop_forecasts
from vessel.core.judge.across.best_estimate import Estimate, best_estimate
from vessel.core.judge.across.cross_section import AcrossFit, placed_across
from vessel.core.judge.rivals.chances import Alive
from vessel.core.judge.rivals.identity_finding import Identity, identity_of
from vessel.core.judge.rivals.next_ask import Ask, next_ask
from vessel.core.judge.sonde.agreement import Agreement, agreements
from vessel.core.judge.sonde.sonde_fit import SondeFit
from vessel.core.judge.station.verdict import PROVED, Judgement
from vessel.core.judge.sweep_verdict import SweepVerdict, judge_sweep
from vessel.core.judge.trace.coverage import Coverage, Placed, coverage
from vessel.core.judge.trace.events import Event
from vessel.core.judge.trace.marks_due import Due, Places, marks_due
from vessel.core.model.fault_walk import FaultWalk
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import Kit
from vessel.core.model.landmarks import landmarks
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading, TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.model.vicinity import share_one
from vessel.core.plan.options import Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.work_order import Order, in_sequence
from vessel.core.remedies.moving_remedies import MovingRemedies, moving_remedies
from vessel.core.remedies.remedy_search import Remedies, remedies
from vessel.core.signal.receiver.return_undone import Undoing, undoing
from vessel.core.simulate.crossings import Crossing, crossings, with_depths
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup, LoadedStation, asked_once
from vessel.formats.loaded_sonde import LoadedRun, LoadedStop
from vessel.formats.loaded_walk import LoadedWalk
from vessel.store.tables import MarkRow

_plans = remembered(64)(plan_lines)
_state = remembered(256)(hookup_state)
_loops = remembered(256)(loop_forecasts)
_across = remembered(256)(across)
_continuity = remembered(256)(continuity)
_remedies = remembered(64)(remedies)
_moving_remedies = remembered(64)(moving_remedies)
_circle = remembered(64)(sweep_circle)


@remembered(256)
def _judged(
    line: Line,
    soil: Soil,
    kit: Kit,
    setup: Setup,
    readings: tuple[TransmitterReading, ...],
    stations: tuple[StationReading, ...],
    rx_freq_hz: float | None,
    evidence: tuple[Evidence, ...],
    *,
    measured: bool,
    tolerance_m: float,
    passive_m: tuple[float, ...] | None,
) -> Judged:
    state = _state(line, soil, kit.bare, setup, readings, measured=measured)
    return judge_stations(
        line,
        soil,
        kit,
        setup,
        state,
        stations,
        rx_freq_hz=rx_freq_hz,
        transmitter=readings,
        evidence=evidence,
        tolerance_m=tolerance_m,
        passive_m=passive_m,
    )


@remembered(256)
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
    return events_along(soil, kit, setup, _state(line, soil, kit.bare, setup, readings, measured=measured), stations)


def _ground(s: LoadedSetup) -> tuple[Line, Soil, Kit]:
    return s.line.line, s.job.soil, s.job.kit


@asked_once
def plan_of(line: LoadedLine) -> Plan:
    """Return the plan of a line; drawn lines are planned together, on one site."""
    return planned_together(line.job, *lines_together(line))


def planned_together(job: LoadedJob, lines: tuple[Line, ...], own: int) -> Plan:
    """Return the plan of one of the lines that share a site of a job."""
    return _plans(lines, job.soil, job.kit, school=job.drawing.school, measured=job.measured)[own]


def lines_together(line: LoadedLine) -> tuple[tuple[Line, ...], int]:
    """Return the lines with metal that share a site with a line, and its own place among them.

    On a large plan each has a circuit of its own with what is near it.
    """
    shares = line.row.route and line.job.site is not None and share_one(line.job.site)
    together = [x for x in line.job.drawn if x.has_metal] if shares else [line]
    return tuple(x.line for x in together), next(k for k, x in enumerate(together) if x is line)


def order_of(lines: list[LoadedLine]) -> Order:
    """Return the order of work for lines of one job that have metal."""
    return in_sequence([x.line for x in lines], [plan_of(x) for x in lines])


@asked_once
def state_of(s: LoadedSetup) -> HookupState:
    """Return what a hookup is known to do."""
    return _state(s.line.line, s.job.soil, s.job.kit.bare, s.setup, s.readings, measured=s.job.measured)


@asked_once
def circle_of(s: LoadedSetup) -> Circle:
    """Return the circle of a hookup's first sweep, from what the transmitter last read if it was read."""
    read = last_at(s.readings, s.setup.freq_hz)
    setup = s.setup.standing(s.setup.apart_m or 0.0)  # a coil that is carried along is first at the line's start
    return _circle(*_ground(s), setup, measured=s.job.measured, amps=None if read is None else read.amps)


@asked_once
def sweep_of(s: LoadedSetup) -> SweepVerdict:
    """Return the verdict on the first sweep of a hookup."""
    circle = circle_of(s)
    induction = s.setup.by.through_air
    return judge_sweep(
        s.candidates,
        circle.expected,
        radius_m=circle.radius_m,
        induction=induction,
        low_m=s.job.kit.receiver.low_m,
    )


@asked_once
def loops_of(s: LoadedSetup) -> tuple[LoopForecast, ...]:
    """Return the forecast at the transmitter of a hookup."""
    return _loops(*_ground(s), s.setup)


@asked_once
def continuity_of(s: LoadedSetup) -> Continuity | None:
    """Return the proof at low frequency of a hookup."""
    return _continuity(*_ground(s), s.setup, s.readings)


def state_with(s: LoadedSetup, more: TransmitterReading) -> HookupState:
    """Return what a hookup would be known to do after one more reading; nothing is kept."""
    return hookup_state(*_ground(s), s.setup, (*s.readings, more))


@asked_once
def remedies_of(s: LoadedSetup) -> Remedies:
    """Return what would help a hookup, on its line as its readings and stations explain it."""
    lines, own = lines_together(s.line)
    return _remedies(lines, own, s.job.soil, s.job.kit, s.setup, state_of(s), judged_of(s).lesson)


@asked_once
def moving_remedies_of(s: LoadedSetup) -> MovingRemedies:
    """Return what would help moving induction as it is walked."""
    return _moving_remedies(*lines_together(s.line), s.job.soil, s.job.kit, s.setup)


@asked_once
def across_of(s: LoadedSetup, at_m: float) -> Across:
    """Return the forecast across the line at one place under a hookup."""
    return _across(*_ground(s), s.setup, state_of(s), s.readings, at_m=at_m)


@asked_once
def judged_of(s: LoadedSetup) -> Judged:
    """Return the judgements of the stations of a hookup, by distance, and what they taught."""
    stations = tuple(x.reading for x in s.stations)
    return _judged(
        *_ground(s),
        s.setup,
        s.readings,
        stations,
        s.row.rx_freq_hz,
        s.evidence,
        measured=s.job.measured,
        tolerance_m=s.job.marking.tolerance_m,
        passive_m=passive_m(s),
    )


@asked_once
def identity_finding(s: LoadedSetup) -> Identity:
    """Return whether it is shown which line a hookup's stations are on."""
    return identity_of(judged_of(s).weighed, s.evidence)


@asked_once
def rivals_left(s: LoadedSetup) -> list[Alive]:
    """Return the rivals that are still possible under a hookup, likeliest first."""
    return judged_of(s).weighed.alive()


@asked_once
def ask_of(s: LoadedSetup) -> Ask | None:
    """Return the evidence of identity to ask for next under a hookup, None where none is needed or would help."""
    weighed = judged_of(s).weighed
    # what was shown at one place says nothing of the trace beyond it
    asked = {e.kind for e in s.evidence if e.at_m is None or e.at_m == weighed.place_for(e.kind)}
    return next_ask(weighed, s.setup.by, asked)


@asked_once
def events_of(s: LoadedSetup) -> tuple[Event, ...]:
    """Return what happened along the stations of a hookup."""
    stations = tuple(x.reading for x in s.stations)
    return _happened(*_ground(s), s.setup, s.readings, stations, measured=s.job.measured)


def judged_stations(s: LoadedSetup) -> list[tuple[LoadedStation, Judgement]]:
    """Return the stations of a hookup with their judgements, by distance."""
    return list(zip(s.stations, judged_of(s).judgements, strict=True))


def judgement_of(station: LoadedStation) -> Judgement:
    """Return the judgement of one station."""
    return next(j for s, j in judged_stations(station.setup) if s is station)


@asked_once
def estimate_of(station: LoadedStation) -> Estimate | None:
    """Return the best estimate of depth and position at a station, every rival weighed."""
    kit = station.setup.job.kit
    noise_t = kit.frequency(station.setup.setup.freq_hz).noise_t
    free = undoing_of(station.setup)
    own = best_estimate(station.reading, noise_t=noise_t, receiver=kit.receiver, free=free)
    if own is None or own.across:
        return own
    k = next(i for i, s in enumerate(station.setup.stations) if s is station)
    return weighed_estimate(own, judged_of(station.setup).weighed.placed, k)


@asked_once
def profile_of(station: LoadedStation) -> AcrossFit | None:
    """Return the fit of the readings across the line at a station, None without any that fix a place."""
    kit = station.setup.job.kit
    noise_t = kit.frequency(station.setup.setup.freq_hz).noise_t
    read = undoing_of(station.setup).reading(station.reading)
    return placed_across(read, noise_t=noise_t, receiver=kit.receiver)


def undoing_of(s: LoadedSetup) -> Undoing:
    """Return what undoes the return current in the soil in a hookup's readings."""
    return undoing(s.job.soil, s.setup.freq_hz, s.job.kit.receiver)


@asked_once
def judged_run(run: LoadedRun) -> JudgedRun:
    """Return the judgements of the stops of a sonde run, by distance, and what they show together."""
    line = run.line.row
    return judge_run(
        [s.reading for s in run.stops],
        run.run,
        run.job.kit,
        depth_range_m=(line.depth_min_m, line.depth_max_m),
        pipe=run.line.pipe,
    )


def judged_stops(run: LoadedRun) -> list[tuple[LoadedStop, Judgement]]:
    """Return the stops of a sonde run with their judgements, by distance."""
    return list(zip(run.stops, judged_run(run).judgements, strict=True))


def stop_judgement(stop: LoadedStop) -> Judgement:
    """Return the judgement of one stop."""
    return next(j for s, j in judged_stops(stop.run) if s is stop)


def fit_of(stop: LoadedStop) -> SondeFit | None:
    """Return where the head lies under a stop, None where nothing tells."""
    judged = judged_run(stop.run)
    return next(f for s, f in zip(stop.run.stops, judged.fits, strict=True) if s is stop)


@asked_once
def judged_walk(w: LoadedWalk) -> JudgedWalk:
    """Return the ground faults of a walk with the frame and their judgements, by distance."""
    line = w.line.row
    return judge_walk(
        w.readings,
        w.walk,
        w.job.kit,
        length_m=line.length_m,
        depth_range_m=(line.depth_min_m, line.depth_max_m),
        earths_m=earths_of(w.line.line) if w.line.has_metal else (),
    )


_fault_forecast = remembered(64)(fault_forecast)


def fault_forecast_of(line: LoadedLine, walk: FaultWalk) -> FaultForecast:
    """Return what a usual fault would take on a line, and what it leaks by itself."""
    asked = FaultWalk(walk.freq_hz, walk.start_m)
    return _fault_forecast(line.line, line.job.soil, line.job.kit.bare, asked)


@asked_once
def agreements_of(run: LoadedRun) -> tuple[Agreement, ...]:
    """Return where a sonde run and the line's trace can be compared in depth, and whether they agree."""
    line: LoadedLine = run.line
    if line.in_use is None or not line.has_metal:
        return ()
    heads = [(fit.x_m, fit.depth_m, fit.depth_pm_m) for fit in _proved_heads(run)]
    passed = [s for s, j in judged_stations(line.in_use) if j.verdict in PROVED]
    depths = [(s.row.distance_m, best.depth_m) for s in passed if (best := estimate_of(s)) is not None]
    return agreements(heads, depths)


def painted_at_m(stop: LoadedStop) -> float:
    """Return where a mark of a stop goes along its line [m]: over the fitted head if proved, else over the peak."""
    fit = fit_of(stop)
    proved = fit is not None and stop_judgement(stop).verdict in PROVED
    return round(fit.x_m, 2) if fit is not None and proved else float(stop.row.distance_m)


@asked_once
def coverage_of(line: LoadedLine) -> Coverage:
    """Return how much of a line is marked; without a mark, stations count under what is in use."""
    stations: list[tuple[LoadedStation | LoadedStop, bool]] = [
        (s, setup is line.in_use) for setup in line.setups for s in setup.stations
    ]
    stations += [(s, run is line.run_in_use) for run in line.runs for s in run.stops]
    placed = [
        Placed(
            s.row.distance_m if mark is None else mark.snapshot["station"]["distance_m"],
            mark is None or mark.verdict in PROVED,
            mark is not None,
            None if mark is None else marked_depth_m(mark),
        )
        for s, in_use in stations
        if (mark := s.mark) is not None or in_use
    ]
    return coverage(placed, length_m=line.row.length_m, wanted=line.wanted_m)


def marked_depth_m(mark: MarkRow) -> float | None:
    """Return the depth that a mark says [m]: the best estimate where it was proved, else the display's."""
    best = mark.snapshot.get("estimate") if mark.verdict in PROVED else None
    depth_m = (best or mark.snapshot["station"]).get("depth_m")
    return None if depth_m is None else float(depth_m)


@asked_once
def due_of(line: LoadedLine) -> tuple[Due, ...]:
    """Return the marks that a line still lacks; events along it are those of the hookup in use."""
    marks = [s.row.distance_m for setup in line.setups for s in setup.stations if s.mark is not None]
    marks += [s.row.distance_m for run in line.runs for s in run.stops if s.mark is not None]
    if not line.has_metal:
        return marks_due(marks, Places(line.row.length_m, line.wanted_m))
    stands = landmarks(line.line)
    places = Places(
        line.line.length_m,
        line.line.wanted_m,
        [m.at_m for m in stands if m.kind == "bend"],
        [m.at_m for m in stands if m.kind == "bond"],
    )
    return marks_due(marks, places, () if line.in_use is None else events_of(line.in_use))


def crossings_of(job: LoadedJob) -> list[tuple[LoadedLine, LoadedLine, Crossing]]:
    """Return the crossings of a job's drawn lines near which a sound depth was read on both."""
    if job.site is None:
        return []
    drawn, bonds = job.site.drawn[: len(job.drawn)], job.site.bonds
    read = {k: [*(d for s in x.setups for d in _depths(s)), *_heads(x)] for k, x in enumerate(job.drawn)}
    near = [c for c in crossings(drawn, read, bonds) if c.both_read]
    # judging every trace of a job takes its time: only those that may contradict each other
    sound = {k: _depths_read(job.drawn[k]) for k in {k for c in near for k in (c.first, c.second)}}
    found = [c for c in (with_depths(c, sound) for c in near) if c.both_read]
    return [(job.drawn[c.first], job.drawn[c.second], c) for c in found]


def _depths(s: LoadedSetup) -> list[tuple[float, float]]:
    return [(x.row.distance_m, x.row.depth_m) for x in s.stations if x.row.depth_m is not None]


def _depths_read(line: LoadedLine) -> list[tuple[float, float]]:
    """Depths of stations that passed under every hookup of a line, and of heads found by sonde."""
    return [
        (s.row.distance_m, s.row.depth_m)
        for setup in line.setups
        if _depths(setup)
        for s, j in judged_stations(setup)
        if s.row.depth_m is not None and j.verdict in PROVED
    ] + _heads(line)


def _heads(line: LoadedLine) -> list[tuple[float, float]]:
    """Depths of the heads under stops that passed, in every sonde run of a line."""
    return [(fit.x_m, fit.depth_m) for run in line.runs for fit in _proved_heads(run)]


def _proved_heads(run: LoadedRun) -> list[SondeFit]:
    """Where the head lies under the stops of a run that passed."""
    judged = zip(judged_stops(run), judged_run(run).fits, strict=True)
    return [fit for (_, j), fit in judged if fit is not None and j.verdict in PROVED]
