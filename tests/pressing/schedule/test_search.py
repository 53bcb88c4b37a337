"""The ways to a schedule: ends, backwards, phases and the aim at the bound, each against plain trying."""

import random
from itertools import pairwise

import pytest

from tests.helpers import cases
from tests.pressing.schedule.checking import faults
from tests.pressing.schedule.examples import alike, cool, hands, press, pressed_by_hand, three_layers
from zinnet.job.edits import choose_film, choose_recipe
from zinnet.pressing.schedule import idle_bounds
from zinnet.pressing.schedule.backwards import turned_slots, turned_team, turned_works
from zinnet.pressing.schedule.bound import lower_bound
from zinnet.pressing.schedule.dispatch import dispatch
from zinnet.pressing.schedule.exact import solve
from zinnet.pressing.schedule.idle_bounds import bound_with_ends, idle_s
from zinnet.pressing.schedule.model import GarmentWork, Schedule, Team
from zinnet.pressing.schedule.phases import PARTS, Batches, all_at_once
from zinnet.pressing.schedule.plan import plan_work
from zinnet.pressing.schedule.rules import by_phases, by_rules
from zinnet.pressing.schedule.tasks import team_of, works_of

GLITTER = (choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter"))
MIXED = (choose_film("#f4ead5", "gold-glitter"),)
COOL = tuple(choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream"))


def random_works(luck, most=4):
    heats = luck.choice([(160.0,), (160.0, 150.0)])
    works = []
    for g in range(luck.randint(2, most)):
        chain = []
        for _ in range(luck.randint(1, 2)):
            chain += [hands(luck.randint(5, 40)), pressed_by_hand(luck.randint(5, 30), luck.choice(heats))]
            chain += [cool(luck.randint(10, 60))] if luck.random() < 0.5 else []
        works.append(GarmentWork(f"g{g}", g, tuple(chain)))
    return tuple(works)


def test_two_who_end_at_one_press_cannot_end_together():
    # By hand: in the last 30 s one of the two presses for the last 18 s, and the other is done 18 s sooner at least.
    works = turned_works(alike((hands(40), pressed_by_hand(18)), 6))
    assert idle_s(works, Team(presses=1, people=2), "person", (30,), float("inf")) == 18
    assert idle_s(works, Team(presses=2, people=2), "person", (30,), float("inf")) == 0


def test_what_cools_at_the_end_keeps_nobody_busy():
    works = turned_works(alike((hands(40), cool(60)), 6))
    assert idle_s(works, Team(people=1), "person", (100,), float("inf")) == 60
    assert idle_s(works, Team(people=2), "person", (100,), float("inf")) == 120


@pytest.mark.parametrize("seed", range(cases(4, 12)))
def test_no_schedule_undercuts_the_bound_with_ends(seed):
    luck = random.Random(seed)
    works = random_works(luck)
    team = team_of(luck.randint(1, 2), luck.randint(1, 2), luck.randint(1, 3))
    rules = by_rules(works, team, 0)
    slots, shortest = solve(works, team, seconds=600, hint=rules.slots, bound_s=lower_bound(works, team))
    assert max(slot.end for slot in slots) == shortest
    assert bound_with_ends(works, team, 600.0) <= shortest


def test_the_bound_with_ends_lies_between_the_simple_one_and_any_schedule(monkeypatch):
    monkeypatch.setattr(idle_bounds, "ONE_S", 60.0)
    works = alike((hands(40), pressed_by_hand(18)), 30)
    team = Team(presses=1, people=2)
    simple, better = lower_bound(works, team), bound_with_ends(works, team, 600.0)
    assert better > simple
    found = plan_work(works, team, seconds=1)
    assert better <= found.total_s
    assert faults(found) == []


@pytest.mark.parametrize("seed", range(8))
def test_a_schedule_turned_twice_is_the_same_and_turned_once_it_is_as_sound(seed):
    luck = random.Random(seed)
    works = random_works(luck)
    team = team_of(luck.randint(1, 2), luck.randint(1, 2), luck.randint(1, 3))
    found = by_rules(works, team, 0)
    slots = turned_slots(works, found.slots)
    turned = Schedule(turned_works(works), turned_team(team), slots, 0)
    assert faults(turned) == []
    assert turned.total_s == found.total_s
    assert turned_works(turned_works(works)) == works
    assert turned_team(turned_team(team)) == team
    assert turned_slots(turned.works, slots) == found.slots


def test_a_bound_that_cannot_be_met_leaves_the_hint():
    works = alike((hands(20), pressed_by_hand(20), cool(30)), 3)
    rules = by_rules(works, Team(), 0)
    slots, _ = solve(works, Team(), seconds=5, hint=rules.slots, bound_s=0, most_s=100)
    assert slots == rules.slots


@pytest.mark.parametrize("edits", [GLITTER, MIXED])
@pytest.mark.parametrize("part", [1, 3, 6])
def test_presses_of_a_phase_are_all_done_before_the_next_ones(edits, part):
    works = works_of([("tee", 18, three_layers(*edits))])
    batches = Batches({0: works[0].tasks}, len(works))
    team = team_of(1, 2, 4)
    changes = {}
    for late in batches.lates:
        phases = batches.way(part, late)
        slots = dispatch(works, team, rule="farthest", most_in_work=18, phases=phases)
        found = Schedule(works, team, slots, 0)
        assert faults(found) == []
        presses = [slot for slot in sorted(slots, key=lambda one: one.start) if found.task(slot).heat_c]
        order = [phases.of(slot.garment, 0, slot.task) for slot in presses]
        assert order == sorted(order)
        heats = {(phase, found.task(slot).heat_c) for phase, slot in zip(order, presses, strict=True)}
        assert len(heats) == len(set(order))
        changes[late] = sum(a != b for a, b in pairwise(order))
    assert changes[0] >= part


def test_one_heat_has_no_phases():
    works = works_of([("tee", 3, three_layers())])
    assert all_at_once(works) is None
    assert by_phases(works, team_of(1, 1, 4), 0, 1.0) is None
    assert list(Batches({0: works[0].tasks}, 3).lates) == []


def test_garments_that_go_through_other_heats_are_not_parted_into_batches():
    one = (press(20, 160.0), press(20, 150.0))
    other = (press(20, 150.0), press(20, 160.0))
    works = (GarmentWork("a", 0, one), GarmentWork("b", 1, other))
    assert list(Batches({0: one, 1: other}, 2).lates) == []
    found = by_phases(works, team_of(1, 1, 4), 0, 1.0)
    assert faults(found) == []
    assert len(set(PARTS)) == len(PARTS)


@pytest.mark.long
@pytest.mark.parametrize("edits", [MIXED, GLITTER][: cases(1, 2)])
def test_long_runs_of_two_heats_stay_near_the_bound(edits):
    works = works_of([("tee", 150, three_layers(*edits))])
    team = team_of(1, 2, 4)
    found = by_phases(works, team, lower_bound(works, team), seconds=300)
    assert faults(found) == []
    assert found.gap <= 0.03
    assert len(found.slots) == sum(len(work.tasks) for work in works)


def test_what_is_under_way_stays_where_the_rest_goes_by_phases():
    works = works_of([("tee", 8, three_layers(*MIXED))])
    team = team_of(1, 2, 4)
    first = by_phases(works, team, 0, 5.0)
    now = first.total_s // 2
    begun = tuple(slot for slot in first.slots if slot.start <= now)
    slots = dispatch(works, team, rule="farthest", most_in_work=8, phases=all_at_once(works), fixed=begun, now_s=now)
    again = Schedule(works, team, slots, 0)
    assert faults(again) == []
    assert set(begun) <= set(slots)
    assert all(slot.start >= now for slot in set(slots) - set(begun))


def test_films_peeled_cool_are_near_the_bound_for_two_people_at_one_press():
    """That it is proven in the time a user waits is for the benchmark of schedules to say."""
    works = works_of([("tee", 6, three_layers(*COOL))])
    found = plan_work(works, team_of(1, 2, 4), seconds=20)
    assert faults(found) == []
    assert found.total_s >= found.bound_s
    assert found.gap <= 0.05
