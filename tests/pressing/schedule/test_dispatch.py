"""Schedules by rule: for random work, teams, phases and moments they are sound, whole and begin nothing too late."""

import random

import pytest

from tests.helpers import cases
from tests.pressing.schedule.checking import faults
from tests.pressing.schedule.examples import alike, cool, hands, press, pressed_by_hand
from zinnet.pressing.schedule.bound import lower_bound
from zinnet.pressing.schedule.dispatch import RULES, dispatch
from zinnet.pressing.schedule.model import GarmentWork, Schedule, Team
from zinnet.pressing.schedule.phases import PARTS, Batches, all_at_once
from zinnet.pressing.schedule.rules import by_phases, by_rules
from zinnet.pressing.schedule.tasks import team_of


def random_run(seed):
    """Return equal garments of random tasks at one or two heats, and a team."""
    luck = random.Random(seed)
    heats = luck.choice([(160.0,), (160.0, 150.0)])
    chain = [hands(luck.randint(5, 30))]
    for _ in range(luck.randint(1, 4)):
        chain += [pressed_by_hand(luck.randint(5, 30), luck.choice(heats)), hands(luck.randint(5, 40))]
        chain += [cool(luck.randint(10, 60))] if luck.random() < 0.5 else []
    team = team_of(luck.randint(1, 2), luck.randint(1, 3), luck.randint(1, 3))
    return alike(chain, luck.randint(2, 14)), team


def is_whole(works, slots):
    return sorted((slot.garment, slot.task) for slot in slots) == [
        (g, t) for g, work in enumerate(works) for t in range(len(work.tasks))
    ]


@pytest.mark.parametrize("seed", range(cases(4, 12)))
def test_every_rule_does_every_task_once_and_nothing_twice_at_once(seed):
    works, team = random_run(seed)
    for rule in RULES:
        for most in (1, 3, len(works)):
            slots = dispatch(works, team, rule=rule, most_in_work=most)
            assert is_whole(works, slots)
            assert faults(Schedule(works, team, slots, 0)) == []
            assert max(slot.end for slot in slots) >= lower_bound(works, team)


@pytest.mark.parametrize("seed", range(cases(4, 12)))
def test_no_more_garments_are_in_work_than_allowed(seed):
    works, team = random_run(seed)
    for most in (1, 2):
        slots = dispatch(works, team, rule="nearest", most_in_work=most)
        begun = {slot.garment: slot.start for slot in slots if slot.task == 0}
        last = {slot.garment: slot.start for slot in slots if slot.task == len(works[0].tasks) - 1}
        for moment in begun.values():
            assert sum(begun[g] <= moment < last[g] for g in begun) <= most


@pytest.mark.parametrize("seed", range(cases(4, 12)))
def test_every_way_to_part_a_run_is_sound(seed):
    works, team = random_run(seed)
    first = all_at_once(works)
    if first is None:
        assert by_phases(works, team, 0, 1.0) is None
        return
    batches = Batches({0: works[0].tasks}, len(works))
    for late in batches.lates:
        for part in PARTS:
            slots = dispatch(works, team, rule="farthest", most_in_work=len(works), phases=batches.way(part, late))
            assert is_whole(works, slots)
            assert faults(Schedule(works, team, slots, 0)) == []
    found = by_phases(works, team, 0, 60.0)
    whole = dispatch(works, team, rule="farthest", most_in_work=len(works), phases=first)
    assert found.total_s <= max(slot.end for slot in whole)


@pytest.mark.parametrize("seed", range(cases(3, 8)))
def test_what_is_under_way_is_kept_whatever_the_moment(seed):
    works, team = random_run(seed)
    first = by_rules(works, team, 0)
    for share in (0.2, 0.7):
        now = int(first.total_s * share)
        begun = tuple(slot for slot in first.slots if slot.start <= now)
        slots = dispatch(works, team, rule="longest", most_in_work=len(works), fixed=begun, now_s=now)
        assert is_whole(works, slots)
        assert set(begun) <= set(slots)
        assert all(slot.start >= now for slot in set(slots) - set(begun))
        assert faults(Schedule(works, team, slots, 0)) == []


def test_the_first_of_equal_garments_goes_first():
    works = alike((hands(10), press(10)), 5)
    slots = dispatch(works, Team(), rule="nearest", most_in_work=5)
    starts = [slot.start for slot in sorted(slots, key=lambda one: one.garment) if slot.task == 0]
    assert starts == sorted(starts)


def test_a_garment_of_a_single_task_is_never_in_the_way():
    works = (GarmentWork("a", 0, (hands(10),)), GarmentWork("b", 1, (hands(5), press(5))))
    slots = dispatch(works, Team(), rule="farthest", most_in_work=1)
    assert is_whole(works, slots)
