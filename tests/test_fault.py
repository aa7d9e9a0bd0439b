"""A cable with ground faults, found with a frame: from the plan to the record, through the interface's own addresses."""

import re

import numpy as np
import pytest

from tests.conftest import SERVICE, sent
from tests.fault.ground import potential  # images in layered soil, not core's
from vessel.cli.judge import judge_command

CABLE = {
    **SERVICE,
    "name": "Bollard cable",
    "utility": "power",
    "preset": "pair_cable",
    "length": "90",
    "depth_min": "0.5",
    "depth_max": "0.7",
    "far_kind": "open",
}
STEPS = ["dead", "near_off", "far_off", "bonds_off", "stake_off", "lowest"]
STAKE = (-5.0, 10.0, 0.2)
FRAME = 0.6


def ground(faults, *, depth_m=0.6):
    """Sources of faults (place, current) with their return at the stake."""
    return [(x, 0.0, depth_m, a) for x, a in faults] + [(*STAKE, -sum(a for _, a in faults))]


def shown(x, sources, **more):
    """What a frame shows at a place, as it is typed."""
    at = np.array([[x + FRAME / 2, 0.0], [x - FRAME / 2, 0.0]])
    v = float(np.subtract(*potential(at, sources)))
    return {"distance": f"{x:.1f}", "arrow": "on" if v > 0 else "back", "level": f"{100 * abs(v):.3g}", **more}


def at_stake(sources):
    """The level at the stake: the frame points at it, the nearer spike half a metre off."""
    whole = -sources[-1][3]
    return f"{100 * whole * (1 / np.hypot(0.5, 0.2) - 1 / np.hypot(0.5 + FRAME, 0.2)):.4g}"


@pytest.fixture
def cable(client):
    """A job with a cable, and a walk along it that is made ready."""
    told = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "moist_sand"}
    job = sent(client.post("/api/jobs", json=told))["id"]
    line = sent(client.post(f"/api/jobs/{job}/lines", json=CABLE))["id"]
    return job, line


def started(client, line, sources, *, steps=STEPS, **more):
    walk = {"freq": "560", "volts": "30", "milliamps": "12", "reference": at_stake(sources), **more}
    made = sent(client.post(f"/api/lines/{line}/fault-walks", json=walk))["id"]
    sent(client.patch(f"/api/fault-walks/{made}", json={"steps_done": steps}))
    return made


def walked(client, walk, sources, places):
    view = None
    for x in places:
        view = sent(client.post(f"/api/fault-walks/{walk}/readings", json={**shown(x, sources), "insist": True}))
    return view["shown"]


AROUND = [40.6, 41.2, 41.8, 42.4, 43.0, 43.6]


def test_a_fault_is_found_marked_and_kept(client, cable, tmp_path):
    job, line = cable
    before = sent(client.get(f"/api/lines/{line}/fault"))
    assert "a fault of 1000 ohm" in before["forecast_text"]
    assert before["refused"] == ""
    sources = ground([(42.1, 1.0)])
    walk = started(client, line, sources)
    view = walked(client, walk, sources, [*np.arange(8.0, 88.0, 5.0), *AROUND])
    (fault,) = view["faults"]
    assert fault["at_m"] == pytest.approx(42.1, abs=0.15)
    assert fault["said"] == "narrow"  # it was not turned across yet
    assert "Turn the frame across" in fault["next_step"]
    across = {**shown(42.1, sources, across="null"), "arrow": "null", "level": ""}
    view = sent(client.post(f"/api/fault-walks/{walk}/readings", json=across))["shown"]
    (fault,) = view["faults"]
    assert (fault["said"], fault["label"]) == ("found", "Fault found")
    mark = sent(client.post(f"/api/fault-walks/{walk}/marks", json={"at_m": fault["at_m"]}))
    assert (mark["label"], mark["verdict_label"]) == ("E FAULT 42.1 m", "Fault found")
    assert client.post(f"/api/fault-walks/{walk}/marks", json={"at_m": fault["at_m"]}).status_code == 409
    told = client.post(
        f"/api/fault-walks/{walk}/consequences", json={"freq": "560", "volts": "30", "milliamps": "0.02"}
    )
    (changed,) = sent(told)["stations"]
    assert (changed["what"], changed["was"], changed["now"], changed["marked"]) == ("fault", "mark", "hold", True)
    state = sent(client.get(f"/api/jobs/{job}"))["lines"][0]
    assert state["cover"]["lengths"][0]["text"] == "0 m"  # a fault locates no line
    assert "fault" in state["steps"]
    record = sent(client.get(f"/api/jobs/{job}/record"))["lines"][0]
    assert record["faults"][0]["faults"][0]["mark_id"] == mark["id"]
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    theirs = sent(client.get(f"/api/jobs/{again}"))["lines"][0]["id"]
    assert sent(client.get(f"/api/lines/{theirs}/fault"))["shown"]["faults"][0]["mark_id"]
    file = tmp_path / "job.json"
    file.write_text(text)
    told = judge_command(type("Args", (), {"job": str(file)}))["fault_walks"][0]
    assert (told["faults"][0]["said"], round(told["faults"][0]["at_m"])) == ("found", 42)
    assert "fault,Bollard cable" in client.get(f"/api/jobs/{job}/found.csv").text


