"""Whatever a client sends, the answer is a result or a refusal with a sentence: never a failure inside.

A few examples each; `make soak` tries hundreds (`--hypothesis-profile=long`).
"""

import json
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import SERVICE, STATION, sent
from tests.soak.imports import fuzzed
from vessel.api.jobs.demo_jobs import DEMO_JOBS, demo_text

TEXTS = st.one_of(
    st.sampled_from(
        ["", "0", "-1", "63,0", "1e400", "NaN", "inf", "1'11", "99999999", "0.58", "1e-9", "８", "½", "\x00"]
    ),
    st.text(max_size=8),
    st.floats(allow_nan=False).map(str),
)
FORMS = {
    "jobs": ["name", "dig", "due_at", "soil_kind", "soil_resistivity", "technician"],
    "jobs/{job}/lines": ["name", "utility", "preset", "length", "depth_min", "depth_max", "near_earth", "far_earth"],
    "lines/{line}/setups": ["freq", "output", "rx_freq", "position", "stake_away", "stake", "clip"],
    "setups/{setup}/readings": ["volts", "milliamps", "freq"],
    "setups/{setup}/stations": list(STATION),
}
GOOD = {
    "jobs": {"name": "A", "technician": "T"},
    "jobs/{job}/lines": SERVICE,
    "lines/{line}/setups": {"hookup": "direct", "freq": "560", "output": "30"},
    "setups/{setup}/readings": {"volts": "20", "milliamps": "30"},
    "setups/{setup}/stations": STATION,
}


def understood(response) -> None:
    assert response.status_code < 500, response.text
    if response.content:
        json.loads(response.text, parse_constant=lambda c: pytest.fail(f"{c} in an answer"))
    if response.status_code >= 400:
        body = response.json()
        assert set(body) == {"code", "field", "message", "fix"}
        assert body["message"]


@pytest.mark.parametrize("url", FORMS)
def test_any_text_in_any_field(client, job, line, setup, url):
    @given(field=st.sampled_from(FORMS[url]), text=TEXTS)
    def send(field, text):
        where = "/api/" + url.format(job=job, line=line, setup=setup)
        answer = client.post(where, json={**GOOD[url], field: text})
        understood(answer)
        if answer.status_code == 422 and not answer.json()["field"].startswith("construction"):
            assert answer.json()["field"]

    send()
    for view in (f"jobs/{job}", f"setups/{setup}", f"setups/{setup}/trace", f"jobs/{job}/record", "jobs"):
        understood(client.get(f"/api/{view}"))


def test_a_current_of_next_to_nothing_is_kept_and_held(client, setup):
    sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "currents": "2e-308"}))
    (station,) = sent(client.get(f"/api/setups/{setup}/trace"))["stations"]
    assert station["verdict"] == "hold"


JSON = st.recursive(
    st.one_of(
        st.none(), st.booleans(), st.integers(), st.floats(allow_nan=False, allow_infinity=False), st.text(max_size=5)
    ),
    lambda inner: st.one_of(st.lists(inner, max_size=3), st.dictionaries(st.text(max_size=5), inner, max_size=3)),
    max_leaves=5,
)


@pytest.mark.parametrize("name", DEMO_JOBS)
def test_any_damage_to_a_job_file_is_refused_or_harmless(client, name):
    demo = demo_text(name)
    whole = json.loads(demo)

    def paths(node, at=()):
        yield at
        children = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
        for key, child in children:
            yield from paths(child, (*at, key))

    spots = [p for p in paths(whole) if p]

    @given(spot=st.sampled_from(spots), value=JSON)
    def damage(spot, value):
        doc = json.loads(demo)
        node = doc
        for key in spot[:-1]:
            node = node[key]
        node[spot[-1]] = value
        answer = client.post("/api/jobs/import", json={"text": json.dumps(doc)})
        understood(answer)
        if answer.status_code == 201:
            made = answer.json()["id"]
            for view in (f"jobs/{made}", f"jobs/{made}/record", f"jobs/{made}/export", f"jobs/{made}/site", "jobs"):
                seen = client.get(f"/api/{view}")
                understood(seen)
                assert seen.status_code == 200, "what was let in must be readable"

    damage()


def test_a_place_nobody_can_be_at_is_refused_by_name(client):
    doc = json.loads(demo_text(DEMO_JOBS[1]))
    doc["job"]["site"]["access"][0]["at"] = [1e308, 0]
    answer = client.post("/api/jobs/import", json={"text": json.dumps(doc)})
    understood(answer)
    assert answer.status_code == 422
    assert "site.access.0.at" in answer.json()["message"]


@pytest.mark.parametrize("odd", ["NaN", 1e308, "Infinity"])
@pytest.mark.parametrize("system", ["", "site", "EPSG:25832"])
def test_a_track_through_no_place_is_refused(client, job, odd, system):
    line = {"type": "LineString", "coordinates": [[3.0, 51.0], [3.001, 51.0], [3.002, odd]]}
    body = {"text": json.dumps(line), "system": system}
    answer = client.post(f"/api/jobs/{job}/site/tracks", json=body)
    understood(answer)
    assert answer.status_code == 422


@pytest.mark.parametrize("body", ["", "{", "[]", "null", '{"name": 5}', '"text"'])
def test_a_body_that_is_no_form(client, body):
    understood(client.post("/api/jobs", content=body, headers={"content-type": "application/json"}))


