"""The printed record as the interface gets it."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.fault.views import FaultRecord
from vessel.api.history.views import HistoryEntry
from vessel.api.hookup.views import HookupView
from vessel.api.jobs.views import JobView, StandingView
from vessel.api.lines.views import LineState
from vessel.api.marks.views import MarkView
from vessel.api.prestart.views import BeforeView
from vessel.api.sonde.views import SondeRecord
from vessel.api.stations.views import TraceView


class LineRecord(BaseModel):
    """A line on the printed record."""

    line: LineState
    hookups: list[HookupView]
    traces: list[TraceView]
    sonde: list[SondeRecord]
    faults: list[FaultRecord]
    marks: list[MarkView]


class RecordView(BaseModel):
    """The printable page of a job."""

    job: JobView
    standing: StandingView
    printed_at: str
    before: BeforeView
    lines: list[LineRecord]
    changes: list[HistoryEntry]
