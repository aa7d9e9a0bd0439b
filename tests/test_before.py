"""The sheet, the noise and the passive sweep over the API: kept with the job, followed by plan and judge."""

import json

import pytest

from tests.conftest import detail, sent


def before(client, job):
    return sent(client.get(f"/api/jobs/{job}/before"))


def answer(client, job, check, value, **more):
    return client.put(f"/api/jobs/{job}/before/checks/{check}", json={"answer": value, **more})


def test_answers_stand_with_who_gave_them_and_can_be_taken_back(client, job):
    assert before(client, job)["state"] == "open"
    found = sent(answer(client, job, "notice", "yes", technician="I. Moor"))
    first = found["groups"][0]["checks"][0]
    assert (first["answer"], first["by"]) == ("yes", "I. Moor")
    assert sent(client.get(f"/api/jobs/{job}"))["before_text"] == "1 of 11"
    assert sent(answer(client, job, "hears", "no"))["state"] == "stop"
    assert sent(client.get(f"/api/jobs/{job}"))["before_state"] == "stop"
    assert sent(answer(client, job, "hears", ""))["state"] == "open"
    unexplained = answer(client, job, "traffic", "not_needed")
    assert (unexplained.status_code, unexplained.json()["field"]) == (422, "note")
    assert answer(client, job, "weather", "yes").status_code == 422
    assert before(client, job)["groups"] == found["groups"]


def test_noise_read_on_site_moves_the_plan_and_the_judge(client, job, line, setup):
    plan = sent(client.get(f"/api/lines/{line}/plan"))["options"][0]
    body = {"distance": "40", "currents": "26 26 26", "depth": "0.8"}
    sent(client.post(f"/api/setups/{setup}/stations", json=body))
    own = sent(client.get(f"/api/setups/{setup}"))["freq_hz"]
    rows = [{"freq_hz": f, "here": "60dB", "quiet": "6dB"} for f in {plan["freq_hz"], own}]
    found = sent(client.put(f"/api/jobs/{job}/before/noise", json={"rows": rows}))
    assert {n["freq_hz"] for n in found["noise"] if n["noisiness"] == "noisy"} == {plan["freq_hz"], own}
    assert sent(client.get(f"/api/lines/{line}/plan"))["options"][0]["freq_hz"] != plan["freq_hz"]
    judged = sent(client.get(f"/api/setups/{setup}/trace"))["stations"][0]
    signal = next(f for f in detail(client, judged)["findings"] if f["rule_id"] == "signal")
    assert (judged["verdict"], signal["outcome"]) == ("hold", "hold")


@pytest.mark.parametrize(
    ("row", "field"),
    [
        ({"freq_hz": 8960, "here": "a lot"}, "rows.0.here"),
        ({"freq_hz": 8960, "quiet": "5"}, "rows.0.here"),
        ({"freq_hz": 8960, "here": "90dB", "quiet": "1"}, "rows.0.here"),
        ({"freq_hz": 8960, "here": "5", "quiet": "0"}, "rows.0.quiet"),
        ({"freq_hz": 9000, "here": "5", "quiet": "5"}, "rows.0.freq_hz"),
    ],
)
def test_a_level_that_cannot_be_is_refused_by_its_row(client, job, row, field):
    refused = client.put(f"/api/jobs/{job}/before/noise", json={"rows": [row]})
    assert (refused.status_code, refused.json()["field"]) == (422, field)
    assert refused.json()["fix"]
    assert all(not n["here"] for n in before(client, job)["noise"])


