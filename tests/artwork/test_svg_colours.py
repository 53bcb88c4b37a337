"""Colours of CSS Color 4: those of wide spaces too, and none that keeps a file from being opened."""

import pytest

from tests.helpers import svg
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.svg.style import colour

GREENS = [
    "lab(46.2775% -47.5621 48.5837)",
    "lch(46.2775% 67.9892 134.3912)",
    "oklab(51.975% -0.1403 0.10768)",
    "oklch(51.975% 0.17686 142.495)",
    "color(display-p3 0.21604 0.49418 0.13151)",
    "color(a98-rgb 0.281363 0.498012 0.116746)",
    "color(prophoto-rgb 0.230479 0.395789 0.129968)",
    "color(xyz 0.07719 0.15438 0.02573)",
]
"""The same green, rgb(0, 128, 0), as the web platform's own tests of css-color write it; from memory."""


@pytest.mark.parametrize("text", GREENS)
def test_the_same_green_in_every_space(text):
    found, opacity = colour(text)
    channels = [int(found[k : k + 2], 16) for k in (1, 3, 5)]
    assert channels == pytest.approx([0, 128, 0], abs=2)
    assert opacity == 1.0


def test_what_lies_beyond_is_brought_in_and_keeps_its_hue():
    assert colour("color(display-p3 1 0 0)")[0].startswith("#ff")
    assert colour("color(srgb 1 0 0 / 50%)") == ("#ff0000", 0.5)
    assert colour("lab(50% 20 30 / 0.25)")[1] == 0.25
    assert colour("currentColor", "lab(46.2775% -47.5621 48.5837)") == colour(GREENS[0])


@pytest.mark.parametrize(
    "text",
    [
        "rgb(" + "1" * 5000 + " 0 0)",
        "color-mix(in srgb, red, blue)",
        "oklch(1e999 1e999 1e999)",
        "color(made-up 1 2 3)",
        "rgb(from red r g b)",
        "device-cmyk(0 1 0 0)",
        "lab(",
        "(" * 5000,
    ],
)
def test_what_is_no_colour_that_is_known_leaves_the_rest_of_the_file(text):
    found = read_svg(svg(f"<rect width='4' height='4' fill='red'/><rect width='4' height='4' fill='{text}'/>"), "x.svg")
    assert found.shapes[0].fill.colour == "#ff0000"
