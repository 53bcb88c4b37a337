"""Designs in the hand and in the dialog: groups move whole, the picture follows before the plan does."""

import pytest
from PySide6.QtCore import QPoint, Qt

from tests.helpers import svg
from tests.ui.conftest import move_mouse
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.job.edits import add_design, choose_film, set_placement
from zinnet.plan.arranging import grouped
from zinnet.plan.room import added
from zinnet.ui.arrange_dialog import ArrangeDialog
from zinnet.ui.stations import carried

BOX = '<rect width="80" height="40" fill="#d62828"/>'


@pytest.fixture
def session(window):
    """Return the window's session with three designs below one another."""
    session = window.session
    session.apply(add_design("first.svg", svg(BOX)))
    session.apply(set_placement("x", width_mm=120.0, from_centre_mm=0.0, from_reference_mm=80.0))
    for number, down in ((1, 170.0), (2, 260.0)):
        session.apply(add_design(f"{number}.svg", svg(BOX)))
        session.apply(set_placement("x", design=number, width_mm=80.0, from_centre_mm=0.0, from_reference_mm=down))
    session.selection.look_at(design=0)
    window.go_to("fit")
    return session


@pytest.fixture
def dialog(window, session):
    window.arrange()
    return window.findChild(ArrangeDialog)


def boxes(session):
    return [design.art.bounds for design in session.plan.garments[0].designs]


def at_design(view, index):
    left, top, right, bottom = boxes(view.session)[index]
    return view.to_pixels((left + right) / 2, (top + bottom) / 2).toPoint()


def hold(qtbot, view, start, by):
    """Take a design and move it without letting go."""
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for step in (1, 2, 3):
        move_mouse(view, start + by * (step / 3), Qt.MouseButton.LeftButton)


def test_a_group_is_dragged_whole_in_one_step_of_undo(window, session, qtbot):
    session.apply(grouped(session.plan.garments[0], [0, 1], "motif"))
    view, before = window.view, boxes(session)
    start, by = at_design(view, 0), QPoint(60, 30)
    hold(qtbot, view, start, by)
    assert view.carried.is_active
    shown = view.carried.shown(session.plan.garments[0].designs[1])
    assert shown.from_centre_mm == pytest.approx(by.x() / view.pixels_per_mm, abs=0.2)
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start + by)
    qtbot.waitUntil(lambda: not view.carried.is_active and not session.is_working, timeout=20_000)
    after = boxes(session)
    moved = [b[0] - a[0] for a, b in zip(before, after, strict=True)]
    assert moved == pytest.approx([by.x() / view.pixels_per_mm] * 2 + [0.0], abs=0.2)
    session.undo()
    assert boxes(session)[0] == pytest.approx(before[0], abs=0.01)


def test_with_much_on_the_panel_the_picture_follows_and_the_finding_comes_while_the_hand_is_still(
    window, session, qtbot, monkeypatch
):
    monkeypatch.setattr(carried, "MOST_POINTS", 0)
    session.apply(choose_film("#d62828", "gold-glitter"))
    view = window.view
    start = at_design(view, 0)
    down = QPoint(0, round(90 * view.pixels_per_mm))
    hold(qtbot, view, start, down)
    assert view.placement.from_reference_mm == pytest.approx(170.0, abs=1.0)
    qtbot.waitUntil(lambda: any(one.id == "designs-overlap" for one in session.plan.findings), timeout=20_000)
    assert view.carried.is_active
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=start + down)
    qtbot.waitUntil(lambda: not view.carried.is_active, timeout=20_000)
    assert session.document.undo_name == "move the artwork"


def test_a_click_alone_moves_nothing(window, session, qtbot, monkeypatch):
    monkeypatch.setattr(carried, "MOST_POINTS", 0)
    job = session.job
    qtbot.mouseClick(window.view, Qt.MouseButton.LeftButton, pos=at_design(window.view, 0))
    assert session.job is job
    assert not window.view.carried.is_active


def test_the_arrow_keys_move_a_group(window, session, qtbot):
    session.apply(grouped(session.plan.garments[0], [0, 1], "motif"))
    before = boxes(session)
    qtbot.keyClick(window.view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert [b[0] - a[0] for a, b in zip(before, boxes(session), strict=True)] == pytest.approx([10, 10, 0], abs=0.05)


def test_the_dialog_groups_aligns_spreads_and_takes_apart(dialog, session, qtbot):
    dialog.list.item(2).setCheckState(Qt.CheckState.Unchecked)
    dialog.name.setText("motif")
    qtbot.mouseClick(dialog.group_button, Qt.MouseButton.LeftButton)
    assert [design.group for design in session.job.designs] == [("motif",), ("motif",), ()]
    assert "in motif" in dialog.list.item(0).text()
    dialog.list.item(2).setCheckState(Qt.CheckState.Checked)
    dialog.along.setCurrentIndex(1)
    dialog.gap.setText("15 mm")
    qtbot.mouseClick(dialog.spread_button, Qt.MouseButton.LeftButton)
    found = boxes(session)
    assert found[2][1] - found[1][3] == pytest.approx(15.0, abs=0.05)
    dialog.by.setCurrentIndex(0)
    dialog.to.setCurrentIndex(2)
    dialog.at.setText("5 mm")
    qtbot.mouseClick(dialog.align_button, Qt.MouseButton.LeftButton)
    left = session.plan.blank.main.usable.bounds[0]
    assert min(box[0] for box in boxes(session)[:2]) == pytest.approx(left + 5, abs=0.05)
    qtbot.mouseClick(dialog.apart_button, Qt.MouseButton.LeftButton)
    assert [design.group for design in session.job.designs] == [(), (), ()]
    qtbot.mouseClick(dialog.apart_button, Qt.MouseButton.LeftButton)
    assert "None of the ticked designs" in dialog.said.text()


def test_what_can_not_be_is_said_in_the_dialog(dialog, session, qtbot):
    job = session.job
    for row in (1, 2):
        dialog.list.item(row).setCheckState(Qt.CheckState.Unchecked)
    qtbot.mouseClick(dialog.group_button, Qt.MouseButton.LeftButton)
    assert "two designs or more" in dialog.said.text()
    dialog.gap.setText("wide")
    qtbot.mouseClick(dialog.spread_button, Qt.MouseButton.LeftButton)
    assert "wide" in dialog.said.text()
    qtbot.mouseClick(dialog.words_button, Qt.MouseButton.LeftButton)
    assert "no text" in dialog.said.text()
    dialog.list.item(0).setCheckState(Qt.CheckState.Unchecked)
    qtbot.mouseClick(dialog.words_button, Qt.MouseButton.LeftButton)
    assert "Tick the text" in dialog.said.text()
    assert session.job is job


def test_the_words_of_a_text_are_set_apart_in_the_dialog(dialog, session, qtbot):
    session.apply(added(session.workshop, "words", TextArt(text=TextSpec(text="Reed Moon")), "full-back"))
    session.selection.look_at(design=3)
    dialog._fill()
    qtbot.mouseClick(dialog.words_button, Qt.MouseButton.LeftButton)
    assert [design.source.text.text for design in session.job.designs[3:]] == ["Reed", "Moon"]
