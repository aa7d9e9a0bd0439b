"""Work stops once its last client has gone.

A server says how to tell whether its client still waits. Long work asks between its steps, and stops if none does.
Without such a word the work goes on.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_asked: ContextVar[Callable[[], bool] | None] = ContextVar("wanted", default=None)


class GivenUp(Exception):
    """No client waits for the answer any more."""


@contextmanager
def wanted_while(wanted: Callable[[], bool]) -> Iterator[None]:
    """Let what is computed in the block stop at its next step once it is no longer wanted.

    Args:
        wanted: Whether the answer is still wanted; asked often, from any thread.

    Returns:
        The block's context.
    """
    before = _asked.set(wanted)
    try:
        yield
    finally:
        _asked.reset(before)


def still_wanted() -> bool:
    """Return whether anybody waits for what is computed.

    Returns:
        True as well where no way to find out is set.
    """
    asked = _asked.get()
    return asked is None or asked()


def require_wanted() -> None:
    """Go on only if somebody waits for the answer.

    Raises:
        GivenUp: If no client waits.
    """
    if not still_wanted():
        raise GivenUp
