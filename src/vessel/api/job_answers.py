"""What core answers about a loaded job: asked once a request, and remembered between requests while nothing changes."""

from __future__ import annotations

import numpy as np

from vessel.api.on_the_plan import passive_m
from vessel.core.base.cached import remembered
from vessel.core.hookup.across_forecast import Across, across
from vessel.core.hookup.circle_look import circle_look
from vessel.core.hookup.continuity import Continuity, continuity
from vessel.core.hookup.events_along import events_along
from vessel.core.hookup.expected_sweep import Circle, sweep_circle
from vessel.core.hookup.hookup_state import HookupState, hookup_state
from vessel.core.hookup.judge_trace import Judged, judge_stations
from vessel.core.hookup.rivals_of_hookup import weighed_estimate
from vessel.core.hookup.trace_end import trace_end
from vessel.core.hookup.transmitter_forecast import LoopForecast, loop_forecasts
from vessel.core.judge.across.best_estimate import Estimate, best_estimate
from vessel.core.judge.across.cross_section import AcrossFit, placed_across
from vessel.core.judge.rivals.chances import Alive
from vessel.core.judge.rivals.identity_finding import Identity, identity_of
from vessel.core.judge.rivals.next_ask import Ask, next_ask
from vessel.core.judge.station.verdict import Judgement
from vessel.core.judge.sweep_verdict import SweepVerdict, judge_sweep
from vessel.core.judge.trace.events import Event
from vessel.core.judge.trace.taper import TaperedEnd
from vessel.core.model.identity import Evidence
from vessel.core.model.kit import Kit
from vessel.core.model.line import Line
from vessel.core.model.readings import StationReading, TransmitterReading, last_at
from vessel.core.model.setup import Setup
from vessel.core.model.soil import Soil
from vessel.core.model.vicinity import share_one
from vessel.core.plan.plan_option import Plan
from vessel.core.plan.plan_site import plan_lines
from vessel.core.plan.work_order import Order, in_sequence
from vessel.core.remedies.moving_remedies import MovingRemedies, moving_remedies
from vessel.core.remedies.remedy_search import Remedies, remedies
from vessel.core.signal.receiver.plant_noise import noise_along
from vessel.core.signal.receiver.return_undone import Undoing, undoing
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup, LoadedStation, asked_once

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
    swept: StationReading | None,
) -> Judged:
    state = _state(line, soil, kit.quiet, setup, readings, measured=measured)
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
        swept=swept,
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
    return events_along(soil, kit, setup, _state(line, soil, kit.quiet, setup, readings, measured=measured), stations)


def _ground(s: LoadedSetup) -> tuple[Line, Soil, Kit]:
    return s.traced, s.job.soil, s.job.kit


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
    return _state(s.traced, s.job.soil, s.job.kit.quiet, s.setup, s.readings, measured=s.job.measured)


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
def swept_of(s: LoadedSetup) -> StationReading | None:
    """Return the line on the circle of a hookup's first sweep and what was logged beside it, None without."""
    return circle_look(s.traced, circle_of(s), s.candidates, sweep_of(s).target) if s.candidates else None


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


def _beside_as_traced(s: LoadedSetup) -> tuple[tuple[Line, ...], int]:
    """The lines that share a site with a hookup's; by itself where the site is not as drawn while it is traced."""
    return lines_together(s.line) if s.traced is s.line.line else ((s.traced,), 0)


@asked_once
def remedies_of(s: LoadedSetup) -> Remedies:
    """Return what would help a hookup, on its line as its readings and stations explain it."""
    return _remedies(*_beside_as_traced(s), s.job.soil, s.job.kit, s.setup, state_of(s), judged_of(s).lesson)


@asked_once
def moving_remedies_of(s: LoadedSetup) -> MovingRemedies:
    """Return what would help moving induction as it is walked."""
    return _moving_remedies(*_beside_as_traced(s), s.job.soil, s.job.kit, s.setup)


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
        swept=swept_of(s),
    )


@asked_once
def identity_finding(s: LoadedSetup) -> Identity:
    """Return whether it is shown which line a hookup's stations are on."""
    return identity_of(judged_of(s).weighed, s.evidence, s.setup.by)


@asked_once
def rivals_left(s: LoadedSetup) -> list[Alive]:
    """Return the rivals that are still possible under a hookup, likeliest first."""
    return judged_of(s).weighed.alive()


@asked_once
def ask_of(s: LoadedSetup) -> Ask | None:
    """Return the evidence of identity to ask for next under a hookup, None where none is needed or would help."""
    judged = judged_of(s)
    return next_ask(judged.weighed, s.setup.by, s.evidence, judged.short)


@asked_once
def events_of(s: LoadedSetup) -> tuple[Event, ...]:
    """Return what happened along the stations of a hookup."""
    stations = tuple(x.reading for x in s.stations)
    return _happened(*_ground(s), s.setup, s.readings, stations, measured=s.job.measured)


@asked_once
def end_of(s: LoadedSetup) -> TaperedEnd | None:
    """Return where the stations of a hookup say that the wire ends, None where they do not."""
    return trace_end(s.traced, s.job.soil, s.setup, [x.reading for x in s.stations], s.readings)


def judged_stations(s: LoadedSetup) -> list[tuple[LoadedStation, Judgement]]:
    """Return the stations of a hookup with their judgements, by distance; nothing is worked out for none."""
    return list(zip(s.stations, judged_of(s).judgements, strict=True)) if s.stations else []


def judgement_of(station: LoadedStation) -> Judgement:
    """Return the judgement of one station."""
    return next(j for s, j in judged_stations(station.setup) if s is station)


@asked_once
def estimate_of(station: LoadedStation) -> Estimate | None:
    """Return the best estimate of depth and position at a station, every rival weighed."""
    kit = station.setup.job.kit
    noise_t = _noise_at(station)
    free = undoing_of(station.setup)
    own = best_estimate(station.reading, noise_t=noise_t, receiver=kit.receiver, free=free)
    if own is None or own.across:
        return own
    k = next(i for i, s in enumerate(station.setup.stations) if s is station)
    return weighed_estimate(own, judged_of(station.setup).weighed.placed, k)


def _noise_at(station: LoadedStation) -> float:
    """Rms noise in each coil at a station [T], with what hums near it."""
    s = station.setup
    freq_hz, at_m = s.setup.freq_hz, np.array([station.reading.distance_m])
    return s.job.kit.frequency(freq_hz).noise_t * float(noise_along(s.traced, freq_hz, at_m)[0])


@asked_once
def profile_of(station: LoadedStation) -> AcrossFit | None:
    """Return the fit of the readings across the line at a station, None without any that fix a place."""
    kit = station.setup.job.kit
    noise_t = _noise_at(station)
    read = undoing_of(station.setup).reading(station.reading)
    return placed_across(read, noise_t=noise_t, receiver=kit.receiver)


def undoing_of(s: LoadedSetup) -> Undoing:
    """Return what undoes the return current in the soil in a hookup's readings."""
    return undoing(s.setup, s.job.soil, s.job.kit.receiver)
