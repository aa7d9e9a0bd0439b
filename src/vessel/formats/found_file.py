"""What was found, for other programs: marks, stations, stretches and tolerance zones as CSV and as GeoJSON.

Open formats, described in docs/formats/found.md: lengths in metres, places east and north of the plan's own origin in
CSV and as longitude and latitude (WGS 84, as RFC 7946 has it) in GeoJSON.
"""

from __future__ import annotations

import csv
import io
import json
from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any, Literal

from shapely import LinearRing

from vessel.core.base.errors import BadInput
from vessel.core.model.drawn_line import Xy
from vessel.formats.projection import LatLon, on_earth

Kind = Literal["mark", "station", "fault", "marked", "doubtful", "not_located", "tolerance_zone"]
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
_DIGITS = 7  # of a degree: about a centimetre


@dataclass(frozen=True, kw_only=True)
class FoundRow:
    """One thing found on a line, by distance along it [m]; `places`: on the plan (east, north [m]), none if not drawn.

    A point has one place, a stretch those of its corners, a zone its outline. `depth_m` to `depth_max_m` [m].
    """

    kind: Kind
    line: str
    utility: str
    from_m: float
    to_m: float
    depth_m: float | None = None
    depth_max_m: float | None = None
    label: str = ""
    verdict: str = ""
    technician: str = ""
    time: str = ""
    note: str = ""
    places: tuple[Xy, ...] = ()

    def told(self) -> dict[str, Any]:
        """Return everything but the places, by name."""
        return {k: v for k, v in asdict(self).items() if k != "places"}


def as_csv(rows: Sequence[FoundRow], origin: LatLon | None) -> str:
    """Return the rows as CSV; text that a spreadsheet would take for a formula is quoted with an apostrophe."""
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    names = [k for k in FoundRow.__dataclass_fields__ if k != "places"]
    table.writerow([*names, "east_m", "north_m", "latitude", "longitude"])
    for row in rows:
        if row.kind != "tolerance_zone":
            table.writerow([*(_cell(v) for v in row.told().values()), *_place(row, origin)])
    return out.getvalue()


def _cell(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        return f"{value:.3f}".rstrip("0").rstrip(".")
    return f"'{value}" if value.startswith(_FORMULA) else value


def _place(row: FoundRow, origin: LatLon | None) -> list[str]:
    """Where it is, or where it begins; empty where the line or the plan has no place."""
    if not row.places:
        return ["", "", "", ""]
    at = row.places[0]
    lat_lon = ["", ""] if origin is None else [f"{d:.{_DIGITS}f}" for d in on_earth(at, origin)]
    return [f"{at[0]:.2f}", f"{at[1]:.2f}", *lat_lon]


def as_geojson(rows: Sequence[FoundRow], origin: LatLon | None) -> str:
    """Return what is drawn as a feature collection; raise `BadInput` where the plan has no place on earth."""
    if origin is None:
        raise BadInput(
            "The site plan has no place on earth, and GeoJSON is in latitude and longitude.",
            field="origin",
            fix="Tie the plan: on Trace, place a station by the device at one of its points. Or take the CSV.",
        )
    features = [
        {"type": "Feature", "properties": row.told(), "geometry": _geometry(row, origin)} for row in rows if row.places
    ]
    return json.dumps({"type": "FeatureCollection", "features": features}, ensure_ascii=False, indent=1) + "\n"


def _geometry(row: FoundRow, origin: LatLon) -> dict[str, Any]:
    corners = [[round(d, _DIGITS) for d in reversed(on_earth(at, origin))] for at in row.places]
    if len(corners) == 1:
        return {"type": "Point", "coordinates": corners[0]}
    if row.kind == "tolerance_zone":  # an outline runs against the clock
        return {"type": "Polygon", "coordinates": [corners if LinearRing(corners).is_ccw else corners[::-1]]}
    return {"type": "LineString", "coordinates": corners}
