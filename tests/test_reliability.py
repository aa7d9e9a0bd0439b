"""Nothing lost: kills, backups, several at once, and files that cannot be used. At length: `make soak`."""

import random
import shutil
import sqlite3
from contextlib import closing
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import event
from sqlalchemy.exc import IntegrityError, OperationalError
from starlette.testclient import TestClient

from tests.soak.at_once import PAIRS, Ground, writing
from tests.soak.kills import Server, killed_at, killed_under_load, left_whole, made_at
from vessel.api.app import create_app
from vessel.cli import main
from vessel.demo.serving import free_port
from vessel.store.backup import KEPT_DAILY, back_up, backups_of, daily, require_whole
from vessel.store.database import open_engine
from vessel.store.unusable import StoreRefused


def test_a_kill_at_any_statement_of_a_migration_leaves_a_database_that_opens(tmp_path):
    old = made_at(tmp_path / "old.sqlite3", "0001")
    statement, tried = 0, 0
    while True:
        path = tmp_path / f"{statement}.sqlite3"
        shutil.copy(old, path)
        if not killed_at(path, statement):
            break
        assert left_whole(path) == [], statement
        statement, tried = statement + 9, tried + 1  # `make soak` kills at each
    assert tried > 10


def test_before_a_migration_a_whole_copy_is_put_beside_the_file(tmp_path):
    path = made_at(tmp_path / "x.sqlite3", "0008")
    open_engine(path).dispose()
    (kept,) = backups_of(path)
    require_whole(kept.path)
    assert kept.why.startswith("before-")
    with closing(sqlite3.connect(kept.path)) as db:
        assert db.execute("SELECT version_num FROM alembic_version").fetchone() == ("0008",)
    open_engine(path).dispose()
    assert len(backups_of(path)) == 1, "nothing to migrate, nothing to copy"


def test_a_server_killed_under_load_loses_nothing_it_acknowledged(tmp_path):
    acknowledged, lost, wrong = killed_under_load(tmp_path / "x.sqlite3", random.Random(1))
    assert acknowledged > 0
    assert (lost, wrong) == (0, [])


def test_a_stopped_servers_file_is_whole_by_itself(tmp_path):
    path = tmp_path / "x.sqlite3"
    with TestClient(create_app(path), base_url="http://127.0.0.1") as client:
        assert client.post("/api/jobs", json={"name": "Apron", "technician": "R. Tallow"}).status_code == 201
    alone = shutil.copy(path, tmp_path / "alone.sqlite3")
    with closing(sqlite3.connect(alone)) as db:
        assert db.execute("SELECT name FROM jobs").fetchall() == [("Apron",)]


def test_a_backup_is_made_while_others_write_and_put_back_by_the_command_line(tmp_path, capsys):
    path, copy = tmp_path / "x.sqlite3", tmp_path / "elsewhere" / "copy.sqlite3"
    with TestClient(create_app(path), base_url="http://127.0.0.1") as client:
        client.post("/api/jobs", json={"name": "Apron", "technician": "R. Tallow"})
        assert main(["backup", str(copy), "--database", str(path)]) == 0
        client.post("/api/jobs", json={"name": "Later", "technician": "R. Tallow"})
        shown = client.post("/api/backups").json()
        assert [b["why"] for b in shown["backups"]] == ["Made by hand"]
    assert main(["restore", str(copy), "--database", str(path)]) == 0
    assert "What was there is kept" in capsys.readouterr().out
    with closing(sqlite3.connect(path)) as db:
        assert db.execute("SELECT name FROM jobs").fetchall() == [("Apron",)]
    kept = next(b for b in backups_of(path) if b.why == "before-restore")
    with closing(sqlite3.connect(kept.path)) as db:
        assert db.execute("SELECT count(*) FROM jobs").fetchone() == (2,)
    copy.write_bytes(copy.read_bytes()[:5000])
    assert main(["restore", str(copy), "--database", str(path)]) == 2
    assert "Use another" in capsys.readouterr().err


