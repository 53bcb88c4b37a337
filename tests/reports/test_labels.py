"""Care tags and labels of the shelf, read back from their PDFs: what stands on them, and where."""

import pypdfium2
import pytest

from tests.helpers import RED_AND_BLUE, document_of, first_of, run_command
from tests.names.bags import NAMES, bags
from zinnet.base.errors import ZinnetError
from zinnet.demo.shelf import demo_stock
from zinnet.job.edits import set_copies, set_sizes
from zinnet.output.papers.care_tags import care_tags, care_tags_pdf
from zinnet.output.papers.labels import Label, label_sheets, labels_pdf
from zinnet.output.papers.paper import POINTS_PER_MM
from zinnet.output.papers.scrap_labels import scrap_label, scrap_labels_pdf
from zinnet.output.papers.tiles import PAPERS
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.stock import Stock
from zinnet.workshop.store import WorkshopStore

SHELF = tuple(item.model_copy(update={"number": k}) for k, item in enumerate(demo_stock(), start=1))


def texts_of(data):
    return [" ".join(page.get_textpage().get_text_range().split()) for page in pypdfium2.PdfDocument(data)]


@pytest.mark.parametrize("name", label_sheets())
def test_labels_lie_on_their_paper_and_not_on_one_another(name):
    sheet = label_sheets()[name]
    wide, high = PAPERS[sheet.paper]
    boxes = [sheet.box(k) for k in range(sheet.count)]
    for left, top, width, height in boxes:
        assert 0 <= left <= left + width <= wide + 0.01
        assert 0 <= top <= top + height <= high + 0.01
    for k, (left, top, width, height) in enumerate(boxes):
        for other_left, other_top, _, _ in boxes[k + 1 :]:
            assert (
                other_left >= left + width - 1e-6
                or other_left <= left - width + 1e-6
                or other_top >= top + height - 1e-6
            )


@pytest.mark.parametrize("name", label_sheets())
@pytest.mark.parametrize("skip", [0, 3])
def test_text_lies_within_its_own_label(name, skip):
    sheet = label_sheets()[name]
    labels = [Label(f"N{k}", ("a line of text that is rather long for a small label " * 3,)) for k in range(5)]
    page = pypdfium2.PdfDocument(labels_pdf("x", labels, name, skip=skip))[0].get_textpage()
    height = PAPERS[sheet.paper][1]
    for k in range(5):
        found = page.search(f"N{k}").get_next()
        left, bottom, right, top = (edge / POINTS_PER_MM for edge in page.get_charbox(found[0], loose=True))
        box_left, box_top, wide, high = sheet.box(k + skip)
        assert box_left < left < right < box_left + wide
        assert box_top < height - top < height - bottom < box_top + high


def test_more_labels_than_a_sheet_has_go_on_a_second_one():
    labels = [Label(f"No {k}.", ()) for k in range(24)]
    first, second = texts_of(labels_pdf("x", labels, "a4-3x8", skip=2))
    assert "No 21." in first
    assert second == "No 22. No 23."


@pytest.mark.parametrize(
    ("labels", "sheet", "skip", "said"),
    [
        ([], "a4-3x8", 0, "nothing to print"),
        ([Label("x", ())], "a5", 0, "a4-3x8"),
        ([Label("x", ())], "a4-3x8", 24, "24 labels"),
        ([Label("x", ())] * 5001, "a4-3x8", 0, "5001"),
    ],
)
def test_what_can_not_be_printed_is_said(labels, sheet, skip, said):
    with pytest.raises(ZinnetError, match=said):
        labels_pdf("x", labels, sheet, skip=skip)


def test_every_garment_gets_its_tag():
    document = document_of(RED_AND_BLUE, set_copies(3), set_sizes((("youth-m", 2),)))
    tags = care_tags(document.plan)
    assert [tag.lines[0] for tag in tags].count(document.plan.garments[0].blank.name) == 3
    assert len(tags) == 5
    (text,) = texts_of(care_tags_pdf(document.plan))
    assert text.count("Wait 24 hours before it is washed.") == 5
    for row in first_of(document.plan).layers:
        assert row.film.name in text


def test_with_names_each_tag_has_its_own():
    (text,) = texts_of(care_tags_pdf(bags().plan))
    for number, name in enumerate(NAMES, start=1):
        assert f"No. {number} {name}" in text


def test_a_label_of_the_shelf_says_what_the_shelf_says():
    workshop = standard_workshop()
    pages = texts_of(scrap_labels_pdf(SHELF, workshop, "a4-2x7"))
    text = " ".join(pages)
    for item in SHELF:
        assert f"{item.number} {workshop.film(item.film).name}" in text
        assert f"{item.width_mm:g} x {item.length_mm:g} mm" in text
        assert item.place in text
        assert item.note in text
    assert "3 of them" in text
    flock = next(item for item in SHELF if item.film == "moss-flock")
    nap = scrap_label(flock, workshop, "mm")
    assert "runs along" in nap.lines[1]
    assert "direction" not in scrap_label(SHELF[0], workshop, "mm").lines[1]


def test_the_commands_print_tags_and_labels(tmp_path):
    job, out = tmp_path / "walk.zinnet", tmp_path / "out.pdf"
    document_of(RED_AND_BLUE).save(job)
    assert run_command("tags", job, "--out", out, "--labels", "letter-3x10").returncode == 0
    assert "Wait 24 hours" in texts_of(out)[0]
    assert "nothing to print" in run_command("stock", "labels", "--out", out).stderr
    numbers = [item.number for item in Stock(WorkshopStore()).add(demo_stock())]
    assert run_command("stock", "labels", "--out", out).returncode == 0
    assert "Roll" not in texts_of(out)[0]
    assert run_command("stock", "labels", numbers[2], "--out", out, "--skip", 5).returncode == 0
    assert "Roll, 305 x 1840 mm" in texts_of(out)[0]
    assert run_command("stock", "labels", 999, "--out", out).returncode == 2
