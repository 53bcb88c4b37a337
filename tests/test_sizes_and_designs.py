"""Several designs on several panels, and one design over several sizes."""

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import LANTERN, RED_AND_BLUE, document_of, first_of, nested, svg
from zinnet.base.errors import ZinnetError
from zinnet.blanks.catalogue import blank_kinds, read_blank_name
from zinnet.geometry.transform import moved
from zinnet.job.edits import (
    add_design,
    choose_blank,
    choose_film,
    follow_family,
    open_artwork,
    remove_design,
    remove_size,
    set_copies,
    set_measure,
    set_placement,
    set_sizes,
)
from zinnet.output.plan_json import plan_json
from zinnet.placement.arrange import Ring, Rows

ALL = tuple((size, 1) for size in blank_kinds()["tee"].sizes if size != "adult-m")


def family():
    return document_of(LANTERN, set_sizes(ALL), attributes='viewBox="0 0 60 80"')


def widths(document):
    return {garment.size: garment.designs[0].word_width_mm for garment in document.plan.garments}


def test_the_width_steps_with_the_class_and_the_place_is_worked_out_on_each_blank():
    document = family()
    by_size = widths(document)
    assert by_size["infant"] < by_size["toddler"] < by_size["youth-m"] <= by_size["adult-m"]
    for garment in document.plan.garments:
        placement = garment.designs[0].placement
        collar = garment.blank.main.references["collar"][1]
        assert placement.corners[0][1] == pytest.approx(collar + placement.from_reference_mm)
        assert shapely.covers(shapely.buffer(garment.blank.main.usable, 1e-6), garment.designs[0].art)


def test_a_wider_design_makes_the_whole_family_wider():
    document = family()
    before = widths(document)
    document.apply(set_placement("x", width_mm=before["adult-m"] * 0.8))
    after = widths(document)
    assert all(after[size] < before[size] for size in before)
    assert all(after[size] % 5 == 0 for size in after if size != "adult-m")


def test_one_size_is_set_apart_and_follows_again():
    document = family()
    before = widths(document)
    document.apply(set_placement("x", size="toddler", width_mm=100.0, from_centre_mm=7.0))
    assert widths(document) == before | {"toddler": 100.0}
    document.apply(set_placement("x", width_mm=150.0))
    assert widths(document)["toddler"] == 100
    document.apply(follow_family("toddler", 0))
    assert widths(document)["toddler"] != 100


def test_a_size_is_measured_by_itself():
    document = family()
    document.apply(set_measure("chest", 333.0, "toddler"))
    assert document.plan.garments[2].blank.measures["chest"] == 333
    assert document.plan.blank.measures["chest"] == 520


def test_the_same_size_twice_or_an_unknown_one_is_refused():
    document = family()
    for counts in ((("adult-m", 1),), (("moon", 1),)):
        with pytest.raises(ZinnetError):
            document.apply(set_sizes(counts))
    document.apply(remove_size("infant"))
    assert "infant" not in widths(document)


def test_every_size_is_cut_as_often_as_it_is_asked_for():
    document = document_of(LANTERN, set_copies(3), set_sizes((("toddler", 2),)))
    copies = {piece.name: piece.copies for nest in document.plan.nests for piece in nest.task.pieces}
    assert {count for name, count in copies.items() if name.startswith("adult-m-")} == {3}
    assert {count for name, count in copies.items() if name.startswith("toddler-")} == {2}


def test_designs_lie_on_their_own_panels_and_share_the_mats_of_a_film():
    document = document_of(LANTERN, add_design("back.svg", svg(LANTERN), "full-back"), set_copies(2))
    front, back = document.plan.garments[0].designs
    assert (front.panel.id, back.panel.id) == ("front", "back")
    names = [piece.name for nest in document.plan.nests for piece in nest.task.pieces]
    assert len(names) == len(set(names)) == 4
    assert len({nest.film.id for nest in document.plan.nests}) == len(document.plan.nests) == 2


