"""The lay sheet, read back from its PDF by another library: life size, every piece, numbered bands, tiles or a roll."""

import io
from ctypes import c_float

import numpy as np
import pypdfium2
import pypdfium2.raw as raw
import pytest

from tests.helpers import document_of, run_command
from zinnet.base.errors import ZinnetError
from zinnet.bench.document import Document
from zinnet.demo import demo_document
from zinnet.job.edits import set_placement
from zinnet.job.file import save_job
from zinnet.output.papers.lay_sheet import BAND_MM, lay_sheet_pdf
from zinnet.output.papers.paper import POINTS_PER_MM
from zinnet.plan.run_garments import run_presses
from zinnet.workshop.model import standard_workshop

LETTERS = "".join(f'<rect x="{x}" y="{(x % 7) * 3}" width="12" height="30" fill="#d62828"/>' for x in range(0, 300, 20))


def boxes_of(page):
    """Return width and height in mm of every path, by the points that the reader finds in it."""
    found = []
    for item in page.get_objects():
        if item.type != raw.FPDF_PAGEOBJ_PATH:
            continue
        points = []
        for number in range(raw.FPDFPath_CountSegments(item.raw)):
            x, y = c_float(), c_float()
            raw.FPDFPathSegment_GetPoint(raw.FPDFPath_GetPathSegment(item.raw, number), x, y)
            points.append((x.value, y.value))
        found.append(np.ptp(np.array(points), axis=0) / POINTS_PER_MM)
    return np.array(found)


def test_on_a_roll_every_piece_stands_once_at_life_size():
    plan = demo_document(name="stewards").plan
    _, press = run_presses(plan)[0]
    pdf = pypdfium2.PdfDocument(io.BytesIO(lay_sheet_pdf(plan, paper="roll")))
    assert len(pdf) == 1
    boxes = boxes_of(pdf[0])
    for work in press.works:
        for piece in work.pieces:
            for part in piece.region.geoms:
                left, top, right, bottom = part.bounds
                near = np.abs(boxes - (right - left, bottom - top)).max(axis=1).min()
                assert near < 0.1, piece.name
    text = pdf[0].get_textpage().get_text_range()
    for work in press.works:
        for piece in work.pieces:
            assert piece.name in text
    assert "100 mm exactly" in text
    assert "Lay sheet" in text


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_bands_are_numbered_from_the_reference_on_all_tiles(paper):
    document = document_of(LETTERS, set_placement("x", width_mm=280.0, from_reference_mm=20.0))
    pdf = pypdfium2.PdfDocument(io.BytesIO(lay_sheet_pdf(document.plan, paper=paper)))
    assert len(pdf) > 1
    (press,) = document.plan.presses
    placement = press.garment.compositions[0].placement
    top, bottom = press.works[0].film.bounds[1], press.works[0].film.bounds[3]
    first = int((top - placement.reference[1]) // BAND_MM) + 1
    last = int((bottom - placement.reference[1]) // BAND_MM) + 1
    said = " ".join(page.get_textpage().get_text_range() for page in pdf)
    for band in range(first, last + 1):
        assert str(band) in said.split()


def test_of_a_list_each_name_has_its_own_sheet():
    plan = demo_document(name="names").plan
    for number, (name, _) in enumerate(run_presses(plan)[:2]):
        pdf = pypdfium2.PdfDocument(io.BytesIO(lay_sheet_pdf(plan, garment=number, paper="roll")))
        assert name.split(":")[1].split(",")[0].strip() in pdf[0].get_textpage().get_text_range()


def test_what_is_not_there_is_said_with_what_there_is(tmp_path):
    plan = demo_document(name="stewards").plan
    with pytest.raises(ZinnetError, match="Nothing lies on “sole”; there is front"):
        lay_sheet_pdf(plan, panel="sole")
    with pytest.raises(ZinnetError, match="no garments 99"):
        lay_sheet_pdf(plan, garment=98)
    with pytest.raises(ZinnetError, match="open artwork"):
        lay_sheet_pdf(Document(standard_workshop()).plan)
    with pytest.raises(ZinnetError, match="a4, letter, roll"):
        lay_sheet_pdf(plan, paper="a5")
    job = tmp_path / "a.zinnet"
    save_job(job, demo_document(name="stewards").job, {})
    out = tmp_path / "l.pdf"
    assert run_command("laysheet", str(job), "--out", str(out), "--paper", "roll").returncode == 0
    assert out.read_bytes().startswith(b"%PDF")
