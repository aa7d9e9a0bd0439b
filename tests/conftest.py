"""Shared fixtures: a client on an empty database, and the demo job as text."""

import gc
import json
import os
from collections.abc import Iterator
from functools import partial
from pathlib import Path
from shutil import copy

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # tests share the cores out among themselves

import pytest
from hypothesis import HealthCheck, settings
from sqlalchemy import create_engine
from starlette.testclient import TestClient

from vessel.api.app import create_app
from vessel.api.jobs.demo_jobs import demo_text
from vessel.demo.seed import seed
from vessel.store import database as opening
from vessel.store.backup import back_up
from vessel.store.database import open_engine

opening.create_engine = partial(create_engine, execution_options={"compiled_cache": {}})
"""Every test opens a database of its own: what one compiled of SQL serves the others."""
gc.set_threshold(100_000, 50, 100)  # looking for garbage among what a thousand tests keep took a sixth of the time


_QUIET = {"deadline": None, "suppress_health_check": [HealthCheck.function_scoped_fixture]}
settings.register_profile("short", max_examples=8, **_QUIET)
settings.register_profile("long", max_examples=300, **_QUIET)
settings.load_profile("short")


def pytest_xdist_auto_num_workers() -> int:
    """One a processor: each further one would load, seed and solve the same once more."""
    return os.cpu_count() or 1


def pytest_collection_modifyitems(items) -> None:
    """Begin the long ones first: begun last, they would keep one processor waiting."""
    items.sort(key=lambda item: item.get_closest_marker("long") is None)


SERVICE = {
    "name": "Gas service",
    "utility": "gas",
    "preset": "tracer_wire",
    "length": "140",
    "depth_min": "0.6",
    "depth_max": "1.0",
}
STATION = {
    "distance": "20",
    "currents": "25.8 26.1 25.9",
    "depth": "0.78",
    "lift_height": "0.5",
    "depth_lifted": "1.28",
    "peak_null": "0.02",
    "neighbour": "1.8",
}


def whole_copy(database: Path, to: Path) -> Path:
    """Write a database as one file, so that it can be copied from then on."""
    open_engine(database).dispose()
    return back_up(database, to)


@pytest.fixture(scope="session")
def blank_database(tmp_path_factory) -> Path:
    """A database with every table and no row: made once, copied by each test."""
    folder = tmp_path_factory.mktemp("blank")
    return whole_copy(folder / "made.sqlite3", folder / "whole.sqlite3")


@pytest.fixture(scope="session")
def demo_database(tmp_path_factory) -> Path:
    """A database with the demo jobs: made once, copied by each test."""
    folder = tmp_path_factory.mktemp("demo")
    seed(folder / "made.sqlite3")
    return whole_copy(folder / "made.sqlite3", folder / "whole.sqlite3")


@pytest.fixture
def client(tmp_path: Path, blank_database: Path) -> Iterator[TestClient]:
    database = Path(copy(blank_database, tmp_path / "vessel.sqlite3"))
    with TestClient(create_app(database), base_url="http://127.0.0.1:8420") as c:
        yield c


@pytest.fixture
def demo() -> str:
    return demo_text()


def sent(response, status: int = 200):
    """The body of a response that went well."""
    assert response.status_code in (status, 201, 202, 204), response.text
    return response.json() if response.content else None


def entered(text: str) -> dict:
    """A job file without its journal: what was entered, not how it came there."""
    whole = json.loads(text)
    return {**whole, "job": {**whole["job"], "journal": []}}


def detail(client, station):
    """One of a trace's stations whole, with every finding."""
    return sent(client.get(f"/api/stations/{station['id']}"))


@pytest.fixture
def job(client: TestClient) -> int:
    body = {"name": "Apron", "technician": "R. Tallow", "soil_kind": "moist_sand", "soil_resistivity": "120"}
    return sent(client.post("/api/jobs", json=body))["id"]


@pytest.fixture
def line(client: TestClient, job: int) -> int:
    return sent(client.post(f"/api/jobs/{job}/lines", json=SERVICE))["id"]


@pytest.fixture
def setup(client: TestClient, line: int) -> int:
    body = {"hookup": "direct", "freq": "35.84k", "output": "30", "rx_freq": "35.84k"}
    made = sent(client.post(f"/api/lines/{line}/setups", json=body))["id"]
    for volts, milliamps, freq in (("7.9", "30", ""), ("40", "4.3", "560")):
        sent(client.post(f"/api/setups/{made}/readings", json={"volts": volts, "milliamps": milliamps, "freq": freq}))
    for kind in ("access", "ends_at", "second_frequency"):
        sent(client.post(f"/api/setups/{made}/identity", json={"kind": kind, "answer": "for"}))
    return made