def test_a_design_is_taken_out_with_what_was_set_apart_for_it():
    document = document_of(
        LANTERN,
        add_design("back.svg", svg(RED_AND_BLUE), "full-back"),
        set_sizes((("toddler", 1),)),
        set_placement("x", design=1, size="toddler", width_mm=70.0),
        remove_design(0),
    )
    (design,) = document.plan.garments[1].designs
    assert design.word_width_mm == 70
    assert design.panel.id == "back"


def test_another_blank_takes_designs_to_its_usual_place():
    document = document_of(LANTERN, set_placement("x", place="left-chest"), set_sizes((("toddler", 1),)))
    document.apply(choose_blank(read_blank_name("cap")))
    assert first_of(document.plan).placement.place.id == "cap-front"
    assert document.job.family == ()
    document.apply(choose_blank(read_blank_name("hoodie-adult")))
    assert first_of(document.plan).placement.place.id == "full-front"


def test_new_artwork_replaces_one_design_only():
    document = document_of(LANTERN, add_design("back.svg", svg(LANTERN), "full-back"))
    document.apply(open_artwork("other.svg", svg(RED_AND_BLUE), 1))
    assert [design.source.file.name for design in document.job.designs] == ["test.svg", "other.svg"]
    assert document.job.designs[1].placement.place == "full-back"


def test_a_stretched_design_is_as_tall_as_asked_for():
    document = document_of(LANTERN, set_placement("x", width_mm=120.0, height_mm=200.0))
    assert first_of(document.plan).placement.height_mm == 200
    assert first_of(document.plan).art.bounds[3] - first_of(document.plan).art.bounds[1] == pytest.approx(200, abs=0.05)
    with pytest.raises(ZinnetError, match="proportions"):
        document.apply(set_placement("x", height_mm=5000.0))
    for wrong in (0.0, -4.0, 1e9):
        with pytest.raises(ZinnetError, match="can't be"):
            document.apply(set_placement("x", width_mm=wrong))


@given(
    st.sampled_from(["rows", "ring"]),
    st.sampled_from(["cream", "moss-flock", "white-adhesive"]),
    st.integers(1, 2),
    st.integers(0, 1000),
)
def test_every_copy_that_is_cut_lies_where_the_artwork_is(kind, film, copies, seed):
    """The invariant above all others, for arrangements: laid where its place says, each piece is the artwork there."""
    arrangement = Rows(columns=2, rows=3) if kind == "rows" else Ring(count=5, radius_mm=90.0)
    document = document_of(
        '<path d="M0 0H40V10H25V60H0Z" fill="#f4ead5"/>',
        set_copies(copies),
        choose_film("#f4ead5", film),
        set_placement("x", width_mm=40.0, arrangement=arrangement.model_dump()),
    )
    nested(document)
    plan = document.plan
    pieces = [(piece, mat) for mat in plan_json(plan)["mats"] for piece in mat["pieces"]]
    count = len(first_of(plan).placement.matrices)
    assert len(pieces) == copies * count
    regions = {part.name: part.region for nest in plan.nests for part in nest.parts}
    laid = []
    for piece, _ in pieces:
        on_sheet = moved(regions[piece["piece"]], np.array(piece["cut_to_sheet"]))
        back = np.linalg.inv(np.array(piece["cut_to_sheet"]) @ np.array(piece["panel_to_cut"]))
        laid.append(moved(on_sheet, back))
        if film == "moss-flock":
            # With a nap what is worn upright lies along the film.
            assert piece["turn_deg"] % 360 == 90
    assert (
        shapely.symmetric_difference(shapely.union_all(laid), first_of(plan).art).area < 1e-3 * first_of(plan).art.area
    )
    for one in laid:
        assert sum(shapely.intersection(one, other).area > 0.5 * one.area for other in laid) == copies
