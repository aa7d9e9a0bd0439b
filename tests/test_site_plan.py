"""The site plan over the API: entry, imports of tracks, order of work, stake advice, what-if; nothing lost."""

import json
import math

import pytest

from tests.conftest import SERVICE, entered, sent
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text
from vessel.cli import main
from vessel.core.model.drawn_line import Drawn

TRACK = [[8.5, 53.5], [8.5004, 53.5001], [8.5009, 53.5001]]


@pytest.fixture
def site(client, job, line):
    """A job with two drawn lines, an access point, a wall and a dig area."""
    main = {**SERVICE, "name": "Water main", "utility": "water", "preset": "jointed_iron_main", "near_earth": "8"}
    other = sent(client.post(f"/api/jobs/{job}/lines", json=main))["id"]
    form = {
        "routes": [
            {"line_id": line, "route": "0, 0; 60 m at 90, then 30 m at 0"},
            {"line_id": other, "route": "-20, -2; 80, -2"},
        ],
        "access": [{"name": "Post", "kind": "pedestal", "at": "30.4, 0.5", "earth": "40"}],
        "structures": [{"name": "Wall", "preset": "sheet_pile", "route": "-10, 40; 90, 40", "depth": "2.5m"}],
        "hard": [{"name": "Slab", "outline": "3, 3; 12, 3; 12, 20; 3, 20"}],
        "dig": "10, -5; 55, -5; 55, 5; 10, 5",
        "bonds": [{"a": "Gas service", "a_at": "80", "b": "Wall", "b_at": "70", "ohm": "0.1"}],
    }
    return {"job": job, "lines": [line, other], "form": form}


def save(client, site, **change):
    return client.put(f"/api/jobs/{site['job']}/site", json={**site["form"], **change})


def test_a_plan_comes_back_as_it_was_typed_and_is_saved_again_unchanged(client, site):
    saved = sent(save(client, site))
    assert [x["route"] for x in saved["typed"]["routes"]] == [r["route"] for r in site["form"]["routes"]]
    again = sent(client.put(f"/api/jobs/{site['job']}/site", json=saved["typed"]))
    assert again["typed"] == saved["typed"]
    assert [len(x["corners"]) for x in again["lines"]] == [3, 2]
    assert again["access"][0]["lines"] == ["Gas service"]
    job = sent(client.get(f"/api/jobs/{site['job']}"))
    assert [x["length_m"] for x in job["lines"]] == pytest.approx([90.0, 100.0])


def test_what_was_assumed_is_said(client, site):
    crossing = [site["form"]["routes"][0], {"line_id": site["lines"][1], "route": "30, -20; 30, 20"}]
    notices = sent(save(client, site, routes=crossing, bonds=[]))["notices"]
    assert any("is taken to pass under" in n for n in notices)
    on_top = [site["form"]["routes"][0], {"line_id": site["lines"][1], "route": "5, 0; 55, 0"}]
    assert any("is drawn on" in n for n in sent(save(client, site, routes=on_top, bonds=[]))["notices"])
    lost = sent(save(client, site, structures=[]))["notices"]
    assert any("“Wall” is not on the plan" in n for n in lost)


def test_a_corner_close_to_an_access_point_is_moved_onto_it(client, site):
    routes = [{"line_id": site["lines"][0], "route": "0, 0; 30, 0; 60, 10"}]
    saved = sent(save(client, site, routes=routes, bonds=[]))
    assert saved["lines"][0]["corners"][1] == pytest.approx([30.4, 0.5])
    assert any("moved onto Post" in n for n in saved["notices"])


WRONG = [
    ({"dig": "0, 0; 5, 5"}, "dig", "2 corners"),
    ({"access": [{"name": "", "at": "1, 1"}]}, "access.0.name", "empty"),
    ({"access": [{"name": "P", "at": "1, 1; 2, 2"}]}, "access.0.at", "not one place"),
    ({"access": [{"name": "P", "at": "1, 1", "earth": "0"}]}, "access.0.earth", "no resistance"),
    ({"structures": [{"name": "W", "preset": "sheet_pile", "route": "0, 9; 9, 9", "depth": "99m"}]}, "depth", "Depth"),
    ({"structures": [{"name": "W", "preset": "no_metal", "route": "0, 9; 9, 9", "depth": "1m"}]}, "preset", "no metal"),
    ({"hard": [{"name": "S", "outline": "0, 0; 1, one; 2, 2"}]}, "hard.0.outline", "not a number"),
    ({"bonds": [{"a": "Wall", "a_at": "5", "b": "Wall", "b_at": "6"}]}, "bonds.0.b", "itself"),
    ({"bonds": [{"a": "Wall", "a_at": "900", "b": "Gas service", "b_at": "6"}]}, "bonds", "does not run there"),
]


