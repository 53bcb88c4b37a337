"""Text: advances against HarfBuzz asked directly, outlines against FreeType, joining against what touches."""

import os
import random
import string
from itertools import pairwise

import freetype
import numpy as np
import pytest
import shapely
import uharfbuzz
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import cases
from zinnet.artwork.lettering.fonts import (
    characters_of,
    find_font,
    font_family,
    fonts,
    fonts_that_have,
    installed_fonts,
)
from zinnet.artwork.lettering.kerning import kerned
from zinnet.artwork.lettering.text import TextSpec, glyph_region, height_of, refuse_missing, shape_line, text_artwork
from zinnet.artwork.lettering.word import word_regions
from zinnet.artwork.painted import paint_artwork, painted_box
from zinnet.base.errors import ArtworkError
from zinnet.data import path_of
from zinnet.geometry.region import fill, union
from zinnet.placement.arrange import stand_on_arc

STYLES = [(name, style) for name, family in fonts().items() for style in family.styles]


def strings(count, seed=7):
    rng = random.Random(seed)
    letters = string.ascii_letters + string.digits + " .,!&-'" + "äöüéèçñ"
    return ["".join(rng.choice(letters) for _ in range(rng.randint(1, 14))).strip() or "Moth" for _ in range(count)]


def path_to(name, style):
    return str(path_of("fonts", font_family(name).styles[style]))


def drawn_by_freetype(face, glyph):
    """Return a glyph's region in em, y down, by FreeType's own decomposition into points."""
    face.load_glyph(glyph, freetype.FT_LOAD_NO_SCALE | freetype.FT_LOAD_NO_HINTING)
    rings, here = [], []

    def curve(*controls):
        start, t = np.array(here[-1]), np.linspace(0, 1, 65)[1:, None]
        points = [start, *(np.array((p.x, p.y), dtype=float) for p in controls)]
        while len(points) > 1 and points[0].ndim == 1:
            points = [np.repeat(p[None], len(t), 0) for p in points]
        while len(points) > 1:
            points = [(1 - t) * a + t * b for a, b in pairwise(points)]
        here.extend(map(tuple, points[0]))

    def move(to, _):
        nonlocal here
        here = [(to.x, to.y)]
        rings.append(here)

    face.glyph.outline.decompose(
        None,
        move_to=move,
        line_to=lambda to, _: here.append((to.x, to.y)),
        conic_to=lambda a, to, _: curve(a, to),
        cubic_to=lambda a, b, to, _: curve(a, b, to),
    )
    scale = np.array([1, -1]) / face.units_per_EM
    return fill([np.array(ring, dtype=float) * scale for ring in rings], "nonzero")


@pytest.mark.parametrize(("name", "style"), STYLES)
def test_random_strings_have_the_advances_of_harfbuzz_and_the_outlines_of_freetype(name, style):
    """The reference libraries are uharfbuzz, asked directly, and freetype-py."""
    reference = uharfbuzz.Font(uharfbuzz.Face(uharfbuzz.Blob.from_file_path(path_to(name, style))))
    face = freetype.Face(path_to(name, style))
    known = characters_of(name, style)
    seen = {}
    for text in strings(cases(40, 200)):
        text = "".join(letter for letter in text if ord(letter) in known) or "Moth"
        buffer = uharfbuzz.Buffer()
        buffer.add_str(text)
        buffer.guess_segment_properties()
        uharfbuzz.shape(reference, buffer, {})
        glyphs = shape_line(text, name, style)
        assert [glyph.glyph for glyph in glyphs] == [info.codepoint for info in buffer.glyph_infos]
        advances = [position.x_advance / face.units_per_EM for position in buffer.glyph_positions]
        assert [glyph.advance for glyph in glyphs] == pytest.approx(advances)
        assert glyphs[-1].x == pytest.approx(
            sum(advances[:-1]) + buffer.glyph_positions[-1].x_offset / face.units_per_EM
        )
        seen.update({glyph.glyph: glyph for glyph in glyphs})
    for number, glyph in seen.items():
        ours, theirs = glyph_region(glyph), drawn_by_freetype(face, number)
        assert ours.area == pytest.approx(theirs.area, rel=2e-3, abs=1e-6), number
        if not theirs.is_empty:
            assert ours.bounds == pytest.approx(theirs.bounds, abs=1e-3)


