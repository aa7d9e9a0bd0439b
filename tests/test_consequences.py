"""What a change does to verdicts is said before it is saved, and the same is true afterwards."""

import pytest

from tests.conftest import SERVICE, STATION, sent
from vessel.api import consequences


@pytest.fixture
def traced(client, setup):
    """A hookup with three stations, one of them marked; its path."""
    for at, amps in (("20", "25.8 26.1 25.9"), ("40", "22.5 22.4 22.6"), ("60", "19.6 19.5 19.4")):
        body = {**STATION, "distance": at, "currents": amps}
        trace = sent(client.post(f"/api/setups/{setup}/stations", json=body))
    sent(client.post(f"/api/stations/{trace['stations'][0]['id']}/marks", json={}))
    return f"/api/setups/{setup}"


def verdicts(client, path):
    return {s["id"]: s["verdict"] for s in sent(client.get(f"{path}/trace"))["stations"]}


def told(found, before):
    """The verdicts that consequences foretell, over those there were."""
    assert all(before[s["id"]] == s["was"] != s["now"] for s in found["stations"])
    return {**before, **{s["id"]: s["now"] for s in found["stations"]}}


def test_what_a_line_a_job_and_a_reading_would_change_is_what_they_change(client, job, line, traced):
    first = verdicts(client, traced)
    deeper = {**SERVICE, "depth_min": "1.4", "depth_max": "1.8"}
    wetter = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "wet_clay"}
    weaker = {"volts": "40", "milliamps": "12"}
    for ask, save, body in (
        (f"/api/lines/{line}/consequences", ("put", f"/api/lines/{line}"), deeper),
        (f"/api/jobs/{job}/consequences", ("put", f"/api/jobs/{job}"), wetter),
        (f"{traced}/readings/consequences", ("post", f"{traced}/readings"), weaker),
    ):
        before = verdicts(client, traced)
        found = sent(client.post(ask, json=body))
        assert verdicts(client, traced) == before, "asking changes nothing"
        sent(getattr(client, save[0])(save[1], json=body))
        assert verdicts(client, traced) == told(found, before)
    assert first != verdicts(client, traced)


def test_a_mark_on_a_station_that_changes_is_named_and_stays(client, line, traced):
    found = sent(client.post(f"/api/lines/{line}/consequences", json={**SERVICE, "depth_min": "2", "depth_max": "3"}))
    assert found["text"] == "3 of 3 stations would have another verdict."
    assert [s["marked"] for s in found["stations"]] == [True, False, False]
    assert found["stations"][0]["text"].endswith("→ Hold")
    assert "Withdraw it with the change, or let it stand" in found["marks_text"]
    first, *others = found["stations"]
    assert first["unproved"]["reason"].endswith("became Hold.")
    assert [s["unproved"] for s in others] == [None, None]
    sent(
        client.post(f"/api/marks/{first['unproved']['mark_id']}/withdraw", json={"reason": first["unproved"]["reason"]})
    )
    same = sent(client.post(f"/api/lines/{line}/consequences", json=SERVICE))
    assert (same["stations"], same["text"]) == ([], "Every station keeps its verdict.")


def test_what_cannot_be_saved_is_refused_before_anything_is_judged(client, job, line, traced, monkeypatch):
    monkeypatch.setattr(consequences, "judged_stations", lambda setup: pytest.fail("judged for nothing"))
    noise = {"rows": [{"freq_hz": 560.0, "here": "plenty", "quiet": ""}]}
    refused = client.post(f"/api/jobs/{job}/before/noise/consequences", json=noise)
    assert (refused.status_code, refused.json()["field"]) == (422, "rows.0.here")
    refused = client.post(f"/api/lines/{line}/consequences", json={**SERVICE, "depth_min": "2"})
    assert (refused.status_code, refused.json()["field"]) == (422, "depth_min")
    monkeypatch.undo()
    assert len(verdicts(client, traced)) == 3


def test_a_line_drawn_with_a_bend_changes_the_stations_at_the_bend(client, job, line, traced):
    plan = sent(client.get(f"/api/jobs/{job}/site"))["typed"]
    bent = {**plan, "routes": [{"line_id": line, "route": "0, 0; 40, 0; 40, 100"}]}
    before = verdicts(client, traced)
    found = sent(client.post(f"/api/jobs/{job}/site/consequences", json=bent))
    assert {s["distance_text"] for s in found["stations"]} >= {"40 m"}
    assert verdicts(client, traced) == before
    sent(client.put(f"/api/jobs/{job}/site", json=bent))
    assert verdicts(client, traced) == told(found, before)


def test_limits_of_a_kit_are_asked_of_every_job_that_uses_it(client, job, traced):
    before = verdicts(client, traced)
    strict = {"care": "1cm", "hold": "1.5cm", "reason": "A wall one metre off.", "units": "metric"}
    path = "/api/kits/1/bounds/peak_null"
    assert client.post(f"{path}/consequences", json={**strict, "reason": ""}).json()["field"] == "reason"
    found = sent(client.post(f"{path}/consequences", json=strict))
    assert found["stations"]
    assert verdicts(client, traced) == before
    sent(client.put(path, json=strict))
    assert verdicts(client, traced) == told(found, before)
