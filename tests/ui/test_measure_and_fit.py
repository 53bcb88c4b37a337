"""Every blank, every arrangement and the as-laid check, driven in the window by mouse and keys."""

import numpy as np
import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QInputDialog

from tests.helpers import LANTERN, document_of, first_of, svg
from tests.ui.conftest import offered
from tests.ui.test_window import drag, ids, length_named, type_length
from zinnet.blanks.model import BlankSpec
from zinnet.job.edits import add_design, choose_blank, choose_film, set_sizes
from zinnet.placement.as_laid import readings_at
from zinnet.workshop.habits import read_habits


def pick(combo, data):
    """Choose an entry of a combo box as a user does, with its signal."""
    index = combo.findData(data)
    assert index >= 0, data
    combo.setCurrentIndex(index)
    combo.activated.emit(index)


def type_in(qtbot, field, text):
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, text)
    qtbot.keyClick(field, Qt.Key.Key_Return)


@pytest.fixture
def measuring(demo):
    demo.go_to("measure")
    return demo


@pytest.fixture
def sheet(demo):
    return demo.properties.sheets["fit"]


def test_a_hoodie_is_chosen_measured_kept_and_offered_again(measuring, qtbot):
    blank, session = measuring.properties.sheets["measure"], measuring.session
    pick(blank.kind, "hoodie")
    assert session.plan.blank.name == "Hoodie, adult M"
    type_length(qtbot, measuring.view, "Pocket width", "14 in - 1 cm")
    assert session.plan.blank.measures["pocket_width"] == pytest.approx(345.6)
    blank.keep_as("my 65 % cotton hoodie, M")
    qtbot.waitUntil(lambda: blank.kept.count() == 2, timeout=15_000)
    pick(blank.kind, "tee")
    index = blank.kept.findText("my 65 % cotton hoodie, M")
    blank.kept.setCurrentIndex(index)
    blank.kept.activated.emit(index)
    assert session.plan.blank.kind == "hoodie"
    assert session.plan.blank.measures["pocket_width"] == pytest.approx(345.6)


@pytest.mark.long
def test_every_kind_of_blank_can_be_measured_and_fitted(demo, qtbot):
    blank = demo.properties.sheets["measure"]
    for index in range(blank.kind.count()):
        kind = blank.kind.itemData(index)
        if kind is None:
            continue
        demo.go_to("measure")
        pick(blank.kind, kind)
        assert demo.session.plan.blank.kind == kind
        for station in ("measure", "fit"):
            demo.go_to(station)
            demo.view.repaint()
        assert first_of(demo.session.plan).placement is not None


def test_a_wrong_measure_is_answered_and_nothing_changes(measuring, qtbot):
    for text, says in (("1/0", "divides by zero"), ("-5", "can't be right"), ("10 km", "unknown unit")):
        before = measuring.session.job
        type_length(qtbot, measuring.view, "Chest", text)
        assert says in measuring.message.text()
        assert measuring.session.job == before
        qtbot.keyClick(measuring.view.editor, Qt.Key.Key_Escape)
        measuring.view.close_editor()


def test_a_spot_to_keep_off_is_drawn_and_taken_away(measuring, qtbot):
    view, session = measuring.view, measuring.session
    session.set_fit("width", width_mm=205.0)
    pick(measuring.properties.sheets["measure"].keep_off, "plastic")
    start, end = view.to_pixels(-30, 260).toPoint(), view.to_pixels(30, 300).toPoint()
    drag(qtbot, view, start, end)
    (spot,) = session.job.blank.keep_outs
    assert spot.kind == "plastic"
    assert spot.left == pytest.approx(-30, abs=2)
    assert spot.bottom == pytest.approx(300, abs=2)
    assert "over-keep-out" in ids(measuring)
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=view.to_pixels(0, 280).toPoint())
    assert session.job.blank.keep_outs == ()


def test_an_outline_of_ones_own_is_read_beside_the_window(measuring, qtbot, tmp_path):
    path = tmp_path / "window.svg"
    path.write_bytes(svg('<path d="M0 30V100H80V30A40 30 0 0 0 0 30Z"/>'))
    pick(measuring.properties.sheets["measure"].kind, "own-outline")
    measuring.properties.sheets["measure"].take_outline(path)
    qtbot.waitUntil(lambda: measuring.session.job.blank.outline is not None, timeout=10_000)
    left, top, right, bottom = measuring.session.plan.blank.main.region.bounds
    assert right - left == pytest.approx(200)
    assert bottom - top == pytest.approx(250, abs=0.5)


