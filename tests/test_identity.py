"""Which line it is: asked for, answered by a tap, taken back, kept in the job file and told on the command line."""

import json

from tests.conftest import SERVICE, STATION, detail, sent
from vessel.cli import main


def identity(client, setup):
    return sent(client.get(f"/api/setups/{setup}/identity"))


def look(client, setup):
    """The step of the safe order that asks what else is connected."""
    return next(s for s in sent(client.get(f"/api/setups/{setup}"))["steps"] if s["asks"])


def test_an_answer_settles_what_was_asked_and_can_be_taken_back(client, line):
    body = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    first = identity(client, setup)
    # before anything is traced: look into the box
    assert (first["state"], first["ask"]["kind"]) == ("not_shown", "access")
    assert look(client, setup)["asks"]["given"] is None
    sent(client.patch(f"/api/setups/{setup}", json={"steps_done": ["off", "dead", "look"]}))
    assert not look(client, setup)["done"]  # it is answered, not ticked
    sent(client.post(f"/api/setups/{setup}/readings", json={"volts": "7.9", "milliamps": "30"}))
    quiet = {**STATION, "neighbour": "0"}
    (s,) = sent(client.post(f"/api/setups/{setup}/stations", json=quiet))["stations"]
    assert s["verdict"] == "mark_with_care"
    assert s["headline"].startswith("Line not proven")
    assert detail(client, s)["next_step"].startswith("Show which line this is.")
    assert detail(client, s)["next_at"] == "identity"
    given, asked = [], identity(client, setup)["ask"]
    while asked is not None and len(given) < 3:
        first = {name: asked["answers"][0][name] for name in ("answer", "along")}
        given.append(sent(client.post(f"/api/setups/{setup}/identity", json={"kind": asked["kind"], **first})))
        asked = identity(client, setup)["ask"]
    now = identity(client, setup)
    assert now["state"] == "shown"
    assert look(client, setup)["done"]
    assert look(client, setup)["asks"]["evidence_id"] == given[0]["id"]
    assert now["given"][0]["technician"] == "R. Tallow"
    trace = sent(client.get(f"/api/setups/{setup}/trace"))
    assert trace["stations"][0]["verdict"] == "mark"
    assert detail(client, trace["stations"][0])["next_at"] == ""
    for e in now["given"]:
        sent(client.delete(f"/api/identity/{e['id']}?why=Not seen"))
    assert identity(client, setup)["state"] == "not_shown"
    sent(client.post(f"/api/identity/{given[0]['id']}/restore"))
    assert len(identity(client, setup)["given"]) == 1


def test_what_speaks_against_the_line_is_said_first(client, setup):
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    sent(client.post(f"/api/setups/{setup}/identity", json={"kind": "ends_at", "answer": "against"}))
    now = identity(client, setup)
    assert now["contradicted"]
    assert now["reason"] == "The trace ends somewhere else."
    # of each kind the last answer counts
    sent(client.post(f"/api/setups/{setup}/identity", json={"kind": "ends_at", "answer": "for"}))
    assert not identity(client, setup)["contradicted"]


def test_a_wrong_answer_names_the_field(client, setup):
    refused = client.post(f"/api/setups/{setup}/identity", json={"kind": "crystal_ball", "answer": "for"})
    assert (refused.status_code, refused.json()["field"]) == (422, "kind")


def test_evidence_travels_with_the_job_and_the_command_line_plays_the_exchange(demo, tmp_path, capsys):
    def judged(job):
        path = tmp_path / "job.json"
        path.write_text(json.dumps(job), encoding="utf-8")
        assert main(["judge", str(path)]) == 0
        return json.loads(capsys.readouterr().out)

    job = json.loads(demo)
    assert job["version"] == "1.15"
    (setup,) = job["job"]["lines"][0]["setups"]
    shown = judged(job)
    assert shown["hookups"][0]["identity"]["by"] == ["access", "ends_at"]
    kept = setup["evidence"]
    setup["evidence"] = []
    bare = judged(job)
    assert "mark" not in {s["verdict"] for s in bare["stations"]}
    asked = bare["hookups"][0]["ask_next"]["kind"]
    setup["evidence"] = [{**kept[0], "kind": asked, "answer": "for"}]
    assert judged(job)["hookups"][0]["identity"]["by"] == [asked]
    # a file of before opens as it is: nothing was shown
    del setup["evidence"]
    job["version"] = 1
    assert judged(job)["stations"] == bare["stations"]


