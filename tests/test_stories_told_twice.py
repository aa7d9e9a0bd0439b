"""Stories of a whole line, on the screens and on the command line: what is true is not quite what was entered."""

from dataclasses import replace

import pytest

from tests.conftest import SERVICE, sent
from tests.played import Buried, far_volts, hooked, kept, on_the_command_line, one_story, read, station
from tests.test_stories import columns
from tests.trouble.grounds import TARGET

FREQS = (8960.0, 560.0)


@pytest.fixture
def run(tmp_path, capsys):
    """Ask the command line."""
    return lambda command, text: on_the_command_line(command, text, tmp_path, capsys)


def told(client, line, **more):
    sent(client.put(f"/api/lines/{line}", json={**SERVICE, **more}))


def test_a_stake_in_dry_gravel_is_moved_and_never_asked_for_again(client, job, line, run):
    told(client, line, far_kind="earthed", far_earth="20")
    bad, good = Buried(far=20.0, stake=2200.0), Buried(far=20.0)
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        read(client, path, bad.shown(freq), freq=f"{freq}Hz")
    # stake and clip stand in one loop: either may be it, and both are asked about
    assert one_story(client, job, path, run)[0] in {"poor_stake", "bad_clip"}
    assert {h["cause"] for h in sent(client.get(path))["hypotheses"][:2]} == {"poor_stake", "bad_clip"}
    for freq in FREQS:
        moved = read(client, path, good.shown(freq), freq=f"{freq}Hz", change="stake" if freq == FREQS[0] else "")
    assert one_story(client, job, path, run, done=["stake"]) == ("poor_stake", True)
    assert moved["headline"].startswith("The stake")
    assert moved["advice"].startswith("Go on")


def test_a_length_guessed_far_too_long_is_no_break_and_no_second_line(client, job, line, run):
    told(client, line, length="224")
    true = Buried()
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        read(client, path, true.shown(freq), freq=f"{freq}Hz")
    assert one_story(client, job, path, run) == ("far_open", False)
    earthed = replace(true, far=25.0)
    for freq in FREQS:
        now = read(client, path, earthed.shown(freq), freq=f"{freq}Hz", change="far" if freq == FREQS[0] else "")
    assert one_story(client, job, path, run, done=["far"]) == ("far_open", True)
    assert now["continuity"]["state"] == "proved"
    assert far_volts(now) > 0
    for at in (20, 60, 100):
        trace = station(client, path, at, earthed.milliamps(at))
    assert {s["verdict"] for s in trace["stations"]} <= {"mark", "mark_with_care"}


def test_soil_guessed_five_times_too_dry_makes_no_reading_impossible(client, job, line, run):
    dry = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "dry_sand", "soil_resistivity": ""}
    sent(client.put(f"/api/jobs/{job}", json=dry))  # 800 ohm m, typical
    told(client, line, far_kind="earthed", far_earth="60")
    wet = Buried(rho=160.0, stake=310.0, far=15.0)
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        now = read(client, path, wet.shown(freq), freq=f"{freq}Hz")
    assert one_story(client, job, path, run)[0] == "far_earthed"
    assert now["state"] != "unexplained"
    for at in (20, 60, 100):
        trace = station(client, path, at, wet.milliamps(at))
    assert {s["verdict"] for s in trace["stations"]} <= {"mark", "mark_with_care"}


def test_a_broken_tracer_is_found_joined_earthed_and_proved(client, job, line, run):
    broken = Buried(broken=(52.0,))
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        read(client, path, broken.shown(freq), freq=f"{freq}Hz")
    first = read(client, path, broken.shown(), change="far")  # earthed, and nothing changed
    assert one_story(client, job, path, run, done=["far"])[0] == "break"
    assert "52" in first["hypotheses"][0]["sentence"] or "m" in first["hypotheses"][0]["sentence"]
    whole = Buried(far=25.0)
    new = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        now = read(client, new, whole.shown(freq), freq=f"{freq}Hz", change="far" if freq == FREQS[0] else "")
    assert one_story(client, job, new, run, done=["far"])[0] in {"far_open", "far_earthed"}
    assert now["continuity"]["state"] == "proved"
    trace = station(client, new, 100, whole.milliamps(100))
    assert trace["stations"][0]["verdict"] in {"mark", "mark_with_care"}


