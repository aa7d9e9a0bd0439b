"""A drain without metal, found by a sonde: from the plan to the record, through the interface's own addresses."""

import json

import pytest

from tests.conftest import SERVICE, STATION, sent
from tests.sonde.pipes import field  # the dipole by its vector formula, not core's
from vessel.cli.judge import judge_command

DRAIN = {**SERVICE, "name": "Storm drain", "utility": "sewer", "preset": "no_metal", "length": "40", "depth_max": "1.6"}
RUN = {"freq": "560", "start": "0", "way": "on", "check_at": "1", "check_signal": "1000", "fall": "1:100"}


def heard(head_m, depth_m, **more):
    """What is read over a level head at a place: nulls, depth and signal as the dipole's field makes them."""
    import numpy as np

    h = depth_m + 0.05
    low, high = (
        abs(field(np.array([[0.0, 0.0, z]]), np.array([[0.0, 0.0, -depth_m]]), np.eye(3)[:1])[0, 0])
        for z in (0.05, 0.45)
    )
    shown = 0.4 / (np.cbrt(low / high) - 1) - 0.05
    return {
        "distance": f"{head_m:.2f}",
        "rod": f"{head_m:.2f}",
        "null_before": f"{head_m - h / 2**0.5:.2f}",
        "null_after": f"{head_m + h / 2**0.5:.2f}",
        "depth": f"{shown:.2f}m",
        "mode": "sonde",
        "signal": f"{1000 * low:.4g}",
        "ghost_before": f"{202 * low:.4g}",
        "ghost_after": f"{202 * low:.4g}",
        **more,
    }


@pytest.fixture
def drain(client):
    """A job with a drain, and a sonde run of it."""
    job = sent(client.post("/api/jobs", json={"name": "Apron", "technician": "R. Tallow", "soil_kind": "moist_sand"}))[
        "id"
    ]
    line = sent(client.post(f"/api/jobs/{job}/lines", json=DRAIN))["id"]
    run = sent(client.post(f"/api/lines/{line}/sonde-runs", json=RUN))["id"]
    return job, line, run


def stop(client, run, code=201, **body):
    answer = client.post(f"/api/sonde-runs/{run}/stops", json=body)
    assert answer.status_code == code, answer.text
    return answer.json()


def test_a_drain_is_marked_by_sonde_from_the_plan_to_the_record(client, drain):
    job, line, run = drain
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    assert "sonde" in plan["no_signal"]
    before = sent(client.get(f"/api/lines/{line}/sonde"))
    assert "1.31 m" not in before["forecast_text"]
    assert "nulls" not in before["shield_text"]
    assert "0.92 m to 2.33 m apart" in before["forecast_text"]
    for at, depth in ((4.0, 1.10), (8.0, 1.14), (12.0, 1.18), (16.0, 1.22)):
        view = stop(client, run, **heard(at, depth))
    assert [s["verdict"] for s in view["stops"]] == ["mark"] * 4
    assert all(abs(s["head_m"] - d) < 0.03 for s, d in zip(view["stops"], (1.10, 1.14, 1.18, 1.22), strict=True))
    assert "falls 10 ± 5 mm per metre" in view["fall_text"]
    assert "as it should" in view["fall_text"]
    for s in view["stops"]:
        detail = sent(client.get(f"/api/stops/{s['id']}"))
        assert "ROD" in detail["mark_label"]
        assert "top of the pipe" in detail["head_text"]
        made = sent(client.post(f"/api/stops/{s['id']}/marks", json={}))
        assert made["proved"]
        assert "sonde mode" in made["readings_text"]
    state = next(x for x in sent(client.get(f"/api/jobs/{job}"))["lines"] if x["id"] == line)
    assert state["step"] == "mark"
    assert state["marks"] == 4
    assert "sonde" in state["steps"]
    assert {x["state"]: x["text"] for x in state["cover"]["lengths"]}["marked"] == "16 m"
    record = sent(client.get(f"/api/jobs/{job}/record"))["lines"][0]
    assert record["sonde"][0]["run"]["title"].startswith("Sonde at 560 Hz")
    assert len(record["marks"]) == 4
    listed = sent(client.get("/api/jobs"))["jobs"][0]
    assert (listed["marks"], listed["with_marks"]) == (4, 1)


def test_a_depth_read_in_line_mode_is_named_and_held(client, drain):
    _, _, run = drain
    read = heard(5.0, 1.2)
    view = stop(client, run, **{**read, "depth": "0.26m"})  # what line mode shows of 1.2 m
    assert view["stops"][0]["verdict"] == "hold"
    detail = sent(client.get(f"/api/stops/{view['stops'][0]['id']}"))
    assert "line mode" in detail["headline"]
    assert "sonde mode" in detail["next_step"]
    assert abs(view["stops"][0]["head_m"] - 1.2) < 0.05  # and what was meant is worked out
    marked = client.post(f"/api/stops/{view['stops'][0]['id']}/marks", json={"reason": "short"})
    assert marked.status_code == 422
    assert marked.json()["field"] == "reason"


