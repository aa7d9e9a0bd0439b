"""The library as its users see it: ten lines, traps closed, nothing of their process changed."""

import doctest
import json
import subprocess
import sys
from pathlib import Path

import pytest

import vessel
from vessel.api.jobs.demo_jobs import DEMO_JOBS
from vessel.cli import main
from vessel.words.refusals import refusal

ROOT = Path(__file__).parents[1]
DEMO = ROOT / "src" / "vessel" / "demo"


def test_the_library_page_is_true():
    found = doctest.testfile(str(ROOT / "docs" / "python.md"), module_relative=False)
    assert (found.failed, found.attempted > 6) == (0, True)


def test_every_public_name_is_there_and_importing_changes_nothing_of_the_process():
    assert all(getattr(vessel, name) is not None for name in vessel.__all__)
    assert vessel.__all__ == sorted(vessel.__all__, key=lambda n: (not n.isupper(), n[0].islower(), n))
    code = "import os; before = dict(os.environ); import vessel; vessel.plan; print(before == dict(os.environ))"
    assert subprocess.run([sys.executable, "-c", code], capture_output=True, text=True).stdout == "True\n"


def test_results_explain_themselves_and_make_tables():
    line = vessel.buried("armoured_cable", length_m=80, depth_m=0.8, far="earthed", far_ohm=10)
    plan = vessel.plan(line, vessel.Soil(60.0))
    assert "markable" in plan.explain()
    assert {len(row) for row in plan.rows()} == {7}
    found = vessel.diagnose(line, plan.best, vessel.Soil(60.0), [(3, 0.03)])
    assert sum(row["probability"] for row in found.rows()) == pytest.approx(1.0, abs=0.01)
    assert "%" in found.explain()
    stations = [{"distance_m": at, "currents_a": [0.03] * 3, "depth_m": 0.8} for at in (60, 20)]
    judged = vessel.judge(line, plan.best, vessel.Soil(60.0), stations, [(3, 0.03)])
    assert [row["distance_m"] for row in judged.rows()] == [60, 20]
    assert judged.explain().count("Need more") == 2


@pytest.mark.parametrize(
    ("ask", "says"),
    [
        (lambda line, s, soil: vessel.diagnose(line, s, soil, [(30, 30)]), "30 mA is 0.03 A"),
        (lambda line, s, soil: vessel.diagnose(line, s, soil, [(30,)]), "A reading of 1 figures"),
        (lambda line, s, soil: vessel.diagnose(line, s, soil, []), "There is no reading"),
        (lambda line, s, soil: vessel.judge(line, s, soil, [{"distance": 5}]), "no “distance”"),
        (lambda *_: vessel.buried("no_metal", length_m=9, depth_m=1), "has no metal"),
        (lambda *_: vessel.buried("tracer_wire", length_m=9, depth_m=(1, 2, 3)), "3 depths"),
        (lambda *_: vessel.buried("tracer_wire", length_m=9, depth_m=1, far="bonded"), "not a far end"),
    ],
)
def test_what_cannot_be_is_refused_with_its_fix(ask, says):
    line, soil = vessel.buried("tracer_wire", length_m=90, depth_m=0.8), vessel.Soil(100.0)
    with pytest.raises(vessel.VesselError, match=says) as e:
        ask(line, vessel.Setup("direct", 8960.0, 0.03), soil)
    assert refusal(e.value)[1]


def answered(capsys, *command):
    assert main(command) == 0
    return json.loads(capsys.readouterr().out)


def test_the_command_line_judges_with_estimates_and_diagnoses(capsys):
    job = str(DEMO / DEMO_JOBS[0])
    stations = answered(capsys, "judge", job)["stations"]
    marked = next(s for s in stations if s["verdict"] == "mark")
    assert marked["estimate"]["depth_pm_m"] > 0
    held = next(s for s in stations if s["verdict"] == "hold")
    assert held["deciding"][0] == next(f["rule"] for f in held["findings"] if f["outcome"] == "hold")
    (hookup,) = answered(capsys, "diagnose", job)["hookups"]
    chances = [x["probability"] for x in hookup["explanations"]]
    assert chances == sorted(chances, reverse=True)
    asked = "--line", "Gas service to ticket hall", "--readings"
    (good,) = answered(capsys, "diagnose", job, *asked, "9,30;40,4.3,560")["hookups"]
    assert good["explanations"][0]["cause"] == "far_open"
    assert main(["diagnose", job, *asked, "3.4;30"]) == 2
    assert "--readings" in capsys.readouterr().err
    assert main(["diagnose", job, "--readings", "3.4,30"]) == 2


def test_the_command_line_gives_the_order_of_work(capsys):
    order = answered(capsys, "plan", "--site", str(DEMO / DEMO_JOBS[1]))
    assert [v["number"] for v in order["visits"]] == list(range(1, len(order["visits"]) + 1))
    assert order["without_metal"] == ["Storm drain"]
