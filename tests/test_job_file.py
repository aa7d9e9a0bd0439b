"""The open job file, out and in, and the command line that reads it."""

import json

import jsonschema
import pytest

from tests.conftest import entered, sent
from vessel.cli import main
from vessel.core.judge.station.criteria import CRITERIA_VERSION
from vessel.formats.job_file import dump, load, schema_text


def test_the_demo_job_goes_in_and_out_without_loss(client, demo):
    made = sent(client.post("/api/jobs/import", json={"text": demo}))["id"]
    out = client.get(f"/api/jobs/{made}/export").text
    assert entered(out) == entered(demo)
    assert dump(load(demo)) == demo
    jsonschema.validate(json.loads(out), json.loads(schema_text()))
    again = sent(client.post("/api/jobs/import", json={"text": out}))["id"]
    twice = client.get(f"/api/jobs/{again}/export").text
    assert entered(twice) == entered(out)
    assert [j["action"] for j in json.loads(twice)["job"]["journal"]] == ["imported", "imported"]
    assert len(sent(client.get("/api/kits"))) == 1


def test_the_demo_job_has_one_station_on_hold_and_marks(client, demo):
    made = sent(client.post("/api/jobs/import", json={"text": demo}))["id"]
    record = sent(client.get(f"/api/jobs/{made}/record"))
    verdicts = [s["verdict"] for s in record["lines"][0]["traces"][0]["stations"]]
    assert verdicts == ["mark"] * 5 + ["mark_with_care", "hold"]
    assert len(record["lines"][0]["marks"]) == 4


def newer(doc):
    doc["version"] = 2


def foreign(doc):
    doc["format"] = "something-else"


def no_soil(doc):
    doc["job"]["soil_resistivity_ohm_m"] = 0.0


def negative_depth(doc):
    doc["job"]["lines"][0]["setups"][0]["stations"][0]["depth_m"] = -1.0


def unknown_key(doc):
    doc["job"]["lines"][0]["surprise"] = 1


@pytest.mark.parametrize(
    ("spoil", "says"),
    [
        (newer, "version 2"),
        (lambda doc: doc.update(version="1.99"), "version 1.99"),
        (foreign, "not a Vessel job file"),
        (no_soil, "Soil resistivity is 0"),
        (negative_depth, "Depth is -1"),
        (unknown_key, "surprise"),
    ],
)
def test_a_spoilt_file_is_refused_whole(client, demo, spoil, says):
    doc = json.loads(demo)
    spoil(doc)
    r = client.post("/api/jobs/import", json={"text": json.dumps(doc)})
    assert r.status_code == 422
    assert says in r.json()["message"]
    assert r.json()["fix"]
    assert sent(client.get("/api/jobs"))["jobs"] == []


def test_a_file_cut_in_half(client, demo):
    r = client.post("/api/jobs/import", json={"text": demo[: len(demo) // 2]})
    assert "ends early at line" in r.json()["message"]
    assert sent(client.get("/api/jobs"))["jobs"] == []


@pytest.fixture
def path(tmp_path, demo):
    file = tmp_path / "job.json"
    file.write_text(demo, encoding="utf-8")
    return str(file)


LINE = "Gas service to ticket hall"


def run(capsys, *args):
    assert main(args) == 0
    return json.loads(capsys.readouterr().out)


def test_plan_on_the_command_line(capsys, path):
    (line,) = run(capsys, "plan", path)["lines"]
    assert line["options"][0]["hookup"] == "direct"
    assert {c["far_end"] for c in line["options"][0]["cases"]} == {"open", "earthed"}
    assert all(o["why"] for o in line["rejected"])


def test_solve_on_the_command_line(capsys, path):
    found = run(capsys, "solve", path, "--line", LINE, "--hookup", "direct", "--freq-hz", "560", "--output-ma", "30")
    opened, earthed = found["cases"]
    t = opened["transmitter"]
    assert (t["volts"], t["limited_by"]) == (pytest.approx(40.0), "volts")
    assert t["ohms"] == pytest.approx(1e3 * t["volts"] / t["milliamps"])
    (own, *beside), (own_earthed, *_) = opened["lines"], earthed["lines"]
    assert [line["line"] for line in beside] == ["1 Water main", "2 Old bollard cable"]
    assert len(own["distance_m"]) == len(own["current_ma"]) == len(own["phase_deg"])
    assert own["current_ma"][-1] < 0.1 < own_earthed["current_ma"][-1]


def test_judge_on_the_command_line(capsys, path):
    stations = run(capsys, "judge", path)["stations"]
    assert [s["verdict"] for s in stations][-1] == "hold"
    assert stations[0]["criteria_version"] == CRITERIA_VERSION


def test_a_removed_line_is_in_the_file_but_not_in_the_answers(capsys, tmp_path, demo):
    doc = json.loads(demo)
    doc["job"]["lines"][0]["deleted_at"] = "2026-11-21T08:00:00Z"
    file = tmp_path / "removed.json"
    file.write_text(json.dumps(doc), encoding="utf-8")
    assert run(capsys, "plan", str(file))["lines"] == []
    assert run(capsys, "judge", str(file))["stations"] == []


@pytest.mark.parametrize(
    ("args", "says"),
    [
        (("--line", "Nowhere", "--freq-hz", "560", "--output-ma", "30"), "It has “Gas service"),
        (("--line", LINE, "--freq-hz", "9000", "--output-ma", "30"), "Choose one of 560 Hz"),
        (("--line", LINE, "--freq-hz", "560", "--output-ma", "0"), "0 mA"),
    ],
)
def test_the_command_line_refuses_with_the_fix_and_no_trace(capsys, path, args, says):
    assert main(["solve", path, "--hookup", "direct", *args]) == 2
    printed = capsys.readouterr()
    assert says in printed.err
    assert printed.out == ""
    assert main(["plan", path + ".missing"]) == 2


def test_a_file_from_before_neighbours_is_read_with_none(demo):
    doc = json.loads(demo)
    del doc["job"]["lines"][0]["neighbours"]
    (line,) = load(json.dumps(doc)).job.lines
    assert line.neighbours == []


def test_a_reading_at_no_frequency_is_refused_before_anything_is_stored(client, demo):
    doc = json.loads(demo)
    doc["job"]["lines"][0]["setups"][0]["readings"][0]["freq_hz"] = 0.0
    refused = client.post("/api/jobs/import", json={"text": json.dumps(doc)})
    assert refused.status_code == 422
    assert "Frequency is 0 Hz" in refused.json()["message"]
    assert client.get("/api/jobs").json()["jobs"] == []
