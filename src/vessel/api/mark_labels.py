"""What is written beside a mark on the ground."""

from __future__ import annotations

from vessel.api.job_answers import estimate_of
from vessel.core.judge.station.verdict import PROVED, Judgement
from vessel.core.model.station_place import way_back
from vessel.core.text.figures import show_length
from vessel.formats.loaded_job import LoadedStation


def label_of(station: LoadedStation, j: Judgement, painted_off_m: float | None = None) -> str:
    """Return what to paint: letter, depth, where the line is if the paint is off it, and doubt."""
    units, proved = station.setup.job.units, j.verdict in PROVED
    best = estimate_of(station) if proved else None
    deep = station.row.depth_m if best is None else best.depth_m
    parts = [station.setup.line.utility.letter]
    if deep is not None:
        parts.append(show_length(deep, units, fine=True))
    if painted_off_m is not None:
        parts.append(f"LINE {show_length(abs(painted_off_m), units, fine=True)} {_way_back(station, painted_off_m)}")
    if not proved:
        parts.append("NOT PROVED")
    return " ".join(parts)


def _way_back(s: LoadedStation, painted_off_m: float) -> str:
    """What paint beside the line says of the way to it: by the compass where the line is drawn."""
    course = s.setup.line.line.course
    if course is None:
        return f"{'RIGHT' if painted_off_m > 0 else 'LEFT'} FROM NEAR END"
    return f"TO {way_back(course.drawn, s.row.distance_m, painted_off_m)}"
