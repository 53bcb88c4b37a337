import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import LANTERN, RED_AND_BLUE, svg
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.visible import mix
from zinnet.base.errors import ArtworkError
from zinnet.films.catalogue import catalogue_films, cut_side, nearest_film
from zinnet.layers.build import build_layers
from zinnet.layers.spec import LayersSpec
from zinnet.layers.split import split_artwork


def split(body, width_mm=100.0):
    return split_artwork(read_svg(svg(body), "t"), width_mm=width_mm)


def layers(body, method, attributes='viewBox="0 0 100 100"', **spec):
    """Return the layers as they are cut, one for each colour."""
    found = split_artwork(read_svg(svg(body, attributes), "t"), width_mm=100.0)
    stack = build_layers(found, LayersSpec(method=method, **spec), (), seen="front", share=False)
    return [row.layer for row in stack.layers]


def test_cut_away_films_lie_side_by_side():
    result = split(RED_AND_BLUE)
    red, blue = result.layers
    assert (red.colour, blue.colour) == ("#d62828", "#1f57c3")
    assert (red.order, blue.order) == (1, 2)
    assert red.region.intersection(blue.region).area == pytest.approx(0, abs=1e-6)
    # The box is 80 x 60 units, so one unit is 100 / 80 mm; the disc takes a quarter of itself from the red.
    assert result.height_mm == pytest.approx(75)
    assert red.area_mm2 == pytest.approx((2400 - 3.14159265 * 100) * 1.25**2, rel=1e-3)


def test_stacked_films_go_on_under_the_upper_ones():
    red, blue = layers(RED_AND_BLUE, "stack")
    assert red.area_mm2 == pytest.approx(2400 * 1.25**2, rel=1e-6)
    assert blue.area_mm2 == split(RED_AND_BLUE).layers[1].area_mm2


def test_a_colour_that_comes_again_above_stays_one_layer_and_looks_the_same():
    body = (
        '<rect width="90" height="90" fill="#111"/><circle cx="45" cy="45" r="40" fill="#eee"/>'
        '<circle cx="45" cy="45" r="10" fill="#111"/>'
    )
    for method in ("cut-away", "stack"):
        dark, light = layers(body, method)
        seen_dark = dark.region.difference(light.region)
        assert len(light.region.geoms[0].interiors) == 1
        assert seen_dark.area == pytest.approx(split(body).layers[0].area_mm2, rel=1e-6)


def test_counters_stay_open():
    amber, red = split(LANTERN).layers
    assert len(amber.region.geoms[0].interiors) == 1
    assert red.pieces == 1


def test_a_see_through_shape_is_mixed_with_what_lies_under_it():
    body = (
        '<rect width="50" height="50" fill="#ffffff"/>'
        '<rect x="25" width="50" height="50" fill="#000000" opacity="0.5"/>'
    )
    assert [layer.colour for layer in split(body).layers] == ["#ffffff", "#808080", "#000000"]
    assert mix("#000000", "#ffffff", 0.5) == "#808080"


def test_crossing_and_double_outlines_are_counted():
    crossing = '<circle cx="20" cy="20" r="15" fill="red"/><circle cx="40" cy="20" r="15" fill="red"/>'
    double = '<circle cx="20" cy="20" r="15" fill="red"/><circle cx="20.01" cy="20" r="15" fill="red"/>'
    apart = '<circle cx="20" cy="20" r="9" fill="red"/><circle cx="60" cy="20" r="9" fill="red"/>'
    counts = [(s.crossing_outlines, s.double_outlines) for s in map(split, (crossing, double, apart))]
    assert counts == [(1, 0), (0, 1), (0, 0)]


shapes = st.lists(
    st.tuples(
        st.sampled_from(["#d62828", "#1f57c3", "#f4ead5"]),
        st.integers(0, 80),
        st.integers(0, 80),
        st.integers(3, 40),
        st.sampled_from(["circle", "rect"]),
    ),
    min_size=1,
    max_size=8,
)


@given(shapes, st.sampled_from(["auto", "cut-away", "stack", "lap"]))
def test_painting_the_layers_gives_the_artwork_back(found, method):
    """Compare with a painter that knows nothing of layers: the last shape over a spot gives its colour."""
    body = "".join(
        f'<circle cx="{x}" cy="{y}" r="{r}" fill="{c}"/>' if kind == "circle"
        else f'<rect x="{x}" y="{y}" width="{r}" height="{r}" fill="{c}"/>'
        for c, x, y, r, kind in found
    )  # fmt: skip
    result = split_artwork(read_svg(svg(body, 'viewBox="-50 -50 200 200"'), "t"), width_mm=200)
    stack = build_layers(result, LayersSpec(method=method, lap_mm=3.0), (), seen="front", share=False)
    left, top, width, _ = result.source_box
    unit = 200 / width
    for k in range(150):
        x, y = left + (k * 37 % 149) / 149 * width, top + (k * 61 % 151) / 151 * result.height_mm / unit
        seen = None
        near = False
        for colour, cx, cy, r, kind in found:
            if kind == "circle":
                gap = ((x - cx) ** 2 + (y - cy) ** 2) ** 0.5 - r
            else:
                gap = max(cx - x, x - cx - r, cy - y, y - cy - r)
            near |= abs(gap) < 0.1
            if gap < 0:
                seen = colour
        if near:
            continue
        spot = ((x - left) * unit, (y - top) * unit)
        over = [
            layer.colour for layer in (row.layer for row in stack.layers) if shapely.contains_xy(layer.region, *spot)
        ]
        assert (over[-1] if over else None) == seen


@pytest.mark.parametrize("width", [20.0, 254.0, 900.0])
def test_curves_are_flat_within_two_hundredths_at_final_size(width):
    (layer,) = split('<circle cx="50" cy="50" r="40" fill="red"/>', width_mm=width).layers
    assert layer.region.bounds[2] - layer.region.bounds[0] == pytest.approx(width, abs=0.001)
    circle = shapely.Point(width / 2, width / 2).buffer(width / 2, quad_segs=2000).exterior
    assert shapely.hausdorff_distance(layer.region.geoms[0].exterior, circle) <= 0.021 + width / 1e5


def test_the_nearest_film_and_its_side():
    film, difference = nearest_film("#f3e9d5", catalogue_films())
    assert film.id == "cream"
    assert difference < 1
    by_id = {film.id: film for film in catalogue_films()}
    assert cut_side(by_id["cream"], seen="front").mirrored
    assert not cut_side(by_id["white-adhesive"], seen="front").mirrored
    assert cut_side(by_id["white-adhesive"], seen="through-glass").mirrored


def test_artwork_thinner_than_any_cut_is_refused_with_a_sentence():
    with pytest.raises(ArtworkError, match="nowhere thicker"):
        split('<path d="M0 0H100V80" stroke="red" stroke-width="0.00001" fill="none"/>')
