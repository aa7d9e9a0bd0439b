"""Write NOTICE: the licence of every package and font that the built interface carries, and of what Python installs.

    python tools/notice.py            write it
    python tools/notice.py --check    fail if it is out of date, or a licence is not on the list

The interface's packages are those of web/package-lock.json that are not for development only.
"""

from __future__ import annotations

import json
import re
import sys
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass
from importlib.metadata import Distribution, distribution
from pathlib import Path

ROOT = Path(__file__).parents[1]
NOTICE = ROOT / "NOTICE"
OPEN = {
    *("MIT", "ISC", "0BSD", "BSD-2-Clause", "BSD-3-Clause", "Apache-2.0", "OFL-1.1", "Unlicense", "Python-2.0"),
    *("PSF-2.0", "MPL-2.0", "Zlib", "BSL-1.0", "MIT-0", "CC0-1.0", "0BSD"),
    "MIT-CMU",  # Pillow's: the Historical Permission Notice and Disclaimer, which is approved, by another name
}
"""Licences approved by the Open Source Initiative (and CC0 for data) that Vessel may be shipped with."""
PYTHON_ROOTS = re.compile(r'^  "([A-Za-z0-9_.-]+)[><=]', re.MULTILINE)
ALIASES = {"BSD License": "BSD-3-Clause", "MIT License": "MIT", "Apache License, Version 2.0": "Apache-2.0"}


@dataclass(frozen=True)
class Package:
    """A package as shipped: its licence by SPDX expression, and the licence's text where it brings one."""

    name: str
    version: str
    licence: str
    text: str


def npm_packages() -> Iterator[Package]:
    """Yield every package of the interface that is not for development only."""
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text(encoding="utf-8"))
    for path, entry in lock["packages"].items():
        if path and not entry.get("dev") and not entry.get("devOptional"):
            folder = ROOT / "web" / path
            files = sorted(f for f in folder.glob("*") if re.match(r"(?i)licen[cs]e|copying", f.name) and f.is_file())
            text = files[0].read_text(encoding="utf-8").strip() if files else ""
            yield Package(path.split("node_modules/")[-1], entry["version"], entry.get("license", "none named"), text)


def python_packages() -> Iterator[Package]:
    """Yield every package that `vessel[server]` asks for."""
    project = (ROOT / "pyproject.toml").read_text(encoding="utf-8")
    asked = project[project.index("\ndependencies = [") : project.index("\ndev = [")]
    for name in PYTHON_ROOTS.findall(asked):
        found = distribution(name)
        yield Package(found.metadata["Name"], found.version, python_licence(found), "")


def python_licence(found: Distribution) -> str:
    """Return the licence that a Python package names, as an SPDX expression."""
    said = found.metadata["License-Expression"]
    if not said:
        marks = [c.rsplit(" :: ", 1)[-1] for c in found.metadata.get_all("Classifier") or [] if c.startswith("License")]
        said = marks[0] if marks else (found.metadata["License"] or "none named").splitlines()[0]
    return ALIASES.get(said, said)


def not_open(packages: list[Package]) -> list[str]:
    """Return what to say of each package whose licence is not on the list."""
    parts = re.compile(r"\s+(?:AND|OR|and|or|WITH)\s+|[()]")
    return [
        f"{p.name} {p.version} is under “{p.licence}”, which is not on the list in tools/notice.py"
        for p in packages
        if not {x for x in parts.split(p.licence) if x} <= OPEN
    ]


def notice(npm: list[Package], python: list[Package]) -> str:
    """Return the text of NOTICE."""
    out = [
        "Vessel is under the Apache License 2.0 (LICENSE).",
        "",
        "Made by tools/notice.py. The built interface carries the packages and fonts below; their licences follow.",
        "",
    ]
    out += [f"  {p.name} {p.version}: {p.licence}" for p in sorted(npm, key=lambda p: (p.name, p.version))]
    out += ["", "Python installs these beside Vessel; each brings its own licence:", ""]
    out += [f"  {p.name}: {p.licence}" for p in sorted(python, key=lambda p: p.name.lower())]
    by_text: dict[str, set[str]] = defaultdict(set)
    for p in npm:
        if p.text:
            by_text[p.text].add(p.name)
    for text, names in sorted(by_text.items(), key=lambda x: min(x[1])):
        out += ["", "-" * 100, ", ".join(sorted(names)), "", "\n".join(line.rstrip() for line in text.splitlines())]
    return "\n".join(out) + "\n"


def main() -> int:
    """Write or check NOTICE; return 1 where something is wrong."""
    npm, python = list(npm_packages()), list(python_packages())
    wrong = not_open([*npm, *python])
    text = notice(npm, python)
    if "--check" not in sys.argv:
        NOTICE.write_text(text, encoding="utf-8")
    elif not NOTICE.is_file() or NOTICE.read_text(encoding="utf-8") != text:
        wrong.append("NOTICE is out of date: run `make notice`")
    print("\n".join(wrong) or "Every licence is open and in NOTICE.")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
