"""Measure the signal model and the judge against what they did not write; write docs/validation.md and its plots.

Run from the repository's root: `python -m tools.validation [sections to make anew]`, all without one. The others stay
as they were made.
"""

from __future__ import annotations

import sys
from collections.abc import Callable
from pathlib import Path

from tools.validation import closed_forms, pictures, seeded_sites

DOC = Path(__file__).parents[2] / "docs" / "validation.md"
HEAD = """# What the signal model reaches

Made by `make validation` from `tools/validation`; not edited by hand. The same figures, with the bounds, are tests:
`tests/core/test_proof.py`, `test_site.py`, `test_profile.py`. Machine: any; the seeds are fixed.
"""
SECTIONS: dict[str, tuple[str, Callable[[], list[str]]]] = {
    "forms": ("Against closed forms, textbooks and itself", closed_forms.agreement),
    "practice": ("What every practitioner knows", closed_forms.trends),
    "circuits": ("The transmitter's readings explained", seeded_sites.diagnosis),
    "sweeps": ("The first sweep", seeded_sites.sweeps_found),
    "marks": ("Marks against where the line is", seeded_sites.marked),
    "events": ("What happened along the trace", seeded_sites.happened),
    "halving": ("Halving the segments of the demo site", closed_forms.halving_table),
    "pictures": ("Pictures", pictures.pictures),
}


def kept() -> dict[str, str]:
    """What stands under each heading of the document now."""
    if not DOC.exists():
        return {}
    parts = DOC.read_text(encoding="utf-8").split("\n## ")[1:]
    return {title: body.strip() for title, body in (part.split("\n", 1) for part in parts)}


def main(names: list[str]) -> None:
    """Write the document, the named sections made anew."""
    unknown = [n for n in names if n not in SECTIONS]
    if unknown:
        raise SystemExit(f"No section {unknown[0]}. There are: {', '.join(SECTIONS)}.")
    before, text = kept(), [HEAD]
    for name, (title, make) in SECTIONS.items():
        made = not names or name in names or title not in before
        text += [f"## {title}\n", ("\n".join(make()) if made else before[title]).strip() + "\n"]
    DOC.write_text("\n".join(text).rstrip() + "\n", encoding="utf-8")


if __name__ == "__main__":
    main(sys.argv[1:])
