"""What goes down in one press: the fewest presses, against every order and grouping there is."""

import itertools

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.helpers import RED_AND_BLUE, cases, document_of, svg
from zinnet.job.edits import add_design, choose_film, set_placement, set_pressing
from zinnet.pressing.at_once import fewest, groups_of, trim_mm
from zinnet.pressing.pieces import carriers

BAR = '<rect width="60" height="20" fill="#d62828"/>'


def works(document):
    return document.plan.presses[0].works


def groups(document):
    return [
        [piece.film.id for piece in group]
        for work in works(document)
        for group in groups_of(work.pieces, together=work.spec.together)
    ]


def two_bars(apart_mm, *films, colour="#d62828"):
    """Return two bars of 120 x 40 mm below one another, so far apart."""
    document = document_of(BAR, set_placement("x", width_mm=120.0, from_reference_mm=70.0))
    document.apply(add_design("lower.svg", svg(BAR.replace("#d62828", colour))))
    document.apply(set_placement("x", design=1, width_mm=120.0, from_reference_mm=110.0 + apart_mm))
    for edit in films:
        document.apply(edit)
    return document


def by_enumeration(below, beside):
    """Return the least number of groups: every order of the pieces, cut into runs in every way."""
    count = len(below)
    best = count
    for order in itertools.permutations(range(count)):
        if any(below[piece] >> later & 1 for k, piece in enumerate(order) for later in order[k:]):
            continue
        # The fewest runs of one order: take each run as far as it goes.
        runs, run = 0, []
        for piece in order:
            if not run or not all(beside[piece] >> other & 1 for other in run):
                runs, run = runs + 1, []
            run.append(piece)
        best = min(best, runs)
    return best


@settings(max_examples=cases(200, 2000))
@given(st.integers(1, 6), st.randoms(use_true_random=False))
def test_there_is_no_way_with_fewer_presses(count, luck):
    pairs = list(itertools.combinations(range(count), 2))
    on = {pair for pair in pairs if luck.random() < 0.3}
    along = {pair for pair in pairs if pair not in on and luck.random() < 0.6}
    below = [sum(1 << a for a, b in on if b == k) for k in range(count)]
    beside = [sum(1 << (a + b - k) for a, b in along if k in (a, b)) for k in range(count)]
    found = fewest(below, beside)
    assert sorted(piece for group in found for piece in group) == list(range(count))
    done = 0
    for group in found:
        assert all(below[piece] & ~done == 0 for piece in group)
        assert all(beside[a] >> b & 1 for a, b in itertools.combinations(group, 2))
        done |= sum(1 << piece for piece in group)
    assert len(found) == by_enumeration(below, beside)


def test_two_designs_of_one_film_beside_each_other_go_down_at_once_with_one_wait():
    document = two_bars(30.0)
    assert groups(document) == [["scarlet", "scarlet"]]
    steps = document.plan.presses[0].steps
    assert [step.kind for step in steps].count("wait") == 1
    assert [step.kind for step in steps].count("press") == 1


def test_words_a_name_and_a_motif_on_a_bag_are_one_press():
    document = two_bars(20.0)
    document.apply(add_design("name.svg", svg('<rect width="30" height="10" fill="#1f57c3"/>')))
    document.apply(set_placement("x", design=2, width_mm=60.0, from_reference_mm=240.0))
    assert len(groups(document)) == 1


def test_carriers_are_trimmed_to_half_the_gap_and_nothing_nearer_is_joined():
    near = two_bars(5.2)
    assert groups(near) == [["scarlet", "scarlet"]]
    (work,) = works(near)
    assert trim_mm(work.pieces) == pytest.approx(2.6)
    lines = [line for step in near.plan.presses[0].steps if step.kind == "lay" for line in step.words]
    assert any("2.6 mm, half the gap" in line for line in lines)
    trimmed = [carriers(piece.region, 2.6) for piece in work.pieces]
    assert shapely.intersection(*trimmed).area < 0.01
    assert groups(two_bars(1.5)) == [["scarlet"], ["scarlet"]]


def test_films_whose_heat_or_peel_differ_stay_apart():
    other = choose_film("#1f57c3", "gold-glitter")
    assert len(groups(two_bars(30.0, other, colour="#1f57c3"))) == 2


def test_what_lies_on_another_film_is_pressed_after_it():
    assert groups(document_of(RED_AND_BLUE)) == [["scarlet"], ["blue"]]


def test_the_user_may_press_one_after_the_other():
    assert groups(two_bars(30.0, set_pressing("x", together=False))) == [["scarlet"], ["scarlet"]]
