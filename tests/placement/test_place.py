import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.blanks.build import build_blank
from zinnet.blanks.model import BlankSpec, Measure
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.placement.place import (
    PlacementSpec,
    edge_distances,
    largest_width,
    nearest_inside,
    place_artwork,
)
from zinnet.workshop.model import standard_workshop

HABITS = standard_workshop().habits


def tee(**measures):
    return build_blank(BlankSpec(measured=tuple(Measure(name=name, mm=mm) for name, mm in measures.items())))


def placed(spec=None, blank=None, *, width=254, height=200, habits=HABITS):
    return place_artwork(spec or PlacementSpec(), blank or tee(), habits, width_mm=width, height_mm=height)


def test_the_schools_put_the_top_edge_where_they_say():
    # Common practice, no source: four fingers of 3/4 in are 3 in.
    at = placed(PlacementSpec(school="four-fingers"))
    assert at.from_reference_mm == pytest.approx(4 * 19.05)
    assert at.corners[0][1] == pytest.approx(tee().main.references["collar"][1] + 76.2)
    assert placed(PlacementSpec(school="inch")).from_reference_mm == 31.75


def test_the_users_own_finger_counts():
    own = HABITS.model_copy(update={"finger_mm": 16.0})
    assert placed(PlacementSpec(school="four-fingers"), habits=own).from_reference_mm == 64
    assert placed(PlacementSpec(school="inch"), habits=own).from_reference_mm == 31.75


def test_the_school_goes_by_class_and_by_habit():
    youth = build_blank(BlankSpec(kind="tee", size="youth-m"))
    assert placed().school == "four-fingers"
    assert placed(blank=youth, width=150).school == "two-three-fingers"
    own = HABITS.model_copy(update={"schools": (("tee/youth", "inch"),)})
    assert placed(blank=youth, width=150, habits=own).school == "inch"
    assert placed(habits=own).school == "four-fingers"


def test_centred_artwork_is_as_far_from_both_edges():
    # The trade's own check: 14 cm to the left edge and 14 cm to the right.
    left, right = edge_distances(placed(blank=tee(chest=534)))
    assert left == pytest.approx(right, abs=1e-6)
    assert left == pytest.approx(140, abs=2.5)


@given(st.floats(0.3, 2.5), st.floats(-40, 40), st.floats(-30, 30))
def test_the_largest_width_fits_and_a_little_more_does_not(aspect, off, turn):
    blank = tee()
    spec = PlacementSpec(from_centre_mm=off, turn_deg=turn)
    box = Region([shapely.box(0, 0, 1, aspect)])
    width = largest_width(spec, blank, HABITS, unit_art=box, aspect=aspect)

    def covered(size):
        at = placed(spec, blank, width=size, height=size * aspect)
        return shapely.covers(blank.main.usable, moved(Region([shapely.box(0, 0, size, size * aspect)]), at.matrix))

    assert width == 0 or covered(width - 0.01)
    assert not covered(width + 0.2)


@given(st.floats(-250, 250), st.floats(-60, 500))
def test_the_nearest_place_that_fits_fits(off, below):
    spec = PlacementSpec(from_centre_mm=off, from_reference_mm=below)
    at = placed(spec, width=200, height=180)
    art = moved(Region([shapely.box(0, 0, 200, 180)]), at.matrix)
    again = placed(nearest_inside(spec, art, at), width=200, height=180)
    assert shapely.covers(tee().main.usable, moved(Region([shapely.box(0, 0, 200, 180)]), again.matrix))


def test_no_place_is_named_where_none_fits():
    at = placed(width=900, height=900)
    assert nearest_inside(PlacementSpec(), Region([shapely.box(0, 0, 900, 900)]), at) is None


def test_nothing_is_looked_for_where_artwork_is_larger_than_the_garment(monkeypatch):
    at = placed(width=100)
    monkeypatch.setattr(shapely, "segmentize", None)  # its edge would have as many spots as it is long
    assert nearest_inside(PlacementSpec(), Region([shapely.box(0, 0, 9e8, 20)]), at) is None


@pytest.mark.parametrize(
    ("kind", "place", "anchor_side"),
    [
        ("cap", "cap-front", "bottom"),
        ("tee", "right-sleeve", "bottom"),
        ("tee", "left-chest", "middle"),
        ("tee", "full-back", "top"),
    ],
)
def test_each_anchor_keeps_its_edge_at_the_distance(kind, place, anchor_side):
    blank = build_blank(BlankSpec(kind=kind, size=None if kind == "cap" else "adult-m"))
    at = placed(PlacementSpec(place=place, from_reference_mm=30.0), blank, width=60, height=30)
    _, y = at.reference
    top, bottom = at.corners[0][1], at.corners[2][1]
    edge = {"top": top - y, "bottom": y - bottom, "middle": (top + bottom) / 2 - y}[anchor_side]
    assert at.place.anchor == anchor_side
    assert edge == pytest.approx(30.0)
