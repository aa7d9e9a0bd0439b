"""Kill, race and crowd the store; write what came of it to docs/reliability.md.

python -m tools.soak [--kills 1000] [--pairs 200] [--seconds 60]
"""

from __future__ import annotations

import argparse
import random
import shutil
import time
from pathlib import Path
from tempfile import TemporaryDirectory

from tests.soak.at_once import PAIRS, Ground, writing
from tests.soak.kills import Server, killed_at, killed_under_load, left_whole, made_at
from vessel.store.database import revisions

ROOT = Path(__file__).parents[1]
WRITERS = 16


def migrations(folder: Path) -> tuple[int, list[str]]:
    """Kill the update from every earlier revision at every statement; return how many kills, and what went wrong."""
    kills, wrong = 0, []
    for revision in revisions()[:-1]:
        old = made_at(folder / f"{revision}.sqlite3", revision)
        statement = 0
        while True:
            path = folder / f"{revision}-{statement}.sqlite3"
            shutil.copy(old, path)
            if not killed_at(path, statement):
                break
            kills += 1
            wrong += [f"from {revision}, statement {statement}: {w}" for w in left_whole(path)]
            statement += 1
    return kills, wrong


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


def main() -> None:
    """Run everything and write the page."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--kills", type=int, default=1000)
    parser.add_argument("--pairs", type=int, default=200)
    parser.add_argument("--seconds", type=float, default=60)
    args = parser.parse_args()
    start = time.monotonic()
    with TemporaryDirectory() as name:
        folder = Path(name)
        killed, broken = migrations(folder)
        acknowledged, lost, wrong = under_load(folder, args.kills)
        twice = pairs(folder, args.pairs)
        done, refused, p95 = crowd(folder, args.seconds)
    lines = [
        "# What the store survives",
        "",
        f"Made by `python -m tools.soak --kills {args.kills} --pairs {args.pairs} --seconds {args.seconds:g}` in "
        f"{(time.monotonic() - start) / 60:.0f} min; not edited by hand. A short form runs in `make test`.",
        "",
        "| tried | how often | what went wrong |",
        "|---|---|---|",
        f"| the update of a database killed, from every earlier revision, at every statement | {killed} kills | "
        f"{len(broken)} did not open whole again |",
        f"| a server killed at a random moment while three write | {args.kills} kills, {acknowledged} writes "
        f"acknowledged | {lost} lost, {len(wrong)} files not whole |",
        *(f"| at the same instant: {name} | {args.pairs} pairs | {len(bad)} |" for name, bad in twice.items()),
        f"| {WRITERS} devices add lines for {args.seconds:g} s | {done} writes, 95 % within {p95:.2f} s | "
        f"{refused} refused |",
        "",
        *[f"* {w}" for w in (*broken, *wrong, *(w for bad in twice.values() for w in bad))][:50],
    ]
    (ROOT / "docs" / "reliability.md").write_text("\n".join(lines).rstrip() + "\n", encoding="utf-8")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
