"""The open job file: JSON, versioned, with a published JSON Schema. SI units, times as ISO 8601 UTC text."""

from __future__ import annotations

import json
from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from vessel.core.model.errors import BadInput

FORMAT: Final = "vessel-job"
VERSION: Final = 1

Name = Annotated[str, Field(min_length=1, max_length=200)]
Text = Annotated[str, Field(max_length=4000)]
Number = Annotated[float, Field(allow_inf_nan=False)]


class Doc(BaseModel):
    """Base: strict about unknown keys, readable from database rows."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)


class FrequencyDoc(Doc):
    """One frequency of a kit."""

    freq_hz: Number
    watts: Number
    noise_t: Number
    reads_depth: bool = True
    reads_direction: bool = False


class ClampDoc(Doc):
    """Clamp data."""

    turns: Annotated[float, Field(gt=0.5, le=10000)]
    magnetising_h: Annotated[float, Field(gt=0, le=10)]
    min_freq_hz: Annotated[float, Field(ge=0, le=1e6)]


class CoilDoc(Doc):
    """Induction coil data."""

    moment_a_m2: Annotated[float, Field(gt=0, le=1000)]
    corner_hz: Annotated[float, Field(gt=0, le=1e6)]
    height_m: Annotated[float, Field(gt=0, le=3)]
    min_freq_hz: Annotated[float, Field(ge=0, le=1e6)]


class ReceiverDoc(Doc):
    """Heights of the receiver's two horizontal coils above ground."""

    low_m: Annotated[float, Field(ge=0, le=2)]
    high_m: Annotated[float, Field(gt=0, le=3)]


class KitDoc(Doc):
    """A crew's kit."""

    name: Name
    frequencies: Annotated[list[FrequencyDoc], Field(max_length=40)]
    outputs_a: Annotated[list[Number], Field(max_length=20)]
    volts_max: Number
    battery_wh: Number
    idle_w: Number
    efficiency: Number
    lead_m: Number
    clamp: ClampDoc | None
    coil: CoilDoc | None
    receiver: ReceiverDoc


class ConstructionDoc(Doc):
    """Electrical make-up of a line; see `core.model.construction`."""

    metal: Literal["solid", "tube", "clad"]
    radius_m: Number
    conductivity_s_m: Number
    rel_permeability: Number
    wall_m: Number
    core_conductivity_s_m: Number
    core_rel_permeability: Number
    insulation_m: Number
    insulation_eps_r: Number
    coating_s_m2: Number
    joint_spacing_m: Number
    joint_ohm: Number
    joint_f: Number


class NearDoc(Doc):
    """The access point at the near end."""

    bare_metal: bool
    live: bool
    in_service: bool
    cased: bool
    earth_ohm: Number | None


class MarkedStation(BaseModel):
    """The station as it was when it was marked; further readings are kept as they are."""

    model_config = ConfigDict(extra="allow")
    distance_m: Number


class Snapshot(BaseModel):
    """What led to a mark, kept unchanged: these texts and whatever else was known then."""

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
    snapshot: Snapshot
    technician: Text
    marked_at: Text
    withdrawn_at: Text | None
    withdrawn_by: Text | None
    withdrawn_reason: Text | None


class StationDoc(Doc):
    """Receiver readings at one station."""

    distance_m: Number
    currents_a: Annotated[list[Number], Field(max_length=50)]
    depth_m: Number | None
    lift_height_m: Number | None
    depth_lifted_m: Number | None
    peak_null_m: Number | None
    neighbour_a: Number | None
    note: Text
    typed: dict[str, str]
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    marks: list[MarkDoc]


class ReadingDoc(Doc):
    """Transmitter volts and current."""

    volts: Number
    amps: Number
    freq_hz: Number
    note: Text
    technician: Text
    taken_at: Text
    deleted_at: Text | None


class SetupDoc(Doc):
    """One hookup with its readings and stations."""

    hookup: Literal["direct", "clamp", "induction"]
    freq_hz: Number
    rx_freq_hz: Number | None
    output_a: Number
    position_m: Number
    stake_away_m: Number
    stake_ohm: Number | None
    clip_ohm: Number
    steps_done: list[str]
    technician: Text
    created_at: Text
    readings: list[ReadingDoc]
    stations: list[StationDoc]


class LineDoc(Doc):
    """One line with its setups."""

    name: Name
    utility: str
    preset: str
    construction: ConstructionDoc
    length_m: Number
    depth_min_m: Number
    depth_max_m: Number
    near: NearDoc
    near_note: Text
    far_kind: Literal["open", "earthed", "unknown"]
    far_earth_ohm: Number
    typed: dict[str, str]
    created_at: Text
    deleted_at: Text | None
    setups: list[SetupDoc]


class JobDoc(Doc):
    """A job with everything in it."""

    name: Name
    dig: Text
    due_at: Text | None
    units: Literal["metric", "imperial"]
    soil_kind: str
    soil_resistivity_ohm_m: Number | None
    technician: Text
    typed: dict[str, str]
    created_at: Text
    kit: KitDoc
    lines: list[LineDoc]


class JobFile(BaseModel):
    """The file: format name, version, job."""

    model_config = ConfigDict(extra="forbid", title="Vessel job file, version 1")
    format: Literal["vessel-job"] = FORMAT
    version: Literal[1] = VERSION
    job: JobDoc


def dump(file: JobFile) -> str:
    """Return the file's text."""
    return json.dumps(file.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"


def load(text: str) -> JobFile:
    """Return the file in `text`; raise `BadInput` saying where a broken, foreign or newer file fails."""
    try:
        raw = json.loads(text)
    except ValueError as e:
        where = f" at line {e.lineno}" if isinstance(e, json.JSONDecodeError) else ""
        raise BadInput(
            f"The file is not whole JSON: it breaks off{where}.",
            field="file",
            fix="Export the job again, or copy the file again; nothing was imported.",
        ) from e
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise BadInput("This is not a Vessel job file.", field="file", fix=f'It must say "format": "{FORMAT}".')
    version = raw.get("version")
    if version != VERSION:
        raise BadInput(
            f"The file is of version {version}; this Vessel reads version {VERSION}.",
            field="file.version",
            fix="Update Vessel, or export the job from there as version 1.",
        )
    try:
        return JobFile.model_validate(raw)
    except ValidationError as e:
        first = e.errors()[0]
        path = ".".join(str(p) for p in first["loc"])
        raise BadInput(
            f"{path}: {first['msg']}.", field=f"file.{path}", fix="Mend that entry; nothing was imported."
        ) from e


def schema_text() -> str:
    """Return the published JSON Schema."""
    schema = {"$schema": "https://json-schema.org/draft/2020-12/schema", **JobFile.model_json_schema()}
    return json.dumps(schema, indent=1) + "\n"
