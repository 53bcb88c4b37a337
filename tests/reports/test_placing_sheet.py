"""The placing sheet, read back from its PDF by another library."""

import io

import numpy as np
import pypdfium2
import pytest

from tests.helpers import RED_AND_BLUE, document_of, first_of
from zinnet.base.errors import ZinnetError
from zinnet.job.edits import set_placement
from zinnet.layers.marks import frame_box
from zinnet.output.papers.paper import POINTS_PER_MM
from zinnet.output.papers.placing_sheet import placing_sheet_pdf


@pytest.mark.parametrize("paper", ["a4", "letter"])
def test_layers_box_and_frame_are_at_life_size(paper):
    document = document_of(RED_AND_BLUE, set_placement("x", width_mm=120.0))
    pdf = pypdfium2.PdfDocument(io.BytesIO(placing_sheet_pdf(document.plan, paper=paper)))
    assert len(pdf) == 1
    page = pdf[0]
    boxes = []
    for item in page.get_objects():
        if item.type == 2:
            left, bottom, right, top = item.get_bounds()
            boxes.append(((right - left) / POINTS_PER_MM, (top - bottom) / POINTS_PER_MM))
    left, top, right, bottom = frame_box(first_of(document.plan).stack.box)
    # The reader counts the line itself to the bounds, once on either side.
    for wide, high, line in ((120.0, 90.0, 0.25), (right - left, bottom - top, 0.25), (60.0, 60.0, 0.3)):
        near = np.abs(np.array(boxes) - (wide + 2 * line, high + 2 * line)).max(axis=1).min()
        assert near < 0.1, (wide, high)
    text = page.get_textpage().get_text_range()
    assert "Scarlet, pressed first" in text
    assert "Placing sheet" in text
    assert "100 mm exactly" in text


def test_without_artwork_there_is_nothing_to_print():
    from zinnet.bench.document import Document
    from zinnet.workshop.model import standard_workshop

    with pytest.raises(ZinnetError, match="no number 1"):
        placing_sheet_pdf(Document(standard_workshop()).plan)
