"""The open job file: JSON, versioned, with a published JSON Schema. SI units, times as ISO 8601 UTC text."""

from __future__ import annotations

import json
from typing import TYPE_CHECKING, Annotated, Any, Final, Literal, TypeAlias

from pydantic import BaseModel, ConfigDict, Field, WithJsonSchema

from vessel.core.model.entry_fields import (
    CANDIDATE_FIELDS,
    READING_FIELDS,
    STATION_FIELDS,
)
from vessel.core.model.identity import EVIDENCE
from vessel.core.model.methods import Method
from vessel.formats.background_doc import BackgroundDoc
from vessel.formats.before_doc import BeforeDoc
from vessel.formats.document import Doc, Name, Number, Text, parse, schema_of, written
from vessel.formats.entry_docs import with_fields
from vessel.formats.kit_doc import ConstructionDoc, KitDoc
from vessel.formats.mark_doc import MarkDoc
from vessel.formats.marking_doc import MarkingDoc
from vessel.formats.plan_doc import Corners, Place, PointKind, SitePlanDoc
from vessel.formats.special_docs import FaultWalkDoc, SondeRunDoc

FORMAT: Final = "vessel-job"
VERSION: Final = 1
_IDENTITY_SINCE = 1
_MOVING_SINCE = 3
_ADDRESS_SINCE = 4
_CORE_ONLY_SINCE = 5
_SONDE_SINCE = 6
_FAULT_SINCE = 7
_STRIPS_AND_SOLENOIDS_SINCE = 8
_BACKGROUND_SINCE = 9
_KIT_AND_PLANT_SINCE = 10
_PAIR_SINCE = 11
_CONDUCTORS_SINCE = 12
_KEPT_OPEN_SINCE = 13
_FAR_BOX_SINCE = 14
_DUG_DEPTH_SINCE = 15
MINOR: Final = max(
    _IDENTITY_SINCE,
    _MOVING_SINCE,
    _ADDRESS_SINCE,
    _CORE_ONLY_SINCE,
    _SONDE_SINCE,
    _FAULT_SINCE,
    _STRIPS_AND_SOLENOIDS_SINCE,
    _BACKGROUND_SINCE,
    _KIT_AND_PLANT_SINCE,
    _PAIR_SINCE,
    _CONDUCTORS_SINCE,
    _KEPT_OPEN_SINCE,
    _FAR_BOX_SINCE,
    _DUG_DEPTH_SINCE,
    *(f.since for f in (*STATION_FIELDS, *READING_FIELDS, *CANDIDATE_FIELDS)),
)
"""The newest field's: docs/formats/versions.md."""


class NearDoc(Doc):
    """The access point at the near end."""

    bare_metal: bool
    live: bool
    in_service: bool
    cased: bool
    core_only: bool = False
    earth_ohm: Number | None


class PointDoc(Doc):
    """What stands on a line, entered by its distance from the near end: an access point, a buried anode or earth."""

    name: Name
    kind: PointKind
    at_m: Number
    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    core_only: bool = False
    earth_ohm: Number | None = None
    solenoid_ohm: Annotated[Number | None, Field(description="the signal goes on through a coil there")] = None
    solenoid_h: Number | None = None
    typed: dict[str, str]


class NeighbourDoc(Doc):
    """What runs beside a line; see `core.model.neighbour`. `start_m`, `end_m` null: it runs on past that end."""

    name: Name
    preset: str
    construction: ConstructionDoc
    offset_m: Annotated[Number, Field(description="to the left of the line, right below zero")]
    start_m: Number | None
    end_m: Number | None
    depth_m: Number
    start_earth_ohm: Number | None
    end_earth_ohm: Number | None
    bond_m: Number | None
    typed: dict[str, str]


class PlacedDoc(Doc):
    """Where a station is on the plan: by two tapes, square off a baseline, or by the device.

    `off_m` [m] left of the line as drawn, right below zero; `pm_m` [m] as the device gives it.
    """

    by: Literal["tapes", "baseline", "device"]
    text: Text
    at: Place
    off_m: Number
    pm_m: Number | None = None
    typed: dict[str, str]


class _StationBase(Doc):
    """Receiver readings at one station. `lost`: signal and guidance were gone there.

    `profile`: pairs of offset [m], left positive, and signal across the line. `neighbours`: offset [m], left positive,
    current [A] and signal of each line met beside it; `signal` at the gain of the stations before and of those.
    `place`: how it was placed, null for by its distance along.
    """

    place: PlacedDoc | None = None
    note: Text
    typed: dict[str, str]
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    struck_by: Text | None = None
    struck_why: Text | None = None
    marks: list[MarkDoc]


class _ReadingBase(Doc):
    """Transmitter volts and current; `change`: what was done to the hookup just before, and not undone since."""

    note: Text
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    struck_by: Text | None = None
    struck_why: Text | None = None


class _CandidateBase(Doc):
    """A centre line met on the first sweep. `direction`: 1 away from the hookup, -1 towards it, 0 not read."""

    note: Text
    typed: dict[str, str]
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    struck_by: Text | None = None
    struck_why: Text | None = None


if TYPE_CHECKING:
    StationDoc: TypeAlias = _StationBase
    ReadingDoc: TypeAlias = _ReadingBase
    CandidateDoc: TypeAlias = _CandidateBase
