"""A job as views: with its lines, and as a row of the list."""

from __future__ import annotations

from vessel.api.job_answers import judged_stations
from vessel.api.jobs.views import JobView, LineStanding, StandingView
from vessel.api.line_answers import (
    crossings_of,
    due_of,
)
from vessel.api.lines.present import line_state
from vessel.api.marking.present import utility_view
from vessel.api.prestart.present import count_text, readiness_of
from vessel.api.special_answers import judged_stops
from vessel.core.judge.station.verdict import PROVED
from vessel.core.judge.trace.coverage import MARK_EVERY_M
from vessel.core.model.soil import SOIL_KINDS
from vessel.core.model.utility import UTILITIES
from vessel.core.text.figures import show_length
from vessel.formats.loaded_job import LoadedJob, LoadedLine
from vessel.formats.site_plan_doc import plan_doc
from vessel.words.event_sentences import contradiction_text, due_text


def job_view(loaded: LoadedJob, *, seen: int = 0, practice: bool = False) -> JobView:
    """Return a job with its lines; `seen`: its newest change; `practice`: it is an exercise."""
    job, soil, units = loaded.row, loaded.soil, loaded.units
    ready = readiness_of(loaded)
    how = "measured" if loaded.measured else "typical"
    return JobView(
        id=job.id,
        name=job.name,
        dig=job.dig,
        address=job.address,
        notice=job.notice,
        client=job.client,
        contact=job.contact,
        due_at=job.due_at,
        units=units,
        soil_kind=job.soil_kind,
        soil_text=f"{SOIL_KINDS[job.soil_kind][0]}, {soil.resistivity_ohm_m:g} ohm m ({how})",
        soil_resistivity_typed=job.typed.get("soil_resistivity", ""),
        technician=job.technician,
        kit_id=job.kit_id,
        kit_name=job.kit.name,
        before_state=ready.state,
        before_text=count_text(ready),
        mark_every_text=show_length(MARK_EVERY_M, units),
        utilities=[utility_view(k, loaded.marking) for k in UTILITIES],
        lines=[line_state(line) for line in loaded.lines],
        tied=plan_doc(job).origin is not None,
        practice=practice,
        seen=seen,
    )


def standing_view(loaded: LoadedJob) -> StandingView:
    """Return how a job stands by the judge, under the hookup in use of each line."""
    return StandingView(
        crossings=crossing_texts(loaded),
        lines=[
            LineStanding(
                id=line.row.id,
                held=_held(line),
                due=[due_text(d, loaded.units) for d in due_of(line)],
            )
            for line in loaded.lines
        ],
    )


def _held(line: LoadedLine) -> int:
    """How many stations, and stops of a sonde, are not proved under what is in use."""
    judged = [j for _, j in judged_stations(line.in_use)] if line.in_use and line.has_metal else []
    judged += [j for _, j in judged_stops(line.run_in_use)] if line.run_in_use else []
    return sum(j.verdict not in PROVED for j in judged)


def crossing_texts(job: LoadedJob) -> list[str]:
    """Return what contradicts itself where drawn lines cross: both depths read, and no soil between."""
    return [
        contradiction_text(a.row.name, b.row.name, c.first_m, (c.first_depth_m, c.second_depth_m), job.units)
        for a, b, c in crossings_of(job)
        if c.contradicts and c.first_depth_m is not None and c.second_depth_m is not None
    ]
