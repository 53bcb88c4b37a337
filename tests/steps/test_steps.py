"""Every step, on squares and discs whose areas are known in closed form."""

import math
from itertools import pairwise

import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import document_of, first_of, svg
from zinnet.artwork.source import source_of
from zinnet.base.errors import ArtworkError
from zinnet.geometry.region import union
from zinnet.job.edits import (
    add_step,
    change_step,
    move_step,
    remove_step,
)
from zinnet.layers.split import split_artwork
from zinnet.steps import model as m
from zinnet.steps.run import NO_LENGTHS, RUN, _finished, finished

RED, BLUE, SAND = "#d62828", "#1f57c3", "#d9c39a"
TWO = f'<rect width="40" height="40" fill="{RED}"/><rect x="20" y="20" width="80" height="20" fill="{BLUE}"/>'
"""A red square of 40 and a blue bar of 80 x 20 that covers its lower right quarter: 100 wide in all."""
ROW = "".join(f'<rect x="{x}" y="{y}" width="10" height="10" fill="{RED}"/>' for x, y in ((0, 0), (15, 5), (90, 12)))


def stepped(body, *steps, width=100.0):
    artwork = finished(source_of("a.svg", svg(body)), steps, width)
    return split_artwork(artwork, width_mm=width)


def areas(body, *steps, width=100.0):
    found = {}
    for layer in stepped(body, *steps, width=width).layers:
        found[layer.colour] = found.get(layer.colour, 0.0) + layer.area_mm2
    return found


def at(x, y, wide=100.0):
    return m.Which(points=((x / wide, y / wide),))


COLOURED = {RED: m.Which(colours=(RED,)), BLUE: m.Which(colours=(BLUE,))}


def test_without_steps_the_artwork_is_as_it_came():
    assert areas(TWO) == pytest.approx({RED: 1200, BLUE: 1600})


@pytest.mark.parametrize(
    ("step", "expected"),
    [
        (m.CutAway(which=COLOURED[BLUE], by=COLOURED[RED]), {RED: 1600, BLUE: 1200}),
        (m.CutAway(which=COLOURED[RED], by=COLOURED[BLUE], keep=False), {RED: 1200}),
        (m.Intersect(which=COLOURED[RED], by=COLOURED[BLUE]), {BLUE: 1600}),
        (m.Exclude(), {RED: 1200, BLUE: 1200}),
        (m.Drop(which=at(10, 10)), {BLUE: 1600}),
        (m.Keep(which=at(10, 10)), {RED: 1600}),
        (m.Recolour(which=at(90, 30), colour=SAND), {RED: 1200, SAND: 1600}),
        (m.ReduceColours(count=1), {BLUE: 2800}),
        (m.RemoveSpecks(least_mm2=1610), None),
        (m.FillCounters(), {RED: 1200, BLUE: 1600}),
    ],
    ids=lambda value: value.kind if hasattr(value, "kind") else "",
)
def test_what_a_step_leaves(step, expected):
    if expected is None:
        with pytest.raises(ArtworkError, match="“remove specks” leaves nothing"):
            areas(TWO, step)
        return
    found = areas(TWO, step)
    scale = 100.0 / stepped_width(step)
    assert found == pytest.approx({colour: area * scale**2 for colour, area in expected.items()}, rel=1e-3)


def stepped_width(step):
    """Return how wide the two shapes are after a step, in the drawing's units: the finished width stays 100 mm."""
    if step.kind == "cut-away" and not step.keep:
        return 40.0
    return {"drop": 80.0, "keep": 40.0, "intersect": 80.0}.get(step.kind, 100.0)


@given(st.floats(1, 8), st.floats(60, 300))
def test_an_outline_is_as_wide_as_asked_at_the_finished_width(outline, width):
    """The disc's outline is a ring: pi (R² - r²), with R half the finished width."""
    disc = f'<circle cx="50" cy="50" r="50" fill="{RED}"/>'
    found = areas(disc, m.Outline(width_mm=outline, colours=(BLUE,)), width=width)
    inner = width / 2 - outline
    assert found[RED] == pytest.approx(math.pi * inner**2, rel=2e-3)
    assert found[BLUE] == pytest.approx(math.pi * ((width / 2) ** 2 - inner**2), rel=5e-3)


def test_outlines_in_steps_lie_round_one_another_and_inside_ones_on_top():
    disc = f'<circle cx="50" cy="50" r="50" fill="{RED}"/>'
    found = areas(disc, m.Outline(width_mm=5, colours=(BLUE, SAND)))
    assert found[SAND] == pytest.approx(math.pi * (50**2 - 45**2), rel=5e-3)
    assert found[BLUE] == pytest.approx(math.pi * (45**2 - 40**2), rel=5e-3)
    inside = areas(disc, m.Outline(width_mm=-10, colours=(SAND,)))
    assert inside[SAND] == pytest.approx(math.pi * 40**2, rel=5e-3)


