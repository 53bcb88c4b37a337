"""Short texts that kept the readers busy for ever: each is read or refused, and no part of it twice."""

import contextlib

import pytest

from tests.helpers import svg
from zinnet.artwork.svg.path_data import read_path
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.svg.transform_list import parse_transform
from zinnet.base.errors import ArtworkError

DIGITS = "1" * 40_000
PATHS = {
    "an arc of digits alone": "M0 0A" + "2" * 400,
    "an arc that never comes to its flags": "M0 0A" + "2" * 400 + "x",
    "an arc of a long number": f"M0 0A{DIGITS} 5",
    "a line of a long number": f"M0 0L{DIGITS}x",
    "commas and blanks": "M0 0L" + " , " * 20_000 + "x",
    "points without digits": "M0 0L" + "." * 40_000,
    "signs": "M0 0L" + "+-" * 20_000,
    "exponents": "M0 0L" + "1e" * 20_000,
}


@pytest.mark.parametrize("name", PATHS)
def test_a_path_is_read_to_its_error(name):
    subpaths, whole = read_path(PATHS[name])
    assert not whole
    assert all(len(subpath.cubics) <= 1 for subpath in subpaths)


@pytest.mark.parametrize(
    "text", ["scale(" + DIGITS + "x)", "scale" * 10_000, "translate(" + " , " * 20_000 + ")", "(" * 40_000]
)
def test_a_transform_is_read_or_refused(text):
    assert parse_transform(text) is None


@pytest.mark.parametrize(
    "body",
    [
        f"<polygon points='{DIGITS}' fill='red'/>",
        f"<polygon points='{'* ' * 20_000}' fill='red'/>",
        f"<rect width='{DIGITS}' height='4' fill='red'/>",
        f"<rect width='{' ' * 40_000}x' height='4' fill='red'/>",
        f"<rect width='4' height='4' fill='url({'#' * 40_000}'/>",
        f"<rect width='4' height='4' fill='rgb({'1' * 40_000}'/>",
        f"<rect width='4' height='4' stroke='red' stroke-dasharray='{'1,' * 20_000}'/>",
    ],
)
def test_an_attribute_is_read_or_left(body):
    with contextlib.suppress(ArtworkError):
        read_svg(svg(body), "endless.svg")


def test_arcs_are_read_as_before_however_tightly_they_are_written():
    for data in ("M0 0a10 10 0 1 1 20 0", "M0 0a10,10,0,1,1,20,0", "M0 0a10 10 0 1120 0", "M0 0a10-10 0 0110.5.5"):
        subpaths, whole = read_path(data)
        assert whole, data
        assert len(subpaths) == 1
