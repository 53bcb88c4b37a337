"""Films: colour difference and contrast against published values, kinds and films from files."""

import pytest
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import SettingsError, ZinnetError
from zinnet.films.catalogue import (
    by_nearness,
    catalogue_films,
    film_kinds,
    films_of,
    in_words,
)
from zinnet.films.colours import ciede2000, colour_difference, contrast
from zinnet.films.own import films_in_stock, read_films

# Sharma, Wu, Dalal (2005), "The CIEDE2000 color-difference formula", table 1: L1 a1 b1, L2 a2 b2, difference.
PUBLISHED = """
50.0000 2.6772 -79.7751 50.0000 0.0000 -82.7485 2.0425
50.0000 3.1571 -77.2803 50.0000 0.0000 -82.7485 2.8615
50.0000 2.8361 -74.0200 50.0000 0.0000 -82.7485 3.4412
50.0000 -1.3802 -84.2814 50.0000 0.0000 -82.7485 1.0000
50.0000 -1.1848 -84.8006 50.0000 0.0000 -82.7485 1.0000
50.0000 -0.9009 -85.5211 50.0000 0.0000 -82.7485 1.0000
50.0000 0.0000 0.0000 50.0000 -1.0000 2.0000 2.3669
50.0000 -1.0000 2.0000 50.0000 0.0000 0.0000 2.3669
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0009 7.1792
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0010 7.1792
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0011 7.2195
50.0000 2.4900 -0.0010 50.0000 -2.4900 0.0012 7.2195
50.0000 -0.0010 2.4900 50.0000 0.0009 -2.4900 4.8045
50.0000 -0.0010 2.4900 50.0000 0.0010 -2.4900 4.8045
50.0000 -0.0010 2.4900 50.0000 0.0011 -2.4900 4.7461
50.0000 2.5000 0.0000 50.0000 0.0000 -2.5000 4.3065
50.0000 2.5000 0.0000 73.0000 25.0000 -18.0000 27.1492
50.0000 2.5000 0.0000 61.0000 -5.0000 29.0000 22.8977
50.0000 2.5000 0.0000 56.0000 -27.0000 -3.0000 31.9030
50.0000 2.5000 0.0000 58.0000 24.0000 15.0000 19.4535
50.0000 2.5000 0.0000 50.0000 3.1736 0.5854 1.0000
50.0000 2.5000 0.0000 50.0000 3.2972 0.0000 1.0000
50.0000 2.5000 0.0000 50.0000 1.8634 0.5757 1.0000
50.0000 2.5000 0.0000 50.0000 3.2592 0.3350 1.0000
60.2574 -34.0099 36.2677 60.4626 -34.1751 39.4387 1.2644
63.0109 -31.0961 -5.8663 62.8187 -29.7946 -4.0864 1.2630
61.2901 3.7196 -5.3901 61.4292 2.2480 -4.9620 1.8731
35.0831 -44.1164 3.7933 35.0232 -40.0716 1.5901 1.8645
22.7233 20.0904 -46.6940 23.0331 14.9730 -42.5619 2.0373
36.4612 47.8580 18.3852 36.2715 50.5065 21.2231 1.4146
90.8027 -2.0831 1.4410 91.1528 -1.6435 0.0447 1.4441
90.9257 -0.5406 -0.9208 88.6381 -0.8985 -0.7239 1.5381
6.7747 -0.2908 -2.4247 5.8714 -0.0985 -2.2286 0.6377
2.0776 0.0795 -1.1350 0.9033 -0.0636 -0.5514 0.9082
"""
COLOURS = st.integers(0, 0xFFFFFF).map("#{:06x}".format)
ROWS = [tuple(map(float, line.split())) for line in PUBLISHED.split("\n") if line]


@pytest.mark.parametrize("row", ROWS)
def test_the_difference_is_that_of_every_published_pair(row):
    one, other = row[:3], row[3:6]
    assert ciede2000(one, other) == pytest.approx(row[6], abs=6e-5)
    assert ciede2000(other, one) == pytest.approx(row[6], abs=6e-5)


