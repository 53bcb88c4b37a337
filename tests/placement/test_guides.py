"""The tables of places and schools are sound, whatever is added to them."""

import pytest

from zinnet.base.errors import ZinnetError
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import blank_kinds, sizes
from zinnet.blanks.model import BlankSpec
from zinnet.placement.guides import (
    Range,
    all_places,
    guide_square_mm,
    place_names,
    places_of,
    school,
    schools,
    usual_finger_mm,
    usual_school,
)
from zinnet.placement.place import Habits, PlacementSpec, place_on, places_on

CLASSES = ("infant", "toddler", "youth", "adult")
HABITS = Habits(finger_mm=usual_finger_mm())


def identified(place):
    return f"{place.id}-{place.blanks[0]}"


@pytest.mark.parametrize("place", all_places(), ids=identified)
def test_every_place_has_ranges_in_order_and_a_source(place):
    assert place.source
    assert place.name
    assert place.anchor in ("top", "bottom", "middle")
    for size_class in CLASSES:
        widths = place.widths_of(size_class)
        if widths is not None:
            steps = [widths.least_mm, widths.compact_mm, widths.usual_mm, widths.busy_mm, widths.most_mm]
            assert steps == sorted(steps)
            assert steps[0] > 15
        for found in (place.down_of(size_class), place.across_of(size_class)):
            if found is not None:
                assert found.low_mm <= found.target_mm <= found.high_mm


@pytest.mark.parametrize("place", all_places(), ids=identified)
def test_every_place_lies_on_a_panel_of_every_blank_that_it_names(place):
    for kind in place.blanks:
        for size in blank_kinds()[kind].sizes:
            blank = build_blank(BlankSpec(kind=kind, size=size))
            panel = blank.panel(place.panel)
            if panel is None:
                assert place.panel.endswith("sleeve")
                continue
            assert place.reference in panel.references


@pytest.mark.parametrize("place", [place for place in all_places() if place.widths], ids=identified)
def test_smaller_classes_have_smaller_artwork(place):
    usual = [place.widths_of(size_class).usual_mm for size_class in CLASSES]
    assert usual == sorted(usual)


def test_the_places_that_the_trade_names_are_there():
    names = """
        full-front centre-chest left-chest right-chest pocket full-back upper-back right-sleeve left-sleeve front-hem
        hood cap-front cap-side tote-front apron-bib
    """
    assert set(names.split()) <= set(place_names())


def test_left_is_the_wearers_and_right_its_mirror_image():
    left, right = (places_of("tee")[name] for name in ("left-chest", "right-chest"))
    for size_class in CLASSES:
        one, other = left.across_of(size_class), right.across_of(size_class)
        assert one.target_mm > 0
        assert (one.low_mm, one.target_mm, one.high_mm) == (-other.high_mm, -other.target_mm, -other.low_mm)
        assert left.down_of(size_class) == right.down_of(size_class)


def test_four_schools_are_used_and_the_digit_makes_the_palm():
    # Common practice, no source: (a) four fingers, (b) two to three fingers, (c) 1 to 1 1/2 in, (d) 2 to 3 in.
    # The old English digit is 3/4 in, four of them make the palm of 3 in.
    assert 4 * usual_finger_mm() == pytest.approx(3 * 25.4)
    finger = usual_finger_mm()
    ranges = {name: one.range_mm(finger) for name, one in schools().items()}
    assert ranges["four-fingers"].target_mm == pytest.approx(76.2)
    assert (ranges["two-three-fingers"].low_mm, ranges["two-three-fingers"].high_mm) == pytest.approx((38.1, 57.15))
    assert (ranges["inch"].low_mm, ranges["inch"].high_mm) == pytest.approx((25.4, 38.1))
    assert (ranges["two-three-inches"].low_mm, ranges["two-three-inches"].high_mm) == pytest.approx((50.8, 76.2))
    assert usual_school("adult") == "four-fingers"
    assert usual_school("youth") == "two-three-fingers"


def test_guide_squares_step_with_the_class():
    sides = [guide_square_mm(size_class) for size_class in CLASSES]
    assert sides == sorted(sides)
    assert len(set(sides)) == 4


def test_unknown_names_are_answered_with_the_known_ones():
    with pytest.raises(ZinnetError, match="four-fingers"):
        school("thumb")
    cap = build_blank(BlankSpec(kind="cap", size=None))
    with pytest.raises(ZinnetError, match="no place “full-front”; it has: cap-front"):
        place_on(PlacementSpec(place="full-front"), cap)
    with pytest.raises(ZinnetError, match="There is no place “moon”"):
        place_on(PlacementSpec(place="moon"), cap)


def test_a_school_is_kept_for_a_kind_and_a_class_only():
    habits = HABITS.model_copy(update={"schools": (("hoodie/adult", "two-three-inches"),)})
    assert habits.school_for("hoodie", "adult") == "two-three-inches"
    assert habits.school_for("hoodie", "youth") == "two-three-fingers"
    assert habits.school_for("tee", "adult") == "four-fingers"


def test_a_range_holds_its_ends():
    found = Range(low_mm=10, target_mm=12, high_mm=15)
    assert found.holds(10)
    assert found.holds(15)
    assert not found.holds(15.2)
    assert found.holds(15.2, 0.5)


def test_every_size_has_a_class_and_every_garment_a_place():
    assert {size.class_ for size in sizes().values()} == set(CLASSES)
    for kind, row in blank_kinds().items():
        for size in row.sizes:
            assert row.place in places_on(build_blank(BlankSpec(kind=kind, size=size))), (kind, size)
