"""What is where on the plan of a loaded job: stations, their paint, and the hits of the passive sweep."""

from __future__ import annotations

from vessel.core.model.drawn_line import Drawn
from vessel.core.model.station_place import painted_at
from vessel.core.prestart.checks_and_noise import Met, against_plan, unexplained_m
from vessel.formats.before_doc import passive_of
from vessel.formats.loaded_job import LoadedJob, LoadedSetup, LoadedStation, asked_once
from vessel.formats.loaded_sonde import LoadedStop


def where_stands(s: LoadedStation, d: Drawn, *, painted_off_m: float = 0.0) -> tuple[float, float]:
    """Return where a station is drawn, or paint so far left of it [m]: as taped, else on the line at its distance."""
    taped = None if s.row.place is None or s.row.place["by"] == "device" else tuple(s.row.place["at"][:2])
    return painted_at(d, s.row.distance_m, taped, painted_off_m)


def where_stopped(s: LoadedStop, d: Drawn, at_m: float, *, painted_off_m: float = 0.0) -> tuple[float, float]:
    """Return where a stop of a sonde run is drawn `at_m` along the line [m], or paint so far left of it [m]."""
    return painted_at(d, at_m, None, s.reading.left_m + painted_off_m)


@asked_once
def hits_of(job: LoadedJob) -> tuple[Met, ...]:
    """Return the passive hits of a stored job against its plan."""
    drawn = () if job.site is None else job.site.drawn[: len(job.drawn)]
    live = [d.name for line, d in zip(job.drawn, drawn, strict=True) if line.utility.carries_mains]
    return against_plan(passive_of(job.pre_start), job.site, live=live)


def passive_m(s: LoadedSetup) -> tuple[float, ...] | None:
    """Return how near each station's zone a hit lies that nothing explains [m]; None where none is on the plan."""
    own, met = s.line.own, hits_of(s.job)
    if own is None or s.job.site is None or not any(m.near is None and m.hit.at is not None for m in met):
        return None
    places = [where_stands(x, s.job.site.drawn[own]) for x in s.stations]
    return unexplained_m(met, places, tolerance_m=s.job.marking.tolerance_m)
