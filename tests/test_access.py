"""Over a network: no password, no server; no sign-in, no answer; guesses are slowed down, devices signed out."""

import io
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import pytest
from starlette.testclient import TestClient

from vessel.api.access.gate import COOKIE
from vessel.api.app import create_app
from vessel.cli import main
from vessel.demo.serving import free_port
from vessel.settings import Settings
from vessel.store.database import as_stored

WORDS = "kelp lantern harbour"


@pytest.fixture
def database(tmp_path, monkeypatch, capsys):
    """A database whose crew has a password."""
    path = tmp_path / "x.sqlite3"
    monkeypatch.setattr("sys.stdin", io.StringIO(f"{WORDS}\n"))
    assert main(["password", "--database", str(path)]) == 0
    capsys.readouterr()
    return path


@pytest.fixture
def stranger(database):
    with TestClient(
        create_app(database, hosts=("yard.local",), guarded=True), base_url="http://yard.local", follow_redirects=False
    ) as client:
        yield client


def signed_in(client, password=WORDS, to="/"):
    return client.post(f"/sign-in?to={to}", data={"password": password})


def test_any_address_but_loopback_refuses_to_start_without_a_password(tmp_path, monkeypatch, capsys):
    path = str(tmp_path / "x.sqlite3")
    assert main(["serve", "--host", "0.0.0.0", "--port", str(free_port()), "--database", path]) == 2
    assert "no password is set" in capsys.readouterr().err
    monkeypatch.setattr("sys.stdin", io.StringIO("short\n"))
    assert main(["password", "--database", path]) == 2
    assert "soon guessed" in capsys.readouterr().err
    assert Settings().host == "127.0.0.1"


def test_nothing_is_answered_to_a_device_that_has_not_signed_in(stranger):
    for path in ("/api/jobs", "/api/backups", "/api/devices", "/api/jobs/1/export"):
        answer = stranger.get(path)
        assert (answer.status_code, answer.json()["code"]) == (401, "sign_in")
    page = stranger.get("/jobs/1/record")
    assert (page.status_code, page.headers["location"]) == (303, "/sign-in?to=/jobs/1/record")
    assert stranger.post("/api/jobs", json={"name": "A", "technician": "T"}).status_code == 401
    assert "Sign in" in stranger.get("/sign-in").text
    assert stranger.get("/assets/../vessel.sqlite3").status_code in (303, 404)


def test_the_password_lets_a_device_in_until_it_is_signed_out(stranger):
    answer = signed_in(stranger, to="/jobs/1")
    assert (answer.status_code, answer.headers["location"]) == (303, "/jobs/1")
    said = answer.headers["set-cookie"]
    assert "HttpOnly" in said
    assert "SameSite=strict" in said
    assert stranger.get("/api/jobs").status_code == 200
    (device,) = stranger.get("/api/devices").json()["devices"]
    assert device["here"]
    token = stranger.cookies[COOKIE]
    assert stranger.delete(f"/api/devices/{device['id']}").status_code == 204
    stranger.cookies.set(COOKIE, token)
    assert stranger.get("/api/jobs").status_code == 401


def test_after_thirty_days_a_device_signs_in_anew(database, stranger):
    signed_in(stranger)
    for days, status in ((29, 200), (31, 401)):
        at = as_stored(datetime.now(UTC) - timedelta(days=days))
        with closing(sqlite3.connect(database)) as db, db:
            db.execute("UPDATE devices SET signed_in_at = ?", (at,))
        assert stranger.get("/api/jobs").status_code == status


def test_guesses_are_slowed_down_and_no_address_leads_out(stranger):
    assert signed_in(stranger, to="//elsewhere.example/x").headers["location"] == "/x"  # on this server
    stranger.cookies.clear()
    codes = [signed_in(stranger, f"guess {k}").status_code for k in range(7)]
    assert codes == [401] * 5 + [429] * 2
    assert signed_in(stranger).status_code == 429, "the right one has to wait as well"


def test_a_new_password_signs_every_device_out(database, stranger, monkeypatch):
    signed_in(stranger)
    assert stranger.get("/api/jobs").status_code == 200
    monkeypatch.setattr("sys.stdin", io.StringIO("another set of words\n"))
    assert main(["password", "--database", str(database)]) == 0
    assert stranger.get("/api/jobs").status_code == 401


def test_a_foreign_page_can_neither_sign_in_nor_change_anything(stranger):
    foreign = {"Origin": "http://elsewhere.example"}
    answer = stranger.post("/sign-in", data={"password": WORDS}, headers=foreign)
    assert answer.status_code == 403
    signed_in(stranger)
    assert stranger.post("/api/jobs", json={"name": "A", "technician": "T"}, headers=foreign).status_code == 403


def test_on_loopback_nobody_is_asked(client):
    assert client.get("/api/jobs").status_code == 200
    assert client.get("/api/devices").json() == {"guarded": False, "devices": []}
