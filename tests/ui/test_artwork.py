"""The Artwork station: what came in, steps on parts that are pointed at, tracing, texts and assistants."""

import io

import pytest
import shapely
from PIL import Image, ImageDraw
from PySide6.QtCore import QPoint, Qt
from PySide6.QtWidgets import QComboBox, QLineEdit, QPlainTextEdit, QSpinBox

from tests.helpers import first_of
from tests.ui.conftest import offered
from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec
from zinnet.artwork.lettering.word_through import WordThroughSpec
from zinnet.artwork.source import OutlinedNameArt, PictureArt, WordThroughArt, source_of
from zinnet.blanks.catalogue import read_blank_name
from zinnet.data import read_bytes
from zinnet.job.edits import choose_blank, set_source
from zinnet.steps import model
from zinnet.ui.new_designs import new_text


@pytest.fixture
def artwork(demo, qtbot):
    demo.go_to("artwork")
    qtbot.wait(30)
    return demo.stations["artwork"]


def settled(window, qtbot):
    qtbot.waitUntil(lambda: not window.session.is_working, timeout=30_000)


def click_part(station, qtbot, colour):
    """Click in the middle of the largest part of a colour."""
    layer = next(one for one in station.split.layers if one.colour == colour)
    part = max(layer.region.geoms, key=lambda one: one.area)
    spot = shapely.maximum_inscribed_circle(part).coords[0]
    qtbot.mouseClick(station, Qt.MouseButton.LeftButton, pos=station.to_pixels(*spot).toPoint())
    return part


def first_colour(station):
    return station.split.layers[0].colour


def pieces(window):
    return sum(layer.pieces for layer in first_of(window.session.plan).split.layers)


def test_parts_are_chosen_by_clicking_and_dropped_and_come_back(artwork, demo, qtbot):
    before, size = (
        pieces(demo),
        shapely.area(first_of(demo.session.plan).split.silhouette) / first_of(demo.session.plan).split.width_mm ** 2,
    )
    click_part(artwork, qtbot, first_colour(artwork))
    assert len(artwork.parts.points) == 1
    qtbot.keyClick(artwork, Qt.Key.Key_Delete)
    settled(demo, qtbot)
    assert demo.session.document.undo_name == "delete parts"
    split = first_of(demo.session.plan).split
    assert shapely.area(split.silhouette) / split.width_mm**2 < 0.95 * size
    demo.session.undo()
    assert pieces(demo) == before


def test_a_second_click_gives_a_part_up_and_one_beside_all_parts_gives_up_all(artwork, qtbot):
    colour = first_colour(artwork)
    click_part(artwork, qtbot, colour)
    click_part(artwork, qtbot, colour)
    assert artwork.parts.points == []
    click_part(artwork, qtbot, colour)
    qtbot.mouseClick(artwork, Qt.MouseButton.LeftButton, pos=QPoint(8, artwork.height() - 8))
    assert artwork.parts.points == []


def test_a_double_click_chooses_a_colour_and_a_step_acts_on_all_of_it(artwork, demo, qtbot):
    colour = first_colour(artwork)
    part = max(artwork.split.layers[0].region.geoms, key=lambda one: one.area)
    spot = artwork.to_pixels(*shapely.maximum_inscribed_circle(part).coords[0]).toPoint()
    qtbot.mouseDClick(artwork, Qt.MouseButton.LeftButton, pos=spot)
    assert artwork.parts.colour == colour
    artwork.do_step(model.Recolour)
    settled(demo, qtbot)
    step = demo.session.job.designs[0].steps[0]
    assert step.which.colours == (colour,)
    assert colour not in [layer.colour for layer in artwork.split.layers]
    assert not artwork.has_choice


def band(station, qtbot, first, last, modifier=Qt.KeyboardModifier.NoModifier):
    """Draw a frame from one place of the artwork to another, both in mm."""
    start, end = station.to_pixels(*first).toPoint(), station.to_pixels(*last).toPoint()
    qtbot.mousePress(station, Qt.MouseButton.LeftButton, pos=start)
    for share in (0.3, 0.7, 1.0):
        qtbot.mouseMove(station, start + (end - start) * share)
    qtbot.mouseRelease(station, Qt.MouseButton.LeftButton, modifier, pos=end)


def chosen_areas(station):
    return sorted(part.area for part in station.parts.region(station.split).geoms)


def test_a_frame_chooses_what_it_holds_and_shift_adds_to_it(artwork, qtbot):
    left, top, right, bottom = artwork.split.bounds
    middle = (top + bottom) / 2
    parts = [part for layer in artwork.split.layers for part in layer.region.geoms]
    upper = sorted(part.area for part in parts if part.bounds[3] <= middle)
    lower = sorted(part.area for part in parts if part.bounds[1] >= middle)
    assert upper
    assert lower
    band(artwork, qtbot, (left - 3, top - 3), (right + 3, middle))
    assert chosen_areas(artwork) == pytest.approx(upper)
    band(artwork, qtbot, (left - 3, bottom + 3), (right + 3, middle), Qt.KeyboardModifier.ShiftModifier)
    assert chosen_areas(artwork) == pytest.approx(sorted([*upper, *lower]))
    band(artwork, qtbot, (left - 3, bottom + 3), (right + 3, middle))
    assert chosen_areas(artwork) == pytest.approx(lower)


