"""What is copied elsewhere comes to the table, whatever it is; artwork that meets other artwork is asked about."""

import pytest
from PySide6.QtCore import QMimeData, QPoint, Qt, QUrl
from PySide6.QtGui import QColor, QGuiApplication, QImage, QPainter
from PySide6.QtTest import QTest

from tests.helpers import RED_AND_BLUE, svg
from zinnet.artwork.source import source_name
from zinnet.ui import job_files

CTRL = Qt.KeyboardModifier.ControlModifier
SVG = svg(RED_AND_BLUE)


def copied(**kinds):
    """Put something on the clipboard."""
    mime = QMimeData()
    if "text" in kinds:
        mime.setText(kinds["text"])
    if "svg" in kinds:
        mime.setData("image/svg+xml", kinds["svg"])
    if "image" in kinds:
        mime.setImageData(kinds["image"])
    if "files" in kinds:
        mime.setUrls([QUrl.fromLocalFile(str(path)) for path in kinds["files"]])
    QGuiApplication.clipboard().setMimeData(mime)


def picture():
    image = QImage(160, 120, QImage.Format.Format_RGB32)
    image.fill(QColor("#ffffff"))
    with QPainter(image) as painter:
        painter.fillRect(30, 20, 90, 70, QColor("#d62828"))
    return image


def paste(window):
    window.table.currentWidget().setFocus()
    QTest.keyClick(window, Qt.Key.Key_V, CTRL)


def names(window):
    return [source_name(design.source) for design in window.session.job.designs]


@pytest.mark.parametrize(
    ("kinds", "name"),
    [
        ({"svg": SVG}, "pasted.svg"),
        ({"text": SVG.decode()}, "pasted.svg"),
        ({"image": picture()}, "pasted.png"),
        ({"text": "Lantern Walk"}, "Lantern Walk"),
        ({"text": "two\nlines"}, "two lines"),
    ],
    ids=["svg", "svg as text", "picture", "words", "lines"],
)
def test_a_drawing_a_picture_and_words_are_pasted(window, qtbot, kinds, name):
    copied(**kinds)
    paste(window)
    qtbot.waitUntil(lambda: names(window) == [name])
    qtbot.waitUntil(lambda: bool(window.session.plan.garments[0].designs[0].layers))


def test_a_list_of_names_is_pasted_as_names(window, qtbot):
    copied(text="name\tsize\nOdile\tadult S\nBram\tadult L\n")
    paste(window)
    qtbot.waitUntil(lambda: len(window.session.plan.named) == 2)
    assert window.table.currentWidget() is window.full_pages["names"]


def test_several_files_are_pasted_as_designs_of_one_job(window, qtbot, tmp_path):
    files = [tmp_path / "moon.svg", tmp_path / "reed.svg"]
    for file in files:
        file.write_bytes(SVG)
    copied(files=files)
    paste(window)
    qtbot.waitUntil(lambda: len(window.session.job.designs) == 2)
    assert sorted(names(window)) == ["moon.svg", "reed.svg"]


def test_a_file_of_names_is_taken_as_names(window, qtbot, tmp_path):
    (tmp_path / "crew.csv").write_text("name\nOdile\nBram\n")
    copied(files=[tmp_path / "crew.csv"])
    paste(window)
    qtbot.waitUntil(lambda: len(window.session.plan.named) == 2)


@pytest.mark.parametrize(
    ("answer", "found"),
    [
        ("besides", ["first.svg", "pasted.svg"]),
        ("instead", ["pasted.svg"]),
        ("new", ["pasted.svg"]),
        (None, ["first.svg"]),
    ],
)
def test_with_artwork_on_the_table_it_is_asked_where_more_belongs(window, qtbot, monkeypatch, answer, found):
    window.files.opener.open_data("first.svg", SVG)
    qtbot.waitUntil(lambda: names(window) == ["first.svg"])
    before = window.session.document
    before.saved = window.session.job
    asked = []
    monkeypatch.setattr(job_files, "ask_where_to", lambda over, called: asked.append(called) or answer)
    copied(svg=SVG)
    paste(window)
    qtbot.waitUntil(lambda: bool(asked) and names(window) == found)
    assert (window.session.document is before) == (answer != "new")


def test_nothing_that_is_of_use_is_said_so(window, qtbot):
    copied(text="  ")
    paste(window)
    qtbot.waitUntil(lambda: "Nothing was copied" in window.message.text())
    assert not window.session.has_artwork


def test_a_hostile_drawing_is_refused_in_a_sentence_and_all_stays(window, qtbot):
    copied(
        text='<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaa">]><svg xmlns="http://www.w3.org/2000/svg">&a;</svg>'
    )
    paste(window)
    qtbot.waitUntil(lambda: window.message.isVisible())
    assert not window.session.has_artwork


def test_a_picture_of_the_garment_is_copied(demo, qtbot):
    QGuiApplication.clipboard().clear()
    demo.view.setFocus()
    QTest.keyClick(demo, Qt.Key.Key_C, CTRL)
    image = QGuiApplication.clipboard().image()
    left, top, right, bottom = demo.session.selection.garment.blank.main.bounds
    assert image.width() / image.height() == pytest.approx((right - left) / (bottom - top), rel=0.01)
    cloth = QColor(demo.session.plan.blank.colour)
    seen = image.pixelColor(image.width() // 2, image.height() - 60)
    assert max(abs(seen.red() - cloth.red()), abs(seen.blue() - cloth.blue())) < 12


def test_a_picture_of_one_layer_is_copied_in_its_film(demo, qtbot):
    demo.menus.fill_layers()
    stack = demo.session.selection.stack
    assert len(demo.menus.layers.actions()) == len(stack.in_press_order)
    row = stack.in_press_order[-1]
    demo.menus.layers.actions()[-1].trigger()
    image = QGuiApplication.clipboard().image()
    left, top, right, bottom = row.layer.region.bounds
    scale = 1200 / max(right - left, bottom - top)
    spot = max(row.layer.region.geoms, key=lambda part: part.area).representative_point()
    pixel = QPoint(int((spot.x - left) * scale), int((spot.y - top) * scale))
    assert image.pixelColor(pixel).name() == row.film.colour
    clear = [
        image.pixelColor(x, y).alpha() == 0 for x in range(0, image.width(), 7) for y in range(0, image.height(), 7)
    ]
    share = 1 - row.layer.region.area / ((right - left) * (bottom - top))
    assert sum(clear) / len(clear) == pytest.approx(share, abs=0.03)


def test_keys_of_the_clipboard_stay_with_a_field_that_is_typed_in(window):
    title = window.card.form.title
    title.setFocus()
    copied(text="Reed band")
    QTest.keyClick(title, Qt.Key.Key_V, CTRL)
    assert title.text() == "Reed band"
    assert not window.session.has_artwork
