"""The watch over what commands read counts what that takes, and nothing that was there before."""

import threading
import time

import numpy as np
import pytest

from zinnet.cli import watch

MB = 1 << 20


@pytest.fixture
def ended(monkeypatch):
    """Note the sentence that a watch would end the program with, and say when."""
    said, is_said = [], threading.Event()

    def end(sentence):
        said.append(sentence)
        is_said.set()

    monkeypatch.setattr(watch, "_end", end)
    return said, is_said


def test_memory_that_a_reading_takes_counts(ended):
    said, is_said = ended
    with watch.watched("moth.svg", most_bytes=40 * MB):
        taken = np.ones(100 * MB, dtype=np.uint8)
        is_said.wait()
    assert taken.size == 100 * MB
    assert said[0] == "moth.svg needs more than 40 MB of memory; simplify it."


def test_memory_that_was_held_before_does_not_count(ended, monkeypatch):
    said, _ = ended
    held = np.ones(100 * MB, dtype=np.uint8)
    looked, enough = [], threading.Event()
    real = watch.memory_in_use

    def memory_in_use():
        looked.append(real())
        if len(looked) > 3:
            enough.set()
        return looked[-1]

    monkeypatch.setattr(watch, "memory_in_use", memory_in_use)
    with watch.watched("moth.svg", most_bytes=60 * MB):
        enough.wait()
    assert min(looked) > held.size
    assert said == []


def test_time_of_other_threads_does_not_count(ended):
    said, _ = ended
    is_over = threading.Event()

    def spin():
        while not is_over.is_set():
            sum(range(1000))

    other = threading.Thread(target=spin)
    began = time.process_time()
    other.start()
    try:
        with watch.watched("moth.svg", most_s=0.3):
            while time.process_time() < began + 0.6:
                is_over.wait(watch.POLL_S)
    finally:
        is_over.set()
        other.join()
    assert said == []


def test_time_of_a_reading_counts(ended):
    said, is_said = ended
    with watch.watched("moth.svg", most_s=0.1):
        while not is_said.is_set():
            sum(range(1000))
    assert said[0].startswith("moth.svg keeps the program busy")
