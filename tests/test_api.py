"""The API: what a client may rely on, and what is refused with the field and the fix."""

import pytest

from tests.conftest import SERVICE, STATION, detail, sent
from vessel.core.judge.station.criteria import CRITERIA_VERSION


def station(client, setup, **change):
    return client.post(f"/api/setups/{setup}/stations", json={**STATION, **change})


def test_a_station_is_judged_at_once_and_marked_with_what_led_to_it(client, line, setup):
    trace = sent(station(client, setup))
    first = trace["stations"][0]
    assert first["verdict"] == "mark"
    mark = sent(client.post(f"/api/stations/{first['id']}/marks", json={}))
    assert mark["label"] == "G 0.80 m"
    assert (mark["colour"], mark["criteria_version"]) == ("Yellow", CRITERIA_VERSION)
    assert "35.84 kHz" in mark["setup_text"]
    again = client.post(f"/api/stations/{first['id']}/marks", json={})
    assert again.status_code == 409


def test_a_hold_needs_a_written_reason_that_stays(client, line, setup):
    trace = sent(station(client, setup, peak_null="0.3"))
    held = trace["stations"][0]
    assert held["verdict"] == "hold"
    url = f"/api/stations/{held['id']}/marks"
    refused = client.post(url, json={"reason": "ok"})
    assert (refused.status_code, refused.json()["field"]) == (422, "reason")
    sent(client.post(url, json={"reason": "Daylighted by the owner on the same day."}))
    kept = sent(client.get(f"/api/lines/{line}/marks"))[0]
    assert kept["reason"].startswith("Daylighted")
    assert kept["label"].endswith("NOT PROVED")


def test_a_mark_outlives_changes_and_is_withdrawn_not_deleted(client, line, setup):
    first = sent(station(client, setup))["stations"][0]
    mark = sent(client.post(f"/api/stations/{first['id']}/marks", json={}))
    assert client.put(f"/api/stations/{first['id']}", json={**STATION, "depth": "2"}).status_code == 409
    assert client.delete(f"/api/stations/{first['id']}").status_code == 409
    sent(client.put(f"/api/lines/{line}", json={**SERVICE, "length": "300", "depth_min": "2", "depth_max": "3"}))
    assert sent(client.get(f"/api/setups/{setup}/trace"))["stations"][0]["verdict"] == "hold"
    assert sent(client.get(f"/api/lines/{line}/marks"))[0]["verdict"] == "mark"
    assert client.post(f"/api/marks/{mark['id']}/withdraw", json={"reason": ""}).json()["field"] == "reason"
    sent(client.post(f"/api/marks/{mark['id']}/withdraw", json={"reason": "Painted on the wrong side."}))
    assert sent(client.get(f"/api/lines/{line}/marks"))[0]["withdrawn_reason"] == "Painted on the wrong side."


@pytest.mark.parametrize("thing", ["job", "line", "reading", "station", "kit"])
def test_whatever_is_removed_can_be_restored(client, job, line, setup, thing):
    sent(station(client, setup))
    copy = {**sent(client.get("/api/kits"))[0]["kit"], "name": "Own"}
    kit = sent(client.post("/api/kits", json={"kit": copy}))["id"]

    def shown():
        trace, hookup = (sent(client.get(f"/api/setups/{setup}{x}")) for x in ("/trace", ""))
        return {
            "job": [j["id"] for j in sent(client.get("/api/jobs"))["jobs"]],
            "line": [
                x["id"]
                for j in sent(client.get("/api/jobs"))["jobs"]
                for x in sent(client.get(f"/api/jobs/{j['id']}"))["lines"]
            ],
            "reading": [r["id"] for r in hookup["readings"]],
            "station": [s["id"] for s in trace["stations"]],
            "kit": [k["id"] for k in sent(client.get("/api/kits"))],
        }[thing]

    before = shown()
    key = {"kit": kit}.get(thing, before[0])
    sent(client.delete(f"/api/{thing}s/{key}?why=Typed twice"))
    assert key not in shown()
    sent(client.post(f"/api/{thing}s/{key}/restore"))
    assert shown() == before