@pytest.mark.parametrize(("change", "field", "says"), WRONG)
def test_what_cannot_be_is_refused_by_its_field_and_nothing_is_stored(client, site, change, field, says):
    before = sent(save(client, site))["typed"]
    answer = save(client, site, **change)
    assert answer.status_code == 422
    assert field in answer.json()["field"]
    assert says in answer.json()["message"]
    assert answer.json()["fix"]
    assert sent(client.get(f"/api/jobs/{site['job']}/site"))["typed"] == before


def test_a_route_that_would_strand_a_hookup_or_lies_nowhere_is_refused(client, site):
    line = site["lines"][0]
    for route, says in (("0, 0; 448000, 5430000", "outside the site"), ("0, 0; 38 m at noon", "bearing")):
        answer = save(client, site, routes=[{"line_id": line, "route": route}], bonds=[])
        assert answer.status_code == 422
        assert says in answer.json()["message"]
        assert answer.json()["field"].startswith("routes.0")
    sent(save(client, site))
    body = {"hookup": "induction", "freq": "35.84k", "output": "60", "position": "70"}
    sent(client.post(f"/api/lines/{line}/setups", json=body))
    answer = save(client, site, routes=[{"line_id": line, "route": "0, 0; 40, 0"}], bonds=[])
    assert answer.status_code == 422
    assert "beyond the line" in answer.json()["message"]
    stray = save(client, site, routes=[{"line_id": 999, "route": "0, 0; 40, 0"}], bonds=[])
    assert stray.json()["field"] == "routes"


def test_typing_is_understood_as_it_goes_and_never_an_error(client, site):
    def understood(text):
        return sent(client.post(f"/api/jobs/{site['job']}/site/understand", json={"text": text}))

    assert understood("38 m at 60, then 20 m at 150")["shown"] == "2 legs, 58 m"
    assert understood("12, 5")["corners"] == [[12.0, 5.0]]
    assert not understood("along the kerb")["ok"]
    assert understood("")["corners"] == []


def geojson(coordinates, **more):
    line = {
        "type": "Feature",
        "properties": {"name": "Track A"},
        "geometry": {"type": "LineString", "coordinates": coordinates},
    }
    return json.dumps({"type": "FeatureCollection", "features": [line], **more})


def read(client, job, text, system=""):
    return client.post(f"/api/jobs/{job}/site/tracks", json={"text": text, "system": system})


def test_tracks_in_degrees_become_metres_on_the_plan(client, job):
    found = sent(read(client, job, geojson(TRACK)))
    (track,) = found["tracks"]
    assert found["origin"] == pytest.approx([53.5, 8.5])
    assert track["corners"][0] == pytest.approx([0, 0], abs=1e-3)
    east = (
        math.radians(0.0004)
        * 6378137
        * math.cos(math.radians(53.5))
        / math.sqrt(1 - 0.00669438 * math.sin(math.radians(53.5)) ** 2)
    )
    assert track["corners"][1][0] == pytest.approx(east, rel=1e-3)
    crs = {"crs": {"type": "name", "properties": {"name": "urn:ogc:def:crs:EPSG::25832"}}}
    utm = sent(read(client, job, geojson([[466830.0, 5928000.0], [466860.0, 5928040.0]], **crs)))
    assert utm["tracks"][0]["length_text"] == "50 m"
    gpx = '<gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><name>Walk</name><trkseg>' + "".join(
        f'<trkpt lat="{y}" lon="{x}"/>' for x, y in TRACK) + "</trkseg></trk></gpx>"  # fmt: skip
    walk = sent(read(client, job, gpx))["tracks"][0]
    assert walk["name"] == "Walk"
    assert walk["route"] == track["route"]


def test_metres_without_a_system_are_asked_about_and_then_read(client, job):
    text = geojson([[0.0, 0.0], [500.0, 0.0]])
    answer = read(client, job, text)
    assert (answer.status_code, answer.json()["field"]) == (422, "system")
    assert sent(read(client, job, text, "site"))["tracks"][0]["length_text"] == "500 m"


