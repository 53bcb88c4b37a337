"""Letters along an arc: on the measured circle, turned to its tangent, with equal gaps, by trigonometry alone."""

import math
from itertools import pairwise

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, first_of
from zinnet.artwork.lettering.text import TextSpec
from zinnet.artwork.source import TextArt
from zinnet.bench.document import Document
from zinnet.blanks.catalogue import read_blank_name
from zinnet.blanks.hats import arc_of
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.job.edits import add_source, choose_blank, set_measure, set_placement
from zinnet.output.plan_json import letters_json
from zinnet.placement.arrange import Arc, Band, Ring, set_on_arc
from zinnet.workshop.model import standard_workshop

SHAPES = {
    "I": "M{x} 0h6v30h-6z",
    "O": "M{x} 15a9 15 0 1 0 18 0a9 15 0 1 0 -18 0z",
    "L": "M{x} 0h6v24h10v6h-16z",
    "A": "M{x} 30l9 -30l9 30h-6l-3 -11l-3 11z",
    "T": "M{x} 0h18v6h-6v24h-6v-24h-6z",
    "i": "M{x} 10h5v20h-5z M{x} 0h5v5h-5z",
}
WIDE = {"I": 6, "O": 18, "L": 16, "A": 18, "T": 18, "i": 5}


def word(text, gap=5.0):
    x, parts = 0.0, []
    for letter in text:
        parts.append(SHAPES[letter].format(x=x))
        x += WIDE[letter] + gap
    return f'<path d="{" ".join(parts)}" fill="#f4ead5"/>'


def cap(text, *edits, gap=5.0):
    box = 'viewBox="0 0 400 40"'
    document = document_of(word(text, gap), choose_blank(read_blank_name("cap")), *edits, attributes=box)
    return first_of(document.plan)


def circle_of(width, rise):
    """Return the radius through both corners and the seam's middle, by intersecting chords (Euclid III.35)."""
    return (width**2 / 4 + rise**2) / (2 * rise)


@given(
    st.text("IOLATi", min_size=2, max_size=8),
    st.floats(150, 210),
    st.floats(12, 40),
    st.floats(60, 115),
    st.floats(6, 13),
)
def test_letters_stand_on_the_measured_arc_at_its_tangent(text, width, rise, wide, up):
    design = cap(
        text,
        set_measure("brim_width", width),
        set_measure("brim_rise", rise),
        set_placement("x", width_mm=wide, from_reference_mm=up),
    )
    radius = circle_of(width, rise) + up
    centre = np.array([0.0, circle_of(width, rise)])
    letters = letters_json(design)
    assert len(letters) == len(text)
    for letter in letters:
        foot = np.array(letter["foot"])
        assert math.dist(foot, centre) == pytest.approx(radius, abs=0.1)
        tangent = math.degrees(math.atan2(foot[0] - centre[0], centre[1] - foot[1]))
        assert letter["turn_deg"] == pytest.approx(tangent, abs=0.1)


def outlines_on_panel(design):
    """Return each letter where it lies on the panel, by the matrices that are exported."""
    return [
        moved(letter, np.array(row["artwork_mm_to_panel"]))
        for letter, row in zip(design.setting.letters, letters_json(design), strict=True)
    ]


@given(
    st.text("IOLATi", min_size=3, max_size=8),
    st.floats(12, 40),
    st.floats(50, 110),
    st.one_of(st.none(), st.floats(1, 6)),
)
def test_clear_gaps_are_equal_and_the_word_is_centred(text, rise, wide, gap):
    arrangement = Arc(gap_mm=gap).model_dump()
    design = cap(text, set_measure("brim_rise", rise), set_placement("x", width_mm=wide, arrangement=arrangement))
    laid = outlines_on_panel(design)
    gaps = [shapely.distance(a, b) for a, b in pairwise(laid)]
    assert max(gaps) <= 1.05 * min(gaps)
    if gap is not None:
        assert min(gaps) == pytest.approx(gap, rel=0.05)
    left, _, right, _ = shapely.total_bounds(laid)
    assert abs(left + right) < 0.1


def test_what_is_cut_is_what_is_seen_on_the_arc():
    design = cap("LOT", set_placement("x", width_mm=60.0))
    seen = shapely.union_all(outlines_on_panel(design))
    assert shapely.symmetric_difference(seen, design.art).area < 1e-6 * seen.area


def test_a_wide_gap_between_words_stays_a_wide_gap():
    body = word("LIT") + word("TOL").replace("M", "M").replace("<path", '<path transform="translate(95 0)"')
    design = document_of(body, choose_blank(read_blank_name("cap")), attributes='viewBox="0 0 400 40"').plan
    laid = outlines_on_panel(first_of(design))
    gaps = [shapely.distance(a, b) for a, b in pairwise(laid)]
    assert gaps[2] > 2 * gaps[0]
    assert max(gaps[:2] + gaps[3:]) <= 1.05 * min(gaps[:2] + gaps[3:])


