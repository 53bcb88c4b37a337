"""What the bench writes down of a run: real times, a line a garment, what was lost, and what is learned from it."""

import random
from collections import defaultdict

import pytest

from tests.hand_clock import HandClock
from tests.helpers import RED_AND_BLUE, document_of
from zinnet.bench.press_log import write_down
from zinnet.bench.press_run import PressRun
from zinnet.bench.run_order import card_beside, do_beside, put_aside, swapped, taken_first
from zinnet.bench.run_record import in_words, lifted_films, record_of
from zinnet.demo import demo_document
from zinnet.job.edits import set_copies, set_sizes
from zinnet.plan.derive import derive
from zinnet.plan.press_cards import hands_at, quick_cards, quick_schedule
from zinnet.plan.run_garments import run_presses
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.schedule.tasks import team_of
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import with_books
from zinnet.workshop.store import WorkshopStore

TEAM = team_of(1, 1, 4)
OWN = {"lint": 1.7, "crease": 2.2, "lay": 1.45, "look": 0.8, "cover": 1.9, "peel": 1.3, "turn over": 0.7, "press": 1.6}
"""How many times as long as usual the simulated person takes."""


class Person:
    """Somebody at the bench who takes own times, a little different each time; what they took is kept."""

    def __init__(self, clock, seed=0, spread=0.2):
        self.clock, self.random, self.spread = clock, random.Random(seed), spread
        self.hands_s, self.heat_s = defaultdict(float), defaultdict(list)

    def takes(self, number, kind, usual):
        seconds = usual * OWN.get(kind, 1.0) * self.random.uniform(1 - self.spread, 1 + self.spread)
        self.hands_s[number] += seconds
        self.clock.later(seconds)

    def work(self, run, *, until=lambda run: False):
        """Do what the cards ask for, and press the space bar, until all is done."""
        hands, inside = press_numbers().hands, set()
        while not run.is_over and not until(run):
            card = run.card
            waits = run.awaited(card)
            if waits is not None:
                self.clock.later(waits.left_s(self.clock()))
            if card.number in inside:
                inside.remove(card.number)
                self.takes(card.number, "press", hands.cover_s)
            for k in card.indices:
                step = card.press.steps[k]
                if step.place == "hands" and step.heat is None:
                    share = len(hands_at(card.press, k)) if step.kind == "lay" else 1
                    self.takes(card.number, step.kind, step.base_s / share)
            if card.seconds:
                self.takes(card.number, "press", hands.load_s)
                run.go_on()
                if card.step.kind == "preheat":
                    inside.add(card.number)
                    self.heat_s[card.number].append(card.seconds)
                    continue
                late = self.random.uniform(0, 0.5)
                self.clock.later(card.seconds + late)
                self.heat_s[card.number].append(card.seconds + late)
                run.end_early()
                inside.add(card.number)
                continue
            if card.step.gate:
                run.confirm()
            else:
                run.go_on()


@pytest.fixture
def clock():
    return HandClock()


@pytest.fixture
def store(tmp_path):
    return WorkshopStore(tmp_path / "workshop.sqlite")


def run_of(plan, folder, clock):
    run = PressRun(quick_cards(run_presses(plan), TEAM), folder, clock)
    run.come()
    return run


def test_each_garment_has_a_line_with_its_real_times(tmp_path, clock, store):
    """Each press and each garment within a second of what the simulated person took, over a pause."""
    plan = demo_document(name="stewards").plan
    run, person = run_of(plan, tmp_path, clock), Person(clock, 3)
    began = clock()
    person.work(run, until=lambda run: run.at == 5)
    run.pause()
    clock.later(300)
    run.pause()
    person.work(run)
    record = record_of(run, "Ada")
    assert record.paused_s == 300
    assert record.elapsed_s == pytest.approx(began.until(clock()) - 300, abs=1)
    assert (record.who, len(record.garments)) == ("Ada", sum(press.garment.copies for _, press in run_presses(plan)))
    for line in record.garments:
        assert [one.real_s for one in line.presses] == pytest.approx(person.heat_s[line.number], abs=0.1)
        assert [one.planned_s for one in line.presses] == pytest.approx(person.heat_s[line.number], abs=1)
        took = person.hands_s[line.number] + sum(person.heat_s[line.number])
        assert line.real_s == pytest.approx(took, abs=1)
        assert line.planned_s < line.real_s
        assert line.name in in_words(record)
    write_down(plan, run.cards, record, store, worked=True, lifted=lifted_films(run))
    (entry,) = MadeBook(store).entries()
    assert entry.run == record