def test_a_head_that_turned_a_corner_is_noticed(client, drain):
    _, _, run = drain
    stop(client, run, **heard(4.0, 1.1))
    view = stop(client, run, **heard(6.0, 1.1, rod="8"))
    assert "turned a corner between 4 m and 6 m" in view["corners"][0]
    assert view["stops"][1]["verdict"] == "mark_with_care"


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"null_before": "5.4"}, "null_before"),
        ({"null_after": "4.9"}, "null_after"),
        ({"rod": "3"}, "rod"),
        ({"ghost_after": "9999"}, "ghost_after"),
    ],
)
def test_what_looks_like_a_slip_is_asked_about_and_kept_as_typed(client, drain, body, field):
    _, _, run = drain
    asked = stop(client, run, 422, **heard(5.0, 1.1, **body))
    assert asked["code"] == "doubtful"
    assert asked["field"] == field
    assert asked["fix"]
    kept = stop(client, run, **heard(5.0, 1.1, **body), insist=True)
    assert kept["stops"][0]["verdict"] != "mark"


def test_the_function_check_counts_and_says_what_it_changes(client, drain):
    _, _, run = drain
    stop(client, run, **heard(5.0, 1.1))
    wrong = {**RUN, "check_signal": "9000"}
    told = sent(client.post(f"/api/sonde-runs/{run}/consequences", json=wrong))
    assert told["stations"][0]["was"] == "mark"
    assert told["stations"][0]["what"] == "stop"
    view = sent(client.put(f"/api/sonde-runs/{run}", json=wrong))
    assert view["stops"][0]["verdict"] != "mark"
    assert view["run"]["check_signal"] == "9000"
    half = client.put(f"/api/sonde-runs/{run}", json={**RUN, "check_signal": ""})
    assert half.status_code == 422
    assert half.json()["field"] == "check_signal"


def test_sonde_and_frame_are_the_kits_own(client, drain):
    job, drained, _ = drain
    (kit,) = [k for k in sent(client.get("/api/kits")) if k["in_use"]]
    own = {**kit["kit"], "sonde_hz": 8960.0, "frame_m": 0.9}
    sent(client.put(f"/api/kits/{kit['id']}", json={"kit": own}))
    assert sent(client.get(f"/api/lines/{drained}/sonde"))["usual"].startswith("8.96")
    cable = {**SERVICE, "name": "Feed", "preset": "armoured_cable", "utility": "power"}
    line = sent(client.post(f"/api/jobs/{job}/lines", json=cable))["id"]
    assert sent(client.get(f"/api/lines/{line}/fault"))["usual_frame"].startswith("0.9")
    sent(client.post(f"/api/lines/{line}/fault-walks", json={"freq": "560"}))
    assert sent(client.get(f"/api/lines/{line}/fault"))["shown"]["walk"]["frame"].startswith("0.9")
    wrong = client.put(f"/api/kits/{kit['id']}", json={"kit": {**own, "frame_m": 30}})
    assert (wrong.status_code, wrong.json()["field"]) == (422, "frame_m")


def test_steps_come_in_order(client, drain):
    _, _, run = drain
    assert client.patch(f"/api/sonde-runs/{run}", json={"steps_done": ["clear"]}).status_code == 422
    view = sent(client.patch(f"/api/sonde-runs/{run}", json={"steps_done": ["agreed", "clear"]}))
    assert [s["done"] for s in view["run"]["steps"]] == [True, True, False, False, False]


def test_a_stop_is_struck_out_restored_and_has_a_history(client, drain):
    job, line, run = drain
    made = stop(client, run, **heard(5.0, 1.1))["stops"][0]["id"]
    client.put(f"/api/stops/{made}", json=heard(5.0, 1.1, note="by the kerb"))
    assert client.delete(f"/api/stops/{made}").status_code == 422  # without a reason
    assert client.delete(f"/api/stops/{made}?why=Wrong+pipe").status_code == 204
    struck = sent(client.get(f"/api/lines/{line}/sonde"))
    assert not struck["stops"]
    assert struck["struck"][0]["why"] == "Wrong pipe"
    assert client.post(f"/api/stops/{made}/restore").status_code == 204
    told = sent(client.get(f"/api/jobs/{job}/history?kind=sonde_stops&entry={made}"))["entries"]
    assert [e["action"] for e in told] == ["restored", "struck", "changed", "made"]
    assert "sonde stop at 5 m of Storm drain" in told[0]["text"]


