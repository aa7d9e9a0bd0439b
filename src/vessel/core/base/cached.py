"""Values worked out once: a property kept on its object, and answers kept by what was asked.

Python 3.11's own cached property holds one lock for all objects of a class while it works: circuits of different
frequencies would wait for each other. Its own cache of answers lets two threads that ask the same at once both work:
a page asks five things of one judgement at the same time.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache, wraps
from threading import Lock
from typing import Any, Generic, ParamSpec, TypeVar

from vessel.core.base.wanted import require_wanted

P = ParamSpec("P")
T = TypeVar("T")


class lazy(Generic[T]):  # noqa: N801
    """Decorator: the method's value is kept on the object under its name.

    Two threads that ask the same object at once may both work; both get the same answer.
    """

    def __init__(self, work: Callable[..., T]) -> None:
        self._work, self.__doc__ = work, work.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    def __get__(self, obj: object, owner: type | None = None) -> T:
        # not a data descriptor: once kept, the object's own attribute is found first
        value = self._work(obj)
        obj.__dict__[self._name] = value
        return value


class _Answer(Generic[T]):
    def __init__(self) -> None:
        self.lock, self.kept = Lock(), list[T]()


def remembered(most: int) -> Callable[[Callable[P, T]], Callable[P, T]]:
    """Decorator: answers are kept by what was asked; who asks while another thread works it out waits for that.

    What fails is not kept, nor what was given up: the next one tries again.

    Args:
        most: Answers kept, those asked for last.

    Returns:
        The decorator; arguments must be hashable.
    """

    def decorate(work: Callable[P, T]) -> Callable[P, T]:
        finding = Lock()

        @lru_cache(maxsize=most)
        def answers(*args: Any, **kwargs: Any) -> _Answer[T]:
            return _Answer()

        @wraps(work)
        def ask(*args: P.args, **kwargs: P.kwargs) -> T:
            with finding:
                answer = answers(*args, **kwargs)  # type: ignore[arg-type]  # who decorates sees to it that they can
            with answer.lock:
                require_wanted()
                if not answer.kept:
                    answer.kept.append(work(*args, **kwargs))
            return answer.kept[0]

        return ask

    return decorate
