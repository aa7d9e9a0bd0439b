"""Work shared out over the processor's cores.

Most of a plan is many small steps of Python, which threads of one process can only take in turn: whoever serves many
requests opens worker processes once, and every plan is shared out over them and the process that asks. Without them
the process does all of it. Either way the answers are the same.
"""

from __future__ import annotations

import gc
import os
import signal
from collections.abc import Callable, Sequence
from concurrent.futures import BrokenExecutor, CancelledError, Future, ProcessPoolExecutor, wait
from functools import lru_cache
from importlib import import_module
from itertools import count
from multiprocessing import get_context, parent_process
from threading import Thread
from typing import Any, TypeVar

from threadpoolctl import ThreadpoolController

from vessel.core.base.wanted import require_wanted, wanted_while

MOST_WORKERS = 3
"""Worker processes opened at most: each holds a solved site of its own."""

_PLANS = "vessel.core.plan.plan_site"

A = TypeVar("A")
B = TypeVar("B")
_pool: list[tuple[ProcessPoolExecutor, int]] = []
_SPAWN = get_context("spawn")
_given_up: Any = bytearray(64)
"""Whether the process that asked gave up, a place for each work handed out; workers see it too."""
_slots = count()
_LOOK_S = 0.05


def open_workers(most: int | None = None) -> int:
    """Start worker processes and return how many there are.

    They start while this returns. Calling it again changes nothing. What is loaded by then is hidden from Python's
    collector of cycles, which would otherwise search it again and again while a plan is made.

    Args:
        most: How many to start; None: one for each further core.

    Returns:
        Number of workers now.
    """
    if not _pool:
        gc.freeze()
        workers = min(_cores() - 1, MOST_WORKERS) if most is None else most
        if workers < 1:
            return 0
        global _given_up
        _given_up = _SPAWN.RawArray("b", len(_given_up))
        # a process copied from one with threads may inherit locks that stay shut
        pool = ProcessPoolExecutor(workers, _SPAWN, initializer=_begin, initargs=(_PLANS, _given_up))
        for _ in range(workers):
            pool.submit(gc.isenabled)  # a worker starts when there is something to do
        _pool.append((pool, workers))
    return _workers()


def _cores() -> int:
    # where a system tells which cores this process may use, that counts
    allowed = getattr(os, "sched_getaffinity", None)
    return len(allowed(0)) if allowed else os.cpu_count() or 1


def close_workers() -> None:
    """Let the worker processes go."""
    while _pool:
        _pool.pop()[0].shutdown(wait=True, cancel_futures=True)


def shared_out(work: Callable[[Sequence[A]], list[B]], items: Sequence[A]) -> list[B]:
    """Return what `work` makes of each of `items`, in their order.

    `work` and `items` must be picklable. If a worker dies, this process does its share.

    Args:
        work: Gets some of the items and returns one result for each.
        items: What to work on.

    Returns:
        One result for each item.
    """
    shares = min(_workers() + 1, len(items))
    if shares < 2:
        return _alone(work, items)
    parts = [items[k::shares] for k in range(shares)]
    slot = _slot()
    given = [_hand_out(work, part, slot) for part in parts[1:]]
    try:
        done = [_alone(work, parts[0]), *(_taken(f, work, part) for f, part in zip(given, parts[1:], strict=True))]
    except BaseException:
        _given_up[slot] = 1
        raise
    return [done[k % shares][k // shares] for k in range(len(items))]


def _slot() -> int:
    """The place where workers look whether what they were given is still wanted, clear again."""
    slot = next(_slots) % len(_given_up)
    _given_up[slot] = 0
    return slot


def _workers() -> int:
    return _pool[0][1] if _pool else 0


def _hand_out(work: Callable[[Sequence[A]], list[B]], part: Sequence[A], slot: int) -> Future[list[B]] | None:
    try:
        return _pool[0][0].submit(_while_wanted, work, part, slot)
    except (BrokenExecutor, RuntimeError, IndexError):
        return None


def _taken(future: Future[list[B]] | None, work: Callable[[Sequence[A]], list[B]], part: Sequence[A]) -> list[B]:
    try:
        while future is not None:
            require_wanted()
            if not wait([future], timeout=_LOOK_S).not_done:
                return future.result()
    except (BrokenExecutor, CancelledError):
        close_workers()
    return _alone(work, part)


def _while_wanted(work: Callable[[Sequence[A]], list[B]], part: Sequence[A], slot: int) -> list[B]:
    """What a worker does: its share, unless the process that asked gives up."""
    with wanted_while(lambda: not _given_up[slot]):
        return _alone(work, part)


def _alone(work: Callable[[Sequence[A]], list[B]], part: Sequence[A]) -> list[B]:
    # linear algebra that shares itself between the cores as well would only wait for them
    with _libraries().limit(limits=1, user_api="blas"):
        return work(part)


_libraries = lru_cache(maxsize=1)(ThreadpoolController)


def one_thread_each() -> None:
    """Let linear algebra of this process run on one thread: matrices of a few hundred rows gain nothing by more.

    For processes that are ours, such as a server; a library that is imported changes nothing of its user's.
    """
    _libraries().limit(limits=1, user_api="blas")


def _begin(module: str, given_up: Any) -> None:
    """What a worker does first: load what it will work with. Ctrl+C is for the process that opened it."""
    global _given_up
    _given_up = given_up
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    Thread(target=_leave_with_parent, daemon=True).start()
    import_module(module)
    gc.freeze()


def _leave_with_parent() -> None:
    """A worker whose opener was killed would wait for work forever."""
    parent = parent_process()
    if parent is not None:
        parent.join()
        os._exit(0)
