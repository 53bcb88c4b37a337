"""Timers of the press are in sight whatever is shown, ring wherever one is, and lead back to the bench."""

import pytest
from PySide6.QtCore import Qt

from zinnet.ui import timer_bar


@pytest.fixture
def pressing(demo, qtbot):
    """Return the window, left while the press is shut on the first garment."""
    demo.go_to("press")
    demo.enter_bench()
    control = demo.press
    qtbot.waitUntil(lambda: control.run is not None and bool(control.run.cards))
    while not control.run.timers.all:
        control.run.go_on()
    control.changed.emit()
    assert not demo.timer_bar.isVisible()
    demo.leave_bench()
    return demo


@pytest.mark.parametrize("where", ["fit", "split", "cut", "log", "order", "names", "guide", "card"])
def test_the_bar_is_over_whatever_is_shown(pressing, where):
    if where in pressing.stations:
        pressing.go_to(where)
    else:
        pressing.show_page(where)
    assert pressing.timer_bar.isVisible()
    assert "left: Tee, adult M 1: Preheat" in pressing.timer_bar.accessibleName()
    assert not pressing.timer_bar.grab().isNull()


def test_it_is_over_other_benches_too_but_not_over_that_of_the_press(pressing):
    pressing.go_to("cut")
    pressing.enter_bench()
    assert pressing.timer_bar.isVisible()
    pressing.leave_bench()
    pressing.go_to("press")
    assert pressing.timer_bar.isVisible()
    pressing.enter_bench()
    assert not pressing.timer_bar.isVisible()


def test_a_click_leads_to_the_bench_of_the_press(pressing, qtbot):
    pressing.go_to("cut")
    pressing.enter_bench()
    qtbot.mouseClick(pressing.timer_bar, Qt.MouseButton.LeftButton)
    assert pressing.middle.currentWidget() is pressing.benches["press"]


def test_two_timers_at_once_are_in_sight_and_it_goes_with_the_last(pressing):
    timers = pressing.press.run.timers
    timers.start("other/1.1", "Tee, adult M 2: Press", 30.0)
    pressing.press.changed.emit()
    said = pressing.timer_bar.said()
    assert len(said) == 2
    for timer in timers.all:
        timers.stop(timer.id)
    pressing.press.changed.emit()
    assert not pressing.timer_bar.isVisible()


@pytest.mark.parametrize("left_before", [True, False])
def test_it_rings_once_wherever_one_is_and_is_told_on_the_desktop(pressing, monkeypatch, left_before):
    rung, told = [], []
    monkeypatch.setattr("zinnet.ui.press.sound.ring", lambda tone: rung.append(tone))
    monkeypatch.setattr("zinnet.ui.press.notify.notify", lambda title, text: told.append(text))
    monkeypatch.setattr(timer_bar.TimerBar, "isActiveWindow", lambda bar: not left_before)
    timers = pressing.press.run.timers
    for timer in timers.all:
        timers.add(timer.id, -timer.left_s(timers.clock()) - 0.01)
    pressing.press._tick()
    pressing.press._tick()
    assert len(rung) == 1
    assert len(told) == int(left_before)
    assert "rings" in pressing.message.text()
    assert "rang: Tee, adult M 1" in pressing.timer_bar.accessibleName()