def test_currents_read_at_the_box_are_kept_with_the_answer(client, setup):
    path = f"/api/setups/{setup}/identity"
    assert next(q for q in identity(client, setup)["rest"] if q["kind"] == "conductors")["currents"]
    body = {"kind": "conductors", "answer": "for", "own": "52", "other": "8"}
    for field, text in (("other", ""), ("own", "4"), ("other", "many")):
        refused = client.post(path, json={**body, field: text})
        assert (refused.status_code, refused.json()["field"]) == (422, field)
    sent(client.post(path, json=body))
    assert "52 mA" in identity(client, setup)["given"][-1]["answer_text"].replace("\u00a0", " ")
    # who cannot read them has read nothing
    sent(client.post(path, json={**body, "answer": "cannot"}))
    assert identity(client, setup)["given"][-1]["answer_text"] == "Cannot read them"


def test_a_line_is_dug_up_and_its_depth_kept_with_the_answer(client, setup):
    path = f"/api/setups/{setup}/identity"
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    (asked,) = (q for q in identity(client, setup)["rest"] if q["kind"] == "exposed")
    assert asked["depth"]
    body = {"kind": "exposed", "answer": "for", "distance": asked["distance"], "depth": "deep"}
    refused = client.post(path, json=body)
    assert (refused.status_code, refused.json()["field"]) == (422, "depth")
    sent(client.post(path, json={**body, "depth": "0.82"}))
    assert "0.82 m deep" in identity(client, setup)["given"][-1]["answer_text"].replace("\u00a0", " ")
    assert '"depth_m": 0.82' in client.get(f"/api/jobs/{sent(client.get('/api/jobs'))['jobs'][0]['id']}/export").text


BOND = {"name": "Bond of the lighting feed", "own": False, "consent": "M. Quill", "before": "12", "after": "11.6"}


def test_a_bond_is_opened_step_by_step_and_kept_as_evidence(client, line):
    setup = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "direct", "freq": "8.96k", "output": "60"}))[
        "id"
    ]
    path = f"/api/setups/{setup}/identity"
    steps = [s["id"] for s in sent(client.get(path))["bond"]["steps"]]
    refused = client.post(f"{path}/bond", json={**BOND, "steps_done": steps[1:]}).json()
    assert refused["field"] == "steps_done"
    assert "consent" in refused["fix"]
    for field, text in (("consent", ""), ("name", ""), ("before", "0"), ("after", "many")):
        refused = client.post(f"{path}/bond", json={**BOND, field: text, "steps_done": steps})
        assert (refused.status_code, refused.json()["field"]) == (422, field)
    read = sent(client.post(f"{path}/bond", json={**BOND, "steps_done": steps}))
    assert read["answer"] == "for"
    assert sent(client.get(path))["given"] == []  # nothing is stored before it is saved
    body = {"kind": "bond_opened", "answer": read["answer"], "note": read["note"]}
    sent(client.post(path, json=body))
    (given,) = sent(client.get(path))["given"]
    assert "M. Quill" in given["note"]
    assert "12 mA" in given["note"].replace("\u00a0", " ")
    sent(client.post(path, json={**body, "answer": "against"}))
    again = client.post(f"{path}/bond", json={**BOND, "steps_done": steps})  # one more bond does not outweigh that
    assert (again.status_code, again.json()["field"]) == (409, "steps_done")
    coil = {"hookup": "induction", "freq": "35.84k", "output": "60"}
    other = sent(client.post(f"/api/lines/{line}/setups", json=coil))["id"]
    assert sent(client.get(f"/api/setups/{other}/identity"))["bond"] is None


