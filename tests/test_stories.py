"""Stories at the transmitter: after each change every screen says the same of the loop."""

import re

import pytest

from tests.conftest import SERVICE, sent


def hooked(client, line, **body):
    made = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "direct", "output": "120", **body}))
    return f"/api/setups/{made['id']}"


def read(client, path, volts, milliamps, **more):
    return sent(client.post(f"{path}/readings", json={"volts": str(volts), "milliamps": str(milliamps), **more}))


def lead(view):
    first = view["hypotheses"][0]
    return first["cause"], first["mended"]


def far_volts(view):
    return sum(s["volts"] for s in view["explained"]["shares"] if "far end" in s["label"])


def test_the_far_end_was_open_and_is_earthed_now_on_every_screen(client, line):
    path = hooked(client, line, freq="8.96k")
    first = read(client, path, 38, 71)
    assert lead(first) == ("far_open", False)
    deeper = read(client, path, 38, 75, change="stake")
    assert lead(deeper) == ("far_open", False)
    assert far_volts(deeper) == 0
    for view, volts in ((first, 38), (deeper, 38)):
        shares = [s["volts"] for s in view["explained"]["shares"]]
        assert min(shares) >= 0
        assert sum(shares) == pytest.approx(volts)
    now = read(client, path, 16.9, 120, change="far")
    assert lead(now) == ("far_open", True)
    assert now["state"] == "as_forecast"
    assert now["headline"] == "The far end was open; earthed now. The loop is good."
    for words in (now["advice"], now["hypotheses"][0]["remedy"]):
        assert words.startswith("Go on with the first sweep.")
        assert "watch the current jump" not in words
    assert far_volts(now) > 0
    assert max(s["volts"] for s in now["explained"]["shares"]) <= 16.9
    # nothing advises what has been done, and the forecast is that of an earthed line
    helps = sent(client.get(f"{path}/remedies"))
    assert "far" not in [r["kind"] for r in helps["helping"]]
    assert "not earthed" not in helps["headline"]
    trace = sent(client.get(f"{path}/trace"))
    assert trace["band"]["low_a"][-1] > 0.02


def test_a_proof_at_low_frequency_is_asked_for_again_once_something_was_changed(client, line):
    path = hooked(client, line, freq="8.96k", output="30")
    assert read(client, path, 40, 4.3, freq="560")["continuity"]["state"] == "not_proved"
    changed = read(client, path, 8.6, 30, change="far")
    assert changed["continuity"]["state"] == "outdated"
    assert "Earth the far end" not in changed["continuity"]["text"]
    assert read(client, path, 8.4, 30, freq="560")["continuity"]["state"] == "proved"


def test_a_bad_clip_cleaned_is_said_to_have_been_one(client, line):
    path = hooked(client, line, freq="35.84k", output="60")
    bad = read(client, path, 39, 30)
    assert not bad["hypotheses"][0]["mended"]
    clean = read(client, path, 14.6, 60, change="clip")
    assert lead(clean) == ("bad_clip", True)
    assert clean["headline"].startswith("The clip was bad; cleaned now")
    assert clean["advice"].startswith("Go on")


def test_a_wrong_reading_is_left_out_by_starting_again_and_stays_on_record(client, job, line):
    path = hooked(client, line, freq="8.96k")
    read(client, path, 4, 120)  # the volts of another line's transmitter
    now = read(client, path, 38, 71)
    assert now["state"] == "unexplained"
    assert "start again at a later one" in now["advice"]
    first, last = (r["id"] for r in now["readings"])
    sent(client.patch(f"/api/readings/{last}", json={"anew": True}), 204)
    now = sent(client.get(path))
    assert lead(now) == ("far_open", False)
    assert [(r["id"], r["counts"], r["anew"]) for r in now["readings"]] == [(first, False, False), (last, True, True)]
    # it goes with the job to another device, and what is not counted is printed as such
    text = client.get(f"/api/jobs/{job}/export").text
    copy = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    (hookup,) = sent(client.get(f"/api/jobs/{copy}/record"))["lines"][0]["hookups"]
    assert [r["counts"] for r in hookup["readings"]] == [False, True]
    assert lead(hookup) == ("far_open", False)
    sent(client.patch(f"/api/readings/{last}", json={"anew": False}), 204)
    assert sent(client.get(path))["state"] == "unexplained"