else:
    StationDoc = with_fields(_StationBase, STATION_FIELDS, "StationDoc")
    ReadingDoc = with_fields(_ReadingBase, READING_FIELDS, "ReadingDoc")
    CandidateDoc = with_fields(_CandidateBase, CANDIDATE_FIELDS, "CandidateDoc")


class EvidenceDoc(Doc):
    """Evidence of which line it is: it speaks `for` the line, `against` it, or `cannot` be had.

    `at_m`: where along the line it was found, null where it belongs to no place. `own_a`, `other_a` (since 1.12): of
    conductors at the access point, the current on this line and the most on another one [A], null if not read. `kind`
    may be `kept_open` or `stake_moved` (since 1.13), `far_access` or `far_kept_open` (since 1.14). `earlier`
    (since 1.14): it was found on the trace before the ground was changed for this one. `depth_m` (since 1.15): how deep
    the line lies where it was dug up by hand [m], null if not measured.
    """

    kind: Literal[tuple(EVIDENCE)]  # type: ignore[valid-type]
    answer: Literal["for", "against", "cannot"]
    at_m: Number | None
    own_a: Number | None = None
    other_a: Number | None = None
    earlier: bool = False
    depth_m: Number | None = None
    note: Text
    technician: Text
    taken_at: Text
    deleted_at: Text | None
    struck_by: Text | None = None
    struck_why: Text | None = None


class SetupDoc(Doc):
    """One hookup with its readings, first sweep, evidence of identity (since 1.1) and stations.

    `apart_m` [m] (since 1.3): how far behind the receiver the coil is carried; null: the transmitter stands. `hookup`
    may be `pair` (since 1.11).
    """

    hookup: Method
    freq_hz: Number
    rx_freq_hz: Number | None
    output_a: Number
    position_m: Number
    stake_away_m: Number
    stake_at: Place | None = None
    apart_m: Number | None = None
    stake_ohm: Number | None
    clip_ohm: Number
    steps_done: list[str]
    technician: Text
    created_at: Text
    readings: list[ReadingDoc]
    candidates: list[CandidateDoc] = Field(default_factory=list)
    evidence: list[EvidenceDoc] = Field(default_factory=list)
    stations: list[StationDoc]


class LineDoc(Doc):
    """One line with its setups, its sonde runs (since 1.6) and its walks with the frame (since 1.7)."""

    name: Name
    utility: str
    preset: str
    construction: ConstructionDoc | None
    length_m: Number
    depth_min_m: Number
    depth_max_m: Number
    near: NearDoc
    near_note: Text
    far_kind: Literal["open", "earthed", "unknown"]
    far_earth_ohm: Number
    neighbours: Annotated[list[NeighbourDoc], Field(default_factory=list, max_length=12)]
    points: Annotated[list[PointDoc], Field(default_factory=list, max_length=60)]
    route: Corners = Field(default_factory=list)
    typed: dict[str, str]
    created_at: Text
    deleted_at: Text | None
    setups: list[SetupDoc]
    sonde_runs: list[SondeRunDoc] = Field(default_factory=list)
    fault_walks: list[FaultWalkDoc] = Field(default_factory=list)


class JournalDoc(Doc):
    """A change of an entry: who, when, on which device, `what` it is of, old and new values by column, why."""

    at: Text
    who: Text
    device: Text
    kind: Text
    what: Text
    action: Literal["made", "changed", "struck", "restored", "withdrawn", "imported"]
    changes: dict[str, Any]
    why: Text


class JobDoc(Doc):
    """A job with everything in it; `journal` (since 1.3): what was changed, oldest first.

    `address`, `notice` (its number), `client` and `contact` (since 1.4): where, under which notice, for whom.
    `backgrounds` (since 1.9): the picture under its site plan; one that was removed stays with who exports.
    """

    name: Name
    dig: Text
    address: Text = ""
    notice: Text = ""
    client: Text = ""
    contact: Text = ""
    due_at: Text | None
    units: Literal["metric", "imperial"]
    soil_kind: str
    soil_resistivity_ohm_m: Number | None
    technician: Text
    typed: dict[str, str]
    created_at: Text
    site: SitePlanDoc = SitePlanDoc()
    before: BeforeDoc = BeforeDoc()
    marking: MarkingDoc = MarkingDoc()
    kit: KitDoc
    lines: list[LineDoc]
    backgrounds: list[BackgroundDoc] = Field(default_factory=list, max_length=1)
    journal: list[JournalDoc] = Field(default_factory=list)


class JobFile(BaseModel):
    """The file: format name, version, job."""

    model_config = ConfigDict(extra="forbid", title="Vessel job file, version 1")
    format: Literal["vessel-job"] = FORMAT
    version: Annotated[Literal[1], WithJsonSchema({"enum": [1, *(f"1.{k}" for k in range(1, MINOR + 1))]})] = VERSION
    job: JobDoc


def dump(file: JobFile) -> str:
    """Return the file's text."""
    whole = file.model_dump(mode="json") | {"version": written(VERSION, MINOR)}
    return json.dumps(whole, indent=1, ensure_ascii=False) + "\n"


def load(text: str) -> JobFile:
    """Return the file in `text`; raise `BadInput` saying where a broken, foreign or newer file fails."""
    return parse(text, JobFile, format_name=FORMAT, version=VERSION, minor=MINOR, what="job")


def schema_text() -> str:
    """Return the published JSON Schema."""
    return schema_of(JobFile)
