"""The job sheet, read back from its PDF by another library: every number is the plan's."""

import re
from collections import Counter

import pypdfium2
import pytest

from tests.helpers import RED_AND_BLUE, document_of, first_of, nested, run_command
from zinnet.base.errors import ZinnetError
from zinnet.base.units import write_area, write_length, write_seconds
from zinnet.demo import demo_document
from zinnet.job.edits import (
    pass_finding,
    set_copies,
    set_placement,
    set_sizes,
    set_unit,
)
from zinnet.layers.marks import frame_box
from zinnet.layers.weeding import weed_map
from zinnet.output.papers.job_sheet import job_sheet_pdf
from zinnet.plan.ledger import film_ledger
from zinnet.shop.costing import Costing
from zinnet.workshop.price_list import usual_prices


def pages_of(document):
    return pypdfium2.PdfDocument(job_sheet_pdf(document.plan, document.plan.findings, usual_prices()))


def text_of(document):
    """Return all text of the sheet in one line."""
    return " ".join(" ".join(page.get_textpage().get_text_range() for page in pages_of(document)).split())


@pytest.fixture(scope="module")
def demo():
    return demo_document()


@pytest.fixture(scope="module")
def text(demo):
    return text_of(demo)


def test_measures_and_place_are_the_plans(demo, text):
    placement, blank = first_of(demo.plan).placement, demo.plan.blank
    for name, mm in blank.measures.items():
        said = "measured" if name in blank.measured else "typical"
        assert f"{name.replace('_', ' ').capitalize()} {write_length(mm)} {said}" in text
    assert f"{placement.place.name}: {placement.width_mm:.0f} x {placement.height_mm:.0f} mm" in text
    assert f"to upper edge: {write_length(placement.from_reference_mm)}" in text
    left, _, right, _ = placement.block
    edges = placement.panel.edges_at(placement.centre[1])
    for length in (right - left, left - edges[0], edges[1] - right, placement.from_reference_mm):
        assert write_length(length) in text


def test_layers_say_what_is_cut_and_what_comes_out(demo, text):
    design = first_of(demo.plan)
    for row in design.stack.in_press_order:
        weeds = weed_map(row.layer, frame_box(design.stack.box))
        opened = len(weeds.islands) - weeds.counters
        assert f"{row.layer.order} {row.film.name} {row.side.reason}" in text
        assert f"{row.layer.pieces} {opened} open, {weeds.counters} counter" in text


def test_the_counters_on_the_mats_are_those_of_the_layers(demo, text):
    design = first_of(demo.plan)
    of_layers = sum(weed_map(row.layer, frame_box(design.stack.box)).counters for row in design.layers)
    pieces = sum(len(demo.plan.garments[0].pieces_of(row)) for row in design.layers)
    rows = re.findall(r"mm (\d+) (\d+) (?:\d+ min )?\d+ s ", text)
    assert len(rows) == len(demo.plan.mats)
    assert sum(int(pieces) for pieces, _ in rows) == pieces * demo.plan.job.copies
    assert sum(int(counters) for _, counters in rows) == of_layers * demo.plan.job.copies


def test_film_mats_settings_and_times_are_the_plans(demo, text):
    for trim in demo.plan.trims:
        long, wide = trim.size
        assert f"{trim.mat.number} {trim.mat.nest.film.name} {trim.source} {long:.1f}".rstrip("0").rstrip(".") in text
        assert write_length(wide) in text
    for load in demo.plan.loads:
        assert f"{load.films} {load.trims[0].side_down} {load.grip} {load.settings_said} {load.known.source}" in text
        assert write_seconds(load.duration().seconds) in text
    use = film_ledger(demo.plan)
    for area in (use.taken_mm2, use.on_garments_mm2, use.kept_mm2, use.lost_mm2):
        assert write_area(area) in text


def test_steps_are_numbered_with_their_heat_and_every_caution_is_there(demo, text):
    (press,) = demo.plan.presses
    for number, step in enumerate(press.steps, start=1):
        assert f"{number} {step.title}" in text
        for line in step.lines:
            assert " ".join(line.split()) in text
    assert "burns" in text
    assert "local rules come first" in text


