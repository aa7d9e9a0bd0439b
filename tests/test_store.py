"""The store: migrations, SQLite's settings, and what a crash may not do."""

import pytest
from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from sqlalchemy import event, inspect, select, text
from sqlalchemy.exc import IntegrityError
from starlette.testclient import TestClient

from vessel.api.app import create_app, open_store
from vessel.demo.seed import seed
from vessel.store.database import MIGRATIONS, open_engine, sessions
from vessel.store.table_base import Base
from vessel.store.tables import JobRow, KitRow, LineRow


@pytest.fixture
def engine(tmp_path):
    found = open_engine(tmp_path / "deep" / "vessel.sqlite3")
    yield found
    found.dispose()


def test_migrations_make_exactly_the_tables_of_the_models(engine):
    with engine.connect() as connection:
        assert compare_metadata(MigrationContext.configure(connection), Base.metadata) == []


def test_migrations_go_down_again(engine):
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.downgrade(config, "base")
    assert set(inspect(engine).get_table_names()) == {"alembic_version"}


def test_sqlite_runs_in_wal_mode_with_foreign_keys(engine):
    with engine.connect() as connection:
        assert connection.execute(text("PRAGMA journal_mode")).scalar() == "wal"
        assert connection.execute(text("PRAGMA foreign_keys")).scalar() == 1
    with sessions(engine)() as db, pytest.raises(IntegrityError):
        db.execute(text("INSERT INTO lines (job_id, name, utility, preset, construction, length_m, depth_min_m, depth_max_m, near, near_note, far_kind, far_earth_ohm, typed, created_at) VALUES (99,'x','gas','tracer_wire','{}',1,1,1,'{}','','open',1,'{}','')"))  # fmt: skip


def test_a_failed_request_leaves_nothing_behind(tmp_path, client, job, monkeypatch):
    from vessel.api.jobs import routes as jobs

    def broken(*_):
        raise RuntimeError("disk on fire")

    monkeypatch.setattr(jobs, "_apply", lambda db, row, form: (setattr(row, "name", "half"), broken()))
    with pytest.raises(RuntimeError):
        client.put(f"/api/jobs/{job}", json={"name": "Other", "technician": "T"})
    assert client.get(f"/api/jobs/{job}").json()["name"] == "Apron"


def test_a_commit_that_fails_is_never_answered_as_done(tmp_path):
    app = create_app(tmp_path / "vessel.sqlite3")

    def fail(_):
        raise OSError("disk full")

    event.listen(app.state.sessions, "before_commit", fail)
    with TestClient(app, base_url="http://127.0.0.1", raise_server_exceptions=False) as client:
        answer = client.post("/api/jobs", json={"name": "Apron", "technician": "T"})
    assert answer.status_code == 500


def test_opening_twice_ships_one_sample_kit_and_one_demo_job(tmp_path):
    path = tmp_path / "vessel.sqlite3"
    assert seed(path) is True
    assert seed(path) is False
    with open_store(path)() as db:
        assert len(db.scalars(select(KitRow)).all()) == 1
        job = db.scalars(select(JobRow).order_by(JobRow.id)).first()
        assert job.name.startswith("Ostrel Bay")
        assert db.scalars(select(LineRow).order_by(LineRow.id)).first().job is job
