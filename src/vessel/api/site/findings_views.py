"""What was found, on the plan: centre lines of the sweeps, stations, marks, and how far each line is marked."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from vessel.api.site.views import Corner
from vessel.core.judge.trace.coverage import CoverState


class FoundStretch(BaseModel):
    """A stretch of a line that is marked, doubtful or not located; `zone`: the outline of its tolerance zone."""

    state: CoverState
    corners: list[Corner]
    zone: list[Corner]
    text: str


class FoundPoint(BaseModel):
    """A centre line met, a station, a mark or a ground fault; `state` its role or verdict, `label` what is painted."""

    kind: Literal["centre_line", "station", "mark", "fault"]
    at: Corner
    state: str
    label: str
    text: str


class FoundLine(BaseModel):
    """One drawn line with the circle of its hookup in use, None where there is none."""

    line_id: int
    stretches: list[FoundStretch]
    points: list[FoundPoint]
    centre: Corner | None
    radius_m: float


class FoundView(BaseModel):
    """Everything found on a job's plan; `zone_text` says how wide the tolerance zone is."""

    job_id: int
    lines: list[FoundLine]
    zone_text: str
