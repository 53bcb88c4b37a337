"""The schedule: against Johnson's rule, with proofs, for long runs, and checked by code that shares nothing with it."""

import random
from itertools import permutations

import pytest

from tests.helpers import RED_AND_BLUE, cases, document_of
from tests.pressing.schedule.checking import faults
from tests.pressing.schedule.examples import alike, cool, hands, press, task, three_layers
from zinnet.job.edits import choose_film, choose_recipe
from zinnet.pressing.schedule import pattern
from zinnet.pressing.schedule.bound import lower_bound
from zinnet.pressing.schedule.dispatch import RULES, dispatch
from zinnet.pressing.schedule.model import GarmentWork, Need, Schedule, Team, one_after_another_s
from zinnet.pressing.schedule.pattern import find_pattern, least_period, repeat
from zinnet.pressing.schedule.plan import helps, longer, plan_work, replan
from zinnet.pressing.schedule.rules import by_rules
from zinnet.pressing.schedule.tasks import tasks_of, team_of, works_of


def johnson(jobs):
    """Return the shortest time of two-stage jobs: S. M. Johnson, Optimal two- and three-stage production schedules with
    setup times included, Naval Research Logistics Quarterly 1 (1954) 61-68."""
    first = sorted((job for job in jobs if job[0] <= job[1]), key=lambda job: job[0])
    last = sorted((job for job in jobs if job[0] > job[1]), key=lambda job: -job[1])
    one = two = 0
    for a, b in (*first, *last):
        one += a
        two = max(two, one) + b
    return two


@pytest.mark.parametrize("seed", range(cases(10, 100)))
def test_two_stages_come_out_as_johnsons_rule_says(seed):
    luck = random.Random(seed)
    jobs = [(luck.randint(5, 60), luck.randint(5, 60)) for _ in range(luck.randint(2, 7))]
    works = tuple(GarmentWork(f"g{k}", k, (hands(a), press(b))) for k, (a, b) in enumerate(jobs))
    found = plan_work(works, Team(), seconds=600)
    assert found.total_s == johnson(jobs)
    assert found.is_proven
    assert faults(found) == []


def test_johnsons_rule_itself_is_as_good_as_any_order():
    luck = random.Random(7)
    jobs = [(luck.randint(5, 60), luck.randint(5, 60)) for _ in range(5)]

    def length(order):
        one = two = 0
        for a, b in order:
            one += a
            two = max(two, one) + b
        return two

    assert johnson(jobs) == min(length(order) for order in permutations(jobs))


def test_two_garments_in_turn_leave_the_press_idle_less_by_the_computed_amount():
    # 25 s at the press, then 60 s of waiting, twice: alone the press is idle for 60 s between the two presses. Two in
    # turn: press A, press B, 35 s idle until A has cooled, press A, press B.
    chain = (press(25), cool(60), press(25), cool(60))
    alone = plan_work(alike(chain, 1), Team(cooling=2))
    both = plan_work(alike(chain, 2), Team(cooling=2))
    assert alone.idle_s() == 60
    assert both.is_proven
    assert both.total_s == 25 + 60 + 25 + 25 + 60
    assert both.idle_s() == 60 - 25
    assert one_after_another_s(both.works, both.team) - both.total_s == 2 * 170 - 195


