"""Layers from films: rules, merging, order, laps, spread, slivers."""

import itertools

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from tests.helpers import RED_AND_BLUE, svg
from zinnet.artwork.svg.reader import read_svg
from zinnet.films.catalogue import Film, catalogue_films, film_kinds
from zinnet.films.support import support
from zinnet.layers.build import build_layers
from zinnet.layers.spec import FilmChoice, LayersSpec, PairChoice
from zinnet.layers.split import split_artwork

RED, BLUE, CREAM = "#d62828", "#1f57c3", "#f4ead5"
COLOURS = (RED, BLUE, CREAM, "#2f9e44", "#ee7623")
MEETING = '<rect width="40" height="60" fill="#d62828"/><rect x="40" width="40" height="60" fill="#1f57c3"/>'
# The table of film kinds, "may carry another film on top": common practice, no source.
MAY_CARRY = {
    "smooth": True,
    "soft-stretch": True,
    "glitter": False,
    "holographic": False,
    "patterned": True,
    "flock": False,
    "puff": False,
    "adhesive": True,
    "sublimation": False,
}


def film(kind, number=1):
    return Film(id=f"{kind}-{number}", name=kind, kind=kind, colour="#808080")


def stack_of(body, *, seen="front", width=100.0, stock=None, share=True, attributes='viewBox="0 0 100 100"', **spec):
    split = split_artwork(read_svg(svg(body, attributes), "t"), width_mm=width)
    return build_layers(
        split, LayersSpec(**spec), catalogue_films() if stock is None else stock, seen=seen, share=share
    )


def two_films(lower, upper, body=RED_AND_BLUE, **spec):
    """Return the layers of two colours cut from films of these kinds."""
    stock = (film(lower, 1), film(upper, 2))
    films = (FilmChoice(colour=RED, film=stock[0].id), FilmChoice(colour=BLUE, film=stock[1].id))
    return stack_of(body, stock=stock, films=films, **spec)


@pytest.mark.parametrize(("lower", "upper"), list(itertools.product(MAY_CARRY, repeat=2)))
def test_each_two_kinds_lie_as_the_table_says(lower, upper):
    # Adhesive film is never heated, and a print lies by itself: only films that are bonded alike lie on each other.
    alike = film_kinds()[lower].bond == film_kinds()[upper].bond
    holds = MAY_CARRY[lower] and alike
    assert support(film(lower), film(upper)).holds == holds
    (pair,) = two_films(lower, upper).pairs
    assert pair.rule.method == ("on-top" if holds else "side-by-side")
    (pair,) = two_films(lower, upper, MEETING).pairs
    assert pair.rule.method == ("lap" if holds else "side-by-side")
    assert len(pair.rule.reason) > 10
    (stacked,) = two_films(lower, upper, method="stack").pairs
    assert (stacked.rule.method, stacked.rule.support.holds) == ("on-top", holds)
    (apart,) = two_films(lower, upper, method="cut-away").pairs
    assert (apart.rule.method, apart.lies_on) == ("side-by-side", False)


def test_glitter_lies_on_glitter_only_by_the_school_that_stacks_it():
    assert not support(film("glitter"), film("glitter", 2)).holds
    held = support(film("glitter"), film("glitter", 2), stack_glitter=True)
    assert (held.holds, held.by_school) == (True, True)
    assert not support(film("glitter"), film("smooth"), stack_glitter=True).holds


def test_colours_that_come_to_one_film_are_one_layer():
    body = '<rect width="50" height="50" fill="#f4ead5"/><rect x="50" width="50" height="50" fill="#f3e9d4"/>'
    (row,) = stack_of(body).layers
    assert len(row.colours) == 2
    assert row.layer.pieces == 1
    assert row.layer.area_mm2 == pytest.approx(50 * 100, rel=1e-6)
    assert len(stack_of(body, share=False).layers) == 2


def test_like_colours_merge_up_to_the_chosen_difference_and_the_larger_gives_the_film():
    body = '<rect width="60" height="50" fill="#1f57c3"/><rect x="60" width="40" height="50" fill="#6db6e8"/>'
    assert [row.film.id for row in stack_of(body).layers] == ["blue", "sky"]
    (row,) = stack_of(body, merge_delta_e=45.0).layers
    assert (row.film.id, row.layer.colour) == ("blue", BLUE)
    own = (FilmChoice(colour="#6db6e8", film="mint"),)
    assert len(stack_of(body, merge_delta_e=45.0, films=own).layers) == 2


def test_what_lies_over_is_pressed_later_and_where_it_is_free_the_largest_first():
    body = (
        '<rect width="20" height="20" fill="#d62828"/><rect x="60" width="30" height="60" fill="#1f57c3"/>'
        '<rect x="5" y="5" width="5" height="5" fill="#f4ead5"/>'
    )
    assert [row.layer.colour for row in stack_of(body).in_press_order] == [BLUE, RED, CREAM]


def test_through_glass_the_front_colour_is_pressed_first_and_must_carry():
    stack = stack_of(RED_AND_BLUE, seen="through-glass", stock=(film("adhesive"),), share=False)
    red, blue = stack.layers
    assert (red.layer.colour, red.layer.order, blue.layer.order) == (RED, 2, 1)
    (pair,) = stack.pairs
    assert (pair.under, pair.over) == (blue, red)
    assert stack.through_glass


def test_the_users_order_only_changes_when_each_is_pressed():
    derived, own = stack_of(RED_AND_BLUE), stack_of(RED_AND_BLUE, order=(BLUE, RED))
    assert [row.layer.colour for row in own.in_press_order] == [BLUE, RED]
    assert {row.layer.colour: row.layer.area_mm2 for row in own.layers} == {
        row.layer.colour: row.layer.area_mm2 for row in derived.layers
    }