def test_a_track_of_ten_thousand_points_is_simplified_with_notice(client, job):
    points = [[k * 0.02, 3 * math.sin(k / 900)] for k in range(10_000)]
    (track,) = sent(read(client, job, geojson(points), "site"))["tracks"]
    assert len(track["corners"]) <= 60
    assert track["notice"].startswith("10,000 points drawn with")
    route = Drawn("track", None, tuple(map(tuple, track["corners"])), 1.0, 1.0)
    assert max(route.nearest((x, y))[1] for x, y in points[::50]) < 2.0


@pytest.mark.parametrize(
    ("text", "system", "says"),
    [
        ("", "", "empty"),
        ("no file at all", "", "neither GeoJSON nor GPX"),
        ("<gpx><trk>", "", "not a readable GPX"),
        ('{"a": 1}', "", "not GeoJSON"),
        ('{"type": "FeatureCollection", "features": []}', "", "no line in it"),
        (
            '{"type": "Feature", "geometry": {"type": "LineString", "coordinates": [[1], [2]]}}',
            "",
            "no line of coordinates",
        ),
        (geojson([[8.5, 53.5], [8.5, 53.5]]), "", "a point, not a line"),
        (geojson(TRACK), "EPSG:999999", "not a known coordinate system"),
        (geojson([[0, 0], [9, 9]], crs={"properties": {"name": "ours"}}), "", "not known here"),
        (geojson([[8.5, 53.5], [9.5, 53.5]]), "", "outside the site"),
    ],
)
def test_files_that_cannot_be_read_say_why(client, job, text, system, says):
    answer = read(client, job, text, system)
    assert answer.status_code == 422
    assert says in answer.json()["message"]
    assert answer.json()["fix"]


def test_the_order_of_work_covers_the_dig_area_and_starts_hookups(client, site):
    sent(save(client, site))
    work = sent(client.get(f"/api/jobs/{site['job']}/site/work"))
    by_id = {x["line_id"]: x for x in work["lines"]}
    assert by_id[site["lines"][0]]["wanted_m"] == pytest.approx(45.0, abs=0.5)
    visit = next(v for v in work["visits"] if v["hookup"] == "direct")
    body = {
        "hookup": visit["hookup"],
        "freq": f"{visit['freq_hz']}Hz",
        "output": f"{visit['output_a']}A",
        "position": f"{visit['position_m']}m",
        "stake_at": f"{visit['stake_at'][0]}m, {visit['stake_at'][1]}m",
    }
    made = sent(client.post(f"/api/lines/{visit['line_id']}/setups", json=body))["id"]
    hookup = sent(client.get(f"/api/setups/{made}"))
    assert "where the site plan has it" in json.dumps(hookup)
    x, y = visit["stake_at"]
    sent(client.patch(f"/api/setups/{made}", json={"stake_away": "4"}))  # not where it was planned, but nearer
    setups = [
        s for x in json.loads(client.get(f"/api/jobs/{site['job']}/export").text)["job"]["lines"] for s in x["setups"]
    ]
    assert setups[0]["stake_away_m"] == 4
    assert math.dist(setups[0]["stake_at"], visit["at"]) == pytest.approx(4)
    assert math.atan2(
        setups[0]["stake_at"][1] - visit["at"][1], setups[0]["stake_at"][0] - visit["at"][0]
    ) == pytest.approx(math.atan2(y - visit["at"][1], x - visit["at"][0]))
    reading = {"volts": "12", "milliamps": "30"}
    sent(client.post(f"/api/setups/{made}/readings", json=reading))
    trace = sent(client.get(f"/api/setups/{made}/trace"))
    assert any(b["name"] in ("Water main", "Gas service", "Wall") for b in trace["beside"])
    sent(client.post(f"/api/setups/{made}/again", json={"changed": "stake"}))
    job = json.loads(client.get(f"/api/jobs/{site['job']}/export").text)["job"]
    planned, moved = (s["stake_at"] for x in job["lines"] for s in x["setups"])
    assert math.dist(moved, visit["at"]) == pytest.approx(4)
    assert math.dist(moved, planned) > 2  # on the other side of the line, as far off
    across = sent(client.get(f"/api/setups/{made}/across?at_m=20"))
    assert {b["name"] for b in across["below"]} >= {"Gas service", "Water main"}
    undrawn = [r for r in site["form"]["routes"] if r["line_id"] != visit["line_id"]]
    sent(save(client, site, routes=undrawn, bonds=[]))
    told = sent(client.get(f"/api/setups/{made}"))  # the stake's place on the plan no longer means anything
    assert "where the site plan has it" not in json.dumps(told)
    text = client.get(f"/api/jobs/{site['job']}/export").text
    sent(client.post("/api/jobs/import", json={"text": text}))
    sent(save(client, site))
    nowhere = client.post(f"/api/lines/{visit['line_id']}/setups", json={**body, "position": "17m", "stake_at": ""})
    assert "no access point at 17 m" in nowhere.json()["message"]
    slab = client.post(f"/api/lines/{site['lines'][0]}/setups", json={**body, "position": "", "stake_at": "5, 6"})
    assert (slab.json()["field"], "Slab" in slab.json()["message"]) == ("stake_at", True)


