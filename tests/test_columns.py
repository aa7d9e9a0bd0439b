"""Stations pasted in columns: told apart, mapped, taken or named line by line."""

import pytest

from tests.conftest import STATION, detail, sent
from vessel.core.base.errors import BadInput
from vessel.formats.columns import MOST_ROWS, guessed, read_columns, station_texts

LOGGED = """Chainage;Current 1;Current 2;Current 3;Depth;Null
10;27,5;27,4;27,6;0,76;0,02
20;25,9;25,8;26,0;0,78;0,01
20;25,9;25,8;26,0;0,78;0,01
thirty;24;24;24;0.80;0.02
40;abc;21;21;0.8;0.02
"""


@pytest.mark.parametrize(
    ("text", "first"),
    [
        ("10 27.5 0.76\n20 26 0.8", ("10", "27.5", "0.76")),
        ("10\t27.5 27.4\t0.76", ("10", "27.5 27.4", "0.76")),
        ('10,27.5,"0.76"\n20,26,0.8', ("10", "27.5", "0.76")),
        ("10;27,5;0,76", ("10", "27.5", "0.76")),
        ("10 27,5 0,76\n20 26 0,8", ("10", "27.5", "0.76")),
    ],
)
def test_any_separator_and_the_decimal_comma_where_it_cannot_separate(text, first):
    assert read_columns(text).rows[0][1] == first


def test_names_say_what_a_column_holds_and_currents_may_stand_in_several():
    table = read_columns(LOGGED)
    mapping = guessed(table)
    assert mapping == ["distance", "currents", "currents", "currents", "depth", "peak_null"]
    assert station_texts(table.rows[0][1], mapping)["currents"] == "27.5 27.4 27.6"
    assert guessed(read_columns("10 27 0.8")) == ["", "", ""]
    named = read_columns("Depth\tDepth when lifted\tLift height\tBest neighbour\n1\t2\t3\t4")
    assert guessed(named) == ["depth", "depth_lifted", "lift_height", "neighbour"]


@pytest.mark.parametrize("text", ["", " \n", "Distance;Depth", "1 2\n" * (MOST_ROWS + 1)])
def test_nothing_and_too_much_are_refused(text):
    with pytest.raises(BadInput) as e:
        read_columns(text)
    assert e.value.field == "text"


def test_good_lines_are_taken_and_the_others_given_back(client, setup):
    def paste(**more):
        return client.post(f"/api/setups/{setup}/columns", json={"text": LOGGED, **more})

    seen = sent(paste())
    assert (seen["good"], seen["taken"]) == (2, 0)
    assert [p["line"] for p in seen["problems"]] == [4, 5, 6]
    assert "same distance" in seen["problems"][0]["text"]
    assert sent(client.get(f"/api/setups/{setup}/trace"))["stations"] == []
    taken = sent(paste(store=True))
    assert taken["taken"] == 2
    assert taken["left"].splitlines() == LOGGED.splitlines()[3:]
    trace = sent(client.get(f"/api/setups/{setup}/trace"))
    assert [s["distance_m"] for s in trace["stations"]] == [10, 20]
    assert detail(client, trace["stations"][0])["typed"]["currents"] == "27.5 27.4 27.6"
    assert len(sent(paste())["problems"]) == 5  # once more: they are there already


def test_a_mapping_is_held_to_what_a_station_has(client, setup):
    def refused(mapping, **more):
        body = {"text": "10 27.5 0.76", "mapping": mapping, **more}
        answer = client.post(f"/api/setups/{setup}/columns", json=body)
        assert (answer.status_code, answer.json()["field"]) == (422, "mapping")

    refused(["distance", "weight", ""])
    refused(["distance", "depth", "depth"])
    refused(["", "currents", "depth"], store=True)


def test_what_one_would_ask_about_is_asked_and_kept_as_typed(client, setup):
    def asked(text):
        return sent(client.post(f"/api/setups/{setup}/columns", json={"text": text}))["doubts"]

    head = "Distance\tCurrent\tDepth\n"
    assert asked(f"{head}10\t27.5\t0.76\n20\t26\t0.76\n30\t25\t0.78") == []
    assert asked(f"{head}30\t25\t0.76\n20\t26\t0.76\n10\t27.5\t0.78") == []  # walked back towards the hookup
    (back,) = asked(f"{head}10\t27.5\t0.76\n30\t25\t0.76\n20\t26\t0.78\n40\t24\t0.78")
    assert "backwards at line 4" in back
    (mixed,) = asked(f"{head}10\t27.5\t76cm\n20\t26\t0.76\n30\t25\t0.78")
    assert "some lines carry a unit (76cm) and others do not (0.76)" in mixed
    body = {"text": f"{head}10\t27.5\t76cm\n30\t25\t0.76\n20\t26\t0.78", "store": True}
    assert sent(client.post(f"/api/setups/{setup}/columns", json=body))["taken"] == 3
    kept = sent(client.get(f"/api/setups/{setup}/trace"))["stations"]
    assert [(s["distance_m"], s["depth_m"]) for s in kept] == [(10, 0.76), (20, 0.78), (30, 0.76)]


def test_a_station_on_a_long_trace_is_stored_at_once_and_judged_when_asked(client, setup, monkeypatch):
    monkeypatch.setattr("vessel.api.stations.routes._LONG", 2)
    path = f"/api/setups/{setup}"
    for at in (20, 28):
        assert client.post(f"{path}/stations", json={**STATION, "distance": str(at)}).status_code == 201
    third = client.post(f"{path}/stations", json={**STATION, "distance": "36"})
    assert (third.status_code, third.json()) == (202, {"setup_id": setup, "stations": 3})
    stations = sent(client.get(f"{path}/trace"))["stations"]
    assert [s["distance_m"] for s in stations] == [20, 28, 36]
    same = client.post(f"{path}/stations", json={**STATION, "distance": "36.02"})
    assert (same.status_code, same.json()["field"]) == (409, "distance")
    corrected = client.put(f"/api/stations/{stations[2]['id']}", json={**STATION, "distance": "37"})
    assert corrected.status_code == 202
