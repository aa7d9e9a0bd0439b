"""The order of work on a site."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.api.site.views import Corner
from vessel.core.model.methods import Method


class PieceView(BaseModel):
    """A stretch of a line as corners on the plan."""

    corners: list[Corner]


class VisitView(BaseModel):
    """One setup in the order of work. `option` is its key among the line's options."""

    number: int
    line_id: int
    line_name: str
    letter: str
    hex: str
    hookup: Method
    place_text: str
    setup_text: str
    proves_text: str
    transmitter_text: str
    walk_text: str
    rule_out: list[str]
    reason: str
    cautions: list[str]
    at: Corner | None
    stake_at: Corner | None
    coil_heading_deg: float
    pieces: list[PieceView]
    freq_hz: float
    output_a: float
    position_m: float


class SchoolPickView(BaseModel):
    """What a school would use on a line, what it costs, and whether it will do."""

    id: str
    label: str
    text: str
    will_do: bool


class LineWorkView(BaseModel):
    """What the order of work does for one line."""

    line_id: int
    name: str
    letter: str
    hex: str
    proved_m: float
    wanted_m: float
    proved_text: str
    none_proves_it: bool
    schools: list[SchoolPickView]
    remaining: str
    missing: list[PieceView]


class WorkView(BaseModel):
    """The order of work, what it does for each line, and its totals in words."""

    job_id: int
    school: str
    visits: list[VisitView]
    lines: list[LineWorkView]
    total_text: str
