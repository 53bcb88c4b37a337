"""Every blank of the catalogue: it can be drawn, has the measures that were taken, and refuses nonsense."""

import itertools
import math
import os

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from zinnet.base.errors import BlankError, UnitsError
from zinnet.base.units import read_length
from zinnet.blanks.build import build_blank
from zinnet.blanks.catalogue import (
    blank_kinds,
    measure_kinds,
    read_blank_kinds,
    read_blank_name,
    sizes,
    typical_measures,
    user_file,
)
from zinnet.blanks.hard import rolled_out
from zinnet.blanks.model import BlankSpec, DrawnKeepOut, Measure
from zinnet.placement.place import places_on

EVERY = [(kind, size) for kind, row in blank_kinds().items() for size in row.sizes]
GARMENTS = ["tee", "long-sleeve", "fitted-tee", "tank", "sweatshirt", "hoodie", "zip-hoodie", "polo", "shirt"]


def blank(name, **measures):
    taken = tuple(Measure(name=key, mm=mm) for key, mm in measures.items())
    return build_blank(read_blank_name(name).model_copy(update={"measured": taken}))


@pytest.mark.parametrize(("kind", "size"), EVERY)
def test_every_blank_in_every_size_has_sound_panels(kind, size):
    made = build_blank(BlankSpec(kind=kind, size=size))
    assert made.panels
    for panel in made.panels:
        assert panel.region.is_valid
        assert panel.region.area > 400
        assert panel.usable.is_valid
        assert shapely.covers(shapely.buffer(panel.region, 1e-6), panel.usable)
        assert panel.usable.area > 0.3 * panel.region.area
        assert all(cloth.region.is_valid and not cloth.region.is_empty for cloth in panel.cloth)
        assert panel.references
        assert panel.marks[0][0] < panel.marks[1][0]
    places = places_on(made)
    assert blank_kinds()[kind].place in places
    for place in places.values():
        assert place.reference in made.panel(place.panel).references


def test_the_catalogue_has_what_is_pressed_on():
    assert set(GARMENTS) <= set(blank_kinds())
    for kind in GARMENTS:
        assert {sizes()[size].class_ for size in blank_kinds()[kind].sizes} == {"infant", "toddler", "youth", "adult"}
    others = """
        baby-body apron tote drawstring-bag gift-bag zip-pouch cap bucket-hat beanie sash blanket place-mat pillow-cover
        stocking jar-strip canvas glass-plate round-pan inset-board tumbler mug rectangle circle own-outline
    """
    assert set(others.split()) <= set(blank_kinds())
    assert all(row.source for row in blank_kinds().values())


@pytest.mark.parametrize("kind", blank_kinds())
def test_every_measure_has_a_tape_that_is_as_long(kind):
    spec = BlankSpec(kind=kind, size=None)
    made = build_blank(spec)
    tapes = {tape.measure: math.dist(tape.start, tape.end) for panel in made.panels for tape in panel.tapes}
    assert set(tapes) == set(measure_kinds(kind))
    for name, length in tapes.items():
        if (kind, name) == ("sash", "around"):
            continue  # only half of the ribbon is drawn
        tolerance = 0.06 if (kind, name) == ("cap", "brim") else 0.003
        assert length == pytest.approx(made.measures[name], rel=tolerance, abs=0.4), name


@pytest.mark.parametrize("kind", ["tee", "hoodie", "polo"])
def test_sizes_grow(kind):
    for one, other in itertools.pairwise(blank_kinds()[kind].sizes):
        small, large = typical_measures(kind, one), typical_measures(kind, other)
        assert all(small[name] <= large[name] for name in small)
        assert small["chest"] < large["chest"]


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
    panel = blank("tee-adult", **taken).main
    assert len(panel.region.geoms) == 1
    assert panel.references["collar"] == (0, taken["neck_drop"])
    left, top, right, bottom = panel.region.bounds
    assert right - left == pytest.approx(taken["chest"], abs=0.1)
    assert bottom == pytest.approx(taken["length"], abs=0.1)
    assert top == pytest.approx(0, abs=0.1)
    assert left == pytest.approx(-right)


@given(measures)
def test_the_usable_area_keeps_off_seams_collar_and_hem(taken):
    panel = blank("tee-adult", **taken).main
    assert panel.usable.bounds[1] >= 0
    assert panel.usable.bounds[3] <= taken["length"] - 40 + 0.1
    assert not panel.usable.intersects(shapely.Point(panel.references["collar"]).buffer(9.9))


@given(measures)
def test_the_edges_at_a_height_are_where_a_ruler_meets_them(taken):
    panel = blank("tee-adult", **taken).main
    for share in (0.3, 0.6, 0.9):
        y = share * taken["length"]
        across = shapely.intersection(panel.region, shapely.LineString([(-2000, y), (2000, y)])).bounds
        assert panel.edges_at(y) == pytest.approx((across[0], across[2]), abs=0.05)
    assert panel.edges_at(-50) is None