def test_inward_letters_have_their_heads_to_the_middle():
    letters = Region([shapely.box(20 * k, 0, 20 * k + 12, 30) for k in range(5)])
    setting = set_on_arc(letters, 100.0, 4.0, True)
    placed = [moved(letter, matrix) for letter, matrix in zip(setting.letters, setting.matrices, strict=True)]
    middle = np.array(setting.foot) - (0, 100.0)
    feet = [
        math.dist(np.array(matrix @ [(one.bounds[0] + one.bounds[2]) / 2, 30.0, 1.0])[:2], middle)
        for one, matrix in zip(setting.letters, setting.matrices, strict=True)
    ]
    assert feet == pytest.approx([100.0] * 5, abs=1e-6)
    assert all(shapely.distance(shapely.Point(middle), one) < 75 for one in placed)


def test_the_seams_circle_goes_through_corners_and_middle():
    # Sagitta: Euclid, Elements III.35; worked by hand: chord 160, rise 40 gives 100.
    arc = arc_of(160, 40)
    assert arc.radius == pytest.approx(100)
    for point in ((-80, 40), (80, 40), (0, 0)):
        assert math.dist(point, arc.centre) == pytest.approx(arc.radius)


def test_copies_round_a_circle_are_evenly_spread():
    arrangement = Ring(count=7, radius_mm=120.0).model_dump()
    document = document_of(
        '<rect width="20" height="30" fill="#f4ead5"/>', set_placement("x", width_mm=30.0, arrangement=arrangement)
    )
    placement = first_of(document.plan).placement
    middles = [np.array(m @ [15, 22.5, 1])[:2] for m in placement.matrices]
    centre = sum(middles) / 7
    assert [math.dist(centre, m) for m in middles] == pytest.approx([120.0] * 7)
    steps = [math.dist(a, b) for a, b in zip(middles, middles[1:] + middles[:1], strict=True)]
    assert steps == pytest.approx([2 * 120 * math.sin(math.pi / 7)] * 7)


@pytest.mark.parametrize(("blank", "around"), [("jar-strip", 270.0), ("mug", None)])
def test_a_band_is_evenly_spread_with_the_joint_in_a_gap(blank, around):
    document = document_of(
        '<rect width="30" height="30" fill="#f4ead5"/>',
        choose_blank(read_blank_name(blank)),
        set_placement("x", width_mm=30.0, arrangement=Band(count=5).model_dump()),
    )
    placement = first_of(document.plan).placement
    xs = sorted(m[0, 2] for m in placement.matrices)
    steps = np.diff(xs)
    assert steps == pytest.approx([steps[0]] * 4)
    if around is not None:
        assert steps[0] == pytest.approx(around / 5)
        assert around - (xs[-1] - xs[0]) == pytest.approx(steps[0])


def test_on_a_tapered_wall_copies_turn_with_it():
    document = document_of(
        '<rect width="30" height="30" fill="#f4ead5"/>',
        choose_blank(read_blank_name("tumbler")),
        set_placement("x", width_mm=30.0, arrangement=Band(count=4).model_dump()),
    )
    placement = first_of(document.plan).placement
    centre = np.array(placement.panel.arc.centre)
    for matrix in placement.matrices:
        middle = np.array(matrix @ [15, 15, 1])[:2]
        turned = math.degrees(math.atan2(matrix[1, 0], matrix[0, 0]))
        assert turned == pytest.approx(math.degrees(math.atan2(middle[0] - centre[0], centre[1] - middle[1])), abs=1e-6)


@given(st.floats(12, 90))
def test_a_band_leaves_the_joint_free_at_every_width(width):
    document = document_of(
        '<rect width="30" height="15" fill="#f4ead5"/>',
        choose_blank(read_blank_name("jar-strip")),
        set_placement("x", width_mm=width),
    )
    stops = {finding.id for finding in document.plan.open_stops}
    assert not stops & {"over-keep-out", "outside-usable-area"}


@pytest.mark.parametrize("bend", [60.0, -60.0, 200.0])
def test_a_bent_text_on_an_arc_is_bent_once_and_takes_its_own_bend_back_elsewhere(bend):
    def laid(bend_deg, kind):
        document = Document(standard_workshop())
        document.apply(choose_blank(read_blank_name("cap")))
        text = TextArt(text=TextSpec(text="LANTERN", bend_deg=bend_deg))
        document.apply(add_source("add a text", text))
        document.apply(set_placement("x", width_mm=90.0, arrangement={"kind": kind}))
        return first_of(document.plan)

    once, straight = laid(bend, "arc"), laid(0.0, "arc")
    for one, other in zip(outlines_on_panel(once), outlines_on_panel(straight), strict=True):
        assert shapely.equals_exact(one, other, 1e-6)
    alone, flat = laid(bend, "one"), laid(0.0, "one")
    assert alone.placement.height_mm > 1.2 * flat.placement.height_mm