@pytest.mark.long
def test_ten_runs_teach_the_estimates_of_the_next_job(tmp_path, clock, store):
    """After ten runs of two small jobs the hands of a third are foretold within 10 %, and so is how long it takes."""
    jobs = [document_of(RED_AND_BLUE, set_copies(2)).plan, demo_document(name="stewards").plan]
    for number in range(10):
        plan = jobs[number % 2]
        run = run_of(plan, tmp_path / str(number), clock)
        Person(clock, number).work(run)
        write_down(plan, run.cards, record_of(run), store, worked=True)
    workshop = with_books(standard_workshop(), store)
    job = document_of(RED_AND_BLUE, set_copies(3), set_sizes((("adult-s", 2), ("adult-l", 4)))).plan.job
    before, after = derive(job, standard_workshop()), derive(job, workshop)
    run, person = run_of(after, tmp_path / "next", clock), Person(clock, 99)
    began = clock()
    person.work(run)
    took, elapsed = sum(person.hands_s.values()), began.until(clock())
    assert hands_s(after) == pytest.approx(took, rel=0.1)
    assert hands_s(before) < 0.8 * took, "without the log it would be far off"
    planned = quick_schedule(run_presses(after), TEAM)
    assert planned.total_s == pytest.approx(elapsed, rel=0.1)
    for pace in after.presses[0].paces:
        assert pace.low <= pace.times <= pace.high
        assert pace.cards >= press_numbers().pace.least_cards
    peel = next(pace for pace in after.presses[0].paces if pace.kind == "peel")
    assert peel.times == pytest.approx(OWN["peel"], rel=0.2), "what has cards of its own is told by itself"


def hands_s(plan):
    """How long hands are at a whole job by the plan."""
    hands = press_numbers().hands
    found = 0.0
    for _, press in run_presses(plan):
        for step in press.steps:
            if step.once or step.place in ("none", "cooling"):
                continue
            of_press = (hands.load_s + hands.cover_s) * step.pace
            found += press.garment.copies * (of_press if step.heat is not None else step.seconds)
    return found


def test_a_garment_that_is_spoiled_is_made_again_and_its_film_is_named(tmp_path, clock, store):
    plan = demo_document(name="stewards").plan
    run, person = run_of(plan, tmp_path, clock), Person(clock, 5)
    person.work(run, until=lambda run: run.card.number == 2 and run.card.step.kind == "peel")
    (press, *_) = (card.press for card in run.cards if card.number == 2)
    laid = {card.hand for card in run.cards[: run.at] if card.number == 2 and card.hand}
    assert run.lost_of(2) == tuple(dict.fromkeys(card.hand for card in run.cards[: run.at] if card.hand in laid))
    run.spoil(2, "scorched", again=True)
    assert not any(card.is_of(2) for card in run.cards[run.at :])
    assert not run.timers_of(2)
    run = PressRun(run.planned, tmp_path, clock)
    assert run.spoiled[2].what == "scorched", "it is known after a restart"
    more = run.added[0].number
    anew = [card for card in run.cards if card.is_of(more)]
    assert [card.indices for card in anew] == [card.indices for card in run.planned if card.is_of(2)]
    person.work(run)
    record = record_of(run)
    lost = next(line for line in record.garments if line.number == 2)
    again = next(line for line in record.garments if line.number == more)
    assert lost.spoiled == "scorched"
    assert again.again == 2
    assert not again.spoiled
    pieces = {piece.key: piece for work in press.works for piece in work.pieces}
    assert [(one.film, one.width_mm) for one in lost.recut] == [
        (pieces[hand.piece].film.id, round(_wide(pieces[hand.piece].each[hand.place]), 1)) for hand in run.lost_of(2)
    ]
    assert len(lost.recut) == len(laid)
    write_down(plan, run.cards, record, store, worked=True)
    (entry,) = MadeBook(store).entries()
    assert (entry.verdict, entry.spoiled) == ("usable", 1)
    assert "was lost: scorched" in entry.note


def _wide(region):
    left, _, right, _ = region.bounds
    return right - left


