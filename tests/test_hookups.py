"""Hookups over the API: readings that cannot be, and what would help."""

import json

from tests.conftest import sent


def test_a_reading_that_cannot_be_is_kept_on_insisting_and_never_reckoned_with(client, job, setup):
    before = sent(client.get(f"/api/setups/{setup}"))
    wrong = {"volts": "52", "milliamps": "30"}
    answer = client.post(f"/api/setups/{setup}/readings", json=wrong)
    assert (answer.status_code, answer.json()["code"], answer.json()["field"]) == (422, "doubtful", "volts")
    after = sent(client.post(f"/api/setups/{setup}/readings", json={**wrong, "insist": True, "change": "stake"}))
    assert [r["doubt_text"] != "" for r in after["readings"]] == [False, False, True]
    assert (after["headline"], after["hypotheses"]) == (before["headline"], before["hypotheses"])
    # it goes with the job, and is left out there as well
    again = sent(client.post("/api/jobs/import", json={"text": client.get(f"/api/jobs/{job}/export").text}))["id"]
    (kept,) = json.loads(client.get(f"/api/jobs/{again}/export").text)["job"]["lines"][0]["setups"]
    assert kept["readings"][-1]["volts"] == 52
    unknown = client.post(f"/api/setups/{setup}/readings", json={"volts": "5", "milliamps": "30", "freq": "33k"})
    assert (unknown.json()["code"], unknown.json()["field"]) == ("doubtful", "freq")


def test_a_hookup_read_only_wrong_is_not_proved(client, line):
    body = {"hookup": "direct", "freq": "8.96k", "output": "30"}
    made = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    more = {"volts": "12", "milliamps": "90", "insist": True}
    assert sent(client.post(f"/api/setups/{made}/readings", json=more))["state"] == "not_read"


def test_what_would_help_starts_as_a_hookup_of_its_own(client, line):
    low = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "direct", "freq": "560", "output": "120"}))
    sent(client.post(f"/api/setups/{low['id']}/readings", json={"volts": "40", "milliamps": "4.3"}))
    found = sent(client.get(f"/api/setups/{low['id']}/remedies"))
    assert found["headline"].startswith("With this hookup, expect about 0 m of 140 m")
    assert "→" in found["helping"][0]["gain_text"]
    other = next(r for r in found["helping"] if r["kind"] in ("frequency", "access", "method"))
    body = {"hookup": other["hookup"], "freq": f"{other['freq_hz']}Hz", "output": f"{other['output_a']}A"}
    made = sent(client.post(f"/api/lines/{line}/setups", json={**body, "position": f"{other['position_m']}m"}))
    assert made["id"] != low["id"]


def test_continuity_is_asked_for_at_low_frequency_and_told_apart_from_an_open_end(client, line):
    made = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "direct", "freq": "8.96k", "output": "30"}))
    path = f"/api/setups/{made['id']}"
    proof = sent(client.get(path))["continuity"]
    assert (proof["state"], proof["freq_text"]) == ("not_read", "560 Hz")

    def read(volts, milliamps):
        body = {"volts": volts, "milliamps": milliamps, "freq": "560"}
        return sent(client.post(f"{path}/readings", json=body))["continuity"]["state"]

    assert read("40", "4.3") == "not_proved"
    assert read("8.4", "30") == "proved"
    clamp = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "clamp", "freq": "35.84k", "output": "30"}))
    assert sent(client.get(f"/api/setups/{clamp['id']}"))["continuity"] is None


def test_a_reading_is_judged_while_it_is_typed_and_nothing_is_kept(client, setup):
    def typed(**fields):
        return sent(client.post(f"/api/setups/{setup}/readings/preview", json={"volts": "", "milliamps": "", **fields}))

    before = sent(client.get(f"/api/setups/{setup}"))
    good = typed(volts="7.9", milliamps="30")
    assert (good["state"], good["doubt_text"]) == (before["state"], "")
    assert good["causes"][0]["title"] == before["hypotheses"][0]["title"]
    assert typed(volts="39", milliamps="2")["headline"] != good["headline"]
    assert "above the 40 V" in typed(volts="60", milliamps="30")["doubt_text"]
    assert sent(client.get(f"/api/setups/{setup}")) == before
    assert (
        client.post(f"/api/setups/{setup}/readings/preview", json={"volts": "x", "milliamps": "1"}).status_code == 422
    )


def test_the_receivers_frequency_is_set_by_the_step_that_sets_it(client, line):
    made = sent(client.post(f"/api/lines/{line}/setups", json={"hookup": "induction", "freq": "8.96k", "output": "60"}))
    path = f"/api/setups/{made['id']}"

    def patched(**body):
        return sent(client.patch(path, json=body))

    assert "8.96 kHz" in next(s["text"] for s in patched(steps_done=["off"])["steps"] if s["id"] == "match")
    assert patched(steps_done=["off"])["rx_freq_hz"] is None
    assert patched(steps_done=["off", "match"])["rx_freq_hz"] == 8960
    assert patched(steps_done=["off"])["rx_freq_hz"] is None
    patched(rx_freq="35.84k")  # read off the receiver: a tick does not know better
    assert patched(steps_done=["off", "match"])["rx_freq_hz"] == 35840
