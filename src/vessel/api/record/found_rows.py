"""What was found on the lines of a job, row by row, for other programs."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, cast

from vessel.api.job_answers import judged_stations
from vessel.api.line_answers import (
    coverage_of,
    marked_depth_m,
)
from vessel.api.on_the_plan import where_stands, where_stopped
from vessel.api.site.plan_findings import zone_of
from vessel.api.special_answers import (
    judged_run,
    judged_stops,
)
from vessel.core.hookup.judge_fault import FAULT_VERDICT
from vessel.core.judge.station.verdict import Verdict
from vessel.core.judge.trace.coverage import CoverState
from vessel.core.model.drawn_line import Drawn, Xy
from vessel.core.model.station_place import painted_at
from vessel.formats.found_file import FoundRow, Kind
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.formats.site_plan_doc import plan_doc
from vessel.words.fault_sentences import FAULT_LABEL
from vessel.words.labels import VERDICT_LABEL

_KIND: dict[CoverState, Kind] = {"marked": "marked", "doubtful": "doubtful", "missing": "not_located"}


def found_rows(job: LoadedJob) -> list[FoundRow]:
    """Return marks, stations without one under the hookup in use, stretches and tolerance zones of every line."""
    drawn = () if job.site is None else job.site.drawn[: len(job.drawn)]
    on_plan = {line.row.id: d for line, d in zip(job.drawn, drawn, strict=True)}
    return [row for line in job.lines for row in _of_line(line, on_plan.get(line.row.id))]


def origin_of(job: LoadedJob) -> tuple[float, float] | None:
    """Return latitude and longitude [deg] of the plan's origin, None where that is not known."""
    origin: tuple[float, float] | None = plan_doc(job.row).origin
    return origin


def _of_line(line: LoadedLine, d: Drawn | None) -> Iterator[FoundRow]:
    name, utility = line.row.name, line.utility.label
    in_use = line.in_use if line.has_metal else None
    verdicts = {} if in_use is None else {s.row.id: j.verdict for s, j in judged_stations(in_use)}
    for s in (s for setup in line.setups for s in setup.stations):
        at_m, mark = s.row.distance_m, s.mark
        told: dict[str, Any] = {"line": name, "utility": utility, "from_m": at_m, "to_m": at_m}
        if mark is not None:
            yield FoundRow(
                **told,
                kind="mark",
                depth_m=marked_depth_m(mark),
                label=mark.label,
                verdict=VERDICT_LABEL[cast(Verdict, mark.verdict)],
                technician=mark.technician,
                time=mark.marked_at,
                note=mark.reason,
                places=() if d is None else (where_stands(s, d, painted_off_m=mark.painted_off_m or 0.0),),
            )
        elif s.row.id in verdicts:
            yield FoundRow(
                **told,
                kind="station",
                depth_m=s.row.depth_m,
                verdict=VERDICT_LABEL[verdicts[s.row.id]],
                technician=s.row.technician,
                time=s.row.taken_at,
                note=s.row.note,
                places=() if d is None else (where_stands(s, d),),
            )
    yield from _of_stops(line, d)
    yield from _of_faults(line, d)
    for stretch in coverage_of(line).stretches:
        low, high = stretch.depths_m or (None, None)
        corners: tuple[Xy, ...] = ()
        if d is not None:
            corners = d.between(max(stretch.start_m, 0.0), min(stretch.end_m, d.length_m))
        told = {"line": name, "utility": utility, "from_m": stretch.start_m, "to_m": stretch.end_m}
        yield FoundRow(**told, kind=_KIND[stretch.state], depth_m=low, depth_max_m=high, places=corners)
        if corners and stretch.state == "marked":
            outline = tuple(zone_of(corners, line.job.marking.tolerance_m))
            yield FoundRow(**told, kind="tolerance_zone", places=outline)


def _of_stops(line: LoadedLine, d: Drawn | None) -> Iterator[FoundRow]:
    """Marks at stops of sonde runs, and the stops without one of the run in use."""
    for run in line.runs:
        fits = judged_run(run).fits
        for (s, j), fit in zip(judged_stops(run), fits, strict=True):
            mark = s.mark
            if mark is None and run is not line.run_in_use:
                continue
            at_m = s.row.distance_m if mark is None else mark.at_m
            off_m = 0.0 if mark is None else mark.painted_off_m or 0.0
            yield FoundRow(
                line=line.row.name,
                utility=line.utility.label,
                from_m=at_m,
                to_m=at_m,
                kind="station" if mark is None else "mark",
                depth_m=(None if fit is None else fit.depth_m) if mark is None else marked_depth_m(mark),
                label="" if mark is None else mark.label,
                verdict=VERDICT_LABEL[j.verdict if mark is None else cast(Verdict, mark.verdict)],
                technician=s.row.technician if mark is None else mark.technician,
                time=s.row.taken_at if mark is None else mark.marked_at,
                note=s.row.note if mark is None else mark.reason,
                places=() if d is None else (where_stopped(s, d, at_m, painted_off_m=off_m),),
            )


def _of_faults(line: LoadedLine, d: Drawn | None) -> Iterator[FoundRow]:
    """Marks at ground faults."""
    for mark in (m for walk in line.walks for m in walk.marks):
        at_m = mark.at_m
        yield FoundRow(
            line=line.row.name,
            utility=line.utility.label,
            from_m=at_m,
            to_m=at_m,
            kind="fault",
            label=mark.label,
            verdict=FAULT_LABEL[FAULT_VERDICT[cast(Verdict, mark.verdict)]],
            technician=mark.technician,
            time=mark.marked_at,
            note=mark.reason,
            places=() if d is None else (painted_at(d, at_m, None, 0.0),),
        )
