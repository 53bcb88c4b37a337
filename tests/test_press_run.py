"""The run at the bench: cards in the order of the schedule, timers, what was done, and going on after a break."""

import json
from collections import Counter

import pytest
import shapely

from tests.hand_clock import HandClock
from tests.helpers import RED_AND_BLUE, document_of
from zinnet.bench.press_cooling import cooled_c
from zinnet.bench.press_log import write_down
from zinnet.bench.press_run import PressRun
from zinnet.bench.run_order import cards_left, works_left
from zinnet.bench.run_record import in_words, lifted_films, record_of
from zinnet.demo import demo_document
from zinnet.geometry.transform import moved
from zinnet.job.edits import choose_recipe, set_copies, set_sizes
from zinnet.plan.derive import derive
from zinnet.plan.press_cards import cards_of, quick_cards, run_works
from zinnet.plan.run_garments import run_presses
from zinnet.pressing.heat_values import press_numbers
from zinnet.pressing.schedule.plan import plan_work
from zinnet.pressing.schedule.tasks import team_of
from zinnet.workshop.cutbook import CutBook
from zinnet.workshop.madebook import MadeBook
from zinnet.workshop.model import standard_workshop
from zinnet.workshop.opening import with_books
from zinnet.workshop.pressbook import PressBook
from zinnet.workshop.store import WorkshopStore

LONG = [choose_recipe(film, school="low and long") for film in ("scarlet", "blue")]


@pytest.fixture
def clock():
    return HandClock()


def plan_of(copies=2, *edits):
    return document_of(RED_AND_BLUE, *edits, set_copies(copies)).plan


def run_of(tmp_path, clock, copies=2, *edits):
    return PressRun(quick_cards(run_presses(plan_of(copies, *edits)), team_of(1, 1, 4)), tmp_path, clock)


def do_all(run, clock, most=500):
    """Press the space bar until all is done, a second apart."""
    for _ in range(most):
        if run.is_over:
            return
        run.go_on()
        clock.later(1.0)
    raise AssertionError("it never ends")


def test_every_step_of_every_garment_has_its_card_once():
    plan = plan_of(3, *LONG)
    for people in (1, 2):
        team = team_of(1, people, 4)
        found = plan_work(run_works(run_presses(plan)), team, seconds=1)
        cards = cards_of(run_presses(plan), found)
        steps = plan.presses[0].steps
        for number in (1, 2, 3):
            mine = [step for card in cards if card.number == number and not card.step.once for step in card.own_steps]
            assert [id(step) for step in mine if step.kind != "care"] == [
                id(step) for step in steps if not step.once and step.kind != "care"
            ]
        once = [step.kind for card in cards if card.step.once for step in card.steps]
        assert once == ["label", "heat up"]
        assert cards[-1].step.kind == "care"
        assert len({card.id for card in cards}) == len(cards)


def test_six_tees_of_three_sizes_take_few_cards_and_keys_and_ask_for_the_same(tmp_path, clock):
    """The cards and keys are those of the whole run; what is asked of a person is every step, none twice."""
    plan = plan_of(2, set_sizes((("adult-s", 2), ("adult-l", 2))))
    presses, team = run_presses(plan), team_of(1, 1, 4)
    cards = cards_of(presses, plan_work(run_works(presses), team, seconds=1))
    assert len(cards) <= 40
    asked = Counter(step.title for card in cards for step in card.own_steps)
    wanted = Counter(step.title for _, press in presses for step in press.steps for _ in range(2) if not step.once)
    wanted.update(step.title for step in presses[0][1].steps if step.once)
    wanted["Say how to care for it"] = 1
    assert asked == wanted
    run, keys = PressRun(cards, tmp_path, clock), 0
    while not run.is_over:
        clock.later(30.0)
        assert run.go_on()
        keys += 1
    assert keys + 1 <= 45  # and one for how it came out


def test_each_piece_has_a_card_of_its_own_in_the_order_of_laying(tmp_path, clock):
    ((name, press), *_) = run_presses(demo_document(name="stewards").plan)
    cards = quick_cards([(name, press)], team_of(1, 1, 4))
    pieces = [piece.key for work in press.works for piece in work.pieces for _ in piece.each]
    for number in (1, 2):
        hands = [card.hand.piece for card in cards if card.number == number and card.hand is not None]
        assert sorted(hands) == sorted(pieces)
        together = [card for card in cards if card.number == number and card.hand and not card.ends_with_step]
        assert together, "two of its three films are pressed at once"
        assert all(card.seconds == 0 for card in together)
        assert len({card.title for card in cards if card.number == number and card.hand}) == len(hands)


