"""Latitude and longitude of places on a plan whose origin is known: a transverse Mercator projection centred on it."""

from __future__ import annotations

from functools import lru_cache

from pyproj import CRS, Transformer

from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import FURTHEST_M, Xy

LatLon = tuple[float, float]


def local_system(origin: LatLon) -> CRS:
    """Return the coordinate system of a plan with (0, 0) at `origin`, latitude and longitude [deg]."""
    return CRS.from_proj4(f"+proj=tmerc +lat_0={origin[0]} +lon_0={origin[1]} +k=1 +datum=WGS84 +units=m")


@lru_cache(maxsize=16)
def _to_plan(origin: LatLon) -> Transformer:
    return Transformer.from_crs("EPSG:4326", local_system(origin), always_xy=True)


def on_plan(at: LatLon, origin: LatLon) -> Xy:
    """Return where latitude and longitude [deg] lie on a plan; raise `BadInput` far outside it."""
    _check(at)
    x, y = _to_plan(origin).transform(at[1], at[0])
    if not (abs(x) <= FURTHEST_M and abs(y) <= FURTHEST_M):
        raise BadInput(
            "The device is nowhere near this site.",
            field="latitude",
            fix="Check that the plan is tied to the right place on earth.",
        )
    return float(x), float(y)


def on_earth(place: Xy, origin: LatLon) -> LatLon:
    """Return latitude and longitude [deg] of a place (east, north [m]) on a plan."""
    lon, lat = _to_plan(origin).transform(place[0], place[1], direction="INVERSE")
    return float(lat), float(lon)


def tied(at: LatLon, place: Xy) -> LatLon:
    """Return the origin [deg] of a plan on which `place` (east, north [m]) is at latitude and longitude `at` [deg]."""
    _check(at)
    lon, lat = _to_plan(at).transform(-place[0], -place[1], direction="INVERSE")
    return float(lat), float(lon)


def _check(at: LatLon) -> None:
    if not (abs(at[0]) <= 84 and abs(at[1]) <= 180):
        raise BadInput(
            "That is no latitude and longitude a plan can be tied to.",
            field="latitude",
            fix="Let the device take its position again.",
        )
