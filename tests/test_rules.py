"""A crew's own bounds: followed by judge and plan alike, kept with the kit and with every mark, said when looser."""

from dataclasses import replace

import pytest

from tests.conftest import STATION, detail, entered, sent
from vessel.core.base.errors import BadInput
from vessel.core.judge.station.crew_bounds import looser, rule_of, rules_of, version_of
from vessel.core.judge.station.criteria import BY_ID, CRITERIA_VERSION, RULES
from vessel.core.model.construction import PRESETS
from vessel.core.model.kit import SAMPLE_KIT, Bound
from vessel.core.model.line import Line
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_site import plan_lines
from vessel.words.finding_sentences import bound_typed, understand_bound
from vessel.words.refusals import refusal

PEAK_NULL = "/api/kits/1/bounds/peak_null"


def rule(view, rule_id):
    return next(r for r in view["rules"] if r["id"] == rule_id)


def test_without_bounds_of_its_own_a_crew_judges_by_the_table():
    assert rules_of(()) == RULES
    assert version_of(RULES) == CRITERIA_VERSION
    moved = rules_of((Bound("lift", 0.1, 0.5),))
    assert [r.id for r in moved] == [r.id for r in RULES]
    assert version_of(moved) == f"{CRITERIA_VERSION}, edited"
    assert not looser(next(r for r in moved if r.id == "lift"))
    kit = replace(SAMPLE_KIT, bounds=(Bound("ends", 2.0, 1.0),))
    assert looser(rule_of(kit, "ends"))  # below is worse there: nearer to the end passes


@pytest.mark.parametrize(
    ("bound", "field"),
    [
        (Bound("guess", 0.1, 0.2), "bounds"),
        (Bound("lift", None, 0.5), "care"),
        (Bound("frequency", 0.0005, 0.001), "care"),
        (Bound("told", 0.2, 0.1), "hold"),
        (Bound("lift", 0.5, 0.2), "care"),
        (Bound("ends", 1.0, 2.0), "care"),
        (Bound("lift", 0.15, 9.0), "hold"),
        (Bound("lift", 0.15, -1.0), "hold"),
        (Bound("ends", 0.5, 0.01), "care"),
    ],
)
def test_bounds_that_make_no_rule_are_refused_by_name(bound, field):
    with pytest.raises(BadInput) as e:
        rules_of((bound,))
    assert e.value.field == field
    assert refusal(e.value)[1]


@pytest.mark.parametrize(("rule_id", "text", "value"), [
    ("lift", "12%", 0.12), ("lift", "12", 0.12), ("signal", "30 times", 30.0), ("peak_null", "5cm", 0.05), ("ends", "2.5", 2.5),
])  # fmt: skip
def test_bounds_are_typed_as_the_rule_says_them(rule_id, text, value):
    r = BY_ID[rule_id]
    assert understand_bound(r, text, "metric", field="care") == pytest.approx(value)
    assert understand_bound(r, bound_typed(r, value), "imperial", field="care") == pytest.approx(value)
    with pytest.raises(BadInput):
        understand_bound(r, "a lot", "metric", field="care")


def test_the_plan_follows_a_crews_bounds():
    line, soil = Line(PRESETS["tracer_wire"].construction, 140.0, 0.6, 1.0), Soil(120.0)
    (usual,) = plan_lines([line], soil, SAMPLE_KIT)
    strict = replace(SAMPLE_KIT, bounds=(Bound("ends", 9.0, 4.5),))
    (careful,) = plan_lines([line], soil, strict)
    assert careful.ranked[0].proved_m < usual.ranked[0].proved_m - 5


def test_a_stricter_bound_holds_stations_and_stays_with_the_mark(client, job, setup):
    trace = sent(client.post(f"/api/setups/{setup}/stations", json={**STATION, "peak_null": "0.04", "neighbour": "0"}))
    assert trace["stations"][0]["verdict"] == "mark"
    body = {"care": "1cm", "hold": "3cm", "reason": "A hospital feed lies beside it.", "technician": "R. Tallow"}
    view = rule(sent(client.put(PEAK_NULL, json=body)), "peak_null")
    assert (view["edited"], view["by"], view["bounds"]) == (
        "stricter",
        "R. Tallow",
        "care above 0.01 m, hold above 0.03 m",
    )
    trace = sent(client.get(f"/api/setups/{setup}/trace"))
    held = trace["stations"][0]
    assert (held["verdict"], trace["criteria_version"]) == ("hold", f"{CRITERIA_VERSION}, edited")
    finding = next(f for f in detail(client, held)["findings"] if f["rule_id"] == "peak_null")
    assert finding["sentence"].endswith("0.01 m is the most that passes.")
    reason = {"reason": "Seen in the trench beside it."}
    mark = sent(client.post(f"/api/stations/{held['id']}/marks", json=reason))
    sent(client.delete(PEAK_NULL))
    assert sent(client.get(f"/api/setups/{setup}/trace"))["stations"][0]["verdict"] == "mark"
    (kept,) = sent(client.get(f"/api/jobs/{job}/record"))["lines"][0]["marks"]
    assert (kept["id"], kept["verdict"], kept["criteria_version"]) == (
        mark["id"],
        "hold",
        f"{CRITERIA_VERSION}, edited",
    )


def test_a_looser_bound_needs_a_reason_and_is_said_to_be_looser(client, setup):
    body = {"care": "15%", "hold": "90%", "reason": ""}
    refused = client.put("/api/kits/1/bounds/lift", json=body)
    assert (refused.status_code, refused.json()["field"]) == (422, "reason")
    assert rule(sent(client.get("/api/rules", params={"kit_id": 1})), "lift")["edited"] == ""
    view = sent(client.put("/api/kits/1/bounds/lift", json={**body, "reason": "Uneven ground."}))
    assert rule(view, "lift")["edited"] == "looser"
    assert rule(view, "lift")["own_bounds"] == "care above 30 %, hold above 75 %"
    assert rule(sent(client.get("/api/rules")), "lift")["edited"] == ""  # Vessel's own table stays
    for wrong in ({"hold": "900%"}, {"hold": "much"}, {"hold": ""}):
        answer = client.put("/api/kits/1/bounds/lift", json={**body, "reason": "Uneven ground.", **wrong})
        assert (answer.status_code // 100, answer.json()["field"]) == (4, "hold")
    assert client.put("/api/kits/1/bounds/guess", json=body).status_code == 404


def test_bounds_go_out_and_in_with_the_job(client, job, setup):
    sent(client.put(PEAK_NULL, json={"care": "3cm", "hold": "10cm", "reason": "Agreed."}))
    text = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    assert entered(client.get(f"/api/jobs/{again}/export").text) == entered(text)
    assert len(sent(client.get("/api/kits"))) == 1  # the same kit, not one more
    broken = text.replace('"rule": "peak_null"', '"rule": "guess"')
    assert client.post("/api/jobs/import", json={"text": broken}).status_code // 100 == 4


def test_no_crew_moves_what_identity_needs(client, job):
    body = {"care": "5", "hold": "", "reason": "We know the ground.", "technician": "R. Tallow"}
    refused = client.put(PEAK_NULL.replace("peak_null", "identity"), json=body)
    assert (refused.status_code, refused.json()["field"]) == (422, "care")
    assert "same for every crew" in refused.json()["message"]
    (identity,) = [r for r in sent(client.get("/api/rules"))["rules"] if r["id"] == "identity"]
    assert identity["fixed"]
