"""Play random sites of the practice yard by a scripted expert; write docs/practice.md.

Run from the repository's root: `python -m tools.yard [sites a level]`. The expert proves the hookup, looks at what else
is connected, takes stations clear of bends and ends, and marks what is proved.
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path

import numpy as np
from starlette.testclient import TestClient

from tests.practice.played import Player, begun
from vessel.api.app import create_app
from vessel.api.practice.provable import provable
from vessel.core.model.drawn_line import length_m
from vessel.core.practice.expert import ENOUGH
from vessel.core.practice.random_site import LEVELS, Level, random_site
from vessel.core.practice.yard_lesson import WalkStep

DOC = Path(__file__).parents[1] / "docs" / "practice.md"
TRIED = 30
SITES, CLEAR_M, EVERY_M, HZ = 20, 4.5, 9.0, (8960.0, 35840.0, 1120.0)


@dataclass(frozen=True)
class Went:
    """How one site went: share marked right, wrong marks, strikes, and the time of a reading [s]."""

    level: Level
    seed: int
    share: float
    marks: int
    wrong: int
    strikes: int
    plain: int
    reading_s: tuple[float, ...]


def places(player: Player, target: str) -> list[float]:
    """Distances of stations along every leg, clear of its ends."""
    corners = [tuple(c) for c in player.lines[target]["corners"]]
    at = [length_m(corners[: k + 1]) if k else 0.0 for k in range(len(corners))]
    found: list[float] = []
    for start, end in pairwise(at):
        run = end - start - 2 * CLEAR_M
        if run > 0:
            found += np.linspace(start + CLEAR_M, end - CLEAR_M, 1 + max(1, int(np.ceil(run / EVERY_M)))).tolist()
    return found


def locate(player: Player, target: str, acts: list[WalkStep]) -> None:
    """Mark what is proved; what one frequency does not prove is tried at the next."""
    todo = places(player, target)
    for hz in HZ:
        if not todo:
            return
        player.play([WalkStep("off")] if player.setup else [])
        player.play([WalkStep("hook_up", "direct", target, hz), *acts, WalkStep("on")])
        player.play([WalkStep("read", freq_hz=f) for f in (560.0, hz)])
        seen = ("access", "bond_opened") if acts else ("access",)
        player.play([WalkStep("evidence", what=kind) for kind in seen])
        player.play([WalkStep("trace", at_m=x, to_m=x) for x in todo])
        trace = player.ask("get", f"/api/setups/{player.setup}/trace")["stations"]
        proved = [s["distance_m"] for s in trace if s["verdict"] in ("mark", "mark_with_care")]
        player.play([WalkStep("mark", "proved")])
        todo = [x for x in todo if all(abs(x - p) > 1.0 for p in proved)]
        acts = []


def play(asked: tuple[Level, int]) -> Went:
    """Play one site."""
    level, seed = asked
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Path(folder) / "yard.sqlite3")
        with TestClient(app, base_url="http://127.0.0.1:8420") as client:
            player = begun(client, level=level, seed=seed)
            target = player.ask("get", f"/api/jobs/{player.job}/yard")["target"]
            acts = [WalkStep("act", "open_bonds")] if level == "hard" else []
            locate(player, target, acts)
            times = [_reading(player) for _ in range(20)]
            found = player.end()
    marked = next((g["reached"] for g in found["goals"] if "marked right" in g["text"]), "")
    share = float(marked.split("\u00a0")[0]) / 100 if marked else float("nan")
    verdicts = [m["verdict"] for m in found["marks"]]
    return Went(
        level,
        seed,
        share,
        len(verdicts),
        sum(not m["right"] for m in found["marks"]),
        sum(m["strike"] for m in found["marks"]),
        verdicts.count("mark"),
        tuple(times),
    )


def _reading(player: Player) -> float:
    began = time.perf_counter()
    player.held([(8.0, 0.0)], 90.0)
    return time.perf_counter() - began


def tried(asked: tuple[Level, int]) -> float:
    """How much of one site the expert in core proves, as the site itself says it."""
    return provable(random_site(*asked))


def text(every: list[Went], shares: dict[Level, list[float]]) -> str:
    """Return docs/practice.md."""
    said = [
        f"| {level} | {len(own)} | {sum(s >= ENOUGH for s in own)} | {sum(s < ENOUGH for s in own)} | "
        f"{100 * np.mean(own):.0f} % |"
        for level, own in shares.items()
    ]
    rows = []
    for level in LEVELS:
        own = [w for w in every if w.level == level]
        shares = [w.share for w in own if not np.isnan(w.share)]
        solved = f"{sum(s >= 0.8 for s in shares)} of {len(shares)}" if shares else "–"
        rows.append(
            f"| {level} | {len(own)} | {solved} | {np.median(shares) * 100:.0f} % |"
            if shares
            else f"| {level} | {len(own)} | – | – |"
        )
        rows[-1] += (
            f" {sum(w.marks for w in own)} | {sum(w.plain for w in own)} | {sum(w.wrong for w in own)} |"
            f" {sum(w.strikes for w in own)} |"
        )
    readings = 1e3 * np.array([t for w in every for t in w.reading_s])
    slow = np.percentile(readings, 95)
    return "\n".join(
        [
            "# The practice yard, played",
            "",
            f"Made by `python -m tools.yard {len(every) // len(LEVELS)}`; not edited by hand.",
            "",
            "A scripted expert on random sites: direct connection at 8.96 kHz, and where that proves nothing at 35.84",
            "and 1.12 kHz, never from another place. The loop is read at two frequencies, the access point looked at",
            "(at the hard level with its bond opened), stations are clear of bends and ends, what is proved is marked.",
            "Solved: at least 80 % of the line marked right. Wrong: beside the line by more than the",
            "tolerance, or a depth more than 10 % off; most marks are made with care, a crew would confirm first.",
            "",
            "| level | sites | solved | marked right, median | marks | of them plain | wrong | would be a strike |",
            "|---|---|---|---|---|---|---|---|",
            *rows,
            "",
            "Before a random site begins, the same is tried in core without a server (`core.practice.expert`).",
            "Where less than 80 % can be proved, the task says so and no goal asks for it.",
            "",
            "| level | sites | provable | says that it is not | provable share, mean |",
            "|---|---|---|---|---|",
            *said,
            "",
            f"A reading of the receiver takes {np.median(readings):.0f} ms in the median, {slow:.0f} ms at the 95th",
            "percentile, through the same address as the browser's.",
            "",
        ]
    )


def main() -> None:
    """Play and write."""
    sites = int(sys.argv[1]) if len(sys.argv) > 1 else SITES
    asked = [(level, seed) for level in LEVELS for seed in range(sites)]
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        every = list(pool.map(play, asked))
        shares: dict[Level, list[float]] = {
            level: list(pool.map(tried, [(level, seed) for seed in range(1000, 1000 + TRIED)])) for level in LEVELS
        }
    DOC.write_text(text(every, shares), encoding="utf-8")
    for w in every:
        if w.wrong or w.share < 0.8:
            print(w.level, w.seed, f"{w.share:.2f}", w.marks, w.wrong, w.strikes)


if __name__ == "__main__":
    main()
