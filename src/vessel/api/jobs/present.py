"""A job as views: with its lines, and as a row of the list."""

from __future__ import annotations

from typing import cast

from vessel.api.job_answers import crossings_of, live_stations, standing_mark
from vessel.api.jobs.views import JobListed, JobView
from vessel.api.lines.present import line_state, live_lines
from vessel.api.marking.present import utility_view
from vessel.api.prestart.present import count_text, readiness_of
from vessel.core.judge.trace.coverage import MARK_EVERY_M
from vessel.core.model.soil import SOIL_KINDS
from vessel.core.model.utility import UTILITIES
from vessel.core.text.figures import show_length
from vessel.core.text.units import Units
from vessel.formats.adapters import soil_measured, soil_of
from vessel.formats.marking_doc import marking_of
from vessel.store.tables import JobRow


def job_view(job: JobRow) -> JobView:
    """Return a job with its lines."""
    soil = soil_of(job)
    ready = readiness_of(job)
    how = "measured" if soil_measured(job) else "typical"
    rule = marking_of(job)
    return JobView(
        id=job.id,
        name=job.name,
        dig=job.dig,
        due_at=job.due_at,
        units=cast(Units, job.units),
        soil_kind=job.soil_kind,
        soil_text=f"{SOIL_KINDS[job.soil_kind][0]}, {soil.resistivity_ohm_m:g} ohm m ({how})",
        soil_resistivity_typed=job.typed.get("soil_resistivity", ""),
        technician=job.technician,
        kit_id=job.kit_id,
        kit_name=job.kit.name,
        before_state=ready.state,
        before_text=count_text(ready),
        crossings=crossing_texts(job),
        mark_every_text=show_length(MARK_EVERY_M, cast(Units, job.units)),
        utilities=[utility_view(k, rule) for k in UTILITIES],
        lines=[line_state(line) for line in live_lines(job)],
    )


def job_row(job: JobRow) -> JobListed:
    """Return a job for the list of jobs."""
    lines = live_lines(job)
    marks = sum(1 for line in lines for x in line.setups for s in live_stations(x) if standing_mark(s))
    return JobListed(
        id=job.id,
        name=job.name,
        dig=job.dig,
        due_at=job.due_at,
        technician=job.technician,
        lines=len(lines),
        marks=marks,
    )


def crossing_texts(job: JobRow) -> list[str]:
    """Return what contradicts itself where drawn lines cross: both depths read, and no soil between."""
    units, found = cast(Units, job.units), []
    for a, b, c in crossings_of(job):
        if c.contradicts and c.first_depth_m is not None and c.second_depth_m is not None:
            at, *depths = (
                show_length(c.first_m, units),
                *(show_length(d, units, fine=True) for d in (c.first_depth_m, c.second_depth_m)),
            )
            found.append(
                f"{a.name} and {b.name} cross {at} along {a.name}, read at {depths[0]} and {depths[1]}: both cannot "
                "lie there. One of the two depths, or one of the two lines, is wrong."
            )
    return found