def test_joining_makes_one_part_of_what_touches_and_keeps_what_is_apart():
    crossing = f'<circle cx="20" cy="20" r="15" fill="{RED}"/><circle cx="40" cy="20" r="15" fill="{RED}"/>'
    artwork = finished(source_of("a.svg", svg(crossing + ROW)), (m.Join(),), 100.0)
    assert len(artwork.shapes) == 1
    assert stepped(crossing, m.Join()).crossing_outlines == 0


def test_thin_strokes_and_gaps_follow_the_limits_in_mm():
    bar = f'<rect width="100" height="0.5" fill="{RED}"/>'
    bold = stepped(bar, m.Thicken(least_mm=2.0))
    assert bold.height_mm == pytest.approx(2.0, abs=0.15)
    gap = f'<rect width="49.8" height="40" fill="{RED}"/><rect x="50.2" width="49.8" height="40" fill="{RED}"/>'
    assert stepped(gap, m.CloseGaps(gap_mm=0.6)).layers[0].pieces == 1
    wide = stepped(gap, m.WidenGaps(gap_mm=2.0)).layers[0].region
    left, right = sorted(wide.geoms, key=lambda part: part.bounds[0])
    assert shapely.distance(left, right) >= 1.95


def test_a_small_part_is_enlarged_or_joined_with_a_bridge():
    body = (
        f'<rect width="100" height="40" fill="{RED}"/><circle cx="20" cy="50" r="1" fill="{RED}"/>'
        f'<circle cx="60" cy="50" r="6" fill="{BLUE}"/>'
    )
    dot = m.Which(points=((0.2, 0.5),))
    large = stepped(body, m.Enlarge(which=dot, least_mm=5.0)).layers[0].region
    assert max(part.bounds[2] - part.bounds[0] for part in large.geoms if part.area < 100) == pytest.approx(
        5.0, abs=0.05
    )
    joined = stepped(body, m.Bridge(which=dot, width_mm=1.5)).layers[0].region
    assert len(joined.geoms) == 1
    bar = shapely.intersection(joined, shapely.box(0, 42, 100, 47))
    assert bar.bounds[2] - bar.bounds[0] == pytest.approx(1.5, abs=0.01)
    alone = stepped(body, m.Bridge(which=m.Which(points=((0.6, 0.5),)))).layers
    assert [len(layer.region.geoms) for layer in alone] == [2, 1]


def test_specks_go_by_their_longer_side_too():
    body = (
        f'<rect width="100" height="40" fill="{RED}"/><rect y="50" width="30" height="0.5" fill="{RED}"/>'
        f'<rect x="60" y="50" width="1.5" height="1.5" fill="{RED}"/>'
    )
    region = stepped(body, m.RemoveSpecks(part_mm=2.0)).layers[0].region
    assert sorted(round(part.area) for part in region.geoms) == [15, 4000]


def test_simplified_borders_stay_shared():
    wave = " ".join(f"L{x} {50 + 3 * math.sin(x)}" for x in range(101))
    body = (
        f'<path d="M0 0 L0 50 {wave} L100 0 Z" fill="{RED}"/><path d="M0 100 L0 50 {wave} L100 100 Z" fill="{BLUE}"/>'
    )
    split = stepped(body, m.Simplify(tolerance_mm=2.0))
    one, other = (layer.region for layer in split.layers)
    assert len(one.geoms[0].exterior.coords) < 60
    whole = union([one, other])
    assert whole.area == pytest.approx(one.area + other.area)
    assert len(whole.geoms) == 1
    assert not whole.geoms[0].interiors


@pytest.mark.parametrize("edge", ["left", "centre", "right", "top", "middle", "bottom"])
def test_aligned_parts_share_an_edge(edge):
    parts = [part for layer in stepped(ROW, m.Align(edge=edge)).layers for part in layer.region.geoms]
    if edge in ("left", "centre", "right"):
        assert max(part.bounds[2] - part.bounds[0] for part in parts) == pytest.approx(100, abs=0.1)
    else:
        assert len({round(part.bounds[1], 3) for part in parts}) == 1


def test_distributed_parts_have_equal_gaps():
    parts = sorted(stepped(ROW, m.Distribute()).layers[0].region.geoms, key=lambda part: part.bounds[0])
    across = [b.bounds[0] - a.bounds[2] for a, b in pairwise(parts)]
    assert across[0] == pytest.approx(across[1])
    assert across[0] > 0


