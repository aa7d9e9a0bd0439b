"""Play every kind of ground trouble made by other means than core's; write docs/trouble.md.

Run from the repository's root: `python -m tools.trouble [sites a kind [kinds to play anew]]`.
"""

from __future__ import annotations

import os
import pickle
import sys
from collections.abc import Sequence
from itertools import pairwise
from pathlib import Path
from textwrap import fill

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # one process a core, each alone on it

import numpy as np

from tests.trouble import grounds
from tests.trouble.answering import CANNOT, CANNOT_DIG
from tests.trouble.play import ASKS, Played, figures, play_all
from tests.trouble.technician import STANDS_M
from vessel.core.judge.station.criteria import CRITERIA_VERSION

DOC = Path(__file__).parents[1] / "docs" / "trouble.md"
KEPT = DOC.parents[1] / "var" / "trouble"
SITES, FIRST = 40, 2000
_BINS = (0.0, 0.005, 0.02, 0.1, 0.25, 0.5, 1.001)


_SHARES = {
    "marked": "good_marked",
    "held back": "good_held",
    "wrong ones held": "wrong_held",
    "depth in range": "depth_in",
}


def table(every: Sequence[Played]) -> list[str]:
    head = ["ground", "sites", "marks", "wrong", "good stations", *_SHARES, "questions a line"]
    rows = [f"| {' | '.join(head)} |", "|---" * len(head) + "|"]
    for kind in [*grounds.KINDS, ""]:
        own = [p for p in every if not kind or p.kind == kind]
        if not own:
            continue
        f, name = figures(own), kind.replace("_", " ") or "**all**"
        shares = " | ".join("–" if np.isnan(f[k]) else f"{100 * f[k]:.0f} %" for k in _SHARES.values())
        rows.append(
            f"| {name} | {f['sites']} | {f['marks']} | {f['wrong_marks']} | {f['good']} | {shares} | {f['asks']:.1f} |"
        )
    return rows


def honesty(every: Sequence[Played]) -> list[str]:
    """How often a mark would really be wrong, by the chance given for it."""
    chance = np.concatenate([p.chance for p in every])
    wrong = ~np.concatenate([p.good for p in every])
    rows = ["| chance given | stations | really wrong |", "|---|---|---|"]
    for low, high in pairwise(_BINS):
        inside = (chance >= low) & (chance < high)
        if inside.any():
            rows.append(
                f"| {100 * low:g} to {100 * min(high, 1):g} % | {inside.sum()} | {100 * wrong[inside].mean():.0f} % |"
            )
    return rows


def told(every: Sequence[Played]) -> list[str]:
    """What was played, and how it came out, as paragraphs."""
    f = figures(every)
    share = 100 * f["wrong_marks"] / max(f["marks"], 1)
    played = (
        f"{len(grounds.KINDS)} kinds of ground, solved by a small network and a field of their own (`tests/trouble`): "
        "nothing of core's solver or receiver is in them. Somebody follows the loudest peak from the hookup, stands "
        f"{100 * STANDS_M:.0f} cm off it or less in two of three places, and reads all that the form asks for. What "
        "else is connected at the hookup is answered in the safe order, before the trace; after that at most "
        f"{ASKS} questions a line are answered, by coil the look among them. In {100 * CANNOT:.0f} % of cases an "
        f"answer cannot be had, and in {100 * CANNOT_DIG:.0f} % digging is not allowed. A mark is wrong if the "
        "line lies more than 0.45 m aside or its depth is more than 10 % off. The soil is entered wrong by a factor of "
        "1.6 as a rule; "
        "its return current is in the field. What is driven into a line comes home through a rod where the safe order "
        "puts the stake. Where a bond may stay open, or the stake had to be moved, the line is walked again and judged "
        "by what is read then: an answer like another. Where the trace ends it is said in the same go what else is "
        "connected there; a bond that is kept off at the hookup is, in the same go, kept off at the far end. What is "
        "located by a hookup of its own is entered where it was found, drawn on a plan if it crosses or changes sides; "
        "a branch teed off on the way cannot be hooked up by itself. Of a line dug up the depth is measured."
    )
    came_out = (
        f"**{f['wrong_marks']} of {f['marks']} marks were wrong ({share:.2g} %).** Before an answer nothing was "
        f"marked plainly ({f['unanswered_marks']} of {f['stations']} stations). Of {f['good']} good stations "
        f"{100 * f['good_marked']:.0f} % were marked and {100 * f['good_held']:.0f} % held back; of the others "
        f"{100 * f['wrong_held']:.0f} % were held. Where the line was within reach of the mark, the stated 95 % "
        f"ranges held in {100 * f['depth_in']:.0f} % (depth) and {100 * f['place_in']:.0f} % (place). "
        f"{f['asks']:.1f} questions a line after the look."
    )
    return [played, came_out]


def document(every: Sequence[Played], sites: int) -> str:
    """The whole document."""
    made = f"Made by `python -m tools.trouble {sites}`, criteria version {CRITERIA_VERSION}; not edited by hand."
    honest = (
        "What Vessel gave as the chance of a wrong mark after the answers, and how often it really would have been "
        "one, over all stations; those that other checks held are in it."
    )
    lines = ["# Marks on ground made by others' means", "", made, ""]
    for text in told(every):
        lines += [fill(text, 116), ""]
    lines += [*table(every), "", "## Is the chance honest?", "", fill(honest, 116), "", *honesty(every), ""]
    return "\n".join(lines)


def stored(kind: str, sites: int) -> Path:
    """Where the sites of one kind are kept, as the criteria of today judge them."""
    return KEPT / f"{kind}-{FIRST}-{sites}-criteria-{CRITERIA_VERSION}.pickle"


def main() -> None:
    """Play, kind by kind, and write. What was played before is taken from where it is kept unless its kind is named."""
    sites = int(sys.argv[1]) if len(sys.argv) > 1 else SITES
    anew = sys.argv[2:] or grounds.KINDS
    KEPT.mkdir(parents=True, exist_ok=True)
    every: list[Played] = []
    for kind in grounds.KINDS:
        kept = stored(kind, sites)
        if kind in anew or not kept.exists():
            kept.write_bytes(pickle.dumps(play_all(sites, FIRST, [kind], workers=os.cpu_count() or 1)))
        every += pickle.loads(kept.read_bytes())
    DOC.write_text(document(every, sites), encoding="utf-8")


if __name__ == "__main__":
    main()
