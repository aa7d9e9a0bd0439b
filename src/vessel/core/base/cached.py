"""A property worked out once.

Python 3.11's own holds one lock for all objects of a class while it works: circuits of different frequencies would
wait for each other. Two threads that ask the same object at once may both work; both get the same answer.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Generic, TypeVar

T = TypeVar("T")


class lazy(Generic[T]):  # noqa: N801
    """Decorator: the method's value is kept on the object under its name."""

    def __init__(self, work: Callable[..., T]) -> None:
        self._work, self.__doc__ = work, work.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    def __get__(self, obj: object, owner: type | None = None) -> T:
        # not a data descriptor: once kept, the object's own attribute is found first
        value = self._work(obj)
        obj.__dict__[self._name] = value
        return value
