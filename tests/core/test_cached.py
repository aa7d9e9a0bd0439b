"""Answers worked out once, whoever asks."""

from concurrent.futures import ThreadPoolExecutor
from threading import Event

import pytest

from vessel.core.base.cached import remembered


def test_who_asks_while_it_is_worked_out_waits_for_that():
    asked, going, let_go = [], Event(), Event()

    @remembered(2)
    def squared(x, *, times=1):
        asked.append(x)
        going.set()
        assert let_go.wait(10)
        return x * x * times

    with ThreadPoolExecutor(4) as pool:
        answers = [pool.submit(squared, 3, times=2) for _ in range(4)]
        assert going.wait(10)
        let_go.set()
        assert [a.result() for a in answers] == [18] * 4
    assert asked == [3]
    assert squared(4) == 16
    assert squared(5) == 25
    assert squared(3, times=2) == 18  # two are kept: the first was let go
    assert asked == [3, 4, 5, 3]


def test_what_fails_is_tried_again():
    tries = []

    @remembered(2)
    def late(x):
        tries.append(x)
        if len(tries) == 1:
            raise OSError("the disk is away")
        return x

    with pytest.raises(OSError, match="away"):
        late(1)
    assert late(1) == 1
