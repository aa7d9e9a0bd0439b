"""Nothing is erased: every change is in the journal, what is struck out stays in sight with its reason."""

import json
import sqlite3
from contextlib import closing

import pytest

from tests.conftest import SERVICE, STATION, sent


def history(client, job, **of):
    asked = "&".join(f"{k}={v}" for k, v in of.items())
    return sent(client.get(f"/api/jobs/{job}/history?{asked}"))["entries"]


@pytest.fixture
def station(client, setup) -> int:
    return sent(client.post(f"/api/setups/{setup}/stations", json=STATION))["stations"][0]["id"]


def test_a_correction_keeps_the_value_before_with_who_and_when(client, job, setup, station):
    signed = {"X-Vessel-Who": "M.%20Irsa", "X-Vessel-Device": "phone%207"}
    sent(client.put(f"/api/stations/{station}", json={**STATION, "depth": "0.82"}, headers=signed))
    changed, made = history(client, job, kind="stations", entry=station)
    assert (made["action"], made["who"]) == ("made", "R. Tallow")
    assert (changed["action"], changed["who"], changed["device"]) == ("changed", "M. Irsa", "phone 7")
    assert changed["text"] == "Changed: station at 20 m of Gas service"
    assert changed["changes"] == [{"label": "Depth on the ground", "was": "0.78 m", "now": "0.82 m"}]
    assert changed["at"].endswith("Z")


@pytest.mark.parametrize("thing", ["station", "reading", "candidate", "answer"])
def test_what_is_struck_out_counts_no_more_and_stays_in_sight_with_its_reason(client, job, setup, station, thing):
    if thing == "candidate":
        sent(client.post(f"/api/setups/{setup}/candidates", json={"bearing": "40", "current": "20", "depth": "0.8"}))
    view, entries, path = {
        "station": ("trace", "stations", "stations"),
        "reading": ("", "readings", "readings"),
        "candidate": ("sweep", "candidates", "candidates"),
        "answer": ("identity", "given", "identity"),
    }[thing]
    address = f"/api/setups/{setup}/{view}".rstrip("/")
    before = sent(client.get(address))
    key = before[entries][0]["id"]
    refused = client.delete(f"/api/{path}/{key}")
    assert (refused.status_code, refused.json()["field"]) == (422, "why")
    assert len(sent(client.get(address))[entries]) == len(before[entries])
    sent(client.delete(f"/api/{path}/{key}?why=Wrong line"))
    now = sent(client.get(address))
    assert key not in [e["id"] for e in now[entries]]
    (struck,) = now["struck"]
    assert (struck["id"], struck["by"], struck["why"]) == (key, "R. Tallow", "Wrong line")
    assert struck["text"]
    assert history(client, job)[0]["action"] == "struck"
    assert history(client, job)[0]["why"] == "Wrong line"
    # on the record too, and on the file's way to another device
    record = sent(client.get(f"/api/jobs/{job}/record"))
    assert [c["why"] for c in record["changes"] if c["action"] == "struck"] == ["Wrong line"]
    text = client.get(f"/api/jobs/{job}/export").text
    copy = sent(client.post("/api/jobs/import", json={"text": text}))["id"]
    told = history(client, copy)
    assert told[0]["action"] == "imported"
    assert (told[1]["action"], told[1]["why"]) == ("struck", "Wrong line")
    assert told[1]["text"] == history(client, job)[0]["text"]
    sent(client.post(f"/api/{path}/{key}/restore"), 204)
    back = sent(client.get(address))
    assert (back["struck"], len(back[entries])) == ([], len(before[entries]))
    assert history(client, job)[0]["action"] == "restored"


def test_a_mark_withdrawn_a_line_changed_and_a_job_removed_are_in_it(client, job, line, setup, station):
    mark = sent(client.post(f"/api/stations/{station}/marks", json={}))["id"]
    sent(client.post(f"/api/marks/{mark}/withdraw", json={"reason": "Wrong kerb."}))
    sent(client.put(f"/api/lines/{line}", json={**SERVICE, "depth_max": "1.2"}))
    said = {(e["action"], e["text"].split(": ")[1].split(" ")[0], e["why"]) for e in history(client, job)}
    assert {("made", "mark", ""), ("withdrawn", "mark", "Wrong kerb."), ("changed", "line", "")} <= said
    (changed,) = [e for e in history(client, job, kind="lines") if e["action"] == "changed"]
    assert {"label": "Maximum depth", "was": "1.00 m", "now": "1.20 m"} in changed["changes"]
    sent(client.delete(f"/api/lines/{line}?why=Outside the dig"), 204)
    assert "Outside the dig" in {e["why"] for e in history(client, job, kind="lines")}


def test_the_journal_can_only_be_appended_to(client, job, tmp_path):
    path = client.app.state.database
    for statement in ("UPDATE journal SET who = 'nobody'", "DELETE FROM journal"):
        with closing(sqlite3.connect(path)) as db, pytest.raises(sqlite3.IntegrityError, match="only appended"):
            db.execute(statement)


def test_a_refused_change_leaves_no_entry(client, job, line):
    before = len(history(client, job))
    assert client.put(f"/api/lines/{line}", json={**SERVICE, "length": "never"}).status_code == 422
    assert len(history(client, job)) == before
    export = json.loads(client.get(f"/api/jobs/{job}/export").text)
    assert [j["action"] for j in export["job"]["journal"]] == ["made", "made"]