def test_there_are_six_families_of_six_kinds_with_their_licences():
    assert len(fonts()) >= 6
    assert len({family.kind for family in fonts().values()}) == len(fonts())
    for family in fonts().values():
        assert "SIL Open Font License" in path_of("fonts", family.licence).read_text(encoding="utf-8")
        for file in family.styles.values():
            assert path_of("fonts", file).stat().st_size > 10_000


@pytest.mark.parametrize("font", ["atkinson", "bitter", "comfortaa", "bebas-neue", "dancing-script"])
def test_kerning_draws_a_pair_together(font):
    apart = sum(glyph.advance for letter in "AV" for glyph in shape_line(letter, font))
    together = sum(glyph.advance for glyph in shape_line("AV", font))
    assert together < apart


def test_letters_are_set_apart_by_what_is_asked_for():
    plain, wide = shape_line("MOTH", "atkinson"), shape_line("MOTH", "atkinson", letter_spacing=0.1)
    assert wide[-1].x - plain[-1].x == pytest.approx(0.3)


@given(st.sampled_from(sorted(fonts())), st.text("LanternWk", min_size=1, max_size=8), st.floats(5, 120), st.booleans())
def test_a_word_is_as_tall_as_asked_for(font, text, height, joined):
    regions = word_regions(TextSpec(text=text, font=font), height_mm=height, joined=joined)
    _, top, _, bottom = shapely.total_bounds(regions)
    assert bottom - top == pytest.approx(height, abs=0.05)


def test_a_joined_script_has_one_outline_for_each_connected_part():
    spec = TextSpec(text="Wrenfield Walk", font="dancing-script")
    apart = word_regions(spec, height_mm=40.0, joined=False)
    joined = word_regions(spec, height_mm=40.0, joined=True)
    assert len(joined) < len(apart)
    assert len(joined) == len(union(apart).geoms)
    for one in joined:
        assert len(one.geoms) == 1
        assert not any(shapely.intersects(one, other) for other in joined if other is not one)
    # The dot of the i stays apart.
    assert min(one.area for one in joined) < 0.05 * max(one.area for one in joined)


def test_lines_stand_below_one_another_and_are_aligned():
    def left_edges(align):
        artwork = text_artwork(TextSpec(text="WWWW\nI", align=align), size_mm=10.0)
        areas = paint_artwork(artwork, 0.01)
        return areas[0].region.bounds[0], areas[-1].region.bounds

    first, (left, top, _, _) = left_edges("left")
    assert left == pytest.approx(first, abs=0.6)
    assert top > 0
    assert left_edges("middle")[1][0] > left
    assert left_edges("right")[1][0] > left_edges("middle")[1][0]


def test_the_height_is_that_of_the_outlines():
    box = painted_box(paint_artwork(text_artwork(TextSpec(text="Mg"), size_mm=100.0), 0.01))
    assert box[3] - box[1] == pytest.approx(100 * height_of("Mg", "atkinson"), abs=0.05)


def test_a_missing_character_is_named_with_the_fonts_that_have_it():
    with pytest.raises(ArtworkError, match="has no “Ω”; these have it: Comfortaa"):
        refuse_missing(TextSpec(text="Moth Ω"))
    with pytest.raises(ArtworkError, match="has no “\U0010fffd”; no font here has it"):
        text_artwork(TextSpec(text="\U0010fffd"))
    remarks = text_artwork(TextSpec(text="Moth Ω")).remarks
    assert [(remark.code, remark.count) for remark in remarks] == [("missing-glyph", 1)]
    assert fonts_that_have("Moth")[: len(fonts())] == tuple(fonts())


@pytest.mark.parametrize(
    ("font", "style", "says"), [("quill", None, "no font “quill”"), ("bitter", "thin", "no style “thin”")]
)
def test_unknown_fonts_and_styles_are_answered_with_the_known(font, style, says):
    with pytest.raises(ArtworkError, match=says):
        shape_line("Moth", font, style)