def test_a_line_with_something_else_connected_is_traced_again_with_its_bond_open(client, line, setup):
    path = f"/api/setups/{setup}/identity"
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    sent(client.post(path, json={"kind": "access", "answer": "against"}))
    before = identity(client, setup)
    assert not before["contradicted"]  # it spoils the trace, and does not say that this is another line
    offered = next(q for q in [before["ask"], *before["rest"]] if q and q["kind"] == "kept_open")
    assert [a["answer"] for a in offered["answers"]] == ["for", "cannot"]
    # nothing that was read with the bond closed counts with it open
    assert client.post(path, json={"kind": "kept_open", "answer": "for"}).status_code == 409
    refused = client.post(f"/api/setups/{setup}/again", json={"changed": "bond"})
    assert (refused.status_code, refused.json()["field"]) == (422, "consent")
    anew = sent(client.post(f"/api/setups/{setup}/again", json={"changed": "bond", "consent": "M. Quill"}))["id"]
    assert anew != setup
    now = identity(client, anew)
    assert [(e["kind"], e["answer"]) for e in now["given"]] == [("access", "against"), ("kept_open", "for")]
    assert "M. Quill" in now["given"][1]["note"]
    hookup = sent(client.get(f"/api/setups/{anew}"))
    steps = [s["id"] for s in hookup["steps"]]
    assert steps.index("off") < steps.index("look") < steps.index("bond_kept") < steps.index("line_lead")
    assert (hookup["freq_hz"], hookup["readings"]) == (35840.0, [])
    assert len(sent(client.get(f"/api/setups/{setup}/trace"))["stations"]) == 1  # what was read stays
    sent(client.post(f"/api/setups/{anew}/readings", json={"volts": "7.9", "milliamps": "30"}))
    sent(client.post(f"/api/setups/{anew}/stations", json=STATION))
    sent(client.post(f"/api/setups/{anew}/identity", json={"kind": "ends_at", "answer": "for"}))
    assert identity(client, anew)["state"] != "not_shown"


def test_a_stake_beside_other_metal_is_found_by_moving_it_and_the_line_traced_again(client, line, setup):
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    sent(client.post(f"/api/setups/{setup}/identity", json={"kind": "stake_moved", "answer": "against"}))
    assert identity(client, setup)["stake_spoils"]
    (station,) = sent(client.get(f"/api/setups/{setup}/trace"))["stations"]
    assert station["verdict"] != "mark"
    assert detail(client, station)["next_step"].endswith("Trace the line again.")
    anew = sent(client.post(f"/api/setups/{setup}/again", json={"changed": "stake"}))["id"]
    given = {e["kind"]: e["answer_text"] for e in identity(client, anew)["given"]}
    assert list(given) == ["access", "ends_at", "stake_moved"]
    exported = client.get(f"/api/jobs/{sent(client.get('/api/jobs'))['jobs'][0]['id']}/export").text
    assert exported.count('"earlier": true') == 2
    assert given["ends_at"].endswith("on the trace before")  # it tells where the line goes, and may be answered again
    assert "ends_at" in [q["kind"] for q in identity(client, anew)["rest"] if q["given"] is None]
    assert not identity(client, anew)["stake_spoils"]


