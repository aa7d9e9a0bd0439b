"""The site file and what the command line makes of it: currents on every line, readings anywhere."""

import json
from pathlib import Path

import pytest

import vessel.demo
from vessel.cli import main
from vessel.formats import site_file

DEMO = Path(vessel.demo.__file__).parent / "ostrel-bay.vessel-site.json"
GAS = "Gas service to ticket hall"


@pytest.fixture
def site():
    return json.loads(DEMO.read_text(encoding="utf-8"))


@pytest.fixture
def written(tmp_path):
    def write(doc):
        path = tmp_path / "site.json"
        path.write_text(json.dumps(doc), encoding="utf-8")
        return str(path)

    return write


def run(capsys, *args):
    assert main(args) == 0
    return json.loads(capsys.readouterr().out)


def test_solve_tells_every_line_and_how_fine_it_was_cut(capsys):
    found = run(capsys, "solve", str(DEMO), "--refine")
    opened, earthed = found["cases"]
    assert opened["transmitter"]["ohms"] > earthed["transmitter"]["ohms"]
    lines = {line["line"]: line for line in earthed["lines"]}
    assert lines["Storm drain"]["greatest_ma"] == 0.0
    assert lines[GAS]["greatest_ma"] > lines["Water main"]["greatest_ma"] > 1.0
    assert earthed["change_when_segments_are_halved"][GAS] < 0.01
    assert opened["limits_touched"][0]["id"] == "spacing_against_skin"


def test_another_frequency_and_output_override_the_files(capsys):
    found = run(capsys, "solve", str(DEMO), "--freq-hz", "560", "--output-ma", "5")
    assert (found["freq_hz"], found["output_ma"]) == (560.0, 5.0)
    assert found["cases"][1]["transmitter"]["milliamps"] == pytest.approx(5.0)


def test_read_along_across_and_at_a_place(capsys):
    along, across = f"{GAS}:20", f"{GAS}:35"
    found = run(capsys, "read", str(DEMO), "--at", "10,5,90", "--along", along, "--across", across)
    place, *rest = found["cases"][1]["readings"]
    assert (place["east_m"], place["north_m"]) == (10.0, 5.0)
    trace, profile = rest[:-41], rest[-41:]
    assert all(abs(r["depth_m"] - 0.77) < 0.12 for r in trace)
    assert max(profile, key=lambda r: r["b_low_t"])["offset_m"] == pytest.approx(0.0, abs=0.1)


def test_a_line_of_a_job_is_read_with_what_runs_beside_it(capsys):
    job = str(DEMO.with_name("ostrel-bay.vessel.json"))
    options = ["--line", GAS, "--hookup", "direct", "--freq-hz", "8960", "--output-ma", "60"]
    found = run(capsys, "read", job, *options, "--along", ":20")
    readings = found["cases"][1]["readings"]
    assert len(readings) == 7
    assert all(r["direction"] == 1 for r in readings)
    assert readings[0]["null_m"] != readings[0]["peak_m"]


def broken(site, path, value):
    at = site["site"]
    for key in path[:-1]:
        at = at[key]
    at[path[-1]] = value
    return site


@pytest.mark.parametrize(
    ("path", "value", "says"),
    [
        (("lines", 0, "preset"), "rope", "site.lines.0.preset: Construction “rope” is not known"),
        (("lines", 1, "route_m"), [[0, 0, 1]], "site.lines.1.route: Water main has 1 corner"),
        (("lines", 1, "route_m"), [[0, 0, 1], [50, 0, 99]], "site.lines.1.route: Water main: depth at (50, 0) is 99"),
        (("hookup", "line"), "Storm drain", "Storm drain has no metal"),
        (("hookup", "line"), "Nowhere", "The site has no line “Nowhere”"),
        (("hookup", "stake"), {"east_north_m": [20.0, -1.4]}, "The stake is on"),
        (("bonds", 0, "b"), "Nowhere", "bonds: The site has no line"),
        (("hookup", "colour"), "red", "file.site.hookup.colour"),
    ],
)
def test_a_site_that_cannot_be_is_refused_by_name(capsys, site, written, path, value, says):
    doc = broken(site, path, value)
    if "stake" in path:
        doc["site"]["lines"][1]["route_m"] = [[-40, -1.4, 0.3], [60, -1.4, 0.3]]
        doc["site"]["bonds"] = []
    assert main(["solve", written(doc)]) == 2
    printed = capsys.readouterr()
    assert says in printed.err
    assert printed.out == ""


@pytest.mark.parametrize(
    ("args", "says"),
    [
        ((), "No place is named"),
        (("--at", "1,2"), "Write it as 12.5,3,90"),
        (("--along", f"{GAS}:0"), "The step is too small"),
        (("--across", f"{GAS}:500"), "m long"),
        (("--along", "Nowhere:5"), "no line “Nowhere”"),
    ],
)
def test_places_that_are_none_are_refused(capsys, args, says):
    assert main(["read", str(DEMO), *args]) == 2
    assert says in capsys.readouterr().err


def test_a_foreign_or_torn_file_is_refused_whole(capsys, tmp_path):
    for text, says in (("{", "JSON is incomplete"), ('{"format": "x"}', "not a Vessel site file")):
        path = tmp_path / "x.json"
        path.write_text(text, encoding="utf-8")
        assert main(["solve", str(path)]) == 2
        assert says in capsys.readouterr().err


def test_the_demo_site_meets_its_published_schema(site):
    import jsonschema

    jsonschema.validate(site, json.loads(site_file.schema_text()))
