"""The Split station and weeding at the bench, driven by mouse and keyboard."""

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QFileDialog

from tests.helpers import document_of
from tests.ui.conftest import point_at
from zinnet.blanks.model import BlankSpec
from zinnet.job.edits import choose_blank, choose_film, set_placement
from zinnet.ui.film_picker import FilmPicker
from zinnet.ui.films import film_brush
from zinnet.ui.split.apart import ApartView


@pytest.fixture
def split(demo, qtbot):
    """Return the Split station of the stewards' tees."""
    demo.go_to("split")
    qtbot.wait(1)
    return demo.stations["split"]


def orders(split):
    return [(row.layer.order, row.layer.colour) for row in split.stack.in_press_order]


def test_the_keys_one_to_five_change_the_page(split, qtbot):
    for key, page in zip("12345", ("apart", "thickness", "detail", "weed", "films"), strict=True):
        qtbot.keyClick(split, key)
        assert split.page == page
        assert split.pages.buttons[page].isChecked()
        assert (split.cards.isVisible(), split.films.isVisible()) == (page in ("apart", "thickness"), page == "films")
        assert not split.grab().isNull()


def test_the_slider_lays_the_layers_down_one_after_another(split):
    assert split.laying.slider.maximum() == 60
    first = split._apart(split.session.selection.design)
    lifted = [first.plate(index).dy() for index in range(4)]
    split.laying.slider.setValue(20)
    laid = split._apart(split.session.selection.design)
    assert isinstance(laid, ApartView)
    heights = [laid.plate(index).dy() for index in range(4)]
    assert heights[1] > lifted[1]
    assert heights[2:] == pytest.approx(lifted[2:])
    assert split.laying.label.text() == "1 layer laid"


def rows(picker):
    """Return what a picker shows, row by row."""
    table = picker.table
    return [
        tuple(table.item(row, column).text() for column in range(table.columnCount()))
        for row in range(table.rowCount())
        if not table.isRowHidden(row)
    ]


def test_a_card_asks_for_a_film_by_nearness_and_takes_it(split, qtbot, monkeypatch):
    card = split.cards.cards[-1]
    assert card.film.toolTip().startswith("Cream · same colour")
    shown = []

    def second(picker):
        qtbot.waitUntil(lambda: picker.table.item(0, 4).text() != "checking ...")
        shown.extend(rows(picker))
        picker.table.selectRow(1)
        picker.accept()
        return picker.result()

    monkeypatch.setattr(FilmPicker, "exec", second)
    card.film.click()
    assert shown[0] == ("Cream", "smooth heat-transfer", "same colour", "none", "none there")
    assert shown[-1][2] == "poor match"
    qtbot.waitUntil(lambda: split.stack.in_press_order[0].film.id != "cream", timeout=10_000)
    split.session.undo()
    assert split.stack.in_press_order[0].film.id == "cream"


def test_a_pair_is_laid_another_way_and_back_by_the_rules(split):
    way = next(row for card in split.cards.cards for row in card.ways if row.pair is not None)
    assert way.pair.rule.method == "lap"
    assert "lap" in way.way.toolTip()
    way.way.setCurrentIndex(way.way.findData("side-by-side"))
    way.way.activated.emit(0)
    (pair,) = split.stack.pairs
    assert (pair.rule.method, pair.rule.chosen) == ("side-by-side", True)
    way = next(row for card in split.cards.cards for row in card.ways if row.pair is not None)
    way.way.setCurrentIndex(0)
    way.way.activated.emit(0)
    (pair,) = split.stack.pairs
    assert (pair.rule.method, pair.rule.chosen) == ("lap", False)


def test_a_layer_is_pressed_later_and_the_finding_brings_it_back(split, qtbot):
    before = orders(split)
    first = split.cards.cards[-1]
    qtbot.mouseClick(first.later, Qt.MouseButton.LeftButton)
    assert orders(split) != before
    finding = next(one for one in split.session.plan.findings if one.id == "press-order")
    split.session.apply(finding.mend)
    assert orders(split) == before


