"""Reading what the command line is given, and writing what it answers."""

from __future__ import annotations

import json
import math
from pathlib import Path
from typing import Any

from vessel.core.base.errors import BadInput, NotFound
from vessel.formats import job_file
from vessel.formats.adapters import check
from vessel.formats.job_file import JobDoc, LineDoc


def read_text(path: str, *, field: str) -> str:
    """Return the text of a file; raise `BadInput` where there is none."""
    try:
        return Path(path).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as e:
        raise BadInput(f"{path} cannot be read.", field=field, fix="Name an exported file.") from e


def read_job(path: str) -> JobDoc:
    """Return the checked job of a file."""
    return checked_job(read_text(path, field="JOB.json"))


def checked_job(text: str) -> JobDoc:
    """Return the checked job in `text`."""
    job = job_file.load(text).job
    check(job)
    return job


def kept_lines(job: JobDoc) -> list[LineDoc]:
    """Return the lines of a job that were not removed."""
    return [doc for doc in job.lines if doc.deleted_at is None]


def line_named(job: JobDoc, name: str) -> LineDoc:
    """Return a line of a job by name."""
    for doc in kept_lines(job):
        if doc.name == name:
            return doc
    known = ", ".join(f"“{doc.name}”" for doc in kept_lines(job)) or "none"
    raise NotFound(f"The job has no line “{name}”.", field="--line", fix=f"It has {known}.")


def as_json(result: Any) -> str:
    """Return a result as JSON; what JSON cannot say (NaN, infinity) as null."""
    return json.dumps(_finite(result), indent=1, allow_nan=False)


def _finite(value: Any) -> Any:
    if isinstance(value, float):
        return value if math.isfinite(value) else None
    if isinstance(value, dict):
        return {k: _finite(v) for k, v in value.items()}
    return [_finite(v) for v in value] if isinstance(value, (list, tuple)) else value
