"""Diagnose circuits made by other means than core's; write docs/circuits.md.

Run from the repository's root: `python -m tools.circuits [circuits]`.
"""

from __future__ import annotations

import os
import sys
from collections import Counter
from collections.abc import Sequence
from concurrent.futures import ProcessPoolExecutor
from pathlib import Path
from typing import Any

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")  # one process a core, each alone on it

from tests.trouble.circuits import CAUSES, MORE, MUCH, figures, one

DOC = Path(__file__).parents[1] / "docs" / "circuits.md"
CIRCUITS, FIRST = 560, 5000


def table(rows: Sequence[dict[str, Any]]) -> list[str]:
    """One row a cause: how often it came first, among the first two, and what was said to be told apart."""
    lines = [
        "| cause | circuits | first | among two | told apart | told apart and wrong | called sound | first instead |",
        "|---|---|---|---|---|---|---|---|",
    ]
    for cause in CAUSES:
        own = [r for r in rows if r["cause"] == cause]
        first = sum(r["order"][0] == cause for r in own)
        two = sum(cause in r["order"][:2] for r in own)
        apart = [r for r in own if r["told_apart"]]
        wrong = sum(r["order"][0] != cause for r in apart)
        sound = sum(r["sound"] for r in own)
        other = Counter(r["order"][0] for r in own if r["order"][0] != cause).most_common(1)
        instead = f"{other[0][0]} ({other[0][1]})".replace("_", " ") if other else ""
        name = cause.replace("_", " ")
        lines.append(f"| {name} | {len(own)} | {first} | {two} | {len(apart)} | {wrong} | {sound} | {instead} |")
    return lines


def document(rows: Sequence[dict[str, Any]]) -> str:
    """The page."""
    f = figures(list(rows))
    lines = [
        "# The diagnosis on circuits made by others' means",
        "",
        f"Made by `python -m tools.circuits {len(rows)}`; not edited by hand.",
        "",
        f"{f['circuits']} circuits of lines of 40 to 160 m, solved by the network of `tests/trouble`: nothing of "
        "core's solver is in them.",
        "Soil, stake, depth and far end are not quite as entered. The transmitter is read at two frequencies; then "
        f"what Vessel asks for is done, up to {MORE} times.",
        "Where no bond is there to open, that cannot be done.",
        "",
        f"**A bond: among the first two in {100 * f['bonds_two']:.0f} % (wanted 80 %). Any other cause: first in "
        f"{100 * f['others_first']:.0f} % (wanted 90 %).",
        f"Told apart and wrong: {100 * f['sure_wrong']:.1f} % (wanted under 1 %). Loops called sound although a bond "
        f"took more than a fifth of the current: {f['bonds_called_sound']} of {f['bonds']}",
        f"(more than {100 * MUCH:.0f} % of what is on the line there).** {f['readings']:.1f} readings a circuit.",
        "",
        *table(rows),
        "",
        "An earth on the way and one at the far end read nearly alike where the far end is not known: Vessel says so "
        "and asks for the far end.",
        "A cause that was put right by what was asked for counts as sound: the clip cleaned, the far end earthed, the "
        "bond opened.",
        "",
    ]
    return "\n".join(lines)


def main() -> None:
    """Play and write."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else CIRCUITS
    with ProcessPoolExecutor(os.cpu_count() or 1) as pool:
        rows = list(pool.map(one, range(FIRST, FIRST + count), chunksize=7))
    DOC.write_text(document(rows), encoding="utf-8")


if __name__ == "__main__":
    main()