def test_a_word_stands_on_an_arc():
    letters = word_regions(TextSpec(text="LANTERN"), height_mm=20.0, joined=False)
    laid = stand_on_arc(letters, 200.0)
    assert sum(one.area for one in laid) == pytest.approx(sum(one.area for one in letters))
    tops = [one.bounds[1] for one in laid]
    assert tops.index(min(tops)) == len(tops) // 2


def test_room_before_a_chosen_letter_moves_it_and_those_after_it():
    spec = TextSpec(text="Moth", font="bebas-neue")
    before = boxes(spec)
    width = before[-1][2] - before[0][0]
    spot = ((before[2][0] + before[2][2]) / 2 - before[0][0], 0.3 * width)
    wider = spec.model_copy(update={"kerns": kerned(spec, [spot], width, 0.1)})
    after = boxes(wider)
    assert [round(b[0] - a[0], 6) for a, b in zip(before, after, strict=True)] == [0, 0, 0.1, 0.1]
    assert kerned(spec, [(0.01, 0.3 * width)], width, 0.1) is None


def boxes(spec):
    return [area.region.bounds for area in paint_artwork(text_artwork(spec, size_mm=1.0), 1e-3)]


@given(st.floats(-340, 340).filter(lambda bend: abs(bend) > 20), st.sampled_from(["Moth", "Wrenfield", "LANTERN"]))
def test_the_letters_of_a_bent_text_stand_on_one_circle(bend, words):
    """An arc as long as the text over ``bend`` degrees has the radius length / angle; letters are only turned."""
    straight, bent = (TextSpec(text=words, font="bebas-neue", bend_deg=angle) for angle in (0.0, bend))
    glyphs = shape_line(words, "bebas-neue")
    length = sum(glyph.advance for glyph in glyphs)
    radius, x = length / np.radians(bend), 0.0
    for glyph, flat, turned in zip(glyphs, boxes_of(straight), boxes_of(bent), strict=True):
        angle = (x + glyph.advance / 2 - length / 2) / radius
        foot = np.array([length / 2 + radius * np.sin(angle), radius - radius * np.cos(angle)])
        home = np.array([x + glyph.advance / 2, 0.0])
        reach = [np.hypot(*(np.array(one) - home)) for one in flat]
        now = [np.hypot(*(np.array(one) - foot)) for one in turned]
        assert sorted(now) == pytest.approx(sorted(reach), abs=2e-3)
        x += glyph.advance


def boxes_of(spec):
    return [
        shapely.get_coordinates(area.region).tolist() for area in paint_artwork(text_artwork(spec, size_mm=1.0), 1e-3)
    ]


def test_installed_fonts_are_found_by_name_style_and_characters(tmp_path, monkeypatch):
    folder = tmp_path / "fonts"
    folder.mkdir()
    (folder / "broken.ttf").write_bytes(b"not a font")
    os.mkfifo(folder / "pipe.ttf")
    (folder / "endless.ttf").symlink_to("/dev/zero")
    (folder / "Moth.otf").write_bytes(path_of("fonts", "BebasNeue-Bold.otf").read_bytes())
    monkeypatch.setenv("XDG_DATA_DIRS", str(tmp_path))
    installed_fonts.cache_clear()
    try:
        assert "bebas-neue" in fonts()
        assert all(family.kind == "installed" for family in installed_fonts().values())
        assert find_font("Nonesuch, 'Bebas Neue', serif", bold=True, slanted=False)[::2] == ("bebas-neue", True)
        assert find_font("Nonesuch", bold=False, slanted=False) == ("atkinson", "regular", False)
        assert find_font("cursive", bold=True, slanted=True)[0] == "dancing-script"
    finally:
        installed_fonts.cache_clear()


def test_a_text_in_a_font_that_went_away_is_set_in_the_usual_one_with_a_remark():
    artwork = text_artwork(TextSpec(text="Moth", font="gone"))
    assert len(artwork.shapes) == 4
    assert [remark.message for remark in artwork.remarks] == ["the font gone is not here; set in Atkinson Hyperlegible"]