def test_garments_are_swapped_put_aside_taken_first_added_and_steps_passed_over(tmp_path, clock):
    plan = demo_document(name="stewards").plan
    run, person = run_of(plan, tmp_path, clock), Person(clock, 6)
    person.work(run, until=lambda run: run.at == 1)
    before = list(run.cards)
    run.take_order(swapped(run, 1, 3))
    assert sorted(card.id for card in run.cards) == sorted(card.id for card in before)
    for was, card in zip(before[1:], run.cards[1:], strict=True):
        assert card.number == {1: 3, 3: 1}.get(was.number, was.number) or card.is_for_all
    for number in (1, 2, 3):
        assert _own(run.cards, number) == _own(before, number), "each in its own order"
    run.take_order(put_aside(run, 3))
    assert [card.number for card in run.cards if not card.is_for_all][-1] == 3
    assert run.cards[-1].step.kind == "care"
    run.take_order(taken_first(run, 2))
    assert run.card.number == 2
    number = run.add(2)
    card = run.card
    run.skip()
    assert run.card is not card
    run = PressRun(run.planned, tmp_path, clock)
    person.work(run)
    record = record_of(run)
    assert next(line for line in record.garments if line.number == 2).skipped == (card.title,)
    assert [line.number for line in record.garments if line.number in (2, 3, number)] == [2, 3, number]


def _own(cards, number):
    return [card.id for card in cards if card.is_of(number)]


def test_the_time_away_is_a_pause_unless_a_press_runs(tmp_path, clock):
    plan = demo_document(name="stewards").plan
    run, person = run_of(plan, tmp_path, clock), Person(clock, 7)
    person.work(run, until=lambda run: run.at == 4)
    run.stay()
    clock.later(1000)
    run = run_of(plan, tmp_path, clock)
    assert run.time.all_paused_s == pytest.approx(1000, abs=60)
    gone = run.time.all_paused_s
    person.work(run, until=lambda run: run.card.seconds > 0)
    run.go_on()
    run.stay()
    clock.later(run.card.seconds - 1)
    run = run_of(plan, tmp_path, clock)
    assert run.time.all_paused_s == gone


def test_the_time_before_a_run_is_begun_is_no_pause_of_it(tmp_path, clock):
    """The same job pressed once more, an hour after its first run."""
    plan = demo_document(name="stewards").plan
    run, person = run_of(plan, tmp_path, clock), Person(clock, 8)
    person.work(run)
    run.begin_anew()
    run.stay()
    clock.later(3600)
    run = run_of(plan, tmp_path, clock)
    began = clock()
    person.work(run)
    record = record_of(run)
    assert record.paused_s == 0
    assert record.elapsed_s == pytest.approx(began.until(clock()), abs=1)


@pytest.mark.long
@pytest.mark.parametrize("seed", range(3))
def test_two_people_work_side_by_side_at_one_press(tmp_path, clock, seed):
    """The second never gets the garment in the first one's hands, nor the press that is shut; all is done once."""
    plan = demo_document(name="stewards").plan
    run = PressRun(quick_cards(run_presses(plan), team_of(1, 2, 4)), tmp_path, clock)
    run.come()
    chance, finished, beside_done = random.Random(seed), [], 0
    for _ in range(5000):
        if run.is_over:
            break
        clock.later(chance.uniform(0.5, 6))
        due, at = run.card, run.at
        beside = card_beside(run)
        if beside is not None and chance.random() < 0.6:
            assert beside.number != due.number
            do_beside(run, beside)
            if run.at > at:
                finished.append(beside.id)
                beside_done += 1
            assert run.card is due
        else:
            (run.confirm if due.step.gate else run.go_on)()
            finished += [due.id] * (run.at > at)
        shut = [timer for timer in run.own_timers if _heats(run, timer) and timer.left_s(clock()) > 0]
        assert len(shut) <= 1
        if chance.random() < 0.01:
            run = PressRun(run.planned, tmp_path, clock)
    assert run.is_over
    assert sorted(finished) == sorted(card.id for card in run.planned)
    assert beside_done > 10
    assert not record_of(run, people=2).hands, "whose hands took how long is not known"


def _heats(run, timer):
    number, _, step = timer.id.partition("/")[2].partition(".")
    press = next(card.press for card in run.planned if str(card.number) == number)
    return step.isdigit() and press.steps[int(step)].heat is not None
