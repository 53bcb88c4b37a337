"""The pages of Nest and work by hand, driven in the real window."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QDialog

from tests.ui.conftest import move_mouse
from zinnet.bench.answers import Answer
from zinnet.bench.ways_out import WayOut
from zinnet.demo import demo_document
from zinnet.job.edits import held_copies, set_copies, set_nesting, set_placement
from zinnet.ui.nest.stock_form import StockForm
from zinnet.workshop.stock import StockItem


@pytest.fixture
def shelf(window, qtbot):
    """Return the window with the demo that is cut from the shelf, the shelf being read."""
    window.files.open_demo("shelf")
    qtbot.waitUntil(lambda: window.session.has_artwork)
    qtbot.waitUntil(lambda: bool(window.session.workshop.stock), timeout=20000)
    qtbot.waitUntil(lambda: window.session.plan.is_nested, timeout=30000)
    window.go_to("nest")
    return window


def page(window, name):
    window.view.show_page(name)
    return window.view.pages[name]


def settle(window, qtbot):
    qtbot.waitUntil(lambda: not window.session.background.is_busy, timeout=15000)


def test_the_demo_of_the_shelf_needs_no_nesting_and_has_no_stop(shelf):
    assert not shelf.session.nester.is_running
    assert shelf.session.plan.open_stops == ()
    assert shelf.session.plan.mats[0].item.kind == "scrap"


def test_the_shelf_is_found_filtered_and_sorted(shelf):
    table = page(shelf, "shelf")
    total = len(shelf.session.workshop.stock)
    assert table.table.rowCount() == total
    table.words.setText("flock tube")
    assert {item.film for item in table.shown()} == {"moss-flock"}
    table.words.setText("crease")
    assert table.table.rowCount() == 1
    table.words.clear()
    table.kind.setCurrentIndex(table.kind.findData("scrap"))
    table.fill()
    assert {item.kind for item in table.shown()} == {"scrap"}
    table.kind.setCurrentIndex(0)
    table.fill()
    table.table.sortByColumn(4, Qt.SortOrder.DescendingOrder)
    assert table.table.item(0, 4).text() == "3200 mm"


def test_film_is_added_corrected_with_a_reason_and_taken_out(shelf, qtbot, monkeypatch):
    table = page(shelf, "shelf")
    before = len(shelf.session.workshop.stock)
    table.put(StockItem(film="mint", kind="roll", width_mm=305, length_mm=700, place="tube C"))
    qtbot.waitUntil(lambda: len(shelf.session.workshop.stock) == before + 1, timeout=15000)
    assert table.item.place == "tube C"
    table.change(table.item, "measured anew", table.item.model_copy(update={"length_mm": 640.0}))
    qtbot.waitUntil(lambda: table.item is not None and table.item.length_mm == 640.0, timeout=15000)
    qtbot.waitUntil(lambda: "measured anew" in table.chosen.said.text(), timeout=15000)
    monkeypatch.setattr("zinnet.ui.nest.shelf_page.QInputDialog.getText", lambda *a, **k: ("torn", True))
    table.take_out()
    qtbot.waitUntil(lambda: len(shelf.session.workshop.stock) == before, timeout=15000)


def test_the_form_takes_film_and_says_what_is_wrong(shelf, qtbot, tmp_path):
    form = StockForm(shelf, shelf.session, None)
    qtbot.addWidget(form)
    form.across.setText("wide")
    form.length.setText("1 m")
    form.accept()
    assert form.result() != QDialog.DialogCode.Accepted
    assert "wide" in form.said.text()
    form.across.setText("305 mm")
    form.price.setText("24,50")
    form.accept()
    assert (form.item.width_mm, form.item.length_mm, form.item.price_m2) == (305, 1000, 24.5)
    outline = tmp_path / "scrap.svg"
    outline.write_text(
        "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' viewBox='0 0 200 100'>"
        "<path fill-rule='evenodd' d='M0 0H200V100H0Z M50 20H90V60H50Z'/></svg>"
    )
    form.take_outline(outline)
    qtbot.waitUntil(lambda: form.outline is not None)
    form.accept()
    assert (form.item.kind, round(form.item.area_mm2)) == ("scrap", 200 * 100 - 40 * 40)


def test_the_table_goes_out_and_comes_in_as_csv(shelf, qtbot, tmp_path):
    table = page(shelf, "shelf")
    before = len(shelf.session.workshop.stock)
    table.export(tmp_path / "shelf.csv")
    qtbot.waitUntil((tmp_path / "shelf.csv").exists)
    table.take(tmp_path / "shelf.csv")
    qtbot.waitUntil(lambda: len(shelf.session.workshop.stock) == 2 * before, timeout=15000)
    said = []
    shelf.session.said.connect(said.append)
    table.take(tmp_path / "missing.csv")
    qtbot.waitUntil(lambda: bool(said), timeout=15000)
    assert "missing.csv" in said[-1]


def test_the_trim_list_follows_the_mats(shelf):
    trims = page(shelf, "trims")
    assert trims.cards.widget().layout().count() == len(shelf.session.plan.trims) + 1
    shelf.session.apply(set_nesting("x", from_shelf=False))
    assert "Nothing is nested" in trims.note.text()


def test_rectangles_are_counted_while_they_are_typed(shelf):
    card = page(shelf, "questions").rectangles
    card.rectangle.setText("7.2 x 5 in")
    card.film.setText("9.5 x 132 in")
    assert "18 with the long side along the film, 26 with the short side" in card.answer.text()
    card.film.setText("9.5 x")
    assert "is not a length" in card.answer.text()


def test_a_question_is_asked_answered_and_can_be_stopped(shelf, qtbot):
    questions = page(shelf, "questions")
    questions.ask("missing")
    qtbot.waitUntil(lambda: "missing" in questions.answers, timeout=10000)
    assert "Nothing is missing" in questions.labels["missing"].text()
    questions.ask("more")
    assert questions.buttons["more"].text() == "Stop"
    assert not questions.buttons["scraps"].isEnabled()
    questions.ask("more")
    assert questions.asked is None


@pytest.mark.usefixtures("nests_here")
def test_an_answer_is_carried_out_with_a_button_and_undone(shelf, qtbot):
    questions = page(shelf, "questions")
    session = questions.session
    before = session.job
    questions.answers["more"] = Answer("2 more", (WayOut("more", set_copies(before.copies + 2)),))
    questions.show_plan()
    (offer,) = questions.offers["more"].buttons
    offer.click()
    assert questions.buttons["more"].text() == "Stop"
    qtbot.waitUntil(lambda: questions.asked is None, timeout=60000)
    assert session.job.copies == before.copies + 2
    assert session.plan.is_nested
    session.undo()
    assert session.job.copies == before.copies
    # what does not hold is said, and nothing is changed
    huge = WayOut("larger", set_placement("size", width_mm=2000.0))
    questions.answers["largest"] = Answer("much larger", (huge,))
    questions.show_plan()
    questions.offers["largest"].buttons[0].click()
    qtbot.waitUntil(lambda: questions.asked is None, timeout=60000)
    assert "nothing is changed" in questions.labels["largest"].text()
    assert session.job.copies == before.copies
    assert "more" not in questions.answers


def test_a_cut_goes_into_the_books_and_can_be_undone(shelf, qtbot):
    left = page(shelf, "leftovers")
    before = shelf.session.workshop.stock
    mats = shelf.session.plan.mats
    left.choices[0].setCurrentIndex(left.choices[0].findData("as it is"))
    left.cut()
    qtbot.waitUntil(lambda: shelf.session.job.cut is not None and bool(left.open_cuts), timeout=15000)
    assert shelf.session.workshop.stock != before
    assert [mat.layout for mat in shelf.session.plan.mats] == [mat.layout for mat in mats]
    assert not left.done.isVisible()
    left.undo(left.open_cuts[0][0])
    qtbot.waitUntil(lambda: shelf.session.job.cut is None, timeout=15000)
    settle(shelf, qtbot)
    assert [item.area_mm2 for item in shelf.session.workshop.stock] == [item.area_mm2 for item in before]


def spot_of(window, index=0):
    """Return a piece, and where on the widget it is."""
    view = window.view
    spot = view.spots()[0]
    placed = spot.mat.layout.placed[index]
    point = spot.mat.regions[index].representative_point()
    at = (view._to_table(spot) * view.world).map(point.x, point.y)
    return placed, QPoint(round(at[0]), round(at[1]))


def test_a_piece_is_dragged_judged_live_and_put_back_by_undo(demo, qtbot):
    demo.go_to("nest")
    view = demo.view
    placed, at = spot_of(demo)
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=at)
    assert view.hand.chosen == (placed.piece, placed.copy_number)
    move_mouse(view, at + QPoint(14, 9), Qt.MouseButton.LeftButton)
    assert view.hand.dragged is not None
    assert view.bar.said.text() == view.hand.in_words()
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=at + QPoint(14, 9))
    (pin,) = demo.session.job.nesting.moved
    assert (pin.piece, pin.held) == (placed.piece, True)
    assert (pin.x_mm, pin.y_mm) != (placed.x_mm, placed.y_mm)
    demo.session.undo()
    assert demo.session.job.nesting.moved == ()
    assert not demo.session.nester.is_running


def test_by_keys_a_piece_is_chosen_pressed_turned_held_and_let_go(demo, qtbot):
    demo.go_to("nest")
    view = demo.view
    qtbot.keyClick(view, Qt.Key.Key_PageDown)
    piece = view.hand.chosen
    assert piece is not None
    qtbot.keyClick(view, Qt.Key.Key_P)
    assert piece in held_copies(demo.session.job.nesting)
    qtbot.keyClick(view, Qt.Key.Key_P)
    assert piece not in held_copies(demo.session.job.nesting)
    turned = view.hand.lying.placed.turn_deg
    qtbot.keyClick(view, Qt.Key.Key_R)
    assert view.hand.lying.placed.turn_deg == (turned + 90) % 360
    where = view.hand.lying.placed.x_mm
    qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert view.hand.lying.placed.x_mm == pytest.approx(where + 1.0)
    qtbot.keyClick(view, Qt.Key.Key_Escape)
    assert view.hand.chosen is None


def test_nesting_again_leaves_what_is_held(demo, qtbot):
    demo.go_to("nest")
    view = demo.view
    qtbot.keyClick(view, Qt.Key.Key_PageDown)
    piece = view.hand.chosen
    qtbot.keyClick(view, Qt.Key.Key_P)
    before = view.hand.lying.placed
    demo.session.apply(set_nesting("x", seconds=0.5))
    view.bar.again.click()
    qtbot.waitUntil(lambda: demo.session.plan.is_nested and not demo.session.nester.is_running, timeout=20000)
    view.hand.chosen = piece
    assert view.hand.lying.placed == before


def test_every_page_says_what_to_do_before_there_is_anything(window):
    window.session.show_document(demo_document(name="tees"))
    window.go_to("nest")
    assert "Add the rolls" in page(window, "shelf").note.text()
    assert "Cut from the shelf" in page(window, "leftovers").note.text()


def test_what_is_there_already_is_said_in_fields_and_answered(shelf, qtbot):
    questions = page(shelf, "questions")
    fields = questions.already
    used = {fields.old.itemData(k) for k in range(fields.old.count())}
    assert used == {nest.film.id for nest in shelf.session.plan.nests}
    fields.film.setCurrentIndex(fields.film.findData("white"))
    questions.ask("already")
    qtbot.waitUntil(lambda: questions.asked is None)
    assert "White against" in questions.answers["already"].said
    fields.kind.setCurrentIndex(fields.kind.findData("fault"))
    fields.reach.setText("eight")
    questions.ask("already")
    assert "eight" in questions.labels["already"].text(), "what can't be read is said"
    fields.reach.setText("8 mm")
    questions.ask("already")
    qtbot.waitUntil(lambda: questions.asked is None)
    assert "11 mm" in questions.answers["already"].said
    fields.kind.setCurrentIndex(fields.kind.findData("pressed"))
    questions.ask("already")
    qtbot.waitUntil(lambda: questions.asked is None)
    assert "go on over" in questions.answers["already"].said