def test_a_reading_struck_out_leaves_the_story_of_the_others(client, job, line, run):
    true = Buried()
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    read(client, path, ("4", "120"))
    now = read(client, path, true.shown())
    assert now["state"] == "unexplained"
    sent(client.delete(f"/api/readings/{now['readings'][0]['id']}?why=Read off another transmitter"), 204)
    assert one_story(client, job, path, run) == ("far_open", False)
    assert [r["struck_why"] for r in kept(client, job)["lines"][0]["setups"][0]["readings"] if r["struck_why"]]


COAX = {
    "name": "Television cable",
    "utility": "telecom",
    "preset": "armoured_cable",
    "length": "90",
    "depth_min": "0.4",
    "depth_max": "0.6",
    "bare_metal": True,
    "core_only": True,
    "near_earth": "8",
    "far_kind": "earthed",
    "far_earth": "8",
}


def test_a_coax_is_clamped_while_only_its_core_is_in_reach_then_connected_by_its_sheath(client, job, run):
    line = sent(client.post(f"/api/jobs/{job}/lines", json=COAX))["id"]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    assert {o["hookup"] for o in plan["options"]} <= {"clamp", "induction"}
    every = sent(client.get(f"/api/lines/{line}/plan/rest"))
    (why,) = {o["rejected"] for o in every["rejected"] if o["hookup"] == "direct"}
    assert "sheath" in why
    refused = client.post(
        f"/api/lines/{line}/setups", json={"hookup": "direct", "freq": "8.96k", "output": "60", "position": "0"}
    )
    assert refused.status_code == 409
    assert "sheath" in refused.json()["message"] + refused.json()["fix"]
    on_cli = run("plan", client.get(f"/api/jobs/{job}/export").text)["lines"][0]
    assert {o["hookup"] for o in on_cli["options"]} <= {"clamp", "induction"}
    sent(client.put(f"/api/lines/{line}", json={**COAX, "core_only": False}))
    assert "direct" in {o["hookup"] for o in sent(client.get(f"/api/lines/{line}/plan"))["options"]}
    copy = sent(client.post("/api/jobs/import", json={"text": client.get(f"/api/jobs/{job}/export").text}))["id"]
    assert kept(client, copy)["lines"][0]["near"]["core_only"] is False


def test_rubber_jointed_iron_is_said_to_be_unprovable_until_its_joints_are_bridged(client, job, run):
    hydrants = [
        {**p, "name": f"Hydrant {k}", "kind": "hydrant", "earth": ""} for k, p in enumerate(columns(60, 120), 1)
    ]
    main = {
        "name": "Water main",
        "utility": "water",
        "preset": "jointed_iron_main",
        "overrides": {"joint_ohm": 1e6},
        "length": "180",
        "depth_min": "1.0",
        "depth_max": "1.4",
        "points": hydrants,
    }
    line = sent(client.post(f"/api/jobs/{job}/lines", json=main))["id"]
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    assert (plan["options"], plan["moving"]) == ([], None)
    assert "joints" in plan["nothing_text"]
    assert run("plan", client.get(f"/api/jobs/{job}/export").text)["lines"][0]["options"] == []
    site = sent(client.get(f"/api/jobs/{job}/site/work"))
    assert site["visits"] == []
    # joints bridged between hydrants let signal pass: then it goes stretch by stretch
    sent(client.put(f"/api/lines/{line}", json={**main, "overrides": {"joint_ohm": 0.01}}))
    bridged = sent(client.get(f"/api/lines/{line}/plan"))
    assert {o["position_m"] for o in bridged["options"]} >= {0, 60, 120}
    assert bridged["nothing_text"] == ""


def test_protected_steel_is_connected_low_or_middle_before_anything_is_induced(client, job, run):
    pipe = {
        "name": "Gas main",
        "utility": "gas",
        "preset": "coated_steel_pipe",
        "length": "300",
        "depth_min": "0.9",
        "depth_max": "1.2",
    }
    line = sent(client.post(f"/api/jobs/{job}/lines", json=pipe))["id"]
    best = sent(client.get(f"/api/lines/{line}/plan"))["options"][0]
    assert best["hookup"] == "direct"
    assert best["freq_hz"] <= 35840
    order = [o["hookup"] for o in sent(client.get(f"/api/lines/{line}/plan"))["options"]]
    assert order.index("induction") > max(k for k, o in enumerate(order[:3]) if o == "direct")
    told_cli = run("plan", client.get(f"/api/jobs/{job}/export").text)["lines"][0]["options"][0]
    assert (told_cli["hookup"], told_cli["freq_hz"]) == (best["hookup"], best["freq_hz"])