SITE = {
    "routes.0.route": lambda text: {"routes": [{"line_id": 1, "route": text}]},
    "access.0.at": lambda text: {"access": [{"name": "P", "at": text}]},
    "access.0.earth": lambda text: {"access": [{"name": "P", "at": "1, 1", "earth": text}]},
    "structures.0": lambda text: {"structures": [{"name": "W", "preset": "sheet_pile", "route": text, "depth": "1m"}]},
    "structures.0.depth": lambda text: {
        "structures": [{"name": "W", "preset": "sheet_pile", "route": "0, 9; 9, 9", "depth": text}]
    },
    "hard.0": lambda text: {"hard": [{"name": text, "outline": "0, 0; 9, 0; 9, 9"}]},
    "dig": lambda text: {"dig": text},
    "bonds.0": lambda text: {"bonds": [{"a": "W", "a_at": text, "b": "Gas service", "b_at": "5"}]},
}
ROUTES = st.lists(
    st.sampled_from(["0, 0", "10, -3", "1e9, 0", "7 at 60", "then", ";", "-5, 5", "3 m at N", "at", ",", "0, 0"]),
    max_size=6,
).map("; ".join)


@pytest.mark.parametrize("field", SITE)
def test_any_text_anywhere_on_a_plan(client, job, line, field):
    @given(text=st.one_of(TEXTS, ROUTES))
    def send(text):
        answer = client.put(f"/api/jobs/{job}/site", json=SITE[field](text))
        understood(answer)
        if answer.status_code == 422:
            assert answer.json()["field"]
            assert answer.json()["fix"]
        understood(client.post(f"/api/jobs/{job}/site/understand", json={"text": text}))

    send()
    for view in (f"jobs/{job}/site", f"jobs/{job}", f"lines/{line}"):
        assert client.get(f"/api/{view}").status_code == 200


def test_any_file_of_tracks_is_read_or_refused(client, job):
    shapes = st.fixed_dictionaries(
        {"type": st.sampled_from(["LineString", "MultiLineString", "Polygon", "Point", "Feature"]), "coordinates": JSON}
    )
    texts = st.one_of(TEXTS, JSON.map(json.dumps), shapes.map(json.dumps), TEXTS.map(lambda x: f"<gpx>{x}</gpx>"))

    @given(text=texts, system=st.sampled_from(["", "site", "EPSG:25832", "EPSG:0", "nowhere"]))
    def send(text, system):
        understood(client.post(f"/api/jobs/{job}/site/tracks", json={"text": text, "system": system}))

    send()


@pytest.mark.parametrize(
    "change",
    [
        {"freq_hz": 1.0},
        {"output_a": 0.0},
        {"position_m": -1.0},
        {"position_m": 9999.0},
        {"without_bonds": [99]},
        {"soil_resistivity": "0.0001"},
        {"hookup": "induction", "freq_hz": 560},
    ],
)
def test_impossible_what_ifs_are_answered_in_words(client, line, change):
    body = {"hookup": "direct", "freq_hz": 8960, "output_a": 0.03, **change}
    understood(client.post(f"/api/lines/{line}/what-if", json=body))
    understood(client.post(f"/api/lines/{line}/unknowns", json=body))


HUGE = "9" * 30
ODD = [
    ("post", "/api/jobs", "[" * 100_000, 400),
    ("post", "/api/jobs", '{"name":' * 5_000, 400),
    ("post", "/api/jobs/import", json.dumps({"text": "[" * 100_000}), 422),
    ("post", "/api/jobs/import", json.dumps({"text": '{"a":' * 100_000 + "1" + "}" * 100_000}), 422),
    ("post", "/api/jobs/import", '{"text":"' + "a" * 26_000_000 + '"}', 413),
    ("post", "/api/jobs", '{"name":"a\\ud800","technician":"T"}', 422),
    ("post", "/api/jobs", '{"name":"a","technician":"T","kit_id":NaN}', 422),
    ("post", "/api/jobs", '{"name":"a","technician":"T","kit_id":' + HUGE + "}", 422),
    ("put", "/api/jobs/{job}", '{"name":"a","technician":"T","seen":' + HUGE + "}", 422),
    ("get", "/api/jobs/{job}/history?entry=" + HUGE, "", 422),
    ("get", "/api/jobs?before=" + HUGE, "", 422),
    ("get", "/api/jobs/" + HUGE, "", 404),
    ("patch", "/api/jobs/{job}", "{}", 405),
    ("get", "/api/nothing", "", 404),
]


@pytest.mark.parametrize(("method", "path", "body", "status"), ODD)
def test_deep_huge_and_foreign_bodies_are_refused_in_the_one_shape_of_refusals(client, job, method, path, body, status):
    headers = {"Content-Type": "application/json"}
    answer = client.request(method, path.format(job=job), content=body or None, headers=headers)
    assert answer.status_code == status
    assert set(answer.json()) == {"code", "field", "message", "fix"}
    assert answer.json()["message"]
    assert len(sent(client.get("/api/jobs"))["jobs"]) == 1


def test_damaged_files_and_columns_are_refused_whole_or_come_back_as_they_went_out(client, job, setup):
    wrong, let_in, _ = fuzzed(client, job, setup, 30, Random(7))
    assert wrong == []
    assert let_in > 2
