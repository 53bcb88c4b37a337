"""What lies beside one another: too near, torn apart on a size, and moved clear so that nothing else comes of it."""

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import cases, document_of, svg
from zinnet.job.edits import add_design, add_sizes, choose_film, set_placement
from zinnet.plan.ahead import look_ahead
from zinnet.plan.arranging import grouped
from zinnet.plan.clear import usual_gap_mm

SQUARE = '<rect width="40" height="40" fill="#d62828"/>'
OTHER = '<rect width="40" height="40" fill="#1f57c3"/>'
PUFF = choose_film("#d62828", "white-puff")
ADHESIVE = (choose_film("#d62828", "white-adhesive"), choose_film("#1f57c3", "lamplight-adhesive"))


def laid(*squares, edits=()):
    """Return a tee with squares of 40 mm, each so far to the right and below the collar (mm)."""
    document = document_of(SQUARE)
    for number, (across, down) in enumerate(squares):
        if number:
            document.apply(add_design(f"other {number}.svg", svg(OTHER)))
        at = {"from_centre_mm": across, "from_reference_mm": down}
        document.apply(set_placement("x", design=number, place="full-front", width_mm=40.0, **at))
    for edit in edits:
        document.apply(edit)
    return document


def found(document, finding_id):
    return [one for one in document.plan.findings if one.id == finding_id]


def gap_between(document):
    one, other = (design.art for design in document.plan.garments[0].designs)
    return shapely.distance(one, other)


@pytest.mark.parametrize(
    ("gap", "films", "why"),
    [
        (1.5, (), "scissors"),
        (0.4, (), "scissors"),
        (2.2, (), None),
        (2.2, (PUFF,), None),
        (1.7, (PUFF,), "White puff grows"),
        (0.5, ADHESIVE, "slip"),
        (1.2, ADHESIVE, None),
    ],
)
def test_designs_that_lie_too_near_are_found_with_the_gap_and_why(gap, films, why):
    document = laid((0.0, 80.0), (0.0, 120.0 + gap), edits=films)
    near = found(document, "touches-another")
    if why is None:
        assert near == []
        return
    (one,) = near
    assert why in one.limit
    assert f"{gap:g} mm" in one.measured


def test_what_is_too_near_is_moved_clear_down_the_middle_and_nothing_else_comes_of_it():
    document = laid((0.0, 80.0), (0.0, 121.0))
    before = {finding.id for finding in document.plan.findings}
    (near,) = found(document, "touches-another")
    document.apply(near.mend)
    assert {finding.id for finding in document.plan.findings} <= before - {"touches-another"}
    assert gap_between(document) == pytest.approx(12.0, abs=0.05)
    assert document.job.designs[1].placement.from_centre_mm == 0.0


def test_it_is_moved_by_the_gap_that_the_others_have():
    document = laid((0.0, 80.0), (0.0, 140.0), (0.0, 200.0), (0.0, 241.0))
    assert usual_gap_mm(document.plan.garments[0], "front") == pytest.approx(20.0)
    (near,) = found(document, "touches-another")
    document.apply(near.mend)
    assert not found(document, "touches-another")
    arts = [design.art for design in document.plan.garments[0].designs]
    assert shapely.distance(arts[2], arts[3]) == pytest.approx(20.0, abs=0.05)


def test_parts_of_one_drawing_are_only_too_near_where_film_grows():
    bars = '<rect width="40" height="10" fill="#d62828"/><rect y="10.6" width="40" height="10" fill="#1f57c3"/>'
    size = set_placement("x", width_mm=40.0)
    assert not found(document_of(bars, size), "touches-another")
    (near,) = found(document_of(bars, size, PUFF), "touches-another")
    assert "0.6 mm" in near.measured
    assert "grows" in near.limit
    assert near.mend is None


def test_designs_that_lie_on_one_another_can_be_moved_clear_as_well_as_cut_away():
    document = laid((0.0, 80.0), (10.0, 95.0), edits=(PUFF, choose_film("#1f57c3", "gold-glitter")))
    (overlap,) = found(document, "designs-overlap")
    assert [mend.name for mend in overlap.mends] == ["cut the lower one away", "move it clear"]
    assert overlap.to_json()["mends"][1] == {"number": 2, "label": "move it clear"}
    document.apply(overlap.mends[1])
    assert not found(document, "designs-overlap")
    assert not found(document, "touches-another")
    assert gap_between(document) == pytest.approx(12.0, abs=0.05)


def test_a_size_on_which_one_of_a_group_was_moved_is_torn_and_mended():
    document = laid((0.0, 80.0), (0.0, 130.0))
    document.apply(grouped(document.plan.garments[0], [0, 1], "sign"))
    document.apply(add_sizes(("adult-s", "adult-xl")))
    assert not found(document, "group-torn")
    document.apply(set_placement("x", design=1, size="adult-xl", from_centre_mm=25.0))
    (torn,) = found(document, "group-torn")
    assert "XL" in torn.measured
    assert "25 mm off" in torn.measured
    document.apply(torn.mend)
    assert not found(document, "group-torn")
    assert document.job.family[1].apart == ()


def test_what_is_not_composed_together_may_lie_elsewhere_on_a_size():
    document = laid((0.0, 80.0), (0.0, 140.0), edits=(add_sizes(("adult-xl",)),))
    document.apply(set_placement("x", design=1, size="adult-xl", from_centre_mm=25.0))
    assert not found(document, "group-torn")


@settings(max_examples=cases(15, 200), deadline=None)
@given(
    st.lists(
        st.tuples(st.floats(-90, 90).map(round), st.floats(70, 300).map(round)), min_size=2, max_size=4, unique=True
    )
)
def test_wherever_designs_lie_moving_one_clear_leaves_it_near_no_other(squares):
    document = laid(*squares)
    findings = [one for one in document.plan.findings if one.id in ("touches-another", "designs-overlap")]
    for finding in findings:
        for mend in finding.mends:
            if mend.name != "move it clear":
                continue
            garment = look_ahead(mend.change(document.job), document.workshop).garments[0]
            moved = [
                index
                for index, (old, new) in enumerate(zip(document.plan.garments[0].designs, garment.designs, strict=True))
                if shapely.distance(old.art.centroid, new.art.centroid) > 0.01
            ]
            (one,) = moved
            others = [design.art for design in garment.designs if design.index != one]
            assert min(shapely.distance(garment.designs[one].art, other) for other in others) >= 4.0
            assert shapely.covers(garment.designs[one].panel.usable, garment.designs[one].art)
