"""Both leads on two conductors over the API: a way to look for a cable, which nothing is marked by."""

from tests.conftest import SERVICE, sent

CABLE = {**SERVICE, "name": "Quay telephone", "utility": "telecom", "preset": "pair_cable", "length": "90"}
CABLE |= {"depth_min": "0.3", "depth_max": "0.5"}


def test_a_pair_is_looked_for_in_its_own_safe_order_and_never_marked(client, job):
    line = sent(client.post(f"/api/jobs/{job}/lines", json=CABLE))["id"]
    assert not any(o["hookup"] == "pair" for o in sent(client.get(f"/api/lines/{line}/plan"))["options"])
    pair = sent(client.get(f"/api/lines/{line}/plan/rest"))["pair"]
    assert "never mark from it" in pair["text"]
    freq, output = f"{pair['freq_hz']}Hz", f"{pair['output_a']}A"
    body = {"hookup": "pair", "freq": freq, "output": output, "rx_freq": freq}
    path = f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json=body))['id']}"
    hookup = sent(client.get(path))
    steps = [s["id"] for s in hookup["steps"]]
    assert steps.index("both_ends") < steps.index("far_joined") < steps.index("both_leads") < steps.index("on")
    assert "stake" not in steps
    early = client.patch(path, json={"steps_done": ["off", "both_leads"]})
    assert (early.status_code, early.json()["field"]) == (422, "steps_done")
    joined, apart = hookup["forecasts"]
    assert (joined["title"], apart["title"]) == ("far ends joined", "far ends open")
    assert float(joined["text"].split(" V")[0]) < float(apart["text"].split(" V")[0])
    read = sent(client.post(f"{path}/readings", json={"volts": joined["text"].split(" V")[0], "milliamps": "60"}))
    assert "does not show where the line runs" in read["headline"]
    sent(client.post(f"{path}/identity", json={"kind": "access", "answer": "for"}))
    fine = {"distance": "20", "currents": "0.5 0.5 0.5", "depth": "0.10", "lift_height": "0.5", "depth_lifted": "0.34"}
    (station,) = sent(client.post(f"{path}/stations", json={**fine, "peak_null": "0.01"}))["stations"]
    assert station["verdict"] == "hold"
    detail = sent(client.get(f"/api/stations/{station['id']}"))
    assert detail["estimate_text"].startswith("Over a pair 0.10 m on the display is about 0.")
    assert "Hook up another way" in detail["next_step"]
    marked = client.post(f"/api/stations/{station['id']}/marks", json={})
    assert marked.status_code == 422  # not without a reason
    # every answer about it comes, and it goes with the job
    for view in ("/sweep", "/remedies", "/across?at_m=8", "/identity", "/trace"):
        sent(client.get(f"{path}{view}"))
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    assert sent(client.get(f"/api/jobs/{again}/standing"))
    asked = {"hookup": "pair", "freq_hz": pair["freq_hz"], "output_a": pair["output_a"]}
    sent(client.post(f"/api/lines/{line}/what-if", json=asked))


def test_two_bare_conductors_that_touch_are_no_pair(client, job):
    bare = {**CABLE, "overrides": {"insulation_m": 0}}
    line = sent(client.post(f"/api/jobs/{job}/lines", json=bare))["id"]
    assert sent(client.get(f"/api/lines/{line}/plan/rest"))["pair"] is None


def test_a_line_without_a_second_conductor_is_refused_by_name(client, line):
    body = {"hookup": "pair", "freq": "8.96k", "output": "60"}
    for answer in (
        client.post(f"/api/lines/{line}/setups", json=body),
        client.post(f"/api/lines/{line}/what-if", json={"hookup": "pair", "freq_hz": 8960, "output_a": 0.06}),
    ):
        assert answer.status_code == 422
        assert answer.json()["field"] == "hookup"
        assert "no second conductor" in answer.json()["message"]
    assert sent(client.get(f"/api/lines/{line}/plan/rest"))["pair"] is None
