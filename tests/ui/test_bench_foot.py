"""Below every bench stands what is next, and a button and a key that go there."""

import pytest
from PySide6.QtCore import Qt

from zinnet.ui.awake import Awake


@pytest.fixture
def at_bench(demo, qtbot):
    """Return the window at the bench of Split."""
    demo.go_to("split")
    demo.enter_bench()
    qtbot.wait(1)
    return demo


def test_the_foot_is_there_at_the_bench_alone_and_says_what_the_strip_says(at_bench):
    foot, strip = at_bench.foot, at_bench.strip
    assert foot.isVisible()
    assert foot.button.text() == strip.button.text() != ""
    assert foot.missing.toolTip() or foot.missing.text()
    foot.back.click()
    assert at_bench.middle.currentIndex() == 0
    assert not foot.isVisible()


@pytest.mark.parametrize("by_key", [True, False])
def test_it_leaves_the_bench_for_what_is_next(at_bench, qtbot, by_key):
    if by_key:
        qtbot.keyClick(at_bench, Qt.Key.Key_F8)
    else:
        qtbot.mouseClick(at_bench.foot.button, Qt.MouseButton.LeftButton)
    assert at_bench.middle.currentIndex() == 0
    assert at_bench.station == next(one.station for one in at_bench.strip.way if not one.is_done)


def test_the_space_bar_stays_with_the_bench(at_bench, qtbot):
    bench = at_bench.middle.currentWidget()
    qtbot.mouseClick(at_bench.foot, Qt.MouseButton.LeftButton)
    assert bench.hasFocus() or bench.isAncestorOf(at_bench.focusWidget())


def test_the_screen_stays_on_at_every_bench_and_may_sleep_again_after_it(demo, monkeypatch):
    called = []
    monkeypatch.setattr(Awake, "hold", lambda awake, reason: called.append("on"))
    monkeypatch.setattr(Awake, "release", lambda awake: called.append("off"))
    for station in ("measure", "fit", "split", "nest", "cut", "press"):
        demo.go_to(station)
        demo.enter_bench()
        demo.leave_bench()
    assert called == ["on", "off"] * 6
