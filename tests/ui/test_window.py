"""The window driven as a user drives it: by mouse, keys and what is typed."""

import json
import sys

import pytest
from PySide6.QtCore import QEvent, QMimeData, QPoint, QPointF, Qt, QUrl
from PySide6.QtGui import QAction, QColor, QDropEvent, QFocusEvent
from PySide6.QtWidgets import QApplication, QFileDialog, QMessageBox, QPushButton

from tests.helpers import LANTERN, crashed, document_of, first_of, svg
from tests.ui.conftest import move_mouse, offered, point_at
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.base import workers
from zinnet.bench.document import Document
from zinnet.demo.shelf import demo_store
from zinnet.job.edits import add_source, set_copies, set_measure, set_placement
from zinnet.nesting import running
from zinnet.ui.beginnings import make_card
from zinnet.ui.card.begin import BeginCard
from zinnet.ui.film_picker import FilmButton
from zinnet.ui.theme import DAYLIGHT, NIGHT, theme
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.store import WorkshopStore


def length_named(view, name):
    view.repaint()
    return next(length for length in view.lengths if length.name == name)


def type_length(qtbot, view, name, text):
    """Click a length's card on the table, type, and press Enter."""
    card = length_named(view, name).card
    qtbot.mouseClick(view, Qt.MouseButton.LeftButton, pos=card.center().toPoint())
    assert view.editor is not None
    qtbot.keyClicks(view.editor, text)
    qtbot.keyClick(view.editor, Qt.Key.Key_Return)


def drag(qtbot, view, start, end):
    qtbot.mousePress(view, Qt.MouseButton.LeftButton, pos=start)
    for step in range(1, 6):
        move_mouse(view, start + (end - start) * (step / 5), Qt.MouseButton.LeftButton)
    qtbot.mouseRelease(view, Qt.MouseButton.LeftButton, pos=end)


def ids(window):
    return {card.finding.id for card in window.findings.cards}


def art_middle(view):
    x, y = first_of(view.session.plan).placement.centre
    return view.to_pixels(x, y).toPoint()


def test_the_first_look_offers_what_to_do(window, qtbot):
    assert window.table.currentWidget() is window.card
    assert not window.properties.isVisible()
    qtbot.mouseClick(window.card.begin.demo, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.session.has_artwork)
    assert window.table.currentWidget() is window.stations["fit"]
    assert "Wrenfield" in window.windowTitle()


@pytest.mark.proven
@pytest.mark.usefixtures("narrow_nests")
def test_a_whole_visit(demo, qtbot, tmp_path):
    """Open the demo, measure on the tape, drag, see numbers and findings follow, mend, undo, export."""
    session = demo.session
    demo.go_to("measure")
    type_length(qtbot, demo.view, "Chest", "55 cm")
    assert session.plan.blank.measures["chest"] == 550
    assert demo.view.editor is None
    assert length_named(demo.view, "Chest").mm == 550

    demo.go_to("fit")
    view = demo.view
    middle = art_middle(view)
    drag(qtbot, view, middle, middle + QPoint(40, 10))
    moved = first_of(session.plan).placement.from_centre_mm
    assert moved == pytest.approx(40 / view.pixels_per_mm, abs=0.2)
    assert "off-centre" in ids(demo)
    card = demo.findings.card("off-centre")
    assert f"{moved:.1f}".removesuffix(".0") in card.finding.measured
    assert demo.menus.undo.text() == "&Undo: move the artwork"

    qtbot.mouseClick(offered(qtbot, demo, "off-centre"), Qt.MouseButton.LeftButton)
    assert first_of(session.plan).placement.from_centre_mm == 0
    assert "off-centre" not in ids(demo)
    demo.menus.undo.trigger()
    assert first_of(session.plan).placement.from_centre_mm == moved
    demo.menus.undo.trigger()
    assert first_of(session.plan).placement.from_centre_mm == 0
    demo.menus.undo.trigger()
    assert session.plan.blank.measures["chest"] == 530
    demo.menus.redo.trigger()
    assert session.plan.blank.measures["chest"] == 550

    qtbot.waitUntil(lambda: session.plan.is_nested and not session.nester.is_running, timeout=30_000)
    with qtbot.waitSignal(session.exporter.exported, timeout=30_000):
        session.exporter.export(session.plan, session.books.store, tmp_path / "cut")
    assert len(list((tmp_path / "cut").iterdir())) == 2 * len(session.plan.mats) + 3
    assert json.loads((tmp_path / "cut" / "plan.json").read_text())["blank"]["measures"]["chest"]["mm"] == 550


