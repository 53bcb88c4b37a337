"""Half an hour at the bench in simulated time: pauses, leaving, a crash, a new start of the machine; all rings."""

import random
from dataclasses import replace

import pytest

from tests.hand_clock import HandClock
from tests.helpers import RED_AND_BLUE, document_of
from zinnet.bench.alarm import Alarm
from zinnet.bench.press_run import PressRun
from zinnet.job.edits import choose_recipe, set_copies
from zinnet.plan.press_cards import quick_cards
from zinnet.plan.run_garments import run_presses
from zinnet.pressing.schedule.tasks import team_of

LOOK_S = 0.1
HALF_AN_HOUR_S = 1800.0
LATE_S = 0.2
LONG = [choose_recipe(film, school="low and long") for film in ("scarlet", "blue")]


class Watch:
    """What should ring when, worked out beside the timers: one countdown each, that pauses and restarts don't lose."""

    def __init__(self):
        self.left, self.due = {}, {}
        self.most = 0

    def follow(self, run, seconds, now_s, *, paused):
        """Let time go by; those that were taken away are no longer waited for."""
        for timer_id in [one for one in self.left if run.timers.get(one) is None]:
            del self.left[timer_id]
        for timer_id in self.left:
            before = self.left[timer_id]
            self.left[timer_id] -= 0 if paused else seconds
            if before > 0 >= self.left[timer_id]:
                self.due[timer_id] = now_s + self.left[timer_id]
        for timer in run.own_timers:
            self.left.setdefault(timer.id, timer.seconds - seconds)  # it was started just after the look before
        self.most = max(self.most, sum(left > 0 for left in self.left.values()))


@pytest.mark.parametrize("seed", range(3))
def test_nothing_rings_late_and_nothing_is_lost(tmp_path, seed):
    clock, watch, chance = HandClock(), Watch(), random.Random(seed)
    plan = document_of(RED_AND_BLUE, *LONG, set_copies(8)).plan
    cards = quick_cards(run_presses(plan), team_of(1, 1, 4))
    run, alarm = PressRun(cards, tmp_path, clock), Alarm()
    run.come()
    now_s, next_hand, paused_until, away_until = 0.0, 5.0, None, None
    events = {300.0: "pause", 640.0: "leave", 900.0: "crash", 1200.0: "pause", 1500.0: "new boot"}
    happened, rang, order = [], {}, len(run.cards)
    while now_s < HALF_AN_HOUR_S:
        clock.later(LOOK_S)
        now_s = round(now_s + LOOK_S, 1)
        watch.follow(run, LOOK_S, now_s, paused=paused_until is not None)
        what = events.pop(now_s, None)
        if what is not None:
            happened.append(what)
        if what == "pause":
            assert run.pause()
            paused_until = now_s + 45
        elif what == "leave":
            run.stay()
            away_until = now_s + 60
        elif what in ("crash", "new boot"):
            if what == "new boot":
                clock.later(0, boot="b")
                clock.moment = replace(clock.moment, boot="b", since_boot_s=3.0)
            run, alarm = PressRun(cards, tmp_path, clock), Alarm()
            assert len(run.cards) == order
            run.come()
        if paused_until is not None and now_s >= paused_until:
            assert not run.pause()
            paused_until = None
        ids = {timer.name: timer.id for timer in run.own_timers}
        for name in alarm.ringing(run.timers):
            rang.setdefault(ids[name], now_s)
        if away_until is not None:
            if now_s >= away_until:
                away_until = None
                run.come()
            continue
        if paused_until is None and now_s >= next_hand and not run.is_over:
            (run.confirm if run.card.step.gate else run.go_on)()
            next_hand = now_s + chance.uniform(2, 20)
    assert happened == ["pause", "leave", "crash", "pause", "new boot"]
    assert len(watch.due) > 15
    assert watch.most >= 2, "two at once"
    for timer_id, due_s in watch.due.items():
        assert timer_id in rang, timer_id
        assert due_s - 1e-6 <= rang[timer_id] <= due_s + LATE_S, timer_id
