"""What runs beside a line: told on its form, in the plan, beside the trace, refused where it cannot be."""

import pytest

from tests.conftest import SERVICE, sent

DIRECT = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}

MAIN = {
    "name": "Water main",
    "preset": "jointed_iron_main",
    "side": "left",
    "offset": "1.2",
    "end": "80",
    "depth": "1.2",
}


CABLE = {"name": "Bollard cable", "preset": "armoured_cable", "side": "right", "offset": "1.5", "start": "40",
         "depth": "0.7", "start_earth": "10", "end_earth": "10"}  # fmt: skip


def with_neighbours(client, line, *neighbours):
    return client.put(f"/api/lines/{line}", json={**SERVICE, "neighbours": list(neighbours)})


def best(client, line):
    return sent(client.get(f"/api/lines/{line}/plan"))["options"][0]


def test_what_runs_beside_changes_plan_trace_and_stake(client, line):
    setup = sent(client.post(f"/api/lines/{line}/setups", json=DIRECT))["id"]
    alone = best(client, line)
    assert alone["forecasts"][0]["bleed_off"] == []
    sent(with_neighbours(client, line, MAIN, CABLE))
    told = best(client, line)
    assert alone["freq_text"] == "35.84 kHz"
    assert told["freq_hz"] < alone["freq_hz"]
    main, cable = told["forecasts"][0]["bleed_off"]
    assert (main["name"], cable["name"]) == ("Water main", "Bollard cable")
    assert 0.05 < main["share"] < 1
    assert "of the line's own" in main["text"]
    beside = sent(client.get(f"/api/setups/{setup}/trace"))["beside"]
    assert [b["side"] for b in beside] == ["left", "right"]
    assert max(beside[0]["band"]["high_a"]) > 1e-3
    stake = next(s for s in sent(client.get(f"/api/setups/{setup}"))["steps"] if s["id"] == "stake")
    assert "on the right" in stake["text"]
    typed = sent(client.get(f"/api/lines/{line}"))["neighbours"][0]
    assert (typed["offset"], typed["start"], typed["end"], typed["depth"]) == ("1.2", "", "80", "1.2")


def test_a_line_of_the_job_is_told_beside_another_with_its_own_make_up(client, job, line):
    (choice,) = sent(client.get(f"/api/jobs/{job}/beside"))
    assert (choice["name"], choice["of_line"], choice["depth"]) == ("Gas service", line, "0.8m")
    second = {**SERVICE, "name": "Second service", "neighbours": [{**choice, "offset": "0.6"}]}
    made = sent(client.post(f"/api/jobs/{job}/lines", json=second))["id"]
    (told,) = sent(client.get(f"/api/lines/{made}"))["neighbours"]
    assert (told["name"], told["end_earth"]) == ("Gas service", "30")
    assert best(client, made)["forecasts"][0]["bleed_off"]


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"offset": ""}, "neighbours.0.offset"),
        ({"offset": "0.01"}, "neighbours.0.offset"),
        ({"offset": "0.08", "depth": "0.8"}, "neighbours"),
        ({"depth": "40m"}, "neighbours.0.depth"),
        ({"start": "90"}, "neighbours.0.end"),
        ({"name": ""}, "neighbours.0.name"),
        ({"preset": "rope"}, "neighbours.0.preset"),
        ({"start_earth": "0"}, "neighbours.0.start_earth"),
        ({"bond": "100"}, "neighbours.0.bond"),
        ({"bond": "150", "end": ""}, "neighbours"),
    ],
)
def test_a_neighbour_that_cannot_be_is_refused_by_name_and_nothing_is_lost(client, line, change, field):
    before = sent(client.get(f"/api/lines/{line}"))
    refused = with_neighbours(client, line, {**MAIN, **change})
    assert refused.status_code == 422
    assert refused.json()["field"] == field
    assert refused.json()["fix"]
    assert sent(client.get(f"/api/lines/{line}")) == before


def test_a_stake_on_a_neighbour_is_refused(client, line):
    both = [{**MAIN, "side": side, "offset": "6", "depth": "0.3", "start": ""} for side in ("left", "right")]
    assert with_neighbours(client, line, *both).status_code == 204
    body = {"hookup": "direct", "freq": "8.96k", "output": "30", "stake_away": "6"}
    refused = client.post(f"/api/lines/{line}/setups", json=body)
    assert refused.json()["field"] == "stake_away"
    assert "The stake is on 1 Water main" in refused.json()["message"]


def test_across_the_line_a_neighbour_pulls_the_null_further_than_the_peak(client, line):
    setup = sent(client.post(f"/api/lines/{line}/setups", json=DIRECT))["id"]
    cut = f"/api/setups/{setup}/across?at_m=70"
    alone = sent(client.get(cut))
    assert [b["target"] for b in alone["below"]] == [True]
    assert max(abs(alone["peak_m"]), abs(alone["null_m"])) < 0.02
    sent(with_neighbours(client, line, {**MAIN, "preset": "coated_steel_pipe", "start_earth": "5", "end_earth": "5"}))
    pulled = sent(client.get(cut))
    assert pulled["null_m"] < pulled["peak_m"] < 0  # away from the neighbour on the left
    assert [b["offset_m"] for b in pulled["below"]] == [0.0, 1.2]
    assert "right of it" in pulled["text"]
    refused = client.get(f"/api/setups/{setup}/across?at_m=200")
    assert (refused.status_code, refused.json()["field"]) == (422, "at_m")
