"""The lessons that Vessel brings, as the open lesson files that anybody can write."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

from vessel.core.base.errors import NotFound
from vessel.core.practice.yard_lesson import YardLesson
from vessel.formats import lesson_file


@cache
def lessons() -> tuple[YardLesson, ...]:
    """Return the lessons in the order of the work."""
    found = files("vessel.lessons").iterdir()
    texts = [f.read_text(encoding="utf-8") for f in found if f.name.endswith(".vessel-lesson.json")]
    return tuple(sorted((lesson_file.load(text) for text in texts), key=lambda each: each.order))


def lesson_called(lesson_id: str) -> YardLesson:
    """Return a lesson; raise `NotFound` for one there is not."""
    for each in lessons():
        if each.id == lesson_id:
            return each
    raise NotFound("There is no such lesson.", field="lesson", fix="Choose one of the list.")
