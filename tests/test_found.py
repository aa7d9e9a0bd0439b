"""What was found, on the plan: places of centre lines, stations and marks, and the zone round what is marked."""

import pytest
from shapely import Polygon

from tests.conftest import SERVICE, STATION, sent
from vessel.core.model.marking import USUAL_TOLERANCE_M as TOLERANCE_M

SETUP = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}


@pytest.fixture
def found(client, job):
    made = sent(client.post(f"/api/jobs/{job}/lines", json=SERVICE))["id"]
    drain = {**SERVICE, "name": "Drain", "preset": "no_metal"}
    plain = sent(client.post(f"/api/jobs/{job}/lines", json=drain))["id"]
    routes = [{"line_id": made, "route": "0, 0; 30, 0; 30, 40"}, {"line_id": plain, "route": "0, -9; 30, -9"}]
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": routes}))
    setup = sent(client.post(f"/api/lines/{made}/setups", json=SETUP))["id"]
    sent(client.post(f"/api/setups/{setup}/readings", json={"volts": "12.9", "milliamps": "30"}))
    sent(client.post(f"/api/setups/{setup}/candidates", json={"bearing": "90", "current": "29", "depth": "0.8"}))
    for distance in ("12", "20", "50"):
        trace = sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "distance": distance}))
    for s in trace["stations"][:2]:
        sent(client.post(f"/api/stations/{s['id']}/marks", json={"reason": "Seen in the trench beside it."}))
    return made, sent(client.get(f"/api/jobs/{job}/site/found"))


def test_everything_found_lies_where_it_was_taken(found):
    _, view = found
    line, drain = view["lines"]
    at = {(p["kind"], tuple(round(x, 6) for x in p["at"])) for p in line["points"]}
    assert {("mark", (12, 0)), ("mark", (20, 0)), ("station", (30, 20))} <= at
    (centre,) = [p for p in line["points"] if p["kind"] == "centre_line"]
    assert centre["at"] == pytest.approx((line["radius_m"], 0), abs=1e-6)  # due east of the hookup
    assert line["centre"] == [0, 0]
    assert (drain["points"], drain["centre"]) == ([], None)
    assert [s["state"] for s in drain["stretches"]] == ["missing"]


def test_the_zone_lies_round_what_is_marked_and_nowhere_else(found):
    _, view = found
    stretches = view["lines"][0]["stretches"]
    assert [bool(s["zone"]) for s in stretches] == [s["state"] == "marked" for s in stretches]
    for s in (s for s in stretches if s["state"] == "marked"):
        length = sum(abs(b[0] - a[0]) + abs(b[1] - a[1]) for a, b in zip(s["corners"], s["corners"][1:], strict=False))
        assert Polygon(s["zone"]).area == pytest.approx(2 * TOLERANCE_M * length)
    assert "0.45 m to either side" in view["zone_text"]


def test_a_job_without_a_drawing_has_nothing_on_the_plan(client, job, line):
    assert sent(client.get(f"/api/jobs/{job}/site/found"))["lines"] == []


def test_the_job_says_which_marks_are_still_due(client, job, found):
    made, _ = found
    (line, drain) = sent(client.get(f"/api/jobs/{job}/standing"))["lines"]
    assert line["id"] == made
    assert "Bend at 30 m: mark the corner itself, found from both sides." in line["due"]
    assert "20 m to 70 m without a mark: one is due at least every 10 m." in line["due"]
    assert any(text.startswith("0 m to 30 m without a mark") for text in drain["due"])