def test_of_two_centre_lines_at_locked_gain_the_louder_is_not_taken_for_this_line(client, job, line, run):
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    good = Buried(far=20.0)
    read(client, path, good.shown())
    low = {"bearing": "0", "note": "the gate", "depth": "0.8", "signal": "40"}
    seen = sent(client.post(f"{path}/candidates", json=low))
    assert seen["state"] != "sure"  # one centre line alone, without a current
    loud = {"bearing": "45", "note": "the blue van", "depth": "0.8", "signal": "90"}
    both = sent(client.post(f"{path}/candidates", json=loud))
    assert both["state"] == "doubt"
    assert "the gate" in both["headline"]
    assert any("more current" in c["text"] for c in both["concerns"])
    assert "First sweep" in sent(client.get(f"{path}/trace"))["sweep_text"]
    record = sent(client.get(f"/api/jobs/{job}/record"))["lines"][0]
    assert any("the gate" in str(h) for h in record["hookups"]) or "the gate" in str(record)


def test_mains_found_passively_asks_for_care_until_it_is_entered_and_traced(client, job, line, run):
    route = [{"line_id": line, "route": "0, 0; 140, 0"}]
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": route}))
    told(client, line, far_kind="earthed", far_earth="20")
    good = Buried(far=20.0)
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        read(client, path, good.shown(freq), freq=f"{freq}Hz")
    for kind in ("access", "ends_at", "second_frequency"):
        sent(client.post(f"{path}/identity", json={"kind": kind, "answer": "for"}))
    for at in (30, 60, 90):
        trace = station(client, path, at, good.milliamps(at))
    assert {s["verdict"] for s in trace["stations"]} == {"mark"}
    hits = {"hits": [{"source": "mains", "place": "60, 0.4", "note": "hums"}]}
    before = f"/api/jobs/{job}/before/passive"
    would = sent(client.post(f"{before}/consequences", json=hits))
    assert [(s["distance_text"], s["now"]) for s in would["stations"]] == [("60 m", "mark_with_care")]
    swept = sent(client.put(before, json=hits))["passive"]
    assert not swept["hits"][0]["explained"]
    verdicts = {s["distance_m"]: s for s in sent(client.get(f"{path}/trace"))["stations"]}
    assert [verdicts[at]["verdict"] for at in (30, 60, 90)] == ["mark", "mark_with_care", "mark"]
    on_cli = run("judge", client.get(f"/api/jobs/{job}/export").text)
    (care,) = [s for s in on_cli["stations"] if s["verdict"] == "mark_with_care"]
    assert care["deciding"] == ["passive"]
    # what hums is entered, drawn and traced: then the plan explains it
    found = {**SERVICE, **swept["hits"][0]["line"], "length": "50", "depth_min": "0.5", "depth_max": "0.9"}
    cable = sent(client.post(f"/api/jobs/{job}/lines", json={**found, "far_kind": "unknown"}))["id"]
    route.append({"line_id": cable, "route": "60, -25; 60, 25"})
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": route}))
    assert sent(client.get(f"/api/jobs/{job}/before"))["passive"]["hits"][0]["explained"]
    plan = sent(client.get(f"/api/lines/{cable}/plan"))
    assert not any(o["hookup"] == "direct" for o in plan["options"])  # it is live
    after = next(s for s in sent(client.get(f"{path}/trace"))["stations"] if s["distance_m"] == 60)
    findings = sent(client.get(f"/api/stations/{after['id']}"))["findings"]
    assert {f["outcome"] for f in findings if f["rule_id"] == "passive"} <= {"pass", "skip"}


def test_a_hit_is_placed_by_distance_and_side_from_something(client, job, line):
    sent(
        client.put(
            f"/api/jobs/{job}/site",
            json={
                "routes": [{"line_id": line, "route": "0, 0; 140, 0"}],
                "access": [{"name": "Valve 1", "kind": "valve", "at": "50, 0"}],
            },
        )
    )
    taped = {"source": "radio", "near": "Valve 1", "away": "5", "towards": "N"}
    found = sent(client.put(f"/api/jobs/{job}/before/passive", json={"hits": [taped]}))["passive"]
    assert found["hits"][0]["place"] == "50 E, 5 N"
    for change, field in (({"towards": ""}, "towards"), ({"near": "Valve 9"}, "near"), ({"away": ""}, "away")):
        refused = client.put(f"/api/jobs/{job}/before/passive", json={"hits": [{**taped, **change}]})
        assert (refused.status_code, refused.json()["field"]) == (422, f"hits.0.{field}")


