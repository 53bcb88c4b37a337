"""Every row of the trade's table of sizes and positions: Zinnet's own proposal falls in it.

All of it is common practice, no source; rows marked (m) are from memory. Lengths are in inches, as the trade has them.
"""

import pytest

from tests.helpers import NS, first_of
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.model import Measure
from zinnet.job.edits import open_artwork, set_placement
from zinnet.job.model import Job
from zinnet.workshop.model import standard_workshop

INCH = 25.4


def art(width, height, body=None):
    body = body or f'<rect width="{width}" height="{height}" fill="#d62828"/>'
    return f'<svg {NS} viewBox="0 0 {width} {height}">{body}</svg>'.encode()


MOTH = art(100, 90, '<circle cx="30" cy="45" r="30" fill="#d62828"/><circle cx="70" cy="45" r="30" fill="#d62828"/>')
DISC = art(100, 100, '<circle cx="50" cy="50" r="50" fill="#d62828"/>')
PICTURE = art(
    100,
    100,
    "".join(
        f'<circle cx="{10 + 20 * (k % 5)}" cy="{6 + 11 * (k // 5)}" r="{3 + k % 4}" fill="#d62828"/>' for k in range(45)
    ),
)
WORDS = art(
    120,
    60,
    "".join(
        f'<rect x="{8 * k + (12 if k > 6 else 0)}" y="{30 * row}" width="6" height="20" fill="#d62828"/>'
        for row in range(2)
        for k in range(13)
    ),
)
NAME = art(100, 20, "".join(f'<rect x="{20 * k}" width="12" height="20" fill="#d62828"/>' for k in range(5)))


def fitted(blank, artwork, place=None, measured=(), mat="24x24in"):
    spec = read_blank_name(blank).model_copy(update={"measured": tuple(Measure(name=n, mm=mm) for n, mm in measured)})
    job = Job(blank=spec)
    document = Document(
        standard_workshop(), job.model_copy(update={"nesting": job.nesting.model_copy(update={"mat": mat})})
    )
    document.apply(open_artwork("a.svg", artwork))
    if place is not None:
        document.apply(set_placement("place", place=place))
    return first_of(document.plan)


def inches(design):
    return design.word_width_mm / INCH, design.split.height_mm / INCH


ROWS = [
    # blank, place, artwork, width from, to, distance from, to
    ("tee-adult", "full-front", MOTH, 5, 6.5, 2.6, 3.4),
    ("tee-adult", "full-front", PICTURE, 8, 10.5, 2.6, 3.4),
    ("tee-adult", "full-front", WORDS, 10.5, 11, 2.6, 3.4),
    ("long-sleeve-adult", "full-front", PICTURE, 8, 10.5, 2.6, 3.4),
    ("sweatshirt-adult", "full-front", PICTURE, 8.5, 10.5, 1, 3),
    ("tee-youth", "full-front", PICTURE, 7.5, 8.5, 1.5, 2.5),
    ("tee-toddler", "full-front", PICTURE, 5, 6, 1.5, 2.5),
    ("tee-infant", "full-front", PICTURE, 4, 4.5, 1.5, 2.5),
    ("tee-adult", "left-chest", PICTURE, 3, 4, 7, 9),
    ("tee-adult", "full-back", PICTURE, 10, 14, 4, 5),
    ("tee-adult", "right-sleeve", PICTURE, 2, 3.5, 1, 2),
    ("long-sleeve-adult", "left-sleeve", PICTURE, 2, 3.5, 1, 2),
    ("bucket-hat", "hat-side", art(100, 40), 3.5, 4, None, None),
]


@pytest.mark.parametrize(("blank", "place", "artwork", "low", "high", "near", "far"), ROWS)
def test_the_proposal_falls_in_the_row(blank, place, artwork, low, high, near, far):
    design = fitted(blank, artwork, place)
    width, _ = inches(design)
    assert low - 0.01 <= width <= high + 0.01
    assert design.proposal.holds(design.word_width_mm)
    if near is not None:
        assert near - 0.01 <= design.placement.from_reference_mm / INCH <= far + 0.01


def test_centred_places_lie_on_the_centre_line_and_a_left_chest_does_not():
    assert fitted("tee-adult", PICTURE).placement.centre[0] == pytest.approx(0)
    # (m) the wearer's left is the viewer's right; its centre is 4 to 5 in from the centre line.
    assert 4 <= fitted("tee-adult", PICTURE, "left-chest").placement.centre[0] / INCH <= 5
    assert -5 <= fitted("tee-adult", PICTURE, "right-chest").placement.centre[0] / INCH <= -4


def test_on_a_hoodie_the_height_ends_above_the_pocket():
    tall = art(100, 150, "".join(f'<circle cx="50" cy="{10 + 20 * k}" r="9" fill="#d62828"/>' for k in range(7)))
    design = fitted("hoodie-adult", tall, "full-front")
    pocket = design.panel.references["pocket"][1]
    assert max(y for _, y in design.placement.corners) <= pocket
    wide = inches(fitted("hoodie-adult", art(100, 60, None), "full-front"))[0]
    assert 8.5 <= wide <= 10.5