def test_names_go_one_by_one_each_with_its_own_words():
    document = demo_document(name="names")
    plan = document.plan
    presses = run_presses(plan)
    assert [press.garment.copies for _, press in presses] == [one.names.count for one in plan.named]
    for (name, press), one in zip(presses, plan.named, strict=True):
        assert name.startswith(f"{one.number}: {one.words}")
        (piece,) = press.works[0].pieces
        own = one.compositions[0]
        laid = moved(own.stack.in_press_order[0].layer.region, own.placement.matrix)
        assert shapely.symmetric_difference(piece.region, laid).area < 1e-6
    cards = quick_cards(presses[:3], team_of(1, 1, 4))
    for number in (1, 2, 3):
        assert {card.garment for card in cards if card.number == number and not card.step.once} == {
            presses[number - 1][0]
        }


def test_the_space_bar_shuts_the_press_and_opens_it_only_when_it_rang(tmp_path, clock):
    run = run_of(tmp_path, clock, 1)
    while run.card.step.kind != "press":
        run.go_on()
        clock.later(30.0)
    card = run.card
    assert run.go_on()
    assert run.timer(card).left_s(clock()) == card.seconds
    clock.later(card.seconds - 1)
    assert not run.go_on()
    clock.later(1.5)
    assert run.go_on()
    assert run.card is not card
    assert run.done[card.id].seconds == pytest.approx(card.seconds + 0.5)


def test_a_garment_that_is_preheated_is_awaited_by_its_next_card(tmp_path, clock):
    run = run_of(tmp_path, clock, 1)
    while run.card.step.kind != "preheat":
        assert run.go_on()
    preheat = run.card
    assert run.go_on()
    assert run.card is not preheat
    assert run.awaited(run.card).id == run.timer_id(preheat)
    assert not run.go_on()
    clock.later(preheat.seconds + 2)
    assert run.awaited(run.card) is None
    run.go_on()
    clock.later(60.0)
    run.go_on()
    assert run.done[preheat.id].seconds == preheat.seconds, "when it rang it is opened"


def test_while_one_garment_cools_the_next_goes_on_and_the_peel_waits(tmp_path, clock):
    run = run_of(tmp_path, clock, 2, *LONG)
    seen = []
    for _ in range(600):
        if run.is_over:
            break
        card = run.card
        if run.awaited(card) is not None:
            assert not run.go_on()
            assert cooled_c(run, card) is None or cooled_c(run, card) < 160
        else:
            seen.append((card.number, card.step.kind))
            run.go_on()
        clock.later(1.0)
    assert run.is_over
    first_peel = seen.index((1, "peel"))
    assert any(number == 2 for number, _ in seen[:first_peel])
    assert "of 30 s" in in_words(record_of(run))


def test_a_broken_run_goes_on_where_it_was_with_its_timers(tmp_path, clock):
    run = run_of(tmp_path, clock, 2, *LONG)
    while not run.timers.all:
        run.go_on()
    at, timers = run.at, [timer.id for timer in run.timers.all]
    clock.later(4)
    again = PressRun(run.cards, tmp_path, clock)
    assert again.at == at
    assert [timer.id for timer in again.timers.all] == timers
    assert again.timers.all[0].gone_s(clock()) == pytest.approx(4)
    assert again.done == run.done


def test_the_bench_of_another_job_leaves_timers_and_progress_of_the_first_alone(tmp_path, clock):
    run = run_of(tmp_path, clock, 2, *LONG)
    while not run.timers.all:
        run.go_on()
    at, timers = run.at, run.timers.all
    other = run_of(tmp_path, clock, 3, *LONG)
    assert other.at == 0
    assert other.own_timers == ()
    assert other.timers.all == timers
    other.go_on()
    other.begin_anew()
    again = PressRun(run.cards, tmp_path, clock)
    assert again.at == at
    assert again.own_timers == timers


@pytest.mark.parametrize("text", ["", "{}", '{"key": 1}', "[]"])
def test_a_broken_journal_begins_anew(tmp_path, clock, text):
    (tmp_path / "pressing.json").write_text(text)
    assert run_of(tmp_path, clock, 1).at == 0


@pytest.mark.parametrize("field", ["at", "order", "done", "slips", "times", "spoiled", "added"])
@pytest.mark.parametrize("value", [None, 7, "x", [1], {"a": 1}, [[1, 2]], [["1.0", "soon", 0, 0, 0, False]]])
def test_a_journal_of_which_a_part_is_broken_leaves_a_run_that_works(tmp_path, clock, field, value):
    run = run_of(tmp_path, clock, 1)
    run.go_on()
    clock.later(5.0)
    run.go_on()
    rows = json.loads(run.path.read_text())
    rows[run.key][field] = value
    run.path.write_text(json.dumps(rows))
    again = run_of(tmp_path, clock, 1)
    do_all(again, clock)
    assert record_of(again).garments


def test_film_that_lifts_is_pressed_ten_seconds_more_and_that_is_written_down(tmp_path, clock):
    run = run_of(tmp_path, clock, 1)
    while run.card.step.kind != "peel":
        run.go_on()
        clock.later(1.0)
    run.lifts()
    (again,) = [timer for timer in run.timers.all if timer.id.endswith("-again")]
    assert again.seconds == 10
    clock.later(11)
    run.dismiss()
    assert not [timer for timer in run.timers.all if timer.id.endswith("-again")]
    do_all(run, clock)
    assert "film lifted once" in in_words(record_of(run))


