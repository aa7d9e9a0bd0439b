"""The local rule of marking in the job file."""

from __future__ import annotations

from typing import Annotated, Any

from pydantic import Field

from vessel.core.base.errors import VesselError
from vessel.core.model.marking import USUAL_TOLERANCE_M, Look, Marking
from vessel.formats.document import Doc, Number, Text


class LookDoc(Doc):
    """How one kind of line is marked; `hex` like #f2c200."""

    colour: Text
    hex: Text
    letter: Text
    pattern: Text


class MarkingDoc(Doc):
    """What differs from the usual table, by kind of line; `source`: the rule it follows; `by`, `at`: last change."""

    looks: dict[str, LookDoc] = Field(default_factory=dict)
    tolerance_m: Annotated[Number, Field(description="half-width of the tolerance zone")] = USUAL_TOLERANCE_M
    source: Text = ""
    by: Text = ""
    at: Text = ""


def marking_doc(job: Any) -> MarkingDoc:
    """Return the local rule of a job (document or row) as it is stored; a new job has none."""
    if isinstance(job.marking, MarkingDoc):
        return job.marking
    return MarkingDoc.model_validate(job.marking or {})


def marking_of(job: Any) -> Marking:
    """Return the local rule of a job (document or row)."""
    return told_marking(marking_doc(job))


def told_marking(doc: MarkingDoc) -> Marking:
    """Return a local rule; raise `BadInput` naming the kind of line and what is wrong with it."""
    looks = {}
    for key, look in doc.looks.items():
        try:
            looks[key] = Look(**look.model_dump())
        except VesselError as e:
            e.field = f"looks.{key}.{e.field}"
            raise
    return Marking(looks, doc.tolerance_m, doc.source)
