"""What stations, stops and marks together say of a line, and of lines that cross: asked once a request."""

from __future__ import annotations

from vessel.api.job_answers import estimate_of, events_of, judged_stations
from vessel.api.special_answers import proved_heads
from vessel.core.judge.sonde.agreement import Agreement, agreements
from vessel.core.judge.station.verdict import PROVED
from vessel.core.judge.trace.coverage import Coverage, Placed, coverage
from vessel.core.judge.trace.marks_due import Due, Places, marks_due
from vessel.core.model.landmarks import landmarks
from vessel.core.simulate.crossings import Crossing, crossings, with_depths
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup, LoadedStation, asked_once
from vessel.formats.loaded_sonde import LoadedRun, LoadedStop
from vessel.store.tables import MarkRow


@asked_once
def agreements_of(run: LoadedRun) -> tuple[Agreement, ...]:
    """Return where a sonde run and the line's trace can be compared in depth, and whether they agree."""
    line: LoadedLine = run.line
    if line.in_use is None or not line.has_metal:
        return ()
    heads = [(fit.x_m, fit.depth_m, fit.depth_pm_m) for fit in proved_heads(run)]
    passed = [s for s, j in judged_stations(line.in_use) if j.verdict in PROVED]
    depths = [(s.row.distance_m, best.depth_m) for s in passed if (best := estimate_of(s)) is not None]
    return agreements(heads, depths)


@asked_once
def coverage_of(line: LoadedLine) -> Coverage:
    """Return how much of a line is marked; without a mark, stations count under what is in use."""
    stations: list[tuple[LoadedStation | LoadedStop, bool]] = [
        (s, setup is line.in_use) for setup in line.setups for s in setup.stations
    ]
    stations += [(s, run is line.run_in_use) for run in line.runs for s in run.stops]
    placed = [
        Placed(
            s.row.distance_m if mark is None else mark.at_m,
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
    marks = [s.mark.at_m for setup in line.setups for s in setup.stations if s.mark is not None]
    marks += [s.mark.at_m for run in line.runs for s in run.stops if s.mark is not None]
    stands = landmarks(line.line) if line.has_metal else ()
    places = Places(
        line.row.length_m,
        line.wanted_m,
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
    return [(fit.x_m, fit.depth_m) for run in line.runs for fit in proved_heads(run)]