def test_what_was_changed_before_still_holds_after_starting_again(client, line):
    path = hooked(client, line, freq="8.96k")
    read(client, path, 4, 120)
    now = read(client, path, 16.9, 120, change="far")
    sent(client.patch(f"/api/readings/{now['readings'][1]['id']}", json={"anew": True}), 204)
    view = sent(client.get(path))
    assert "far_open" not in {h["cause"] for h in view["hypotheses"] if not h["mended"]}
    assert "arth the far end" not in view["advice"]
    # one reading alone leaves open whether it is the far end: it says so and does not call the loop good
    assert view["state"] == "different"


def test_a_bond_is_asked_about_and_told_from_an_earth_by_what_the_line_beside_carries(client, job, line):
    beside = {"name": "Water main", "preset": "coated_steel_pipe", "side": "right", "offset": "1.2", "depth": "1.2"}
    body = {
        **SERVICE,
        "far_kind": "earthed",
        "far_earth": "30",
        "neighbours": [{**beside, "start": "", "end": "", "start_earth": "10", "end_earth": "10", "bond": ""}],
    }
    sent(client.put(f"/api/lines/{line}", json=body))

    def forecast(freq):
        view = sent(client.get(hooked(client, line, freq=freq, output="30")))
        (text,) = (f["text"] for f in view["forecasts"] if f["title"] == "far end earthed")
        return re.findall(r"[\d.]+", text)[:2]

    at = {freq: forecast(freq) for freq in ("560", "8.96k", "35.84k", "71.68k", "143.36k")}
    path = hooked(client, line, freq="8.96k", output="30")
    for freq, (volts, milliamps) in at.items():
        now = read(client, path, volts, milliamps, freq=freq)
    # volts and milliamps are those of a good loop, and of a bond: it is not called good
    assert now["hypotheses"][0]["cause"] == "far_earthed"
    assert now["state"] == "different"
    assert now["asks_beside"]
    assert "Water main" in now["advice"]
    volts, milliamps = at["8.96k"]
    quiet = read(client, path, volts, milliamps, beside="quiet")
    assert quiet["state"] == "as_forecast"
    assert not quiet["asks_beside"]
    (last,) = [r for r in quiet["readings"] if r["beside_text"]]
    sent(client.delete(f"/api/readings/{last['id']}?why=Misread"), 204)
    carries = read(client, path, volts, milliamps, beside="carries")
    assert carries["state"] == "different"
    assert "bonded" in [h["cause"] for h in carries["hypotheses"][:2]]


COLLECTOR = {
    "name": "Collector cable",
    "utility": "power",
    "preset": "power_bare_neutral",
    "length": "900",
    "depth_min": "0.8",
    "depth_max": "1.0",
    "live": True,
    "bare_metal": False,
    "near_earth": "2",
    "far_kind": "earthed",
    "far_earth": "2",
}


