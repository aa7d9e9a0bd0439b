"""A mark as the job file keeps it, at whatever it stands."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from vessel.formats.document import Doc, Number, Text


class MarkedStation(BaseModel):
    """The station as it was when it was marked; further readings are kept as they are."""

    model_config = ConfigDict(extra="allow")
    distance_m: Number


class Snapshot(BaseModel):
    """What led to a mark, kept unchanged: these texts and everything else known then."""

    model_config = ConfigDict(extra="allow")
    headline: Text
    setup_text: Text
    readings_text: Text
    station: MarkedStation


class MarkDoc(Doc):
    """A mark with what led to it."""

    label: Text
    colour: Text
    verdict: Literal["mark", "mark_with_care", "hold", "need_more"]
    criteria_version: Text
    reason: Text
    painted_off_m: Annotated[
        Number | None, Field(description="paint stands so far left of the line, right below zero; null: over it")
    ] = None
    snapshot: Snapshot
    technician: Text
    marked_at: Text
    withdrawn_at: Text | None
    withdrawn_by: Text | None
    withdrawn_reason: Text | None
