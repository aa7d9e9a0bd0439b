"""Work shared between the processor's cores."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from concurrent.futures import ThreadPoolExecutor
from functools import lru_cache
from typing import TypeVar

from threadpoolctl import ThreadpoolController

WORKERS = 2
"""Threads at once: array work lets other threads run, what is between does not, so more would gain nothing."""

A = TypeVar("A")
B = TypeVar("B")


def side_by_side(work: Callable[[A], B], items: Iterable[A]) -> list[B]:
    """Return `work` of each of `items`, in their order."""
    # linear algebra that shares itself between the cores as well would only wait for them
    with _libraries().limit(limits=1, user_api="blas"), ThreadPoolExecutor(WORKERS) as pool:
        return list(pool.map(work, items))


_libraries = lru_cache(maxsize=1)(ThreadpoolController)
