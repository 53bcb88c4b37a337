"""A piece is cut again by itself: from the smallest film that holds it, as it is cut in the job."""

import pytest
import shapely

from tests.helpers import RED_AND_BLUE, document_of, nested
from tests.names.test_on_motif import document as names_on_motif  # noqa: F401 - a fixture
from zinnet.base.errors import CutError
from zinnet.bench.document import Document
from zinnet.bench.recut import cut_again
from zinnet.demo import demo_document
from zinnet.geometry.transform import moved
from zinnet.plan.press_cards import Hand
from zinnet.plan.run_garments import run_presses
from zinnet.workshop.stock import StockItem

pytestmark = pytest.mark.usefixtures("nests_here")


def with_stock(document, *items):
    workshop = document.workshop.model_copy(update={"stock": items})
    found = Document(workshop, document.job)
    for key, layout in document.plan.layouts.items():
        found.keep_layout(key, layout)
    return found


def scrap(number, film, width, length, **fields):
    return StockItem(number=number, film=film, kind="scrap", width_mm=width, length_mm=length, **fields)


SIDES = (60, 400, 350, 130)


@pytest.fixture(scope="module")
def stewards():
    return nested(demo_document(name="stewards"))


def hands_of(press):
    return [Hand(piece.key, place) for work in press.works for piece in work.pieces for place in range(len(piece.each))]


def test_each_piece_is_cut_from_the_smallest_scrap_that_holds_it(stewards, tmp_path):
    ((_, press), *_) = run_presses(stewards.plan)
    films = [piece.film.id for work in press.works for piece in work.pieces]
    items = [scrap(k * 10 + n, film, side, side) for k, film in enumerate(films) for n, side in enumerate(SIDES)]
    plan = with_stock(stewards, *items).plan
    for hand in hands_of(press):
        found = cut_again(plan, press, hand)
        piece = next(piece for work in press.works for piece in work.pieces if piece.key == hand.piece)
        assert found.item.film == piece.film.id
        left, top, right, bottom = piece.each[hand.place].bounds
        assert found.item.width_mm == min(side for side in SIDES if max(right - left, bottom - top) <= side - 6)
        assert f"scrap {found.item.number}" in found.said
        (mat,) = found.load.mats
        assert len(mat.layout.placed) == 1
        assert mat.regions[0].area == pytest.approx(piece.each[hand.place].area, rel=1e-6)
        sheet = shapely.box(0, 0, found.item.width_mm, found.item.width_mm)
        assert shapely.within(shapely.union_all(list(mat.regions)), shapely.buffer(sheet, 1e-6))
        paths = found.write(tmp_path, ("svg", "hpgl"))
        assert [path.suffix for path in paths] == [".svg", ".plt"]
        assert all(path.stat().st_size > 100 for path in paths)


def test_it_is_the_piece_as_it_is_cut_in_the_job(stewards):
    ((_, press), *_) = run_presses(stewards.plan)
    for hand in hands_of(press):
        found = cut_again(stewards.plan, press, hand)
        (part,) = found.nest.parts
        assert found.nest.mirrored == part.layer.side.mirrored
        piece = next(piece for work in press.works for piece in work.pieces if piece.key == hand.piece)
        back = moved(part.region, shapely_inverse(stewards.plan.panel_to_cut(part)))
        assert shapely.symmetric_difference(back, piece.each[hand.place]).area < 1e-3


def shapely_inverse(matrix):
    import numpy as np

    return np.linalg.inv(matrix)


def test_without_film_on_the_shelf_new_film_is_asked_for(stewards):
    ((_, press), *_) = run_presses(stewards.plan)
    found = cut_again(with_stock(stewards).plan, press, hands_of(press)[0])
    assert found.item is None
    assert found.load is not None
    assert "nothing on the shelf holds it" in found.said


def test_a_name_is_cut_again_with_its_own_words(names_on_motif):  # noqa: F811
    for name, press in run_presses(names_on_motif.plan):
        for hand in hands_of(press):
            found = cut_again(names_on_motif.plan, press, hand)
            piece = next(piece for work in press.works for piece in work.pieces if piece.key == hand.piece)
            assert found.load.mats[0].regions[0].area == pytest.approx(piece.each[hand.place].area, rel=1e-6), name


def test_a_piece_of_another_job_is_refused(stewards):
    ((_, press), *_) = run_presses(document_of(RED_AND_BLUE).plan)
    with pytest.raises(CutError, match="not cut in this job"):
        cut_again(stewards.plan, press, Hand("9:nothing", 0))
