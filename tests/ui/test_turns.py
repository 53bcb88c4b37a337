"""The window's turn comes first: work beside it stands back, and what follows a plan leaves room for a hand."""

import threading
from contextlib import nullcontext

import pytest
from PySide6.QtCore import QEvent, QEventLoop, QObject, QTimer

from zinnet.base.stages import LeftOff, StageCache, stage, take_turn, while_wanted
from zinnet.ui.in_turn import InTurn
from zinnet.ui.turns import Turns


@stage()
def doubled(number):
    return 2 * number


def within(loop_time, qtbot):
    loop = QEventLoop()
    QTimer.singleShot(0, lambda: (loop_time(), loop.quit()))
    loop.exec()


def test_a_stage_beside_the_window_waits_until_the_window_is_idle(qtbot):
    turns, begun, done = Turns(), threading.Event(), []

    def work():
        with turns.taken(), StageCache().in_use():
            begun.set()
            done.append(doubled(21))

    thread = threading.Thread(target=work)
    handled = []

    def handle():
        turns.take()
        thread.start()
        assert begun.wait(60)
        handled.append(list(done))

    within(handle, qtbot)
    qtbot.waitUntil(lambda: bool(done))
    thread.join()
    assert handled == [[]]
    assert done == [42]


def worked_on(turns, times, done):
    """Return a thread that takes its turn so often, then notes that it is done."""

    def work():
        with turns.taken():
            for _ in range(times):
                take_turn()
            done.append(True)

    return threading.Thread(target=work)


@pytest.mark.parametrize(("gives", "times"), [(False, 3), (True, 50)])
def test_work_goes_on_beside_a_window_that_is_never_idle_or_gives_its_turn(qtbot, gives, times):
    turns, done = Turns(), []

    def handle():
        turns.take()
        thread = worked_on(turns, times, done)
        with turns.given() if gives else nullcontext():
            thread.start()
            thread.join(60)

    within(handle, qtbot)
    assert done == [True]


def test_a_long_stage_is_left_off_in_its_midst():
    with while_wanted(lambda: False), pytest.raises(LeftOff):
        take_turn()


def test_each_thing_has_a_turn_of_its_own_and_none_is_asked_for_twice(qtbot):
    turns, order = Turns(), []

    def first():
        order.append("first")
        QTimer.singleShot(0, lambda: order.append("a hand"))

    def second():
        order.append("second")

    for action in (first, second, first):
        turns.do(action)
    assert turns.is_waiting
    assert order == []
    qtbot.waitUntil(lambda: len(order) == 3)
    assert order.index("first") < order.index("second")
    assert order.count("first") == 1
    assert not turns.is_waiting


@pytest.mark.beside
def test_what_followed_the_plan_and_is_gone_is_not_asked_any_more(window, qtbot):
    asked, owner = [], QObject(window)
    InTurn(window.session, lambda: asked.append(True), owner)
    window.session.plan_changed.emit()
    owner.deleteLater()
    qtbot.waitUntil(lambda: not window.session.background.turns.is_waiting)
    window.session.plan_changed.emit()
    qtbot.waitUntil(lambda: not window.session.background.turns.is_waiting)
    assert len(asked) <= 1


def test_a_window_that_is_drawn_has_the_turn_until_it_is_drawn(window, qtbot):
    turns, seen = window.session.background.turns, []

    class Looks(QObject):
        def eventFilter(self, watched, event):  # noqa: N802 - Qt calls it so
            if event.type() == QEvent.Type.Paint:
                seen.append(turns.is_taken)
            return False

    looks = Looks(window)
    window.tags.installEventFilter(looks)
    window.tags.update()
    qtbot.waitUntil(lambda: bool(seen))
    assert seen[0]
    within(lambda: None, qtbot)
    assert not turns.is_taken
