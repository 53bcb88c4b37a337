"""The benches besides the press: cutting apart, and the large keys of weeding and loading."""

import pytest
from PySide6.QtCore import Qt

from zinnet.demo import demo_document


@pytest.fixture
def nest(window, qtbot):
    window.session.show_document(demo_document(name="names"))
    qtbot.waitUntil(lambda: not window.session.background.is_busy and window.session.plan.is_nested, timeout=90_000)
    window.go_to("nest")
    window.enter_bench()
    bench = window.benches["apart"]
    qtbot.waitUntil(lambda: bool(bench.mats), timeout=60_000)
    return bench


def test_one_key_leads_from_piece_to_piece_and_to_the_rest_of_each_mat(nest, qtbot):
    first = nest.piece
    assert first.mark in ("spare", f"No. {first.owner.number}")
    assert first.owner.name in nest.said()
    pieces = sum(len(mat.pieces) for mat in nest.mats)
    keys = 0
    while nest.current is not None:
        rest = nest.piece is None
        nest.repaint()
        assert nest.keys.buttons["onward"].text() == ("It is put away" if rest else "It is cut off")
        qtbot.keyClick(nest, Qt.Key.Key_Space)
        keys += 1
    assert keys == pieces + len(nest.mats)
    assert "All is cut apart" in nest.said()
    nest.repaint()
    qtbot.keyClick(nest, Qt.Key.Key_PageUp)
    assert nest.current is nest.mats[-1]
    assert nest.piece is None
    qtbot.keyClick(nest, Qt.Key.Key_Backspace)
    assert nest.piece is nest.mats[-1].pieces[-1]


def test_it_leaves_with_f11_and_goes_on_where_it_was(nest, window, qtbot):
    qtbot.keyClick(nest, Qt.Key.Key_Space)
    at = (nest.mat, nest.at)
    qtbot.keyClick(nest, Qt.Key.Key_F11)
    assert window.middle.currentIndex() == 0
    assert window.station == "nest"
    window.enter_bench()
    assert (nest.mat, nest.at) == at


def test_weeding_by_large_keys_names_what_stays_and_how_pale_cuts_are_seen(demo, qtbot):
    demo.go_to("split")
    demo.enter_bench()
    bench = demo.benches["weed"]
    qtbot.waitUntil(lambda: bench.weeding is not None, timeout=60_000)
    bench._follow()
    assert "stay on the carrier" in bench.accessibleDescription() or "stays" in bench.accessibleDescription()
    out = len(bench.weeding.state.out)
    qtbot.mouseClick(bench.keys.buttons["onward"], Qt.MouseButton.LeftButton)
    assert len(bench.weeding.state.out) == out + 1
    qtbot.keyClick(bench, Qt.Key.Key_PageUp)
    assert len(bench.weeding.state.out) == out
    side = bench.from_back
    qtbot.mouseClick(bench.keys.buttons["turn"], Qt.MouseButton.LeftButton)
    assert bench.from_back != side
    bench.repaint()


def test_loading_moves_on_and_does_not_toggle(demo, qtbot):
    demo.go_to("cut")
    demo.enter_bench()
    bench = demo.benches["cut"]
    load = bench.control.load
    assert bench.keys.buttons["onward"].text() == "It is loaded like this"
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert bench.control.load.key == load.key
    assert bench.control.load.is_loaded
    bench._follow()
    assert bench.keys.buttons["onward"].text() == "Send it to the cutter"