def test_a_collector_cable_is_traced_by_two_who_carry_the_transmitter_along(client):
    body = {"name": "Collector", "technician": "R. Tallow", "soil_kind": "moist_sand", "soil_resistivity": "40"}
    job = sent(client.post("/api/jobs", json=body))["id"]
    line = sent(client.post(f"/api/jobs/{job}/lines", json=COLLECTOR))["id"]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    moving = plan["moving"]
    apart = moving["apart_m"]
    assert f"{apart:g} m apart" in moving["title"]
    chosen = {
        "hookup": moving["hookup"],
        "freq": f"{moving['freq_hz']}Hz",
        "output": f"{moving['output_a']}A",
        "apart": f"{apart}m",
    }
    path = f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json=chosen))['id']}"
    hookup = sent(client.get(path))
    assert hookup["title"] == moving["title"]
    steps = [s["id"] for s in hookup["steps"]]
    assert steps[-3:] == ["on", "carry", "air"]
    assert "away" not in steps  # nobody walks away from a transmitter that comes along
    sent(client.patch(path, json={"steps_done": steps}))
    assert sent(client.get(f"{path}/remedies"))["helping"] == []
    trace = sent(client.get(f"{path}/trace"))
    assert trace["title"] == moving["title"]
    assert f"{apart:g} m behind you" in trace["carried_text"]
    band = trace["band"]
    # the current does not fade along 900 m: the transmitter is always as near
    middle = [0.5 * (a + b) for a, b in zip(band["low_a"], band["high_a"], strict=True)]
    assert min(middle) > 0.5 * max(middle)
    for at in (14, 100, 300, 500, 700, 880):
        amps = 1e3 * middle[min(range(81), key=lambda k: abs(band["distance_m"][k] - at))]
        readings = {"currents": f"{amps:.3g} {1.01 * amps:.3g} {amps:.3g}", "depth": "0.9", "depth_lifted": "1.4"}
        body = {"distance": str(at), "lift_height": "0.5", "peak_null": "0.02", "neighbour": "0", **readings}
        trace = sent(client.post(f"{path}/stations", json=body))
    # a clean trace, and yet care: nothing shows which line it is
    assert {s["verdict"] for s in trace["stations"]} == {"mark_with_care"}
    assert trace["stations"][0]["coil_text"] == f"transmitter at {14 + apart:g} m"
    assert trace["stations"][-1]["coil_text"] == f"transmitter at {880 - apart:g} m"
    last = trace["stations"][-1]["id"]
    sent(client.post(f"/api/stations/{last}/marks", json={}))
    # a third of what is expected here is not explained by distance from the transmitter
    weak = {"currents": f"{0.3 * amps:.3g}", "depth": "0.9", "peak_null": "0.02", "neighbour": "0"}
    held = sent(client.post(f"{path}/stations", json={"distance": "400", "insist": True, **weak}))
    assert next(s for s in held["stations"] if s["distance_m"] == 400)["verdict"] == "hold"
    text = client.get(f"/api/jobs/{job}/export").text
    copy = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    record = client.get(f"/api/jobs/{copy}/record").text
    assert moving["title"] in record
    assert f"transmitter at {880 - apart:g} m" in record


def test_only_a_coil_is_carried_and_only_along_a_line_long_enough(client, line):
    for body, field in (
        ({"hookup": "direct", "freq": "8.96k", "output": "60", "apart": "20"}, "apart"),
        ({"hookup": "induction", "freq": "35.84k", "output": "120", "apart": "75"}, "apart"),
        ({"hookup": "induction", "freq": "35.84k", "output": "120", "apart": "2"}, "apart"),
    ):
        refused = client.post(f"/api/lines/{line}/setups", json=body)
        assert refused.status_code == 422
        assert refused.json()["field"] == field


def columns(*at_m, earth="10"):
    """Lamp columns on a line, each an earth of its own."""
    reach = {"bare_metal": True, "live": False, "in_service": True, "cased": False}
    return [
        {"name": f"Column {k}", "kind": "lamp_column", "at": str(at), "earth": earth, **reach}
        for k, at in enumerate(at_m, start=1)
    ]


def test_lamp_columns_take_their_share_at_each_and_the_coil_is_placed_anew(client, job):
    feed = {
        "name": "Lighting feed",
        "utility": "power",
        "preset": "armoured_cable",
        "length": "160",
        "depth_min": "0.5",
        "depth_max": "0.7",
        "live": True,
        "far_kind": "earthed",
        "far_earth": "10",
        "near_earth": "10",
        "points": columns(40, 80, 120),
    }
    line = sent(client.post(f"/api/jobs/{job}/lines", json=feed))["id"]
    typed = sent(client.get(f"/api/lines/{line}"))
    assert [(p["name"], p["at"], p["earth"]) for p in typed["points"]] == [
        ("Column 1", "40", "10"),
        ("Column 2", "80", "10"),
        ("Column 3", "120", "10"),
    ]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    assert [(m["kind"], m["at_m"]) for m in plan["landmarks"]] == [("access", 40), ("access", 80), ("access", 120)]
    # live as a whole: nothing is connected, at no column either
    assert {o["hookup"] for o in plan["options"]} <= {"induction", "clamp"}
    chosen = {"hookup": "induction", "freq": "35.84k", "output": "120", "position": "10"}
    path = f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json=chosen))['id']}"
    band = sent(client.get(f"{path}/trace"))["band"]

    def amps(at):
        k = min(range(len(band["distance_m"])), key=lambda k: abs(band["distance_m"][k] - at))
        return 0.5 * (band["low_a"][k] + band["high_a"][k])

    # about half goes on past each column
    for before, after in ((36, 44), (76, 84), (116, 124)):
        assert 0.3 < amps(after) / amps(before) < 0.8
    # set down again at the second column the signal is back
    moved = {**chosen, "position": "90"}
    again = f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json=moved))['id']}"
    there = sent(client.get(f"{again}/trace"))["band"]
    assert there["high_a"][60] > 3 * band["high_a"][60]