def test_another_panel_is_looked_at_and_the_measures_are_named(measuring):
    pick(measuring.properties.sheets["measure"].panel, "back")
    assert measuring.view.panel.id == "back"
    measuring.view.repaint()
    assert measuring.view.lengths == []


def test_places_are_chosen_and_measured_from_their_own_reference(demo, qtbot, sheet):
    pick(sheet.place, "left-chest")
    placement = first_of(demo.session.plan).placement
    assert placement.place.id == "left-chest"
    assert length_named(demo.view, "From the centre line").mm == pytest.approx(114.3)
    type_length(qtbot, demo.view, "Below the highest shoulder point", "20 cm")
    assert first_of(demo.session.plan).placement.from_reference_mm == 200
    pick(sheet.place, "full-back")
    assert demo.session.selection.panel.id == "back"


def test_above_a_brim_up_is_more(demo, qtbot):
    pick(demo.properties.sheets["measure"].kind, "cap")
    demo.go_to("fit")
    before = first_of(demo.session.plan).placement.from_reference_mm
    qtbot.keyClick(demo.view, Qt.Key.Key_Up)
    assert first_of(demo.session.plan).placement.from_reference_mm == pytest.approx(before + 1, abs=0.1)
    assert first_of(demo.session.plan).placement.corners[2][1] < 0


@pytest.mark.proven
def test_proportions_are_let_go_only_on_purpose(demo, qtbot, sheet):
    height = sheet.height_field
    assert height.isReadOnly()
    qtbot.mouseClick(sheet.lock, Qt.MouseButton.LeftButton)
    assert sheet.lock.text() == "Apart"
    type_in(qtbot, height, "40 cm / 2")
    assert first_of(demo.session.plan).placement.height_mm == 200
    assert "stretched" in ids(demo)
    qtbot.mouseClick(offered(qtbot, demo, "stretched"), Qt.MouseButton.LeftButton)
    assert "stretched" not in ids(demo)
    qtbot.mouseClick(sheet.lock, Qt.MouseButton.LeftButton)
    assert height.isReadOnly()


def test_the_proposal_is_taken_with_a_button(demo, qtbot):
    card = demo.view.card
    assert not card.use.isEnabled()
    demo.view.held.set_width(150.0)
    assert card.use.isEnabled()
    assert card.value.text() == "205 mm"
    qtbot.mouseClick(card.use, Qt.MouseButton.LeftButton)
    assert first_of(demo.session.plan).placement.width_mm == 205
    assert "mat" in card.reason.text()


@pytest.mark.long
def test_a_blanket_answers_how_many_and_at_what_size(demo, qtbot, sheet):
    pick(demo.properties.sheets["measure"].kind, "blanket")
    demo.go_to("fit")
    form = sheet.arrangement
    before = len(first_of(demo.session.plan).placement.matrices)
    assert f"{before} in" in form.answer.text()
    type_in(qtbot, form.wanted, "40")
    assert len(first_of(demo.session.plan).placement.matrices) >= 40
    type_in(qtbot, form.columns, "3")
    type_in(qtbot, form.rows, "4")
    form.stagger.setChecked(False)
    assert len(first_of(demo.session.plan).placement.matrices) == 12
    qtbot.mouseClick(form.spread, Qt.MouseButton.LeftButton)
    placement = first_of(demo.session.plan).placement
    usable = placement.panel.usable.bounds
    assert placement.block == pytest.approx(usable, abs=0.5)


@pytest.mark.parametrize("kind", ["ring", "band", "arc", "rows"])
def test_each_arrangement_can_be_chosen_and_undone(demo, sheet, kind):
    pick(sheet.arranged, kind)
    demo.view.repaint()
    assert first_of(demo.session.plan).placement.arrangement.kind == kind
    demo.session.undo()
    assert first_of(demo.session.plan).placement.arrangement.kind == "one"


def test_guides_are_shown_and_hidden(demo):
    plain = demo.view.grab().toImage()
    demo.menus.square.trigger()
    with_square = demo.view.grab().toImage()
    demo.menus.fold.trigger()
    with_folds = demo.view.grab().toImage()
    assert plain != with_square != with_folds