def test_passive_hits_stand_on_the_plan_and_go_with_the_job(client, job, line):
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": [{"line_id": line, "route": "0, 0; 40, 0"}]}))
    hits = [{"source": "mains", "place": "20, 0.5"}, {"source": "radio", "place": "20, 8", "note": "faint"}]
    body = {"spacing": "2", "hits": hits}
    found = sent(client.put(f"/api/jobs/{job}/before/passive", json=body))["passive"]
    assert [h["explained"] for h in found["hits"]] == [False, False]
    assert "Gas service is drawn, which carries none" in found["hits"][0]["text"]
    assert [h["at"] for h in sent(client.get(f"/api/jobs/{job}/site"))["hits"]] == [[20.0, 0.5], [20.0, 8.0]]
    lost = client.put(f"/api/jobs/{job}/before/passive", json={"hits": [{"source": "mains"}]})
    assert (lost.status_code, lost.json()["field"]) == (422, "hits.0.place")
    far = client.put(f"/api/jobs/{job}/before/passive", json={"hits": [{"source": "mains", "place": "1, 2; 3, 4"}]})
    assert far.json()["field"] == "hits.0.place"
    sent(answer(client, job, "walked", "not_needed", note="Same crew as yesterday"))
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}), 201)["id"]
    assert before(client, again)["passive"] == before(client, job)["passive"]
    assert before(client, again)["groups"] == before(client, job)["groups"]
    assert "Same crew" in json.dumps(sent(client.get(f"/api/jobs/{again}/record"))["before"])


def test_the_grid_is_walked_strip_by_strip_and_by_two_at_once(client, job):
    def grid():
        return before(client, job)["passive"]["grid"]

    def walk(what, **body):
        return client.put(f"/api/jobs/{job}/before/passive/{what}", json={"walked": True, **body})

    assert "Draw the dig area" in grid()["lacks"]
    sent(client.put(f"/api/jobs/{job}/site", json={"dig": "0 E, 0 N; 40 E, 0 N; 40 E, 10 N; 0 E, 10 N"}))
    assert "Set the distance" in grid()["lacks"]
    assert walk("strips/A1").json()["fix"].startswith("Draw the dig area")
    close = client.put(f"/api/jobs/{job}/before/passive", json={"spacing": "0.2"})
    assert (close.status_code, close.json()["field"]) == (422, "spacing")
    sent(client.put(f"/api/jobs/{job}/before/passive", json={"spacing": "2.5"}))
    assert (grid()["next_id"], [len(w["strips"]) for w in grid()["ways"]]) == ("A1", [4, 16])
    sent(walk("strips/A1", technician="I. Moor"))
    sent(walk("strips/A1", technician="K. Fenner"))  # walked already: the first stays
    sent(walk("strips/A2", technician="K. Fenner"))
    along = grid()["ways"][0]
    assert (along["count_text"], grid()["next_id"]) == ("2 of 4", "A3")
    assert "walked by I. Moor" in along["strips"][0]["text"]
    assert walk("strips/C9").status_code == 422
    # the whole way ticked, then one of it taken back: the others stay walked
    sent(walk("ways/A"))
    assert (grid()["ways"][0]["done"], grid()["next_id"]) == (True, "B1")
    sent(client.put(f"/api/jobs/{job}/site", json={"dig": "0 E, 0 N; 60 E, 0 N; 60 E, 10 N; 0 E, 10 N"}))
    assert not grid()["ways"][0]["done"]  # ticked on a smaller area: the longer strips are not walked
    sent(client.put(f"/api/jobs/{job}/site", json={"dig": "0 E, 0 N; 40 E, 0 N; 40 E, 10 N; 0 E, 10 N"}))
    sent(walk("strips/A4", walked=False))
    assert (grid()["ways"][0]["count_text"], grid()["next_id"]) == ("3 of 4", "A4")
    exported = client.get(f"/api/jobs/{job}/export").text
    assert len(json.loads(exported)["job"]["before"]["passive"]["walked"]) == 3
    other = sent(client.post("/api/jobs/import", json={"text": exported}))["id"]
    assert before(client, other)["passive"]["grid"]["ways"][0]["count_text"] == "3 of 4"
    sent(walk("ways/A", walked=False))
    assert grid()["ways"][0]["count_text"] == "0 of 4"
