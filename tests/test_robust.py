"""Whatever a client sends, the answer is a result or a refusal with a sentence: never a failure inside."""

import json

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.conftest import SERVICE, STATION

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
    @settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
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


JSON = st.recursive(
    st.one_of(
        st.none(), st.booleans(), st.integers(), st.floats(allow_nan=False, allow_infinity=False), st.text(max_size=5)
    ),
    lambda inner: st.one_of(st.lists(inner, max_size=3), st.dictionaries(st.text(max_size=5), inner, max_size=3)),
    max_leaves=5,
)


def test_any_damage_to_a_job_file_is_refused_or_harmless(client, demo):
    whole = json.loads(demo)

    def paths(node, at=()):
        yield at
        children = node.items() if isinstance(node, dict) else enumerate(node) if isinstance(node, list) else ()
        for key, child in children:
            yield from paths(child, (*at, key))

    spots = [p for p in paths(whole) if p]

    @settings(max_examples=80, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
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
            for view in (f"jobs/{made}", f"jobs/{made}/record", f"jobs/{made}/export", "jobs"):
                seen = client.get(f"/api/{view}")
                understood(seen)
                assert seen.status_code == 200, "what was let in must be readable"

    damage()


@pytest.mark.parametrize("body", ["", "{", "[]", "null", '{"name": 5}', '"text"'])
def test_a_body_that_is_no_form(client, body):
    understood(client.post("/api/jobs", content=body, headers={"content-type": "application/json"}))
