"""The page of cutting apart: the ways on a line, the pieces on the drawing, and what the user makes of them."""

import pytest
from PySide6.QtCore import QPointF, Qt

from tests.helpers import document_of, nested
from zinnet.job.edits import set_copies, set_nesting, set_placement

SCATTER = "".join(
    f'<circle cx="{x}" cy="{y}" r="{16 + x % 7}" fill="#e9a53a"/>' for x in (20, 160, 280) for y in (20, 130, 260)
)


@pytest.fixture
def page(window):
    edits = (set_placement("x", width_mm=240.0), set_copies(1))
    document = nested(document_of(SCATTER, *edits, attributes='viewBox="0 0 300 300"'))
    window.session.show_document(document)
    window.go_to("nest")
    window.stations["nest"].show_page("apart")
    return window.stations["nest"].pages["apart"]


def test_the_page_shows_what_is_reckoned_of_each_way(page):
    (film,) = page.session.plan.ways
    assert page.film.ways == film.ways
    assert page.picture.count == len(page.session.plan.garments[0].pieces_of(page._shown()[1]))
    assert str(film.way.pieces) in page.said.text()
    assert f"{film.ways[0].cost - film.way.cost:.2f} saved" in page.said.text()
    assert "laid within" in page.exact.text()
    assert f"{film.ways[0].cost - film.way.cost:.2f} less" in page.note.text()


def test_a_way_is_taken_by_pointing_and_by_the_arrow_keys(page, qtbot):
    chosen = page.film.chosen
    assert chosen > 0
    qtbot.mouseClick(page.line, Qt.MouseButton.LeftButton, pos=page.line.spots()[0].toPoint())
    assert page.film.chosen == 0
    assert page.picture.count == 1
    qtbot.keyClick(page.line, Qt.Key.Key_Right)
    assert page.film.chosen == 1
    page.propose.click()
    assert page.film.chosen == chosen
    assert not page.session.job.nesting.ways
    page.session.undo()
    assert page.film.chosen == 1


@pytest.fixture
def parts(page):
    page.session.apply(set_nesting("in all parts", cut_apart="parts"))
    return page


def test_pieces_are_joined_and_parted_by_hand(parts, qtbot):
    page = parts
    before = page.picture.count
    page.picture.toggle(0)
    page.picture.toggle(1)
    assert page.join.isEnabled()
    qtbot.keyClick(page.picture, Qt.Key.Key_J)
    assert page.picture.count == before - 1
    names = [part.name for nest in page.session.plan.nests for part in nest.parts]
    assert len(names) == before - 1
    joined = next(k for k in range(page.picture.count) if len(page.picture._pieces[k].geoms) == 2)
    page.picture.toggle(joined)
    qtbot.keyClick(page.picture, Qt.Key.Key_P)
    assert page.picture.count == before
    page.session.undo()
    page.session.undo()
    assert page.picture.count == before
    assert not page.session.job.designs[0].steps


def test_a_piece_is_chosen_where_it_is_pointed_at_and_by_the_keys(parts, qtbot):
    page = parts
    world = page.picture._to_pixels()
    middle = page.picture._pieces[2].geoms[0].centroid
    qtbot.mouseClick(page.picture, Qt.MouseButton.LeftButton, pos=world.map(QPointF(middle.x, middle.y)).toPoint())
    assert page.picture.chosen == {2}
    qtbot.keyClick(page.picture, Qt.Key.Key_Right)
    qtbot.keyClick(page.picture, Qt.Key.Key_Space)
    assert page.picture.chosen == {2, 3}


def test_one_piece_can_not_be_parted_and_that_is_said(parts, qtbot):
    page = parts
    said = []
    page.session.said.connect(said.append)
    page.picture.toggle(0)
    page.by_hand(apart=True)
    assert said
    assert "nothing of it can be parted" in said[-1]


def test_the_sheet_cuts_all_whole_or_in_parts(page, window):
    sheet = window.properties.sheets["nest"]
    for way, count in (("whole", 1), ("parts", 9)):
        sheet.apart.setCurrentIndex(sheet.apart.findData(way))
        sheet.apart.activated.emit(sheet.apart.currentIndex())
        assert page.session.job.nesting.cut_apart == way
        assert page.picture.count == count