def test_a_bond_opened_before_anything_is_read_goes_on_with_the_same_hookup(client, line):
    body = {"hookup": "direct", "freq": "8.96k", "output": "60"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    sent(client.post(f"/api/setups/{setup}/identity", json={"kind": "access", "answer": "against"}))
    sent(client.patch(f"/api/setups/{setup}", json={"steps_done": ["off", "dead"]}))
    agreed = {"changed": "bond", "consent": "M. Quill"}
    assert sent(client.post(f"/api/setups/{setup}/again", json=agreed))["id"] == setup
    assert [e["kind"] for e in identity(client, setup)["given"]] == ["access", "kept_open"]
    # the bond comes before everything that follows it in the safe order
    assert [step["id"] for step in sent(client.get(f"/api/setups/{setup}"))["steps"] if step["done"]] == ["look"]
    # and stays open where the stake is moved afterwards
    sent(client.post(f"/api/setups/{setup}/readings", json={"volts": "7.9", "milliamps": "60"}))
    moved = sent(client.post(f"/api/setups/{setup}/again", json={"changed": "stake"}))["id"]
    assert [e["kind"] for e in identity(client, moved)["given"]] == ["access", "kept_open"]


def test_what_is_connected_at_the_far_end_is_said_with_where_the_trace_ends_and_kept_off(client, setup):
    path = f"/api/setups/{setup}/identity"
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    asked = identity(client, setup)
    ends = next(q for q in [asked["ask"], *asked["rest"]] if q and q["kind"] == "ends_at")
    assert [(a["answer"], a["along"]) for a in ends["answers"]][:3] == [
        ("for", a) for a in ("for", "against", "cannot")
    ]
    given = sent(client.post(path, json={"kind": "ends_at", "answer": "for", "along": "against"}))
    now = identity(client, setup)
    assert {e["id"] for e in now["given"]} >= {given["id"], given["along_id"]}
    assert not now["contradicted"]  # it says nothing of which line this is
    assert "far_kept_open" in {q["kind"] for q in [now["ask"], *now["rest"]] if q}
    wrong = client.post(path, json={"kind": "ends_at", "answer": "against", "along": "for"})
    assert (wrong.status_code, wrong.json()["field"]) == (422, "along")
    both = {"changed": "both_bonds", "consent": "M. Quill"}
    anew = sent(client.post(f"/api/setups/{setup}/again", json=both))["id"]
    # who looked where the line ends need not look again; where it goes was seen, for nothing else was bonded here
    kinds = [e["kind"] for e in identity(client, anew)["given"]]
    assert kinds == ["access", "ends_at", "far_access", "kept_open", "far_kept_open"]
    steps = [s["id"] for s in sent(client.get(f"/api/setups/{anew}"))["steps"]]
    assert steps.index("dead") < steps.index("bond_kept") < steps.index("far_bond_kept") < steps.index("line_lead")


def test_a_bond_that_was_drawn_is_off_the_forecast_while_it_is_kept_open(client, job):
    main = {"name": "Water main", "preset": "bare_copper_service", "offset": "0.8", "depth": "0.8", "bond": "140"}
    body = {**SERVICE, "neighbours": [{**main, "start": "0", "end": "140", "start_earth": "4"}]}
    line = sent(client.post(f"/api/jobs/{job}/lines", json=body))["id"]
    hookup = {"hookup": "direct", "freq": "8.96k", "output": "30", "rx_freq": "8.96k"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=hookup))["id"]
    closed = sent(client.get(f"/api/setups/{setup}"))["forecasts"]
    sent(client.post(f"/api/setups/{setup}/readings", json={"volts": "7.9", "milliamps": "30"}))
    sent(client.post(f"/api/setups/{setup}/stations", json=STATION))
    now = identity(client, setup)
    # what is drawn there is known: it can be kept off without a look
    assert "far_kept_open" in {q["kind"] for q in [now["ask"], *now["rest"]] if q}
    ends = next(q for q in [now["ask"], *now["rest"]] if q and q["kind"] == "ends_at")
    assert not any(a["along"] for a in ends["answers"])
    anew = sent(client.post(f"/api/setups/{setup}/again", json={"changed": "far_bond", "consent": "M. Quill"}))["id"]
    opened = sent(client.get(f"/api/setups/{anew}"))["forecasts"]
    assert [f["text"] for f in opened] != [f["text"] for f in closed]
    assert "far_kept_open" not in {q["kind"] for q in identity(client, anew)["rest"]}


def test_by_coil_no_bond_is_kept_open(client, line):
    coil = {"hookup": "induction", "freq": "35.84k", "output": "60"}
    setup = sent(client.post(f"/api/lines/{line}/setups", json=coil))["id"]
    refused = client.post(f"/api/setups/{setup}/again", json={"changed": "far_bond", "consent": "M. Quill"})
    assert (refused.status_code, refused.json()["field"]) == (409, "changed")
