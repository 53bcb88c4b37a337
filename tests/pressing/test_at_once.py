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


def said_alone(document):
    """Return why films are not pressed at once, as the steps have it."""
    lines = [line for step in document.plan.presses[0].steps if step.kind == "press" for line in step.lines]
    return [line for line in lines if line.startswith("Not at once")]


def test_what_is_pressed_by_itself_says_why():
    peels = two_bars(30.0, choose_film("#1f57c3", "gold-glitter"), colour="#1f57c3")
    assert said_alone(peels) == ["Not at once with test, Scarlet: one is peeled warm, the other cool."]
    near = two_bars(1.5)
    assert said_alone(near) == [
        "Not at once with test, Scarlet: carriers can't be trimmed between them, they lie 1.5 mm apart."
    ]
    assert said_alone(two_bars(30.0)) == []
    assert said_alone(document_of(RED_AND_BLUE)) == []


def test_a_gap_of_just_two_trims_is_pressed_at_once_whatever_rounding_makes_of_it():
    assert groups(two_bars(2.0)) == [["scarlet", "scarlet"]]
    assert groups(two_bars(1.999)) == [["scarlet", "scarlet"]]
    assert groups(two_bars(1.98)) == [["scarlet"], ["scarlet"]]


def test_what_pressing_at_once_saves_is_the_difference_of_the_two_lists_of_steps():
    document = two_bars(30.0, colour="#1f57c3")
    press = document.plan.presses[0]
    now = sum(step.seconds for step in press.steps)
    document.apply(set_pressing("one after the other", together=False))
    alone = document.plan.presses[0]
    assert press.saved_s == pytest.approx(sum(step.seconds for step in alone.steps) - now)
    assert press.saved_s > 15
    assert alone.saved_s == 0.0


def covers(document):
    return [step.cover for step in document.plan.presses[0].steps if step.cover]


def test_one_used_carrier_covers_all_where_it_is_large_enough():
    ring = '<path fill="#d62828" d="M0 0H100V100H0Z M20 20H80V80H20Z" fill-rule="evenodd"/>'
    within = '<rect x="30" y="30" width="40" height="40" fill="#1f57c3"/>'
    gold = '<circle cx="50" cy="50" r="10" fill="#f4ead5"/>'
    size = set_placement("x", width_mm=200.0)
    document = document_of(ring + within + gold, size, choose_film("#f4ead5", "gold-glitter"))
    assert covers(document)[-1] == "the used carrier of Scarlet, which is large enough for all"
    beside = document_of(
        '<rect width="40" height="40" fill="#d62828"/><rect x="60" width="40" height="40" fill="#1f57c3"/>'
        '<circle cx="80" cy="20" r="10" fill="#f4ead5"/>',
        size,
        choose_film("#f4ead5", "gold-glitter"),
    )
    assert covers(beside)[-1] == "the used carriers of Scarlet and Blue"