def test_two_faults_are_told_apart_with_their_shares(client, cable):
    _, line = cable
    sources = ground([(30.0, 0.7), (61.0, 0.3)])
    walk = started(client, line, sources)
    view = walked(
        client,
        walk,
        sources,
        [*np.arange(6.0, 86.0, 5.0), *(x + d for x in (30.0, 61.0) for d in (-1.6, -0.8, 0.8, 1.6))],
    )
    assert [round(f["at_m"]) for f in view["faults"]] == [30, 61]
    shares = [int(re.search(r"takes (\d+) %", f["text"]).group(1)) for f in view["faults"]]
    assert shares == pytest.approx([70, 30], abs=10)
    assert shares[0] / shares[1] == pytest.approx(7 / 3, rel=0.15)


def test_an_earth_that_is_still_on_is_named(client, cable):
    _, line = cable
    sources = ground([(42.1, 1.0)])
    walk = started(client, line, sources, steps=[s for s in STEPS if s != "far_off"])
    view = walked(client, walk, sources, [30.0, 34.0, 38.0, *AROUND, 46.0, 50.0])
    assert view["faults"][0]["said"] == "not_proved"
    assert "Earths may still be on" in view["faults"][0]["headline"]
    told = client.post(f"/api/fault-walks/{walk}/marks", json={"at_m": view["faults"][0]["at_m"]})
    assert (told.status_code, told.json()["field"]) == (422, "reason")


def test_an_end_that_may_be_earthed_is_no_fault(client, cable):
    job, _ = cable
    line = sent(client.post(f"/api/jobs/{job}/lines", json={**CABLE, "far_kind": "unknown"}))["id"]
    sources = ground([(89.6, 1.0)])
    walk = started(client, line, sources)
    view = walked(client, walk, sources, [60.0, 70.0, 80.0, 86.0, 88.2, 88.8, 89.4, 90.0, 90.6])
    assert view["faults"][-1]["said"] == "not_proved"
    assert "may be earthed" in view["faults"][-1]["headline"]


def test_no_fault_where_none_is_and_where_to_walk_on(client, cable):
    _, line = cable
    sources = ground([(84.0, 1.0)])
    walk = started(client, line, sources)
    view = walked(client, walk, sources, np.arange(4.0, 40.0, 4.0))
    assert view["faults"] == []
    assert view["next_text"].startswith("No fault shown up to 36 m. Walk on")


@pytest.mark.parametrize(
    ("body", "field"),
    [
        ({"distance": "20.2", "arrow": "back", "level": "30"}, "arrow"),
        ({"distance": "30", "arrow": "null", "level": "30"}, "level"),
        ({"distance": "70", "arrow": "back", "level": "900"}, "level"),
    ],
)
def test_what_looks_like_a_slip_is_asked_about(client, cable, body, field):
    _, line = cable
    sources = ground([(42.1, 1.0)])
    walk = started(client, line, sources)
    for x in (19.9, 20.5, 23.0, 26.0, 29.0):
        sent(client.post(f"/api/fault-walks/{walk}/readings", json=shown(x, sources)))
    asked = client.post(f"/api/fault-walks/{walk}/readings", json=body)
    assert (asked.status_code, asked.json()["code"], asked.json()["field"]) == (422, "doubtful", field)
    assert client.post(f"/api/fault-walks/{walk}/readings", json={**body, "insist": True}).status_code == 201


def test_a_reading_is_struck_out_and_bare_metal_is_refused(client, cable):
    job, line = cable
    sources = ground([(42.1, 1.0)])
    walk = started(client, line, sources)
    view = walked(client, walk, sources, [10.0, 13.0])
    first = view["readings"][0]["id"]
    assert client.delete(f"/api/frame-readings/{first}?why=Misread").status_code == 204
    after = sent(client.get(f"/api/lines/{line}/fault"))["shown"]
    assert (len(after["readings"]), after["struck"][0]["why"]) == (1, "Misread")
    assert client.post(f"/api/frame-readings/{first}/restore").status_code == 204
    bare = sent(client.post(f"/api/jobs/{job}/lines", json={**CABLE, "preset": "bare_copper_service"}))["id"]
    assert "bare in the soil" in sent(client.get(f"/api/lines/{bare}/fault"))["refused"]
    assert client.post(f"/api/lines/{bare}/fault-walks", json={"freq": "560"}).status_code == 409
    half = client.post(f"/api/lines/{line}/fault-walks", json={"freq": "560", "volts": "30"})
    assert (half.status_code, half.json()["field"]) == (422, "milliamps")
