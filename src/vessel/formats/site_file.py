"""The open site file: routes in the ground, what sits on them and one hookup, for `vessel solve` and `vessel read`."""

from __future__ import annotations

from typing import Annotated, Final, Literal

from pydantic import BaseModel, ConfigDict, Field

from vessel.core.base.errors import VesselError
from vessel.core.model.construction import Construction, preset
from vessel.core.model.kit import SAMPLE_KIT, Kit
from vessel.core.model.line_ends import TYPICAL_FAR_EARTH_OHM, FarEnd
from vessel.core.model.network import Bond, Feature, Hookup, Site, SiteLine
from vessel.core.model.setup import Stake
from vessel.core.model.soil import Soil
from vessel.formats.adapters import kit_of
from vessel.formats.document import Doc, Name, Number, parse, schema_of
from vessel.formats.kit_doc import ConstructionDoc, KitDoc

FORMAT: Final = "vessel-site"
VERSION: Final = 1
Place = tuple[Number, Number]


class EndDoc(Doc):
    """An end of a line."""

    kind: Literal["open", "earthed", "unknown"] = "open"
    earth_ohm: Number = TYPICAL_FAR_EARTH_OHM


class FeatureDoc(Doc):
    """Something lumped on a line; see `core.model.site.Feature`."""

    kind: Literal["joint", "earth", "break", "fault", "solenoid"]
    at_m: Number
    ohm: Number = 0.0
    farad: Number = 0.0
    henry: Number = 0.0


class RouteDoc(Doc):
    """A line or structure: `preset` by name, or its own `construction`; neither: no metal."""

    name: Name
    preset: str | None = None
    construction: ConstructionDoc | None = None
    route_m: Annotated[list[tuple[Number, Number, Number]], Field(description="corners: east, north, depth [m]")]
    start: EndDoc = EndDoc()
    end: EndDoc = EndDoc()
    features: list[FeatureDoc] = Field(default_factory=list)


class BondDoc(Doc):
    """Metal joined to metal; a tee is a bond of 0 ohm."""

    a: str
    a_m: Number
    b: str
    b_m: Number
    ohm: Number = 0.01


class SoilDoc(Doc):
    """Soil by kind, a measured resistivity overriding the typical one."""

    kind: str = "loam"
    resistivity_ohm_m: Number | None = None


class StakeDoc(Doc):
    """The ground stake."""

    east_north_m: Place
    length_m: Number = 0.4
    radius_m: Number = 0.006
    rods: int = 1
    measured_ohm: Number | None = None


class HookupDoc(Doc):
    """One hookup; see `core.model.site.Hookup`."""

    method: Literal["direct", "pair", "clamp", "induction"]
    freq_hz: Number
    output_a: Number
    line: str = ""
    at_m: Number = 0.0
    stake: StakeDoc | None = None
    clip_ohm: Number = 0.5
    other: str = ""
    other_m: Number = 0.0
    coil_east_north_m: Place | None = None
    coil_heading_deg: Number = 0.0


class SiteDoc(Doc):
    """A site."""

    name: Name
    soil: SoilDoc = SoilDoc()
    kit: KitDoc | None = None
    lines: Annotated[list[RouteDoc], Field(max_length=200)]
    bonds: list[BondDoc] = Field(default_factory=list)
    hookup: HookupDoc


class SiteFile(BaseModel):
    """The file: format name, version, site."""

    model_config = ConfigDict(extra="forbid", title="Vessel site file, version 1")
    format: Literal["vessel-site"] = FORMAT
    version: Literal[1] = VERSION
    site: SiteDoc


def load(text: str) -> SiteFile:
    """Return the file in `text`; raise `BadInput` saying where a broken, foreign or newer file fails."""
    return parse(text, SiteFile, format_name=FORMAT, version=VERSION, what="site")


def schema_text() -> str:
    """Return the published JSON Schema."""
    return schema_of(SiteFile)


def _construction(doc: RouteDoc) -> Construction | None:
    if doc.construction is not None:
        return Construction(**doc.construction.model_dump())
    return None if doc.preset is None else preset(doc.preset).construction


def _line(doc: RouteDoc) -> SiteLine:
    return SiteLine(
        doc.name,
        _construction(doc),
        tuple(doc.route_m),
        FarEnd(doc.start.kind, doc.start.earth_ohm),
        FarEnd(doc.end.kind, doc.end.earth_ohm),
        tuple(Feature(**f.model_dump()) for f in doc.features),
    )


def site_of(doc: SiteDoc) -> Site:
    """Return the core's site; errors name the line they come from."""
    lines = []
    for k, line in enumerate(doc.lines):
        try:
            lines.append(_line(line))
        except VesselError as e:
            e.field = f"site.lines.{k}.{e.field}"
            raise
    return Site(
        Soil.of_kind(doc.soil.kind, doc.soil.resistivity_ohm_m),
        tuple(lines),
        tuple(Bond(**b.model_dump()) for b in doc.bonds),
    )


def kit_used(doc: SiteDoc) -> Kit:
    """Return the kit of the file, or our sample kit."""
    return SAMPLE_KIT if doc.kit is None else kit_of(doc.kit)


def hookup_of(doc: HookupDoc) -> Hookup:
    """Return the core's hookup."""
    stake = doc.stake or StakeDoc(east_north_m=(0.0, 0.0))
    return Hookup(
        doc.method,
        doc.freq_hz,
        doc.output_a,
        doc.line,
        doc.at_m,
        Stake(length_m=stake.length_m, radius_m=stake.radius_m, rods=stake.rods, measured_ohm=stake.measured_ohm),
        stake.east_north_m,
        doc.clip_ohm,
        doc.other,
        doc.other_m,
        doc.coil_east_north_m or (0.0, 0.0),
        doc.coil_heading_deg,
    )