def test_copies_turns_and_flips_keep_the_area():
    assert stepped(ROW, m.Duplicate(copies=2, right_mm=0, down_mm=40)).layers[0].pieces == 9
    turned = stepped(ROW, m.Turn(angle_deg=90))
    assert turned.height_mm > turned.width_mm
    flipped = stepped(ROW, m.Flip())
    corner = min(part.bounds[0] for part in flipped.layers[0].region.geoms)
    assert corner == pytest.approx(0, abs=1e-6)
    assert flipped.layers[0].area_mm2 == pytest.approx(stepped(ROW).layers[0].area_mm2)


def test_moved_and_removed_steps_give_the_artwork_back():
    document = document_of(TWO)
    before = first_of(document.plan).split.layers[0].area_mm2
    for edit in (
        add_step(m.Outline(width_mm=4)),
        add_step(m.Recolour(which=COLOURED[RED], colour=SAND)),
        move_step(1, 0),
        change_step(1, m.Outline(width_mm=6)),
    ):
        document.apply(edit)
    assert [step.kind for step in document.job.designs[0].steps] == ["recolour", "outline"]
    assert {layer.colour for layer in first_of(document.plan).split.layers} == {"#23304a", SAND, BLUE}
    document.apply(remove_step(1))
    document.apply(remove_step(0))
    assert first_of(document.plan).split.layers[0].area_mm2 == pytest.approx(before)
    document.undo()
    assert len(document.job.designs[0].steps) == 1


def test_parts_kept_together_or_set_apart_are_cut_so():
    document = document_of(ROW)
    assert len(document.plan.nests[0].parts) == 1
    wide = 100.0
    apart = m.KeepTogether(which=m.Which(points=((5 / wide, 5 / wide),)), apart=True)
    document.apply(add_step(apart))
    assert sorted(len(part.region.geoms) for part in document.plan.nests[0].parts) == [1, 2]


def test_a_point_on_nothing_chooses_nothing():
    assert areas(TWO, m.Drop(which=at(70, 5))) == pytest.approx({RED: 1200, BLUE: 1600}, rel=1e-6)


@given(
    st.lists(
        st.sampled_from(
            [
                m.Join(),
                m.Outline(width_mm=2),
                m.Thicken(least_mm=2),
                m.CloseGaps(gap_mm=1),
                m.Smooth(radius_mm=1),
                m.Turn(angle_deg=30),
                m.Flip(),
                m.Simplify(tolerance_mm=0.2),
                m.Duplicate(right_mm=30),
                m.Exclude(),
                m.FillCounters(),
                m.Move(right_mm=5),
            ]
        ),
        max_size=5,
    ),
    st.floats(40, 400),
)
def test_any_steps_in_any_order_keep_the_finished_width(steps, width):  # fmt: skip
    try:
        split = stepped(TWO, *steps, width=width)
    except ArtworkError:
        return
    left, _, right, _ = split.bounds
    assert right - left == pytest.approx(width, abs=0.1)
    assert all(layer.region.is_valid for layer in split.layers)


WITHOUT_LENGTHS = {
    "drop": m.Drop(which=m.Which(colours=(BLUE,))),
    "keep": m.Keep(which=at(10, 10)),
    "flip": m.Flip(which=m.Which(colours=(RED,)), upright=True),
    "recolour": m.Recolour(which=m.Which(colours=(BLUE,)), colour=SAND),
    "reduce-colours": m.ReduceColours(count=1),
    "keep-together": m.KeepTogether(which=m.Which(colours=(RED,))),
}


@pytest.mark.parametrize("kind", sorted(NO_LENGTHS))
@given(width=st.floats(20.0, 380.0))
def test_steps_without_lengths_come_out_as_if_they_were_drawn_at_the_very_width(kind, width):
    step = WITHOUT_LENGTHS[kind]
    source = source_of("a.svg", svg(f'{TWO}<circle cx="70" cy="60" r="18" fill="{SAND}"/>'))
    found = split_artwork(finished(source, (step,), width), width_mm=width)
    true = split_artwork(_finished(source, (step,), width), width_mm=width)
    assert found.height_mm == pytest.approx(true.height_mm, abs=0.05)
    assert [layer.colour for layer in found.layers] == [layer.colour for layer in true.layers]
    for one, other in zip(found.layers, true.layers, strict=True):
        assert shapely.hausdorff_distance(one.region, other.region) < 0.05


def test_steps_without_lengths_have_none_and_are_drawn_once_for_many_widths():
    assert NO_LENGTHS == WITHOUT_LENGTHS.keys() <= RUN.keys()
    for step in WITHOUT_LENGTHS.values():
        assert not [name for name in type(step).model_fields if name.endswith("_mm")]
    document = document_of(TWO)
    source, drop = source_of("a.svg", svg(TWO)), (WITHOUT_LENGTHS["drop"],)
    with document.stages.in_use():
        assert finished(source, drop, 200.0) is finished(source, drop, 230.0)
        move = (*drop, m.Move(right_mm=3.0))
        assert finished(source, move, 200.0) is not finished(source, move, 230.0)
