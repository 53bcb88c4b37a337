"""The paper template, read back by PDFium: real millimetres, tiles that join."""

import ctypes

import numpy as np
import pypdfium2
import pypdfium2.raw as pdfium
import pytest

from tests.helpers import LANTERN, document_of, first_of
from zinnet.base.errors import ZinnetError
from zinnet.blanks.catalogue import read_blank_name
from zinnet.job.edits import choose_blank, set_placement, set_sizes
from zinnet.output.papers.template import template_pdf
from zinnet.output.papers.tiles import OVERLAP_MM, PAPERS, tile

MM = 25.4 / 72


def lines_of(page):
    """Return every path on a page as arrays of points in mm, y down from the page's upper edge."""
    height = page.get_height() * MM
    found = []
    for item in page.get_objects(filter=[pdfium.FPDF_PAGEOBJ_PATH]):
        a, b, c, d, e, f = item.get_matrix().get()
        points, x, y = [], ctypes.c_float(), ctypes.c_float()
        for k in range(pdfium.FPDFPath_CountSegments(item)):
            pdfium.FPDFPathSegment_GetPoint(pdfium.FPDFPath_GetPathSegment(item, k), x, y)
            points.append((a * x.value + c * y.value + e, b * x.value + d * y.value + f))
        found.append(np.array(points) * MM * (1, -1) + (0, height))
    return found


def spans(line):
    return tuple(np.ptp(line, axis=0))


@pytest.fixture(scope="module")
def demo():
    return document_of(LANTERN, set_placement("x", width_mm=231.7), attributes='viewBox="0 0 60 80"').plan


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_every_page_has_its_paper_its_bar_and_true_lengths(demo, paper):
    # ISO 216: A4 is 210 x 297 mm; Letter is 8 1/2 x 11 in.
    pdf = pypdfium2.PdfDocument(template_pdf(demo, paper=paper))
    placement = first_of(demo).placement
    tiling = tile((0, 0, 1, 1), paper)
    assert len(pdf) > 1
    for page in pdf:
        assert (page.get_width() * MM, page.get_height() * MM) == pytest.approx(PAPERS[paper], abs=0.05)
        lines = lines_of(page)
        bars = [line for line in lines if spans(line)[1] < 0.01 and abs(spans(line)[0] - 100) < 0.1]
        assert len(bars) == 1
        boxes = [line for line in lines if abs(spans(line)[0] - placement.width_mm) < 0.1]
        assert any(abs(spans(line)[1] - placement.height_mm) < 0.1 for line in boxes)
        assert "100 mm exactly" in page.get_textpage().get_text_range()
    assert tiling.paper == PAPERS[paper]


def test_the_reference_and_the_square_are_where_they_belong(demo):
    pdf = pypdfium2.PdfDocument(template_pdf(demo))
    placement = first_of(demo).placement
    lines = lines_of(pdf[0])
    box = next(
        line for line in lines if spans(line) == pytest.approx((placement.width_mm, placement.height_mm), abs=0.1)
    )
    square = next(line for line in lines if spans(line) == pytest.approx((254, 254), abs=0.1))
    level = next(line for line in lines if spans(line)[1] < 0.01 and spans(line)[0] > 400)
    assert box[:, 1].min() - level[:, 1].mean() == pytest.approx(placement.from_reference_mm, abs=0.1)
    assert square[:, 1].min() == pytest.approx(box[:, 1].min(), abs=0.1)
    middles = [(line[:, 0].min() + line[:, 0].max()) / 2 for line in (square, box)]
    assert middles[0] == pytest.approx(middles[1], abs=0.1)


def test_neighbouring_tiles_show_the_same_in_their_overlap(demo):
    data = template_pdf(demo)
    pdf = pypdfium2.PdfDocument(data)
    scale = 4.0
    pictures = [np.array(page.render(scale=scale * MM, grayscale=True).to_pil(), dtype=int) for page in pdf]
    texts = [page.get_textpage().get_text_range() for page in pdf]
    first = next(k for k, text in enumerate(texts) if "sheet A1" in text)
    second = next(k for k, text in enumerate(texts) if "sheet B1" in text)
    tiling = tile((0, 0, 1, 1), "a4")
    margin, overlap = 12 * scale, OVERLAP_MM * scale
    right = margin + tiling.window[0] * scale
    rows = slice(round(margin + 90), round(margin + 700))
    one = pictures[first][rows, round(right - overlap) + 3 : round(right) - 3]
    other = pictures[second][rows, round(margin) + 3 : round(margin + overlap) - 3]
    wide = min(one.shape[1], other.shape[1])
    one, other = one[:, :wide], other[:, :wide]
    dark = (one < 128) | (other < 128)
    assert dark.sum() > 50
    # Rounding to pixels: a dark pixel of one sheet has one within a pixel in the other.
    near = np.zeros_like(other, dtype=bool)
    for dx in (-1, 0, 1):
        for dy in (-1, 0, 1):
            near |= np.roll(np.roll(other < 160, dx, 1), dy, 0)
    assert ((one < 128) & ~near)[2:-2, 2:-2].sum() == 0


def test_a_size_of_the_family_is_printed_at_its_own_width():
    document = document_of(LANTERN, set_sizes((("toddler", 1),)))
    small = document.plan.garments[1].designs[0]
    pdf = pypdfium2.PdfDocument(template_pdf(document.plan, garment=1))
    assert any(abs(spans(line)[0] - small.placement.width_mm) < 0.1 for line in lines_of(pdf[0]))
    assert "toddler" in pdf[0].get_textpage().get_text_range()


@pytest.mark.parametrize(
    ("kind", "place"), [("cap", None), ("canvas", None), ("tee-adult", "left-chest"), ("glass-plate", None)]
)
def test_every_kind_of_place_has_its_template(kind, place):
    edits = [choose_blank(read_blank_name(kind))] + ([set_placement("x", place=place)] if place else [])
    plan = document_of(LANTERN, *edits).plan
    pdf = pypdfium2.PdfDocument(template_pdf(plan))
    assert any(abs(spans(line)[0] - first_of(plan).placement.width_mm) < 0.1 for page in pdf for line in lines_of(page))


def test_what_can_not_be_printed_is_said(demo):
    with pytest.raises(ZinnetError, match="no paper"):
        template_pdf(demo, paper="a0")
    with pytest.raises(ZinnetError, match="no number 3"):
        template_pdf(demo, design=2)
    with pytest.raises(ZinnetError, match="open artwork first"):
        template_pdf(document_of('<image href="a.png" width="5" height="5"/>').plan)
    with pytest.raises(ZinnetError, match="at most"):
        tile((0, 0, 9000, 9000), "a4")


def test_tiles_are_named_like_a_map():
    names = [one.name for one in tile((0, 0, 400, 300), "a4").tiles()]
    assert names[:3] == ["A1", "B1", "C1"]
    assert "A2" in names
