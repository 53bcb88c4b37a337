import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.blanks.model import BlankSpec, Measure
from zinnet.blanks.tee import build_blank
from zinnet.errors import BlankError
from zinnet.geometry.region import Region
from zinnet.geometry.transform import moved
from zinnet.placement.place import (
    PlacementSpec,
    edge_distances,
    largest_width,
    nearest_inside,
    place_artwork,
    proposed_width,
)


def tee(**measures):
    return build_blank(BlankSpec(measured=tuple(Measure(name=name, mm=mm) for name, mm in measures.items())))


measures = st.fixed_dictionaries(
    {
        "chest": st.floats(400, 800),
        "length": st.floats(620, 950),
        "neck_width": st.floats(130, 230),
        "neck_drop": st.floats(60, 200),
        "sleeve": st.floats(80, 350),
    }
)


@given(measures)
def test_the_tee_has_the_measures_that_were_taken(taken):
    blank = tee(**taken)
    assert blank.outline.is_valid
    assert len(blank.outline.geoms) == 1
    assert blank.collar_point == (0, taken["neck_drop"])
    spans = {tape.measure: shapely.LineString([tape.start, tape.end]).length for tape in blank.tapes}
    assert spans == pytest.approx(taken, abs=0.1)
    left, top, right, bottom = blank.panel.bounds
    assert right - left == pytest.approx(taken["chest"], abs=0.1)
    assert bottom == pytest.approx(taken["length"], abs=0.1)
    assert top == pytest.approx(0, abs=0.1)
    assert left == pytest.approx(-right)


@given(measures)
def test_the_usable_area_keeps_off_seams_collar_and_hem(taken):
    blank = tee(**taken)
    assert shapely.covers(blank.panel, blank.usable)
    assert blank.usable.area > 0.3 * blank.panel.area
    assert blank.usable.bounds[1] >= 0
    assert blank.usable.bounds[3] <= taken["length"] - 40 + 0.1
    assert not blank.usable.intersects(shapely.Point(blank.collar_point).buffer(9.9))


@pytest.mark.parametrize(
    ("taken", "says"),
    [
        ({"neck_width": 290, "chest": 400}, "neck of 290 mm does not go with a chest of 400"),
        ({"chest": 2000}, "Chest of 2000 mm can't be right"),
        ({"waist": 80}, "no measure “waist”"),
        ({"length": 520, "chest": 800}, "at least 0.75"),
    ],
)
def test_measures_that_contradict_each_other_are_refused(taken, says):
    with pytest.raises(BlankError, match=says):
        tee(**taken)


def test_the_schools_put_the_top_edge_where_they_say():
    # Common practice, no source: four fingers of 3/4 in are 3 in.
    spec = PlacementSpec(school="four-fingers")
    at = place_artwork(spec, tee(), width_mm=254, height_mm=200)
    assert at.below_collar_mm == pytest.approx(4 * 19.05)
    assert at.corners[0][1] == pytest.approx(tee().collar_point[1] + 76.2)
    assert place_artwork(PlacementSpec(school="inch"), tee(), width_mm=254, height_mm=200).below_collar_mm == 31.75


def test_centred_artwork_is_as_far_from_both_edges():
    # The trade's own check: 14 cm to the left edge and 14 cm to the right.
    at = place_artwork(PlacementSpec(), tee(chest=534), width_mm=254, height_mm=200)
    left, right = edge_distances(at, tee(chest=534))
    assert left == pytest.approx(right, abs=1e-6)
    assert left == pytest.approx(140, abs=2.5)


@given(st.floats(0.3, 2.5), st.floats(-40, 40), st.floats(-30, 30))
def test_the_largest_width_fits_and_a_little_more_does_not(aspect, off, turn):
    blank = tee()
    spec = PlacementSpec(from_centre_mm=off, turn_deg=turn)
    box = Region([shapely.box(0, 0, 1, aspect)])
    width = largest_width(spec, blank, unit_art=box, aspect=aspect)

    def covered(size):
        at = place_artwork(spec, blank, width_mm=size, height_mm=size * aspect)
        return shapely.covers(blank.usable, moved(Region([shapely.box(0, 0, size, size * aspect)]), at.matrix))

    assert width == 0 or covered(width)
    assert not covered(width + 0.2)


def test_a_width_is_proposed_that_is_usual_and_fits():
    assert proposed_width(PlacementSpec(), tee(), aspect=0.8) == 254
    narrow = proposed_width(PlacementSpec(), tee(chest=380, length=520), aspect=1.6)
    assert narrow < 254
    assert narrow % 5 == 0


@given(st.floats(-250, 250), st.floats(-60, 500))
def test_the_nearest_place_that_fits_fits(off, below):
    blank = tee()
    spec = PlacementSpec(from_centre_mm=off, below_collar_mm=below)
    at = place_artwork(spec, blank, width_mm=200, height_mm=180)
    art = moved(Region([shapely.box(0, 0, 200, 180)]), at.matrix)
    found = nearest_inside(spec, blank, art, at)
    again = place_artwork(found, blank, width_mm=200, height_mm=180)
    assert shapely.covers(blank.usable, moved(Region([shapely.box(0, 0, 200, 180)]), again.matrix))


def test_no_place_is_named_where_none_fits():
    blank = tee()
    at = place_artwork(PlacementSpec(), blank, width_mm=900, height_mm=900)
    assert nearest_inside(PlacementSpec(), blank, Region([shapely.box(0, 0, 900, 900)]), at) is None