def test_a_run_travels_with_the_job_file_and_the_command_line_judges_it(client, drain, tmp_path):
    job, _line, run = drain
    made = stop(client, run, **heard(5.0, 1.1))["stops"][0]["id"]
    sent(client.post(f"/api/stops/{made}/marks", json={}))
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    theirs = sent(client.get(f"/api/jobs/{again}"))["lines"][0]
    view = sent(client.get(f"/api/lines/{theirs['id']}/sonde"))
    assert theirs["marks"] == 1
    assert view["stops"][0]["verdict"] == "mark"
    assert view["run"]["fall"] == "1"
    file = tmp_path / "job.json"
    file.write_text(text)
    told = judge_command(type("Args", (), {"job": str(file)}))
    assert told["sonde_runs"][0]["stops"][0]["verdict"] == "mark"
    assert json.loads(text)["version"] == "1.15"


def test_a_stop_that_is_in_a_file_twice_is_struck_out_once(client, drain):
    job, _, run = drain
    stop(client, run, **heard(8.0, 0.9))
    file = json.loads(client.get(f"/api/jobs/{job}/export").text)
    (line,) = file["job"]["lines"]
    stops = line["sonde_runs"][0]["stops"]
    stops.append({**stops[0]})
    copy = sent(client.post("/api/jobs/import", json={"text": json.dumps(file)}))["id"]
    back = json.loads(client.get(f"/api/jobs/{copy}/export").text)["job"]["lines"][0]["sonde_runs"][0]["stops"]
    assert sorted(bool(s["deleted_at"]) for s in back) == [False, True]


def test_iron_round_the_pipe_is_reckoned_and_never_a_plain_mark(client, drain):
    job, _, _ = drain
    main = sent(
        client.post(f"/api/jobs/{job}/lines", json={**DRAIN, "name": "Old main", "preset": "jointed_iron_main"})
    )["id"]
    run = sent(client.post(f"/api/lines/{main}/sonde-runs", json=RUN))["id"]
    told = sent(client.get(f"/api/lines/{main}/sonde"))
    assert "lets out 0.06 %" in told["shield_text"]
    assert stop(client, run, **heard(5.0, 1.1))["stops"][0]["verdict"] == "hold"  # so loud it cannot be through iron


def test_sonde_and_trace_of_one_line_are_compared(client, job, line, setup):
    """A rod that is traced and a sonde on its end: two methods on one drain agree, or are said to disagree."""
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    run = sent(client.post(f"/api/lines/{line}/sonde-runs", json={**RUN, "fall": ""}))["id"]
    same = stop(client, run, **heard(20.4, 0.78, note="beside the station"))
    assert same["agreement"] == ["Sonde and trace agree in depth at 1 place."]
    client.delete(f"/api/stops/{same['stops'][0]['id']}?why=Misread")
    other = stop(client, run, **heard(20.2, 0.98))
    assert other["agreement"] == [
        "At 20.2 m the sonde says 0.98 m deep, the trace 0.80 m. Write no depth there until you know why."
    ]
    steps = next(x for x in sent(client.get(f"/api/jobs/{job}"))["lines"] if x["id"] == line)["steps"]
    assert steps == ["plan", "hookup", "sweep", "trace", "sonde", "mark"]


def test_a_depth_by_sonde_counts_where_lines_cross(client, job):
    service = sent(client.post(f"/api/jobs/{job}/lines", json=SERVICE))["id"]
    drain = sent(client.post(f"/api/jobs/{job}/lines", json=DRAIN))["id"]
    routes = [{"line_id": service, "route": "0, 0; 140, 0"}, {"line_id": drain, "route": "20, -20; 20, 20"}]
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": routes}))
    body = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}
    made = sent(client.post(f"/api/lines/{service}/setups", json=body))["id"]
    for kind in ("access", "ends_at", "second_frequency"):
        sent(client.post(f"/api/setups/{made}/identity", json={"kind": kind, "answer": "for"}))
    for volts, milliamps, freq in (("7.9", "30", ""), ("40", "4.3", "560")):
        sent(client.post(f"/api/setups/{made}/readings", json={"volts": volts, "milliamps": milliamps, "freq": freq}))
    sent(client.post(f"/api/setups/{made}/stations", json=STATION))
    run = sent(client.post(f"/api/lines/{drain}/sonde-runs", json={**RUN, "fall": ""}))["id"]
    stop(client, run, **heard(20.0, 0.79))
    (told,) = sent(client.get(f"/api/jobs/{job}/standing"))["crossings"]
    assert "Gas service" in told
    assert "Storm drain" in told