def test_the_sheet_sets_method_lap_depth_and_spread(demo, split):
    sheet = demo.properties.sheets["split"]
    sheet.method.setCurrentIndex(sheet.method.findData("cut-away"))
    sheet.method.activated.emit(0)
    assert demo.session.job.layers.method == "cut-away"
    sheet.lap.setText("1/16 in")
    sheet.lap.setModified(True)
    sheet.lap.editingFinished.emit()
    assert demo.session.job.layers.lap_mm == pytest.approx(25.4 / 16)
    sheet.most.setValue(2)
    assert split.stack.most_films == 2
    sheet.spread.setCurrentIndex(sheet.spread.findData("outline"))
    sheet.spread.activated.emit(0)
    assert split.stack.box[0] == pytest.approx(-3, abs=0.01)
    sheet.marks.setChecked(True)
    assert demo.session.job.layers.marks


def test_a_place_of_small_detail_is_chosen_and_mended(split, qtbot):
    bars = "".join(f'<rect x="40" y="{y}" width="60" height="0.4" fill="#f4ead5"/>' for y in (20, 40))
    body = f'<rect width="40" height="60" fill="#f4ead5"/>{bars}'
    split.session.show_document(document_of(body, set_placement("x", width_mm=100.0)))
    split.show_page("detail")
    panel = split.details
    assert len(panel.found) == 2
    index = next(k for k, (_, one) in enumerate(panel.found) if one.kind == "stroke")
    row, detail = panel.found[index]
    at = split.to_pixels(*detail.at).toPoint()
    qtbot.mouseClick(split, Qt.MouseButton.LeftButton, pos=at)
    assert split.chosen_detail == panel.list.currentRow()
    panel.list.setCurrentRow(index)
    assert panel.buttons["thicken"].isVisible()
    assert f"{detail.measured_mm:.2f} mm" in panel.head.text()
    before = len(panel.found)
    qtbot.mouseClick(panel.buttons["thicken"], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: len(split.session.job.designs[0].steps) == 1, timeout=20_000)
    qtbot.waitUntil(lambda: len(panel.found) < before, timeout=20_000)
    assert row.film is not None


def test_waste_is_ticked_off_by_keys_and_mouse_and_kept_in_the_job(split, qtbot):
    qtbot.keyClick(split, "4")
    total = len(split.weed.weeding().map.islands)
    for _ in range(3):
        qtbot.keyClick(split, Qt.Key.Key_Space)
    assert split.weed.weeding().state.out == {1, 2, 3}
    assert split.weed.progress.text() == f"3 of {total} out"
    qtbot.keyClick(split, Qt.Key.Key_Backspace)
    assert split.weed.weeding().state.current == 3
    island = split.weed.weeding().map.islands[6]
    qtbot.mouseClick(split, Qt.MouseButton.LeftButton, pos=split._shown.map(_point(island)).toPoint())
    assert 7 in split.weed.weeding().state.out
    qtbot.keyClick(split, Qt.Key.Key_B)
    assert split.weed.back.isChecked()
    qtbot.mouseClick(split, Qt.MouseButton.LeftButton, pos=split._shown.map(_point(island)).toPoint())
    assert 7 not in split.weed.weeding().state.out
    assert len(split.session.job.weeded) == 1
    qtbot.mouseClick(split.weed.anew, Qt.MouseButton.LeftButton)
    assert split.session.job.weeded == ()


def _point(island):
    return QPointF(*island.at)


def test_the_films_page_shows_differences_and_chooses_with_a_click(split, qtbot):
    split.session.apply(choose_film("#e9a53a", "orange"))
    split.show_page("films")
    texts = [label.text() for label in split.films.widget().findChildren(type(split.weed.said))]
    assert any("Orange: fair match" in text for text in texts)
    assert any("contrast to the blank" in text for text in texts)
    buttons = [
        button for button in split.films.widget().findChildren(type(split.weed.anew)) if "Amber" in button.text()
    ]
    qtbot.mouseClick(buttons[0], Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: "amber" in [row.film.id for row in split.stack.layers], timeout=10_000)


