"""A mark as the job file keeps it, at whatever it stands."""

from __future__ import annotations

from math import isfinite
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, ConfigDict, Field, model_validator

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

    @model_validator(mode="after")
    def _readable(self) -> Self:
        """Check what is read of the rest; it is not declared, or marks that lack it would be given it."""
        more, estimate = self.model_extra or {}, (self.model_extra or {}).get("estimate")
        if not isinstance(more.get("hex", ""), str):
            raise ValueError("hex is no colour")
        if not (estimate is None or isinstance(estimate, dict)):
            raise ValueError("estimate is no record")
        for of in (self.station.model_extra or {}, estimate or {}):
            if not _number_or_none(of.get("depth_m")):
                raise ValueError("depth_m is no number")
        return self


def _number_or_none(value: Any) -> bool:
    return value is None or (isinstance(value, int | float) and not isinstance(value, bool) and isfinite(value))


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
