"""What is on a job's site plan other than its lines, as a document: in the store and in the job file."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from vessel.core.model.drawn_line import Xy
from vessel.core.plan.frequency_order import School
from vessel.formats.document import Doc, Name, Number

AccessKind = Literal[
    "meter",
    "riser",
    "valve",
    "hydrant",
    "pedestal",
    "pillar",
    "lamp_column",
    "manhole",
    "test_post",
    "valve_box",
    "turbine",
    "substation",
    "rectifier",
    "other",
]
PointKind = Literal[AccessKind, "anode", "earth"]
"""What stands on a line; an anode or an earth is buried, out of reach."""
BURIED: tuple[PointKind, ...] = ("anode", "earth")
COLUMNS: tuple[PointKind, ...] = ("lamp_column", "pillar", "test_post")
"""Metal columns that a transmitter can be laid against."""
_OnSite = Annotated[Number, Field(ge=-1e6, le=1e6)]
Place = Annotated[tuple[_OnSite, _OnSite], Field(description="east, north [m] from the plan's origin")]
Corners = Annotated[list[Place], Field(max_length=501)]


class AccessDoc(Doc):
    """An access point; every line that passes within a metre can be reached there.

    `solenoid_ohm`, `solenoid_h` (since 1.10): of the coil in the valve wires that pass there.
    """

    name: Name
    kind: AccessKind
    at: Place
    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    core_only: bool = False
    earth_ohm: Number | None = None
    solenoid_ohm: Number | None = None
    solenoid_h: Number | None = None


class StructureDoc(Doc):
    """Something that takes signal and is no line: `preset` of the structures' list."""

    name: Name
    preset: str
    corners: Corners
    depth_m: Number
    start_earth_ohm: Number | None = None
    end_earth_ohm: Number | None = None


class AreaDoc(Doc):
    """A patch of ground."""

    name: Name
    corners: Corners


class PlanBondDoc(Doc):
    """Metal of one thing joined to another's, by name."""

    a: Name
    a_m: Number
    b: Name
    b_m: Number
    ohm: Number = 0.01


class SitePlanDoc(Doc):
    """Everything on the plan other than the lines. `origin`: latitude and longitude [deg] of (0, 0) where known."""

    origin: tuple[Number, Number] | None = None
    access: list[AccessDoc] = Field(default_factory=list, max_length=200)
    structures: list[StructureDoc] = Field(default_factory=list, max_length=50)
    hard: list[AreaDoc] = Field(default_factory=list, max_length=50)
    dig: Corners = Field(default_factory=list)
    bonds: list[PlanBondDoc] = Field(default_factory=list, max_length=50)
    school: School = "lowest"


def known_points(doc: SitePlanDoc) -> dict[str, Xy]:
    """Return by name the places [m] that a tape can be held at: access points, corners of structures and dig area."""
    found: dict[str, Xy] = {a.name: (a.at[0], a.at[1]) for a in doc.access}
    for thing, corners in [*((s.name, s.corners) for s in doc.structures), ("Dig area", doc.dig)]:
        found |= {f"{thing}, corner {k}": (x, y) for k, (x, y) in enumerate(corners, start=1)}
    return found


def tuples(corners: list[tuple[float, float]]) -> tuple[Xy, ...]:
    """Return corners as the core takes them."""
    return tuple((float(x), float(y)) for x, y in corners)
