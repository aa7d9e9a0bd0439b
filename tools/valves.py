"""Find the ends of valve wires made by other means than core's; write docs/valves.md.

Run from the repository's root: `python -m tools.valves [wires of a kind]`.
"""

from __future__ import annotations

import os
import sys
from pathlib import Path

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import numpy as np

from tests.trouble.valve_wires import ended

DOC = Path(__file__).parents[1] / "docs" / "valves.md"
WIRES = 200
CASES = (
    ("valve, 71.68 kHz", "valve", 71680.0),
    ("valve, 35.84 kHz", "valve", 35840.0),
    ("open end, 35.84 kHz", "open", 35840.0),
    ("open end, 8.96 kHz", "open", 8960.0),
    ("earthed end, 35.84 kHz", "earthed", 35840.0),
    ("earthed end, 8.96 kHz", "earthed", 8960.0),
)


def row(name: str, kind: str, freq_hz: float, wires: int) -> str:
    """One row of the table."""
    found = [ended(seed, kind, freq_hz) for seed in range(wires)]
    named = [e for e in found if e.inside is not None]
    if kind == "earthed":
        return f"| {name} | {wires} | {len(named)} | – | – | – |"
    near = np.mean([e.off_m < 1.0 for e in found])
    inside = np.mean([e.inside for e in named]) if named else float("nan")
    median = np.median([e.off_m for e in named]) if named else float("nan")
    return f"| {name} | {wires} | {len(named)} | {100 * near:.0f} % | {median:.2f} m | {100 * inside:.0f} % |"


def main(wires: int) -> None:
    """Walk and write."""
    lines = [
        "# Ends of valve wires made by others' means",
        "",
        f"Made by `python -m tools.valves {wires}`; not edited by hand.",
        "",
        "Insulated wires of 30 to 150 m in soils of 20 to 630 ohm m, entered wrong by 1.6 times as a rule, by the",
        "small network of `tests/trouble`. Somebody reads the current every 4 to 8 m up to 1.5 m before the end, 3 %",
        "unsure, each place 0.1 m unsure. A valve: 20 to 60 ohm and 20 to 100 mH; the wire goes on behind it.",
        "Wanted: a valve within 1 m in 90 %. Where an earth takes the current on, no end is to be named.",
        "",
        "| wire | walked | an end named | within 1 m, of all | off in the median | in its range |",
        "|---|---|---|---|---|---|",
        *(row(name, kind, freq_hz, wires) for name, kind, freq_hz in CASES),
        "",
    ]
    DOC.write_text("\n".join(lines), encoding="utf-8")


if __name__ == "__main__":
    main(int(sys.argv[1]) if len(sys.argv) > 1 else WIRES)
