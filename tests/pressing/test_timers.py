"""Timers: exact, several at once, and right after the program was killed and started again."""

import os
import signal
import subprocess
import sys
from dataclasses import replace

import pytest

from tests.hand_clock import HandClock
from zinnet.bench.timers import Timers, machine_clock

WATCH = """
import sys, time
from pathlib import Path
from zinnet.bench.timers import Timers
timers = Timers(Path(sys.argv[1]))
print("ready", flush=True)
time.sleep(60)
"""


@pytest.fixture
def clock():
    return HandClock()


def test_three_timers_over_ten_minutes_are_exact(tmp_path, clock):
    timers = Timers(tmp_path / "timers.json", clock)
    for name, seconds in (("a", 600.0), ("b", 75.0), ("c", 90.0)):
        timers.start(name, name, seconds)
    for _ in range(6000):
        clock.later(0.1)
    assert timers.left_s("a") == pytest.approx(0.0, abs=1e-6)
    assert timers.left_s("b") == pytest.approx(75 - 600, abs=1e-6)
    assert [timer.id for timer in timers.all] == ["b", "c", "a"]


def test_they_go_on_while_the_program_is_away(tmp_path, clock):
    timers = Timers(tmp_path / "timers.json", clock)
    timers.start("a", "cools", 90.0)
    clock.later(20)
    timers.start("b", "shut", 15.0)
    clock.later(5)
    again = Timers(tmp_path / "timers.json", clock)
    assert again.left_s("a") == pytest.approx(65)
    assert again.left_s("b") == pytest.approx(10)
    clock.later(30)
    assert again.left_s("b") == pytest.approx(-20)


def test_a_clock_that_is_set_changes_nothing_and_a_restart_of_the_machine_goes_by_the_calendar(tmp_path, clock):
    timers = Timers(tmp_path / "timers.json", clock)
    timers.start("a", "cools", 90.0)
    clock.moment = replace(clock.moment, calendar_s=clock.moment.calendar_s + 3600)
    clock.later(10)
    assert timers.left_s("a") == pytest.approx(80)
    timers.start("b", "cools", 90.0)
    clock.later(40)
    clock.moment = replace(clock.moment, boot="b", since_boot_s=3.0)
    assert Timers(tmp_path / "timers.json", clock).left_s("b") == pytest.approx(50)


def test_a_pause_stops_time_and_more_is_added(tmp_path, clock):
    timers = Timers(tmp_path / "timers.json", clock)
    timers.start("a", "shut", 15.0)
    clock.later(5)
    timers.pause("a")
    clock.later(100)
    assert timers.left_s("a") == pytest.approx(10)
    timers.pause("a")
    clock.later(4)
    timers.add("a", 10.0)
    assert timers.left_s("a") == pytest.approx(16)
    clock.later(30)
    timers.add("a", 10.0)
    assert timers.left_s("a") == pytest.approx(10)
    assert timers.stop("a") == pytest.approx(39)
    assert timers.stop("a") is None


@pytest.mark.parametrize("text", ["", "{", "[1]", '[{"id": "a"}]', "null"])
def test_a_broken_file_is_as_if_there_were_no_timers(tmp_path, clock, text):
    (tmp_path / "timers.json").write_text(text)
    assert Timers(tmp_path / "timers.json", clock).all == ()


def test_three_timers_are_right_after_a_kill(tmp_path):
    path = tmp_path / "timers.json"
    timers = Timers(path)
    lengths = {"a": 400.0, "b": 500.0, "c": 6000.0}
    begun = {}
    for name, seconds in lengths.items():
        before = machine_clock().since_boot_s
        timers.start(name, name, seconds)
        begun[name] = (before, machine_clock().since_boot_s)
    child = subprocess.Popen([sys.executable, "-c", WATCH, str(path)], stdout=subprocess.PIPE)
    assert child.stdout.readline() == b"ready\n"
    os.kill(child.pid, signal.SIGKILL)
    child.wait()
    child.stdout.close()
    again = Timers(path)
    for name, seconds in lengths.items():
        first, last = begun[name]
        least = machine_clock().since_boot_s - last
        left = again.left_s(name)
        most = machine_clock().since_boot_s - first
        assert seconds - most <= left <= seconds - least
