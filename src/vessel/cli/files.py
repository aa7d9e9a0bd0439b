"""Reading what the command line is given, and writing what it answers."""

from __future__ import annotations

from pathlib import Path

from vessel.core.base.errors import BadInput, NotFound
from vessel.formats import job_file
from vessel.formats.loaded_job import LoadedJob, LoadedLine, checked


def read_text(path: str, *, field: str) -> str:
    """Return the text of a file; raise `BadInput` where there is none."""
    try:
        return Path(path).read_text(encoding="utf-8")
    except (OSError, UnicodeDecodeError) as e:
        raise BadInput(f"{path} cannot be read.", field=field, fix="Name an exported file.") from e


def read_job(path: str) -> LoadedJob:
    """Return the checked job of a file, loaded."""
    return checked_job(read_text(path, field="JOB.json"))


def checked_job(text: str) -> LoadedJob:
    """Return the checked job in `text`, loaded."""
    return checked(job_file.load(text).job)


def line_named(job: LoadedJob, name: str) -> LoadedLine:
    """Return a line of a job by name."""
    for line in job.lines:
        if line.row.name == name:
            return line
    known = ", ".join(f"“{line.row.name}”" for line in job.lines) or "none"
    raise NotFound(f"The job has no line “{name}”.", field="--line", fix=f"It has {known}.")
