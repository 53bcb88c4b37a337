"""How many films lie where, against counting; and what to cut away, against trying every choice."""

import itertools
import random

import numpy as np
import pytest
import shapely

from tests.helpers import cases
from tests.layers.test_build import RED, body_of, stack_of
from zinnet.layers.depth import cut_away_advice, films_at

COLOURS = ("#d62828", "#1f57c3", "#f4ead5", "#2f9e44", "#ee7623", "#5b3fa0")


def random_stack(seed, method="stack", **spec):
    rng = random.Random(seed)
    found = [
        (
            rng.choice(COLOURS),
            rng.randint(0, 80),
            rng.randint(0, 80),
            rng.randint(8, 45),
            rng.choice(["circle", "rect", "ring"]),
        )
        for _ in range(rng.randint(4, 14))
    ]
    return stack_of(body_of(found), method=method, attributes='viewBox="-50 -50 200 200"', **spec)


@pytest.mark.parametrize("seed", range(cases(25, 100)))
def test_the_depth_map_is_what_counting_gives(seed):
    stack = random_stack(seed, random.Random(seed).choice(["stack", "lap", "auto"]))
    rng = np.random.default_rng(seed)
    left, top, right, bottom = stack.box
    points = rng.uniform((left, top), (right, bottom), (1000, 2))
    counted = sum(shapely.contains_xy(row.layer.region, points[:, 0], points[:, 1]).astype(int) for row in stack.layers)
    mapped = np.zeros(1000, dtype=int)
    thick = np.zeros(1000)
    for spot in stack.spots:
        inside = shapely.contains_xy(spot.region, points[:, 0], points[:, 1])
        mapped[inside] += len(spot.layers)
        thick[inside] += spot.thickness_um
    assert (mapped == counted).all()
    # Smooth film is 90 micrometres thick here (typical, from memory); all of these colours are cut from it.
    assert thick == pytest.approx(90.0 * counted)
    if counted[0]:
        assert len(films_at(stack.spots, *points[0]).layers) == counted[0]


@pytest.mark.parametrize("seed", range(cases(10, 40)))
def test_the_advice_is_the_best_of_all_choices(seed):
    most = 2 + seed % 2
    stack = random_stack(seed, most_films=most)
    layers = list(stack.layers)
    extra = [row.seen.length - row.layer.region.length for row in layers]
    piles = [tuple(layers.index(row) for row in pile) for pile in stack.piles]

    def deepest(cut):
        return max(len(pile) - sum(index in cut for index in pile[:-1]) for pile in piles)

    choices = [cut for size in range(len(layers) + 1) for cut in itertools.combinations(range(len(layers)), size)]
    good = [cut for cut in choices if deepest(cut) <= most]
    advice = stack.advice
    if stack.deepest <= most:
        assert advice == ()
        return
    chosen = tuple(layers.index(row) for row in advice)
    assert deepest(chosen) <= most
    best = min(sum(extra[index] for index in cut) for cut in good)
    assert sum(extra[index] for index in chosen) == pytest.approx(best, abs=1e-4)


def test_of_equal_choices_the_one_with_fewer_layers_is_taken_and_fixed_layers_stay():
    piles = [(0, 1, 2, 3)]
    assert cut_away_advice(piles, [0.0, 0.0, 0.0, 0.0], 3) in ((0,), (1,), (2,))
    assert cut_away_advice(piles, [1.0, 5.0, 9.0, 0.0], 3) == (0,)
    assert cut_away_advice(piles, [1.0, 5.0, 9.0, 0.0], 3, fixed=(0,)) == (1,)
    assert cut_away_advice(piles, [1.0, 1.0, 1.0, 0.0], 1) == (0, 1, 2)
    assert cut_away_advice(piles, [1.0, 1.0, 1.0, 0.0], 3, fixed=(0, 1, 2)) is None


def test_four_films_deep_by_the_rules_are_cut_down_to_three():
    rings = "".join(
        f'<circle cx="50" cy="50" r="{50 - 9 * k}" fill="{colour}"/>'
        for k, colour in enumerate((RED, "#1f57c3", "#f4ead5", "#1a1a1a"))
    )
    assert stack_of(rings, method="stack").deepest == 4
    stack = stack_of(rings)
    assert stack.deepest == 3
    assert len(stack.spared) == 1
    assert max(len(spot.layers) for spot in stack.spots) == 3


TWO = '<rect width="80" height="60" fill="#d62828"/><circle cx="40" cy="30" r="20" fill="#1f57c3"/>'
APART = '<rect width="40" height="60" fill="#d62828"/><rect x="60" width="20" height="60" fill="#1f57c3"/>'


@pytest.mark.parametrize(
    ("body", "spec", "deep"),
    [
        (TWO, {}, 2),
        (TWO, {"method": "cut-away"}, 1),
        (TWO, {"method": "lap"}, 1),
        (TWO, {"most_films": 1}, 1),
        (APART, {}, 1),
        (APART, {"spread": "under"}, 2),
        (TWO, {"spread": "outline", "outline_mm": 2.0}, 2),
    ],
)
def test_the_deepest_pile_counts_films_on_one_another_without_laps(body, spec, deep):
    stack = stack_of(body, **spec)
    assert stack.deepest == deep
    if spec.get("method") != "lap" and spec.get("most_films") != 1:
        assert max(len(spot.layers) for spot in stack.spots) == deep


def test_with_one_film_asked_for_the_lower_is_cut_away_with_a_lap():
    (pair,) = stack_of(TWO, most_films=1).pairs
    assert pair.rule.method == "lap"
    assert "more than 1 film would" in pair.rule.reason