def test_a_line_without_metal_is_said_to_be_not_located(client, job):
    drain = {**SERVICE, "name": "Drain", "utility": "sewer", "preset": "no_metal"}
    made = sent(client.post(f"/api/jobs/{job}/lines", json=drain))["id"]
    plan = sent(client.get(f"/api/lines/{made}/plan"))
    assert (plan["options"], "no metal" in plan["no_signal"]) == ([], True)
    work = sent(client.get(f"/api/jobs/{job}/site/work"))
    assert "Push a sonde" in work["lines"][0]["remaining"]
    answer = client.post(f"/api/lines/{made}/setups", json={"hookup": "direct", "freq": "8.96k", "output": "30"})
    assert (answer.status_code, "no metal" in answer.json()["message"]) == (422, True)
    assert sent(client.get(f"/api/lines/{made}"))["preset"] == "no_metal"
    sent(client.get(f"/api/jobs/{job}/record"))


def test_stake_advice_and_what_if_answer_without_storing_anything(client, site):
    sent(save(client, site))
    line = site["lines"][0]
    spots = sent(client.get(f"/api/lines/{line}/spots"))
    best = next(s for s in spots["spots"] if s["best"])
    assert best["ok"]
    assert any("Slab" in s["text"] for s in spots["spots"] if not s["ok"])
    body = {
        "hookup": "direct",
        "freq_hz": 8960,
        "output_a": 0.03,
        "planned_stake_at": best["at"],
        "stake_at": best["at"],
    }
    same = sent(client.post(f"/api/lines/{line}/what-if", json=body))
    assert same["change_text"].count("as before") >= 2
    assert [b["text"] for b in same["bonds"]] == ["Gas service (80 m) – Wall (70 m)"]
    apart = sent(client.post(f"/api/lines/{line}/what-if", json={**body, "without_bonds": [0], "far": "open"}))
    assert "was" in apart["change_text"]
    over = sent(client.post(f"/api/lines/{line}/what-if", json={**body, "stake_at": [3, 0.05]}))
    assert "Never drive a stake over a line" in over["stake_text"]
    assert over["refused"]
    assert [row["role"] for row in same["board"]] == ["planned", "asked"]
    others = sent(client.post(f"/api/lines/{line}/what-if/board", json={**body, "soil_resistivity": "20"}))
    assert {row["role"] for row in others["rows"]} == {"rival"}
    assert len({(r["place_text"], r["freq_text"], r["output_text"]) for r in others["rows"]}) == len(others["rows"])
    poor = next(s for s in spots["spots"] if s["text"].startswith("Poor"))
    warned = sent(client.post(f"/api/lines/{line}/what-if", json={**body, "stake_at": poor["at"]}))
    assert (warned["stake_text"][:4], warned["refused"]) == ("Poor", False)
    wrong = client.post(f"/api/lines/{line}/what-if", json={**body, "soil_resistivity": "wet"})
    assert (wrong.status_code, wrong.json()["field"]) == (422, "soil_resistivity")
    found = sent(client.post(f"/api/lines/{line}/unknowns", json=body))
    assert len(found["each"]) == 3
    assert "soil" in found["sound"]
    assert sent(client.get(f"/api/lines/{line}/plan"))["options"]