BAD = [
    ("post", "/api/jobs", {"name": "", "technician": "R. Tallow"}, "name"),
    ("post", "/api/jobs", {"name": "A", "technician": "T", "soil_resistivity": "0"}, "soil_resistivity"),
    ("post", "/api/jobs", {"name": "A", "technician": "T", "soil_kind": "moon"}, "soil_kind"),
    ("post", "/api/jobs", {"name": "A", "technician": "T", "due_at": "soon"}, "due_at"),
    ("post", "/api/jobs", {"name": "A", "technician": "T", "kit_id": 99}, "kit_id"),
    ("post", "/api/jobs/{job}/lines", {**SERVICE, "depth_min": "-0.5"}, "depth_min"),
    ("post", "/api/jobs/{job}/lines", {**SERVICE, "depth_min": "1.2"}, "depth_min"),
    ("post", "/api/jobs/{job}/lines", {**SERVICE, "length": ""}, "length"),
    ("post", "/api/jobs/{job}/lines", {**SERVICE, "near_earth": "0"}, "near_earth"),
    ("post", "/api/jobs/{job}/lines", {**SERVICE, "overrides": {"radius_m": 0}}, "construction.radius_m"),
    ("post", "/api/lines/{line}/setups", {"hookup": "direct", "freq": "9k", "output": "30"}, "freq"),
    ("post", "/api/lines/{line}/setups", {"hookup": "direct", "freq": "560", "output": "0"}, "output"),
    (
        "post",
        "/api/lines/{line}/setups",
        {"hookup": "direct", "freq": "560", "output": "30", "rx_freq": "50k"},
        "rx_freq",
    ),
    ("post", "/api/setups/{setup}/readings", {"volts": "63,0", "milliamps": "30"}, "volts"),
    ("post", "/api/setups/{setup}/readings", {"volts": "63", "milliamps": "30"}, "volts"),
    ("post", "/api/setups/{setup}/readings", {"volts": "30", "milliamps": "0"}, "milliamps"),
    ("post", "/api/setups/{setup}/stations", {**STATION, "currents": "63,0"}, "currents"),
    ("post", "/api/setups/{setup}/stations", {**STATION, "depth": "-0.5"}, "depth"),
    ("post", "/api/setups/{setup}/stations", {**STATION, "depth_lifted": "1.3", "lift_height": ""}, "lift_height"),
    ("post", "/api/setups/{setup}/stations", {**STATION, "distance": "900"}, "distance"),
    ("patch", "/api/setups/{setup}", {"stake": "0"}, "stake"),
    ("patch", "/api/setups/{setup}", {"stake_away": "25"}, "stake_away"),
    (
        "post",
        "/api/lines/{line}/setups",
        {"hookup": "direct", "freq": "560", "output": "30", "stake_away": "25"},
        "stake_away",
    ),
]


@pytest.mark.parametrize(("method", "url", "body", "field"), BAD)
def test_bad_input_names_the_field_and_the_fix(client, job, line, setup, method, url, body, field):
    r = client.request(method, url.format(job=job, line=line, setup=setup), json=body)
    assert r.status_code == 422
    answer = r.json()
    assert answer["field"] == field
    assert answer["message"]
    assert answer["fix"]
    assert "Traceback" not in r.text
    assert sent(client.get(f"/api/setups/{setup}/trace"))["stations"] == []


def test_a_station_twice_is_refused_and_a_correction_is_not(client, setup):
    first = sent(station(client, setup))["stations"][0]
    twice = station(client, setup, distance="20.01")
    assert (twice.status_code, twice.json()["field"]) == (409, "distance")
    fixed = sent(client.put(f"/api/stations/{first['id']}", json={**STATION, "peak_null": "0.1"}))
    assert [s["verdict"] for s in fixed["stations"]] == ["mark_with_care"]


def test_a_live_line_takes_no_direct_connection(client, job):
    live = sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "live": True}))["id"]
    r = client.post(f"/api/lines/{live}/setups", json={"hookup": "direct", "freq": "560", "output": "30"})
    assert (r.status_code, r.json()["field"]) == (409, "hookup")
    assert "LIVE" in r.json()["message"]


def test_mismatched_frequencies_hold_every_station(client, setup):
    sent(client.patch(f"/api/setups/{setup}", json={"rx_freq": "8.96k"}))
    verdict = sent(station(client, setup))["stations"][0]
    assert verdict["verdict"] == "hold"
    assert detail(client, verdict)["findings"][0]["rule_id"] == "frequency"


def test_imperial_jobs_speak_feet_and_inches(client, job, line, setup):
    body = {"name": "Apron", "technician": "R. Tallow", "units": "imperial", "soil_kind": "loam"}
    sent(client.put(f"/api/jobs/{job}", json=body))
    trace = sent(
        station(client, setup, distance="66", depth="2'6", lift_height="20", depth_lifted="4'2", peak_null="1")
    )
    s = trace["stations"][0]
    assert (s["distance_text"], s["depth_text"]) == ("66 ft", "2'6\"")
    assert " m " not in " ".join(f["sentence"] for f in detail(client, s)["findings"])
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    assert "459.3 ft" in plan["options"][0]["reason"]