def test_all_parts_and_all_the_others_are_chosen_by_key(artwork, demo, qtbot):
    count = sum(layer.pieces for layer in artwork.split.layers)
    qtbot.keyClick(demo, Qt.Key.Key_A, Qt.KeyboardModifier.ControlModifier)
    assert len(artwork.parts.points) == len(chosen_areas(artwork)) == count
    click_part(artwork, qtbot, first_colour(artwork))
    assert len(chosen_areas(artwork)) == count - 1
    demo.menus._artwork().choose_others()
    assert len(chosen_areas(artwork)) == 1
    qtbot.keyClick(artwork, Qt.Key.Key_Delete)
    settled(demo, qtbot)
    assert demo.session.document.undo_name == "delete parts"


def test_a_step_that_needs_parts_says_so(artwork, demo):
    artwork.do_step(model.Keep)
    assert "Click the parts" in demo.message.text()


@pytest.mark.long
def test_a_step_is_changed_in_its_form_moved_and_taken_out(artwork, demo, qtbot):
    artwork.do_step(model.Outline)
    settled(demo, qtbot)
    artwork.do_step(model.ReduceColours)
    settled(demo, qtbot)
    outline = artwork.cards.forms[1]
    field = outline.fields["width_mm"]
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "5 mm")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    settled(demo, qtbot)
    steps = demo.session.job.designs[0].steps
    assert (steps[0].kind, steps[0].width_mm, steps[1].kind) == ("outline", 5.0, "reduce-colours")
    buttons = [b for b in artwork.cards.findChildren(type(artwork.cards.add)) if b.text() == "Take out"]
    qtbot.mouseClick(buttons[0], Qt.MouseButton.LeftButton)
    settled(demo, qtbot)
    assert [step.kind for step in demo.session.job.designs[0].steps] == ["reduce-colours"]
    demo.session.undo()
    assert len(demo.session.job.designs[0].steps) == 2


def test_a_refused_step_leaves_all_as_it_was(artwork, demo, qtbot):
    before = demo.session.job
    artwork.do_step(model.RemoveSpecks)
    settled(demo, qtbot)
    form = artwork.cards.forms[1]
    form.fields["least_mm2"].setValue(10_000)
    settled(demo, qtbot)
    assert "leaves nothing" in demo.message.text()
    assert demo.session.job.designs[0].steps[0].least_mm2 == 4.0
    demo.session.undo()
    assert demo.session.job == before


def test_the_report_says_what_came_in(artwork, demo):
    sheet = demo.properties.sheets["artwork"]
    assert sheet.name.text() == "moth-and-lantern.svg"
    assert "shapes" in sheet.found.text()
    assert "not stated" in sheet.own_size.text()


def picture_file(folder):
    image = Image.new("RGB", (240, 200), "#ffffff")
    draw = ImageDraw.Draw(image)
    draw.ellipse((20, 20, 180, 180), fill="#1d3557")
    draw.rectangle((70, 70, 130, 130), fill="#e4573d")
    path = folder / "moon.png"
    buffer = io.BytesIO()
    image.save(buffer, "PNG")
    path.write_bytes(buffer.getvalue())
    return path


def test_a_picture_is_traced_and_its_colours_are_chosen(window, qtbot, tmp_path):
    window.files.opener.open_path(picture_file(tmp_path))
    qtbot.waitUntil(lambda: window.session.has_artwork, timeout=20_000)
    window.go_to("artwork")
    station = window.stations["artwork"]
    assert isinstance(window.session.job.designs[0].source, PictureArt)
    assert len(station.split.layers) == 2
    assert station.traced_picture() is not None
    colours = station.cards.forms[0].fields["colours"]
    assert isinstance(colours, QSpinBox)
    colours.setValue(1)
    settled(window, qtbot)
    assert len(station.split.layers) == 1


def test_a_text_is_typed_and_set_in_another_font_and_stays_editable(window, qtbot):
    window.begin_design(new_text(window.session))
    settled(window, qtbot)
    station = window.stations["artwork"]
    assert window.station == "artwork"
    form = station.cards.forms[0]
    words, chosen = form.fields["text"], form.fields["font"]
    assert isinstance(words, QPlainTextEdit)
    assert isinstance(chosen, QComboBox)
    words.setPlainText("Moth")
    settled(window, qtbot)
    before = station.split.height_mm / station.split.width_mm
    chosen.setCurrentIndex(chosen.findData("bebas-neue"))
    chosen.activated.emit(chosen.currentIndex())
    settled(window, qtbot)
    assert (window.session.job.designs[0].source.text.text, window.session.job.designs[0].source.text.font) == (
        "Moth",
        "bebas-neue",
    )
    assert station.split.height_mm / station.split.width_mm != pytest.approx(before)


