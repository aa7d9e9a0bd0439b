"""Valve wires over the API: the coil on the line form, in the plan and the safe order, and where the trace ends."""

import pytest

from tests.conftest import SERVICE, sent

WIRES = {
    **SERVICE,
    "name": "Planter valve wires",
    "utility": "reclaimed",
    "preset": "valve_wire",
    "length": "110",
    "depth_min": "0.3",
    "depth_max": "0.5",
    "far_kind": "open",
    "points": [{"name": "Valve 4", "kind": "valve_box", "at": "66", "solenoid": "30", "inductance": "50"}],
}


def test_a_valve_on_the_line_is_planned_past_hooked_up_safely_and_found(client, job):
    line = sent(client.post(f"/api/jobs/{job}/lines", json=WIRES))["id"]
    detail = sent(client.get(f"/api/lines/{line}"))
    assert [(p["solenoid"], p["inductance"]) for p in detail["points"]] == [("30", "50")]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    past = {o["freq_text"]: f["text"] for o in plan["options"] for f in o["facts"] if f["label"] == "Past Valve 4"}
    assert "finds the valve" in past["71.68\u00a0kHz" if "71.68\u00a0kHz" in past else "71.68 kHz"]
    rest = sent(client.get(f"/api/lines/{line}/plan/rest"))
    assert "nearly cancel" in rest["pair"]["text"]
    body = {"hookup": "direct", "freq": "71.68k", "output": "120", "rx_freq": "71.68k"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    assert "controller" in [s["id"] for s in sent(client.get(f"/api/setups/{setup}"))["steps"]]
    for at in range(6, 62, 6):  # what a wire with an open end at 63 m carries
        milli = 1.1 * (63 - at)
        station = {"distance": str(at), "currents": f"{milli:.3g}", "depth": "0.4"}
        sent(client.post(f"/api/setups/{setup}/stations", json=station))
    trace = sent(client.get(f"/api/setups/{setup}/trace"))
    assert "valve" in trace["end_text"]
    assert trace["end_step"] == "Look for the valve box there."
    assert trace["end"]["low_m"] < trace["end"]["at_m"] < trace["end"]["high_m"]
    assert trace["end"]["at_m"] == pytest.approx(63, abs=1)


def test_a_valve_box_on_the_plan_holds_the_coil_of_the_valve_wires_that_pass(client, job):
    wires = sent(client.post(f"/api/jobs/{job}/lines", json={**WIRES, "points": []}))["id"]
    gas = sent(client.post(f"/api/jobs/{job}/lines", json=SERVICE))["id"]
    box = {"name": "Valve 4", "kind": "valve_box", "at": "66, 0", "solenoid": "30", "inductance": "50"}
    site = {
        "routes": [{"line_id": wires, "route": "0, 0; 110, 0"}, {"line_id": gas, "route": "0, 0.5; 140, 0.5"}],
        "access": [box],
    }
    seen = sent(client.put(f"/api/jobs/{job}/site", json=site))
    assert "solenoid of 30 ohm" in seen["access"][0]["text"]
    assert [seen["typed"]["access"][0][k] for k in ("solenoid", "inductance")] == ["30", "50"]
    past = {
        line: [
            f["text"]
            for o in sent(client.get(f"/api/lines/{line}/plan"))["options"]
            for f in o["facts"]
            if f["label"] == "Past Valve 4"
        ]
        for line in (wires, gas)
    }
    assert past[wires]
    assert past[gas] == []
    copy = sent(client.post("/api/jobs/import", json={"text": client.get(f"/api/jobs/{job}/export").text}))["id"]
    assert sent(client.get(f"/api/jobs/{copy}/site"))["access"] == seen["access"]
    wrong = client.put(f"/api/jobs/{job}/site", json={**site, "access": [{**box, "solenoid": "many"}]})
    assert (wrong.status_code, wrong.json()["field"]) == (422, "access.0.solenoid")


def test_wires_tied_together_are_lifted_off_the_controller_too(client, job):
    line = sent(client.post(f"/api/jobs/{job}/lines", json={**WIRES, "points": []}))["id"]
    body = {"hookup": "direct", "freq": "8.96k", "output": "60"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    assert "controller" in [s["id"] for s in sent(client.get(f"/api/setups/{setup}"))["steps"]]


def test_a_coil_that_cannot_be_is_refused_by_its_field(client, job):
    for field, text in (("solenoid", "0.2"), ("inductance", "9 H"), ("inductance", "many")):
        points = [{**WIRES["points"][0], field: text}]
        refused = client.post(f"/api/jobs/{job}/lines", json={**WIRES, "points": points})
        assert (refused.status_code, refused.json()["field"]) == (422, f"points.0.{field}")
        assert refused.json()["fix"]


def test_a_rod_traced_as_a_line_ends_at_its_head(client, job):
    drain = {**SERVICE, "name": "Yard drain", "utility": "sewer", "preset": "rodded_drain", "length": "60"}
    line = sent(client.post(f"/api/jobs/{job}/lines", json=drain))["id"]
    body = {"hookup": "direct", "freq": "8.96k", "output": "60", "rx_freq": "8.96k"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    for at in range(3, 30, 4):
        station = {"distance": str(at), "currents": f"{0.9 * (31 - at):.3g}", "depth": "0.8"}
        sent(client.post(f"/api/setups/{setup}/stations", json=station))
    trace = sent(client.get(f"/api/setups/{setup}/trace"))
    assert "as on a rod whose head is 31 m along" in trace["end_text"]
    assert "turned a corner" in trace["end_step"]
