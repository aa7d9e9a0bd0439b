"""Kill, race and crowd the store; write what came of it to docs/reliability.md.

python -m tools.soak [--kills 1000] [--pairs 200] [--seconds 60] [--imports 10000] [--examples 40]
"""

from __future__ import annotations

import argparse
import random
import resource
import shutil
import time
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from itertools import repeat
from multiprocessing import get_context
from pathlib import Path
from tempfile import TemporaryDirectory

from starlette.testclient import TestClient

from tests.soak.at_once import PAIRS, Ground, on_a_long_line, writing
from tests.soak.imports import fuzzed
from tests.soak.kills import Server, killed_at, killed_under_load, left_whole, made_at
from tests.soak.schema import HOST, ROWS, swept
from vessel.api.app import create_app
from vessel.api.security import LOOPBACK
from vessel.demo.seed import seed
from vessel.store.database import revisions

ROOT = Path(__file__).parents[1]
WRITERS = 16
STATIONS, POSTS = 5000, 200


def migrations(folder: Path) -> tuple[int, list[str]]:
    """Kill the update from every earlier revision at every statement; return how many kills, and what went wrong."""
    # a process for each: thousands of updates in one would fill its memory
    with ProcessPoolExecutor(1, get_context("spawn"), max_tasks_per_child=1) as alone:
        found = list(alone.map(_migration, revisions()[:-1], repeat(folder)))
    return sum(kills for kills, _ in found), [w for _, wrong in found for w in wrong]


def _migration(revision: str, folder: Path) -> tuple[int, list[str]]:
    old, statement, wrong = made_at(folder / f"{revision}.sqlite3", revision), 0, list[str]()
    while True:
        path = folder / f"{revision}-{statement}.sqlite3"
        shutil.copy(old, path)
        if not killed_at(path, statement):
            return statement, wrong
        wrong += [f"from {revision}, statement {statement}: {w}" for w in left_whole(path)]
        statement += 1


def under_load(folder: Path, kills: int) -> tuple[int, int, list[str]]:
    """Kill one server after another on one database; return what was acknowledged, what is lost, what is wrong."""
    rng, acknowledged, lost, wrong = random.Random(1), 0, 0, list[str]()
    for _ in range(kills):
        a, b, c = killed_under_load(folder / "load.sqlite3", rng)
        acknowledged, lost, wrong = acknowledged + a, lost + b, wrong + c
    return acknowledged, lost, wrong


def pairs(folder: Path, count: int) -> dict[str, list[str]]:
    """Do each pair at the same instant so many times; return what went wrong with each kind."""
    server = Server(folder / "pairs.sqlite3")
    try:
        found = {}
        for k, (name, pair) in enumerate(PAIRS.items()):
            ground = Ground(server.url)
            found[name] = [w for n in range(count) if (w := pair(ground, n + 20 * k))]
        return found
    finally:
        server.kill()


def crowd(folder: Path, seconds: float) -> tuple[int, int, float]:
    """Let sixteen write; return how many writes, how many refused, and their p95 [s]."""
    server = Server(folder / "crowd.sqlite3")
    try:
        return writing(server.url, writers=WRITERS, seconds=seconds)
    finally:
        server.kill()


@contextmanager
def demo(path: Path) -> Iterator[TestClient]:
    """A client on the demo jobs, without a server of its own; what fails inside is answered as a server would."""
    seed(path)
    app = create_app(path, hosts=[*LOOPBACK, HOST])
    with TestClient(app, base_url="http://127.0.0.1:8420", raise_server_exceptions=False) as client:
        yield client


def long_line(folder: Path) -> tuple[int, list[str], float]:
    """Take stations on a line that has thousands; return how many it had, what was refused, and their p95 [s]."""
    server = Server(folder / "long.sqlite3")
    try:
        return on_a_long_line(server.url, stations=STATIONS, posts=POSTS)
    finally:
        server.kill()


def imports(folder: Path, count: int) -> tuple[list[str], int, float, float]:
    """Bring in damaged texts of every format in a process of its own.

    Return what went wrong, how many were let in, the longest [s], and the most memory the process took [MB].
    """
    with ProcessPoolExecutor(1, get_context("spawn")) as alone:
        return alone.submit(_imports, folder, count).result()


def _imports(folder: Path, count: int) -> tuple[list[str], int, float, float]:
    with demo(folder / "imports.sqlite3") as client:
        found = fuzzed(client, 1, 1, count, random.Random(1))
    return *found, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def schema(folder: Path, examples: int) -> tuple[int, list[str]]:
    """Call every operation; return how many calls, and the answers that are not as described."""
    with demo(folder / "schema.sqlite3") as client:
        found = [swept(client.app, ROWS, examples, mode) for mode in ("positive", "negative")]
    return sum(calls for calls, _ in found), [w for _, wrong in found for w in wrong]


def main() -> None:
    """Run everything and write the page."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--kills", type=int, default=1000)
    parser.add_argument("--pairs", type=int, default=200)
    parser.add_argument("--seconds", type=float, default=60)
    parser.add_argument("--imports", type=int, default=10_000)
    parser.add_argument("--examples", type=int, default=40)
    args = parser.parse_args()
    start = time.monotonic()
    with TemporaryDirectory() as name:
        folder = Path(name)
        killed, broken = migrations(folder)
        print(f"{killed} kills of updates", flush=True)
        acknowledged, lost, wrong = under_load(folder, args.kills)
        print(f"{args.kills} kills of servers", flush=True)
        twice = pairs(folder, args.pairs)
        done, refused, p95 = crowd(folder, args.seconds)
        had, not_taken, station_p95 = long_line(folder)
        bad_imports, let_in, longest, most_mb = imports(folder, args.imports)
        calls, untrue = schema(folder, args.examples)
    lines = [
        "# What the store survives",
        "",
        f"Made by `python -m tools.soak --kills {args.kills} --pairs {args.pairs} --seconds {args.seconds:g} "
        f"--imports {args.imports} --examples {args.examples}` in {(time.monotonic() - start) / 60:.0f} min; "
        "not edited by hand. A short form runs in `make test`.",
        "",
        "| tried | how often | what went wrong |",
        "|---|---|---|",
        f"| the update of a database killed, from every earlier revision, at every statement | {killed} kills | "
        f"{len(broken)} did not open whole again |",
        f"| a server killed at a random moment while three write lines, stations and the job | {args.kills} kills, "
        f"{acknowledged} writes acknowledged | {lost} lost, {len(wrong)} files not whole |",
        *(f"| at the same instant: {name} | {args.pairs} pairs | {len(bad)} |" for name, bad in twice.items()),
        f"| {WRITERS} devices add lines for {args.seconds:g} s | {done} writes, 95 % within {p95:.2f} s | "
        f"{refused} refused |",
        f"| stations taken one by one on a line that has {had} | {POSTS} stations, 95 % judged and answered within "
        f"{station_p95:.1f} s | {len(not_taken)} refused |",
        f"| damaged job files, tracks and pasted columns brought in | {args.imports} texts, {let_in} job files let in, "
        f"{longest:.2f} s the longest answer, {most_mb:.0f} MB at most | {len(bad_imports)} answered 5xx, stored in "
        "part, or came back another |",
        f"| every operation called with what its schema allows and with what it does not | {calls} calls | "
        f"{len(untrue)} answers not as described |",
        "",
        *[f"* {w}" for w in (*broken, *wrong, *(w for bad in twice.values() for w in bad), *bad_imports, *untrue)][:50],
    ]
    (ROOT / "docs" / "reliability.md").write_text("\n".join(lines).rstrip() + "\n", encoding="utf-8")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
