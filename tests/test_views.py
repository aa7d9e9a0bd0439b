"""What the interface is told: where a line stands, what the loop says, what comes next."""

import pytest

from tests.conftest import SERVICE, STATION, detail, sent

DIRECT = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}


def line_state(client, job):
    return sent(client.get(f"/api/jobs/{job}"))["lines"][0]


def test_a_line_moves_through_its_steps(client, job, line):
    assert (line_state(client, job)["step"], line_state(client, job)["setup_text"]) == ("plan", None)
    setup = sent(client.post(f"/api/lines/{line}/setups", json=DIRECT))["id"]
    assert line_state(client, job)["step"] == "hookup"
    sent(client.post(f"/api/setups/{setup}/readings", json={"volts": "7.9", "milliamps": "30"}))
    assert line_state(client, job)["step"] == "sweep"
    sent(client.post(f"/api/setups/{setup}/candidates", json={"bearing": "2", "current": "28", "depth": "0.8"}))
    assert line_state(client, job)["step"] == "trace"
    trace = sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    state = line_state(client, job)
    assert (state["step"], state["stations"], state["marks"]) == ("trace", 1, 0)
    sent(client.post(f"/api/stations/{trace['stations'][0]['id']}/marks", json={}))
    state = line_state(client, job)
    assert (state["step"], state["marks"]) == ("mark", 1)
    assert state["setup_text"] == "Direct connection, 35.84 kHz, 30 mA"


def test_a_new_hookup_keeps_the_old_one_on_record(client, job, line, setup):
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    sent(client.post(f"/api/lines/{line}/setups", json={**DIRECT, "freq": "8.96k", "rx_freq": "8.96k"}))
    state = line_state(client, job)
    assert state["setup_text"] == "Direct connection, 8.96 kHz, 30 mA"
    assert state["stations"] == 1
    record = sent(client.get(f"/api/jobs/{job}/record"))["lines"][0]
    assert [h["freq_text"] for h in record["hookups"]] == ["35.84 kHz", "8.96 kHz"]
    assert [len(t["stations"]) for t in record["traces"]] == [1, 0]
    assert len(record["hookups"][0]["readings"]) == 2


@pytest.mark.parametrize(
    ("readings", "state", "says"),
    [
        ([], "not_read", "not proved"),
        ([("7.9", "30", "")], "different", "readings do not prove it"),
        ([("7.9", "30", ""), ("40", "4.3", "560")], "as_forecast", "far end not earthed"),
        ([("8.5", "30", ""), ("7.5", "30", "560")], "different", "Most likely: good loop, far end earthed"),
        (
            [("7.9", "30", ""), ("40", "4.3", "560"), ("8.5", "30", "", "far")],
            "as_forecast",
            "The far end was open; earthed now",
        ),
        ([("0.02", "30", "")], "unexplained", "do not fit this line"),
    ],
)
def test_the_loop_is_told_as_it_reads(client, line, readings, state, says):
    made = sent(client.post(f"/api/lines/{line}/setups", json=DIRECT))["id"]
    for volts, milliamps, freq, *change in readings:
        body = {"volts": volts, "milliamps": milliamps, "freq": freq, "change": "".join(change)}
        sent(client.post(f"/api/setups/{made}/readings", json=body))
    view = sent(client.get(f"/api/setups/{made}"))
    assert view["state"] == state
    assert says in view["headline"]
    assert view["advice"]
    if readings:
        assert sum(h["share"] for h in view["hypotheses"]) == pytest.approx(1.0, abs=0.06)
        shares = view["explained"]["shares"]
        assert max(shares, key=lambda s: abs(s["volts"])) == shares[0]


def test_an_unexplained_loop_holds_every_station(client, line):
    made = sent(client.post(f"/api/lines/{line}/setups", json=DIRECT))["id"]
    sent(client.post(f"/api/setups/{made}/readings", json={"volts": "0.02", "milliamps": "30"}))
    trace = sent(client.post(f"/api/setups/{made}/stations", json=STATION))
    findings = {f["rule_id"]: f["outcome"] for f in detail(client, trace["stations"][0])["findings"]}
    assert findings["loop"] == "hold"


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"peak_null": ""}, "correct"),  # a reading is missing here
        ({"neighbour": "23"}, "help"),  # another setup is what helps
        ({"currents": "8"}, "hookup"),  # too little for this loop
    ],
)
def test_one_place_is_led_to_where_the_next_step_is_taken(client, setup, change, where):
    for kind in ("access", "beside_located"):
        sent(client.post(f"/api/setups/{setup}/identity", json={"kind": kind, "answer": "for"}))
    body = {**STATION, **change, "insist": True}
    (s,) = sent(client.post(f"/api/setups/{setup}/stations", json=body))["stations"]
    assert detail(client, s)["next_at"] == where, s["headline"]


