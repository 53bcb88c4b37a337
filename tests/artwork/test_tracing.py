"""Tracing: pictures drawn by an independent renderer (resvg) from known vectors come back as these vectors."""

import io

import numpy as np
import pytest
import resvg_py
import shapely
from coloraide import Color
from hypothesis import given
from hypothesis import strategies as st
from PIL import Image, ImageDraw

from zinnet.artwork.painted import paint_artwork
from zinnet.artwork.svg.reader import read_svg
from zinnet.artwork.svg.writer import artwork_svg
from zinnet.artwork.tracing.curve_fit import fit_closed
from zinnet.artwork.tracing.palette import to_hex, to_oklab
from zinnet.artwork.tracing.trace import TraceSpec, trace_picture
from zinnet.artwork.visible import visible_patches
from zinnet.base.errors import ArtworkError
from zinnet.geometry.curves import flatten
from zinnet.geometry.region import union

SIDE = 600
MOTIFS = {
    "moon over reeds": (
        '<circle cx="380" cy="200" r="130" fill="#f1c453"/>'
        '<path d="M60 560 C 120 420 150 300 140 120 C 190 300 200 430 170 560 Z" fill="#2f7d5b"/>'
        '<path d="M220 560 C 260 470 300 400 360 360 C 330 430 300 500 290 560 Z" fill="#2f7d5b"/>'
        '<rect x="40" y="555" width="520" height="30" fill="#7a3b2e"/>'
    ),
    "lantern": (
        '<path d="M200 140 H400 L440 220 V480 L400 540 H200 L160 480 V220 Z" fill="#1d3557"/>'
        '<rect x="200" y="230" width="200" height="240" fill="#f4ead5"/>'
        '<path d="M300 260 C 360 340 350 430 300 450 C 250 430 240 340 300 260 Z" fill="#e4573d"/>'
        '<circle cx="300" cy="100" r="45" fill="#1d3557"/><circle cx="300" cy="100" r="22" fill="#f4ead5"/>'
    ),
    "star and drum": (
        '<path d="M300 40 L345 170 L480 170 L372 252 L412 385 L300 305 L188 385 L228 252 L120 170 L255 170 Z"'
        ' fill="#e9a53a"/><ellipse cx="300" cy="500" rx="180" ry="60" fill="#8a2f3c"/>'
        '<ellipse cx="300" cy="480" rx="180" ry="55" fill="#d9c39a"/>'
    ),
    "one disc": '<circle cx="300" cy="300" r="200" fill="#3a7ca5"/>',
    "ring": '<circle cx="300" cy="300" r="190" fill="none" stroke="#3a7ca5" stroke-width="60"/>',
    "letters": '<path d="M80 480 V120 H140 L240 330 L340 120 H400 V480 H340 V240 L260 420 H220 L140 240 V480 Z" '
    'fill="#23304a"/><path d="M440 120 H500 V480 H440 Z" fill="#8fd6b4"/>',
}


def drawn(body, background="#ffffff"):
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {SIDE} {SIDE}" width="{SIDE}">{body}</svg>'
    return svg.encode(), bytes(resvg_py.svg_to_bytes(svg_string=svg, background=background))


def by_colour(artwork):
    found = {}
    for patch in visible_patches(paint_artwork(artwork, 0.02)):
        found.setdefault(patch.colour, []).append(patch.region)
    return {colour: union(regions) for colour, regions in found.items()}


def nodes(artwork):
    """Count the curves that outlines are made of; a stroked circle counts both its edges."""
    return sum(
        len(subpath.cubics) * (2 if shape.stroke is not None else 1)
        for shape in artwork.shapes
        for subpath in shape.subpaths
    )


@pytest.mark.parametrize("name", MOTIFS)
def test_a_picture_of_a_drawing_becomes_that_drawing_again(name):
    source, picture = drawn(MOTIFS[name])
    original, traced = read_svg(source), trace_picture(picture, TraceSpec())
    before, after = by_colour(original), by_colour(traced)
    assert len(after) == len(before)
    for colour, region in before.items():
        near = min(after, key=lambda other: Color(colour).delta_e(Color(other), method="2000"))
        assert Color(colour).delta_e(Color(near), method="2000") < 1
        overlap = shapely.intersection(region, after[near]).area / shapely.union(region, after[near]).area
        assert overlap >= 0.98
    assert nodes(traced) <= 2 * nodes(original)


def test_traced_colours_neither_overlap_nor_leave_gaps():
    _, picture = drawn(MOTIFS["lantern"])
    regions = list(by_colour(trace_picture(picture, TraceSpec())).values())
    whole = union(regions)
    assert abs(sum(region.area for region in regions) - whole.area) < 1e-6 * whole.area
    slots = shapely.difference(shapely.buffer(shapely.buffer(whole, 3), -3), whole)
    assert slots.area < 60


def test_what_is_written_is_read_back():
    _, picture = drawn(MOTIFS["lantern"])
    traced = trace_picture(picture, TraceSpec(life_width_mm=300.0))
    back = read_svg(artwork_svg(traced).encode())
    assert back.mm_per_unit == pytest.approx(0.5)
    one, other = by_colour(traced), by_colour(back)
    assert list(one) == list(other)
    for colour in one:
        assert shapely.symmetric_difference(one[colour], other[colour]).area < 1


def test_the_user_chooses_how_many_colours():
    _, picture = drawn(MOTIFS["moon over reeds"])
    assert [len(trace_picture(picture, TraceSpec(colours=count)).shapes) for count in (1, 2, 3)] == [1, 2, 3]


