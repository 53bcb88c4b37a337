"""Measuring at the bench: tape by tape, typed and taken with Enter, refused where it can't be."""

import pytest
from PySide6.QtCore import Qt

from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import choose_blank


@pytest.fixture
def bench(demo, qtbot):
    demo.session.apply(choose_blank(read_blank_name("tee")))
    qtbot.waitUntil(lambda: not demo.session.background.is_busy, timeout=60_000)
    demo.go_to("measure")
    demo.enter_bench()
    return demo.benches["measure"]


def test_each_tape_is_read_and_typed_once(bench, demo, qtbot):
    blank = demo.session.selection.garment.blank
    wanted = {}
    seen = []
    while bench.tape is not None:
        measure = bench.tape.measure
        seen.append(measure)
        wanted[measure] = round(blank.measures[measure]) + 1
        assert bench.field.accessibleName() in bench.said()
        bench.repaint()
        qtbot.keyClicks(bench.field, str(wanted[measure]))
        qtbot.keyClick(bench.field, Qt.Key.Key_Return)
    assert seen == [tape.measure for tape in blank.main.tapes]
    measured = demo.session.job.blank
    after = demo.session.selection.garment.blank
    assert {name: after.measures[name] for name in wanted} == wanted
    assert set(wanted) <= set(after.measured), measured
    assert "All is measured" in bench.said()
    bench.repaint()
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert demo.middle.currentIndex() == 0
    assert demo.station == "measure"


def test_what_can_not_be_is_said_and_the_tape_stays(bench, demo, qtbot):
    measure, before = bench.tape.measure, demo.session.job
    for typed in ("abc", "99999"):
        bench.field.setText(typed)
        qtbot.keyClick(bench.field, Qt.Key.Key_Return)
        assert bench.tape.measure == measure
        assert bench._wrong
        bench.repaint()
    assert demo.session.job == before


def test_an_empty_field_leaves_it_as_it_is_and_one_goes_back(bench, demo, qtbot):
    before = demo.session.job
    qtbot.keyClick(bench.field, Qt.Key.Key_Return)
    assert bench.at == 1
    assert demo.session.job == before
    qtbot.keyClick(bench.field, Qt.Key.Key_PageUp)
    assert bench.at == 0
    qtbot.keyClick(bench.field, Qt.Key.Key_F11)
    assert demo.middle.currentIndex() == 0


def test_it_is_there_before_any_artwork(window):
    window.go_to("measure")
    window.enter_bench()
    assert window.middle.currentWidget() is window.benches["measure"]
