"""The site plan as its form sends it: texts as typed. Field paths name the entry, such as `access.2.at`."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated, Any, Literal, TypeVar

from pydantic import Field

from vessel.api.form_reading import Form, Id, NameText, Reader, Typed, need, sent_as, solenoid_values
from vessel.api.meanwhile import Seen
from vessel.core.base.errors import BadInput, VesselError
from vessel.core.model.construction import metal
from vessel.core.model.drawn_line import Area, Xy, check_corners
from vessel.core.model.line import ACCESS_TICKS
from vessel.core.text.route_text import understand_place, understand_route
from vessel.core.text.units import Units
from vessel.formats.plan_doc import AccessDoc, AccessKind, AreaDoc, PlanBondDoc, SitePlanDoc, StructureDoc

RouteText = Annotated[str, Field(max_length=40_000)]
T = TypeVar("T")
F = TypeVar("F", bound=Form)


class RouteForm(Form):
    """Where a line of the job runs."""

    line_id: Id
    route: RouteText


class AccessForm(Form):
    """An access point."""

    name: NameText
    kind: AccessKind = "other"
    at: Typed
    bare_metal: bool = True
    live: bool = False
    in_service: bool = True
    cased: bool = False
    core_only: bool = False
    earth_ohm: Typed = Field("", alias="earth")
    solenoid_ohm: Typed = Field("", alias="solenoid")
    solenoid_h: Typed = Field("", alias="inductance")


class StructureForm(Form):
    """Something that takes signal and is no line."""

    name: NameText
    preset: Typed
    route: RouteText
    depth_m: Typed = Field(alias="depth")
    start_earth_ohm: Typed = Field("", alias="start_earth")
    end_earth_ohm: Typed = Field("", alias="end_earth")


class AreaForm(Form):
    """A patch of ground."""

    name: NameText
    outline: RouteText


class BondForm(Form):
    """Metal joined to metal."""

    a: NameText
    a_at: Typed
    b: NameText
    b_at: Typed
    ohm: Typed = ""


class SiteForm(Form):
    """The whole plan; what is not listed is taken off it."""

    routes: list[RouteForm] = Field(default_factory=list, max_length=200)
    access: list[AccessForm] = Field(default_factory=list, max_length=200)
    structures: list[StructureForm] = Field(default_factory=list, max_length=50)
    hard: list[AreaForm] = Field(default_factory=list, max_length=50)
    dig: RouteText = ""
    bonds: list[BondForm] = Field(default_factory=list, max_length=50)
    school: Literal["lowest", "middle", "high"] = "lowest"
    origin: tuple[float, float] | None = None
    seen: Seen = None

    def corners(self, units: Units) -> dict[int, tuple[tuple[Xy, ...], str]]:
        """Return the corners of each line's route with its text, by line id; an empty text draws nothing."""
        found = dict[int, tuple[tuple[Xy, ...], str]]()
        for form, corners in zip(self.routes, _each("routes", _route, self.routes, units), strict=True):
            if corners:
                found[form.line_id] = corners, form.route
        return found

    def document(self, units: Units) -> SitePlanDoc:
        """Return everything but the lines as stored; raises `BadInput`."""
        return SitePlanDoc(
            origin=self.origin,
            access=_each("access", _access, self.access, units),
            structures=_each("structures", _structure, self.structures, units),
            hard=_each("hard", _hard, self.hard, units),
            dig=_area("Dig area", self.dig, units, "dig").corners if self.dig else [],
            bonds=_each("bonds", _bond, self.bonds, units),
            school=self.school,
        )


def _each(path: str, work: Callable[[F, Units], T], forms: list[F], units: Units) -> list[T]:
    """Return what `work` makes of each form; a refusal names the entry, such as `access.2.at`."""
    found = []
    for k, form in enumerate(forms):
        try:
            found.append(work(form, units))
        except VesselError as e:
            e.field = f"{path}.{k}.{sent_as(type(form), e.field)}"
            raise
    return found


def _route(r: RouteForm, units: Units) -> tuple[Xy, ...]:
    corners = understand_route(r.route, units=units)
    if corners:
        check_corners(corners, what="The route", field="route")
    return corners


def _hard(a: AreaForm, units: Units) -> AreaDoc:
    return _area(a.name, a.outline, units, "outline")


def _access(a: AccessForm, units: Units) -> AccessDoc:
    reader = Reader(a, units)
    name = need(a.name, field="name", name="Name")
    at = understand_place(need(a.at, field="at", name="Place"), units=units, field="at")
    return AccessDoc(
        name=name,
        kind=a.kind,
        at=at,
        **{k: getattr(a, k) for k in ACCESS_TICKS},
        earth_ohm=_ohm(reader, "earth_ohm"),
        **solenoid_values(reader, a.kind),
    )


def _ohm(reader: Reader, field: str) -> float | None:
    ohm = reader.read(field, "ohms")
    if ohm is not None and ohm < 0.01:
        raise BadInput(
            "An earth of no resistance.", field=field, fix="Enter at least 0.01 ohm; a pedestal has 10 to 80."
        )
    return ohm


def _structure(s: StructureForm, units: Units) -> StructureDoc:
    reader = Reader(s, units)
    metal(s.preset)
    corners = understand_route(need(s.route, field="route", name="Route"), units=units)
    check_corners(corners, what=s.name, field="route")
    return StructureDoc(
        name=need(s.name, field="name", name="Name"),
        preset=s.preset,
        corners=list(corners),
        depth_m=reader.must("depth_m", "depth", "Depth"),
        start_earth_ohm=_ohm(reader, "start_earth_ohm"),
        end_earth_ohm=_ohm(reader, "end_earth_ohm"),
    )


def _area(name: str, text: str, units: Units, field: str) -> AreaDoc:
    corners = understand_route(text, units=units, field=field)
    # an outline may be walked back to its first corner
    if len(corners) > 3 and abs(corners[0][0] - corners[-1][0]) + abs(corners[0][1] - corners[-1][1]) < 0.05:
        corners = corners[:-1]
    check_corners(corners, what=name or "The outline", field=field, least=3)
    area = Area(need(name, field="name", name="Name"), corners)
    return AreaDoc(name=area.name, corners=list(corners))


def _bond(b: BondForm, units: Units) -> PlanBondDoc:
    reader = Reader(b, units)
    values: dict[str, Any] = {
        "a": need(b.a, field="a", name="First"),
        "a_m": reader.must("a_at", "distance", "Place"),
        "b": need(b.b, field="b", name="Second"),
        "b_m": reader.must("b_at", "distance", "Place"),
    }
    if b.a == b.b:
        raise BadInput("A bond joins a thing to itself.", field="b", fix="Choose the other one.")
    ohm = reader.read("ohm", "ohms")
    return PlanBondDoc(**values, ohm=0.01 if ohm is None else ohm)


class TracksForm(Form):
    """The text of a GeoJSON or GPX file; `system` empty: as the file says."""

    text: Annotated[str, Field(max_length=20_000_000)]
    system: Annotated[str, Field(max_length=60)] = ""


class RouteTextForm(Form):
    """A route as typed."""

    text: RouteText