def test_pause_longer_early_and_back(tmp_path, clock):
    run = run_of(tmp_path, clock, 1)
    while run.card.step.kind != "press":
        run.go_on()
        clock.later(30.0)
    card = run.card
    run.go_on()
    assert run.pause()
    clock.later(100)
    assert not run.pause()
    assert run.timer(card).left_s(clock()) == pytest.approx(card.seconds)
    run.longer(10)
    assert run.timer(card).left_s(clock()) == pytest.approx(card.seconds + 10)
    clock.later(3)
    run.end_early()
    assert run.done[card.id].seconds == pytest.approx(3)
    run.back()
    assert run.card is card
    run.begin_anew()
    assert run.at == 0
    assert run.done == {}


def test_what_was_pressed_goes_into_the_books_and_counts_the_next_time(tmp_path, clock):
    plan = plan_of(1)
    run = PressRun(quick_cards(run_presses(plan), team_of(1, 1, 4)), tmp_path, clock)
    do_all(run, clock)
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    at = write_down(plan, run.cards, record_of(run), store, worked=True)
    assert at.startswith("20")
    (entry,) = CutBook(store).entries()
    assert (entry.job, entry.what) == (plan.job.title, "press")
    (made,) = MadeBook(store).entries()
    assert (made.title, made.verdict, made.has_job) == (plan.job.title, "good", True)
    assert "press layer 2" in entry.said
    results = PressBook(store).results()
    assert {one.film for one in results} == {"scarlet", "blue"}
    assert all(one.worked and one.at and one.fabric == "cotton" for one in results)


def test_film_that_lifted_is_pressed_as_long_as_it_took_from_the_next_job_on(tmp_path, clock):
    """The bench counts the times, the log keeps them, and twice is enough to propose it."""
    store = WorkshopStore(tmp_path / "workshop.sqlite")
    workshop = standard_workshop()
    for number in (1, 2):
        plan = plan_of(1)
        run = PressRun(quick_cards(run_presses(plan), team_of(1, 1, 4)), tmp_path / str(number), clock)
        lifted = set()
        while not run.is_over:
            card = run.card
            if card.step.kind == "peel" and card.id not in lifted:
                lifted.add(card.id)
                run.lifts()
                clock.later(60.0)
                continue
            run.go_on()
            clock.later(600.0)
        assert set(lifted_films(run).values()) == {1}
        write_down(plan, run.cards, record_of(run), store, worked=True, lifted=lifted_films(run))
    book = with_books(workshop, store)
    proposed = derive(plan.job, book)
    for work in proposed.presses[0].works:
        for piece in work.pieces:
            before = next(one for w in plan.presses[0].works for one in w.pieces if one.key == piece.key).setting
            assert piece.setting.recipe.origin == "learned"
            assert piece.setting.full_s == before.full_s + press_numbers().times.lifts_s
            assert piece.setting.back_s == before.back_s
            assert "2 lifted" in piece.setting.recipe.source
    MadeBook(store).change(1, washes=6)
    assert "6 washes survived" in learned_of(derive(plan.job, with_books(workshop, store))).source
    MadeBook(store).change(2, verdict="spoiled", washes=1)
    assert learned_of(derive(plan.job, with_books(workshop, store))) is None, "what came off in the wash did not hold"


def learned_of(plan):
    recipe = plan.presses[0].works[0].pieces[0].setting.recipe
    return recipe if recipe.origin == "learned" else None


def test_nothing_to_press_has_no_cards(tmp_path, clock):
    run = PressRun((), tmp_path, clock)
    assert run.card is None
    assert not run.is_over
    assert not run.go_on()


def test_what_is_left_is_planned_anew_and_kept_in_that_order(tmp_path, clock):
    run = run_of(tmp_path, clock, 3, *LONG)
    while not [timer for timer in run.timers.all if "cool" in timer.name]:
        run.go_on()
        clock.later(6.0)
    works = works_left(run)
    assert [work.name for work in works] == [str(n) for n in dict.fromkeys(card.number for card in run.cards[run.at :])]
    cooling = [timer for timer in run.timers.all if "cool" in timer.name and timer.left_s(clock()) > 0]
    assert len(cooling) == 1
    assert sum(work.tasks[0].needs[0].resource == "cooling" for work in works) == len(cooling)
    found = plan_work(works, team_of(1, 1, 4), seconds=1)
    order = cards_left(run, found)
    assert sorted(card.id for card in order) == sorted(card.id for card in run.cards[run.at :])
    for number in (1, 2, 3):
        mine = [card.step_index for card in order if card.number == number and card.step.kind != "care"]
        assert mine == sorted(mine)
    run.take_order(order)
    run.take_order(order[1:])
    again = PressRun(run_of(tmp_path / "other", clock, 3, *LONG).cards, tmp_path, clock)
    assert [card.id for card in again.cards] == [card.id for card in run.cards]
    assert again.at == run.at