def test_a_backup_a_day_and_the_oldest_go(tmp_path, blank_database):
    path = tmp_path / "x.sqlite3"
    shutil.copy(blank_database, path)
    start = datetime(2026, 1, 1, 7, tzinfo=UTC)
    for day in range(KEPT_DAILY + 3):
        assert daily(path, at=start + timedelta(days=day)) is not None
        assert daily(path, at=start + timedelta(days=day, hours=5)) is None
    found = backups_of(path)
    assert len(found) == KEPT_DAILY
    assert found[0].made_at == start + timedelta(days=KEPT_DAILY + 2)
    require_whole(found[-1].path)


def test_a_file_that_cannot_be_used_is_named_with_what_to_do(tmp_path, blank_database, capsys):
    other = tmp_path / "other.sqlite3"
    with closing(sqlite3.connect(other)) as db:
        db.execute("CREATE TABLE songs (name TEXT)")
    newer = tmp_path / "newer.sqlite3"
    shutil.copy(blank_database, newer)
    with closing(sqlite3.connect(newer)) as db, db:
        db.execute("UPDATE alembic_version SET version_num = '9999'")
    damaged = tmp_path / "damaged.sqlite3"
    damaged.write_bytes(blank_database.read_bytes()[:100] + b"\x00" * 9000)
    text = tmp_path / "notes.txt"
    text.write_text("Not a database at all.")
    for path, says in (
        (tmp_path, "is a folder"),
        (text, "is not a database"),
        (other, "belongs to another program"),
        (newer, "written by a newer Vessel"),
        (damaged, "is damaged"),
    ):
        before = path.read_bytes() if path.is_file() else b""
        assert main(["serve", "--database", str(path), "--port", str(free_port())]) == 2
        assert says in capsys.readouterr().err
        assert path.is_dir() or path.read_bytes() == before, "what is not ours is not touched"
    with pytest.raises(StoreRefused):
        back_up(tmp_path / "nothing.sqlite3", tmp_path / "copy.sqlite3")


def test_a_full_disk_is_said_and_half_of_nothing_is_written(client, job):
    class Full(sqlite3.OperationalError):
        pass

    engine = client.app.state.sessions.kw["bind"]

    def fail(*_):
        raise OperationalError("COMMIT", {}, Full("database or disk is full"))

    event.listen(client.app.state.sessions, "before_commit", fail)
    answer = client.put(f"/api/jobs/{job}", json={"name": "Other", "technician": "T"})
    event.remove(client.app.state.sessions, "before_commit", fail)
    assert answer.status_code == 503
    assert "disk is full" in answer.json()["message"]
    assert client.get(f"/api/jobs/{job}").json()["name"] == "Apron"
    assert client.put(f"/api/jobs/{job}", json={"name": "Other", "technician": "T"}).status_code == 200
    assert engine.pool.checkedout() == 0


def test_what_the_database_itself_refuses_as_double_is_said_and_nothing_is_stored(client, job):
    def double(*_):
        raise IntegrityError("INSERT", {}, sqlite3.IntegrityError("UNIQUE constraint failed: jobs.post_id"))

    event.listen(client.app.state.sessions, "before_commit", double)
    answer = client.put(f"/api/jobs/{job}", json={"name": "Other", "technician": "T"})
    event.remove(client.app.state.sessions, "before_commit", double)
    assert answer.status_code == 409
    assert answer.json()["message"]
    assert answer.json()["fix"]
    assert client.get(f"/api/jobs/{job}").json()["name"] == "Apron"


def test_two_at_once_lose_nothing_and_store_nothing_twice_and_a_second_server_is_refused(tmp_path, capsys):
    path = tmp_path / "x.sqlite3"
    server = Server(path)
    try:
        assert main(["serve", "--database", str(path), "--port", str(free_port())]) == 2
        assert "is being served already" in capsys.readouterr().err
        assert main(["serve", "--database", str(tmp_path / "y.sqlite3"), "--port", str(server.port)]) == 2
        assert "choose another with --port" in capsys.readouterr().err
        ground = Ground(server.url)
        for name, pair in PAIRS.items():
            for k in range(4):
                assert pair(ground, k + 10 * list(PAIRS).index(name)) == "", name
        done, refused, _ = writing(server.url, writers=4, seconds=1.5)
        assert done > 4
        assert refused == 0
    finally:
        server.kill()
