"""Tracks from GeoJSON and GPX as routes in metres on a job's plan.

GeoJSON is in longitude and latitude unless its `crs` member says otherwise (RFC 7946 and the 2008 form); GPX always is.
Heights are left out: a track's height is not a line's depth.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import gpxpy
from gpxpy.gpx import GPXException
from pyproj import CRS, Transformer
from pyproj.exceptions import CRSError, ProjError
from shapely import LineString

from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Xy, check_corners
from vessel.core.model.network import MAX_LEGS
from vessel.formats.projection import local_system

SIMPLIFY_M = 0.1
"""A track is drawn with fewer corners where none is moved by more than this [m]."""
_FEW = 60  # corners that a person can still correct
_FURTHEST = 1e8  # in metres or degrees: no grid on Earth counts further
_MOST_TRACKS = 200
_LIMIT_M = 2.0  # beyond this a simplified track is no longer the track
_FILE = "file"


@dataclass(frozen=True)
class Track:
    """One track as a route: its corners (east, north [m]) and what was done to it, empty if nothing."""

    name: str
    corners: tuple[Xy, ...]
    length_m: float
    notice: str


@dataclass(frozen=True)
class Tracks:
    """Tracks of a file, the coordinate system they were taken to be in, and latitude and longitude of (0, 0)."""

    tracks: tuple[Track, ...]
    system: str
    origin: tuple[float, float] | None


def read_tracks(text: str, *, system: str = "", origin: tuple[float, float] | None = None) -> Tracks:
    """Return the tracks in a GeoJSON or GPX text.

    `system`: "" as the file says, "site" for metres on the plan, or a code such as "EPSG:25832". `origin`: latitude and
    longitude [deg] of the plan's (0, 0); None: the first point read becomes it. Raises `BadInput`.
    """
    clean = text.lstrip("\ufeff \t\r\n")
    if not clean:
        raise BadInput("The file is empty.", field=_FILE, fix="Choose a GeoJSON or GPX file.")
    named, says = _gpx(clean) if clean.startswith("<") else _geojson(clean)
    if not named:
        raise BadInput("The file has no line in it.", field=_FILE, fix="Export lines, tracks or routes, not points.")
    if len(named) > _MOST_TRACKS:
        raise BadInput(
            f"The file has {len(named)} lines.", field=_FILE, fix=f"Export the site only: up to {_MOST_TRACKS}."
        )
    for name, points in named:
        if not all(abs(c) < _FURTHEST for at in points for c in at):  # refuses NaN too
            raise BadInput(f"{name} has a coordinate that is no place.", field=_FILE, fix="Export it again.")
    used = _system(system.strip(), says, named)
    if used != "site":
        named, origin = _projected(named, used, origin)
    return Tracks(tuple(_track(name, points) for name, points in named), used, origin)


Named = list[tuple[str, list[Xy]]]


def _gpx(text: str) -> tuple[Named, str]:
    try:
        gpx = gpxpy.parse(text)
    except GPXException as e:
        raise BadInput("This is not a readable GPX file.", field=_FILE, fix="Export it again as GPX 1.1.") from e
    found: Named = []
    for track in gpx.tracks:
        for k, segment in enumerate(track.segments):
            name = (track.name or "Track") + (f", part {k + 1}" if len(track.segments) > 1 else "")
            found.append((name, [(p.longitude, p.latitude) for p in segment.points]))
    found += [(r.name or "Route", [(p.longitude, p.latitude) for p in r.points]) for r in gpx.routes]
    return [(n, p) for n, p in found if p], "EPSG:4326"


def _geojson(text: str) -> tuple[Named, str]:
    try:
        data = json.loads(text)
    except ValueError as e:
        raise BadInput("This is neither GeoJSON nor GPX.", field=_FILE, fix="Export lines as GeoJSON or GPX.") from e
    if not isinstance(data, dict) or "type" not in data:
        raise BadInput("This JSON is not GeoJSON.", field=_FILE, fix="Export lines as GeoJSON or GPX.")
    crs = data.get("crs")
    says = ""
    if isinstance(crs, dict):
        code = re.search(r"(EPSG:{1,2}(?:[\d.]*:)?(\d+))|CRS84", str(crs.get("properties", {})))
        if code is None:
            raise BadInput(
                "The file names a coordinate system that is not known here.",
                field=_FILE,
                fix="Give its EPSG code, or export in longitude and latitude.",
            )
        says = f"EPSG:{code.group(2)}" if code.group(2) else "EPSG:4326"
    try:
        return [(n, p) for n, p in _lines(data, "Line") if p], says
    except (TypeError, ValueError, IndexError, KeyError, AttributeError) as e:
        raise BadInput(
            "The GeoJSON holds something that is no line of coordinates.", field=_FILE, fix="Export it again."
        ) from e


def _lines(node: dict[str, Any], name: str) -> Iterator[tuple[str, list[Xy]]]:
    kind = node["type"]
    if kind == "FeatureCollection":
        for feature in node["features"]:
            yield from _lines(feature, name)
    elif kind == "Feature":
        properties = node.get("properties") or {}
        own = next((str(properties[k]) for k in ("name", "Name", "NAME", "id") if properties.get(k)), name)
        if node.get("geometry"):
            yield from _lines(node["geometry"], own[:200])
    elif kind == "GeometryCollection":
        for geometry in node["geometries"]:
            yield from _lines(geometry, name)
    elif kind == "LineString":
        yield name, [(float(c[0]), float(c[1])) for c in node["coordinates"]]
    elif kind in ("MultiLineString", "Polygon"):
        for part in node["coordinates"]:
            yield name, [(float(c[0]), float(c[1])) for c in part]


def _system(asked: str, says: str, named: Named) -> str:
    if asked == "site":
        return "site"
    if asked or says:
        return asked or says
    if all(abs(x) <= 180 and abs(y) <= 90 for _, points in named for x, y in points):
        return "EPSG:4326"
    raise BadInput(
        "The coordinates are not longitude and latitude, and the file does not say what they are.",
        field="system",
        fix="Give the EPSG code of the file, or choose that they are metres on this plan.",
    )


def _projected(named: Named, system: str, origin: tuple[float, float] | None) -> tuple[Named, tuple[float, float]]:
    try:
        source = CRS.from_user_input(system)
        to_degrees = Transformer.from_crs(source, "EPSG:4326", always_xy=True)
        if origin is None:
            lon, lat = to_degrees.transform(*named[0][1][0], errcheck=True)
            origin = (float(lat), float(lon))
        local = local_system(origin)
        to_local = Transformer.from_crs(source, local, always_xy=True)
        moved: Named = []
        for name, points in named:
            x, y = to_local.transform([p[0] for p in points], [p[1] for p in points], errcheck=True)
            moved.append((name, [(float(a), float(b)) for a, b in zip(x, y, strict=True)]))
    except CRSError as e:
        raise BadInput(
            f"“{system}” is not a known coordinate system.", field="system", fix="Give a code such as EPSG:25832."
        ) from e
    except ProjError as e:
        raise BadInput(
            f"The coordinates lie outside what {system} covers.",
            field="system",
            fix="Give the coordinate system the file was written in.",
        ) from e
    return moved, origin


def _track(name: str, points: list[Xy]) -> Track:
    line = LineString(points) if len(points) > 1 else None
    if line is None or line.length < 1.0:
        raise BadInput(f"{name} is a point, not a line.", field=_FILE, fix="Leave it out of the export.")
    tolerance, simple = SIMPLIFY_M, line.simplify(SIMPLIFY_M)
    while len(simple.coords) > _FEW and tolerance < _LIMIT_M:
        tolerance *= 1.5
        simple = line.simplify(tolerance)
    if len(simple.coords) > MAX_LEGS + 1:
        raise BadInput(
            f"{name} winds too much: {len(simple.coords)} corners even when smoothed by {_LIMIT_M:g} m.",
            field=_FILE,
            fix="Cut it into several lines.",
        )
    corners = tuple((round(float(x), 3), round(float(y), 3)) for x, y in simple.coords)
    check_corners(corners, what=name, field=_FILE)
    notice = ""
    if len(corners) < len(points):
        notice = f"{len(points):,} points drawn with {len(corners)} corners, none moved by more than {tolerance:.2g} m."
    return Track(name, corners, float(simple.length), notice)
