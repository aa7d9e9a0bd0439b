"""A plan shared out over processes is the plan made in one, and a worker that dies takes nothing with it."""

import os
from functools import partial

import pytest

from benchmarks.sites import drawn_lines
from vessel.core.base import parallel as cores
from vessel.core.model.kit import SAMPLE_KIT
from vessel.core.model.soil import Soil
from vessel.core.plan.plan_site import plan_lines


@pytest.fixture
def worker():
    assert cores.open_workers(1) == 1
    assert cores.open_workers(5) == 1  # those that are there stay
    yield
    cores.close_workers()


def doubled(items):
    return [2 * x for x in items]


def dying(here, items):
    if os.getpid() != here:
        os._exit(1)
    return doubled(items)


def told(plans):
    return [
        (
            p.moving,
            p.if_earthed and p.if_earthed.setup,
            [(o.setup, o.proved_m, o.usable_m, o.in_soils_m) for o in p.ranked],
            [(o.setup, o.rejected) for o in p.rejected],
        )
        for p in plans
    ]


def test_a_plan_is_the_same_however_many_make_it(worker):
    lines = drawn_lines(3, length_m=40.0)
    shared = told(plan_lines(lines, Soil(60.0), SAMPLE_KIT))
    cores.close_workers()
    assert shared == told(plan_lines(lines, Soil(60.0), SAMPLE_KIT))


def test_what_is_shared_out_comes_back_in_order(worker):
    assert cores.shared_out(doubled, range(7)) == [0, 2, 4, 6, 8, 10, 12]


def test_without_workers_one_process_does_it_all():
    assert cores.open_workers(0) == 0
    assert cores.shared_out(doubled, (3, 4)) == [6, 8]
    assert cores.shared_out(doubled, ()) == []


def test_a_worker_that_dies_is_done_without(worker):
    work = partial(dying, os.getpid())
    assert cores.shared_out(work, range(4)) == [0, 2, 4, 6]
    assert cores.shared_out(work, range(4)) == [0, 2, 4, 6]
