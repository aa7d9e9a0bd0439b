"""A mark as the interface gets it."""

from __future__ import annotations

from pydantic import BaseModel

from vessel.core.judge.station.verdict import Verdict


class MarkView(BaseModel):
    """A mark on the ground, at a station, at a stop of a sonde run, or at a ground fault."""

    id: int
    station_id: int | None
    stop_id: int | None
    walk_id: int | None
    distance_m: float
    distance_text: str
    label: str
    painted_text: str
    colour: str
    hex: str
    verdict: Verdict
    verdict_label: str
    proved: bool
    criteria_version: str
    headline: str
    reason: str
    setup_text: str
    readings_text: str
    technician: str
    marked_at: str
    withdrawn_at: str | None
    withdrawn_by: str | None
    withdrawn_reason: str | None
