"""Write the generated documents: the judge's table and the file formats' schemas."""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from vessel.core.judge.rule import Rule
from vessel.core.judge.station.criteria import CRITERIA_VERSION, FAULT_RULES, RULES, SONDE_RULES
from vessel.formats import job_file, lesson_file, site_file
from vessel.instruments import messages
from vessel.words.criterion_words import CRITERION_WORDS
from vessel.words.finding_sentences import bounds_text

DOCS = Path(__file__).parents[1] / "docs"
_MISSING = {"need": "Need more", "care": "care", "skip": "left out"}


def judge_text() -> str:
    """Return docs/judge.md."""
    stations, sonde = _rows(RULES), _rows(r for r in SONDE_RULES if r not in RULES)
    head = [
        "# The judge",
        "",
        f"Made by `make docs` from `vessel.core.judge.station.criteria`, criteria "
        f"version {CRITERIA_VERSION}; not edited by hand.",
        "",
        "Any hold means **Hold**. Otherwise missing evidence means **Need more**. Otherwise any care means **Mark with",
        "care**. Only then **Mark**. No verdict is permission to dig.",
        "",
        *_HEAD,
    ]
    runs = ["", "## Stops of a sonde run", "", "Judged by these, and by the expected depth above.", "", *_HEAD]
    faults = [
        "",
        "## Ground faults",
        "",
        "**Fault found** where every check passes, **Not proved** on a hold, else **Narrow it**.",
        "",
    ]
    return "\n".join([*head, *stations, *runs, *sonde, *faults, *_HEAD, *_rows(FAULT_RULES)]) + "\n"


_HEAD = ("| check | what it measures | limits | when missing | why | what to do |", "|---|---|---|---|---|---|")


def _rows(rules: Iterable[Rule]) -> list[str]:
    return [
        f"| {w.title} | {w.measures} | {bounds_text(r, 'metric')} | {_MISSING[r.missing]} | {w.why} | {w.next_step} |"
        for r, w in ((r, CRITERION_WORDS[r.id]) for r in rules)
    ]


GENERATED = {
    DOCS / "judge.md": judge_text,
    DOCS / "formats" / "vessel-job-1.schema.json": job_file.schema_text,
    DOCS / "formats" / "vessel-site-1.schema.json": site_file.schema_text,
    DOCS / "formats" / "vessel-instruments-1.schema.json": messages.schema_text,
    DOCS / "formats" / "vessel-lesson-1.schema.json": lesson_file.schema_text,
}

if __name__ == "__main__":
    for path, make in GENERATED.items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(make(), encoding="utf-8")
