"""Write the generated documents: the judge's table and the file formats' schemas."""

from __future__ import annotations

from pathlib import Path

from vessel.core.judge.station.criteria import CRITERIA_VERSION, RULES
from vessel.formats import job_file, site_file
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.finding_sentences import bounds_text

DOCS = Path(__file__).parents[1] / "docs"
_MISSING = {"need": "Need more", "care": "care", "skip": "left out"}


def judge_text() -> str:
    """Return docs/judge.md."""
    rows = [
        f"| {w.title} | {w.measures} | {bounds_text(r, 'metric')} | {_MISSING[r.missing]} | {w.why} | {w.next_step} |"
        for r, w in ((r, CRITERION_WORDS[r.id]) for r in RULES)
    ]
    head = [
        "# The judge",
        "",
        f"Made by `make docs` from `vessel.core.judge.station.criteria`, criteria "
        f"version {CRITERIA_VERSION}; not edited by hand.",
        "",
        "Any hold means **Hold**. Otherwise missing evidence means **Need more**. Otherwise any care means **Mark with",
        "care**. Only then **Mark**. No verdict is permission to dig.",
        "",
        "| check | what it measures | limits | when missing | why | what to do |",
        "|---|---|---|---|---|---|",
    ]
    return "\n".join([*head, *rows]) + "\n"


GENERATED = {
    DOCS / "judge.md": judge_text,
    DOCS / "formats" / "vessel-job-1.schema.json": job_file.schema_text,
    DOCS / "formats" / "vessel-site-1.schema.json": site_file.schema_text,
}

if __name__ == "__main__":
    for path, make in GENERATED.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(make(), encoding="utf-8")
