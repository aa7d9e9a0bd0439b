"""The first sweep over the API: logged, corrected, taken back, kept; what it leaves in doubt follows to the trace."""

import json

import pytest

from tests.conftest import entered, sent
from vessel.api.job_answers import judged_of
from vessel.formats import job_file
from vessel.formats.loaded_job import checked

TARGET = {"bearing": "358", "current": "28", "depth": "0.8"}


def log(client, setup, **fields):
    return sent(client.post(f"/api/setups/{setup}/candidates", json={**TARGET, **fields}))


def test_a_sweep_says_what_to_walk_then_what_was_met(client, setup):
    before = sent(client.get(f"/api/setups/{setup}/sweep"))
    assert (before["state"], before["candidates"], before["concerns"]) == ("not_swept", [], [])
    assert before["circle_text"].startswith("Walk a full circle")
    assert before["expected"][0]["ours"]
    assert "nothing proves yet" in sent(client.get(f"/api/setups/{setup}/trace"))["sweep_text"]
    after = log(client, setup)
    assert (after["state"], after["candidates"][0]["role"]) == ("sure", "target")
    assert "28 mA" in after["reason"]
    assert sent(client.get(f"/api/setups/{setup}/trace"))["sweep_text"] == ""


def test_what_was_met_beside_counts_among_what_speaks_of_other_lines(client, setup):
    job = sent(client.get("/api/jobs"))["jobs"][0]["id"]

    def twins():
        kept = checked(job_file.load(client.get(f"/api/jobs/{job}/export").text).job)
        w = judged_of(kept.lines[0].setups[0]).weighed
        return sum(c for e, c in zip(w.rivals.explanations, w.chance, strict=True) if e.kind == "twin_both")

    unswept = twins()
    log(client, setup)
    alone = twins()
    log(client, setup, bearing="10", current="15")
    assert alone < unswept < twins()


def test_a_centre_line_is_corrected_removed_and_restored(client, setup):
    first = log(client, setup, direction="towards")["candidates"][0]
    assert first["typed"]["direction"] == "towards"
    doubtful = sent(client.put(f"/api/candidates/{first['id']}", json={**TARGET, "current": "4"}))
    assert doubtful["state"] == "doubt"
    assert any("less than the transmitter" in c["text"] for c in doubtful["concerns"])
    assert "First sweep" in sent(client.get(f"/api/setups/{setup}/trace"))["sweep_text"]
    client.delete(f"/api/candidates/{first['id']}?why=Another line")
    assert sent(client.get(f"/api/setups/{setup}/sweep"))["state"] == "not_swept"
    client.post(f"/api/candidates/{first['id']}/restore")
    assert len(sent(client.get(f"/api/setups/{setup}/sweep"))["candidates"]) == 1


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"bearing": ""}, "bearing"),
        ({"bearing": "400"}, "bearing"),
        ({"bearing": "north-ish"}, "bearing"),
        ({"current": "a lot"}, "current"),
        ({"signal_lifted": "5"}, "signal"),
    ],
)
def test_what_cannot_be_is_refused_by_its_field(client, setup, change, field):
    answer = client.post(f"/api/setups/{setup}/candidates", json={**TARGET, **change})
    assert (answer.status_code, answer.json()["field"]) == (422, field)
    assert answer.json()["fix"]
    assert sent(client.get(f"/api/setups/{setup}/sweep"))["candidates"] == []


def test_decibels_are_a_ratio_and_a_sweep_goes_with_its_job(client, job, setup):
    log(client, setup, signal="60dB", signal_lifted="56dB", lift_height="0.5")
    text = client.get(f"/api/jobs/{job}/export").text
    (kept,) = json.loads(text)["job"]["lines"][0]["setups"][0]["candidates"]
    assert kept["signal"] / kept["signal_lifted"] == pytest.approx(10 ** (4 / 20))
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    assert entered(client.get(f"/api/jobs/{again}/export").text) == entered(text)


def test_a_mark_keeps_what_the_sweep_said(client, setup):
    log(client, setup)
    station = {"distance": "20", "currents": "28 28 28", "depth": "0.8", "peak_null": "0.02", "neighbour": "0"}
    trace = sent(client.post(f"/api/setups/{setup}/stations", json=station))
    reason = {"reason": "Kept for the record of this sweep."}
    mark = sent(client.post(f"/api/stations/{trace['stations'][0]['id']}/marks", json=reason))
    assert mark
    record = client.get("/api/jobs/1/export").json()
    snapshot = record["job"]["lines"][0]["setups"][0]["stations"][0]["marks"][0]["snapshot"]
    assert snapshot["sweep"] == "The centre line where this line should run is the target."
