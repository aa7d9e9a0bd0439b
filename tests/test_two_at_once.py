"""Two people on one job: what the other changed is told before it is overwritten, and plans are put together."""

import time

import pytest

from tests.conftest import SERVICE, STATION, sent
from vessel.api import job_answers


def told(answer):
    body = answer.json()
    assert (answer.status_code, body["code"]) == (409, "changed_meanwhile"), body
    return body["message"]


def test_a_save_from_an_old_copy_of_a_line_says_who_changed_what_and_overwrites_only_when_told_to(client, line):
    path, seen = f"/api/lines/{line}", sent(client.get(f"/api/lines/{line}"))["seen"]
    other = {"X-Vessel-Who": "M. Irsa"}
    sent(client.put(path, json={**SERVICE, "depth_max": "1.2", "seen": seen}, headers=other))
    mine = {**SERVICE, "length": "150", "seen": seen}
    for ask in (client.put(path, json=mine), client.post(f"{path}/consequences", json=mine)):
        message = told(ask)
        assert message.startswith("M. Irsa changed this at ")
        assert "Maximum depth 1.00 m → 1.20 m" in message
    assert sent(client.get(path))["depth_max"] == "1.2"
    now = sent(client.get(path))["seen"]
    both = {**SERVICE, "length": "150", "depth_max": "1.2", "seen": now}
    sent(client.put(path, json=both))
    sent(client.put(path, json={**mine, "seen": None}))  # told to
    assert sent(client.get(path))["length"] == "150"


def test_a_job_and_a_station_are_guarded_alike_and_a_drawn_route_is_no_change_of_the_lines_form(
    client, job, line, setup
):
    made = sent(client.post(f"/api/setups/{setup}/stations", json=STATION))["stations"][0]["id"]
    station = f"/api/stations/{made}"
    seen = sent(client.get(station))["seen"]
    sent(client.put(station, json={**STATION, "depth": "0.8", "seen": seen}))
    assert "Depth on the ground 0.78 m → 0.80 m" in told(client.put(station, json={**STATION, "seen": seen}))
    view = sent(client.get(f"/api/jobs/{job}"))
    form = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "loam", "seen": view["seen"]}
    sent(client.put(f"/api/jobs/{job}", json=form))
    assert "Soil kind" in told(client.put(f"/api/jobs/{job}", json={**form, "soil_kind": "rock"}))
    seen = sent(client.get(f"/api/lines/{line}"))["seen"]
    plan = sent(client.get(f"/api/jobs/{job}/site"))["typed"]
    sent(client.put(f"/api/jobs/{job}/site", json={**plan, "routes": [{"line_id": line, "route": "0, 0; 140, 0"}]}))
    sent(client.put(f"/api/lines/{line}", json={**SERVICE, "name": "Gas main", "seen": seen}))


@pytest.fixture
def plan(client, job, line):
    """Two lines on an empty plan: where it is saved, the plan as both phones loaded it, and the lines."""
    second = sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "name": "Cable"}))["id"]
    view = sent(client.get(f"/api/jobs/{job}/site"))
    return f"/api/jobs/{job}/site", {**view["typed"], "seen": view["seen"]}, (line, second)


def post_at(name, at):
    return {"name": name, "kind": "pillar", "at": at}


def test_two_phones_that_draw_two_lines_both_succeed(client, plan):
    path, loaded, (gas, cable) = plan
    sent(client.put(path, json={**loaded, "routes": [{"line_id": gas, "route": "0, 0; 140, 0"}]}))
    second = {**loaded, "routes": [{"line_id": cable, "route": "0, 5; 100, 5"}], "access": [post_at("P1", "0, 5")]}
    view = sent(client.put(path, json=second))
    assert {x["name"] for x in view["lines"]} == {"Gas service", "Cable"}
    third = {**loaded, "access": [post_at("P2", "50, 5")]}
    view = sent(client.put(path, json=third))
    assert {a["name"] for a in view["access"]} == {"P1", "P2"}
    assert {r["line_id"] for r in view["typed"]["routes"]} == {gas, cable}


def test_both_changed_one_line_is_told_and_an_undo_takes_back_its_own_change_only(client, plan):
    path, loaded, (gas, cable) = plan
    mine = sent(client.put(path, json={**loaded, "routes": [{"line_id": gas, "route": "0, 0; 140, 0"}]}))
    message = told(client.put(path, json={**loaded, "routes": [{"line_id": gas, "route": "0, 0; 90, 0"}]}))
    assert message.startswith("You and somebody else both changed Gas service.")
    theirs = [*mine["typed"]["routes"], {"line_id": cable, "route": "0, 5; 100, 5"}]
    sent(client.put(path, json={**mine["typed"], "routes": theirs, "seen": mine["seen"]}))
    # the first phone undoes: the plan it had before, put back on what it saved
    view = sent(client.put(path, json={**loaded, "seen": mine["seen"]}))
    assert [x["name"] for x in view["lines"]] == ["Cable"]


def test_what_a_device_sends_again_is_stored_once_and_a_refusal_does_not_count(client, setup):
    named = {"X-Vessel-Post": "desk 4 17"}
    address = f"/api/setups/{setup}/candidates"
    body = {"bearing": "40", "current": "20", "depth": "0.8"}
    assert client.post(address, json={**body, "current": "much"}, headers=named).status_code == 422
    sent(client.post(address, json=body, headers=named))
    again = client.post(address, json=body, headers=named)
    assert (again.status_code, again.json()["code"]) == (409, "stored_already")
    sent(client.post(address, json={**body, "bearing": "90"}, headers={"X-Vessel-Post": "desk 4 18"}))
    assert len(sent(client.get(f"/api/setups/{setup}/sweep"))["candidates"]) == 2


def test_nothing_is_judged_while_the_write_lock_is_held(client, setup, monkeypatch):
    held, judge = [], job_answers.judge_stations

    def watched(*args, **kwargs):
        turn = client.app.state.turn
        for _ in range(100):  # it is given back by another thread, a moment later on a loaded machine
            if not turn.locked():
                break
            time.sleep(0.02)
        held.append(turn.locked())
        return judge(*args, **kwargs)

    monkeypatch.setattr(job_answers, "judge_stations", watched)
    odd = {**STATION, "distance": "23.71", "currents": "25.83 26.14 25.92"}  # nothing that another test had judged
    trace = sent(client.post(f"/api/setups/{setup}/stations", json=odd))
    (station,) = trace["stations"]
    monkeypatch.setattr(job_answers, "_judged", job_answers.remembered(4)(job_answers._judged.__wrapped__))
    mark = sent(client.post(f"/api/stations/{station['id']}/marks", json={"reason": "The kerb shows where it lies."}))
    sent(client.post(f"/api/marks/{mark['id']}/withdraw", json={"reason": "Painted at the wrong kerb."}))
    assert len(held) >= 2
    assert not any(held)
