"""How much of a random site's target can be proved at all: tried once a site, kept while it is among the last."""

from __future__ import annotations

from functools import lru_cache

from vessel.core.practice.expert import proved_by_expert
from vessel.core.practice.yard_lesson import YardLesson
from vessel.formats.lesson_file import data_of, job_of
from vessel.formats.loaded_job import checked
from vessel.store.database import now

_KEPT = 64


def provable(site: YardLesson) -> float:
    """Return the share of a site's target that somebody who knows the work marks right, 0 to 1."""
    return _provable(_Site(site))


class _Site:
    """A site by what lies there: the same ground is the same site."""

    def __init__(self, lesson: YardLesson) -> None:
        self.lesson, self._as_data = lesson, repr(data_of(lesson))

    def __hash__(self) -> int:
        return hash(self._as_data)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Site) and self._as_data == other._as_data


@lru_cache(maxsize=_KEPT)
def _provable(site: _Site) -> float:
    job = checked(job_of(site.lesson, technician="", now=now()).job)
    line = next(x for x in job.lines if x.row.name == site.lesson.target)
    return proved_by_expert(site.lesson, line.line, job.soil, job.kit)
