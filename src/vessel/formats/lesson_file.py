"""The open lesson file: what lies in the ground, the records, the task, hints and goals; and the job it makes."""

from __future__ import annotations

import json
from typing import Any, Final, Literal

from pydantic import BaseModel, ConfigDict

from vessel.core.model.construction import preset
from vessel.core.model.drawn_line import length_m
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.practice.yard_lesson import Laid, YardLesson
from vessel.formats.document import parse, schema_of
from vessel.formats.job_file import JobDoc, JobFile, LineDoc, NearDoc
from vessel.formats.kit_doc import ConstructionDoc, KitDoc
from vessel.formats.plan_doc import AccessDoc, AreaDoc, PlanBondDoc, SitePlanDoc, StructureDoc

FORMAT: Final = "vessel-lesson"
VERSION: Final = 1


class LessonFile(BaseModel):
    """The file: format name, version, lesson."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False, title="Vessel lesson file, version 1")
    format: Literal["vessel-lesson"] = FORMAT
    version: Literal[1] = VERSION
    lesson: YardLesson


OPEN_SEA = (12.0, -150.0)
"""Where the yard lies on the earth, so that its positioning has something to say; at sea."""
_DEPTH_OF_STRUCTURE_M = 0.6


def load(text: str) -> YardLesson:
    """Return the lesson in `text`; raise `BadInput` saying where a broken, foreign or newer file fails."""
    return parse(text, LessonFile, format_name=FORMAT, version=VERSION, what="lesson").lesson


def lesson_of(data: dict[str, Any]) -> YardLesson:
    """Return a lesson from its plain data, as it is kept with an exercise."""
    return LessonFile.model_validate({"lesson": data}).lesson


def data_of(lesson: YardLesson) -> dict[str, Any]:
    """Return a lesson as plain data, as it is kept with an exercise."""
    return dict(LessonFile(lesson=lesson).model_dump(mode="json")["lesson"])


def dump(lesson: YardLesson) -> str:
    """Return the file's text."""
    said = LessonFile(lesson=lesson).model_dump(mode="json", exclude_defaults=True)
    return json.dumps({"format": FORMAT, "version": VERSION, **said}, indent=1) + "\n"


def schema_text() -> str:
    """Return the published JSON Schema."""
    return schema_of(LessonFile)


def job_of(lesson: YardLesson, *, technician: str, now: str, units: str = "metric") -> JobFile:
    """Return the job that whoever practises gets: the owner's records of the site, and nothing that only lies there."""
    known = {line.name for line in lesson.lines if line.known} | {s.name for s in lesson.structures}
    bonds = [
        PlanBondDoc(a=b.a, a_m=b.a_m, b=b.b, b_m=b.b_m, ohm=b.ohm)
        for b in lesson.bonds
        if lesson.bonds_told and {b.a, b.b} <= known
    ]
    site = SitePlanDoc(
        origin=OPEN_SEA,
        access=[AccessDoc(name=a.name, kind=a.kind, at=a.at, bare_metal=a.bare_metal, live=a.live,
                          in_service=a.in_service, earth_ohm=a.earth_ohm) for a in lesson.access],
        structures=[_structure(s) for s in lesson.structures],
        hard=[AreaDoc(name=a.name, corners=list(a.corners)) for a in lesson.paved],
        dig=list(lesson.dig),
        bonds=bonds,
    )  # fmt: skip
    job = JobDoc(
        name=f"Practice: {lesson.name}",
        dig=lesson.task,
        address="Practice yard",
        due_at=None,
        units="imperial" if units == "imperial" else "metric",
        soil_kind=lesson.soil_told or lesson.soil,
        soil_resistivity_ohm_m=None,
        technician=technician,
        typed={},
        created_at=now,
        site=site,
        kit=KitDoc.model_validate(SAMPLE_KIT),
        lines=[_line(line, now) for line in lesson.lines if line.known],
    )
    return JobFile(job=job)


def _structure(s: Laid) -> StructureDoc:
    earths = [end.earth_ohm if end.kind == "earthed" else None for end in (s.start, s.end)]
    return StructureDoc(
        name=s.name,
        preset=s.preset,
        corners=list(s.told_route),
        depth_m=s.route[0][2] if s.route else _DEPTH_OF_STRUCTURE_M,
        start_earth_ohm=earths[0],
        end_earth_ohm=earths[1],
    )


def _line(line: Laid, now: str) -> LineDoc:
    low, high = line.depths_told
    made = preset(line.preset).construction
    return LineDoc(
        name=line.name,
        utility=line.utility,
        preset=line.preset,
        construction=None if made is None else ConstructionDoc(**vars(made)),
        length_m=length_m(line.told_route),
        depth_min_m=low,
        depth_max_m=high,
        near=NearDoc(
            bare_metal=line.bare_metal,
            live=line.live,
            in_service=line.in_service,
            cased=False,
            core_only=line.core_only,
            earth_ohm=line.start.earth_ohm if line.start.kind == "earthed" else None,
        ),
        near_note=line.near_note,
        far_kind=line.far_told,
        far_earth_ohm=30.0,
        route=list(line.told_route),
        typed={},
        created_at=now,
        deleted_at=None,
        neighbours=[],
        points=[],
        setups=[],
    )
