"""A word through a shape, and an outlined name: judged by shapely alone, on what is asked in mm."""

import random
import string

import numpy as np
import pytest
import shapely

from tests.helpers import cases, svg
from zinnet.artwork.lettering.fonts import fonts
from zinnet.artwork.lettering.outlined_name import OutlinedNameSpec, OutlineRing, outlined_name
from zinnet.artwork.lettering.word_through import WordThroughSpec, crossing, word_through
from zinnet.artwork.silhouettes import SILHOUETTES, silhouette
from zinnet.artwork.source import ArtworkFile, WordThroughArt, artwork_of
from zinnet.base.errors import ArtworkError
from zinnet.layers.split import split_artwork

CASES = cases(8, 50)


def thinner_than(region, width):
    """Return the area of the largest part that a disc of this width can't reach, in squares of the width."""
    core = region.buffer(-width / 2)
    rest = region.difference(shapely.make_valid(core.buffer(width / 2 * 1.02, join_style="mitre")))
    return max((part.area for part in getattr(rest, "geoms", [rest])), default=0.0) / width**2


def random_spec(rng):
    letters = string.ascii_letters + "&"
    return WordThroughSpec(
        word="".join(rng.choice(letters) for _ in range(rng.randint(2, 8))),
        shape=rng.choice(list(SILHOUETTES)),
        font=rng.choice(list(fonts())),
        rows=rng.randint(1, 4),
        cover=rng.uniform(0.35, 0.8),
        reach=rng.uniform(1.0, 1.6),
        gap_mm=rng.uniform(1, 4),
        outline_mm=rng.uniform(1.5, 5),
        least_mm=rng.uniform(0.6, 1.4),
    )


@pytest.mark.parametrize("seed", range(CASES))
def test_random_words_and_shapes_give_disjoint_layers_none_thinner_than_asked_in_one_outline(seed):
    rng = random.Random(seed)
    spec, width = random_spec(rng), rng.uniform(180, 320)
    layers = crossing(spec, width)
    for k, one in enumerate(layers):
        assert one.is_valid
        assert all(shapely.intersection(one, other).area < 1e-6 for other in layers[:k])
        assert thinner_than(one, spec.least_mm * 0.97) < 0.15
    drawn, whole = shapely.union_all(layers[:3]), shapely.union_all(layers)
    assert whole.bounds[2] - whole.bounds[0] == pytest.approx(width, abs=0.1)
    rims = [part.exterior for part in getattr(whole, "geoms", [whole]) if shapely.Polygon(part.exterior).area > 1]
    points = np.concatenate([shapely.get_coordinates(shapely.segmentize(rim, 1.0)) for rim in rims])
    apart = shapely.distance(drawn, shapely.points(points))
    assert (apart - spec.outline_mm).min() > -0.1
    assert np.median(np.abs(apart - spec.outline_mm)) < 0.01, "only where it fills a notch is an outline wider"


def test_the_letters_inside_and_outside_together_are_the_word_and_change_at_the_shapes_edge():
    spec = WordThroughSpec(shape="square", rows=2, cover=0.5, reach=1.4, outline_mm=2.0)
    rest, inside, outside, _ = crossing(spec, 284.0)
    square = shapely.box(0, 0, 200, 200)
    assert shapely.difference(inside, shapely.buffer(square, 1.5)).area < 1
    assert shapely.intersection(outside, shapely.buffer(square, -1.5)).area < 1
    letters = shapely.union_all([inside, outside])
    top, bottom = letters.bounds[1], letters.bounds[3]
    assert (top, bottom) == pytest.approx((50, 150), abs=0.2)
    assert len(rest.geoms) == 2
    assert shapely.distance(rest, letters) == pytest.approx(spec.gap_mm, abs=0.05)


def test_three_or_four_colours_come_out_side_by_side():
    three = split_artwork(word_through(WordThroughSpec(), 250.0), width_mm=250.0)
    spec = WordThroughSpec(outside_colour="#8fd6b4")
    four = split_artwork(word_through(spec, 250.0), width_mm=250.0)
    assert (len(three.layers), len(four.layers)) == (3, 4)
    assert three.crossing_outlines == three.double_outlines == 0


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"rows": 12, "cover": 0.2}, "12 rows in"),
        ({"outline_mm": 0.5, "least_mm": 2.0}, "thinner than the 2 mm"),
        ({"shape": "teapot"}, "no shape “teapot”"),
    ],
)
def test_what_can_not_be_is_said(fields, says):
    with pytest.raises(ArtworkError, match=says):
        crossing(WordThroughSpec(**fields), 200.0)


def test_every_shape_is_one_wide_and_in_one_part():
    for name in SILHOUETTES:
        region = silhouette(name)
        assert region.is_valid
        assert len(region.geoms) == 1
        assert region.bounds[:3] == pytest.approx((0, 0, 1), abs=1e-9)


def test_an_outlined_name_has_its_outlines_as_wide_as_asked():
    rings = OutlineRing(width_mm=2.0), OutlineRing(width_mm=3.5, colour="#f6f1e7")
    spec = OutlinedNameSpec(name="Moth", outlines=rings, second="BAND", least_gap_mm=0.0)
    split = split_artwork(outlined_name(spec, 220.0), width_mm=220.0)
    outer, inner, name = (layer.painted for layer in split.layers)
    assert outer.bounds[2] - outer.bounds[0] == pytest.approx(220.0, abs=0.05)
    for ring, wide in ((inner, 2.0), (outer, 5.5)):
        rim = [shapely.Point(p) for part in ring.geoms for p in part.exterior.segmentize(2).coords]
        assert max(abs(shapely.distance(point, name) - wide) for point in rim) < 0.1
    assert shapely.covers(shapely.buffer(inner, 0.01), name)


def test_a_name_too_narrow_for_its_outlines_is_refused():
    with pytest.raises(ArtworkError, match="too narrow"):
        outlined_name(OutlinedNameSpec(outlines=(OutlineRing(width_mm=20.0),)), 45.0)


def test_a_drawing_that_holds_only_a_picture_is_no_shape_and_that_is_said():
    pixel = "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR4nGNgYPhfDwAChAF/zgG5ZQAAAABJRU5ErkJggg=="
    data = svg(f'<image width="10" height="10" href="data:image/png;base64,{pixel}"/>')
    source = WordThroughArt(word=WordThroughSpec(word="LANTERN"), file=ArtworkFile.of("moth.svg", data))
    with pytest.raises(ArtworkError, match=r"moth\.svg holds only a picture"):
        artwork_of(source)
