"""What was found as a view: centre lines, stations, marks and marked stretches of drawn lines, placed on the plan."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
from shapely import LineString

from vessel.api.job_answers import (
    circle_of,
    judged_stations,
    sweep_of,
)
from vessel.api.line_answers import coverage_of
from vessel.api.on_the_plan import where_stands, where_stopped
from vessel.api.site.findings_views import FoundLine, FoundPoint, FoundStretch, FoundView
from vessel.api.special_answers import (
    judged_stops,
    judged_walk,
    marked_fault,
)
from vessel.api.sweep.present import candidate_role
from vessel.core.hookup.judge_fault import fault_verdict
from vessel.core.model.drawn_line import Drawn
from vessel.core.model.station_place import painted_at
from vessel.core.signal.receiver.sweep_circle import on_circle
from vessel.core.text.figures import show_length, show_station
from vessel.core.text.units import Units
from vessel.formats.loaded_job import LoadedJob, LoadedLine, LoadedSetup
from vessel.formats.loaded_sonde import LoadedRun
from vessel.formats.loaded_walk import LoadedWalk
from vessel.words.fault_sentences import FAULT_LABEL
from vessel.words.labels import VERDICT_LABEL
from vessel.words.mark_sentences import zone_text
from vessel.words.sweep_sentences import centre_line_text

_STATE_TEXT = {"marked": "marked", "doubtful": "doubtful", "missing": "NOT LOCATED"}


def zone_of(corners: Sequence[tuple[float, float]], tolerance_m: float) -> list[tuple[float, float]]:
    """Return the outline of the zone to either side of a stretch, all on the plan [m]."""
    outline: Any = LineString(corners).buffer(tolerance_m, cap_style="flat", join_style="mitre")
    return [(float(x), float(y)) for x, y in outline.exterior.coords]


def _stretches(line: LoadedLine, d: Drawn, units: Units) -> list[FoundStretch]:
    found, tolerance_m = [], line.job.marking.tolerance_m
    for s in coverage_of(line).stretches:
        corners = d.between(max(s.start_m, 0.0), min(s.end_m, d.length_m))
        ends = " to ".join(show_length(x, units) for x in (s.start_m, s.end_m))
        found.append(
            FoundStretch(
                state=s.state,
                corners=list(corners),
                zone=zone_of(corners, tolerance_m) if s.state == "marked" else [],
                text=f"{line.row.name}, {ends}: {_STATE_TEXT[s.state]}",
            )
        )
    return found


def _stations(setup: LoadedSetup, d: Drawn, units: Units, *, in_use: bool) -> list[FoundPoint]:
    """Stations of the hookup in use; of earlier ones only what was marked."""
    found: list[FoundPoint] = []
    for s, j in judged_stations(setup):
        mark, where = s.mark, show_station(s.row.distance_m, units)
        if mark is not None:
            text = f"Mark {mark.label} at {where} along {setup.line.row.name}"
            at = where_stands(s, d, painted_off_m=mark.painted_off_m or 0.0)
            found.append(FoundPoint(kind="mark", at=at, state=mark.verdict, label=mark.label, text=text))
        elif in_use:
            text = f"Station at {where} along {setup.line.row.name}: {VERDICT_LABEL[j.verdict]}"
            found.append(FoundPoint(kind="station", at=where_stands(s, d), state=j.verdict, label="", text=text))
    return found


def _stops(run: LoadedRun, d: Drawn, units: Units, *, in_use: bool) -> list[FoundPoint]:
    """Stops of the sonde run in use; of earlier ones only what was marked."""
    found: list[FoundPoint] = []
    for s, j in judged_stops(run):
        mark, name = s.mark, run.line.row.name
        if mark is not None:
            at_m = mark.at_m
            text = f"Mark {mark.label} at {show_station(at_m, units)} along {name}"
            at = where_stopped(s, d, at_m, painted_off_m=mark.painted_off_m or 0.0)
            found.append(FoundPoint(kind="mark", at=at, state=mark.verdict, label=mark.label, text=text))
        elif in_use:
            at_m = s.row.distance_m
            text = f"Sonde at {show_station(at_m, units)} along {name}: {VERDICT_LABEL[j.verdict]}"
            at = where_stopped(s, d, at_m)
            found.append(FoundPoint(kind="station", at=at, state=j.verdict, label="", text=text))
    return found


def _faults(walk: LoadedWalk, d: Drawn, units: Units, *, in_use: bool) -> list[FoundPoint]:
    """Marks at ground faults, and the faults without one that the walk in use shows."""
    found: list[FoundPoint] = []
    for mark in walk.marks:
        at_m = mark.at_m
        text = f"{mark.label} along {walk.line.row.name}"
        at = painted_at(d, at_m, None, 0.0)
        found.append(FoundPoint(kind="fault", at=at, state=mark.verdict, label=mark.label, text=text))
    judged = judged_walk(walk) if in_use else None
    for fault, j in (
        () if judged is None or judged.fit is None else zip(judged.fit.faults, judged.judgements, strict=True)
    ):
        if marked_fault(walk, fault.at_m) is not None:
            continue
        where = show_station(round(fault.at_m, 2), units)
        text = f"Ground fault at {where} along {walk.line.row.name}: {FAULT_LABEL[fault_verdict(j)]}"
        at = painted_at(d, min(fault.at_m, d.length_m), None, 0.0)
        found.append(FoundPoint(kind="fault", at=at, state=j.verdict, label="", text=text))
    return found


def _centre_lines(setup: LoadedSetup) -> list[FoundPoint]:
    rows = setup.live_candidates
    if not rows:
        return []
    circle, verdict = circle_of(setup), sweep_of(setup)
    bearings = np.array([r.bearing_deg for r in rows])
    places = on_circle(circle.centre_m, circle.radius_m, bearings, zero=circle.zero)
    found = []
    for k, (row, (x, y), role) in enumerate(zip(rows, places, verdict.roles, strict=True)):
        state = candidate_role(role, circle.expected, chosen=k == verdict.target)
        text = centre_line_text(row.bearing_deg, setup.line.row.name)
        found.append(FoundPoint(kind="centre_line", at=(float(x), float(y)), state=state, label="", text=text))
    return found


def _line(line: LoadedLine, d: Drawn, units: Units) -> FoundLine:
    points: list[FoundPoint] = []
    centre, radius = None, 0.0
    if line.has_metal:
        for setup in line.setups:
            points += _stations(setup, d, units, in_use=setup is line.in_use)
        if line.in_use is not None:
            points += _centre_lines(line.in_use)
            circle = circle_of(line.in_use)
            centre, radius = (float(circle.centre_m[0]), float(circle.centre_m[1])), circle.radius_m
    for run in line.runs:
        points += _stops(run, d, units, in_use=run is line.run_in_use)
    for walk in line.walks:
        points += _faults(walk, d, units, in_use=walk is line.walk_in_use)
    return FoundLine(
        line_id=line.row.id, stretches=_stretches(line, d, units), points=points, centre=centre, radius_m=radius
    )


def found_view(job: LoadedJob) -> FoundView:
    """Return what was found on the drawn lines of a job."""
    units, rule = job.units, job.marking
    drawn = () if job.site is None else job.site.drawn[: len(job.drawn)]
    return FoundView(
        job_id=job.row.id,
        lines=[_line(line, d, units) for line, d in zip(job.drawn, drawn, strict=True)],
        zone_text=zone_text(rule, units),
    )
