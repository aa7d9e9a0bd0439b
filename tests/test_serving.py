"""The server as started from the command line, and its guards."""

import socket
import subprocess
import sys
import time
import urllib.error
import urllib.request

import pytest

from vessel.api.security import LOOPBACK, LocalGuard, host_name
from vessel.cli import _parser, main


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return s.getsockname()[1]


def fetch(url: str, **headers: str) -> tuple[int, str]:
    try:
        with urllib.request.urlopen(urllib.request.Request(url, headers=headers), timeout=30) as r:
            return r.status, r.read().decode()
    except urllib.error.HTTPError as e:
        with e:
            return e.code, e.read().decode()


def test_serve_prints_its_address_and_shows_the_demo_job(tmp_path):
    port = free_port()
    command = [sys.executable, "-m", "vessel.cli", "serve", "--demo", "--port", str(port)]
    with subprocess.Popen(
        [*command, "--database", str(tmp_path / "x.sqlite3")], stdout=subprocess.PIPE, text=True
    ) as server:
        try:
            assert f"http://127.0.0.1:{port}/" in server.stdout.readline()
            for _ in range(100):
                try:
                    status, body = fetch(f"http://127.0.0.1:{port}/api/jobs")
                    break
                except OSError:  # not listening yet, or slow to answer at first
                    time.sleep(0.1)
            assert status == 200
            assert "Ostrel Bay" in body
            assert fetch(f"http://127.0.0.1:{port}/api/jobs", Host="ostrel.example")[0] == 400
            assert "<div id=" in fetch(f"http://127.0.0.1:{port}/jobs/1/lines/1/plan")[1]
        finally:
            server.terminate()


def test_the_server_binds_to_loopback_unless_told_otherwise():
    args = _parser().parse_args(["serve"])
    assert args.host == "127.0.0.1"
    assert args.allow_host == []
    assert LocalGuard(None).hosts == set(LOOPBACK)


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
    from starlette.testclient import TestClient

    from vessel.api.app import create_app

    app = create_app(tmp_path / "x.sqlite3", web=tmp_path / "nowhere")
    with TestClient(app, base_url="http://localhost") as client:
        answer = client.get("/")
    assert answer.status_code == 503
    assert "make demo" in answer.text
