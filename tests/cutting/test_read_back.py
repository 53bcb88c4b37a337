"""Cut files of random jobs, read back by libraries that share nothing with the writers."""

import numpy as np
import pytest
import shapely

from tests.cutting.readers import (
    outlines_by_ezdxf,
    outlines_by_gdal,
    outlines_by_pdfium,
    outlines_by_svgelements,
    worst_mm,
)
from tests.helpers import cases, document_of, nested
from zinnet.blanks.catalogue import read_blank_name
from zinnet.cutting.dxf_file import cut_dxf
from zinnet.films.catalogue import cut_side
from zinnet.geometry.transform import apply
from zinnet.job.edits import (
    choose_blank,
    choose_film,
    set_copies,
    set_cutting,
    set_layers,
    set_measure,
    set_nesting,
    set_placement,
)
from zinnet.output.cut_files import write_cut_files

FILMS = ("scarlet", "gold-glitter", "moss-flock", "white-adhesive", "cream")
COLOURS = ("#d62828", "#1f57c3", "#f4ead5")


def random_job(seed):
    """Return a nested job of random shapes: straight and round ones, with counters, some within others."""
    rng = np.random.default_rng(seed)
    body = []
    for _ in range(int(rng.integers(2, 9))):
        x, y, size = rng.uniform(5, 70), rng.uniform(5, 70), rng.uniform(4, 25)
        colour = rng.choice(COLOURS)
        kind = rng.integers(4)
        if kind == 0:
            body.append(f'<circle cx="{x}" cy="{y}" r="{size}" fill="{colour}"/>')
        elif kind == 1:
            body.append(f'<rect x="{x}" y="{y}" width="{size}" height="{size * 0.7}" rx="{size / 6}" fill="{colour}"/>')
        elif kind == 2:
            data = f"M{x} {y}h{size}v{size}h{-size}z M{x + size / 4} {y + size / 4}v{size / 2}h{size / 2}v{-size / 2}z"
            body.append(f'<path d="{data}" fill="{colour}" fill-rule="evenodd"/>')
        else:
            data = f"M{x} {y}q{size} {size} {size / 2} {size * 1.3}t{-size} {-size / 3}z"
            body.append(f'<path d="{data}" fill="{colour}"/>')
    films = [choose_film(colour, str(rng.choice(FILMS))) for colour in COLOURS]
    return nested(
        document_of(
            "".join(body),
            set_placement("x", width_mm=float(rng.uniform(60, 200))),
            set_copies(int(rng.integers(1, 4))),
            set_layers("x", method=str(rng.choice(["cut-away", "lap"])), marks=bool(rng.integers(2))),
            set_nesting("x", mat="12x24in", weed_frame=str(rng.choice(["none", "mat"]))),
            set_cutting("x", weed_lines=bool(rng.integers(2))),
            *films,
        ),
        0.15,
    )


def read_back(document, folder):
    """Return how far all files of a job lie off what is cut, in mm, after checking side, order and closedness."""
    plan, worst = document.plan, 0.0
    passed = {finding.id for finding in plan.open_stops}
    for load in plan.loads:
        sheet = load.cut_sheet()
        svg = outlines_by_svgelements(_svg(load))
        dxf, layers = outlines_by_gdal(cut_dxf(sheet).encode(), sheet.height_mm, folder / f"{load.stem}.dxf")
        hpgl = outlines_by_ezdxf(load.program().text.encode(), sheet.height_mm)
        pdf = outlines_by_pdfium(_pdf(load), below_mm=sheet.height_mm)
        assert layers == [path.film for path in sheet.paths]
        for outlines in (svg, dxf, hpgl, pdf):
            worst = max(worst, worst_mm(sheet, outlines))
            for path, line in zip(sheet.paths, outlines, strict=True):
                assert path.closed == bool(np.hypot(*(line[0] - line[-1])) < 0.03)
            _assert_in_order(outlines, sheet)
            _assert_right_side(plan, load, outlines)
    assert "wrong-cut-side" not in passed
    return worst


def _svg(load):
    from zinnet.cutting.svg_file import cut_svg

    return cut_svg(load.cut_sheet())


def _pdf(load):
    from zinnet.output.papers.cut_pdf import cut_pdf

    return cut_pdf(load)


