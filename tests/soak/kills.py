"""Kill a migration at one of its statements, or a server under load, and look at what is left."""

import http.client
import json
import os
import random
import signal
import sqlite3
import threading
import time
import urllib.error
import urllib.request
from collections.abc import Callable
from contextlib import closing
from multiprocessing import get_context
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine, event
from sqlalchemy.engine import Engine

from vessel.cli import main
from vessel.demo.serving import free_port
from vessel.store.database import MIGRATIONS, open_engine

LINE = """INSERT INTO lines (job_id, name, utility, preset, construction, length_m, depth_min_m, depth_max_m, near,
near_note, far_kind, far_earth_ohm, typed, created_at) VALUES (1, 'Gas', 'gas', 'tracer_wire', '{}', 140, 0.6, 1.0,
'{}', '', 'open', 30, '{}', '2026-01-01T00:00:00Z')"""
_LINE = {"utility": "gas", "preset": "tracer_wire", "length": "140", "depth_min": "0.6", "depth_max": "1"}


def made_at(path: Path, revision: str) -> Path:
    """Make a database as an earlier Vessel left it, with a job and a line in it."""
    engine = create_engine(f"sqlite:///{path}")
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    with engine.begin() as db:
        config.attributes["connection"] = db
        command.upgrade(config, revision)
        db.exec_driver_sql("INSERT INTO kits (name, data) VALUES ('Kit', '{}')")
        db.exec_driver_sql(
            "INSERT INTO jobs (kit_id, name, dig, units, soil_kind, technician, typed, created_at)"
            " VALUES (1, 'Apron', '', 'metric', 'loam', 'R. Tallow', '{}', '2026-01-01T00:00:00Z')"
        )
        db.exec_driver_sql(LINE)
    engine.dispose()
    return path


def killed_at(path: Path, statement: int) -> bool:
    """Open a database in a process that dies before its n-th statement; return whether it got that far."""
    child = os.fork()
    if child == 0:
        left = [statement]

        @event.listens_for(Engine, "before_cursor_execute")
        def die(*_):
            left[0] -= 1
            if left[0] < 0:
                os.kill(os.getpid(), signal.SIGKILL)

        try:
            open_engine(path)
        finally:
            os._exit(0)
    return os.waitpid(child, 0)[1] == signal.SIGKILL


def left_whole(path: Path) -> list[str]:
    """Return what is wrong with a database after a kill: nothing, if it opens and has what was in it."""
    try:
        engine = open_engine(path)
        with engine.connect() as db:
            found = db.exec_driver_sql("SELECT (SELECT name FROM jobs), (SELECT count(*) FROM lines)").one()
            whole = db.exec_driver_sql("PRAGMA integrity_check").scalar()
        engine.dispose()
    except Exception as e:  # whatever it is, it is what is looked for
        return [repr(e)]
    return [] if tuple(found) == ("Apron", 1) and whole == "ok" else [f"{found}, {whole}"]


def sent(url: str, body: dict | None = None, method: str = "POST", timeout: float = 60):
    """Send a request; return status and body."""
    data = None if body is None else json.dumps(body).encode()
    request = urllib.request.Request(url, data, {"Content-Type": "application/json"}, method=method)
    try:
        with urllib.request.urlopen(request, timeout=timeout) as r:
            text = r.read()
            return r.status, json.loads(text) if text else None
    except urllib.error.HTTPError as e:
        with e:
            return e.code, json.loads(e.read() or b"null")


_FORKS = get_context("forkserver")
_FORKS.set_forkserver_preload(["vessel.api.app", "vessel.cli"])  # a server that starts anew loads nothing twice


def _serve(database: str, port: int) -> None:
    nothing = os.open(os.devnull, os.O_WRONLY)
    for stream in (1, 2):
        os.dup2(nothing, stream)
    main(["serve", "--database", database, "--port", str(port), "--cores", "0"])


class Server:
    """`vessel serve` on a database, in a process that can be killed."""

    def __init__(self, database: Path) -> None:
        self.port = free_port()
        self.url = f"http://127.0.0.1:{self.port}"
        self.process = _FORKS.Process(target=_serve, args=(str(database), self.port))
        self.process.start()
        for _ in range(600):
            try:
                sent(f"{self.url}/api/kits", method="GET")
                return
            except OSError:
                time.sleep(0.05)
        raise RuntimeError("the server does not answer")

    def kill(self) -> None:
        """Kill it as a power cut would."""
        self.process.kill()
        self.process.join()


def killed_under_load(database: Path, rng: random.Random) -> tuple[int, int, list[str]]:
    """Kill a server at a random moment while three write lines, stations and what is kept of the job.

    Return what was acknowledged, what of it is lost, and what is wrong with the file.
    """
    server = Server(database)
    api = f"{server.url}/api"
    job = sent(f"{api}/jobs", {"name": "Job 0", "technician": "R. Tallow"})[1]["id"]
    line = sent(f"{api}/jobs/{job}/lines", {"name": "Traced", **_LINE})[1]["id"]
    setup = sent(f"{api}/lines/{line}/setups", {"hookup": "direct", "freq": "8.96k", "output": "30"})[1]["id"]
    lines, stations, named, stop = list[str](), list[float](), [0], threading.Event()

    def add_line(k: int) -> None:
        if sent(f"{api}/jobs/{job}/lines", {"name": f"Line {k}", **_LINE})[0] == 201:
            lines.append(f"Line {k}")

    def add_station(k: int) -> None:
        at_m = 1.0 + 0.5 * k
        body = {"distance": f"{at_m}", "currents": "25", "depth": "0.8", "insist": True}
        if sent(f"{api}/setups/{setup}/stations", body)[0] == 201:
            stations.append(at_m)

    def name_job(k: int) -> None:
        if sent(f"{api}/jobs/{job}", {"name": f"Job {k + 1}", "technician": "R. Tallow"}, "PUT")[0] == 200:
            named[0] = k + 1

    def over_and_over(write: Callable[[int], None]) -> None:
        k = 0
        while not stop.is_set():
            try:
                write(k)
            except (OSError, http.client.HTTPException):
                return
            k += 1

    writers = [threading.Thread(target=over_and_over, args=(w,)) for w in (add_line, add_station, name_job)]
    for w in writers:
        w.start()
    time.sleep(rng.uniform(0.05, 1.5))
    server.kill()
    stop.set()
    for w in writers:
        w.join()
    with closing(sqlite3.connect(database)) as db:
        kept = {name for (name,) in db.execute("SELECT name FROM lines WHERE job_id = ?", (job,))}
        taken = {at_m for (at_m,) in db.execute("SELECT distance_m FROM stations WHERE setup_id = ?", (setup,))}
        (name,) = db.execute("SELECT name FROM jobs WHERE id = ?", (job,)).fetchone()
        whole = db.execute("PRAGMA integrity_check").fetchone()[0]
    lost = len(set(lines) - kept) + len(set(stations) - taken) + (int(name.removeprefix("Job ")) < named[0])
    return len(lines) + len(stations) + named[0], lost, [] if whole == "ok" else [whole]