def test_clamp_and_induction_hookups_say_what_the_transmitter_cannot_tell(client, job):
    bonded = sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "near_earth": "20", "far_kind": "earthed"}))[
        "id"
    ]
    for hookup, position in (("clamp", "0.5"), ("induction", "10")):
        body = {"hookup": hookup, "freq": "35.84k", "output": "120", "rx_freq": "35.84k", "position": position}
        s = sent(client.post(f"/api/lines/{bonded}/setups", json=body))["id"]
        if hookup == "clamp":
            sent(client.post(f"/api/setups/{s}/readings", json={"volts": "39", "milliamps": "118"}))
        view = sent(client.get(f"/api/setups/{s}"))
        assert view["state"] == "cannot_tell"
        assert view["hypotheses"] == []
        assert sent(station(client, s, distance="60"))["stations"][0]["verdict"] in ("hold", "mark", "mark_with_care")


def test_a_kit_in_use_keeps_its_frequencies(client, job, line, setup):
    row = sent(client.get("/api/kits"))[0]
    fewer = {**row["kit"], "frequencies": row["kit"]["frequencies"][:3]}
    assert client.put(f"/api/kits/{row['id']}", json={"kit": fewer}).json()["field"] == "frequencies"
    louder = {**row["kit"], "volts_max": 80.0}
    assert sent(client.put(f"/api/kits/{row['id']}", json={"kit": louder}))["kit"]["volts_max"] == 80.0
    assert client.delete(f"/api/kits/{row['id']}").status_code == 409


def test_only_our_own_host_and_origin_are_served(client):
    assert client.get("/api/jobs", headers={"host": "evil.example"}).json()["code"] == "bad_host"
    body = {"name": "A", "technician": "T"}
    for headers in ({"origin": "http://evil.example"}, {"sec-fetch-site": "cross-site"}):
        r = client.post("/api/jobs", json=body, headers=headers)
        assert (r.status_code, r.json()["code"]) == (403, "cross_origin")
    own = client.post(
        "/api/jobs", json=body, headers={"origin": "http://127.0.0.1:8420", "sec-fetch-site": "same-origin"}
    )
    assert own.status_code == 201


def test_what_does_not_exist_is_said_plainly(client):
    for url in ("/api/jobs/999", "/api/lines/999/plan", "/api/setups/999", f"/api/jobs/{10**30}", "/api/nothing"):
        r = client.get(url)
        assert r.status_code == 404
        assert r.json()["message"]


def test_changes_that_would_strand_a_hookup_on_record_are_refused(client, job, line):
    body = {"hookup": "induction", "freq": "35.84k", "output": "120", "position": "30"}
    sent(client.post(f"/api/lines/{line}/setups", json=body))
    shorter = client.put(f"/api/lines/{line}", json={**SERVICE, "length": "20"})
    assert (shorter.status_code, shorter.json()["field"]) == (422, "length")
    kit = sent(client.get("/api/kits"))[0]["kit"]
    bare = sent(client.post("/api/kits", json={"kit": {**kit, "name": "No coil", "coil": None}}))["id"]
    other = client.put(f"/api/jobs/{job}", json={"name": "Apron", "technician": "T", "kit_id": bare})
    assert (other.status_code, other.json()["field"]) == (422, "kit_id")
    assert sent(client.get(f"/api/lines/{line}"))["length"] == "140"


def test_a_change_of_units_never_changes_what_a_typed_number_means(client, job, line, setup):
    sent(station(client, setup, distance="20", depth="78"))
    body = {"name": "Apron", "technician": "R. Tallow", "units": "imperial", "soil_resistivity": "120"}
    sent(client.put(f"/api/jobs/{job}", json=body))
    told = sent(client.get(f"/api/lines/{line}"))
    assert (told["length"], told["depth_min"]) == ("140m", "0.6m")
    trace = sent(client.get(f"/api/setups/{setup}/trace"))
    s = detail(client, trace["stations"][0])
    assert (s["typed"]["distance"], s["typed"]["depth"], s["typed"]["currents"]) == (
        "20m",
        "0.78m",
        STATION["currents"],
    )
    again = sent(client.put(f"/api/stations/{s['id']}", json={**s["typed"], "note": ""}))
    assert again["stations"][0]["depth_m"] == pytest.approx(0.78)
