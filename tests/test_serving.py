"""The server as started from the command line, and its guards."""

import asyncio
import json
import re
import socket
import subprocess
import sys
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from starlette.responses import Response
from starlette.testclient import TestClient

from tests.conftest import SERVICE, sent
from vessel.api.app import WEB, create_app
from vessel.api.security import LOOPBACK, BodyLimit, LocalGuard, host_name
from vessel.cli import _parser, main
from vessel.core.simulate.line_simulator import Simulator
from vessel.demo.serving import free_port
from vessel.settings import Settings


def fetch(url: str, **headers: str) -> tuple[int, str]:
    try:
        with urllib.request.urlopen(urllib.request.Request(url, headers=headers), timeout=30) as r:
            return r.status, r.read().decode()
    except urllib.error.HTTPError as e:
        with e:
            return e.code, e.read().decode()


@contextmanager
def running(*command: str) -> Iterator[str]:
    """Run a server until the block ends; yield its address once it answers."""
    port = free_port()
    with subprocess.Popen(
        [sys.executable, "-m", *command, "--port", str(port)], stdout=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    ) as server:
        try:
            for _ in range(1200):  # two minutes: a loaded machine takes long to start several
                if server.poll() is not None:
                    break
                try:
                    fetch(f"http://127.0.0.1:{port}/api/jobs")
                    break
                except OSError:  # not listening yet, or slow to answer at first
                    time.sleep(0.1)
            yield f"http://127.0.0.1:{port}"
        finally:
            server.terminate()
            said = server.communicate()
            print(*said)


def test_serve_prints_its_address_shows_the_demo_job_and_stops_what_nobody_waits_for(tmp_path, capsys, monkeypatch):
    monkeypatch.setenv("VESSEL_LOG_LEVEL", "info")
    with running("vessel.cli", "serve", "--demo", "--database", str(tmp_path / "x.sqlite3")) as url:
        status, body = fetch(f"{url}/api/jobs")
        assert status == 200
        assert "Ostrel Bay" in body
        assert fetch(f"{url}/api/jobs", Host="ostrel.example")[0] == 400
        assert "<div id=" in fetch(f"{url}/jobs/1/lines/1/plan")[1]
        work = "/api/jobs/2/site/work"
        with socket.create_connection(("127.0.0.1", int(url.rpartition(":")[2]))) as gone:
            gone.sendall(f"GET {work} HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n".encode())
            time.sleep(0.2)
        assert fetch(f"{url}{work}")[0] == 200  # who still waits is answered
    said = capsys.readouterr()
    assert f"{url}/" in said.out
    assert f"GET {work} 499" in said.out + said.err


def test_several_processes_serve_one_database_and_each_sees_what_others_store(tmp_path, monkeypatch):
    monkeypatch.setenv("VESSEL_DATABASE", str(tmp_path / "x.sqlite3"))
    with running("uvicorn", "--factory", "vessel.api.app:served", "--workers", "2") as url:
        body = json.dumps({"name": "Apron", "technician": "R. Tallow"}).encode()
        headers = {"Content-Type": "application/json"}
        for _ in range(6):
            with urllib.request.urlopen(urllib.request.Request(f"{url}/api/jobs", body, headers), timeout=30) as r:
                assert r.status == 201
        for _ in range(6):
            assert len(json.loads(fetch(f"{url}/api/jobs")[1])["jobs"]) == 6
        assert len(json.loads(fetch(f"{url}/api/kits")[1])) == 1


def test_settings_come_from_flags_then_the_environment_then_their_defaults(monkeypatch):
    usual = Settings()
    assert (usual.host, usual.allow_host, usual.port) == ("127.0.0.1", [], 8420)
    monkeypatch.setenv("VESSEL_ALLOW_HOST", "vessel.local, yard.local")
    monkeypatch.setenv("VESSEL_PORT", "9000")
    assert Settings().allow_host == ["vessel.local", "yard.local"]
    assert Settings(port=9100).port == 9100
    args = vars(_parser().parse_args(["serve"]))
    assert set(Settings.model_fields) <= set(args)
    assert all(args[name] is None for name in Settings.model_fields)
    assert LocalGuard(None).hosts == set(LOOPBACK)


def test_every_answer_says_what_a_browser_may_do_with_it(client, job):
    for path in ("/", "/jobs/1", f"/api/jobs/{job}", "/api/nothing"):
        headers = client.get(path).headers
        policy = dict(part.split(" ", 1) for part in headers["content-security-policy"].split("; "))
        assert policy["script-src"] == "'self'"
        assert policy["frame-ancestors"] == "'none'"
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "same-origin"


