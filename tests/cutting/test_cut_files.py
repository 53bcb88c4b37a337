"""Cut files, read back by readers of the tests' own."""

import io

import numpy as np
import pytest
import shapely
from PIL import Image

from tests.helpers import LANTERN, document_of, nested, outlines_in_hpgl, outlines_in_svg
from zinnet.base.errors import CutError
from zinnet.blanks.catalogue import read_blank_name
from zinnet.cutting.hpgl import cut_hpgl
from zinnet.cutting.order import in_cutting_order
from zinnet.cutting.paths import CutSheet, Shape, file_order
from zinnet.cutting.svg_file import cut_svg
from zinnet.geometry.region import Region
from zinnet.job.edits import (
    choose_blank,
    choose_film,
    join_outlines,
    override_side,
    pass_finding,
    set_nesting,
    set_placement,
)
from zinnet.output.cut_files import write_cut_files

LETTER = '<path d="M0 0H60V12H14V34H44V46H14V90H0Z" fill="#d62828"/>'
RINGS = Region(
    [
        shapely.box(10, 10, 90, 90).difference(shapely.box(20, 20, 80, 80)),
        shapely.box(30, 30, 70, 70).difference(shapely.box(40, 40, 60, 60)),
        shapely.box(45, 45, 55, 55),
    ]
)


def sheet_of(*pieces):
    """Return pieces (name, region) on a mat of 100 x 100 mm, in the order of cutting."""
    shapes = [Shape(name, "cream", region) for name, region in pieces]
    return CutSheet("mat-01", 100, 100, in_cutting_order(file_order(shapes), (0.0, 100.0)))


def read_both(sheet):
    svg = outlines_in_svg(cut_svg(sheet, arcs=False))
    hpgl = [ring * (1, -1) + (0, sheet.height_mm) for ring in outlines_in_hpgl(cut_hpgl(sheet))]
    return svg, hpgl


def test_inner_outlines_are_cut_before_the_outer_ones_around_them():
    for rings in read_both(sheet_of(("a", RINGS))):
        assert len(rings) == 5
        shapes = [shapely.Polygon(ring) for ring in rings]
        for k, earlier in enumerate(shapes):
            assert not any(earlier.contains(later) for later in shapes[k + 1 :])


def test_a_piece_inside_another_ones_counter_is_cut_first():
    frame = Region([shapely.box(0, 0, 90, 90).difference(shapely.box(10, 10, 80, 80))])
    dot = Region([shapely.box(40, 40, 50, 50)])
    for rings in read_both(sheet_of(("frame", frame), ("dot", dot))):
        assert shapely.Polygon(rings[0]).area == pytest.approx(100)


@pytest.mark.parametrize("width", [50.0, 123.4, 254.0])
def test_lengths_are_right_to_a_tenth_of_a_mm(width, tmp_path):
    document = nested(document_of(LETTER, set_placement("w", width_mm=width), set_nesting("mat", mat="12x24in")))
    svg_file, plt_file = write_cut_files(document.plan, tmp_path, arcs=False)
    sizes = []
    for rings in (outlines_in_svg(svg_file.read_text()), outlines_in_hpgl(plt_file.read_text())):
        points = np.concatenate(rings)
        sizes.append(sorted(np.ptp(points, axis=0)))
    assert sizes[0] == pytest.approx([width, width * 1.5], abs=0.01)
    assert sizes[1] == pytest.approx([width, width * 1.5], abs=0.05)


@pytest.mark.parametrize(("film", "mirrored"), [("scarlet", True), ("white-adhesive", False)])
def test_the_letter_is_mirrored_as_its_film_asks(film, mirrored, tmp_path):
    """An F has its bars at the right of its stem; on the mat of heat-transfer film they are at the left."""
    document = nested(
        document_of(
            LETTER,
            choose_blank(read_blank_name("rectangle")),
            set_placement("w", width_mm=100),
            choose_film("#d62828", film),
            set_nesting("x", seed=1),
        )
    )
    svg_file, plt_file = write_cut_files(document.plan, tmp_path, arcs=False)
    (placed,) = document.plan.mats[0].layout.placed
    for rings, up in ((outlines_in_svg(svg_file.read_text()), 1), (outlines_in_hpgl(plt_file.read_text()), -1)):
        points = np.concatenate(rings) * (1, up)
        angle = np.radians(-placed.turn_deg)
        turn = np.array([[np.cos(angle), -np.sin(angle)], [np.sin(angle), np.cos(angle)]])
        upright = shapely.Polygon(points @ turn.T)
        left, top, right, bottom = upright.bounds
        heavy_side_is_right = upright.centroid.x > (left + right) / 2
        assert upright.centroid.y < (top + bottom) / 2, "an F is heavy at its top"
        assert heavy_side_is_right == mirrored


def test_another_program_draws_the_same_areas(tmp_path):
    """resvg, a renderer that shares no code with Zinnet, fills the outlines of a cut file."""
    import resvg_py

    document = nested(document_of(LANTERN, set_placement("w", width_mm=120)))
    for mat, path in zip(document.plan.mats, write_cut_files(document.plan, tmp_path, arcs=False)[::2], strict=True):
        text = path.read_text().replace('fill="none"', 'fill="black"').replace('stroke="#000000"', 'stroke="none"')
        data = " ".join(piece.split('"')[0] for piece in text.split(' d="')[1:])
        drawn = text[: text.index("<path")] + f'<path fill-rule="evenodd" d="{data}"/></g></g></svg>'
        png = resvg_py.svg_to_bytes(svg_string=drawn, width=1200, dpi=96, background="#ffffff")
        picture = np.asarray(Image.open(io.BytesIO(png)).convert("L"))
        share = (255 - picture.astype(float)).mean() / 255
        assert share * mat.sheet.width_mm * mat.sheet.height_mm == pytest.approx(mat.film_mm2, rel=0.01)


def test_nothing_is_written_past_an_open_stop(tmp_path):
    document = nested(
        document_of(LETTER, set_placement("w", width_mm=100), override_side("scarlet", False, "I said so"))
    )
    with pytest.raises(CutError, match="wrong-cut-side"):
        write_cut_files(document.plan, tmp_path)
    assert not list(tmp_path.glob("mat-*"))
    document.apply(pass_finding("wrong-cut-side", "a film that the maker says is not mirrored"))
    assert write_cut_files(document.plan, tmp_path)


def test_outlines_that_are_not_joined_are_cut_as_they_are_drawn(tmp_path):
    body = '<circle cx="20" cy="20" r="15" fill="#d62828"/><circle cx="40" cy="20" r="15" fill="#d62828"/>'
    document = nested(document_of(body, set_placement("w", width_mm=100)))
    assert len(outlines_in_svg(write_cut_files(document.plan, tmp_path, arcs=False)[0].read_text())) == 1
    document.apply(join_outlines(False))
    document.apply(pass_finding("overlapping-outlines", "cut lines wanted"))
    nested(document)
    assert len(outlines_in_svg(write_cut_files(document.plan, tmp_path, arcs=False)[0].read_text())) == 2


def test_a_folder_that_can_not_be_written_is_named(tmp_path):
    document = nested(document_of(LETTER))
    (tmp_path / "file").write_text("x")
    with pytest.raises(CutError, match="can't be written"):
        write_cut_files(document.plan, tmp_path / "file" / "below")