@given(COLOURS, COLOURS)
def test_difference_and_contrast_are_those_of_the_reference_library(one, other):
    first, second = Color(one), Color(other)
    assert colour_difference(one, other) == pytest.approx(first.delta_e(second, method="2000"), abs=1e-4)
    assert contrast(one, other) == pytest.approx(first.contrast(second, method="wcag21"), abs=1e-9)


@pytest.mark.parametrize(
    ("one", "other", "ratio"),
    [
        ("#000000", "#ffffff", 21.0),
        # WCAG 2, understanding 1.4.3: #777777 on white is 4.47:1 and falls short, #767676 is 4.54:1 and is enough.
        ("#777777", "#ffffff", 4.48),
        ("#767676", "#ffffff", 4.54),
        ("#ffffff", "#ffffff", 1.0),
    ],
)
def test_contrast_is_that_of_the_web_guidelines(one, other, ratio):
    assert contrast(one, other) == pytest.approx(ratio, abs=0.01)
    assert contrast(other, one) == contrast(one, other)


def test_films_come_in_the_order_of_nearness_with_words():
    rows = by_nearness("#e9a53a", catalogue_films())
    assert rows[0][0].id == "amber"
    assert [difference for _, difference in rows] == sorted(difference for _, difference in rows)
    assert [in_words(value) for value in (0.5, 3.0, 12.0, 40.0)] == ["same", "near", "visible", "far"]


def test_every_kind_of_the_catalogue_says_all_that_the_work_needs():
    for name, kind in film_kinds().items():
        assert kind.source, name
        assert kind.least_stroke_mm <= kind.least_part_mm, name
        assert kind.heat_c is None or kind.heat_c[0] <= kind.heat_c[1], name
    assert {film.kind for film in catalogue_films()} < set(film_kinds())
    assert not film_kinds()["adhesive"].cut_from_back


OWN = """
[kinds.thick-velvet]
like = "flock"
name = "thick velvet"
thickness_um = 900
source = "my own"
[films.my-night]
name = "My night"
kind = "thick-velvet"
colour = "#101830"
[films.white]
name = "My white"
kind = "smooth"
colour = "#fefefe"
"""


def test_own_films_lie_beside_the_catalogue_and_take_the_place_of_equal_ones(tmp_path, monkeypatch):
    path = tmp_path / "films.toml"
    path.write_text(OWN)
    night, white = read_films(path)
    assert (night.own.thickness_um, night.own.direction, night.own.carries) == (900, True, False)
    assert white.own is None
    monkeypatch.setattr("zinnet.films.own.films_file", lambda: path)
    stock = films_in_stock()
    assert len(stock) == len(catalogue_films()) + 1
    assert next(film for film in stock if film.id == "white").name == "My white"


@pytest.mark.parametrize(
    "text",
    [
        "films = 3",
        "[films]",
        "[films.a]\nname = 'A'\nkind = 'felt'\ncolour = '#000000'",
        "[films.a]\nname = 'A'\nkind = 'smooth'\ncolour = 'black'",
        "[films.a]\nname = 'A'\nkind = 'smooth'\ncolour = '#000000'\nglows = true",
        "[kinds.k]\nlike = 'felt'\n[films.a]\nname = 'A'\nkind = 'k'\ncolour = '#000000'",
        "[kinds.k]\nlike = 'smooth'\nsource = 'x'\nthickness_um = -1\n[films.a]\nname='A'\nkind='k'\ncolour='#000000'",
        "[kinds.k]\nlike = 'smooth'\nsource = 'x'\nleast_gap_mm = nan\n[films.a]\nname='A'\nkind='k'\ncolour='#000000'",
        "[[[",
        "\x00",
    ],
)
def test_a_file_of_films_that_makes_no_sense_is_refused_with_a_sentence(tmp_path, text):
    path = tmp_path / "films.toml"
    path.write_text(text)
    with pytest.raises(SettingsError, match=r"films\.toml"):
        read_films(path)


def test_a_missing_file_is_named_and_too_many_films_are_refused(tmp_path):
    with pytest.raises(SettingsError, match="no file"):
        read_films(tmp_path / "none.toml")
    row = {"name": "A", "kind": "smooth", "colour": "#000000"}
    with pytest.raises(ZinnetError, match="more than"):
        films_of({"films": {f"f{k}": row for k in range(5001)}})