def test_a_school_becomes_a_habit_and_a_finger_is_ones_own(demo, qtbot, sheet, monkeypatch):
    pick(sheet.school, "inch")
    assert first_of(demo.session.plan).placement.from_reference_mm == 31.75
    qtbot.mouseClick(sheet.habit, Qt.MouseButton.LeftButton)
    assert read_habits().schools == (("tee/adult", "inch"),)
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("16 mm", True))
    demo.preferences.choose_finger()
    assert read_habits().finger_mm == 16
    pick(sheet.school, "four-fingers")
    assert first_of(demo.session.plan).placement.from_reference_mm == 64
    demo.preferences.take_finger("4 m")
    assert "can't be right" in demo.message.text()
    assert read_habits().finger_mm == 16


def test_sizes_are_ticked_typed_set_apart_and_follow_again(demo, qtbot):
    demo.open_page("sizes")
    page, session = demo.full_pages["sizes"], demo.session
    assert demo.table.currentWidget() is page
    for action in page.sizes_menu().actions():
        if action.text() in ("toddler", "adult XL"):
            action.trigger()
    assert [garment.size for garment in session.plan.garments] == ["adult-m", "toddler", "adult-xl"]
    assert page.table.rowCount() == 3
    width = page.table.item(0, 2)
    width.setText("10 cm")
    assert session.plan.garments[1].designs[0].word_width_mm == 100
    assert page.table.item(0, 6).text() == "set apart"
    page.table.item(0, 1).setText("12")
    assert session.plan.garments[1].copies == 12
    page.table.item(0, 1).setText("many")
    assert "not a number of garments" in demo.message.text()
    page.table.selectRow(0)
    qtbot.mouseClick(page.follow_again, Qt.MouseButton.LeftButton)
    assert page.table.item(0, 6).text() == "follows"
    card, garment = page.row.cards()[2]
    qtbot.mouseClick(page.row, Qt.MouseButton.LeftButton, pos=card.center().toPoint())
    assert session.selection.garment.size == garment.size == "adult-xl"
    qtbot.mouseDClick(page.row, Qt.MouseButton.LeftButton, pos=card.center().toPoint())
    assert demo.table.currentWidget() is demo.stations["fit"]
    demo.view.held.set_width(123.0)
    assert session.plan.garments[2].designs[0].word_width_mm == 123
    assert session.plan.garments[0].designs[0].word_width_mm == 205


def test_comparing_changes_nothing_until_it_is_taken(demo, qtbot):
    demo.open_page("compare")
    page, before = demo.full_pages["compare"], demo.session.job
    page.repaint()
    pick(page.what, "school")
    pick(page.school, "inch")
    page.repaint()
    assert demo.session.job == before
    pick(page.what, "size")
    pick(page.size_box, "adult-3xl")
    page.repaint()
    assert demo.session.job == before
    pick(page.what, "width")
    type_in(qtbot, page.width_field, "180")
    qtbot.mouseClick(page.take, Qt.MouseButton.LeftButton)
    assert first_of(demo.session.plan).placement.width_mm == 180
    demo.session.undo()
    assert demo.session.job == before


def test_at_the_bench_a_piece_is_laid_read_and_judged_with_the_keyboard(demo, qtbot):
    demo.menus.bench.trigger()
    bench = demo.benches["lay"]
    assert demo.middle.currentWidget() is bench
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert bench.readings.isVisible()
    planned = readings_at(first_of(demo.session.plan).placement, right_mm=7, down_mm=0, turn_deg=0)
    for name in ("left_mm", "right_mm", "top_left_mm", "top_right_mm"):
        field = bench.fields[name]
        qtbot.keyClicks(field, f"{getattr(planned, name):.0f}")
        qtbot.keyClick(field, Qt.Key.Key_Return)
    assert bench.answer.text().startswith("Move 7 mm to the wearer's right")
    assert any(finding.id == "as-laid-off" for finding in demo.session.plan.findings)
    for name in ("left_mm", "right_mm"):
        bench.fields[name].setText("300")
    bench.judge()
    assert "can't all be true" in bench.answer.text()
    bench.fields["right_mm"].setText("far")
    bench.judge()
    assert bench.answer.text().startswith("B is not read yet")
    bench.switch.setChecked(True)
    bench.fields["left_mm"].setText(f"{planned.left_mm - 7:.0f}")
    bench.judge()
    assert "as planned" in bench.answer.text() or "tolerance" in bench.answer.text()
    qtbot.keyClick(bench, Qt.Key.Key_F11)
    assert demo.middle.currentWidget() is not bench
    assert "as-laid-off" not in ids(demo)