def test_a_drawn_job_goes_out_and_in_without_loss(client):
    text = demo_text(DEMO_JOBS[1])
    made = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    assert entered(client.get(f"/api/jobs/{made}/export").text) == entered(text)
    site = sent(client.get(f"/api/jobs/{made}/site"))
    assert len(site["lines"]) == 8
    gone = next(x["id"] for x in site["lines"] if x["name"] == "Hydrant branch")
    sent(client.delete(f"/api/lines/{gone}"))
    less = sent(client.get(f"/api/jobs/{made}/site"))
    assert len(less["lines"]) == 7
    assert any("Hydrant branch" in n for n in less["notices"])
    without = client.get(f"/api/jobs/{made}/export").text
    back = sent(client.post("/api/jobs/import", json={"text": without}))["id"]
    assert len(sent(client.get(f"/api/jobs/{back}/site"))["lines"]) == 7
    sent(client.post(f"/api/lines/{gone}/restore"))
    assert sent(client.get(f"/api/jobs/{made}/site"))["typed"] == site["typed"]


def test_a_drawn_job_is_planned_and_solved_on_the_command_line(capsys, tmp_path):
    file = tmp_path / "site.json"
    file.write_text(demo_text(DEMO_JOBS[1]), encoding="utf-8")

    def run(*args):
        assert main(args) == 0
        return json.loads(capsys.readouterr().out)

    lines = run("plan", str(file))["lines"]
    assert [x["line"] for x in lines][:2] == ["Gas service to ticket hall", "Water main"]
    assert "Storm drain" not in {x["line"] for x in lines}  # no metal: nothing to plan
    best = lines[0]["options"][0]
    assert best["reason"].startswith("82.1 m of 95.2 m in the dig area markable")
    pillar = next(x for x in lines if x["line"] == "Berth power, cable A")
    assert {o["hookup"] for o in pillar["options"]} <= {"clamp", "induction"}
    args = ["--line", "Gas service to ticket hall", "--hookup", "direct", "--freq-hz", "8960", "--output-ma", "30"]
    solved = run("solve", str(file), *args)
    by_line = {x["line"]: x["greatest_ma"] for x in solved["cases"][0]["lines"]}
    assert by_line["Gas service to ticket hall"] > by_line["Water main"] > 0.1
    assert by_line["Storm drain"] == 0
    assert main(("solve", str(file), *["--line", "Storm drain", *args[2:]])) != 0
    assert "has no metal" in capsys.readouterr().err


def test_changing_a_drawn_line_keeps_its_route_and_a_removed_route_its_data(client, site):
    sent(save(client, site))
    line = site["lines"][0]
    changed = {**SERVICE, "length": "500", "depth_max": "1.2"}
    sent(client.put(f"/api/lines/{line}", json=changed))
    job = sent(client.get(f"/api/jobs/{site['job']}"))
    drawn = next(x for x in job["lines"] if x["id"] == line)
    assert drawn["length_m"] == pytest.approx(90.0)  # what is drawn counts, whatever was typed before
    assert "what the site plan has" in drawn["beside_text"]
    beside = {
        "name": "Duct",
        "preset": "armoured_cable",
        "side": "left",
        "offset": "1",
        "depth": "0.7m",
        "start": "5",
        "end": "40",
    }
    sent(client.put(f"/api/lines/{line}", json={**changed, "neighbours": [beside]}))
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    names = {b["name"] for f in plan["options"][0]["forecasts"] for b in f["bleed_off"]}
    assert "Duct beside Gas service" in names
    assert "Water main" in names
    taken_off = sent(save(client, site, routes=site["form"]["routes"][1:], bonds=[]))
    assert [u["id"] for u in taken_off["undrawn"]] == [line]
    told = sent(client.get(f"/api/lines/{line}"))
    assert told["neighbours"][0]["name"] == "Duct"
    assert sent(client.get(f"/api/lines/{line}/plan"))["options"]


def test_imperial_crews_draw_and_read_in_feet(client, job, line):
    body = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "loam", "units": "imperial"}
    sent(client.put(f"/api/jobs/{job}", json=body))
    form = {"routes": [{"line_id": line, "route": "0, 0; 200 at 90"}], "dig": "0, -10; 100, -10; 100, 10; 0, 10"}
    saved = sent(client.put(f"/api/jobs/{job}/site", json=form))
    assert saved["lines"][0]["corners"][1] == pytest.approx([60.96, 0], abs=1e-6)
    assert saved["typed"]["dig"] == "0 E, 10 S; 100 E, 10 S; 100 E, 10 N; 0 E, 10 N"
    work = sent(client.get(f"/api/jobs/{job}/site/work"))
    assert "100 ft" in work["total_text"]
    assert not any(" m " in v["place_text"] for v in work["visits"])