@pytest.mark.parametrize(
    ("edits", "count"),
    [
        ((), 12),
        (tuple(choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream")), 4),
        ((choose_film("#d62828", "gold-glitter"), choose_film("#1f57c3", "rose-glitter")), 4),
        ((choose_film("#f4ead5", "gold-glitter"),), 4),
    ],
)
def test_garments_of_three_layers_are_proven(edits, count):
    works = works_of([("tee", count, three_layers(*edits))])
    found = plan_work(works, team_of(1, 1, 4), seconds=600)
    assert found.is_proven
    assert faults(found) == []
    assert found.total_s <= one_after_another_s(works, found.team)


def test_two_hundred_garments_stay_near_the_bound_in_a_pattern_that_people_can_keep_to(monkeypatch):
    monkeypatch.setattr(pattern, "TRY_S", 120)  # a busy machine takes longer for each period that is tried
    long = [choose_recipe(film, school="low and long") for film in ("scarlet", "blue", "cream")]
    works = works_of([("tee", 200, three_layers(*long))])
    found = plan_work(works, team_of(1, 1, 4), seconds=600)
    assert found.gap <= 0.03
    assert faults(found) == []
    assert found.pattern is not None
    starts = sorted(slot.start for slot in found.slots if slot.task == 0)
    assert {b - a for a, b in zip(starts, starts[found.pattern.begun :], strict=False)} == {found.pattern.period_s}


@pytest.mark.parametrize("seed", range(cases(6, 12)))
def test_whatever_is_scheduled_nothing_is_used_twice_at_once(seed):
    luck = random.Random(seed)
    heats = luck.choice([(160.0,), (160.0, 150.0)])
    works = []
    for g in range(luck.randint(2, 6)):
        chain = []
        for _ in range(luck.randint(1, 3)):
            wait = luck.randint(10, 60)
            seconds = luck.randint(5, 30)
            needs = (Need("press", 0, seconds), Need("person", 0, 5), Need("cooling", seconds, seconds + wait))
            chain += [hands(luck.randint(5, 40)), task("press", *needs, heat=luck.choice(heats))]
        works.append(GarmentWork(f"g{g}", g, tuple(chain)))
    team = team_of(luck.randint(1, 2), luck.randint(1, 2), luck.randint(1, 3))
    found = plan_work(works, team, seconds=0.5)
    assert faults(found) == []
    assert lower_bound(works, team) <= found.bound_s <= found.total_s
    for rule in RULES:
        slots = dispatch(works, team, rule=rule, most_in_work=2)
        assert faults(Schedule(tuple(works), team, slots, 0)) == []


@pytest.mark.parametrize("count", [4, 12, 40])
def test_two_who_work_side_by_side_never_share_a_press(count):
    works = works_of([("tee", count, three_layers())])
    team = team_of(2, 2, 4)
    found = by_rules(works, team, lower_bound(works, team))
    assert faults(found) == []
    assert found.total_s < 0.6 * one_after_another_s(works, team)


def test_the_bound_holds_where_all_orders_are_tried():
    luck = random.Random(3)
    for _ in range(20):
        works = tuple(
            GarmentWork(f"g{k}", k, (hands(luck.randint(1, 9)), press(luck.randint(1, 9)), cool(luck.randint(1, 9))))
            for k in range(4)
        )
        shortest = min(
            max(slot.end for slot in dispatch(order, Team(cooling=1), rule="nearest", most_in_work=9))
            for order in permutations(works)
        )
        assert lower_bound(works, Team(cooling=1)) <= shortest


def test_a_change_of_heat_takes_its_time_and_is_made_as_seldom_as_can_be():
    works = alike((press(20, 160.0), hands(10), press(20, 150.0)), 6)
    team = team_of(1, 2, 4)
    found = plan_work(works, team, seconds=3)
    assert faults(found) == []
    changes = sum(a != b for a, b in zip(_heats_in_order(found), _heats_in_order(found)[1:], strict=False))
    assert changes == 1
    assert team.change_s(160.0, 150.0) > team.change_s(150.0, 160.0) > 0


def _heats_in_order(found):
    return [
        found.task(slot).heat_c for slot in sorted(found.slots, key=lambda one: one.start) if found.task(slot).heat_c
    ]


def test_a_pattern_folds_onto_its_period():
    chain = (hands(30), press(25), cool(60), hands(10), press(25))
    period, offsets = find_pattern(chain, Team(), 5.0)
    assert period == least_period(chain, Team()) == 50
    slots, pattern = repeat(alike(chain, 40), Team(), 5.0)
    assert faults(Schedule(alike(chain, 40), Team(), slots, 0)) == []
    assert pattern.period_s == period
    assert len(offsets) in (1, 2)


def test_what_would_shorten_it_is_what_planning_with_it_gives():
    chain = (hands(20), press(20), cool(90), hands(10))
    works = alike(chain, 10)
    found = plan_work(works, Team(cooling=1), seconds=2)
    (first, *_) = helps(found, 2.0)
    assert first.resource == "cooling"
    assert first.in_words(found.team) == "A second place to cool"
    with_it = plan_work(works, Team(cooling=2), seconds=2)
    assert first.saves_s == found.total_s - with_it.total_s > 0
    assert helps(plan_work(alike((press(10),), 1), Team()), 1.0) == ()


def test_what_takes_longer_is_planned_again_from_where_one_is():
    works = alike((hands(20), press(20), cool(60), hands(10)), 5)
    found = plan_work(works, Team(), seconds=2)
    late = sorted((slot for slot in found.slots if slot.task == 1), key=lambda one: one.start)[2]
    now = late.start + 5
    again = replan(found, garment=late.garment, task=1, longer_s=40, now_s=now, seconds=2)
    assert faults(again) == []
    before = {(slot.garment, slot.task): slot for slot in found.slots}
    for slot in again.slots:
        if before[slot.garment, slot.task].start <= now:
            assert slot.start == before[slot.garment, slot.task].start
        else:
            assert slot.start >= now
    (stretched,) = [slot for slot in again.slots if (slot.garment, slot.task) == (late.garment, 1)]
    assert stretched.end == late.end + 40
    assert found.total_s <= again.total_s <= found.total_s + 40


def test_a_longer_task_needs_longer_what_it_needs_then():
    one = task("press", Need("press", 0, 20), Need("person", 0, 8), Need("cooling", 20, 50))
    late = longer(one, at_s=12, by_s=10)
    assert [(need.start_s, need.end_s) for need in late.needs] == [(0, 30), (0, 8), (30, 60)]
    assert late.seconds == 60


def test_tasks_cover_all_steps_of_a_garment_once_and_in_order():
    steps = three_layers()
    tasks = tasks_of(steps)
    covered = [index for one in tasks for index in range(*one.steps)]
    expected = [k for k, step in enumerate(steps) if not step.once and step.kind != "care"]
    assert covered == expected
    assert [one.heat_c for one in tasks if one.heat_c is not None] == [160.0] * 4


def test_sizes_that_are_pressed_alike_are_one_kind():
    steps = document_of(RED_AND_BLUE).plan.presses[0].steps
    works = works_of([("M", 2, steps), ("L", 1, steps)])
    assert [work.name for work in works] == ["M 1", "M 2", "L"]
    assert {work.kind for work in works} == {0}


def test_nothing_to_press_takes_no_time():
    assert plan_work((), Team()).total_s == 0
    assert by_rules(alike((press(10),), 1), Team(), 0).total_s == 10