def test_a_tote_takes_nine_by_nine_or_thirteen_by_nine_for_a_wide_design():
    assert inches(fitted("tote", art(100, 100))) == pytest.approx((9, 9), abs=0.01)
    wide = inches(fitted("tote", art(130, 90)))
    assert wide[0] <= 13.01
    assert wide[1] <= 9.01
    assert wide[0] == pytest.approx(13, abs=0.05)
    at = fitted("tote", art(100, 100)).placement
    left, right = at.panel.marks
    assert at.centre[0] == pytest.approx((left[0] + right[0]) / 2)


def test_letters_on_a_cap_are_small_enough_and_stand_just_above_the_brim():
    design = fitted("cap", NAME)
    width, height = inches(design)
    assert width <= 4.51
    assert height <= 1.51
    assert 0.25 <= design.placement.from_reference_mm / INCH <= 0.5
    assert design.setting is not None
    tall = fitted("cap", art(100, 100))
    assert inches(tall)[1] == pytest.approx(1.5, abs=0.01)


@pytest.mark.parametrize(("ribbon", "letters"), [(3.5, 2.75), (4.0, 3.3)])
def test_words_on_a_sash_are_three_quarters_of_an_inch_less_than_the_ribbon(ribbon, letters):
    design = fitted("sash", art(40, 10), measured=[("width", ribbon * INCH)])
    assert inches(design)[1] == pytest.approx(letters, abs=0.06)
    assert inches(design)[0] <= 15.01


def test_long_words_on_a_sash_are_limited_by_what_is_seen():
    assert inches(fitted("sash", art(200, 10)))[0] == pytest.approx(15, abs=0.02)


def test_a_blanket_takes_the_motif_13_to_25_times():
    design = fitted("blanket", art(72, 50))
    assert inches(design) == pytest.approx((7.2, 5), abs=0.01)
    assert 13 <= len(design.placement.matrices) <= 25
    assert design.placement.arrangement.stagger


def test_a_name_panel_leaves_equal_space_on_all_sides():
    design = fitted("gift-bag", art(50, 10))
    (left, top), _, (right, bottom), _ = design.placement.corners
    box = design.panel.region.bounds
    assert left - box[0] == pytest.approx(box[2] - right, abs=0.05)
    assert top - box[1] == pytest.approx(box[3] - bottom, abs=0.05)
    assert design.panel.region.bounds[2] * 2 / INCH == pytest.approx(10)


@pytest.mark.parametrize("blank", ["place-mat", "drawstring-bag", "stocking", "fur-stocking", "jar-strip"])
def test_measured_things_are_centred(blank):
    design = fitted(blank, art(60, 40))
    field = design.panel.usable.bounds
    middle = [(corner[0], corner[1]) for corner in design.placement.corners]
    x = sum(point[0] for point in middle) / 4
    assert len(design.placement.matrices) > 1 or x == pytest.approx((field[0] + field[2]) / 2, abs=0.1)


def test_a_canvas_of_ten_inches_leaves_six_and_a_half_and_takes_six_and_a_quarter():
    design = fitted("canvas", art(80, 100))
    left, top, right, bottom = design.panel.region.bounds
    assert (right - left) / INCH == pytest.approx(6.5, abs=0.001)
    assert (bottom - top) / INCH == pytest.approx(6.5, abs=0.001)
    assert inches(design)[1] == pytest.approx(6.25, abs=0.005)


def test_a_plate_takes_what_lies_within_its_flat_bottom_from_below():
    design = fitted("glass-plate", DISC)
    assert design.placement.place.id == "underside"
    assert 4.3 <= inches(design)[0] <= 4.5
    assert design.panel.seen == "through-glass"


def test_a_pan_takes_eleven_and_a_quarter_and_a_board_its_inset():
    assert inches(fitted("round-pan", DISC))[0] == pytest.approx(11.25, abs=0.01)
    assert inches(fitted("inset-board", art(32, 43))) == pytest.approx((3.2, 4.3), abs=0.01)


def test_a_twelve_inch_compact_motif_on_a_front_is_questioned():
    job = Job()
    document = Document(standard_workshop(), job)
    document.apply(open_artwork("a.svg", MOTH))
    document.apply(set_placement("x", width_mm=12 * INCH))
    (finding,) = [f for f in document.plan.findings if f.id == "size-unusual"]
    assert "compact" in finding.limit
    document.apply(finding.mend)
    assert first_of(document.plan).placement.width_mm / INCH == pytest.approx(5.5, abs=0.01)


def test_the_reason_names_ink_words_blank_and_range():
    reason = fitted("tee-youth", WORDS).proposal.reason("in")
    assert "ink cover" in reason
    assert "4 words" in reason
    assert "tee, youth M" in reason
    assert "5 to 9 in is the range" in reason