def test_pointing_lights_up_the_layer_in_the_flat_view_too(split, qtbot):
    split.show_page("thickness")
    part = max(split.stack.layers[-1].layer.region.geoms, key=lambda one: one.area)
    assert point_at(qtbot, split, *part.representative_point().coords[0]) is not None
    assert split._thickness_said(split.stack).startswith("here 1 film, 0.09 mm")


def test_weeding_at_the_bench_is_driven_by_the_space_bar(demo, split, qtbot):
    demo.menus.bench.trigger()
    bench = demo.benches["weed"]
    assert demo.middle.currentWidget() is bench
    total = len(bench.weeding.map.islands)
    for _ in range(total):
        assert bench.weeding.state.current is not None
        qtbot.keyClick(bench, Qt.Key.Key_Space)
    assert bench.weeding.state.current is None
    assert not bench.grab().isNull()
    qtbot.keyClick(bench, Qt.Key.Key_B)
    assert not bench.from_back
    qtbot.keyClick(bench, Qt.Key.Key_N)
    assert bench.weeding.row.layer.order == 2
    assert not bench.grab().isNull()
    qtbot.keyClick(bench, Qt.Key.Key_F11)
    assert demo.station == "split"
    assert demo.middle.currentIndex() == 0


def test_what_is_seen_through_glass_is_pressed_front_first_on_the_side_away_from_food(demo, split):
    demo.session.apply(choose_blank(BlankSpec(kind="glass-plate", size="one")))
    stack = split.stack
    assert stack.through_glass
    assert stack.layers[0].layer.order == len(stack.layers)
    assert "away from food" in demo.properties.sheets["split"].note.text()
    assert not split.grab().isNull()


def test_a_colour_without_film_is_offered_the_nearest(split, qtbot):
    split.session.apply(choose_film("#e9a53a", "sold-out"))
    split.show_page("films")
    labels = [label.text() for label in split.films.widget().findChildren(type(split.weed.said))]
    assert "#e9a53a · no film yet" in labels
    card = next(card for card in split.cards.cards if "no film" in card.accessibleName())
    assert card.film.text() == "Choose a film ..."
    split.show_page("detail")
    assert all(row.film is not None for row, _ in split.details.found)


def test_films_look_like_what_they_are(split):
    by_id = {film.id: film for film in split.session.workshop.films}
    plain, pattern, glitter = (film_brush(by_id[name]) for name in ("cream", "reed-pattern", "gold-glitter"))
    assert plain.texture().isNull()
    assert plain.color().name() == "#f4ead5"
    for brush in (pattern, glitter):
        picture = brush.texture().toImage()
        colours = {picture.pixelColor(x, y).name() for x in range(0, 60, 3) for y in range(0, 60, 3)}
        assert len(colours) > 2
    # A tile of the pattern is 12 mm wide, as its picture says.
    assert pattern.transform().m11() * pattern.texture().width() == pytest.approx(12.0, abs=0.2)


def test_the_placing_sheet_is_written_from_the_menu(demo, split, qtbot, tmp_path, monkeypatch):
    path = tmp_path / "sheet.pdf"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(path), ""))
    demo.papers.choose(demo.papers.placing_sheet())
    qtbot.waitUntil(path.exists, timeout=20_000)
    assert path.read_bytes().startswith(b"%PDF")
    qtbot.waitUntil(lambda: "placing sheet" in demo.message.text(), timeout=10_000)


def test_a_finding_of_the_layers_shows_its_place_on_the_table(demo, split):
    rim = '<rect width="80" height="60" fill="#d9a63a"/><rect x="0.3" y="10" width="40" height="40" fill="#d62828"/>'
    demo.session.show_document(document_of(rim, choose_film("#d9a63a", "gold-glitter")))
    finding = next(one for one in demo.session.plan.findings if one.id == "sliver")
    demo.session.finding_shown.emit(finding)
    assert demo.station == "split"
    assert (split.page, split.shown_box) == ("thickness", finding.place.box)
    demo.session.apply(finding.mend)
    assert "sliver" not in [one.id for one in demo.session.plan.findings]
