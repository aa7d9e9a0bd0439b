"""The trace over the API: guidance and direction, what happened, and how far the job is marked."""

from tests.conftest import SERVICE, STATION, detail, entered, sent


def stations(client, setup, *each):
    for s in each:
        trace = sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, **s}))
    return trace


def test_lost_guidance_holds_and_is_named_along_the_trace(client, job, setup):
    gone = {"distance": "30", "currents": "", "depth": "", "depth_lifted": "", "lost": True}
    trace = stations(client, setup, {"distance": "10"}, {"distance": "20"}, gone, {"distance": "40"})
    by = {s["distance_m"]: s for s in trace["stations"]}
    assert (by[30]["verdict"], by[30]["lost"]) == ("hold", True)
    assert "Walk a circle" in detail(client, by[30])["next_step"]
    (event,) = trace["events"]
    assert (event["kind"], event["start_m"], event["end_m"]) == ("bend", 20, 40)
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    assert entered(client.get(f"/api/jobs/{again}/export").text) == entered(text)


def test_a_current_that_runs_back_is_held(client, line):
    body = {"hookup": "direct", "freq": "8.96k", "output": "30", "rx_freq": "8.96k"}
    made = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    trace = stations(client, made, {"direction": "away"}, {"distance": "26", "direction": "towards"})
    assert "direction" in {f["id"] for f in trace["fields"]}
    held = detail(client, trace["stations"][1])
    assert held["verdict"] == "hold"
    assert {f["rule_id"]: f["outcome"] for f in held["findings"]}["direction"] == "hold"
    assert [e["kind"] for e in trace["events"]] == ["returns"]
    assert held["typed"]["direction"] == "towards"


def test_the_job_says_how_far_each_line_is_marked(client, job, setup):
    def lengths():
        (line,) = sent(client.get(f"/api/jobs/{job}"))["lines"]
        return {x["state"]: x["text"] for x in line["cover"]["lengths"]}

    assert lengths() == {"marked": "0 m", "doubtful": "0 m", "missing": "140 m"}
    trace = stations(client, setup, {"distance": "12"}, {"distance": "20"}, {"distance": "28", "peak_null": "0.5"})
    assert lengths() == {"marked": "0 m", "doubtful": "16 m", "missing": "124 m"}
    for s in trace["stations"][:2]:
        assert s["verdict"] == "mark"
        assert detail(client, s)["estimate_text"].startswith("Most likely")
        sent(client.post(f"/api/stations/{s['id']}/marks", json={}))
    assert lengths() == {"marked": "8 m", "doubtful": "8 m", "missing": "124 m"}
    assert detail(client, trace["stations"][2])["estimate_text"] == ""
    forced = {"reason": "Seen in the open trench beside it."}
    sent(client.post(f"/api/stations/{trace['stations'][2]['id']}/marks", json=forced))
    assert lengths()["doubtful"] == "8 m"


def test_two_lines_that_cross_at_one_depth_are_named(client, job):
    lines = [sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "name": n}))["id"] for n in ("East", "North")]
    routes = [{"line_id": i, "route": r} for i, r in zip(lines, ("0, 0; 60, 0", "20, -30; 20, 30"), strict=True)]
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": routes}))
    assert sent(client.get(f"/api/jobs/{job}/standing"))["crossings"] == []
    for i, at in zip(lines, ("23", "27"), strict=True):
        body = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}
        made = sent(client.post(f"/api/lines/{i}/setups", json=body))["id"]
        sent(client.post(f"/api/setups/{made}/readings", json={"volts": "8.2", "milliamps": "30"}))
        trace = stations(client, made, {"distance": at, "currents": "22 22 22", "neighbour": "0"})
        assert trace["stations"][0]["proved"], trace["stations"][0]["headline"]
    (text,) = sent(client.get(f"/api/jobs/{job}/standing"))["crossings"]
    assert "East and North cross 20 m along East, read at 0.78 m and 0.78 m" in text