def test_answers_are_compressed_tagged_and_not_sent_again(client, demo):
    job = client.post("/api/jobs/import", json={"text": demo}).json()["id"]
    first = client.get(f"/api/jobs/{job}/record")
    assert first.headers["content-encoding"] == "gzip"
    again = client.get(f"/api/jobs/{job}", headers={"If-None-Match": client.get(f"/api/jobs/{job}").headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")
    client.put(f"/api/jobs/{job}", json={"name": "Other", "technician": "R. Tallow"})
    assert client.get(f"/api/jobs/{job}", headers={"If-None-Match": again.headers["etag"]}).status_code == 200


def test_assets_are_kept_for_good_and_the_page_is_asked_for_again(client):
    page = client.get("/jobs/1")
    assert page.headers["cache-control"] == "no-cache"
    asset = re.search(r'src="\./(assets/[^"]+\.js)"', page.text).group(1)
    answer = client.get(f"/{asset}")
    assert "immutable" in answer.headers["cache-control"]
    assert answer.headers["content-encoding"] == "gzip"


def test_the_list_of_jobs_is_light_to_load(client):
    """Under 130 kB of scripts and styles: nothing of a line's pages comes with it."""
    assets = WEB / "assets"
    wanted = set(re.findall(r'"\./assets/([^"]+\.(?:js|css))"', client.get("/").text))
    wanted |= {path.name for path in assets.glob("JobsPage-*.js")}
    weight, fetched = 0, set()
    while wanted - fetched:
        name = (wanted - fetched).pop()
        with client.stream("GET", f"/assets/{name}") as answer:
            weight += sum(map(len, answer.iter_raw()))
        fetched.add(name)
        wanted |= set(re.findall(r'(?:from|import)"\./([^"]+\.js)"', (assets / name).read_text(encoding="utf-8")))
    assert 90_000 < weight < 130_000
    assert len(fetched) < 15


@pytest.mark.parametrize("path", ["/vessel/jobs/1/record", "/jobs/1/record"])
def test_behind_a_path_prefix_the_page_finds_its_own(tmp_path, path):
    """A proxy may pass the prefix on or strip it."""
    app = create_app(tmp_path / "x.sqlite3")
    with TestClient(app, base_url="http://localhost", root_path="/vessel") as client:
        assert '<base href="/vessel/" />' in client.get(path).text
        assert client.get("/vessel/api/jobs").status_code == 200


def test_help_loads_nothing_that_computes():
    code = "import sys, vessel.cli; vessel.cli._parser().format_help(); print({'numpy', 'fastapi'} & set(sys.modules))"
    assert subprocess.run([sys.executable, "-c", code], capture_output=True, text=True).stdout == "set()\n"


@pytest.mark.parametrize(
    ("header", "host"),
    [("127.0.0.1:8420", "127.0.0.1"), ("[::1]:8420", "::1"), ("LocalHost", "localhost"), ("", ""), ("a.b:1", "a.b")],
)
def test_hosts_are_read_without_their_port(header, host):
    assert host_name(header) == host


def test_the_schema_can_be_printed(capsys):
    assert main(["schema"]) == 0
    assert '"title": "Vessel job file, version 1"' in capsys.readouterr().out


def test_an_interface_that_is_not_built_is_said(tmp_path):
    app = create_app(tmp_path / "x.sqlite3", web=tmp_path / "nowhere")
    with TestClient(app, base_url="http://localhost") as client:
        answer = client.get("/")
    assert answer.status_code == 503
    assert "make demo" in answer.text


def test_a_body_that_stalls_is_cut_off_and_one_that_comes_slowly_is_not():
    async def asked(*waits_s):
        answers = []

        async def receive():
            await asyncio.sleep(parts.pop(0) if parts else 60)
            return {"type": "http.request", "body": b"x", "more_body": bool(parts)}

        async def app(scope, receive, send):
            while (await receive())["more_body"]:
                pass
            await Response("whole")(scope, receive, send)

        async def send(message):
            answers.append(message)

        parts = list(waits_s)
        scope = {"type": "http", "method": "POST", "path": "/api/jobs", "headers": []}
        await BodyLimit(app, patience_s=0.3)(scope, receive, send)
        return answers[0]["status"]

    assert asyncio.run(asked(0.1, 0.1, 0.1, 0.1)) == 200
    assert asyncio.run(asked(0.1, 60)) == 408


def test_after_a_start_the_newest_job_is_worked_out_before_anybody_opens_it(tmp_path, monkeypatch):
    database = tmp_path / "vessel.sqlite3"
    with TestClient(create_app(database), base_url="http://127.0.0.1:8420") as client:
        # soil and length that no other test has: nothing of it is remembered yet
        body = {"name": "Cold", "technician": "R. Tallow", "soil_resistivity": "137.9"}
        job = sent(client.post("/api/jobs", json=body))["id"]
        line = sent(client.post(f"/api/jobs/{job}/lines", json={**SERVICE, "length": "83.7"}))["id"]
    with TestClient(create_app(database, kept=True), base_url="http://127.0.0.1:8420") as client:
        for thread in threading.enumerate():
            if thread.name == "warming":
                thread.join()
        monkeypatch.setattr(Simulator, "__init__", lambda *_a, **_k: pytest.fail("worked out once more"))
        assert sent(client.get(f"/api/lines/{line}/plan"))["options"]
