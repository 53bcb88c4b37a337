"""Pieces to nest that come as an SVG of one's own."""

import math

import pytest
import shapely

from zinnet.base.errors import NestError, ZinnetError
from zinnet.nesting.from_svg import FLATNESS_MM, pieces_of_svg

PAGE = '<svg xmlns="http://www.w3.org/2000/svg" {head}>{body}</svg>'


def pieces(body, head='width="200mm" height="100mm" viewBox="0 0 200 100"'):
    return pieces_of_svg(PAGE.format(head=head, body=body).encode(), "reeds.svg", turns="any")


def test_each_child_is_a_piece_named_by_its_id_or_its_place():
    reed = '<g id="reed"><rect x="9" width="4" height="60"/></g>'
    found = pieces(f'<rect id="moon" width="30" height="20"/><circle r="10" cx="50" cy="50"/>{reed}')
    assert [piece.name for piece in found] == ["moon", "1", "reed"]
    slack = FLATNESS_MM * 2 * math.pi * 10
    assert [piece.region.area for piece in found] == pytest.approx([600, math.pi * 100, 240], abs=slack)
    assert all(piece.turns == "any" for piece in found)


def test_a_group_with_a_hole_is_one_piece_with_its_hole():
    (piece,) = pieces('<path d="M0 0H40V40H0Z M10 10H30V30H10Z" fill-rule="evenodd"/>')
    assert piece.region.area == pytest.approx(1600 - 400)
    assert not shapely.contains_xy(piece.region, 20, 20)


@pytest.mark.parametrize(
    ("head", "mm"),
    [
        ('width="200mm" viewBox="0 0 200 100" height="100mm"', 1),
        ('width="2in" height="1in" viewBox="0 0 200 100"', 0.254),
        ('width="20cm" height="10cm" viewBox="0 0 100 50"', 2),
        ("", 1),
    ],
)
def test_pieces_are_in_mm_of_the_page(head, mm):
    (piece,) = pieces('<rect width="30" height="20"/>', head)
    assert piece.region.area == pytest.approx(600 * mm**2)


def test_a_piece_without_area_is_named():
    with pytest.raises(NestError, match=r"Piece thread of reeds\.svg encloses no area"):
        pieces('<rect width="9" height="9"/><path id="thread" d="M0 0L30 0" fill="#000000"/>')


def test_a_file_that_is_no_svg_is_refused():
    with pytest.raises(ZinnetError, match=r"reeds\.svg"):
        pieces_of_svg(b"no drawing at all", "reeds.svg", turns="any")
