"""Compare what two builds answer on the command line: option by option, station by station.

    python tools/answers.py PATH_TO_OTHER_CHECKOUT

Both builds are asked the same about the demo jobs (as they are, in wet and in dry soil, by every order of frequencies)
and the demo site. Every figure, id and order of the other build must come back. Texts are counted, not compared; what
this build adds is not.
"""

from __future__ import annotations

import json
import math
import os
import subprocess
import sys
import tempfile
from collections import Counter
from collections.abc import Iterator
from itertools import product
from pathlib import Path
from typing import Any

HERE = Path(__file__).parents[1]
DEMO = HERE / "src" / "vessel" / "demo"
JOBS = ("ostrel-bay.vessel.json", "ostrel-bay-berth-2.vessel.json")
SITE = DEMO / "ostrel-bay.vessel-site.json"
SOILS = (None, 25.0, 900.0)
SCHOOLS = ("lowest", "middle", "high")
SAME = 1e-9
TEXTS = {"why", "reason", "text", "sentence", "headline", "next_step", "label", "cautions"}


def variants(folder: Path) -> list[Path]:
    """Write the demo jobs in every soil and with every order of frequencies; return the files."""
    made = []
    for name, soil, school in product(JOBS, SOILS, SCHOOLS):
        whole = json.loads((DEMO / name).read_text(encoding="utf-8"))
        job = whole["job"]
        if soil is not None:
            job["soil_resistivity_ohm_m"] = soil
        elif school != "middle":
            continue
        job.setdefault("site", {})["school"] = school
        made.append(folder / f"{name.split('.')[0]}-{soil}-{school}.json")
        made[-1].write_text(json.dumps(whole), encoding="utf-8")
    return made


def questions(folder: Path) -> Iterator[list[str]]:
    """Yield the arguments of every command asked."""
    for file in variants(folder):
        yield ["plan", str(file)]
        yield ["judge", str(file)]
    yield ["solve", str(SITE), "--refine"]
    yield ["read", str(SITE), "--along", "Gas service to ticket hall:5"]
    for name in JOBS:
        job = json.loads((DEMO / name).read_text(encoding="utf-8"))["job"]
        for line, method in product(job["lines"], ("direct", "clamp", "induction")):
            if line["construction"] is not None:
                asked = ["--line", line["name"], "--hookup", method, "--freq-hz", "35840", "--output-ma", "30"]
                where = [] if method == "direct" else ["--position-m", "8"]
                yield ["solve", str(DEMO / name), *asked, *where]


def answer(checkout: Path, asked: list[str]) -> Any:
    """Return a build's answer, or what it refused."""
    run = subprocess.run(
        [sys.executable, "-m", "vessel.cli", *asked],
        capture_output=True,
        text=True,
        env={**os.environ, "PYTHONPATH": str(checkout / "src")},
        check=False,
    )
    return json.loads(run.stdout) if run.returncode == 0 else {"refused": run.returncode}


def differences(old: Any, new: Any, at: str, seen: Counter[str]) -> Iterator[str]:
    """Yield what differs at `at` and below; count what was compared."""
    if isinstance(old, dict):
        for key, value in old.items():
            if key in TEXTS:
                seen["texts"] += 1
                seen["texts changed"] += not isinstance(new, dict) or new.get(key) != value
            elif not isinstance(new, dict) or key not in new:
                yield f"{at}.{key} is gone"
            else:
                yield from differences(value, new[key], f"{at}.{key}", seen)
    elif isinstance(old, list):
        if not isinstance(new, list) or len(old) != len(new):
            yield f"{at} has another length"
            return
        for k, (a, b) in enumerate(zip(old, new, strict=True)):
            yield from differences(a, b, f"{at}[{k}]", seen)
    elif isinstance(old, float) and isinstance(new, (int, float)):
        seen["figures"] += 1
        if not math.isclose(old, new, rel_tol=SAME, abs_tol=1e-15):
            yield f"{at}: {old} is now {new}"
    else:
        seen["ids"] += 1
        if old != new:
            yield f"{at}: {old} is now {new}"


def main() -> int:
    """Ask both builds; return 1 where anything differs."""
    if len(sys.argv) != 2:
        print(__doc__)
        return 2
    other, seen, found = Path(sys.argv[1]), Counter[str](), list[str]()
    with tempfile.TemporaryDirectory() as folder:
        for asked in questions(Path(folder)):
            seen["commands"] += 1
            old, new = answer(other, asked), answer(HERE, asked)
            seen["options"] += sum(len(x.get("options", [])) + len(x.get("rejected", [])) for x in old.get("lines", []))
            seen["stations"] += len(old.get("stations", []))
            found += [f"{' '.join(asked[:1])} {Path(asked[1]).name}{d}" for d in differences(old, new, "", seen)]
    print(", ".join(f"{n} {what}" for what, n in seen.items()))
    print(f"{len(found)} differences")
    for line in found[:40]:
        print(line)
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
