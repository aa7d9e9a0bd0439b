"""The local rule of marking: what it changes, what it leaves as it was made, and what it refuses."""

import pytest

from tests.conftest import STATION, sent
from tests.test_found import found  # noqa: F401  the same marked job
from vessel.formats.job_file import load

GAS = {"colour": "Ochre", "hex": "#C08000", "letter": "GS", "pattern": "dot"}


def rule(client, job, **changes):
    now = sent(client.get(f"/api/jobs/{job}/marking"))
    keys = ("colour", "hex", "letter", "pattern")
    body = {
        "looks": {x["id"]: {k: x["now"][k] for k in keys} for x in now["looks"]},
        "tolerance": now["tolerance_typed"],
        "source": now["source"],
    }
    return {**body, **changes, "looks": {**body["looks"], **changes.get("looks", {})}}


def test_a_local_rule_changes_lines_zone_and_new_marks_and_leaves_old_marks_as_they_were_made(client, job, found):  # noqa: F811
    line, before = found
    url = f"/api/jobs/{job}/marking"
    body = rule(client, job, looks={"gas": GAS}, tolerance="24in", source="Harbour by-law 7")
    now = sent(client.put(url, json=body))
    assert [x["id"] for x in now["looks"] if x["own"]] == ["gas"]
    assert (now["tolerance_text"], now["source"], now["by"]) == ("0.61 m", "Harbour by-law 7", "R. Tallow")
    state = sent(client.get(f"/api/jobs/{job}"))["lines"][0]
    assert (state["utility"]["letter"], state["utility"]["hex"]) == ("GS", "#c08000")
    view = sent(client.get(f"/api/jobs/{job}/site/found"))
    assert "0.61 m to either side" in view["zone_text"]
    assert "Harbour by-law 7" in view["zone_text"]
    assert view["lines"][0]["stretches"][1]["zone"] != before["lines"][0]["stretches"][1]["zone"]
    old = sent(client.get(f"/api/lines/{line}/marks"))
    assert {(m["colour"], m["hex"]) for m in old} == {("Yellow", "#f2c200")}
    assert all(m["label"].startswith("G ") for m in old)
    trace = sent(
        client.post(f"/api/setups/{state['setup_id']}/stations", json={**STATION, "distance": "28", "insist": True})
    )
    station = next(s for s in trace["stations"] if s["distance_m"] == 28)
    made = sent(client.post(f"/api/stations/{station['id']}/marks", json={"reason": "Seen in the trench beside it."}))
    assert (made["colour"], made["hex"]) == ("Ochre", "#c08000")
    assert made["label"].startswith("GS ")
    file = client.get(f"/api/jobs/{job}/export").text
    assert load(file).job.marking.looks["gas"].letter == "GS"
    again = sent(client.post("/api/jobs/import", json={"text": file}))["id"]
    assert sent(client.get(f"/api/jobs/{again}/marking"))["looks"] == now["looks"]
    usual = {x["id"]: {k: x["usual"][k] for k in GAS} for x in now["looks"]}
    back = sent(client.put(url, json={**body, "looks": usual, "tolerance": "0.45"}))
    assert not any(x["own"] for x in back["looks"])


@pytest.mark.parametrize(
    ("change", "field", "says"),
    [
        ({"looks": {"gas": {**GAS, "letter": "w"}}}, "looks.water.letter", "would both be marked"),
        ({"looks": {"gas": {**GAS, "letter": "GASL"}}}, "looks.gas.letter", "does not fit on a mark"),
        ({"looks": {"gas": {**GAS, "hex": "yellow"}}}, "looks.gas.hex", "is not a colour"),
        ({"looks": {"gas": {**GAS, "pattern": "zigzag"}}}, "looks.gas.pattern", "is not a pattern"),
        ({"looks": {"gas": {**GAS, "colour": " "}}}, "looks.gas.colour", "has no name"),
        ({"looks": {"steam": GAS}}, "looks.steam", "is not a kind of line"),
        ({"tolerance": "5m"}, "tolerance", "tolerance zone"),
        ({"tolerance": "a hand"}, "tolerance", ""),
        ({"tolerance": ""}, "tolerance", "is empty"),
    ],
)
def test_a_rule_that_cannot_be_is_refused_by_field_and_changes_nothing(client, job, change, field, says):
    before = sent(client.get(f"/api/jobs/{job}/marking"))
    r = client.put(f"/api/jobs/{job}/marking", json=rule(client, job, **change))
    assert r.status_code == 422, r.text
    assert r.json()["field"] == field
    assert says in r.json()["message"]
    assert r.json()["fix"]
    assert sent(client.get(f"/api/jobs/{job}/marking")) == before
