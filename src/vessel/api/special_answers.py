"""What core answers about sonde runs and walks with the frame: asked once a request."""

from __future__ import annotations

from typing import Any

from vessel.core.base.cached import remembered
from vessel.core.hookup.judge_fault import FaultForecast, JudgedWalk, earths_of, fault_forecast, judge_walk
from vessel.core.hookup.judge_sonde import JudgedRun, judge_run
from vessel.core.judge.fault.fault_fit import Fault
from vessel.core.judge.sonde.sonde_fit import SondeFit
from vessel.core.judge.station.verdict import PROVED, Judgement
from vessel.core.model.fault_walk import FaultWalk
from vessel.formats.loaded_job import LoadedLine, asked_once
from vessel.formats.loaded_sonde import LoadedRun, LoadedStop
from vessel.formats.loaded_walk import LoadedWalk

_runs = remembered(64)(judge_run)
_walks = remembered(64)(judge_walk)


@asked_once
def judged_run(run: LoadedRun) -> JudgedRun:
    """Return the judgements of the stops of a sonde run, by distance, and what they show together."""
    line = run.line.row
    return _runs(
        tuple(s.reading for s in run.stops),
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
    return _walks(
        w.readings,
        w.walk,
        w.job.kit,
        length_m=line.length_m,
        depth_range_m=(line.depth_min_m, line.depth_max_m),
        earths_m=tuple(earths_of(w.line.line)) if w.line.has_metal else (),
    )


_fault_forecast = remembered(64)(fault_forecast)


def fault_forecast_of(line: LoadedLine, walk: FaultWalk) -> FaultForecast:
    """Return what a usual fault would take on a line, and what it leaks by itself."""
    asked = FaultWalk(walk.freq_hz, walk.start_m)
    return _fault_forecast(line.line, line.job.soil, line.job.kit.bare, asked)


def painted_at_m(stop: LoadedStop) -> float:
    """Return where a mark of a stop goes along its line [m]: over the fitted head if proved, else over the peak."""
    fit = fit_of(stop)
    proved = fit is not None and stop_judgement(stop).verdict in PROVED
    return round(fit.x_m, 2) if fit is not None and proved else float(stop.row.distance_m)


SAME_FAULT_M = 0.5
"""A mark this close to a fault stands at it [m]."""


def fault_near(walk: LoadedWalk, at_m: float) -> tuple[Fault, Judgement] | None:
    """Return the fault of a walk that lies at a place [m], None without one there."""
    judged = judged_walk(walk)
    if judged.fit is None:
        return None
    pairs = list(zip(judged.fit.faults, judged.judgements, strict=True))
    near = min(pairs, key=lambda p: abs(p[0].at_m - at_m), default=None)
    return near if near is not None and abs(near[0].at_m - at_m) <= SAME_FAULT_M else None


def marked_fault(walk: LoadedWalk, at_m: float) -> Any | None:
    """Return the mark that stands at a fault [m], None without one."""
    return next((m for m in walk.marks if abs(m.at_m - at_m) <= SAME_FAULT_M), None)


def proved_heads(run: LoadedRun) -> list[SondeFit]:
    """Where the head lies under the stops of a run that passed."""
    judged = zip(judged_stops(run), judged_run(run).fits, strict=True)
    return [fit for (_, j), fit in judged if fit is not None and j.verdict in PROVED]