@pytest.mark.parametrize(
    ("name", "taken", "says"),
    [
        ("tee-adult", {"neck_width": 290, "chest": 400}, "Neck width of 290 mm does not go with chest of 400 mm"),
        ("tee-adult", {"chest": 2000}, "Chest of 2000 mm can't be right"),
        ("tee-adult", {"chest": -5}, "Chest of -5 mm can't be right"),
        ("tee-adult", {"chest": 0}, "can't be right"),
        ("tee-adult", {"chest": 10_000_000}, "can't be right"),
        ("tee-adult", {"hat": 80}, "no measure “hat”"),
        ("tee-adult", {"length": 520, "chest": 800}, "at least 0.75"),
        ("cap", {"brim_rise": 80, "brim_width": 120}, "at most 0.45"),
        ("canvas", {"bar": 100, "width": 200}, "at most 0.42"),
        ("sash", {"width": 240, "visible": 300}, "at most 0.5"),
        ("glass-plate", {"bottom": 300, "rim": 200}, "at most 1 times"),
        ("gift-bag", {"panel_width": 400, "width": 300}, "at most 1 times"),
        ("hoodie-adult", {"pocket_width": 590}, "at most 0.9"),
    ],
)
def test_measures_that_can_not_be_are_refused_in_one_sentence_with_the_reason(name, taken, says):
    with pytest.raises(BlankError, match=says) as caught:
        blank(name, **taken)
    assert "\n" not in str(caught.value)


@pytest.mark.parametrize("text", ["1/0", "10 km", "-", "1e999", "nan", "0x10", "27cm cm", "9" * 200])
def test_lengths_that_are_none_are_answered_with_one_sentence(text):
    with pytest.raises(UnitsError) as caught:
        read_length(text)
    assert str(caught.value).count("\n") == 0


@pytest.mark.parametrize(
    ("name", "kind", "size"),
    [
        ("tee-adult", "tee", "adult-m"),
        ("tee", "tee", "adult-m"),
        ("tee-youth", "tee", "youth-m"),
        ("tee-adult-3xl", "tee", "adult-3xl"),
        ("zip-hoodie-toddler", "zip-hoodie", "toddler"),
        ("cap", "cap", "one"),
        ("baby-body", "baby-body", "infant"),
    ],
)
def test_blanks_are_named_by_kind_and_size(name, kind, size):
    spec = read_blank_name(name)
    assert (spec.kind, spec.size) == (kind, size)


@pytest.mark.parametrize("name", ["kimono", "tee-giant", "", "cap-adult-xl", "../tee"])
def test_unknown_blanks_are_named_with_what_there_is(name):
    with pytest.raises(BlankError, match=r"There is no blank|has no size"):
        read_blank_name(name)


def test_keep_outs_leave_the_usable_area():
    spec = BlankSpec(kind="tee", size="adult-m")
    spot = DrawnKeepOut(panel="front", kind="plastic", left=-40, top=200, right=40, bottom=260)
    drawn = build_blank(spec.model_copy(update={"keep_outs": (spot,)})).main
    assert not drawn.usable.contains(shapely.Point(0, 230))
    assert build_blank(spec).main.usable.contains(shapely.Point(0, 230))
    with pytest.raises(BlankError, match="no panel “sole”"):
        build_blank(spec.model_copy(update={"keep_outs": (spot.model_copy(update={"panel": "sole"}),)}))


@pytest.mark.parametrize(
    ("name", "kind"),
    [
        ("zip-hoodie-adult", "zip"),
        ("polo-adult", "buttons"),
        ("fur-stocking", "fur"),
        ("drawstring-bag", "cords"),
        ("baby-body", "plastic"),
        ("tote", "thick seam"),
    ],
)
def test_what_heat_ruins_is_kept_off(name, kind):
    panels = blank(name).panels
    assert any(keep_out.kind == kind for panel in panels for keep_out in panel.keep_outs)


def test_a_sash_reads_from_its_shoulder_or_from_its_joint():
    right = build_blank(BlankSpec(kind="sash", size=None, shoulder="right")).main.ends
    left = build_blank(BlankSpec(kind="sash", size=None, shoulder="left")).main.ends
    assert "shoulder" in right[0]
    assert "joint" in right[1]
    assert "joint" in left[0]
    assert "shoulder" in left[1]


@given(st.floats(60, 110), st.floats(60, 110), st.floats(50, 200))
def test_a_rolled_out_cup_has_the_area_and_the_rims_of_a_frustum(top, bottom, height):
    # Lateral area of a conical frustum: pi (R + r) s, with the slant height s (any geometry handbook).
    shape, arc = rolled_out(top, bottom, height)
    assert shape.area == pytest.approx(math.pi * (top + bottom) / 2 * height, rel=2e-4)
    if arc is None:
        return
    points = shapely.get_coordinates(shape.exterior)
    far = np.hypot(points[:, 0] - arc.centre[0], points[:, 1] - arc.centre[1])
    rim = points[np.abs(far - abs(arc.radius)) < 1e-6]
    assert np.hypot(*np.diff(rim[np.argsort(rim[:, 0])], axis=0).T).sum() == pytest.approx(math.pi * top, rel=2e-3)


def test_blanks_of_ones_own_are_added_and_broken_files_are_named():
    path = user_file()
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(
        '[steward-vest]\nlike = "tank"\nname = "Steward\'s vest"\n\n[steward-vest.typical]\nchest = ' + str([600] * 11)
    )
    made = build_blank(read_blank_name("steward-vest-adult"))
    assert made.measures["chest"] == 600
    assert made.measures["length"] == typical_measures("tank", "adult-m")["length"]
    assert "full-front" in places_on(made)
    for text, says in (
        ("[x", "can't be read"),
        ('[x]\nlike="moon"', "not there"),
        ('[x]\nlike="x"', "like itself"),
        ("x = 3", "not a table"),
        ('[x]\nlike="tee"\nform="kite"', "unknown form"),
        ('[x]\nlike="tee"\n[x.typical]\nchest=[1]', "1 values for 11 sizes"),
    ):
        path.write_text(text)
        os.utime(path, ns=(hash(text) % 10**15, hash(text) % 10**15))
        with pytest.raises(BlankError, match=says) as said:
            read_blank_kinds()
        assert path.name in str(said.value)
        assert "tee" in blank_kinds(), "what only looks a blank up goes on with those that ship"