def test_the_next_station_is_suggested_and_not_past_the_end(client, setup):
    def after(*distances):
        trace = None
        for d in distances:
            trace = sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "distance": d}))
        return trace["next_distance"]

    assert sent(client.get(f"/api/setups/{setup}/trace"))["next_distance"] == ""
    assert after("6") == "12"
    assert after("14") == "22"
    assert after("135") == ""


def test_stations_come_back_by_distance_however_they_were_taken(client, setup):
    for d in ("40", "6", "20.5"):
        trace = sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "distance": d}))
    assert [s["distance_text"] for s in trace["stations"]] == ["6 m", "20.5 m", "40 m"]


def test_a_jump_in_depth_and_current_is_another_line(client, setup):
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    deeper = {**STATION, "distance": "26", "depth": "0.5", "depth_lifted": "1.0", "currents": "14 14.1 13.9"}
    trace = sent(client.post(f"/api/setups/{setup}/stations", json=deeper))
    jump = next(f for f in detail(client, trace["stations"][1])["findings"] if f["rule_id"] == "jump")
    assert jump["outcome"] in ("care", "hold")
    assert "stepped onto another line" in jump["why"]


def test_the_plan_sums_up_what_it_rejects(client, job):
    made = sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "bare_metal": False, "cased": True}))["id"]
    plan, first = (sent(client.get(f"/api/lines/{made}/plan{part}")) for part in ("/rest", ""))
    kinds = {(o["hookup"], o["rejected"]) for o in plan["rejected"]}
    assert ("direct", "No bare metal to connect to at this access point.") in kinds
    assert any(h == "clamp" and "casing" in why for h, why in kinds)
    best = [o for o in plan["options"] if o["best_of_kind"]]
    assert len({(o["hookup"], o["freq_hz"]) for o in best}) == len(best)
    # what is looked at first is in the first answer, whole and in order
    assert [o for o in first["options"] if o["best_of_kind"]] == best
    assert (first["ranked_count"], first["rejected_count"]) == (len(plan["options"]), len(plan["rejected"]))
    assert len(first["options"]) < first["ranked_count"]


KIT_FAULTS = [
    ({"volts_max": 0}, "volts_max"),
    ({"outputs_a": []}, "outputs_a"),
    ({"outputs_a": [0.0]}, "outputs_a"),
    ({"frequencies": []}, "frequencies"),
    ({"efficiency": 2}, "efficiency"),
    ({"clamp": {"turns": 0, "magnetising_h": 1e-3, "min_freq_hz": 0}}, "clamp.turns"),
    ({"receiver": {"low_m": 0.4, "high_m": 0.41}}, "receiver.high_m"),
]


@pytest.mark.parametrize(("change", "field"), KIT_FAULTS)
def test_an_impossible_kit_is_refused_by_field(client, change, field):
    kit = {**sent(client.get("/api/kits"))[0]["kit"], "name": "Own", **change}
    answer = client.post("/api/kits", json={"kit": kit})
    assert answer.status_code == 422
    assert answer.json()["field"].startswith(field)
    assert len(sent(client.get("/api/kits"))) == 1


def test_every_kind_has_its_colour_letter_and_pattern_and_every_make_is_listed(client, job):
    kinds = sent(client.get(f"/api/jobs/{job}"))["utilities"]
    assert len({(u["letter"], u["pattern"]) for u in kinds}) == len(kinds) == 8
    assert all(u["hex"].startswith("#") for u in kinds)
    found = sent(client.get("/api/catalogue"))
    assert {p["id"] for p in found["presets"]} >= {
        "tracer_wire",
        "coated_steel_pipe",
        "bare_steel_service",
        "bare_copper_service",
        "jointed_iron_main",
        "armoured_cable",
        "pair_cable",
        "power_bare_neutral",
        "rodded_drain",
    }


def test_a_typed_text_is_explained_while_typing_and_never_an_error(client):
    def ask(text, quantity, units="metric"):
        return sent(client.get("/api/understand", params={"text": text, "quantity": quantity, "units": units}))

    assert ask("1'11", "depth", "imperial") == {"ok": True, "shown": "1'11\"", "fix": ""}
    wrong = ask("63,0", "current")
    assert (wrong["ok"], wrong["fix"]) == (False, "Write the decimal point: 63.0.")


def test_a_setup_that_may_prove_nothing_is_never_one_to_use(client, job):
    pair = {**SERVICE, "name": "Telephone", "utility": "telecom", "preset": "pair_cable", "length": "60"}
    line = sent(client.post(f"/api/jobs/{job}/lines", json=pair))["id"]
    options = sent(client.get(f"/api/lines/{line}/plan/rest"))["options"]
    assert options[0]["proves"] == "mark"
    nothing = [o for o in options if o["proves"] in ("earthed", "depends")]
    assert nothing
    for o in options:
        # markable in every case that is forecast, or it says why not
        zero = any(not any(z["verdict"] == "mark" for z in f["zones"]) for f in o["forecasts"])
        assert (o["proves"] == "mark") <= (not zero)
        assert bool(o["proves_text"]) == (o["proves"] != "mark")
