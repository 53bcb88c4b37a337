"""Engines in a process of their own: on time, and whatever happens to them is said or survived."""

import multiprocessing
import os
import signal
import time

import pytest
import shapely

from zinnet.base.errors import NestError
from zinnet.geometry.region import Region
from zinnet.nesting.engine_process import run_until
from zinnet.nesting.model import NestTask, Piece
from zinnet.nesting.running import NestRun, prepare_workers
from zinnet.nesting.sheet import Sheet


def endless(*, report):
    report("first")
    while True:
        time.sleep(0.01)


def test_an_engine_that_never_ends_is_ended_on_time():
    taken = []
    assert run_until(time.monotonic() + 0.4, endless, taken.append) is None
    assert taken == ["first"]
    assert not multiprocessing.active_children()


def test_the_first_report_is_waited_for():
    def late(*, report):
        time.sleep(0.5)
        report("late")

    taken = []
    run_until(time.monotonic() + 0.1, late, taken.append, at_last=time.monotonic() + 10)
    assert taken == ["late"]


def test_a_crash_of_the_engine_keeps_what_it_reported():
    def dies(*, report):
        report("best so far")
        time.sleep(0.2)
        os.kill(os.getpid(), signal.SIGKILL)

    def gives_up(*, report):
        raise RuntimeError("invalid scaled shape")

    taken = []
    assert run_until(time.monotonic() + 10, dies, taken.append) is None
    assert taken == ["best so far"]
    assert "invalid scaled shape" in run_until(time.monotonic() + 10, gives_up, taken.append)


def test_a_fault_of_our_own_is_not_hushed_up():
    def wrong(*, report):
        return report.nothing

    with pytest.raises(NestError, match="AttributeError"):
        run_until(time.monotonic() + 10, wrong, print)


def stars(count):
    square = shapely.box(0, 0, 30, 30).difference(shapely.box(10, 10, 30, 20))
    return tuple(Piece(f"p{k}", Region([square]), 3) for k in range(count))


def test_a_worker_that_waits_takes_the_next_nest_and_a_dead_one_is_passed_over():
    prepare_workers(2)
    from zinnet.nesting.running import _spares

    dead = _spares._waiting[-1]
    os.kill(dead.process.pid, signal.SIGKILL)
    dead.process.wait()
    task = NestTask(stars(4), (Sheet(width_mm=300, height_mm=200),), 2.0, seconds=0.5)
    assert NestRun(task).wait().unplaced == ()
    _spares.dismiss()


def test_killing_a_worker_keeps_the_best_so_far_and_leaves_no_engine_running():
    task = NestTask(stars(20), (Sheet(width_mm=600, height_mm=200, copies=1, kind="roll"),), 2.0, seconds=60)
    run = NestRun(task)
    while run.best is None:
        time.sleep(0.01)
    time.sleep(1.0)
    group = run._worker.process.pid
    os.kill(group, signal.SIGKILL)
    assert run.wait().unplaced == ()
    deadline = time.monotonic() + 5
    while time.monotonic() < deadline:
        try:
            os.killpg(group, 0)
        except ProcessLookupError:
            return
        time.sleep(0.05)
    pytest.fail("an engine goes on after its worker was killed")
