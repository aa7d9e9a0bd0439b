"""The printed record as a view."""

from __future__ import annotations

from vessel.api.fault.present import fault_record
from vessel.api.history.views import HistoryEntry
from vessel.api.hookup.present import hookup_view
from vessel.api.jobs.present import job_view, standing_view
from vessel.api.lines.present import line_state
from vessel.api.marks.present import marks_of
from vessel.api.prestart.present import before_view
from vessel.api.record.views import LineRecord, RecordView
from vessel.api.sonde.present import sonde_record
from vessel.api.stations.present import trace_view
from vessel.formats.loaded_job import LoadedJob
from vessel.store.database import now


def record_view(job: LoadedJob, changes: list[HistoryEntry]) -> RecordView:
    """Return everything the printable page needs; `changes`: what was corrected and struck out."""
    return RecordView(
        job=job_view(job),
        standing=standing_view(job),
        printed_at=now(),
        before=before_view(job),
        lines=[
            LineRecord(
                line=line_state(line),
                hookups=[hookup_view(s) for s in line.setups],
                traces=[trace_view(s) for s in line.setups],
                sonde=[sonde_record(r) for r in line.runs],
                faults=[fault_record(w) for w in line.walks],
                marks=marks_of(line),
            )
            for line in job.lines
        ],
        changes=changes,
    )
