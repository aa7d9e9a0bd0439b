"""Stations placed by tapes or by the device, what is asked about them, and paint beside the line."""

import re

import pytest

from tests.conftest import SERVICE, STATION, detail, entered, sent
from vessel.formats import job_file
from vessel.formats.loaded_job import checked

TAPES = {
    "by": "tapes",
    "first_at": "Pillar",
    "second_at": "Riser",
    "first_tape": "5",
    "second_tape": "5",
    "side": "right",
}
HERE = {"latitude": 54.32, "longitude": 10.14}


@pytest.fixture
def setup(client, job):
    made = sent(client.post(f"/api/jobs/{job}/lines", json=SERVICE))["id"]
    access = [
        {"name": "Pillar", "kind": "pillar", "at": "20, 4"},
        {"name": "Riser", "kind": "riser", "at": "26, 4"},
    ]
    routes = [{"line_id": made, "route": "0, 0; 140, 0"}]
    sent(client.put(f"/api/jobs/{job}/site", json={"routes": routes, "access": access}))
    form = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}
    setup = sent(client.post(f"/api/lines/{made}/setups", json=form))["id"]
    sent(client.post(f"/api/setups/{setup}/readings", json={"volts": "12.9", "milliamps": "30"}))
    return setup


def place(client, setup, **form):
    return client.post(f"/api/setups/{setup}/place", json={**TAPES, **form})


def station(client, setup, distance, **more):
    return client.post(f"/api/setups/{setup}/stations", json={**STATION, "distance": distance, **more})


def test_two_tapes_give_the_distance_and_stay_with_the_station_and_its_mark(client, setup, job):
    found = sent(place(client, setup))
    assert found["distance"] == "23.00"
    assert "5.00 m from Pillar, 5.00 m from Riser" in found["text"]
    assert found["text"].endswith("0.00 m right of the line as drawn")
    aside = sent(place(client, setup, first_tape="4.5", second_tape="4.5"))
    assert aside["text"].endswith("0.65 m left of the line as drawn")
    trace = sent(station(client, setup, "23.00", place={**TAPES, "first_tape": "4.5", "second_tape": "4.5"}))
    kept = detail(client, trace["stations"][0])
    assert kept["place"]["typed"]["first_tape"] == "4.5"
    sent(
        client.post(f"/api/stations/{kept['id']}/marks", json={"reason": "Taped from pillar and riser.", "offset": "2"})
    )
    (mark,) = sent(client.get(f"/api/lines/{trace['line_id']}/marks"))
    assert "LINE 2.00 m TO S" in mark["label"]
    assert mark["painted_text"].startswith("Painted 2.00 m left of the line")
    # on the plan the paint stands where it is: taped, and two metres left of that
    (line,) = sent(client.get(f"/api/jobs/{job}/site/found"))["lines"]
    (point,) = [p for p in line["points"] if p["kind"] == "mark"]
    assert point["at"] == pytest.approx((23.0, 2.646), abs=0.01)
    file = client.get(f"/api/jobs/{job}/export").text
    again = sent(client.post("/api/jobs/import", json={"text": file}))["id"]
    assert entered(client.get(f"/api/jobs/{again}/export").text) == entered(file)
    # how far off the line as drawn it was placed counts among what speaks of other lines
    (read,) = checked(job_file.load(file).job).lines[0].setups[0].stations
    assert read.reading.placed == (pytest.approx(0.65, abs=0.01), 0.05)


@pytest.mark.parametrize(
    ("form", "field", "says"),
    [
        ({"first_tape": "1", "second_tape": "1"}, "second_tape", "do not meet"),
        ({"second_at": "Pillar"}, "second_at", "same place"),
        ({"first_at": "Kerb"}, "first_at", "no point of the plan"),
        ({"first_tape": ""}, "first_tape", "empty"),
        ({"first_tape": "90", "second_tape": "90"}, "second_tape", "off the line as drawn"),
        ({"by": "device", **HERE}, "by", "where on earth"),
    ],
)
def test_what_does_not_place_a_station_is_refused_with_the_reason(client, setup, form, field, says):
    answer = place(client, setup, **form)
    assert answer.status_code in (400, 422)
    assert (answer.json()["field"], says in answer.json()["message"]) == (field, True)


def test_the_device_places_a_station_once_the_plan_is_tied_to_the_earth(client, setup, job):
    sent(client.post(f"/api/jobs/{job}/site/tie", json={"point": "Pillar", **HERE}))
    assert sent(client.get(f"/api/setups/{setup}/trace"))["tied"]
    device = {"by": "device", **HERE, "accuracy_m": 3.0}
    found = sent(place(client, setup, **device))
    assert found["distance"] == "20.00"
    assert "± 3 m" in found["text"]
    # a degree of latitude is about 111.3 km here
    north = sent(place(client, setup, **{**device, "latitude": HERE["latitude"] - 4 / 111_300}))
    assert re.search(r"0\.0\d m (left|right) of the line", north["text"])
    far = place(client, setup, **{**device, "latitude": 55.0}).json()
    assert "nowhere near" in far["message"]


def test_a_slip_is_asked_about_and_kept_as_typed_where_that_is_insisted_on(client, setup):
    for distance in ("10", "14", "18"):
        sent(station(client, setup, distance))
    asked = station(client, setup, "12")
    assert asked.status_code == 422
    assert (asked.json()["code"], asked.json()["field"]) == ("doubtful", "distance")
    kept = sent(station(client, setup, "12", insist=True))
    assert [s["distance_m"] for s in kept["stations"]] == [10, 12, 14, 18]
    deep = station(client, setup, "22", depth="4m", depth_lifted="4.5m")
    assert "right unit" in deep.json()["message"]
    refused = client.post(
        f"/api/stations/{kept['stations'][0]['id']}/marks", json={"offset": "40", "reason": "No paint."}
    )
    assert refused.json()["field"] == "offset"


def test_neighbours_one_by_one_and_the_locked_gain_come_back_as_typed_and_count(client, setup):
    more = {"signal": "62", "neighbours": "L1.2 9.5 70; R2.0 -", "neighbour": ""}
    first = detail(client, sent(station(client, setup, "20", **more))["stations"][0])
    assert first["neighbour_text"] == "9.5 mA"
    assert (first["typed"]["neighbours"], first["typed"]["signal"]) == ("L1.2 9.5 70; R2.0 -", "62")
    louder = next(f for f in first["findings"] if f["rule_id"] == "louder")
    assert (louder["outcome"], "113 %" in louder["sentence"]) == ("care", True)
    assert station(client, setup, "30", neighbours="9.5").json()["field"] == "neighbours"