def test_the_background_stays_where_it_is_asked_for_or_a_colour_is_named():
    _, picture = drawn(MOTIFS["one disc"], background="#204030")
    assert len(trace_picture(picture, TraceSpec()).shapes) == 1
    assert len(trace_picture(picture, TraceSpec(drop_background=False)).shapes) == 2
    named = trace_picture(picture, TraceSpec(background="#3a7ca5"))
    assert [shape.fill.colour for shape in named.shapes] == ["#204030"]


def test_counters_are_background_unless_white_inside_a_motif_is_to_stay():
    _, picture = drawn(MOTIFS["ring"])
    kept = by_colour(trace_picture(picture, TraceSpec(inside_too=False)))
    gone = by_colour(trace_picture(picture, TraceSpec()))
    assert sorted(kept) == ["#3a7ca5", "#ffffff"]
    assert list(gone) == ["#3a7ca5"]
    assert gone["#3a7ca5"].area == pytest.approx(np.pi * (220**2 - 160**2), rel=0.005)


def test_a_see_through_background_is_no_background_to_take_off():
    image = Image.new("RGBA", (300, 300), (0, 0, 0, 0))
    ImageDraw.Draw(image).rectangle((60, 60, 239, 239), fill="#e4573d")
    buffer = io.BytesIO()
    image.save(buffer, "PNG")
    (shape,) = trace_picture(buffer.getvalue(), TraceSpec()).shapes
    assert shape.fill.colour == "#e4573d"
    assert len(shape.subpaths[0].cubics) == 4
    corners = shape.subpaths[0].cubics[:, 0]
    expected = np.array([(60, 60), (240, 60), (240, 240), (60, 240)])
    assert all(np.abs(corners - corner).max(axis=1).min() < 0.4 for corner in expected)


def test_specks_are_dropped_by_their_size():
    source = MOTIFS["one disc"] + '<circle cx="60" cy="60" r="5" fill="#3a7ca5"/>'
    _, picture = drawn(source)
    few, many = (trace_picture(picture, TraceSpec(speck_px=least)) for least in (200.0, 12.0))
    assert (len(few.shapes[0].subpaths), len(many.shapes[0].subpaths)) == (1, 2)


def test_a_noisy_photo_of_flat_colours_gives_these_colours():
    rng = np.random.default_rng(4)
    _, picture = drawn(MOTIFS["lantern"])
    pixels = np.asarray(Image.open(io.BytesIO(picture)).convert("RGB")).astype(float)
    noisy = Image.fromarray(np.clip(pixels + rng.normal(0, 6, pixels.shape), 0, 255).astype(np.uint8))
    buffer = io.BytesIO()
    noisy.save(buffer, "JPEG", quality=88)
    after = by_colour(trace_picture(buffer.getvalue(), TraceSpec(colours=3)))
    before = by_colour(read_svg(drawn(MOTIFS["lantern"])[0]))
    for colour, region in before.items():
        near = min(after, key=lambda other: Color(colour).delta_e(Color(other), method="2000"))
        assert shapely.intersection(region, after[near]).area / shapely.union(region, after[near]).area > 0.97


def test_oklab_is_that_of_coloraide():
    rng = np.random.default_rng(1)
    for rgb in rng.integers(0, 256, (50, 3), dtype=np.uint8):
        text = "#{:02x}{:02x}{:02x}".format(*rgb)
        lab = to_oklab(rgb[None])[0]
        assert np.allclose(lab, Color(text).convert("oklab").coords(), atol=2e-4)
        assert to_hex(lab) == text


@given(
    st.lists(st.floats(0.6, 1.4), min_size=5, max_size=9),
    st.floats(60, 300),
)
def test_a_fitted_outline_stays_near_its_points(radii, size):
    """Corners may be sharpened by up to 1.6 pixels; between them the tolerance holds."""
    angles = np.linspace(0, 2 * np.pi, len(radii), endpoint=False)
    corners = np.stack([np.cos(angles), np.sin(angles)], axis=1) * np.array(radii)[:, None] * size
    ring = shapely.get_coordinates(shapely.segmentize(shapely.Polygon(corners).exterior, 0.7))
    fitted = shapely.LineString(flatten(fit_closed(ring, 0.4), 0.02))
    assert shapely.distance(shapely.points(ring), fitted).max() < 1.7
    assert abs(shapely.Polygon(fitted.coords).area - shapely.Polygon(ring).area) < 0.5 * shapely.length(fitted)


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"moth", "not a PNG, JPEG or WebP"),
        (b"\x89PNG\r\n\x1a\nnothing", "can't be read as PNG"),
        (b"\xff\xd8\xff\xe0broken", "can't be read as JPEG"),
        (b"RIFF\x00\x00\x00\x00WEBPVP8 ", "can't be read as WebP"),
    ],
)
def test_bad_pictures_are_refused_with_a_sentence(data, says):
    with pytest.raises(ArtworkError, match=says):
        trace_picture(data, TraceSpec(), "moth.png")


def test_a_tiny_a_blank_and_a_huge_picture_are_refused_with_a_sentence():
    def png(size, colour="#ffffff"):
        buffer = io.BytesIO()
        Image.new("1" if size[0] > 5000 else "RGB", size, 1 if size[0] > 5000 else colour).save(buffer, "PNG")
        return buffer.getvalue()

    with pytest.raises(ArtworkError, match="too small"):
        trace_picture(png((3, 3)), TraceSpec())
    with pytest.raises(ArtworkError, match="counts as background"):
        trace_picture(png((50, 50)), TraceSpec())
    with pytest.raises(ArtworkError, match=r"9000 pixels|too large"):
        trace_picture(png((9000, 9000)), TraceSpec())
