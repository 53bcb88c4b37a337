"""The link to a cutter over a real pseudo-terminal, with the stand-in behind it."""

import threading
import time
from dataclasses import fields, replace

import numpy as np
import pytest

from tests.cutting.breaks import SETTINGS, random_program, send_to_chatty, send_until_whole, times_cut
from tests.helpers import cases
from zinnet.cutting.link import Sending, rest_of
from zinnet.cutting.paths import CutPath
from zinnet.cutting.ports import PortSettings, ports
from zinnet.cutting.stand_in.cutter import Failure, StandIn
from zinnet.cutting.stand_in.port import StandInPort


def program(seed=1):
    return random_program(np.random.default_rng(seed))


def sent(port, what, **more):
    return Sending(what, PortSettings(port.name, answer_s=0.4), SETTINGS, **more).start()


def test_a_whole_mat_is_cut_line_by_line_in_the_order_of_the_program():
    what, told = program(), []
    with StandInPort(times=None) as port:
        report = sent(port, what, on_change=lambda sending: told.append(sending.share)).wait(20)
        strokes = port.cutter.head.strokes
    assert report.is_whole
    assert report.done == tuple(block.path.name for block in what.blocks)
    assert [times_cut(block, [stroke]) for block, stroke in zip(what.blocks, strokes, strict=True)] == [1] * len(
        strokes
    )
    assert told == sorted(told)
    assert told[-1] == 1.0


@pytest.mark.parametrize("first", range(0, cases(15, 40), 5))
def test_whatever_fails_no_line_is_cut_twice_or_left_out_without_being_said(first):
    kinds = [kind for seed in range(first, first + 5) for kind in send_until_whole(seed)]
    assert kinds


@pytest.mark.parametrize(
    ("kind", "word"),
    [("jam", "blocked"), ("power", "lost"), ("buffer", "ran over"), ("noise", "garbled"), ("silence", "not answer")],
)
def test_every_failure_is_said_in_words_with_what_is_in_doubt(kind, word):
    what = program(3)
    with StandInPort(StandIn(failure=Failure(kind, 300)), times=None) as port:
        report = sent(port, what).wait(20)
    assert report.state == "failed"
    assert word in report.reason
    assert 1 <= len(report.doubtful) <= 2
    names = [block.path.name for block in what.blocks]
    assert sorted((*report.done, *report.doubtful, *report.left)) == sorted(names)


@pytest.mark.parametrize("seed", range(cases(6, 60)))
def test_what_the_cutter_says_unasked_shifts_no_line_from_in_doubt_to_cut(seed):
    report, cutter = send_to_chatty(seed)
    assert not report.is_whole or not cutter.strays


class Unhurried(CutPath):
    """A line that lets the other thread in whenever its name is asked for."""

    def __getattribute__(self, key):
        if key == "name":
            time.sleep(0.0002)
        return super().__getattribute__(key)


def test_the_report_may_be_asked_for_at_any_moment_and_names_every_line_once():
    what = program(2)
    names = sorted(block.path.name for block in what.blocks)
    lines = [Unhurried(*(getattr(block.path, field.name) for field in fields(CutPath))) for block in what.blocks]
    blocks = tuple(replace(block, path=line) for block, line in zip(what.blocks, lines, strict=True))
    with StandInPort(times=None) as port:
        sending = sent(port, replace(what, blocks=blocks))
        while sending.is_running:
            report = sending.report
            assert sorted((*report.done, *report.doubtful, *report.left)) == names
            assert sending.current in (None, *names)
    assert sending.report.is_whole


@pytest.mark.parametrize("wait", [0.05, 0.4, 0.9, 1.6])
def test_stop_lifts_the_knife_and_leaves_the_rest_uncut(wait):
    what = program(5)
    with StandInPort(times=1.0) as port:
        sending = sent(port, what)
        time.sleep(wait)
        sending.stop()
        report = sending.wait(60)
        while port.cutter.is_busy:
            time.sleep(0.005)
        assert not port.cutter.head.down
        cut = port.cutter.head.strokes
    assert report.state == "stopped"
    names = [block.path.name for block in what.blocks]
    assert sorted((*report.done, *report.doubtful, *report.left)) == sorted(names)
    assert report.left
    assert len(cut) <= len(report.done) + len(report.doubtful)


def test_pause_waits_with_the_knife_lifted_and_goes_on_where_it_was():
    what, paused = program(6), threading.Event()

    def told(sending):
        if sending.state == "paused":
            paused.set()

    with StandInPort(times=30.0) as port:
        sending = sent(port, what, on_change=told)
        sending.pause()
        assert paused.wait(10)
        before = len(port.cutter.head.strokes)
        time.sleep(0.2)
        assert len(port.cutter.head.strokes) == before
        assert not port.cutter.is_busy
        assert not port.cutter.head.down
        sending.resume()
        report = sending.wait(20)
    assert report.is_whole
    assert len(port.cutter.head.strokes) == len(what.blocks)


def test_stop_while_paused_ends_at_once():
    with StandInPort(times=30.0) as port:
        sending = sent(port, program(7))
        sending.pause()
        time.sleep(0.3)
        sending.stop()
        assert sending.wait(2).state == "stopped"


def test_a_port_that_is_not_there_is_named():
    report = Sending(program(), PortSettings("/dev/no-such-port"), SETTINGS).start().wait(5)
    assert report.state == "failed"
    assert "/dev/no-such-port" in report.reason
    assert report.left == tuple(block.path.name for block in program().blocks)
    assert not report.done


def test_a_port_where_nobody_answers_is_said_before_anything_is_sent():
    import os
    import pty

    master, slave = pty.openpty()
    try:
        report = Sending(program(), PortSettings(os.ttyname(slave), answer_s=0.2), SETTINGS).start().wait(5)
    finally:
        os.close(master)
        os.close(slave)
    assert "does not answer" in report.reason
    assert not report.doubtful


def test_a_cutter_that_holds_the_line_up_for_ever_is_left_in_the_end(monkeypatch):
    import os
    import pty
    import tty

    monkeypatch.setattr("zinnet.cutting.link.STALL_S", 0.3)
    monkeypatch.setattr("zinnet.cutting.link.STALL_TIMES", 0.0)
    master, slave = pty.openpty()
    tty.setraw(slave)

    def answer_once_then_hold():
        os.read(master, 3)
        os.write(master, b"0\r\x13")

    holding = threading.Thread(target=answer_once_then_hold, daemon=True)
    holding.start()
    try:
        report = Sending(program(2), PortSettings(os.ttyname(slave)), SETTINGS).start().wait(10)
    finally:
        os.close(slave)
        os.close(master)
    assert report.state == "failed"
    assert "does not take any more" in report.reason or "does not go on" in report.reason
    assert len(report.done) == 0


def test_an_answer_that_makes_no_sense_is_no_cut():
    with StandInPort(times=None) as port:
        port.cutter._say = lambda text: port.cutter._answers.extend(b"what?\r")
        report = sent(port, program()).wait(5)
    assert report.state == "failed"
    assert "what?" in report.reason


def test_the_rest_of_a_program_leaves_out_what_is_cut_but_for_what_is_cut_again():
    what = program(8)
    names = [block.path.name for block in what.blocks]
    left = rest_of(what, names[:2], names[1:2])
    assert [block.path.name for block in left.blocks] == names[1:]
    assert left.head == what.head


def test_the_ports_of_this_machine_are_listed():
    assert all(len(row) == 2 for row in ports())