def test_a_pair_lies_as_the_user_says():
    choice = PairChoice(lower=RED, upper=BLUE, method="side-by-side")
    (pair,) = stack_of(RED_AND_BLUE, pairs=(choice,)).pairs
    assert pair.rule.chosen
    assert shapely.intersection(pair.lower.layer.region, pair.upper.layer.region).area < 1e-6


def test_the_lap_is_proposed_from_the_misfit_and_kept_within_its_range():
    # From memory: 0.3 to 0.8 mm. Laying by hand 0.3 mm, and smooth film's shrink of 0.2 % over half the width.
    assert stack_of(MEETING, width=100.0).lap_mm == pytest.approx(0.4)
    assert stack_of(MEETING, width=200.0).lap_mm == pytest.approx(0.5)
    assert stack_of(MEETING, width=2000.0).lap_mm == pytest.approx(0.8)
    assert stack_of(MEETING, lap_mm=1.25).lap_mm == 1.25


def test_the_lowest_film_can_be_spread_under_all_and_beyond():
    plain = stack_of(RED_AND_BLUE, method="cut-away")
    whole = shapely.union_all([row.layer.region for row in plain.layers])
    under = stack_of(RED_AND_BLUE, spread="under").layers[0].layer.region
    assert shapely.symmetric_difference(under, whole).area < 1e-3
    beyond = stack_of(RED_AND_BLUE, spread="outline", outline_mm=4.0).layers[0].layer.region
    # Steiner: the area of the offset of any shape is at most area + outline x d + pi d2.
    assert beyond.bounds == pytest.approx((-4, -4, 104, 79), abs=0.01)


def test_slivers_are_found_and_given_to_the_neighbour():
    body = '<circle cx="50" cy="50" r="50" fill="#d62828"/><circle cx="50" cy="50" r="49.8" fill="#1f57c3"/>'
    kept = stack_of(body, method="cut-away")
    mended = stack_of(body, method="cut-away", drop_slivers=True)
    assert kept.layers[0].layer.area_mm2 == pytest.approx(np.pi * (50**2 - 49.8**2), rel=1e-2)
    assert mended.layers[0].layer.area_mm2 == pytest.approx(0, abs=0.5)
    assert mended.layers[1].layer.area_mm2 == pytest.approx(np.pi * 50**2, rel=1e-3)


shapes = st.lists(
    st.tuples(
        st.sampled_from(COLOURS),
        st.integers(0, 80),
        st.integers(0, 80),
        st.integers(4, 40),
        st.sampled_from(["circle", "rect", "ring"]),
    ),
    min_size=2,
    max_size=9,
)


def body_of(found):
    def one(colour, x, y, r, kind):
        if kind == "circle":
            return f'<circle cx="{x}" cy="{y}" r="{r}" fill="{colour}"/>'
        if kind == "rect":
            return f'<rect x="{x}" y="{y}" width="{r}" height="{r}" fill="{colour}"/>'
        hole = f"M{x} {y}h{r}v{r}h{-r}z M{x + r / 4} {y + r / 4}v{r / 2}h{r / 2}v{-r / 2}z"
        return f'<path fill-rule="evenodd" d="{hole}" fill="{colour}"/>'

    return "".join(one(*row) for row in found)


@given(shapes, st.floats(30, 400))
def test_cut_away_layers_are_apart_and_cover_what_is_painted(found, width):
    stack = stack_of(
        body_of(found), width=width, method="cut-away", share=False, attributes='viewBox="-50 -50 200 200"'
    )
    regions = [row.layer.region for row in stack.layers]
    painted = shapely.union_all([row.layer.painted for row in stack.layers])
    overlap = sum(shapely.intersection(a, b).area for a, b in itertools.combinations(regions, 2))
    assert overlap < 1e-6 * painted.area
    assert shapely.symmetric_difference(shapely.union_all(regions), painted).area < 1e-5 * painted.area
    assert all(region.is_valid for region in regions)


@given(shapes, st.floats(60, 300), st.floats(0.3, 2.0))
def test_a_lap_is_as_wide_as_asked_and_never_shows(found, width, lap):
    stack = stack_of(
        body_of(found), width=width, method="lap", lap_mm=lap, share=False, attributes='viewBox="-50 -50 200 200"'
    )
    painted = shapely.union_all([row.layer.painted for row in stack.layers])
    above = shapely.Polygon()
    for row in reversed(stack.layers):
        shown = shapely.difference(row.layer.region, above)
        assert shapely.symmetric_difference(shown, row.seen).area < 1e-5 * painted.area
        above = shapely.union_all([above, row.layer.region])
    for pair in stack.pairs:
        # All of the upper one that lies within the lap of the lower, straight across their border, has it below.
        near = shapely.intersection(shapely.buffer(pair.lower.seen, lap * 0.98), pair.upper.seen)
        touching = [part for part in shapely.get_parts(near) if shapely.dwithin(part, pair.lower.seen, 1e-6)]
        bare = shapely.difference(shapely.union_all(touching), pair.lower.layer.region)
        assert bare.area < 1e-4 * painted.area


@given(shapes, st.sampled_from([2, 3]))
def test_by_the_rules_no_more_films_lie_on_one_another_than_asked(found, most):
    stack = stack_of(body_of(found), most_films=most, share=False, attributes='viewBox="-50 -50 200 200"')
    assert stack.deepest <= most
    assert stack.too_deep.area < 0.05
