"""What was found, for other programs: as a table and on the map, with nothing a spreadsheet would run."""

import csv
import io
import json

from pyproj import Geod
from shapely import LinearRing

from tests.conftest import SERVICE, sent
from tests.test_found import found  # noqa: F401  the same marked job
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text

GEOD = Geod(ellps="WGS84")


def table(client, job):
    answer = client.get(f"/api/jobs/{job}/found.csv")
    assert answer.headers["content-type"].startswith("text/csv")
    return list(csv.DictReader(io.StringIO(answer.text)))


def test_the_table_says_what_the_screens_say(client, job, found):  # noqa: F811
    line, _ = found
    rows = table(client, job)
    marks = sent(client.get(f"/api/lines/{line}/marks"))
    assert [r["label"] for r in rows if r["kind"] == "mark"] == [m["label"] for m in marks]
    for row in (r for r in rows if r["kind"] == "mark" and "NOT PROVED" not in r["label"]):
        # each rounds for itself
        assert abs(float(row["label"].split()[1]) - float(row["depth_m"])) < 0.0051
        assert row["east_m"]
    cover = sent(client.get(f"/api/jobs/{job}"))["lines"][0]["cover"]["stretches"]
    of_line = [r for r in rows if r["line"] == SERVICE["name"] and not r["verdict"]]
    said = [(r["kind"].replace("not_located", "missing"), float(r["from_m"])) for r in of_line]
    assert said == [(s["state"], round(s["start_m"], 3)) for s in cover]
    (deep,) = {(r["depth_m"], r["depth_max_m"]) for r in rows if r["kind"] == "marked"}
    assert f"{float(deep[0]):.2f} m" in next(s["depth_text"] for s in cover if s["state"] == "marked")


def test_no_cell_is_taken_for_a_formula(client, job):
    sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "name": "=HYPERLINK(1)"}))
    assert {r["line"] for r in table(client, job)} == {"'=HYPERLINK(1)"}


def test_on_the_map_a_stretch_is_as_long_as_on_the_plan(client):
    job = sent(client.post("/api/jobs/import", json={"text": demo_text(DEMO_JOBS[1])}))["id"]
    refused = client.get(f"/api/jobs/{job}/found.geojson")
    assert refused.status_code == 422
    assert "no place on earth" in refused.json()["message"]
    point = sent(client.get(f"/api/jobs/{job}/site"))["access"][0]["name"]
    tie = {"point": point, "latitude": 57.2, "longitude": -1.9}
    sent(client.post(f"/api/jobs/{job}/site/tie", json=tie))
    answer = client.get(f"/api/jobs/{job}/found.geojson")
    assert answer.headers["content-type"].startswith("application/geo+json")
    features = json.loads(answer.text)["features"]
    kinds = {f["properties"]["kind"]: f["geometry"]["type"] for f in features}
    assert kinds["mark"] == "Point"
    assert kinds["marked"] == "LineString"
    assert kinds["tolerance_zone"] == "Polygon"
    zones = [f["geometry"]["coordinates"][0] for f in features if f["geometry"]["type"] == "Polygon"]
    assert all(LinearRing(ring).is_ccw for ring in zones), "as RFC 7946 wants it"
    for f in (f for f in features if f["geometry"]["type"] == "LineString"):
        lon, lat = zip(*f["geometry"]["coordinates"], strict=True)
        p = f["properties"]
        assert abs(GEOD.line_length(lon, lat) - (p["to_m"] - p["from_m"])) < 0.05