def _assert_in_order(outlines, sheet):
    shapes = [shapely.Polygon(line) for line, path in zip(outlines, sheet.paths, strict=True) if path.kind in OWN]
    for k, earlier in enumerate(shapes):
        for later in shapes[k + 1 :]:
            assert not (earlier.area > 1.05 * later.area and earlier.contains(later))


OWN = ("outline", "counter")


def _assert_right_side(plan, load, outlines):
    """The outlines of each piece are the artwork's own, turned over or not as film and use ask."""
    for mat in load.mats:
        for placed, region in zip(mat.layout.placed, mat.regions, strict=True):
            part = mat.nest.part(placed.piece)
            seen = plan.composition_of(part).panel.seen
            to_sheet = placed.matrix @ part.to_cut
            assert (np.linalg.det(to_sheet[:2, :2]) < 0) == cut_side(mat.nest.film, seen=seen).mirrored
            drawn = shapely.transform(
                part.layer.layer.region, lambda points, m=to_sheet: points @ m[:2, :2].T + m[:2, 2]
            )
            own = [
                shapely.Polygon(line)
                for line, path in zip(outlines, load.cut_sheet().paths, strict=True)
                if path.piece == f"{placed.piece}-copy-{placed.copy_number}" and path.kind in OWN
            ]
            whole = shapely.Polygon()
            for shape in own:
                whole = shapely.symmetric_difference(whole, shapely.make_valid(shape))
            inside = shapely.intersection(drawn, shapely.buffer(region, 1e-6))
            apart = shapely.symmetric_difference(whole, inside)
            assert shapely.buffer(apart, -0.05).area < 1e-6


@pytest.mark.parametrize("seed", range(cases(1, 5)))
def test_all_formats_hold_the_same_outlines_the_right_way_round_in_order_and_closed(seed, tmp_path):
    assert read_back(random_job(seed), tmp_path) < 0.05


def test_groups_and_names_tell_mat_film_and_piece(tmp_path):
    import xml.etree.ElementTree as ET

    document = nested(document_of('<rect width="60" height="40" fill="#f4ead5"/>', set_copies(2)))
    (path, *_) = write_cut_files(document.plan, tmp_path, ("svg",))
    root = ET.fromstring(path.read_text())
    (mat,) = list(root)
    assert mat.get("id") == "mat-01-cream"
    (film,) = list(mat)
    assert film.get("id") == "mat-01-cream-cream"
    assert {line.get("id") for line in film} <= {"layer-1-copy-1", "layer-1-copy-2"}


def test_names_of_files_follow_the_template_and_stay_in_the_folder(tmp_path):
    document = nested(
        document_of('<rect width="60" height="40" fill="#f4ead5"/>', set_cutting("x", names="../{job} {film}"))
    )
    written = write_cut_files(document.plan, tmp_path, ("svg", "dxf", "hpgl", "pdf", "png"))
    assert {path.parent for path in written} == {tmp_path}
    assert {path.suffix for path in written} == {".svg", ".dxf", ".plt", ".pdf", ".png"}
    assert all("cream" in path.name and "01" in path.name for path in written)


def test_a_dxf_is_sound_and_in_millimetres(tmp_path):
    import ezdxf

    document = nested(document_of('<circle cx="20" cy="20" r="20" fill="#f4ead5"/>', set_placement("x", width_mm=80.0)))
    (path,) = write_cut_files(document.plan, tmp_path, ("dxf",))
    read = ezdxf.readfile(path)
    assert read.dxfversion == "AC1024", "R2010"
    assert read.header["$INSUNITS"] == 4
    auditor = read.audit()
    assert not auditor.errors
    assert not auditor.fixes
    (line,) = read.modelspace().query("LWPOLYLINE")
    assert line.closed
    assert any(bulge for *_, bulge in line.get_points("xyb"))
    assert len(line) < 10, "a circle is a few arcs"


def printed_board(tmp_path, body, *edits):
    """Return the job of a coated board whose inset is 81 x 109 mm, nested, and its print as a PDF page."""
    import pypdfium2

    board = [set_measure("inset_width", 81.0), set_measure("inset_height", 109.0)]
    document = document_of(body, choose_blank(read_blank_name("inset-board")), *board, *edits)
    nested(document)
    (load,) = document.plan.loads
    (written,) = write_cut_files(document.plan, tmp_path, ("svg", "pdf"))
    assert written.name == f"{load.stem}-print.pdf"
    return document, load, pypdfium2.PdfDocument(written)[0]