def test_costs_add_up_to_the_cent(demo, text):
    priced = Costing(demo.plan, usual_prices()).priced
    table = text[text.index("Time and cost") : text.index("Cost in all")]
    amounts = [float(amount) for amount in re.findall(r"(?<= )(\d+\.\d\d)(?= )", table.replace(" EUR", " ") + " ")]
    known = Counter(float(item.amount) for item in priced.items)
    assert not known - Counter(amounts)
    assert f"Cost in all for {demo.plan.job.copies} garments {priced.cost:.2f}" in text
    for item in priced.items:
        assert item.basis in text


def test_pages_are_numbered_and_few(demo):
    pages = pages_of(demo)
    assert 2 <= len(pages) <= 5
    for number, page in enumerate(pages, start=1):
        assert f"page {number} of {len(pages)}" in page.get_textpage().get_text_range()


def test_it_reads_in_black_and_white(demo):
    """Every colour on it is light enough for paper or dark enough for ink, but for the layers, which have numbers."""
    page = pages_of(demo)[0]
    text = page.get_textpage().get_text_range()
    grey = page.render(scale=1, grayscale=True).to_numpy()
    assert grey.min() < 40
    assert (grey > 200).mean() > 0.8
    for row in first_of(demo.plan).layers:
        assert str(row.layer.order) in text


@pytest.mark.long
def test_sizes_have_each_their_own_line():
    document = document_of(RED_AND_BLUE, set_sizes((("youth-m", 3), ("adult-2xl", 2))))
    document.apply(set_copies(5))
    text = text_of(nested(document))
    for garment in document.plan.garments:
        (design,) = garment.designs
        wide, high = (f"{mm:.1f}".removesuffix(".0") for mm in (design.placement.width_mm, design.placement.height_mm))
        from_reference = write_length(design.placement.from_reference_mm)
        assert f"{garment.blank.name} {garment.copies} {design.name} {wide} x {high} mm {from_reference}" in text
    # A child's size is worked on otherwise than an adult's; those of adults share their steps.
    assert text.count("Read the care label") == 2


def test_what_was_passed_stands_at_its_head_and_what_is_open_too():
    document = nested(document_of(RED_AND_BLUE, set_placement("x", width_mm=390.0)))
    opened = text_of(document)
    stop = document.plan.open_stops[0]
    assert f"Stop: {stop.title}. {stop.measured}" in opened
    document.apply(pass_finding(stop.id, "the customer wants it so", stop.subject))
    assert f"{stop.title}: {stop.measured}. Passed: the customer wants it so" in text_of(nested(document))


def test_inches_are_used_throughout():
    document = nested(document_of(RED_AND_BLUE, set_placement("x", width_mm=254.0), set_unit("in")))
    text = text_of(document)
    assert "10 x 7 1/2 in" in text
    assert " mm" not in text[text.index("Mats in the order") : text.index("On the machine")]


def test_before_the_nest_it_is_written_without_mats_and_costs():
    text = text_of(document_of(RED_AND_BLUE))
    assert "Time and cost" not in text
    assert "Mats in the order" not in text
    assert "Layers of" in text


def test_the_command_writes_it(tmp_path):
    job = tmp_path / "walk.zinnet"
    document_of(RED_AND_BLUE).save(job)
    out = tmp_path / "walk.pdf"
    assert run_command("sheet", job, "--out", out).returncode == 0
    pages = [page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(out)]
    assert "Time and cost" in " ".join(pages)
    refused = run_command("sheet", tmp_path / "none.zinnet", "--out", out)
    assert refused.returncode == 2
    assert "none.zinnet" in refused.stderr


@pytest.mark.parametrize(("paper", "size"), [("a4", (210, 297)), ("letter", (215.9, 279.4))])
def test_it_fits_its_paper(demo, paper, size):
    """The papers are those of ISO 216 and of ANSI/ASME Y14.1; nothing is drawn beyond their edges."""
    data = job_sheet_pdf(demo.plan, demo.plan.findings, usual_prices(), paper=paper)
    for page in pypdfium2.PdfDocument(data):
        assert (page.get_width() / 72 * 25.4, page.get_height() / 72 * 25.4) == pytest.approx(size, abs=0.1)
        for item in page.get_objects():
            left, bottom, right, top = item.get_bounds()
            assert left >= 0
            assert bottom >= 0
            assert right <= page.get_width()
            assert top <= page.get_height()


def test_another_paper_is_refused(demo):
    with pytest.raises(ZinnetError, match="a4, letter"):
        job_sheet_pdf(demo.plan, demo.plan.findings, usual_prices(), paper="a5")
