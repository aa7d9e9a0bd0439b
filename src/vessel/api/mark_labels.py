"""What is written beside a mark on the ground."""

from __future__ import annotations

from vessel.api.job_answers import estimate_of
from vessel.core.judge.station.verdict import PROVED, Judgement
from vessel.core.model.station_place import way_back
from vessel.core.text.figures import show_length
from vessel.formats.loaded_job import LoadedLine, LoadedStation


def label_of(station: LoadedStation, j: Judgement, painted_off_m: float | None = None) -> str:
    """Return what to paint: letter, depth, where the line is if the paint is off it, and doubt."""
    units, proved = station.setup.job.units, j.verdict in PROVED
    best = estimate_of(station) if proved else None
    deep = station.row.depth_m if best is None else best.depth_m
    parts = [station.setup.line.utility.letter]
    if deep is not None:
        parts.append(show_length(deep, units, fine=True))
    if painted_off_m is not None:
        off, at_m = show_length(abs(painted_off_m), units, fine=True), station.row.distance_m
        parts.append(f"LINE {off} {way_back_label(station.setup.line, at_m, painted_off_m)}")
    if not proved:
        parts.append("NOT PROVED")
    return " ".join(parts)


def way_back_label(line: LoadedLine, at_m: float, painted_off_m: float) -> str:
    """Return what paint beside a line at `at_m` [m] says of the way to it: by the compass where the line is drawn."""
    drawn = line.drawn_as
    if drawn is None:
        return f"{'RIGHT' if painted_off_m > 0 else 'LEFT'} FROM NEAR END"
    return f"TO {way_back(drawn, at_m, painted_off_m)}"