def test_a_print_gets_a_page_at_life_size_mirrored_with_bleed_and_marks(tmp_path):
    """An F-like shape on sublimation paper: read back, its colour lies mirrored and reaches beyond its outline."""
    body = '<path d="M0 0H60V12H14V34H44V46H14V90H0Z" fill="#d62828"/>'
    _, load, page = printed_board(tmp_path, body, set_placement("x", width_mm=60.0))
    picture = np.asarray(page.render(scale=72 / 25.4).to_pil().convert("RGB")).astype(int)
    red = (picture[:, :, 0] > 180) & (picture[:, :, 1] < 90)
    rows, columns = np.nonzero(red)
    scale = picture.shape[1] / (page.get_width() / (72 / 25.4))
    left, _, right, _ = load.mats[0].regions[0].bounds
    assert (columns.max() - columns.min()) / scale == pytest.approx(right - left + 4, abs=0.5), "2 mm of bleed a side"
    assert columns.min() / scale == pytest.approx(left - 2, abs=0.4)
    middle = (columns.min() + columns.max()) / 2
    turn = load.mats[0].layout.placed[0].turn_deg % 180
    if turn == 0:
        upright = load.mats[0].layout.placed[0].turn_deg == 0
        assert (columns.mean() > middle) == upright, "heavy at the right: turned over"
    assert not np.allclose(rows.mean(), (rows.min() + rows.max()) / 2, atol=1.0)


def test_a_print_for_an_inset_fits_an_a4_page_with_the_bar_on_it(tmp_path):
    """ISO 216: A4 is 210 x 297 mm. The print covers the whole inset of 81 x 109 mm, with its bleed."""
    unit = 100 / 109  # the page of the drawing is 100 units high
    body = f'<rect width="{81 * unit}" height="100" fill="#1f57c3"/><circle cx="20" cy="20" r="11" fill="#e9a53a"/>'
    document, load, page = printed_board(tmp_path, body, set_placement("x", width_mm=81.0))
    assert (page.get_width() / 72 * 25.4, page.get_height() / 72 * 25.4) == pytest.approx((210, 297), abs=0.1)
    assert load.is_printed
    assert load.mats[0].nest.mirrored
    picture = np.asarray(page.render(scale=4 * 72 / 25.4 / 72 * 25.4).to_pil().convert("RGB")).astype(int)
    dots = picture.shape[1] / 210
    blue = (picture[:, :, 2] > 150) & (picture[:, :, 0] < 90)
    rows, columns = np.nonzero(blue)
    wide, high = (np.ptp(columns) + 1) / dots, (np.ptp(rows) + 1) / dots
    assert sorted((wide, high)) == pytest.approx([81 + 4, 109 + 4], abs=0.4)
    assert columns.min() / dots > 0
    assert columns.max() / dots < 210
    assert rows.max() / dots < 281, "above the strip with the bar"
    # The bar of 100 mm: the longest dark row below the print.
    dark = picture[int(282 * dots) :].max(axis=2) < 120
    longest = max(np.ptp(np.flatnonzero(row)) + 1 for row in dark if row.any())
    assert longest / dots == pytest.approx(100, abs=0.5)
    # Mirrored: the disc at the upper left of the artwork is at the right on paper, as the piece lies there.
    amber = (picture[:, :, 0] > 200) & (picture[:, :, 2] < 110) & (picture[:, :, 1] > 120)
    at_y, at_x = (axis.mean() for axis in np.nonzero(amber))
    placed = load.mats[0].layout.placed[0]
    part = load.mats[0].nest.part(placed.piece)
    disc = apply(placed.matrix @ part.to_cut, np.array([[20.0, 20.0]]) / unit)[0]
    assert (at_x / dots, at_y / dots) == pytest.approx(tuple(disc), abs=0.5)
    assert np.linalg.det(placed.matrix @ part.to_cut) < 0
    assert not [one.id for one in document.plan.open_stops]