@pytest.mark.proven
def test_a_letter_that_is_lacking_is_a_stop_whose_mend_takes_another_font(window, qtbot):
    window.begin_design(new_text(window.session))
    settled(window, qtbot)
    window.stations["artwork"].cards.forms[0].fields["text"].setPlainText("Moth Ω")
    settled(window, qtbot)
    card = window.findings.card("missing-glyph")
    assert card.finding.level == "stop"
    qtbot.mouseClick(offered(qtbot, window, "missing-glyph"), Qt.MouseButton.LeftButton)
    assert window.findings.card("missing-glyph") is None


@pytest.mark.long
def test_a_word_through_a_shape_and_an_outlined_name_are_made_and_changed(window, qtbot):
    window.begin_design(WordThroughArt(word=WordThroughSpec(rows=2)))
    settled(window, qtbot)
    station = window.stations["artwork"]
    assert len(station.split.layers) == 3
    word = station.cards.forms[0].fields["word"]
    assert isinstance(word, QLineEdit)
    word.setFocus()
    word.selectAll()
    qtbot.keyClicks(word, "REED")
    settled(window, qtbot)
    assert window.session.job.designs[0].source.word.word == "REED"
    window.begin_design(OutlinedNameArt(name=OutlinedNameSpec()))
    settled(window, qtbot)
    assert window.session.selection.design.index == 1
    assert len(station.split.layers) == 2
    more = next(b for b in station.cards.findChildren(type(station.cards.add)) if b.text() == "One outline more")
    qtbot.mouseClick(more, Qt.MouseButton.LeftButton)
    settled(window, qtbot)
    assert len(window.session.job.designs[1].source.name.outlines) == 2


def test_the_menu_offers_every_step_with_its_tip(artwork):
    actions = [action for part in artwork.cards.add.menu().actions() for action in part.menu().actions()]
    assert len(actions) == len(model.NAMES)
    assert all(len(action.toolTip()) > 10 for action in actions)


@pytest.mark.long
def test_the_width_of_a_design_with_steps_is_typed_and_its_steps_keep_their_lengths(artwork, demo, qtbot):
    artwork.do_step(model.Outline)
    settled(demo, qtbot)
    assert demo.session.set_fit("width", width_mm=180.0)
    assert demo.session.set_fit("width", width_mm=150.0)
    settled(demo, qtbot)
    split = first_of(demo.session.plan).split
    assert split.width_mm == 150.0
    outline, *rest = split.layers
    inner = shapely.union_all([layer.region for layer in rest])
    assert outline.region.bounds[0] == pytest.approx(0, abs=0.05)
    assert inner.bounds[0] == pytest.approx(3.0, abs=0.1)


def test_marked_letters_take_another_font_and_the_rest_stays(window, qtbot):
    window.begin_design(new_text(window.session))
    window.go_to("artwork")
    settled(window, qtbot)
    form = window.stations["artwork"].cards.forms[0]
    words, chosen = form.fields["text"], form.fields["font"]
    assert isinstance(words, QPlainTextEdit)
    assert isinstance(chosen, QComboBox)
    cursor = words.textCursor()
    cursor.setPosition(4)
    cursor.movePosition(cursor.MoveOperation.Right, cursor.MoveMode.KeepAnchor, 5)
    words.setTextCursor(cursor)
    chosen.setCurrentIndex(chosen.findData("bitter"))
    chosen.activated.emit(chosen.currentIndex())
    settled(window, qtbot)
    text = window.session.job.designs[0].source.text
    assert text.font == "dancing-script"
    assert [(run.letter, run.count, run.font) for run in text.runs] == [(4, 5, "bitter")]
    assert chosen.currentData() == "bitter"
    cursor.clearSelection()
    words.setTextCursor(cursor)
    assert chosen.currentData() == "dancing-script"


def test_a_picture_for_a_print_stays_one_until_it_is_to_be_traced(demo, qtbot):
    demo.session.apply(choose_blank(read_blank_name("mug")))
    demo.session.apply(set_source("photo", source_of("lantern-photo.jpg", read_bytes("demo", "lantern-photo.jpg"))))
    demo.go_to("artwork")
    station = demo.stations["artwork"]
    form = station.cards.forms[0]
    assert demo.session.selection.design.artwork.whole_picture
    assert station.traced_picture() is None
    assert form.fields["taken"].isVisibleTo(form)
    assert not form.fields["tolerance"].isVisibleTo(form)
    middle = station.grab().toImage().pixelColor(*station_middle(station))
    assert middle.hueF() < 0.2, "the flame itself, not the mean colour of the picture"
    taken = form.fields["taken"]
    taken.setCurrentIndex(taken.findData("traced"))
    taken.activated.emit(taken.currentIndex())
    qtbot.waitUntil(lambda: not demo.session.selection.design.artwork.whole_picture, timeout=30_000)
    qtbot.waitUntil(lambda: not demo.session.is_working)
    assert station.traced_picture() is not None
    assert form.fields["tolerance"].isVisibleTo(form)


def station_middle(station):
    left, top, right, bottom = station.split.bounds
    spot = station.to_pixels((left + right) / 2, (top + bottom) / 2)
    return round(spot.x()), round(spot.y())