def test_arrow_keys_move_by_one_and_by_ten(demo, qtbot):
    view = demo.view
    start = first_of(demo.session.plan).placement
    qtbot.keyClick(view, Qt.Key.Key_Right)
    qtbot.keyClick(view, Qt.Key.Key_Right)
    qtbot.keyClick(view, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    now = first_of(demo.session.plan).placement
    assert now.from_centre_mm == start.from_centre_mm + 2
    assert now.from_reference_mm == pytest.approx(start.from_reference_mm + 10)
    demo.session.undo()
    assert first_of(demo.session.plan).placement.from_centre_mm == start.from_centre_mm


def test_the_artwork_snaps_to_the_centre_line(demo, qtbot):
    view = demo.view
    demo.session.apply(set_placement("x", from_centre_mm=30.0))
    middle = art_middle(view)
    drag(qtbot, view, middle, middle - QPoint(round(28 * view.pixels_per_mm), 0))
    assert first_of(demo.session.plan).placement.from_centre_mm == 0


def test_a_corner_scales_with_the_proportions_kept(demo, qtbot):
    view, before = demo.view, first_of(demo.session.plan).placement
    corner = view.to_pixels(*before.corners[2]).toPoint()
    drag(qtbot, view, corner, corner - QPoint(20, 0))
    after = first_of(demo.session.plan).placement
    assert after.width_mm == pytest.approx(before.width_mm - 2 * 20 / view.pixels_per_mm, abs=2)
    assert after.height_mm / after.width_mm == pytest.approx(before.height_mm / before.width_mm, rel=1e-4)
    assert after.from_reference_mm == before.from_reference_mm


def test_lengths_are_typed_on_the_drawing_in_any_unit(demo, qtbot):
    type_length(qtbot, demo.view, "Width of the artwork", "7 1/2 in")
    assert first_of(demo.session.plan).placement.width_mm == pytest.approx(190.5)
    type_length(qtbot, demo.view, "Below the collar", "2in")
    assert "collar-distance" in ids(demo)


def test_the_lengths_are_reached_by_keys_alone(demo, qtbot):
    demo.view.repaint()
    qtbot.keyClick(demo.view, Qt.Key.Key_F2)
    assert demo.view.editor.accessibleName() == "Width of the artwork"
    qtbot.keyClick(demo.view.editor, Qt.Key.Key_F2)
    assert demo.view.editor.accessibleName() == "Below the collar"
    qtbot.keyClicks(demo.view.editor, "70")
    qtbot.keyClick(demo.view.editor, Qt.Key.Key_Return)
    assert demo.view.editor is None
    assert first_of(demo.session.plan).placement.from_reference_mm == 70


def test_a_length_that_can_not_be_right_is_refused_and_stays_open(demo, qtbot):
    demo.go_to("measure")
    type_length(qtbot, demo.view, "Chest", "wide")
    assert demo.view.editor is not None
    assert "is not a length" in demo.message.text()
    qtbot.keyClick(demo.view.editor, Qt.Key.Key_Escape)
    assert demo.view.editor is None
    type_length(qtbot, demo.view, "Chest", "5 mm")
    assert "can't be right" in demo.message.text()
    assert demo.session.plan.blank.measures["chest"] == 530


def test_pointing_at_a_piece_lights_it_up_in_every_view(demo, qtbot):
    fit, nest = demo.stations["fit"], demo.stations["nest"]
    x, y = first_of(demo.session.plan).placement.centre
    pointed = point_at(qtbot, fit, x, y + first_of(demo.session.plan).placement.height_mm * 0.2)
    order = int(pointed.split("-")[1])
    assert fit.lit_layers(demo.session.selection.design) == {order}
    demo.session.selection.point_at(pointed)
    cards = demo.stations["split"].cards.cards
    demo.stations["split"].cards.light()
    lit = [card.order for card in cards if card.property("card") == "lit"]
    assert lit == [order]
    demo.go_to("nest")
    qtbot.wait(20)
    mat = demo.session.plan.mats[-1]
    spot = nest.spots()[-1]
    inside = mat.regions[0].representative_point()
    demo.session.selection.point_at(None)
    assert point_at(qtbot, nest, spot.x + inside.x, spot.y + inside.y) == mat.layout.placed[0].piece


def test_a_film_is_chosen_on_the_layers_card(demo, qtbot, monkeypatch):
    demo.go_to("split")
    card = next(card for card in demo.stations["split"].cards.cards if card.order == 1)
    monkeypatch.setattr(FilmButton, "ask", lambda button, **about: "white-adhesive")
    card.film.click()
    qtbot.waitUntil(lambda: first_of(demo.session.plan).layers[0].film.id == "white-adhesive", timeout=10_000)
    row = first_of(demo.session.plan).layers[0]
    assert not row.side.mirrored
    assert "not mirrored" in card.side.text()


def test_the_nest_follows_an_edit_and_stops_at_once(demo, qtbot):
    session = demo.session
    demo.go_to("nest")
    session.apply(set_copies(9))
    qtbot.waitUntil(lambda: session.plan.is_nested, timeout=60_000)
    assert session.nester.is_running
    bar = demo.stations["nest"].bar
    assert bar.stop.isVisible()
    qtbot.mouseClick(bar.stop, Qt.MouseButton.LeftButton)
    assert not session.nester.is_running
    assert session.plan.is_nested
    assert (
        sum(len(mat.layout.placed) for mat in session.plan.mats)
        == sum(len(nest.parts) for nest in session.plan.nests) * 9
    )
    qtbot.mouseClick(bar.side, Qt.MouseButton.LeftButton)
    assert demo.stations["nest"].as_worn


def test_small_pieces_lie_in_no_counters_where_the_box_is_not_ticked(demo, qtbot):
    demo.go_to("nest")
    sheet = demo.properties.sheets["nest"]
    qtbot.mouseClick(sheet.inside, Qt.MouseButton.LeftButton, pos=QPoint(8, sheet.inside.height() // 2))
    assert not demo.session.job.nesting.inside_counters
    assert not any(nest.task.inside_counters for nest in demo.session.plan.nests)
    demo.session.undo()
    assert sheet.inside.isChecked()


def test_a_nest_whose_process_is_killed_is_said_and_the_job_stays(demo, qtbot, monkeypatch):
    said = []
    demo.session.said.connect(said.append)
    running._spares.dismiss()
    killed = "import os, signal; os.kill(os.getpid(), signal.SIGKILL)"
    monkeypatch.setattr(workers, "child_command", lambda module: [sys.executable, "-c", killed])
    demo.session.apply(set_copies(9))
    qtbot.waitUntil(lambda: any("without a result" in sentence for sentence in said), timeout=20_000)
    qtbot.waitUntil(lambda: not demo.session.nester.is_running, timeout=20_000)
    assert demo.session.job.copies == 9
    assert not demo.session.plan.is_nested


def test_artwork_is_opened_by_dropping_it(window, qtbot, tmp_path):
    path = tmp_path / "lantern.svg"
    path.write_bytes(svg(LANTERN))
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    event = QDropEvent(
        QPointF(300, 300), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    window.dropEvent(event)
    qtbot.waitUntil(lambda: window.session.has_artwork, timeout=10_000)
    assert window.session.job.title == "lantern"
    assert window.table.currentWidget() is window.stations["fit"]


@pytest.mark.parametrize("data", [b"", b"<svg", svg(""), b"<!DOCTYPE a [<!ENTITY b 'c'>]><svg>&b;</svg>"])
def test_bad_artwork_leaves_the_open_job_untouched(demo, qtbot, tmp_path, data):
    path = tmp_path / "bad.svg"
    path.write_bytes(data)
    before = demo.session.job
    demo.files.opener.open_path(path)
    qtbot.waitUntil(lambda: demo.message.isVisible(), timeout=10_000)
    assert "bad.svg" in demo.message.text()
    assert demo.session.job is before


def test_save_open_and_recent(demo, qtbot, tmp_path, monkeypatch):
    path = tmp_path / "walk"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    demo.session.apply(set_measure("chest", 540.0))
    assert "not saved" in demo.windowTitle()
    assert demo.files.save()
    assert "not saved" not in demo.windowTitle()
    saved = tmp_path / "walk.zinnet"
    demo.session.apply(set_measure("chest", 560.0))
    monkeypatch.setattr(QMessageBox, "question", lambda *a, **k: QMessageBox.StandardButton.Discard)
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(saved), ""))
    demo.files.choose_job()
    qtbot.waitUntil(lambda: demo.session.plan.blank.measures["chest"] == 540, timeout=10_000)
    demo.menus.fill_recent()
    assert [action.text() for action in demo.menus.recent.actions()] == ["walk"]
    card = BeginCard(())
    button = next(one for one in card.findChildren(QPushButton) if one.toolTip().endswith("walk.zinnet"))
    picture = button.icon().pixmap(44, 44).toImage()
    cloth = QColor(demo.session.plan.blank.colour)
    middle = picture.pixelColor(picture.width() // 2, int(picture.height() * 0.93))
    assert abs(middle.lightness() - cloth.lightness()) < 12
    card.deleteLater()
    assert demo.session.plan.is_nested


def test_a_job_left_behind_is_offered_and_brought_back(window, qtbot, tmp_path):
    from zinnet.bench.automatic_copy import AutomaticCopy
    from zinnet.job.edits import open_artwork

    document = Document(standard_workshop())
    document.apply(open_artwork("moth.svg", svg(LANTERN)))
    copy = AutomaticCopy(tmp_path / "copies")
    copy.keep(document.job)
    crashed(copy)
    welcome = make_card(window)
    button = next(b for b in welcome.findChildren(QPushButton) if "Bring back" in b.text())
    button.click()
    qtbot.waitUntil(lambda: window.session.job == document.job, timeout=10_000)
    assert window.session.document.is_changed
    qtbot.waitUntil(lambda: copy.left_behind() == [])


def test_stations_by_key_units_and_daylight(demo, qtbot):
    for number, station in enumerate(("measure", "artwork", "fit", "split", "nest"), start=1):
        qtbot.keyClick(demo, getattr(Qt.Key, f"Key_{number}"), Qt.KeyboardModifier.ControlModifier)
        assert demo.station == station
    demo.go_to("fit")
    demo.menus.inch.trigger()
    assert demo.session.job.unit == "in"
    assert demo.properties.sheets["fit"].below.text() == "3 in"
    demo.menus.daylight.trigger()
    assert theme() is DAYLIGHT
    demo.menus.daylight.trigger()
    assert theme() is NIGHT


def test_show_goes_to_the_place_of_a_finding(demo, qtbot, tmp_path):
    demo.session.apply(set_placement("x", from_centre_mm=180.0))
    demo.go_to("nest")
    card = demo.findings.card("outside-usable-area")
    qtbot.mouseClick(card.show_place, Qt.MouseButton.LeftButton)
    assert demo.station == "fit"
    assert demo.view.shown_box == card.finding.place.box
    demo.session.exporter.export(demo.session.plan, demo.session.books.store, tmp_path / "cut")
    qtbot.waitUntil(lambda: "while a stop is open" in demo.message.text())
    assert not (tmp_path / "cut").exists()


def test_everything_that_acts_has_a_name_and_a_tooltip(demo):
    for button in demo.findChildren(QPushButton):
        assert button.text()
        assert button.toolTip(), button.text()
    for view in demo.stations.values():
        assert view.accessibleName()


def test_no_text_is_cut_off_with_larger_type(demo, qtbot):
    """At 125 % type every label keeps room for its text."""
    from PySide6.QtWidgets import QApplication, QLabel

    app = QApplication.instance()
    sheet = app.styleSheet()
    try:
        app.setStyleSheet(sheet + " QLabel, QPushButton { font-size: 16px; }")
        demo.go_to("fit")
        qtbot.wait(50)
        for label in demo.findChildren(QLabel):
            if label.isVisible() and not label.wordWrap():
                assert label.width() >= label.sizeHint().width() - 1, label.text()
        for button in demo.findChildren(QPushButton):
            if button.isVisible():
                assert button.width() >= button.minimumSizeHint().width() - 1, button.text()
    finally:
        app.setStyleSheet(sheet)


def test_no_shortcut_stands_for_two_things(window):
    keys = [action.shortcut().toString() for action in window.findChildren(QAction) if not action.shortcut().isEmpty()]
    assert len(keys) > 20
    assert sorted(keys) == sorted(set(keys))


def test_the_whole_workshop_is_written_and_read_back(window, qtbot, tmp_path):
    window.session.books.open(demo_store(tmp_path / "one"))
    qtbot.waitUntil(lambda: bool(window.session.workshop.stock), timeout=8000)
    stock, made = window.session.workshop.stock, window.session.workshop.made
    window.workshop_files.export(tmp_path / "all.zip")
    qtbot.waitUntil((tmp_path / "all.zip").exists, timeout=8000)
    window.session.books.open(WorkshopStore(tmp_path / "two.sqlite"))
    qtbot.waitUntil(lambda: not window.session.workshop.stock, timeout=8000)
    window.workshop_files.take(tmp_path / "all.zip")
    qtbot.waitUntil(lambda: window.session.workshop.stock == stock, timeout=8000)
    assert window.session.workshop.made == made
    qtbot.waitUntil(lambda: "taken over" in window.message.text(), timeout=8000)
    window.workshop_files.take(tmp_path / "none.zip")
    assert "There is no file" in window.message.text()


@pytest.mark.proven
def test_a_mend_shows_before_and_after_when_it_is_pointed_at_and_is_one_step_to_undo(window, qtbot):
    body = '<rect width="40" height="60" fill="#f4ead5"/><rect x="40" y="30" width="60" height="0.4" fill="#f4ead5"/>'
    thin = document_of(body, set_placement("x", width_mm=127.0))
    window.session.show_document(thin)
    card = window.findings.card("too-thin")
    assert card.mend is None, "nothing is offered before it is proven"
    button = offered(qtbot, window, "too-thin")
    assert "0.8 mm" in button.accessibleName()
    reached = QFocusEvent(QEvent.Type.FocusIn, Qt.FocusReason.TabFocusReason)
    QApplication.sendEvent(button, reached)
    shown = window.findings.before_after
    assert shown.isVisible()
    assert "1 to 0" in shown.changes.text()
    assert "0.51 mm" in shown.changes.text()
    assert shown.pictures.said
    before, after = shown.pictures.grab().toImage(), window.session.job
    assert not before.isNull()
    QApplication.sendEvent(button, QFocusEvent(QEvent.Type.FocusOut, Qt.FocusReason.TabFocusReason))
    assert not shown.isVisible()
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert window.findings.card("too-thin") is None
    window.session.undo()
    assert window.session.job == after


@pytest.mark.proven
def test_where_no_mend_holds_none_is_offered_and_it_says_what_to_do(window, qtbot):
    document = Document(standard_workshop())
    document.apply(add_source("iii", TextArt(text=TextSpec(text="is raised"))))
    document.apply(set_placement("x", width_mm=28.0))
    window.session.show_document(document)
    qtbot.waitUntil(lambda: not window.findings.offers.is_working)
    names = [button.name for button in window.findings.card("weed-speck").mends]
    assert not [name for name in names if name.startswith(("drop", "fill"))]
    gap = window.findings.card("gap-will-close")
    assert gap.mends or gap.state.isVisible()
