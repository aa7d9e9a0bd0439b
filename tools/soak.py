"""Kill, race and crowd the store; write what came of it to docs/reliability.md.

python -m tools.soak [PART ...] [--kills 1000] [--pairs 200] [--seconds 60] [--imports 10000] [--examples 40]

Each part takes its time and is kept under `var/soak`: parts can be made one by one, or side by side; the page is
written from what is there.
"""

from __future__ import annotations

import argparse
import json
import random
import resource
import shutil
import time
from collections.abc import Callable, Iterator
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
KEPT = ROOT / "var" / "soak"
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


def long_line(folder: Path) -> tuple[int, list[str], float, float]:
    """Take stations on a line that has thousands.

    Return how many it had, what was refused, their p95 [s], and how long the trace takes to be judged anew [s].
    """
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


def _part_migrations(folder: Path, _: argparse.Namespace) -> tuple[list[str], list[str]]:
    killed, broken = migrations(folder)
    row = (
        f"| the update of a database killed, from every earlier revision, at every statement | {killed} kills | "
        f"{len(broken)} did not open whole again |"
    )
    return [row], broken


def _part_kills(folder: Path, args: argparse.Namespace) -> tuple[list[str], list[str]]:
    acknowledged, lost, wrong = under_load(folder, args.kills)
    row = (
        f"| a server killed at a random moment while three write lines, stations and the job | {args.kills} kills, "
        f"{acknowledged} writes acknowledged | {lost} lost, {len(wrong)} files not whole |"
    )
    return [row], wrong


def _part_pairs(folder: Path, args: argparse.Namespace) -> tuple[list[str], list[str]]:
    twice = pairs(folder, args.pairs)
    rows = [f"| at the same instant: {name} | {args.pairs} pairs | {len(bad)} |" for name, bad in twice.items()]
    return rows, [w for bad in twice.values() for w in bad]


def _part_crowd(folder: Path, args: argparse.Namespace) -> tuple[list[str], list[str]]:
    done, refused, p95 = crowd(folder, args.seconds)
    row = (
        f"| {WRITERS} devices add lines for {args.seconds:g} s | {done} writes, 95 % within {p95:.2f} s | "
        f"{refused} refused |"
    )
    return [row], []


def _part_long_line(folder: Path, _: argparse.Namespace) -> tuple[list[str], list[str]]:
    had, not_taken, p95, judged = long_line(folder)
    row = (
        f"| stations taken one by one on a line that has {had} | {POSTS} stations, 95 % stored within {p95:.2f} s; all "
        f"judged again and shown within {judged:.1f} s | {len(not_taken)} refused |"
    )
    return [row], not_taken


def _part_imports(folder: Path, args: argparse.Namespace) -> tuple[list[str], list[str]]:
    bad, let_in, longest, most_mb = imports(folder, args.imports)
    row = (
        f"| damaged job files, tracks and pasted columns brought in | {args.imports} texts, {let_in} job files let in, "
        f"{longest:.2f} s the longest answer, {most_mb:.0f} MB at most | {len(bad)} answered 5xx, stored in "
        "part, or came back another |"
    )
    return [row], bad


def _part_schema(folder: Path, args: argparse.Namespace) -> tuple[list[str], list[str]]:
    calls, untrue = schema(folder, args.examples)
    row = (
        "| every operation called with what its schema allows and with what it does not | "
        f"{calls} calls | {len(untrue)} answers not as described |"
    )
    return [row], untrue


PARTS: dict[str, Callable[[Path, argparse.Namespace], tuple[list[str], list[str]]]] = {
    "migrations": _part_migrations,
    "kills": _part_kills,
    "pairs": _part_pairs,
    "crowd": _part_crowd,
    "long-line": _part_long_line,
    "imports": _part_imports,
    "schema": _part_schema,
}


def make(part: str, args: argparse.Namespace) -> None:
    """Make one part and keep what came of it."""
    start = time.monotonic()
    with TemporaryDirectory() as name:
        rows, wrong = PARTS[part](Path(name), args)
    found = {"rows": rows, "wrong": wrong, "minutes": (time.monotonic() - start) / 60}
    KEPT.mkdir(parents=True, exist_ok=True)
    (KEPT / f"{part}.json").write_text(json.dumps(found), encoding="utf-8")
    print(part, *rows, *wrong, sep="\n", flush=True)


def page() -> str:
    """Return the page on every part that was made."""
    kept = {p: json.loads(f.read_text(encoding="utf-8")) for p in PARTS if (f := KEPT / f"{p}.json").exists()}
    missing = [p for p in PARTS if p not in kept]
    lines = [
        "# What the store survives",
        "",
        f"Made by `make soak` in {sum(k['minutes'] for k in kept.values()):.0f} min; not edited by hand. A short form "
        "runs in `make test`." + (f" Not made yet: {', '.join(missing)}." if missing else ""),
        "",
        "| tried | how often | what went wrong |",
        "|---|---|---|",
        *(row for each in kept.values() for row in each["rows"]),
        "",
        *[f"* {w}" for each in kept.values() for w in each["wrong"]][:50],
    ]
    return "\n".join(lines).rstrip() + "\n"


def main() -> None:
    """Make the parts that are named, all of them without a name, and write the page."""
    parser = argparse.ArgumentParser()
    parser.add_argument("parts", nargs="*", metavar="PART", help=", ".join(PARTS))
    parser.add_argument("--kills", type=int, default=1000)
    parser.add_argument("--pairs", type=int, default=200)
    parser.add_argument("--seconds", type=float, default=60)
    parser.add_argument("--imports", type=int, default=10_000)
    parser.add_argument("--examples", type=int, default=40)
    args = parser.parse_args()
    if unknown := set(args.parts) - set(PARTS):
        parser.error(f"no such part: {', '.join(sorted(unknown))}")
    for part in args.parts or PARTS:
        make(part, args)
    (ROOT / "docs" / "reliability.md").write_text(page(), encoding="utf-8")


if __name__ == "__main__":
    main()