def test_what_stands_on_a_line_is_refused_by_its_field_and_goes_with_the_job(client, job):
    body = {**SERVICE, "points": columns(40, 90)}
    for change, field in (
        ({"at": "150"}, "points.1.at"),
        ({"name": ""}, "points.1.name"),
        ({"earth": "0"}, "points.1.earth"),
    ):
        bad = {**body, "points": [body["points"][0], {**body["points"][1], **change}]}
        refused = client.post(f"/api/jobs/{job}/lines", json=bad)
        assert (refused.status_code, refused.json()["field"]) == (422, field)
    anode = {**columns(60)[0], "name": "Anode", "kind": "anode", "earth": ""}
    refused = client.post(f"/api/jobs/{job}/lines", json={**body, "points": [anode]})
    assert refused.json()["field"] == "points.0.earth"
    line = sent(client.post(f"/api/jobs/{job}/lines", json={**body, "points": [{**anode, "earth": "20"}]}))["id"]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    assert [m["kind"] for m in plan["landmarks"]] == ["earth"]
    # nobody gets at a buried anode: no hookup is planned there
    assert all("Anode" not in o["place_text"] for o in plan["options"])
    text = client.get(f"/api/jobs/{job}/export").text
    copy = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    (state,) = sent(client.get(f"/api/jobs/{copy}"))["lines"]
    assert state["points_text"] == "Anode at 60 m, earthed 20 ohm"
    for good, bad in (('"at_m": 60.0', '"at_m": -60.0'), ('"earth_ohm": 20.0', '"earth_ohm": -20.0')):
        assert good in text
        refused = client.post("/api/jobs/import", json={"text": text.replace(good, bad)})
        assert (refused.status_code, refused.json()["code"]) == (422, "out_of_range")


def test_a_cable_through_pedestals_is_clamped_again_past_each_bond_and_stays_one_line(client, job):
    pedestals = [
        {**p, "name": f"Pedestal {k}", "kind": "pedestal", "bare_metal": False}
        for k, p in enumerate(columns(60, 120, 180, earth="1"), start=1)
    ]
    cable = {
        "name": "Television cable",
        "utility": "telecom",
        "preset": "armoured_cable",
        "length": "240",
        "depth_min": "0.4",
        "depth_max": "0.6",
        "bare_metal": False,
        "near_earth": "1",
        "far_kind": "earthed",
        "far_earth": "1",
        "points": pedestals,
    }
    line = sent(client.post(f"/api/jobs/{job}/lines", json=cable))["id"]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    clamps = {o["place_text"].split(",")[0] for o in plan["options"] if o["hookup"] == "clamp"}
    assert {"Clamp at the near end", "Clamp at Pedestal 1", "Clamp at Pedestal 2"} <= clamps
    assert not any(o["hookup"] == "direct" for o in plan["options"]), "no bare metal anywhere"

    def clamped(at):
        body = {"hookup": "clamp", "freq": "35.84k", "output": "120", "position": at}
        return f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json=body))['id']}"

    def amps(path, at):
        band = sent(client.get(f"{path}/trace"))["band"]
        k = min(range(len(band["distance_m"])), key=lambda k: abs(band["distance_m"][k] - at))
        return 0.5 * (band["low_a"][k] + band["high_a"][k])

    first = clamped("0.5")
    # the signal ends at the next bond: past it there is little
    assert amps(first, 150) < 0.3 * amps(first, 30)
    second = clamped("120.5")
    assert amps(second, 150) > 3 * amps(first, 150)
    # both hookups are the same line's: one list of stations to mark, one record
    for path, at, read in ((first, "30", amps(first, 30)), (second, "150", amps(second, 150))):
        body = {"distance": at, "currents": f"{1e3 * read:.4g}", "depth": "0.5", "peak_null": "0.01", "neighbour": "0"}
        sent(client.post(f"{path}/stations", json=body))
    (told,) = sent(client.get(f"/api/jobs/{job}/record"))["lines"]
    assert [h["hookup"] for h in told["hookups"]] == ["clamp", "clamp"]
    assert [len(t["stations"]) for t in told["traces"]] == [1, 1]
    assert told["line"]["stations"] == 2