def test_an_answer_says_what_it_would_change_before_it_is_saved(client, job, line):
    told(client, line, far_kind="earthed", far_earth="20")
    good = Buried(far=20.0)
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        read(client, path, good.shown(freq), freq=f"{freq}Hz")
    for at in (30, 60):
        station(client, path, at, good.milliamps(at))
    asked = f"{path}/identity/consequences"
    against = sent(client.post(asked, json={"kind": "conductors", "answer": "against"}))
    assert any(s["worse"] for s in against["stations"])
    assert "30 m" in against["said"]
    # nothing of it was stored
    assert sent(client.get(f"{path}/identity"))["given"] == []
    assert {s["verdict"] for s in sent(client.get(f"{path}/trace"))["stations"]} == {"mark_with_care"}


def test_what_would_help_moving_induction_is_tried_too(client, job):
    cable = {
        "name": "Collector cable",
        "utility": "power",
        "preset": "power_bare_neutral",
        "length": "400",
        "depth_min": "0.8",
        "depth_max": "1.0",
        "live": True,
        "bare_metal": False,
        "near_earth": "2",
        "far_kind": "earthed",
        "far_earth": "2",
    }
    line = sent(client.post(f"/api/jobs/{job}/lines", json=cable))["id"]
    far_apart = {"hookup": "induction", "freq": "143.36k", "output": "120", "apart": "60"}
    path = f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json=far_apart))['id']}"
    helps = sent(client.get(f"{path}/remedies"))
    assert helps["helping"]
    best = helps["helping"][0]
    assert best["apart_m"]
    again = {"hookup": "induction", "freq": f"{best['freq_hz']}Hz", "output": f"{best['output_a']}A"}
    better = f"/api/setups/{sent(client.post(f'/api/lines/{line}/setups', json={**again, 'apart': str(best['apart_m'])}))['id']}"
    assert (
        "Nothing else is needed" in sent(client.get(f"{better}/remedies"))["headline"]
        or not (sent(client.get(f"{better}/remedies"))["helping"])
    )


def test_a_transmitter_is_laid_against_a_lamp_column(client, job):
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
    plan = sent(client.get(f"/api/lines/{line}/plan"))
    against = [o for o in plan["options"] if "against Column" in o["place_text"]]
    assert against
    body = {"hookup": "induction", "freq": "35.84k", "output": "120", "position": "80"}
    made = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    (place,) = [s for s in sent(client.get(f"/api/setups/{made}"))["steps"] if s["id"] == "place"]
    assert "Column 2" in place["text"]


def test_an_earth_on_the_way_is_told_from_one_at_the_far_end_by_a_look(client, job, line, run):
    touching = Buried(earths=[(TARGET, 70.0, 12.0)])
    path = hooked(client, line, freq="8.96k", rx_freq="8.96k")
    for freq in FREQS:
        now = read(client, path, touching.shown(freq), freq=f"{freq}Hz")
    assert {h["cause"] for h in now["hypotheses"][:2]} == {"far_earthed", "earth_fault"}
    assert now["asks_far"]
    told_cli = run("diagnose", client.get(f"/api/jobs/{job}/export").text)["hookups"][0]["read_next"]
    assert told_cli["look_far"]
    station(client, path, 20, touching.milliamps(20))
    would = sent(client.post(f"/api/lines/{line}/far-end/consequences", json={"far_kind": "open"}))
    assert would["text"]
    assert sent(client.get(path))["asks_far"]  # nothing of it was stored
    sent(client.patch(f"/api/lines/{line}", json={"far_kind": "open"}), 204)
    seen = sent(client.get(path))
    assert (seen["hypotheses"][0]["cause"], seen["asks_far"]) == ("earth_fault", False)
    assert one_story(client, job, path, run) == ("earth_fault", False)


def test_noise_and_kit_say_what_they_would_change_before_they_are_saved(client, job, setup):
    station(client, f"/api/setups/{setup}", 20, 25.9)
    loud = {"rows": [{"freq_hz": 35840, "here": "60dB", "quiet": "0dB"}]}
    would = sent(client.post(f"/api/jobs/{job}/before/noise/consequences", json=loud))
    assert [s["now"] for s in would["stations"]] == ["hold"]
    (kit,) = [k for k in sent(client.get("/api/kits")) if k["in_use"]]
    worse = {**kit["kit"], "frequencies": [{**f, "noise_t": 900 * f["noise_t"]} for f in kit["kit"]["frequencies"]]}
    would = sent(client.post(f"/api/kits/{kit['id']}/consequences", json={"kit": worse}))
    assert [s["now"] for s in would["stations"]] == ["hold"]
    assert sent(client.get(f"/api/setups/{setup}/trace"))["stations"][0]["verdict"] != "hold"