def test_several_designs_lie_on_one_blank_and_are_selected_by_a_click(demo, qtbot, sheet):
    demo.session.apply(add_design("chest.svg", svg(LANTERN), "right-sleeve"))
    demo.session.apply(add_design("back.svg", svg(LANTERN), "left-chest"))
    assert sheet.design.count() == 3
    x, y = demo.session.plan.garments[0].designs[2].placement.centre
    demo.view.fit_view()
    qtbot.mouseClick(demo.view, Qt.MouseButton.LeftButton, pos=demo.view.to_pixels(x, y).toPoint())
    assert demo.session.selection.design.index == 2
    view = demo.view
    middle = view.to_pixels(x, y).toPoint()
    drag(qtbot, view, middle, middle + QPoint(20, 0))
    moved = demo.session.plan.garments[0].designs
    assert moved[2].placement.from_centre_mm > 114.3
    assert moved[0].placement.from_centre_mm == 0
    pick(sheet.design, 1)
    assert demo.session.selection.panel.id == "right-sleeve"
    qtbot.mouseClick(sheet.remove, Qt.MouseButton.LeftButton)
    assert len(demo.session.job.designs) == 2


def test_the_template_is_written_beside_the_window(demo, qtbot, tmp_path):
    demo.papers.write(tmp_path / "walk.pdf", demo.papers.template())
    qtbot.waitUntil(lambda: (tmp_path / "walk.pdf").exists(), timeout=15_000)
    assert (tmp_path / "walk.pdf").read_bytes().startswith(b"%PDF")
    demo.papers.write(tmp_path / ("x" * 300), demo.papers.template())
    qtbot.waitUntil(lambda: "can't be written" in demo.message.text(), timeout=15_000)


def test_two_hundred_garments_of_eleven_sizes_are_fitted_and_edited(demo):
    session = demo.session
    sizes = ("infant", "toddler", "youth-s", "youth-m", "youth-l", "adult-s", "adult-l", "adult-xl")
    assert session.apply(set_sizes(tuple((size, 25) for size in sizes)))
    assert sum(garment.copies for garment in session.plan.garments) == 204
    assert session.set_fit("x", width_mm=180.0)
    assert session.plan.garments[3].designs[0].word_width_mm < 205


def test_what_was_measured_for_the_artwork_is_typed_at_measure(demo, qtbot):
    blank = demo.properties.sheets["measure"]
    demo.go_to("measure")
    type_in(qtbot, blank.art_width, "180")
    assert first_of(demo.session.plan).placement.width_mm == 180
    type_in(qtbot, blank.art_height, "60 mm")
    assert first_of(demo.session.plan).placement.height_mm == pytest.approx(60, abs=0.01)
    blank.art_height.selectAll()
    qtbot.keyClick(blank.art_height, Qt.Key.Key_Delete)
    qtbot.keyClick(blank.art_height, Qt.Key.Key_Return)
    assert first_of(demo.session.plan).placement.width_mm == 180
    assert blank.art_height.text() == ""


@pytest.mark.parametrize("shoulder", ["right", "left"])
def test_a_sash_shows_its_drape_with_the_words_at_fit(window, shoulder):
    spec = BlankSpec(kind="sash", size="one", colour="#f4ead5", shoulder=shoulder)
    bar = '<rect width="120" height="20" fill="#1f57c3"/>'
    window.session.show_document(document_of(bar, choose_blank(spec), choose_film("#1f57c3", "blue")))
    window.go_to("fit")
    picture = window.view.grab().toImage()
    film = QColor(window.session.workshop.film("blue").colour)
    below = [
        (x, y)
        for y in range(picture.height() - 220, picture.height() - 30)
        for x in range(picture.width())
        if picture.pixelColor(x, y).rgb() == film.rgb()
    ]
    assert len(below) > 100
    across, down = np.array(below).T
    slope = np.polyfit(across, down, 1)[0]
    assert (slope > 0) == (shoulder == "right"), "from the wearer's right shoulder it runs down to the viewer's right"
